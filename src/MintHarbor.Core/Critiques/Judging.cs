using MintHarbor.Core.Canons;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Critiques;

/// <summary>What judging a figure and judging a head share: how a measure is settled against its standards.</summary>
internal abstract class Judging(JudgeRequest request, bool hanging = true)
{
    protected readonly JudgeRequest r = request;
    protected readonly Canon canon = request.School ?? CanonTable.Get(request.Canon);
    protected readonly Situation situation = new(request.Pose, request.View, hanging, request.Reference is not null);
    protected readonly Exercise? exercise = request.Own ?? (request.Exercise is null ? null : Exercises.Get(request.Exercise));
    protected readonly List<Finding> found = [];

    /// <summary>How the drawing lies over the reference view; null without one.</summary>
    protected Similarity? Alignment()
    {
        var pairs = r.Reference is null
            ? []
            : r.Landmarks.Points.Where(p => r.Reference.Has(p.Key)).Select(p => (r.Reference[p.Key]!.Value, p.Value)).ToList();
        return Similarity.Fit(pairs);
    }

    protected CanonRule? OfCanon(Rule rule) => canon.Rule(rule.Id);

    protected Standard OfCanon(CanonRule rule, double expected) =>
        new(Against.Canon, expected, rule.ToleranceOf(expected), 0, canon.Name, rule.Source);

    /// <summary>The standards that speak of a measure of a canon's rule, in order of trust; the canon's own is the last.</summary>
    protected virtual IReadOnlyList<Standard> StandardsOf(Measure measure, CanonRule rule) =>
        [OfCanon(rule, rule.ExpectedOf(measure.Part?.Id))];

    /// <summary>Settles the measures of a rule by the canon, where it holds and they are seen; else says why not.</summary>
    protected void Settle(Rule rule, Func<CanonRule, IEnumerable<Measure>> measures)
    {
        if (OfCanon(rule) is not { } expected)
            return;
        if (!rule.Holds!(situation))
        {
            NotApplicable(rule, expected, rule.HoldsWhen);
            return;
        }
        var all = measures(expected).ToList();
        var seen = all.Where(x => x.Seen(r.Landmarks)).ToList();
        if (seen.Count == 0)
            NotSeen(all[0], StandardsOf(all[0], expected));
        foreach (var measure in seen)
            Settle(measure, StandardsOf(measure, expected));
    }

    protected void NotApplicable(Rule rule, CanonRule expected, string when) =>
        found.Add(
            new(
                new(rule, null, MeasureKind.Ratio, "", [], _ => double.NaN, ""),
                [OfCanon(expected, expected.Expected)],
                Verdict.DoesNotApply
            )
            {
                Against = Against.Canon,
                Expected = expected.Expected,
                Tolerance = expected.ToleranceOf(expected.Expected),
                HoldsWhen = $"{when}; pose {r.Pose}, view {r.View}",
            }
        );

    protected void NotSeen(Measure measure, IReadOnlyList<Standard> standards) =>
        found.Add(
            new(measure, standards, Verdict.NotSeen)
            {
                Against = standards.Count > 0 ? standards[0].Against : Against.Canon,
                Expected = standards.Count > 0 ? standards[0].Expected : null,
                Tolerance = standards.Count > 0 ? standards[0].Tolerance : null,
                Landmarks = measure.Needs,
                Missing = [.. measure.Needs.Where(n => !r.Landmarks.Has(n)).Distinct()],
            }
        );

    protected void Settle(Measure measure, IReadOnlyList<Standard> standards, IReadOnlyList<string>? shown = null)
    {
        var first = standards[0];
        var finding = new Finding(measure, standards, Verdict.DoesNotApply)
        {
            Against = first.Against,
            Expected = first.Expected,
            Tolerance = measure.Kind == MeasureKind.Sign ? 0 : first.Tolerance,
            Landmarks = shown ?? [.. measure.Needs.Distinct()],
        };
        if (exercise is not null && !exercise.Allows(measure.Rule))
        {
            found.Add(finding with { ClosedBy = exercise });
            return;
        }
        if (!measure.Seen(r.Landmarks))
        {
            NotSeen(measure, standards);
            return;
        }
        var value = measure.Value(r.Landmarks);
        if (!double.IsFinite(value))
            throw new InputException(
                $"{Sentences.Subject(measure)} can't be measured: landmarks lie on one another",
                $"landmarks.{measure.Needs[0]}",
                "landmarks apart from one another"
            );
        var placed = measure.Sigma(r.Landmarks, r.ErrorOf);
        var u = Measure.Ninety * Math.Sqrt((placed * placed) + (first.Sigma * first.Sigma));
        finding = finding with { Measured = value, Uncertainty = u, Placed = placed };
        if (!measure.OfAll && measure.Needs.Where(r.NotLookedAt.Contains).Distinct().ToList() is { Count: > 0 } guessed)
        {
            found.Add(finding with { Verdict = Verdict.NotLookedAt, Missing = guessed });
            return;
        }
        var verdict = measure.Kind == MeasureKind.Sign ? Verdicts.OfSign(value, u) : Verdicts.Of(finding.Off!.Value, first.Tolerance, u);
        var observed = verdict == Verdict.Outside && first.Against == Against.Canon && r.Observed.Contains(measure.Key);
        if (observed || (verdict == Verdict.Outside && exercise is { AllowsPush: true } && Pushes(measure, first, finding.Off!.Value)))
            verdict = Verdict.Pushed;
        found.Add(finding with { Verdict = verdict, Observed = observed });
    }

    /// <summary>Whether the departure goes on in the direction in which the pose itself leaves level or canon.</summary>
    private static bool Pushes(Measure measure, Standard s, double d)
    {
        if (s.Neutral is not { } neutral)
            return false;
        var own = measure.Kind == MeasureKind.Angle ? ClockAngle.Wrap(s.Expected - neutral) : s.Expected - neutral;
        return Math.Abs(own) > s.Sigma && Math.Sign(own) == Math.Sign(d);
    }
}
