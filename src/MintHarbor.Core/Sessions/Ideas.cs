using System.Globalization;

namespace MintHarbor.Core.Sessions;

/// <summary>What a timetable promises in one sentence: said only where it is kept.</summary>
internal static class Ideas
{
    /// <summary>What a timetable is for, and what it leaves out for that.</summary>
    public static (string Idea, string GivesUp) Of(PlanShape? shape, PlanRequest r, IReadOnlyList<PlanItem> items, double longest)
    {
        var work = items.Where(i => i.Kind == ItemKind.Exercise).ToList();
        var shorts = work.Where(IsShort).Sum(i => i.Poses);
        var drawings = work.Where(i => i.Period <= 1).Sum(i => i.IsLong ? 1 : i.Poses);
        if (shape is null)
            return ($"As you laid it: {Say.Plural(drawings, "drawing")}, the longest of {Say.Minutes(longest)}.", "");
        var subject = Subject.Of(r.Wish.Model);
        var pair = Purposes.Of(r.Wish.Purpose).Pair.Select(e => r.Known.GetExercise(e).Name).ToList();
        var studies = Studies(shape, r, work);
        string Said(string text) =>
            string.Format(
                CultureInfo.InvariantCulture,
                text,
                Say.Plural(shorts, subject.Short),
                Say.Minutes(longest),
                drawings,
                pair[0],
                pair[1].ToLowerInvariant(),
                subject.Marks,
                subject.One,
                subject.One + "s"
            );
        var idea = Said(IsKept(shape.Id, r, [.. work.Skip(studies)], items) ? shape.Idea : shape.Plain);
        return (
            studies == 0 ? idea : $"{work[0].Name} first: {char.ToLowerInvariant(idea[0])}{idea[1..]}",
            longest < 40 && shape.Id is "lengthening" or "opener" ? "The long drawing stays at block-in." : Said(shape.GivesUp)
        );
    }

    /// <summary>Lines of what the evening turns to that a long-first evening opens with.</summary>
    private static int Studies(PlanShape shape, PlanRequest r, IReadOnlyList<PlanItem> work) =>
        shape.Approach == Approach.LongFirst ? work.TakeWhile(i => i.Exercise == Purposes.Of(r.Wish.Purpose).Turn).Count() : 0;

    private static bool IsShort(PlanItem i) => !i.IsLong && i.PoseMinutes <= 5;

    /// <summary>Whether the timetable keeps what its shape promises.</summary>
    public static bool IsKept(string shape, PlanRequest r, IReadOnlyList<PlanItem> work, IReadOnlyList<PlanItem> items)
    {
        var series = Programme.Series(items);
        var before = series.Count == 0 ? work : [.. work.TakeWhile(i => !i.IsLong)];
        var after = series.Count == 0 ? [] : work.Skip(before.Count).SkipWhile(i => i.IsLong).ToList();
        return shape switch
        {
            "lengthening" => series.Count == 1 && after.Count == 0 && Rises(before.Select(i => i.PoseMinutes)),
            "again" => series.Count == 0 && InTurn(work, Purposes.Of(r.Wish.Purpose).Pair),
            "growing" => series.Count <= 1 && after.Count == 0 && StretchByStretch(items),
            "opener" => series.Count == 1 && before.Count > 0 && IsShort(before[0]) && after.Count == 0,
            "two" => series.Count == 2
                && (items.FirstOrDefault(i => i.Kind == ItemKind.Break)?.At ?? r.Wish.Minutes / 2.0) is var middle
                && series[0][^1].At < middle
                && series[1][0].At >= middle,
            "bracket" => series.Count == 1 && before.Any(IsShort) && after.Count > 0 && after.All(IsShort),
            "one" => series.Count == 1 && work.All(i => i.IsLong),
            "halves" => series.Count == 2 && series.Min(Minutes) >= 0.35 * work.Sum(i => i.Minutes),
            "memory" => series.Count == 1
                && work[^1].Exercise == Practice.Exercises.WithoutReference
                && work.Where(i => i.Exercise != Practice.Exercises.WithoutReference).All(i => i.IsLong),
            _ => false,
        };
    }

    private static double Minutes(IReadOnlyList<PlanItem> series) => series.Sum(i => i.Minutes);

    private static bool Rises(IEnumerable<double> lengths)
    {
        var all = lengths.ToList();
        return all.Zip(all.Skip(1)).All(p => p.Second >= p.First - 1e-9);
    }

    /// <summary>Each of the two comes twice at least, and nothing else is drawn.</summary>
    private static bool InTurn(IReadOnlyList<PlanItem> work, IReadOnlyList<string> pair)
    {
        if (work.Any(i => !pair.Contains(i.Exercise)))
            return false;
        var runs = new List<string>();
        foreach (var i in work)
            if (runs.Count == 0 || runs[^1] != i.Exercise)
                runs.Add(i.Exercise!);
        return pair.All(e => runs.Count(x => x == e) >= 2);
    }

    /// <summary>No stretch between two rests has shorter drawings than the one before, and the last has longer ones than the first.</summary>
    private static bool StretchByStretch(IReadOnlyList<PlanItem> items)
    {
        var stretches = new List<List<double>> { new() };
        foreach (var i in items)
            if (i.Kind is ItemKind.Rest or ItemKind.Break)
                stretches.Add([]);
            else if (i.Kind == ItemKind.Exercise)
                stretches[^1].Add(i.PoseMinutes);
        var all = stretches.Where(s => s.Count > 0).ToList();
        return all.Count > 1 && all.Zip(all.Skip(1)).All(p => p.Second.Min() >= p.First.Max() - 1e-9) && all[^1].Max() > all[0].Max();
    }
}
