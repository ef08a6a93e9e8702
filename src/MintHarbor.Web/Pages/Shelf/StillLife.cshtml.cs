using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Objects;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;

namespace MintHarbor.Web.Pages.Shelf;

/// <summary>One arrangement: turned, lit and measured by everyone; set up by instructor and assistant, kept for the course by the instructor.</summary>
public sealed class StillLifeModel(CourseScope scope, ThingActions things, ThingViews views) : CoursePage(scope), IShowsProblems
{
    public const string New = "new";

    public string Key => RouteData.Values["things"]?.ToString() ?? "";
    public string Title { get; private set; } = "";
    public string Name { get; private set; } = "";
    public bool Own { get; private set; }
    public bool Staff => !Scope.IsStudent;
    public ThingAddress Address { get; private set; } = new();
    public ThingReadout Readout { get; private set; } = null!;
    public string Path => $"/courses/{Course.Id}/shelf/things/{Key}";

    public async Task<IActionResult> OnGetAsync() => await Load(Request.Query) ? Page() : NotFound();

    /// <summary>What stands beside the picture, for the seat and the things as they have come to rest.</summary>
    public async Task<IActionResult> OnGetReadoutAsync() =>
        await Load(Request.Query) ? Partial("Shelf/_ThingReadout", Readout) : NotFound();

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostSaveAsync(string? name, string? state)
    {
        if (!await Load(FigureAddress.State(state ?? "")))
            return NotFound();
        Name = name ?? "";
        var key = await things.Keep(Course, Readout.Arrangement, Address.Seat, Address.Lamp, Name, Me.Person.Name);
        return Redirect($"/courses/{Course.Id}/shelf/things/{key}");
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostRemoveAsync()
    {
        await things.Remove(Course, Key);
        return Redirect($"/courses/{Course.Id}/shelf/things");
    }

    private async Task<bool> Load(IQueryCollection query)
    {
        var kept = Key == New ? null : await things.Find(Course.Id, Key);
        if (kept is null && (Key != New || !Staff))
            return false;
        (Title, Own) = (kept?.Arrangement.Name ?? "A new still life", kept?.Own == true);
        Title = char.ToUpperInvariant(Title[0]) + Title[1..];
        Address = query.ContainsKey("a") ? ThingAddress.Read(query) : First(kept);
        Address = Address with { Width = StillLife.Size, Height = StillLife.Size, Preview = false, Blue = false };
        Readout = ThingReadout.Of(Address, views);
        return true;
    }

    /// <summary>As it was kept; a new one begins with a block.</summary>
    private static ThingAddress First(KeptArrangement? kept) =>
        kept is null
            ? new()
            : new()
            {
                Things = kept.Arrangement.Write(),
                Seat = kept.Seat,
                Lamp = kept.Lamp,
            };

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        var typed = Request.HasFormContentType ? Request.Form : null;
        Name = typed?["name"].ToString() ?? "";
        try
        {
            return await Load(FigureAddress.State(typed?["state"].ToString() ?? "")) ? Page() : NotFound();
        }
        catch (InputException)
        {
            // The address itself is what can't be read: the arrangement as it was kept, then.
            return await Load(QueryCollection.Empty) ? Page() : NotFound();
        }
    }
}
