using MintHarbor.Core.Canons;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Critiques;

/// <summary>An expected value with its source, its tolerance and its own error (1 σ).</summary>
internal sealed record Standard(
    Against Against,
    double Expected,
    double Tolerance,
    double Sigma,
    string Name,
    string Source,
    double? Neutral = null
)
{
    /// <summary>Seen over true length of the limb from this seat; null where it isn't known.</summary>
    public double? Foreshortened { get; init; }
}

/// <summary>What judging a figure and judging a head share: how a measure is settled against its standards, and how it is
/// said when it can't be.</summary>
internal abstract class Judging(JudgeRequest request)
{
    protected readonly JudgeRequest r = request;
    protected readonly Canon canon = CanonTable.Get(request.Canon);
    protected readonly Exercise? exercise = request.Exercise is null ? null : Exercises.Get(request.Exercise);
    protected readonly List<Finding> found = [];

    /// <summary>How the drawing lies over the reference view; null without one.</summary>
    protected Similarity? Alignment()
    {
        var pairs = r.Reference is null
            ? []
            : r.Landmarks.Points.Where(p => r.Reference.Has(p.Key)).Select(p => (r.Reference[p.Key]!.Value, p.Value)).ToList();
        return Similarity.Fit(pairs);
    }

    protected Standard OfCanon(CanonRule rule, double expected) =>
        new(Against.Canon, expected, rule.ToleranceOf(expected), 0, canon.Name, rule.Source);

    protected void Group(string id, bool holds, string holdsWhen, Func<CanonRule, IEnumerable<(Measure Measure, double Expected)>> measures)
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
            Settle(measure, [OfCanon(rule, expected)]);
    }

    protected void NotApplicable(CanonRule rule, string when) =>
        found.Add(
            new(
                rule.Id,
                null,
                Against.Canon,
                Verdict.DoesNotApply,
                null,
                rule.Expected,
                rule.ToleranceOf(rule.Expected),
                null,
                "",
                [],
                $"{Sentences.RuleName(rule.Id)}: not judgeable here; {when}.",
                $"holds when: {when}; pose {r.Pose}, view {r.View}. Source: {rule.Source}",
                []
            )
        );

    protected void NotSeen(Measure measure, double? expected, double? tolerance, Against against)
    {
        var missing = measure.Needs.Where(n => !r.Landmarks.Has(n)).Distinct().Select(LandmarkIds.Name).ToList();
        found.Add(
            new(
                measure.Rule,
                measure.Part,
                against,
                Verdict.NotSeen,
                null,
                expected,
                tolerance,
                null,
                measure.Unit,
                [],
                $"{Sentences.Subject(measure)}: not judgeable, {Say.List(missing)} not placed.",
                $"{measure.Formula}; wanted: {string.Join(", ", measure.Needs)}",
                measure.Needs
            )
        );
    }

    protected void Settle(Measure measure, IReadOnlyList<Standard> standards, IReadOnlyList<string>? shown = null)
    {
        var first = standards[0];
        var also = standards.Skip(1).Select(s => new Outranked(s.Against, s.Expected)).ToList();
        var needs = shown ?? [.. measure.Needs.Distinct()];
        if (exercise is not null && !exercise.Allows(measure.Rule))
        {
            found.Add(
                new(
                    measure.Rule,
                    measure.Part,
                    first.Against,
                    Verdict.DoesNotApply,
                    null,
                    first.Expected,
                    first.Tolerance,
                    null,
                    measure.Unit,
                    also,
                    $"{Sentences.Subject(measure)}: not judged in {exercise.Name.ToLowerInvariant()}.",
                    $"{exercise.Name} is inspected for {Say.List(exercise.Inspected)}",
                    needs
                )
            );
            return;
        }
        if (!measure.Seen(r.Landmarks))
        {
            NotSeen(measure, first.Expected, first.Tolerance, first.Against);
            return;
        }
        var value = measure.Value(r.Landmarks);
        if (!double.IsFinite(value))
            throw new InputException(
                $"{Sentences.Subject(measure)} can't be measured: landmarks lie on one another",
                $"landmarks.{measure.Needs[0]}",
                "landmarks apart from one another"
            );
        var d = measure.Kind == MeasureKind.Angle ? ClockAngle.Wrap(value - first.Expected) : value - first.Expected;
        var placed = measure.Sigma(r.Landmarks, r.PlacementErrorMm);
        var u = Measure.Ninety * Math.Sqrt((placed * placed) + (first.Sigma * first.Sigma));
        var verdict = measure.Kind == MeasureKind.Sign ? Verdicts.OfSign(value, u) : Verdicts.Of(d, first.Tolerance, u);
        if (verdict == Verdict.Outside && exercise is { AllowsPush: true } && Pushes(measure, first, d))
            verdict = Verdict.Pushed;
        var observed = verdict == Verdict.Outside && first.Against == Against.Canon && r.Observed.Contains(measure.Key);
        if (observed)
            verdict = Verdict.Pushed;
        found.Add(
            new(
                measure.Rule,
                measure.Part,
                first.Against,
                verdict,
                value,
                first.Expected,
                measure.Kind == MeasureKind.Sign ? 0 : first.Tolerance,
                u,
                measure.Unit,
                also,
                Sentences.Says(
                    measure,
                    verdict,
                    value,
                    d,
                    first.Expected,
                    first.Tolerance,
                    u,
                    [.. standards.Select(s => (s.Name, s.Expected))],
                    observed,
                    first.Foreshortened
                ),
                Sentences.Because(measure, value, first.Expected, first.Tolerance, placed, first.Sigma, u, first.Source, verdict),
                needs
            )
        );
    }

    /// <summary>Whether the departure goes on in the direction in which the pose itself leaves level or canon.</summary>
    protected static bool Pushes(Measure measure, Standard s, double d)
    {
        if (s.Neutral is not { } neutral)
            return false;
        var own = measure.Kind == MeasureKind.Angle ? ClockAngle.Wrap(s.Expected - neutral) : s.Expected - neutral;
        return Math.Abs(own) > s.Sigma && Math.Sign(own) == Math.Sign(d);
    }
}
