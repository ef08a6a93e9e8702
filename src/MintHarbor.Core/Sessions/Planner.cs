using MintHarbor.Core.Figure;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Sessions;

/// <summary>Computes a timetable. The frame (set-up, break, review, packing up) and whatever the instructor holds are laid
/// down first; the gaps between are cut into stretches and rests by arithmetic (<see cref="Stretches"/>), filled with
/// exercises by shape and purpose (<see cref="Programme"/>), and given poses whose strain keeps its limit
/// (<see cref="PoseAssigner"/>). The result is proved by <see cref="RestRules"/>; what fails is returned as a reason, never as a
/// timetable. The same request gives the same answer.</summary>
public static class Planner
{
    public const int LeastMinutes = 30,
        MostMinutes = 480,
        MostStudents = 60;

    /// <summary>Three different timetables, or one where the request names a shape or is laid by hand. Fewer where the evening is
    /// too short for them to differ, or where one can't keep the rules.</summary>
    /// <exception cref="InputException">A field is outside what is accepted.</exception>
    public static PlanResult Plan(PlanRequest request, TimingRules? rules = null)
    {
        rules ??= request.Known.Rules;
        Check(request, rules);
        var refused = Refusals(request, rules).ToList();
        if (refused.Count > 0)
            return new([], refused);
        if (request.Laid.Count > 0)
        {
            var laid = Lay(request, rules);
            return laid.Holds ? new([laid], []) : new([], Broken(laid.Rules));
        }
        var proposals = new List<Proposal>();
        List<Cannot>? first = null;
        foreach (var shape in request.Wish.Shape is { } id ? [Shapes.Get(id, request.Wish.Approach)] : Shapes.Of(request.Wish.Approach))
        {
            var (proposal, cannot) = Build(request.Wishing(w => w with { Shape = shape.Id }), shape, rules);
            if (proposal is null)
                first ??= cannot;
            else if (proposals.All(p => Apart(p, proposal) >= LeastApart))
                proposals.Add(proposal);
        }
        return proposals.Count > 0 ? new(proposals, []) : new([], first ?? [TooShort(request)]);
    }

    /// <summary>A timetable laid by hand, proved: what it breaks stands among its rules.</summary>
    public static Proposal Lay(PlanRequest request, TimingRules? rules = null)
    {
        rules ??= request.Known.Rules;
        var items = new PoseAssigner(request, rules).Assign(Programme.Lay(request));
        items = Programme.Number(items);
        return Programme.Describe(request, null, items, RestRules.Prove(items, request, rules), rules);
    }

    /// <summary>The evening before the break from one timetable, after it from another; the second is planned round the first's break, so
    /// that its minutes fit. Laid as if by hand.</summary>
    /// <exception cref="InputException">No such shape, or a meeting without a break to change over at.</exception>
    public static PlanRequest Mix(PlanRequest request, string before, string after)
    {
        var first = Plan(request.Wishing(w => w with { Shape = before }) with { Laid = [] }).Proposals.FirstOrDefault()
            ?? throw new InputException(
                $"there is no timetable '{before}'",
                "before",
                string.Join(" | ", Shapes.Of(request.Wish.Approach).Select(s => s.Id))
            );
        var pause = first.Items.FirstOrDefault(i => i.Kind == ItemKind.Break)
            ?? throw new InputException(
                "a meeting without a break has nothing to change over at",
                "before",
                $"a meeting of more than {Say.Number(request.Known.Rules.BreakOverMinutes)} min"
            );
        var second = Plan(
            request.Wishing(w => w with { Shape = after }) with
            {
                Laid = [],
                Held = [.. request.Held.Where(l => l.Kind != ItemKind.Break && (l.End <= pause.At || l.At >= pause.End)), pause],
            }
        )
            .Proposals.FirstOrDefault()
            ?? throw new InputException($"the timetable '{after}' does not fit that break", "after", "another timetable");
        // A long pose that went on before the break goes on after it.
        var going = first.Items.LastOrDefault(i => i.IsLong && i.End <= pause.At);
        var later = second
            .Items.Where(i => i.At >= pause.End)
            .Select(i =>
                going is null || !i.IsLong ? i : i with { PoseIds = going.PoseIds, Strains = going.Strains, Facings = going.Facings }
            );
        return request.Wishing(w => w with { Shape = null }).With([.. first.Items.Where(i => i.At <= pause.At), .. later]);
    }

    /// <summary>Whether a timetable holds an exercise that mends what the class's sheets break.</summary>
    public static bool Mends(PlanRequest request, Proposal plan) =>
        plan.Items.Any(i => i.Exercise is not null && Programme.Mending(request).Contains(i.Exercise));

    private static (Proposal? Proposal, List<Cannot>? Cannot) Build(PlanRequest request, PlanShape shape, TimingRules rules)
    {
        List<Cannot>? first = null;
        var framed = false;
        foreach (var frame in Frame.Candidates(request, rules))
        {
            framed = true;
            if (Programme.Fill(request, shape, Stretches.Cut(request, frame, rules)) is not var (filled, missing))
                continue;
            if (missing.Count > 0)
            {
                first ??= missing;
                continue;
            }
            var poses = new PoseAssigner(request, rules);
            var items = Programme.Number(poses.Assign(filled));
            var facts = RestRules.Prove(items, request, rules);
            if (facts.All(f => f.Holds))
                return (
                    Programme.Describe(request, shape, items, facts, rules) with
                    {
                        PosePoints = Math.Round(poses.Points, 6),
                        PoseBound = Math.Round(poses.Bound, 6),
                    },
                    null
                );
            first ??= Broken(facts);
        }
        return (
            null,
            framed
                ? first
                :
                [
                    new(
                        "break",
                        $"No place is left for a break of {(rules.Long(request.Wish) ? Say.Minutes(rules.MealMinutes) : $"{Say.Number(rules.BreakMinMinutes)} to {Say.Minutes(rules.BreakMaxMinutes)}")} with its middle between {Say.Number(100 * rules.BreakFrom)} and {Say.Number(100 * rules.BreakTo)} % of the meeting.",
                        new Dictionary<string, object?>
                        {
                            ["from"] = rules.BreakFrom * request.Wish.Minutes,
                            ["to"] = rules.BreakTo * request.Wish.Minutes,
                        }
                    ),
                ]
        );
    }

    private static Cannot TooShort(PlanRequest r) =>
        new("sum", $"{r.Wish.Minutes} min are too short for this timetable.", new Dictionary<string, object?> { ["minutes"] = 90.0 });

    private static List<Cannot> Broken(IReadOnlyList<RuleFact> facts) =>
        [.. facts.Where(f => !f.Holds).Select(f => new Cannot(f.Id, f.Says, Nearest(f)))];

    /// <summary>Two timetables whose drawn minutes differ in less than this share are one, whoever poses.</summary>
    public const double LeastApart = 0.15;

    /// <summary>The share of the minutes drawn in either in which two timetables draw something else: another exercise, another length of drawing, or
    /// another of several long ones. 0 alike, 1 nothing in common.</summary>
    public static double Apart(Proposal a, Proposal b)
    {
        string?[] first = Cells(a),
            second = Cells(b);
        var drawn = first.Zip(second).Where(c => c.First is not null || c.Second is not null).ToList();
        return drawn.Count == 0 ? 0 : (double)drawn.Count(c => c.First != c.Second) / drawn.Count;
    }

    /// <summary>What is drawn in each half minute; null where nothing is.</summary>
    private static string?[] Cells(Proposal plan)
    {
        var cells = new string?[(int)Math.Ceiling(2 * plan.Items.Max(i => i.End))];
        var series = 0;
        foreach (var i in plan.Items.Where(i => i.Kind == ItemKind.Exercise))
        {
            if (i.Period == 1)
                series++;
            var what = i.IsLong ? $"{i.Exercise} {series}" : $"{i.Exercise} {Math.Round(i.PoseMinutes)} min";
            Array.Fill(cells, what, (int)(2 * i.At), Math.Min(cells.Length - (int)(2 * i.At), (int)Math.Ceiling(2 * i.Minutes)));
        }
        return cells;
    }

    private static Dictionary<string, object?> Nearest(RuleFact f) =>
        new() { [f.Unit == "min" ? "minutes" : "value"] = f.Limit, ["at"] = f.From };

    private static void Check(PlanRequest r, TimingRules rules)
    {
        if (r.Wish.Minutes is < LeastMinutes or > MostMinutes)
            throw new InputException($"a meeting of {r.Wish.Minutes} min can't be planned", "minutes", $"{LeastMinutes} to {MostMinutes}");
        if (r.Wish.Students is < 0 or > MostStudents)
            throw new InputException($"{r.Wish.Students} students", "students", $"0 to {MostStudents}");
        if (r.Known.Rung is not null)
            Ladder.Default.Get(r.Known.Rung);
        if (r.Wish.LongPose is not null)
            Known(r.Wish.LongPose, r, "longPose");
        if (r.Wish.Part is not null && !PoseLibrary.Parts.Contains(r.Wish.Part))
            throw new InputException($"no part '{r.Wish.Part}'", "part", string.Join(" | ", PoseLibrary.Parts));
        if (r.Wish.Medium is not null && !Materials.Media.Contains(r.Wish.Medium))
            throw new InputException($"no medium '{r.Wish.Medium}'", "medium", string.Join(" | ", Materials.Media));
        foreach (
            var (minutes, field) in new[]
            {
                (r.Known.SetUpMinutes, "setUpMinutes"),
                (r.Known.ReviewMinutes, "reviewMinutes"),
                (r.Known.PackUpMinutes, "packUpMinutes"),
            }
        )
            if (minutes is { } m && m is not (>= 5 and <= 60))
                throw new InputException($"{Say.Minutes(m)}", field, "5 to 60 minutes");
        if (r.Known.History.Count > 200 || r.Laid.Count > 200 || r.Held.Count > 200 || r.Known.OwnPoses.Count > 200)
            throw new InputException("too long a list", "history", "200 entries at most");
        Shelves.ShelfCheck.Sound(r.Known);
        CheckLaid(r);
        for (var i = 0; i < r.Wish.Include.Count; i++)
            r.Known.GetExercise(r.Wish.Include[i], $"include[{i}]");
        double end = 0;
        for (var i = 0; i < r.Held.Count; i++)
        {
            var l = r.Held.OrderBy(x => x.At).ElementAt(i);
            if (!double.IsFinite(l.At) || l.At < 0)
                throw new InputException("an item starts before the meeting", $"locked[{i}].at", "0 or more minutes");
            if (!double.IsFinite(l.Minutes) || l.Minutes <= 0)
                throw new InputException("an item has no length", $"locked[{i}].minutes", "more than 0 minutes");
            if (l.End > r.Wish.Minutes)
                throw new InputException(
                    $"{l.Name} would end {Say.Minutes(l.End - r.Wish.Minutes)} after the meeting",
                    $"locked[{i}].minutes",
                    $"an end within {r.Wish.Minutes} min"
                );
            if (l.At < end)
                throw new InputException(
                    $"{l.Name} at minute {Say.Number(l.At, 1)} overlaps what is held before it, which ends at {Say.Number(end, 1)}",
                    $"locked[{i}].at",
                    "items that don't overlap"
                );
            if (l.Kind == ItemKind.Exercise)
                r.Known.GetExercise(l.Exercise ?? "", $"locked[{i}].exercise");
            foreach (var id in l.PoseIds)
                Known(id, r, $"locked[{i}].poseIds");
            if (l.Poses < 0 || l.Poses > 120)
                throw new InputException("an impossible count of poses", $"locked[{i}].poses", "0 to 120");
            end = l.End;
        }
    }

    private static void CheckLaid(PlanRequest r)
    {
        for (var i = 0; i < r.Laid.Count; i++)
        {
            var l = r.Laid[i];
            if (!double.IsFinite(l.Minutes) || l.Minutes <= 0 || l.Minutes > MostMinutes)
                throw new InputException("an item has no length", $"laid[{i}].minutes", "more than 0 minutes");
            if (l.Kind == ItemKind.Exercise)
                r.Known.GetExercise(l.Exercise ?? "", $"laid[{i}].exercise");
            if (l.Poses is < 0 or > 120)
                throw new InputException("an impossible count of poses", $"laid[{i}].poses", "0 to 120");
            foreach (var id in l.PoseIds)
                Known(id, r, $"laid[{i}].poseIds");
        }
    }

    private static void Known(string pose, PlanRequest r, string field)
    {
        if (PoseLibrary.Find(pose, r) is null)
            throw new InputException($"unknown pose '{pose}'", field, string.Join(" | ", PoseLibrary.Of(r).Select(p => p.Id)));
    }

    private static IEnumerable<Cannot> Refusals(PlanRequest r, TimingRules rules)
    {
        var subject = Subject.Of(r.Wish.Model);
        if (!subject.Serves(r.Wish.Purpose))
            yield return new(
                "subject",
                $"Nothing of {r.Wish.Purpose.ToString().ToLowerInvariant()} is to be had from {subject.Name}.",
                new Dictionary<string, object?>
                {
                    ["purpose"] = subject.Serves(Purpose.Proportion) ? Purpose.Proportion : subject.Purposes![0],
                }
            );
        if (subject.Longest is { } longest && r.Wish.Approach != Approach.QuickFirst)
            yield return new(
                "subject",
                $"From {subject.Name} nothing is drawn for more than {Say.Minutes(longest)}: there is no long drawing to build on.",
                new Dictionary<string, object?> { ["approach"] = Approach.QuickFirst }
            );
        if (r.Wish.HasLiveModel && r.Known.Who is { } who)
        {
            var held = PoseLibrary.Of(r).Where(p => !who.Spares(p) && (!subject.Seated || p.IsSat)).ToList();
            if (PoseLibrary.Find(r.Wish.LongPose, r) is { } asked && who.Spares(asked))
                yield return new(
                    "model",
                    $"{asked.Name} is not asked of whoever poses.",
                    new Dictionary<string, object?>
                    {
                        ["longPose"] = held.FirstOrDefault(p => p.Strain <= TimingRules.HardestSitting)?.Id ?? "seated",
                    }
                );
            if (!held.Any(p => p.Strain <= TimingRules.HardestSitting))
                yield return new(
                    "model",
                    "Whoever poses would rather hold none of the poses that can be sat: a clothed sitter, or a cast.",
                    new Dictionary<string, object?> { ["model"] = "cast" }
                );
        }
        if (subject.Seated && PoseLibrary.Find(r.Wish.LongPose, r) is { IsSat: false } standing)
            yield return new(
                "subject",
                $"{standing.Name} is no pose for {subject.Name}: a sitter sits.",
                new Dictionary<string, object?> { ["longPose"] = PoseLibrary.Of(r).First(p => p.IsSat).Id }
            );
        if (r.Known.Minors && !r.Wish.IsClothed && r.Wish.HasLiveModel)
            yield return new(
                "minors",
                "In a course under 18 an undraped pose is refused: clothed model, cast or still life.",
                new Dictionary<string, object?> { ["draped"] = true }
            );
        if (r.Wish.HasLiveModel && r.Wish.Minutes > rules.MostMinutes)
            yield return new(
                "long-day",
                $"Nobody poses in a meeting of {Say.Minutes(r.Wish.Minutes)}: {Say.Minutes(rules.MostMinutes)} at most; "
                    + "or two meetings, or a cast for the rest.",
                new Dictionary<string, object?> { ["minutes"] = rules.MostMinutes }
            );
        if (PoseLibrary.Find(r.Wish.LongPose, r) is { Strain: > TimingRules.HardestSitting } hard)
        {
            // The nearest that can be sat: what serves the most of the same ends.
            var near = PoseLibrary
                .Of(r)
                .Where(p => p.Strain <= TimingRules.HardestSitting)
                .MaxBy(p =>
                    (2 * p.Purposes.Intersect(hard.Purposes).Count())
                    + p.Parts.Intersect(hard.Parts).Count()
                    + p.Shows.Intersect(hard.Shows).Count()
                    + (p.Family == hard.Family ? 1 : 0)
                )!;
            yield return new(
                "rest-strain",
                $"{hard.Name} can't be held for a sitting: {rules.Limit(hard.Strain).Name} {Say.Minutes(rules.Limit(hard.Strain).LimitMinutes)} on end at most.",
                new Dictionary<string, object?> { ["longPose"] = near.Id, ["minutes"] = rules.Limit(hard.Strain).LimitMinutes }
            );
        }
        if (r.Wish.Approach == Approach.LongFirst && r.Known.Rung is { } id && Ladder.Default.Get(id) is { } rung)
        {
            if (r.Wish.HasLiveModel && !rung.Live)
                yield return new(
                    "rung",
                    $"The rung '{rung.Name}' draws casts and objects; a live model opens at 'long-pose'.",
                    new Dictionary<string, object?> { ["model"] = rung.Model }
                );
            foreach (
                var e in r.Wish.Include.Select(i => r.Known.GetExercise(i)).Where(e => e.NeedsSubject && e.MaxMinutes < rung.LeastMinutes)
            )
                yield return new(
                    "rung",
                    $"{e.Name} lasts {e.MinutesText}; on the rung '{rung.Name}' nothing under {Say.Minutes(rung.LeastMinutes)} is drawn.",
                    new Dictionary<string, object?> { ["minutes"] = rung.LeastMinutes }
                );
        }
        if (
            r.Wish.Include.Where(i => r.Known.GetExercise(i).NeedsSubject).Sum(i => r.Known.GetExercise(i).MinMinutes) is var wanted
            && wanted > r.Wish.Minutes - rules.SetUpMin - rules.PackUpMin
        )
            yield return new(
                "include",
                $"What must be in it takes {Say.Minutes(wanted)} at least; {r.Wish.Minutes} min less set-up and packing up leave {Say.Minutes(r.Wish.Minutes - rules.SetUpMin - rules.PackUpMin)}.",
                new Dictionary<string, object?> { ["minutes"] = Math.Ceiling(wanted + rules.SetUpMin + rules.PackUpMin) }
            );
        foreach (
            var l in r.Held.Where(l =>
                l.Kind == ItemKind.Exercise
                && l.Minutes > rules.StretchMinutes
                && r.Wish.HasLiveModel
                && (l.Catalogue?.NeedsSubject ?? true)
            )
        )
            yield return new(
                "rest-stretch",
                $"{l.Name} of {Say.Minutes(l.Minutes)} is one stretch; the limit is {Say.Number(rules.StretchMinutes)}.",
                new Dictionary<string, object?> { ["minutes"] = rules.StretchMinutes, ["at"] = l.At }
            );
    }
}

/// <summary>The fixed points of a meeting: what is held, and set-up, break, review and packing up around it.</summary>
internal static class Frame
{
    /// <summary>Frames to try, best first: they differ in where the break stands and how long it is.</summary>
    public static IEnumerable<List<PlanItem>> Candidates(PlanRequest r, TimingRules rules)
    {
        var held = r.Held.OrderBy(l => l.At).Select(l => l with { Held = true }).ToList();
        var frame = new List<PlanItem>(held);
        AddEnds(r, rules, frame);
        if (r.Wish.Minutes <= rules.BreakOverMinutes || HasBreaks(frame, r, rules))
        {
            yield return Sorted(frame);
            yield break;
        }
        var wanted = r.Wish.Minutes >= 150 ? (int)rules.BreakMaxMinutes : (int)rules.BreakMinMinutes;
        IEnumerable<int> lengths = rules.Long(r.Wish)
            ? [wanted = (int)rules.MealMinutes]
            : Enumerable
                .Range((int)rules.BreakMinMinutes, (int)(rules.BreakMaxMinutes - rules.BreakMinMinutes) + 1)
                .OrderBy(l => Math.Abs(l - wanted));
        var places =
            from length in lengths
            from start in Enumerable.Range(0, r.Wish.Minutes)
            let centre = (start + (length / 2.0)) / r.Wish.Minutes
            where centre >= rules.BreakFrom && centre <= rules.BreakTo
            where frame.All(i => i.End <= start || i.At >= start + length)
            let awkward = (start % 5 == 0 ? 0 : 8) + Math.Abs(centre - 0.47) * 100 + Math.Abs(length - wanted)
            // One long pose wants the break where the rests cost least; elsewhere it stands near the middle.
            orderby r.Wish.Approach == Approach.LongFirst && r.Wish.HasLiveModel
                ? Lost(start - Before(frame, start), rules)
                    + Lost(After(frame, start + length, r.Wish.Minutes) - start - length, rules)
                    + Math.Abs(length - wanted)
                : 0, awkward
            select new PlanItem(start, length, ItemKind.Break);
        foreach (var b in places.Take(14))
            yield return Sorted([.. frame, b]);
    }

    private static double Before(List<PlanItem> frame, double at) =>
        frame.Where(i => i.End <= at).Select(i => i.End).DefaultIfEmpty(0).Max();

    private static double After(List<PlanItem> frame, double at, double end) =>
        frame.Where(i => i.At >= at).Select(i => i.At).DefaultIfEmpty(end).Min();

    /// <summary>Minutes of rest that a gap needs for its longest stretches.</summary>
    private static double Lost(double gap, TimingRules rules) =>
        rules.RestMinutes * Math.Max(0, Math.Ceiling((gap + rules.RestMinutes) / (rules.StretchMinutes + rules.RestMinutes)) - 1);

    private static List<PlanItem> Sorted(List<PlanItem> items) => [.. items.OrderBy(i => i.At)];

    private static bool HasBreaks(List<PlanItem> frame, PlanRequest r, TimingRules rules)
    {
        var breaks = frame.Where(i => i.Kind == ItemKind.Break).ToList();
        return rules.Long(r.Wish)
            ? breaks.Any(b => b.Minutes >= rules.MealMinutes) || breaks.Count(b => b.Minutes >= rules.LongBreakMinutes) >= rules.LongBreaks
            : breaks.Any(i => IsBreak(i, r, rules));
    }

    private static bool IsBreak(PlanItem i, PlanRequest r, TimingRules rules)
    {
        var centre = (i.At + (i.Minutes / 2)) / r.Wish.Minutes;
        return i.Kind == ItemKind.Break
            && i.Minutes >= rules.BreakMinMinutes
            && i.Minutes <= rules.BreakMaxMinutes
            && centre >= rules.BreakFrom
            && centre <= rules.BreakTo;
    }

    private static void AddEnds(PlanRequest r, TimingRules rules, List<PlanItem> frame)
    {
        if (!frame.Any(i => i.Kind == ItemKind.SetUp))
        {
            var room = frame.Count == 0 ? r.Wish.Minutes : frame[0].At;
            var length = Math.Min(r.Known.SetUpMinutes ?? (r.Wish.Minutes >= 90 ? 10 : rules.SetUpMin), Math.Floor(room));
            if (length > 0)
                frame.Insert(0, new(0, length, ItemKind.SetUp));
        }
        var end = (double)r.Wish.Minutes;
        if (!frame.Any(i => i.Kind == ItemKind.PackUp))
            end = PutBefore(frame, end, r.Known.PackUpMinutes ?? (r.Wish.Minutes >= 120 ? 10 : rules.PackUpMin), ItemKind.PackUp);
        else
            end = frame.Where(i => i.Kind == ItemKind.PackUp).Min(i => i.At);
        if (!frame.Any(i => i.Kind == ItemKind.Review) && r.Wish.Minutes >= rules.ReviewFromMinutes)
            PutBefore(
                frame,
                end,
                r.Known.ReviewMinutes
                    ?? (
                        r.Wish.Minutes >= 120 ? 15
                        : r.Wish.Minutes >= 90 ? 10
                        : rules.ReviewMin
                    ),
                ItemKind.Review
            );
    }

    private static double PutBefore(List<PlanItem> frame, double end, double length, ItemKind kind)
    {
        var before = frame.Where(i => i.At < end).Select(i => i.End).DefaultIfEmpty(0).Max();
        var fits = Math.Min(length, Math.Floor(end - before));
        if (fits <= 0)
            return end;
        frame.Add(new(end - fits, fits, kind));
        return end - fits;
    }
}

/// <summary>Cuts the gaps of a frame into stretches of drawing and rests of at least five minutes, so that no stretch
/// passes its limit. Stretches of at most 25 min parted by rests of 5 can't pose more than 50 min in any hour.</summary>
internal static class Stretches
{
    /// <summary>The frame with its gaps filled: rests, and empty exercise items (no exercise yet) for the stretches.</summary>
    public static List<PlanItem> Cut(PlanRequest r, List<PlanItem> frame, TimingRules rules)
    {
        var result = new List<PlanItem>();
        double at = 0,
            used = 0;
        for (var i = 0; i <= frame.Count; i++)
        {
            var next = i < frame.Count ? frame[i] : null;
            var until = next?.At ?? r.Wish.Minutes;
            if (until > at)
            {
                foreach (var piece in Gap(at, until - at, used, Ahead(frame, i, rules), Cap(r, frame, at, rules), rules))
                {
                    if (IsRest(piece, rules))
                        used = 0;
                    else if (piece.Kind == ItemKind.Exercise)
                        used += piece.Minutes;
                    result.Add(piece);
                }
            }
            if (next is null)
                break;
            if (IsRest(next, rules))
                used = 0;
            else if (next.Kind == ItemKind.Exercise)
                used += next.Minutes;
            result.Add(next);
            at = next.End;
        }
        return result;
    }

    private static bool IsRest(PlanItem i, TimingRules rules) =>
        i.Kind is ItemKind.Rest or ItemKind.Break && i.Minutes >= rules.RestMinutes;

    /// <summary>Minutes of drawing that follow at once in the frame, before a rest or a gap that could hold one.</summary>
    private static double Ahead(List<PlanItem> frame, int from, TimingRules rules)
    {
        double sum = 0;
        for (var i = from; i < frame.Count && !IsRest(frame[i], rules); i++)
        {
            if (i > from && frame[i].At - frame[i - 1].End >= rules.RestMinutes)
                break;
            if (frame[i].Kind == ItemKind.Exercise)
                sum += frame[i].Minutes;
        }
        return sum;
    }

    /// <summary>Longest stretch in a gap: 25 min, or what the chosen long pose allows where it is sat.</summary>
    private static double Cap(PlanRequest r, List<PlanItem> frame, double at, TimingRules rules)
    {
        var pose = r.Wish.HasLiveModel ? PoseLibrary.Find(r.Wish.LongPose, r) : null;
        var sat =
            r.Wish.Approach != Approach.QuickFirst
            || at >= (frame.FirstOrDefault(i => i.Kind == ItemKind.Break)?.At ?? r.Wish.Minutes * 0.45);
        return pose is not null && sat ? Math.Min(rules.StretchMinutes, rules.Limit(pose.Strain).LimitMinutes) : rules.StretchMinutes;
    }

    private static IEnumerable<PlanItem> Gap(double at, double length, double used, double ahead, double cap, TimingRules rules)
    {
        for (var rests = 0; length - (rests * rules.RestMinutes) >= 0; rests++)
        {
            var work = length - (rests * rules.RestMinutes);
            var room = rests == 0 ? cap - used - ahead : Math.Max(0, cap - used) + (cap * (rests - 1)) + Math.Max(0, cap - ahead);
            if (work > room || (rests > 0 && ahead > cap))
                continue;
            return Lay(at, Share(work, rests, used, ahead, cap), rules.RestMinutes);
        }
        // Too short for a rest and too long to pose on: the students stand back from their boards.
        return [length >= rules.RestMinutes ? new(at, length, ItemKind.Rest) : new(at, length, ItemKind.StandBack)];
    }

    /// <summary>Parts the work into rests + 1 stretches, whole fives where that fits, none over its room.</summary>
    private static double[] Share(double work, int rests, double used, double ahead, double cap)
    {
        var parts = new double[rests + 1];
        for (var k = 0; k <= rests; k++)
        {
            double Room(int j) => Math.Max(0, cap - (j == 0 ? used : 0) - (j == rests ? ahead : 0));
            var later = Enumerable.Range(k + 1, rests - k).Sum(Room);
            var even = Math.Ceiling(work / (rests + 1 - k) / 5) * 5;
            parts[k] = Math.Min(work, Math.Min(Room(k), Math.Max(even, work - later)));
            work -= parts[k];
        }
        return parts;
    }

    private static List<PlanItem> Lay(double at, double[] parts, double rest)
    {
        var items = new List<PlanItem>();
        double owed = 0;
        for (var k = 0; k < parts.Length; k++)
        {
            // A crumb of work beside a rest is not worth taking up the tool for.
            var crumb = parts.Length > 1 && parts[k] < 2;
            if (!crumb)
            {
                items.Add(new(at, parts[k], ItemKind.Exercise));
                at += parts[k];
            }
            else if (items.Count > 0 && items[^1].Kind == ItemKind.Rest)
            {
                items[^1] = items[^1] with { Minutes = items[^1].Minutes + parts[k] };
                at += parts[k];
            }
            else
                owed += parts[k];
            if (k == parts.Length - 1)
                continue;
            items.Add(new(at, rest + owed, ItemKind.Rest));
            at += rest + owed;
            owed = 0;
        }
        return items;
    }
}
