using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Sessions;

/// <summary>Proves a timetable against the rules of time and rest: every rule is returned with its worst value and its
/// limit, whether it holds or not. Reads the items only, never how they were made.</summary>
public static class RestRules
{
    private const double Tiny = 1e-9;

    private sealed record Run(double At, double Minutes, Strain Strain)
    {
        public double End => At + Minutes;
    }

    public static IReadOnlyList<RuleFact> Prove(IReadOnlyList<PlanItem> items, PlanRequest request, TimingRules? rules = null)
    {
        rules ??= request.Known.Rules;
        var facts = new List<RuleFact> { Sum(items, request) };
        var runs = items.Where(i => i.Posed).SelectMany(i => i.PoseRuns().Select(r => new Run(r.At, r.Minutes, r.Strain))).ToList();
        facts.Add(Stretch(items, runs, rules));
        facts.AddRange(Strains(items, runs, rules));
        facts.Add(Hour(runs, rules));
        if (Changes(items, request, rules) is { } changes)
            facts.Add(changes);
        facts.Add(Break(items, request, rules));
        facts.Add(AtLeast("set-up", "Set-up", items, ItemKind.SetUp, rules.SetUpMin));
        if (request.Wish.Minutes >= rules.ReviewFromMinutes)
            facts.Add(AtLeast("review", "Review on the wall", items, ItemKind.Review, rules.ReviewMin));
        facts.Add(AtLeast("pack-up", "Packing up", items, ItemKind.PackUp, rules.PackUpMin));
        facts.Add(Purposes.Prove(items, request));
        if (request.Known.Who is { } who && request.Wish.HasLiveModel)
            facts.Add(who.Prove(items, request));
        if (request.Known.Minors)
            facts.Add(Minors(items, request));
        if (request.Wish.Approach == Approach.LongFirst && request.Known.Rung is not null)
            facts.Add(Rung(items, request));
        return facts;
    }

    private static RuleFact Sum(IReadOnlyList<PlanItem> items, PlanRequest request)
    {
        double at = 0,
            gap = 0;
        double? from = null;
        foreach (var i in items)
        {
            if (Math.Abs(i.At - at) > Tiny && from is null)
                (gap, from) = (i.At - at, at);
            at = i.End;
        }
        var total = items.Sum(i => i.Minutes);
        var holds = from is null && Math.Abs(total - request.Wish.Minutes) < Tiny;
        return new(
            "sum",
            holds,
            total,
            request.Wish.Minutes,
            "min",
            from,
            holds ? $"The minutes add up: {Say.Number(total, 1)} of {request.Wish.Minutes}."
                : from is null ? $"The minutes add up to {Say.Number(total, 1)}, not {request.Wish.Minutes}."
                : $"At minute {Say.Number(from.Value, 1)} {(gap > 0 ? "nothing is planned for" : "two items overlap by")} {Say.Minutes(Math.Abs(gap))}."
        )
        {
            Because = string.Join(" + ", items.Select(i => Say.Number(i.Minutes, 1))) + $" = {Say.Number(total, 1)} min",
        };
    }

    private static bool Breaks(PlanItem i, TimingRules rules) =>
        i.Kind is ItemKind.Rest or ItemKind.Break && i.Minutes >= rules.RestMinutes - Tiny;

    private static RuleFact Stretch(IReadOnlyList<PlanItem> items, List<Run> runs, TimingRules rules)
    {
        double used = 0,
            start = 0,
            worst = 0;
        double? from = null;
        foreach (var i in items)
        {
            if (Breaks(i, rules))
                used = 0;
            if (!i.Posed)
                continue;
            if (used == 0)
                start = i.At;
            used += i.Minutes;
            if (used > worst + Tiny)
                (worst, from) = (used, start);
        }
        var holds = worst <= rules.StretchMinutes + Tiny;
        return new(
            "rest-stretch",
            holds,
            worst,
            rules.StretchMinutes,
            "min",
            runs.Count == 0 ? null : from,
            runs.Count == 0
                ? "Nobody poses; the drawing hand rests all the same."
                : $"Longest stretch {Say.Minutes(worst)}; the limit is {Say.Number(rules.StretchMinutes)}."
        )
        {
            Because =
                $"posed minutes not broken by a rest of {Say.Number(rules.RestMinutes)} min or more ≤ {Say.Number(rules.StretchMinutes)}; {rules.Source}",
        };
    }

    private static IEnumerable<RuleFact> Strains(IReadOnlyList<PlanItem> items, List<Run> runs, TimingRules rules)
    {
        foreach (var limit in rules.Strains)
        {
            if (!runs.Any(r => r.Strain == limit.Id))
                continue;
            double used = 0,
                start = 0,
                worst = 0;
            double? from = null;
            // An easier pose or a rest ends the count; set-up, standing back and review do not, to be on the model's side.
            foreach (var i in items)
            {
                if (rules.EndsStrain(i))
                    used = 0;
                if (!i.Posed)
                    continue;
                foreach (var r in i.PoseRuns())
                {
                    if (r.Strain < limit.Id)
                    {
                        used = 0;
                        continue;
                    }
                    if (used == 0)
                        start = r.At;
                    used += r.Minutes;
                    if (used > worst + Tiny)
                        (worst, from) = (used, start);
                }
            }
            yield return new(
                "rest-strain",
                worst <= limit.LimitMinutes + Tiny,
                worst,
                limit.LimitMinutes,
                "min",
                from,
                $"{Capital(limit.Name)} {Say.Number(worst, 1)} of {Say.Minutes(limit.LimitMinutes)} on end."
            )
            {
                Because =
                    $"minutes on end {limit.Name} or harder ≤ {Say.Number(limit.LimitMinutes)}; "
                    + $"an easier pose or a rest of {Say.Number(rules.StrainRestMinutes)} min or more ends the count; {limit.Reason}; {rules.Source}",
            };
        }
    }

    private static RuleFact Hour(List<Run> runs, TimingRules rules)
    {
        // The posed time in a window of an hour is piecewise linear in its start, so its greatest value
        // is reached where a window begins at a run's start or ends at a run's end.
        // Poses that follow at once are one run here.
        var joined = new List<Run>();
        foreach (var r in runs)
        {
            if (joined is [.., var last] && Math.Abs(last.End - r.At) < Tiny)
                joined[^1] = last with { Minutes = r.End - last.At };
            else
                joined.Add(r);
        }
        double worst = 0;
        double? from = null;
        foreach (var start in joined.SelectMany(r => new[] { r.At, r.End - 60 }))
        {
            var posed = joined.Sum(r => Math.Max(0, Math.Min(r.End, start + 60) - Math.Max(r.At, start)));
            if (posed > worst + Tiny)
                (worst, from) = (posed, Math.Max(0, start));
        }
        return new(
            "rest-hour",
            worst <= rules.HourPosedMinutes + Tiny,
            worst,
            rules.HourPosedMinutes,
            "min",
            from,
            runs.Count == 0 ? "Nobody poses." : $"Posed in any hour {Say.Minutes(worst)} at most, of {Say.Number(rules.HourPosedMinutes)}."
        )
        {
            Because = $"greatest posed time in any 60 minutes ≤ {Say.Number(rules.HourPosedMinutes)}; {rules.Source}",
        };
    }

    /// <summary>Changing from pose to pose comes out of the poses: how much, and what is left of the pose that loses the most of its own. A rest between two
    /// is time enough to change. Null where nothing is changed.</summary>
    private static RuleFact? Changes(IReadOnlyList<PlanItem> items, PlanRequest request, TimingRules rules)
    {
        var changes = new List<(double At, double Seconds, double Of)>();
        Footing? before = null;
        string? pose = null;
        foreach (var i in items)
        {
            if (rules.EndsStrain(i))
                (before, pose) = (null, null);
            if (!i.Posed)
                continue;
            foreach (var run in i.PoseRuns())
            {
                var ground = PoseLibrary.Find(run.PoseId, request)?.Footing ?? Footing.Feet;
                if (before is { } was && run.PoseId != pose)
                    changes.Add((run.At, was == ground ? rules.ChangeSeconds : rules.GroundSeconds, 60 * run.Minutes));
                (before, pose) = (ground, run.PoseId);
            }
        }
        if (changes.Count == 0)
            return null;
        var worst = changes.MaxBy(c => c.Seconds / c.Of);
        var counts = changes.GroupBy(c => c.Seconds).OrderBy(g => g.Key).Select(g => $"{g.Count()} × {Say.Number(g.Key)} s");
        return new(
            "changeover",
            worst.Seconds <= worst.Of / 2 + Tiny,
            worst.Seconds,
            worst.Of / 2,
            "s",
            worst.At,
            $"Changing takes up to {Say.Number(worst.Seconds)} s of a pose of {Say.Minutes(worst.Of / 60)}; "
                + $"all changes {Say.Number(changes.Sum(c => c.Seconds) / 60, 1)} min of what is posed: {Say.List([.. counts])}."
        )
        {
            Because =
                $"{Say.Number(rules.ChangeSeconds)} s from pose to pose, {Say.Number(rules.GroundSeconds)} s to or from the floor, a stool or a block, "
                + $"out of the later pose; at least half of each is held; a rest of {Say.Number(rules.StrainRestMinutes)} min or more between two is time enough; {rules.Source}",
        };
    }

    private static RuleFact Break(IReadOnlyList<PlanItem> items, PlanRequest request, TimingRules rules)
    {
        if (rules.Long(request.Wish))
            return LongBreak(items, rules);
        if (request.Wish.Minutes <= rules.BreakOverMinutes)
            return new("break", true, 0, 0, "min", null, $"No break needed up to {Say.Minutes(rules.BreakOverMinutes)}.");
        var fit = items
            .Where(i => i.Kind == ItemKind.Break)
            .Select(i => (Item: i, Centre: (i.At + (i.Minutes / 2)) / request.Wish.Minutes))
            .ToList();
        var good = fit.Where(b =>
                b.Item.Minutes >= rules.BreakMinMinutes - Tiny
                && b.Item.Minutes <= rules.BreakMaxMinutes + Tiny
                && b.Centre >= rules.BreakFrom - Tiny
                && b.Centre <= rules.BreakTo + Tiny
            )
            .Select(b => b.Item)
            .FirstOrDefault();
        var shown = good ?? fit.Select(b => b.Item).FirstOrDefault();
        var (least, most) = (Say.Number(rules.BreakMinMinutes), rules.BreakMaxMinutes);
        var (from, to) = (Say.Number(100 * rules.BreakFrom), Say.Number(100 * rules.BreakTo));
        var middle = shown is null ? "" : Say.Number(100 * (shown.At + (shown.Minutes / 2)) / request.Wish.Minutes);
        var says =
            good is not null ? $"Break of {Say.Minutes(good.Minutes)}, its middle at {middle} % of the meeting."
            : shown is null ? $"A meeting over {Say.Minutes(rules.BreakOverMinutes)} has a break, and this one has none."
            : $"The break of {Say.Minutes(shown.Minutes)} has its middle at {middle} %; "
                + $"{least} to {Say.Minutes(most)} between {from} and {to} % is wanted.";
        return new("break", good is not null, shown?.Minutes ?? 0, rules.BreakMinMinutes, "min", shown?.At, says)
        {
            Because =
                $"over {Say.Number(rules.BreakOverMinutes)} min: {least}–{Say.Number(most)} min, centre between {from} and {to} %; {rules.Source}",
        };
    }

    /// <summary>A long day with a model: one break long enough for a meal, or several of a quarter of an hour.</summary>
    private static RuleFact LongBreak(IReadOnlyList<PlanItem> items, TimingRules rules)
    {
        var breaks = items.Where(i => i.Kind == ItemKind.Break).ToList();
        var meal = breaks.FirstOrDefault(b => b.Minutes >= rules.MealMinutes - Tiny);
        var quarters = breaks.Count(b => b.Minutes >= rules.LongBreakMinutes - Tiny);
        var longest = breaks.MaxBy(b => b.Minutes);
        var wanted =
            $"over {Say.Minutes(rules.LongOverMinutes)} with a model a meal of {Say.Number(rules.MealMinutes)} "
            + $"or {rules.LongBreaks} breaks of {Say.Number(rules.LongBreakMinutes)} is wanted";
        return new(
            "break",
            meal is not null || quarters >= rules.LongBreaks,
            longest?.Minutes ?? 0,
            rules.MealMinutes,
            "min",
            (meal ?? longest)?.At,
            meal is not null ? $"A meal of {Say.Minutes(meal.Minutes)}."
                : quarters >= rules.LongBreaks ? $"{Say.Plural(quarters, "break")} of {Say.Minutes(rules.LongBreakMinutes)} or more."
                : longest is null ? $"There is no break; {wanted}."
                : $"The longest break is {Say.Minutes(longest.Minutes)}; {wanted}."
        )
        {
            Because = $"{wanted}; {rules.Source}",
        };
    }

    private static RuleFact AtLeast(string id, string name, IReadOnlyList<PlanItem> items, ItemKind kind, double least)
    {
        var found = items.Where(i => i.Kind == kind).ToList();
        var minutes = found.Sum(i => i.Minutes);
        return new(
            id,
            minutes >= least - Tiny,
            minutes,
            least,
            "min",
            found.FirstOrDefault()?.At,
            $"{name} {Say.Minutes(minutes)}; {Say.Number(least)} at least."
        );
    }

    private static RuleFact Minors(IReadOnlyList<PlanItem> items, PlanRequest request)
    {
        var bare = items.FirstOrDefault(i => i.Posed && !i.Draped);
        return new(
            "minors",
            bare is null,
            bare is null ? 0 : 1,
            0,
            "undraped poses",
            bare?.At,
            bare is null
                ? "Under 18: every pose is clothed."
                : $"{bare.Name} is undraped; in a course under 18 only clothed poses, casts and still lifes are allowed."
        );
    }

    /// <summary>Nothing shorter than the rung's least is drawn, the periods of one pose counted together, and nobody sits
    /// whom the rung does not open. A meeting too short for the rung's least holds with one subject throughout.</summary>
    private static RuleFact Rung(IReadOnlyList<PlanItem> items, PlanRequest request)
    {
        var rung = Ladder.Default.Get(request.Known.Rung!);
        var drawn = items.Where(i => i.Kind == ItemKind.Exercise && (i.Catalogue?.NeedsSubject ?? true)).ToList();
        var lengths = Programme
            .Series(drawn)
            .Select(s => (Item: s[0], Minutes: s.Sum(i => i.Minutes)))
            .Concat(drawn.Where(i => i.Period == 0).Select(i => (Item: i, Minutes: i.PoseMinutes)))
            .ToList();
        var shortest = lengths.OrderBy(l => l.Minutes).FirstOrDefault();
        var least = Math.Min(rung.LeastMinutes, drawn.Sum(i => i.Minutes));
        var open = !request.Wish.HasLiveModel || rung.Live;
        var holds = open && (shortest.Item is null || shortest.Minutes >= least - Tiny);
        return new(
            "rung",
            holds,
            shortest.Minutes,
            least,
            "min",
            holds ? null : shortest.Item?.At,
            !open ? $"The rung '{rung.Name}' draws casts and objects; a live model is not open yet."
                : holds ? $"On the rung '{rung.Name}' this meeting is open: nothing under {Say.Minutes(least)}."
                : $"{shortest.Item!.Name} of {Say.Minutes(shortest.Minutes)} lies under the rung '{rung.Name}': {Say.Minutes(least)} at least."
        )
        {
            Because = $"shortest pose, the periods of one counted together ≥ {Say.Number(least, 1)} min; {Ladder.Default.Source}",
        };
    }

    private static string Capital(string s) => char.ToUpperInvariant(s[0]) + s[1..];
}
