using System.Text.Json.Nodes;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;

namespace MintHarbor.Core.Tests.Sessions;

/// <summary>Checks a timetable against trade rules on its JSON alone, minute by half-minute, sharing no code with the planner
/// or its own proof. Rest rules: from memory, as the studio keeps them.</summary>
internal static class PlanVerifier
{
    private static readonly Dictionary<string, (int Rank, double Limit)> Strain = new()
    {
        ["lying"] = (0, 25),
        ["seated"] = (1, 25),
        ["standing"] = (2, 20),
        ["one-leg"] = (3, 15),
        ["kneeling"] = (4, 10),
        ["leaning-back"] = (5, 10),
        ["heel-up"] = (6, 10),
        ["raised"] = (7, 5),
        ["arched"] = (8, 5),
        ["extreme"] = (9, 2),
    };

    public static List<string> Faults(JsonNode proposal, int minutes, bool minors, int students)
    {
        var faults = new List<string>();
        var items = proposal["items"]!.AsArray().Select(i => i!).ToList();
        double at = 0;
        foreach (var i in items)
        {
            if (Math.Abs(D(i, "at") - at) > 1e-9)
                faults.Add($"gap or overlap at {at}");
            if (D(i, "minutes") <= 0)
                faults.Add($"empty item at {at}");
            at = D(i, "at") + D(i, "minutes");
        }
        if (Math.Abs(at - minutes) > 1e-9)
            faults.Add($"adds up to {at}, not {minutes}");

        // One cell a half minute: what is held there.
        var cells = new (bool Posed, int Rank, bool Resting, bool LongRest)[minutes * 2];
        foreach (var i in items)
        {
            var kind = S(i, "kind");
            var rest = kind is "rest" or "break";
            var strains = i["strains"]!.AsArray().Select(s => s!.GetValue<string>()).ToList();
            var posed = i["posed"]!.GetValue<bool>();
            if (posed && strains.Count != (int)D(i, "poses"))
                faults.Add($"item at {D(i, "at")}: {strains.Count} strains for {D(i, "poses")} poses");
            if (posed && minors && !i["draped"]!.GetValue<bool>())
                faults.Add("an undraped pose under 18");
            for (var c = (int)(D(i, "at") * 2); c < (int)((D(i, "at") + D(i, "minutes")) * 2); c++)
            {
                var pose = posed ? Math.Min(strains.Count - 1, (int)(((c / 2.0) - D(i, "at")) / D(i, "poseMinutes"))) : 0;
                cells[c] = (posed, posed ? Strain[strains[pose]].Rank : -1, rest && D(i, "minutes") >= 2, rest && D(i, "minutes") >= 5);
            }
        }
        Stretch(cells, faults);
        foreach (var (name, (rank, limit)) in Strain)
            OnEnd(cells, name, rank, limit, faults);
        var inHour = 0;
        for (var c = 0; c < cells.Length; c++)
        {
            inHour += (cells[c].Posed ? 1 : 0) - (c >= 120 && cells[c - 120].Posed ? 1 : 0);
            if (inHour > 100)
                faults.Add($"more than 50 min posed in the hour to {(c + 1) / 2.0}");
        }
        Frame(items, minutes, items.Any(i => i["posed"]!.GetValue<bool>()), faults);
        Paper(proposal, items, students, faults);
        return faults;
    }

    private static void Stretch((bool Posed, int Rank, bool Resting, bool LongRest)[] cells, List<string> faults)
    {
        var run = 0;
        foreach (var c in cells)
        {
            if (c.LongRest)
                run = 0;
            if (c.Posed && ++run > 50)
            {
                faults.Add("a stretch over 25 min");
                return;
            }
        }
    }

    private static void OnEnd(
        (bool Posed, int Rank, bool Resting, bool LongRest)[] cells,
        string name,
        int rank,
        double limit,
        List<string> faults
    )
    {
        var run = 0;
        foreach (var c in cells)
        {
            if (c.Resting || (c.Posed && c.Rank < rank))
                run = 0;
            if (c.Posed && c.Rank >= rank && ++run > limit * 2)
            {
                faults.Add($"{name} longer than {limit} min on end");
                return;
            }
        }
    }

    private static void Frame(List<JsonNode> items, int minutes, bool model, List<string> faults)
    {
        double Sum(string kind) => items.Where(i => S(i, "kind") == kind).Sum(i => D(i, "minutes"));
        if (Sum("set-up") < 5)
            faults.Add("set-up under 5 min");
        if (Sum("pack-up") < 5)
            faults.Add("pack-up under 5 min");
        if (minutes >= 60 && Sum("review") < 5)
            faults.Add("review under 5 min");
        var breaks = items.Where(i => S(i, "kind") == "break").Select(i => D(i, "minutes")).ToList();
        if (minutes > 210 && model)
        {
            if (!breaks.Any(b => b >= 30) && breaks.Count(b => b >= 15) < 2)
                faults.Add("a long day without a meal or two breaks");
        }
        else if (
            minutes > 90
            && !items.Any(i =>
                S(i, "kind") == "break"
                && D(i, "minutes") is >= 10 and <= 15
                && (D(i, "at") + (D(i, "minutes") / 2)) / minutes is >= 0.4 - 1e-9 and <= 0.6 + 1e-9
            )
        )
            faults.Add("no break in the middle fifth");
    }

    private static void Paper(JsonNode proposal, List<JsonNode> items, int students, List<string> faults)
    {
        var need = items.Sum(i => D(i, "sheets"));
        var got = proposal["paper"]!.AsArray().Sum(p => D(p!, "sheetsPerStudent"));
        if (need != got)
            faults.Add($"{got} sheets a student for {need}");
        foreach (var p in proposal["paper"]!.AsArray())
            if (D(p!, "sheets") != D(p!, "sheetsPerStudent") * students)
                faults.Add("the class's paper is not the student's times the students");
    }

    private static double D(JsonNode n, string field) => n[field]!.GetValue<double>();

    private static string S(JsonNode n, string field) => n[field]!.GetValue<string>();

    /// <summary>What an evening of each purpose is drawn in, and what it has at least one of; written down from the trade's own words, apart from the
    /// planner's table.</summary>
    private static readonly Dictionary<Purpose, (string Serves, string Needs)> ByPurpose = new()
    {
        [Purpose.Gesture] = ("gesture mass timed-study-set continuous-line opposite-hand blind-contour", "gesture mass"),
        [Purpose.Proportion] = (
            "mass core-first envelope pencil-measure timed-study-set foreshortened-edge sitting",
            "mass core-first envelope sitting pencil-measure"
        ),
        [Purpose.Construction] = (
            "basic-forms core-first head-construction timed-study-set envelope rough",
            "basic-forms core-first head-construction timed-study-set"
        ),
        [Purpose.Anatomy] = ("part-study contour core-first", "part-study"),
        [Purpose.Tone] = ("value-patches mass", "value-patches mass"),
        [Purpose.Portrait] = ("head-construction part-study contour blind-contour continuous-line", "head-construction part-study"),
    };

    /// <summary>Whether a timetable strays from what it is for: more than half of what is drawn is something else, or what the purpose cannot do without is
    /// missing. A long drawing carries every purpose. What was held or asked for, and what mends the class's fault, is left out.</summary>
    public static IEnumerable<string> Astray(JsonNode proposal, PlanRequest request)
    {
        if (request.Held.Count > 0 || request.Wish.Include.Count > 0 || request.Known.Weak.Count > 0)
            yield break;
        var (serves, needs) = ByPurpose[request.Wish.Purpose];
        var work = proposal["items"]!.AsArray().Select(i => i!).Where(i => S(i, "kind") == "exercise").ToList();
        var drawn = work.Sum(i => D(i, "minutes"));
        var other = work.Where(i =>
                !serves.Split(' ').Contains(S(i, "exercise")) && S(i, "exercise") is not ("sitting" or "without-reference" or "same-again")
            )
            .Sum(i => D(i, "minutes"));
        if (drawn >= 20 && other > drawn / 2)
            yield return $"{request.Wish.Purpose}: {other} of {drawn} min are something else";
        var longFirst =
            request.Wish.Approach == Approach.LongFirst && (request.Known.Rung is not null || request.Wish.Purpose == Purpose.Gesture);
        if (drawn >= 45 && !longFirst && !work.Any(i => needs.Split(' ').Contains(S(i, "exercise"))))
            yield return $"{request.Wish.Purpose}: none of {needs}";
        if (
            request.Wish.Purpose is Purpose.Tone or Purpose.Portrait
            && work.Where(i => S(i, "exercise") == "gesture").Sum(i => D(i, "minutes")) > 10
        )
            yield return $"{request.Wish.Purpose}: more gestures than a warm-up";
    }

    /// <summary>Share of all half minutes of the meeting in which two timetables do something else.</summary>
    public static double Apart(JsonNode a, JsonNode b)
    {
        static List<string> Cells(JsonNode plan)
        {
            var cells = new List<string>();
            var sitting = 0;
            foreach (var i in plan["items"]!.AsArray().Select(i => i!))
            {
                sitting += D(i, "period") == 1 ? 1 : 0;
                var what =
                    S(i, "kind") != "exercise" ? ""
                    : D(i, "period") > 0 ? $"sitting {sitting}"
                    : $"{S(i, "exercise")} of {D(i, "poseMinutes")}";
                cells.AddRange(Enumerable.Repeat(what, (int)(D(i, "minutes") * 2)));
            }
            return cells;
        }
        List<string> first = Cells(a),
            second = Cells(b);
        var drawn = first.Zip(second).Where(p => p.First != "" || p.Second != "").ToList();
        return (double)drawn.Count(p => p.First != p.Second) / drawn.Count;
    }

    /// <summary>What the idea promises in words, looked for in the timetable minute by minute.</summary>
    public static IEnumerable<string> Promise(JsonNode proposal)
    {
        var idea = S(proposal, "idea");
        var all = proposal["items"]!.AsArray().Select(i => i!).ToList();
        var work = all.Where(i => S(i, "kind") == "exercise").ToList();
        var sittings = work.Where(i => D(i, "period") > 0).ToList();
        var loose = work.Where(i => D(i, "period") == 0).ToList();
        bool Rises(IReadOnlyList<double> lengths) => lengths.Zip(lengths.Skip(1)).All(p => p.Second >= p.First - 1e-9);
        if (idea.Contains("none shorter than the one before") && !Rises([.. loose.Select(i => D(i, "poseMinutes"))]))
            yield return $"'{idea}', and one is shorter";
        if (idea.StartsWith("No stretch has shorter", StringComparison.Ordinal))
        {
            var stretches = new List<List<double>> { new() };
            foreach (var i in all)
                if (S(i, "kind") is "rest" or "break")
                    stretches.Add([]);
                else if (S(i, "kind") == "exercise")
                    stretches[^1].Add(D(i, "poseMinutes"));
            stretches = [.. stretches.Where(x => x.Count > 0)];
            if (!stretches.Zip(stretches.Skip(1)).All(p => p.Second.Min() >= p.First.Max() - 1e-9))
                yield return $"'{idea}', and one has";
        }
        if (idea.Contains("in turn,") && (work.Select(i => S(i, "exercise")).Distinct().Count() != 2 || sittings.Count > 0))
            yield return $"'{idea}', and something else is drawn";
        if (idea.Contains("each side of the middle"))
        {
            var pause = all.FirstOrDefault(i => S(i, "kind") == "break");
            var begun = sittings.Where(i => D(i, "period") == 1).ToList();
            if (begun.Count != 2 || (pause is not null && (D(begun[0], "at") > D(pause, "at") || D(begun[1], "at") < D(pause, "at"))))
                yield return $"'{idea}', and they don't lie so";
        }
        if (idea.Contains("the last quick ones") && (work[^1] is var end && (D(end, "period") > 0 || D(end, "poseMinutes") > 5)))
            yield return $"'{idea}', and the last are not quick";
        if (idea.Contains("once more from memory") && S(work[^1], "exercise") != "without-reference")
            yield return $"'{idea}', and it isn't";
        if (idea.Contains("to open the hand, then one") && (D(work[0], "poseMinutes") > 5 || sittings.Count(i => D(i, "period") == 1) != 1))
            yield return $"'{idea}', and it opens with something else";
        foreach (var brace in new[] { idea, S(proposal, "givesUp") }.Where(t => t.Contains('{')))
            yield return $"'{brace}' is unfinished";
    }
}
