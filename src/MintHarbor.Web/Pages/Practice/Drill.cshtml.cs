using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core;
using MintHarbor.Core.Practice;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Practice;

/// <summary>The drill player: one item, its answer shown on the picture, then the next. Saved after every answer.</summary>
[For(CourseRole.Student)]
public sealed class DrillModel(CourseScope scope, PracticeActions practice) : CoursePage(scope), IShowsProblems
{
    public DrillRound Round => Scope.Round!;
    public Drill Drill => Drills.Get(Round.Kind);
    public IReadOnlyList<(DrillItem Item, DrillScore Score, double Answer, double Difficulty)> Done { get; private set; } = [];
    public DrillItem? Next { get; private set; }
    public (DrillItem Item, DrillScore Score, double Answer, double Difficulty)? Shown { get; private set; }
    public List<Note> Notes { get; } = [];
    public IReadOnlyList<double> Errors => [.. Done.TakeLast(3).Select(d => d.Score.Error)];
    public string Where =>
        Shown is null && Next is null
            ? $"{Done.Count(d => d.Score.Correct)} of {Drill.RoundLength} right"
            : $"{Ordinal(Shown is null ? Done.Count : Done.Count - 1)} of ten";

    public void OnGet(int? shown)
    {
        Load();
        if (shown is { } n && n >= 0 && n < Done.Count)
            Shown = Done[n];
    }

    /// <param name="path">The drawn line, for a drill that is answered by one.</param>
    public async Task<IActionResult> OnPostAnswerAsync(int number, double value, string? path)
    {
        if (Drill is DrawnDrill drawn && Round.State.Replay().Next is { } asked)
            value = drawn.Apart(asked, DrawnDrill.Read(path));
        await practice.Answer(Round, number, value);
        return To($"practice/drill/{Round.Id}?shown={number}");
    }

    private void Load()
    {
        (Done, Next, var difficulty) = Round.State.Replay();
        if (Round.State.Finished)
        {
            var (bias, spread) = (Round.Bias ?? 0, Round.Spread ?? 0);
            Notes.Add(
                new(
                    Math.Abs(bias) > Drill.Allowed(1, Round.State.Limit) ? "near" : "holds",
                    $"On the whole {Drill.SayError(bias)}: your lean.",
                    null,
                    "mean of the signed errors"
                )
            );
            Notes.Add(
                new(
                    "holds",
                    $"Scatter *{Drill.SayWidth(spread)}* about it.",
                    null,
                    "standard deviation of the errors about their mean (n − 1)"
                )
            );
            Notes.Add(
                new(
                    "holds",
                    $"The next round begins where right means within *{Drill.SayWidth(Drill.Allowed(difficulty, Round.State.Limit))}*.",
                    null,
                    "one step easier after a miss, one harder after two right in a row; settles where 70.7 % are right (Levitt 1971)"
                )
            );
        }
        else
            Notes.Add(new("holds", $"Right within *{Drill.SayWidth(Drill.Allowed(difficulty, Round.State.Limit))}* now. {Drill.How}"));
    }

    private static string Ordinal(int n) =>
        n switch
        {
            0 => "first",
            1 => "second",
            2 => "third",
            3 => "fourth",
            4 => "fifth",
            5 => "sixth",
            6 => "seventh",
            7 => "eighth",
            8 => "ninth",
            _ => "tenth",
        };

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        Load();
        return Task.FromResult<IActionResult>(Page());
    }
}
