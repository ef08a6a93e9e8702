using MintHarbor.Core.Canons;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>Judges a head by its school and, where there is one, by a reference view, which outranks it.</summary>
internal sealed class HeadJudging(JudgeRequest request) : Judging(request)
{
    private readonly HeadMeasures m = new(request.Landmarks);

    /// <summary>A head tilted up or down is asked for as "other"; its heights are foreshortened and tell nothing.</summary>
    private bool Level => r.Pose != "other";
    private bool Front => r.View == "front";
    private bool Turned => r.View == "three-quarter";

    public Judgement Run()
    {
        const string level = "the head must be seen level";
        const string front = "it holds from the front";
        Rule("H-eye", Level, level, rule => [(m.EyeLine(), rule.Expected)]);
        Rule("H-thirds", Level, level, rule => m.Thirds(canon.Id == "beginner-head").Select(t => (t, rule.Expected)));
        Rule("H-mouth", Level, level, rule => [(m.MouthLine(), rule.Expected)]);
        Rule("H-fives", Front, front, rule =>
            rule.Parts!.ContainsKey("across the head")
                ? [(HeadMeasures.Gap(), rule.Expected), (HeadMeasures.Across(), rule.ExpectedOf("across the head"))]
                : [(HeadMeasures.Gap(), rule.Expected)]
        );
        Rule("H-nostril", Front, front, rule => HeadMeasures.Nostrils().Select(n => (n, rule.Expected)));
        Rule("H-corner", Front, front, rule =>
            HeadMeasures.MouthCorners(canon.Id == "beginner-head" ? "pupil" : "iris-inner").Select(c => (c, rule.Expected))
        );
        Rule("H-ear", Level, level, rule => m.Ears().Select(e => (e, rule.Expected)));
        Rule("H-neck", Front, front, rule => [(HeadMeasures.Neck(), rule.Expected)]);
        Turn();
        return new(found, Alignment());
    }

    /// <param name="Sitter">What the sitter's own relief may add, 1 σ in degrees.</param>
    private sealed record Told(Measure Measure, double Value, double Variance, double Sitter);

    private void Rule(string id, bool holds, string holdsWhen, Func<CanonRule, IEnumerable<(Measure Measure, double Expected)>> measures)
    {
        if (canon.Rule(id) is not { } rule)
            return;
        if (!holds)
        {
            NotApplicable(rule, holdsWhen);
            return;
        }
        var all = measures(rule).ToList();
        var seen = all.Where(x => x.Measure.Seen(r.Landmarks)).ToList();
        if (seen.Count == 0)
            NotSeen(all[0].Measure, rule.Expected, rule.ToleranceOf(rule.Expected), Against.Canon);
        foreach (var (measure, expected) in seen)
        {
            // The breadth of five eyes carries the tolerance of each of them.
            var tolerance = id == "H-fives" ? rule.Tolerance * expected : rule.ToleranceOf(expected);
            var standards = new List<Standard>();
            if (r.Reference is { } reference && measure.Seen(reference))
                standards.Add(
                    new(
                        Against.Reference,
                        measure.Value(reference),
                        tolerance,
                        0,
                        "reference view",
                        "reference view, the canon's tolerance",
                        expected
                    )
                );
            standards.Add(new(Against.Canon, expected, tolerance, 0, canon.Name, rule.Source));
            Settle(measure, standards);
        }
    }

    /// <summary>One turn angle must explain eyes, nose and mouth, and the outline where its sides are placed. Each tells a turn;
    /// the expected one is the mean of the others, weighted by how exactly each tells it.</summary>
    private void Turn()
    {
        if (canon.Rule("H-turn") is not { } rule)
            return;
        if (!Turned)
        {
            NotApplicable(rule, "the head must be turned");
            return;
        }
        var tells = HeadTurn
            .Pairs.Select(p => (Measure: HeadTurn.Of(p, r.Landmarks), p.Relief, p.Varies))
            .Append((Measure: HeadTurn.OfOutline(r.Landmarks), Relief: 1.0, Varies: 0.0))
            .Where(t => t.Measure.Seen(r.Landmarks))
            .ToList();
        if (tells.Count < 2)
        {
            NotSeen(HeadTurn.Of(HeadTurn.Pairs[tells.Count], r.Landmarks), null, rule.Tolerance, Against.Canon);
            return;
        }
        var read = tells
            .Select(t =>
            {
                var value = t.Measure.Value(r.Landmarks);
                // A relief that differs from sitter to sitter turns the answer: dt/dk = −sin(2t)/(2k).
                var sitter = Math.Abs(Math.Sin(2 * value * Math.PI / 180)) / (2 * t.Relief) * t.Varies * 180 / Math.PI;
                var placed = t.Measure.Sigma(r.Landmarks, r.PlacementErrorMm);
                return new Told(t.Measure, value, Math.Max(0.01, (placed * placed) + (sitter * sitter)), sitter);
            })
            .ToList();
        if (read.Any(t => !double.IsFinite(t.Value)))
            throw new InputException(
                "the turn can't be measured: both sides of a pair lie on one another",
                "landmarks",
                "landmarks apart from one another"
            );
        foreach (var t in read)
        {
            var others = read.Where(o => !ReferenceEquals(o.Measure, t.Measure)).ToList();
            var weight = others.Sum(o => 1 / o.Variance);
            var mean = others.Sum(o => o.Value / o.Variance) / weight;
            Settle(
                t.Measure,
                [
                    new(
                        Against.Canon,
                        mean,
                        rule.Tolerance,
                        Math.Sqrt((t.Sitter * t.Sitter) + (1 / weight)),
                        "the other features",
                        rule.Source
                    ),
                ]
            );
        }
    }
}
