using MintHarbor.Core.Canons;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>Judges a head by its school and, where there is one, by a reference view, which outranks it.</summary>
internal sealed class HeadJudging(JudgeRequest request) : Judging(request)
{
    private readonly HeadMeasures m = new(request.Landmarks);

    public Judgement Run()
    {
        foreach (var rule in Rules.All.Where(r => r.OfHead is not null))
            Settle(rule, expected => rule.OfHead!(m, expected));
        Turn();
        return new(found, Alignment());
    }

    protected override IReadOnlyList<Standard> StandardsOf(Measure measure, CanonRule rule)
    {
        var school = OfCanon(rule, rule.ExpectedOf(measure.Part?.Id));
        return r.Reference is { } reference && measure.Seen(reference)
            ?
            [
                new(
                    Against.Reference,
                    measure.Value(reference),
                    school.Tolerance,
                    0,
                    "reference view",
                    "reference view, the canon's tolerance",
                    school.Expected
                ),
                school,
            ]
            : [school];
    }

    /// <param name="Sitter">What the sitter's own relief may add, 1 σ in degrees.</param>
    private sealed record Told(Measure Measure, double Value, double Variance, double Sitter);

    /// <summary>One turn angle must explain eyes, nose and mouth, and the outline where its sides are placed. Each tells a turn;
    /// the expected one is the mean of the others, weighted by how exactly each tells it.</summary>
    private void Turn()
    {
        if (OfCanon(Rules.Turn) is not { } rule)
            return;
        if (!Rules.Turn.Holds!(situation))
        {
            NotApplicable(Rules.Turn, rule, Rules.Turn.HoldsWhen);
            return;
        }
        var tells = HeadTurn
            .Pairs.Select(p => (Measure: HeadTurn.Of(p, r.Landmarks), p.Relief, p.Varies))
            .Append((Measure: HeadTurn.OfOutline(r.Landmarks), Relief: 1.0, Varies: 0.0))
            .Where(t => t.Measure.Seen(r.Landmarks))
            .ToList();
        if (tells.Count < 2)
        {
            NotSeen(HeadTurn.Of(HeadTurn.Pairs[tells.Count], r.Landmarks), []);
            return;
        }
        var read = tells
            .Select(t =>
            {
                var value = t.Measure.Value(r.Landmarks);
                // A relief that differs from sitter to sitter turns the answer: dt/dk = −sin(2t)/(2k).
                var sitter = Math.Abs(Math.Sin(2 * value * Math.PI / 180)) / (2 * t.Relief) * t.Varies * 180 / Math.PI;
                var placed = t.Measure.Sigma(r.Landmarks, r.ErrorOf);
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
