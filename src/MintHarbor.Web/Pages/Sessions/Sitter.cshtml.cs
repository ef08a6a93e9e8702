using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>One model's page in the book.</summary>
[For(CourseRole.Instructor)]
public sealed class SitterModel(CourseScope scope, ModelActions models, IClock clock) : CoursePage(scope), IShowsProblems
{
    public BookedModel Sitter => Scope.Sitter!;
    public IReadOnlyList<ModelBooking> Coming { get; private set; } = [];
    public IReadOnlyList<(string PoseId, int Times, LocalDate Last)> Held { get; private set; } = [];

    public async Task OnGetAsync()
    {
        var today = Words.Today(Course, clock.GetCurrentInstant());
        var all = await models.Of(Sitter.Id, today.PlusYears(-1));
        Coming = [.. all.Where(b => b.Meeting.Date >= today)];
        Held = [.. ModelActions.Held(all.Where(b => b.Meeting.Date < today)).Take(16)];
    }

    public async Task<IActionResult> OnPostAsync(
        string? name,
        Dictionary<string, string> wish,
        double ease,
        string? note,
        double? rate,
        double posedRate,
        uint? version
    )
    {
        var (gladly, not) = Wishes.Read(wish);
        await models.Change(Sitter, new(name, gladly, not, ease, note, rate, posedRate), Me.Person.Name, version);
        return To($"models/{Sitter.Id}");
    }

    public async Task<IActionResult> OnPostLinkAsync()
    {
        await models.RenewLink(Sitter);
        return To($"models/{Sitter.Id}");
    }

    public async Task<IActionResult> OnPostOutAsync()
    {
        await models.TakeOut(Sitter, Words.Today(Course, clock.GetCurrentInstant()));
        return To("models");
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await OnGetAsync();
        return Page();
    }
}

/// <summary>What a model holds gladly and not, as the two forms send it and pages say it.</summary>
public static class Wishes
{
    public const string Gladly = "gladly",
        Not = "not";

    public static (List<string> Gladly, List<string> Not) Read(IReadOnlyDictionary<string, string> wish) =>
        ([.. wish.Where(w => w.Value == Gladly).Select(w => w.Key)], [.. wish.Where(w => w.Value == Not).Select(w => w.Key)]);

    public static string Said(IReadOnlyCollection<string> wishes, string none) =>
        wishes.Count == 0 ? none : Core.Say.List([.. ModelOfDay.Wishes.Where(w => wishes.Contains(w.Id)).Select(w => w.Name)]);
}
