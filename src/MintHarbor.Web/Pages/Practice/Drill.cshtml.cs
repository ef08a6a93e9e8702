using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Practice;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Practice;

/// <summary>The drill player: one item, its answer shown on the picture, then the next. Saved after every answer.</summary>
[For(CourseRole.Student)]
public sealed class DrillModel(CourseScope scope, HarborContext db, PracticeActions practice, FigureViews views)
    : CoursePage(scope),
        IShowsProblems
{
    /// <summary>How a field to draw in is told to who can't see it.</summary>
    public const string FieldLabel = "The field: draw with finger, pen or mouse; or move by arrows and set places by space";

    /// <summary>Where a view's picture in tone is.</summary>
    public string Toned(StudioView view) => ThingAddress.Of(view, FigureViewKind.Tone).For(Course.Id);

    public DrillRound Round => Scope.Round!;
    public Drill Drill => Drills.Get(Round.Kind);
    public IReadOnlyList<(DrillItem Item, DrillScore Score, double Answer, double Difficulty)> Done { get; private set; } = [];
    public DrillItem? Next { get; private set; }
    public (DrillItem Item, DrillScore Score, double Answer, double Difficulty)? Shown { get; private set; }

    /// <summary>What was drawn for the item that is shown, and what was read of it.</summary>
    public (PenTrace Trace, HandReading Reading)? Drawn { get; private set; }
    public List<Note> Notes { get; } = [];
    public IReadOnlyList<double> Errors => [.. Done.TakeLast(3).Select(d => d.Score.Error)];
    public string Where =>
        Shown is null && Next is null
            ? $"{Done.Count(d => d.Score.Correct)} of {Drill.Length} right"
            : $"{Ordinal(Shown is null ? Done.Count : Done.Count - 1)} of {Counted(Drill.Length)}";

    public async Task OnGetAsync(int? shown)
    {
        Load();
        if (Next is not null && Stages.Trained(Drill.Kind) is { } measure)
        {
            var stage = await db
                .StageMoves.Where(m => m.CourseId == Course.Id && m.StudentId == Me.PersonId && m.Measure == measure.Id)
                .OrderByDescending(m => m.At)
                .ThenByDescending(m => m.Id)
                .Select(m => (MeasuringStage?)m.To)
                .FirstOrDefaultAsync();
            var stands = stage ?? MeasuringStage.ByTool;
            Notes.Add(new("holds", $"Your {measure.Name} stands *{Stages.Name(stands)}*. {Stages.How(measure, stands)}"));
        }
        if (shown is not { } n || n < 0 || n >= Done.Count)
            return;
        Shown = Done[n];
        if (Drill is HandDrill && await db.DrawnAnswers.FindAsync(Round.Id, n) is { } drawn)
        {
            Drawn = (PenTrace.Read(drawn.Trace), drawn.Reading);
            Notes.Clear();
            Notes.AddRange(drawn.Reading.Facts.Select(Noted));
        }
    }

    /// <summary>An answer as it is said: a choice by its words.</summary>
    public string Said(DrillItem item, double value) =>
        item.Anatomy is { Choices: { Count: > 0 } choices } ? choices[Math.Clamp((int)value, 0, choices.Count - 1)] : Drill.SayValue(value);

    /// <summary>A view of the figure that a task of anatomy is asked on; what is under the skin where it is to be named.</summary>
    public string ViewOf(AnatomyTask task, bool answered) =>
        new FigureAddress
        {
            Pose = task.Pose,
            Body = AnatomySeen.Body,
            Kind =
                task.Ask == AnatomyAsk.MuscleName ? FigureViewKind.Muscles
                : task.Ask == AnatomyAsk.BoneName || answered ? FigureViewKind.Bones
                : FigureViewKind.Line,
            Seat = AnatomySeen.Seat(task.At),
            Garment = Course.Minors,
        }.For(Course.Id);

    /// <summary>One of the two drawings that an item asks about, 0 the left: nothing in its address tells which is wrong.</summary>
    public async Task<IActionResult> OnGetPictureAsync(int number, int part)
    {
        var items = Round.State.Items;
        if (
            number < 0
            || number >= items.Count
            || items[number].Anatomy is not { Ask: AnatomyAsk.BodyMistake or AnatomyAsk.HeadMistake } task
        )
            return NotFound();
        var answered = number < Round.State.Answers.Count;
        var wrong = part == (int)items[number].Truth.Value;
        var (bytes, type) = await views.Pair(task, Drapery.For(Course.Minors, Course.Minors), wrong, answered);
        return File(bytes, type);
    }

    /// <summary>A fact in the margin: its number, whether it is as asked, what it is.</summary>
    private static Note Noted(HandFact f)
    {
        var m = HandMeasures.Get(f.Measure);
        var within = f.Doubt > 0 ? $"known within {m.SayWidth(f.Doubt)}, by what was drawn with" : "";
        string[] why = [m.Means, within];
        return new(
            f.Holds == false ? "outside" : "holds",
            $"{char.ToUpperInvariant(m.Name[0])}{m.Name[1..]}: *{m.Say(f.Value)}*.",
            null,
            why.Any(w => w != "") ? string.Join("; ", why.Where(w => w != "")) : null
        );
    }

    /// <param name="path">The drawn line, for a drill that is answered by one on the picture; <paramref name="trace"/> for one of the hand.</param>
    public async Task<IActionResult> OnPostAnswerAsync(int number, double value, string? path, string? trace)
    {
        if (Drill is HandDrill)
        {
            await practice.Draw(Round, number, trace);
            return To($"practice/drill/{Round.Id}?shown={number}");
        }
        if (Round.State.Replay().Next is { } asked)
            value = Drill.Given(asked, value, path);
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
                    Math.Abs(bias) > Drill.Allowed(1, Round.State.Holds) ? "near" : "holds",
                    $"On the whole {Drill.SayError(bias)}{(Drill.Signed ? ": your lean" : "")}.",
                    null,
                    "mean of the signed errors"
                )
            );
            if (Drill is not ChoiceDrill)
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
                    Drill is ChoiceDrill
                        ? "The next round begins as fine as this one ended."
                        : $"The next round begins where right means within *{Drill.SayWidth(Drill.Allowed(difficulty, Round.State.Holds))}*.",
                    null,
                    "one step easier after a miss, one harder after two right in a row; settles where 70.7 % are right (Levitt 1971)"
                )
            );
        }
        else
            Notes.Add(new("holds", $"{Drill.SayRight(Drill.Allowed(difficulty, Round.State.Holds))} {Drill.How}"));
    }

    private static string Counted(int n) =>
        n switch
        {
            2 => "two",
            3 => "three",
            4 => "four",
            5 => "five",
            6 => "six",
            10 => "ten",
            _ => $"{n}",
        };

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
