using MintHarbor.Core.Canons;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>Judges a standing, leaning or seated figure.</summary>
/// <param name="explain">Whether faults are traced to their cause.</param>
internal sealed class FigureJudging(JudgeRequest request, bool explain = true) : Judging(request, Hanging(request.Landmarks))
{
    private const string View = "reference view";

    /// <summary>Tolerances against a reference view, common practice, no source: lengths ±5 %, directions ±4°, lean ±2°.</summary>
    private const double LengthTolerance = 0.05,
        LeanTolerance = 2;

    /// <summary>A share of a length beyond which that length is foreshortened away.</summary>
    private const double MostShare = 3;

    /// <summary>Ratios of a sheet that are off alike within so many per cent are one fault.</summary>
    private const double AlikePercent = 2;

    private readonly FigureMeasures m = new(request.Landmarks, request.StandingLeg);

    public Judgement Run()
    {
        InHeads();
        Directions();
        AskCardOrView();
        Plumbs();
        var parts = r.Reference is null ? null : new ReferenceMeasures(r.Landmarks, r.Reference, Alignment(), r.ErrorOf);
        if (parts is { Seen.Count: > 0 })
            AgainstReference(r.Reference!, parts);
        foreach (var rule in Rules.All.Where(r => r.OfFigure is not null))
            Settle(rule, expected => rule.OfFigure!(m, expected));
        Tilt();
        Balance();
        if (explain)
        {
            Explain();
            Trace();
        }
        return new(found, parts is { Seen.Count: > 0 } ? parts.Alignment() : Alignment());
    }

    /// <summary>Part by part against the reference view: the whole's lean first, then lengths and directions with it taken along.</summary>
    private void AgainstReference(Landmarks.LandmarkSet reference, ReferenceMeasures parts)
    {
        Lean(reference, parts);
        foreach (var p in parts.Seen)
        {
            Settle(
                parts.LengthOf(p),
                [
                    new(Against.Reference, 1, LengthTolerance, parts.ScaleSigma(r.PlacementErrorMm), View, $"{View}: ±5 %")
                    {
                        Foreshortened = p.Limb is { } limb && r.Foreshortening.TryGetValue(limb, out var ratio) ? ratio : null,
                    },
                ]
            );
            if (p.Directed)
                Settle(
                    ReferenceMeasures.DirectionOf(p),
                    [new(Against.Reference, parts.ExpectedDirection(p), PoseCard.DirectionTolerance, 0, View, $"{View}: ±4°")]
                );
        }
        Anatomy(reference);
        if (r.PoseCard is { FarSeat: false, Plumbs: not null })
            return;
        foreach (var to in new[] { "ankleout.R", "ankleout.L", "pubic" })
        {
            var plumb = FigureMeasures.Plumb("pit", to);
            if (plumb.Seen(reference))
                Settle(plumb, [new(Against.Reference, plumb.Value(reference), PoseCard.PlumbTolerance, 0, View, $"{View}: ±0.06 head", 0)]);
        }
    }

    /// <summary>Checks of anatomy that are numbers, where all of their marks are placed and seen from there.</summary>
    private void Anatomy(Landmarks.LandmarkSet reference)
    {
        foreach (var (measure, tolerance) in AnatomyMeasures.All.Where(a => a.Measure.Seen(r.Landmarks) && a.Measure.Seen(reference)))
        {
            var expected = measure.Value(reference);
            // Seen from where its length all but vanishes a share of it tells nothing.
            if (Math.Abs(expected) <= MostShare)
                Settle(measure, [new(Against.Reference, expected, tolerance, 0, View, $"{View}: {Within(measure, tolerance)}")]);
        }
    }

    private void Lean(Landmarks.LandmarkSet reference, ReferenceMeasures parts)
    {
        var shared = r.Landmarks.Points.Where(p => reference.Has(p.Key)).ToList();
        if (shared.Count < 6 || parts.Seen.Count(p => p.Directed) < ReferenceMeasures.LeastParts)
            return;
        var centre = new Vec2(shared.Average(p => p.Value.X), shared.Average(p => p.Value.Y));
        var spread = Math.Sqrt(shared.Average(p => (p.Value - centre).Dot(p.Value - centre)));
        string[] shown = r.Landmarks.Has("chin") && r.Landmarks.Has("crown") ? ["crown", "chin"] : Ends(shared);
        var lean = new Measure(
            Rules.Lean,
            null,
            MeasureKind.Angle,
            "deg",
            [.. shared.Select(p => p.Key)],
            _ => parts.Turn,
            "turn of the whole that most of its parts agree on"
        )
        {
            Steepness = 180 / Math.PI / (spread * Math.Sqrt(shared.Count)),
            OfAll = true,
        };
        Settle(lean, [new(Against.Reference, 0, LeanTolerance, parts.TurnSigma, View, $"{View}: ±2°")], shown);
    }

    /// <summary>The highest and the lowest of some landmarks.</summary>
    private static string[] Ends(IReadOnlyCollection<KeyValuePair<string, Vec2>> of) =>
        [of.MinBy(p => p.Value.Y).Key, of.MaxBy(p => p.Value.Y).Key];

    private void InHeads()
    {
        InHeads(m.Heads(), Rules.Heads);
        InHeads(m.Shoulders(), Rules.Shoulder);
        foreach (var key in PoseCardKeys.PitTo.Keys)
            InHeads(m.PitTo(key), null);
    }

    /// <summary>A ratio in heads, which card, reference and canon may all speak of.</summary>
    private void InHeads(Measure measure, Rule? byCanon)
    {
        var rule = byCanon is null ? null : OfCanon(byCanon);
        var standards = new List<Standard>();
        if (r.PoseCard?.Ratios.First(x => x.Key == measure.CardKey) is { Value: { } v } read && (!r.PoseCard.FarSeat || read.Vertical))
            standards.Add(
                new(
                    Against.PoseCard,
                    v,
                    PoseCard.RatioTolerance * v,
                    PoseCard.RatioSigma * v,
                    "pose card",
                    "pose card: ±3 %, reading 1 % (1 σ)",
                    rule?.Expected
                )
            );
        if (r.Reference is { } reference && measure.Seen(reference))
        {
            var e = measure.Value(reference);
            standards.Add(new(Against.Reference, e, PoseCard.RatioTolerance * e, 0, View, $"{View}: ±3 %", rule?.Expected));
        }
        if (rule is not null && byCanon!.Holds!(situation))
            standards.Add(OfCanon(rule, rule.Expected));
        if (standards.Count > 0 && !Disagree(measure, standards))
            Settle(measure, standards);
        else if (rule is not null && standards.Count == 0)
            NotApplicable(byCanon!, rule, byCanon!.HoldsWhen);
    }

    private void Directions()
    {
        var hours = r.PoseCard is { FarSeat: false } card ? card.DirectionsHours : null;
        foreach (
            var (part, read, level) in new[]
            {
                (Parts.Shoulders, hours?.Shoulders, 90.0),
                (Parts.Pelvis, hours?.Pelvis, 90.0),
                (Parts.Action, hours?.Action, 0.0),
            }
        )
        {
            var measure = m.Direction(part);
            var standards = new List<Standard>();
            if (read is { } h)
                standards.Add(
                    new(
                        Against.PoseCard,
                        ClockAngle.FromHours(h),
                        PoseCard.DirectionTolerance,
                        PoseCard.DirectionSigma,
                        "pose card",
                        "pose card: ±4°, reading 2° (1 σ)",
                        level
                    )
                );
            if (r.Reference is { } reference && measure.Seen(reference))
                standards.Add(
                    new(Against.Reference, measure.Value(reference), PoseCard.DirectionTolerance, 0, View, $"{View}: ±4°", level)
                );
            if (standards.Count > 0 && !Disagree(measure, standards))
                Settle(measure, standards);
        }
    }

    /// <summary>Measures of which card and reference view say two things, beyond both their errors.</summary>
    private readonly List<(Measure Measure, Standard Card, Standard View)> disagreeing = [];

    private bool Disagree(Measure measure, IReadOnlyList<Standard> standards)
    {
        if (standards is not [{ Against: Against.PoseCard } card, { Against: Against.Reference } view, ..])
            return false;
        var apart = card.Expected - view.Expected;
        if (Math.Abs(measure.Kind == MeasureKind.Angle ? ClockAngle.Wrap(apart) : apart) <= Both(card, view))
            return false;
        disagreeing.Add((measure, card, view));
        return true;
    }

    /// <summary>What a reading and a view may lie apart though both are right.</summary>
    private static double Both(Standard card, Standard view) => card.Tolerance + view.Tolerance + (Measure.Ninety * card.Sigma);

    /// <summary>One question for all of them, by the measure that is furthest apart: which of the two is wrong the drawing can't tell.</summary>
    private void AskCardOrView()
    {
        if (disagreeing.Count == 0)
            return;
        var (measure, card, view) = disagreeing.MaxBy(d => Math.Abs(d.Card.Expected - d.View.Expected) / Both(d.Card, d.View));
        var asked = measure with { Rule = Rules.CardAndView, Part = new(Rules.CardAndView.Id, Sentences.Subject(measure)) };
        found.Add(
            new(asked, [card, view], Verdict.TooClose)
            {
                Against = Against.PoseCard,
                Measured = card.Expected,
                Expected = view.Expected,
                Tolerance = Both(card, view),
                Uncertainty = Measure.Ninety * card.Sigma,
                Landmarks = measure.Needs,
                Missing = [.. disagreeing.Where(d => d.Measure != measure).Select(d => Sentences.Subject(d.Measure))],
            }
        );
    }

    private void Plumbs()
    {
        if (r.PoseCard is not { FarSeat: false, Plumbs: { } plumbs })
            return;
        foreach (var p in plumbs)
            Settle(
                FigureMeasures.Plumb(p.From, p.To),
                [
                    new(
                        Against.PoseCard,
                        p.OffsetHeads,
                        PoseCard.PlumbTolerance,
                        PoseCard.PlumbSigma,
                        "pose card",
                        "pose card: ±0.06 head, reading 0.03 head (1 σ)",
                        0
                    ),
                ]
            );
    }

    /// <summary>An arm hangs within this of the upright, and its forearm goes on within this of its upper arm, degrees.</summary>
    private const double HangsWithin = 30,
        StraightWithin = 35;

    /// <summary>Whether every drawn arm hangs: near the upright, about straight, its wrist beside the hip and not behind the back.</summary>
    private static bool Hanging(Landmarks.LandmarkSet marks) =>
        new[] { "L", "R" }.All(s =>
        {
            if (marks[$"acromion.{s}"] is not { } shoulder || marks[$"wrist.{s}"] is not { } wrist)
                return true;
            if (Math.Abs(ClockAngle.Wrap(ClockAngle.OfEdge(shoulder, wrist))) > HangsWithin || wrist.Y <= shoulder.Y)
                return false;
            if (marks[$"elbow.{s}"] is not { } elbow)
                return true;
            var bent = Math.Abs(ClockAngle.Wrap(ClockAngle.OfEdge(elbow, wrist) - ClockAngle.OfEdge(shoulder, elbow)));
            return bent <= StraightWithin && !Between(marks, wrist);
        });

    /// <summary>Nearer to the middle of the hips than to either of their front points: before the body or behind it.</summary>
    private static bool Between(Landmarks.LandmarkSet marks, Vec2 wrist) =>
        marks["asis.L"] is { } left
        && marks["asis.R"] is { } right
        && Math.Abs(wrist.X - ((left.X + right.X) / 2)) < Math.Abs(left.X - right.X) / 4;

    private void Tilt()
    {
        if (OfCanon(Rules.Tilt) is not { } rule)
            return;
        if (r.Pose != "contrapposto" || r.StandingLeg is null)
        {
            NotApplicable(
                Rules.Tilt,
                rule,
                r.Pose != "contrapposto" ? "the tilts oppose one another in contrapposto" : "it must be known which leg stands"
            );
            return;
        }
        var measures = FigureMeasures.Tilt(r.StandingLeg).Where(t => !CardReads(t.Part!.Id)).ToList();
        if (measures.Count > 0 && measures.All(t => !t.Seen(r.Landmarks)))
            NotSeen(measures[0], [OfCanon(rule, 0)]);
        foreach (var t in measures.Where(t => t.Seen(r.Landmarks)))
            Settle(t, [OfCanon(rule, 0)]);

        // What the card reads as a direction is not asked again as a sign.
        bool CardReads(string part) =>
            r.PoseCard is { FarSeat: false, DirectionsHours: { } d }
            && part switch
            {
                Parts.PelvisHigh => d.Pelvis is not null,
                Parts.ShouldersAgainst => d.Shoulders is not null,
                _ => false,
            };
    }

    private void Balance()
    {
        if (OfCanon(Rules.Balance) is not { } rule)
            return;
        if (!Rules.Balance.Holds!(situation))
        {
            NotApplicable(Rules.Balance, rule, Rules.Balance.HoldsWhen);
            return;
        }
        var mass = FigureMeasures.CentreOfMass(r.Landmarks);
        if (m.Support() is not { } feet || (mass is null && !r.Landmarks.Has("pit")))
        {
            NotSeen(
                new(
                    Rules.Balance,
                    null,
                    MeasureKind.Offset,
                    "mm",
                    ["pit", "sole.L", "sole.R"],
                    _ => 0,
                    "plumb from the pit against the feet"
                ),
                []
            );
            return;
        }
        var (middle, half) = ((feet.Left + feet.Right) / 2, (feet.Right - feet.Left) / 2);
        var what = mass is null ? "plumb from the pit of the neck" : "plumb from the centre of mass";
        var measure = new Measure(
            Rules.Balance,
            null,
            MeasureKind.Offset,
            "mm",
            mass is null ? ["pit"] : FigureMeasures.MassIds,
            at => (mass is null ? at("pit").X : FigureMeasures.MassAt(at).X) - middle,
            $"{what} from the middle of the feet, half of which is {Say.Number(half, 1)} mm"
        )
        {
            // The middle of the feet is placed too: half of its two ends, each with a landmark's error.
            Steepness = Math.Sqrt(Math.Pow(mass is null ? 1 : FigureMeasures.MassSteepness, 2) + 0.5),
            At = Rules.Balance.Place,
        };
        Settle(measure, [new(Against.Canon, 0, half, 0, "base of support", rule.Source)], [.. measure.Needs.Take(1), .. feet.Ids]);
    }

    /// <summary>When all ratios in heads are off alike, within 2 % of their middle, the head is the one fault and the rest follow.</summary>
    private void Explain()
    {
        var inHeads = found
            .Where(f => f.Measure.CardKey is not null && f.Against is Against.PoseCard or Against.Reference && f.OffPercent is not null)
            .ToList();
        var head = inHeads.FirstOrDefault(f => f.Rule == Rules.Heads && f.Verdict == Verdict.Outside);
        if (head is null || inHeads.Count < 3)
            return;
        var off = inHeads.Select(f => f.OffPercent!.Value).Order().ToList();
        var middle = off[off.Count / 2];
        if (off.All(o => Math.Abs(o - middle) <= AlikePercent))
            Fold(f => f != head && inHeads.Contains(f), head.Key);
    }

    private void Fold(Func<Finding, bool> symptoms, string root)
    {
        for (var i = 0; i < found.Count; i++)
            if (found[i].FollowsFrom is null && symptoms(found[i]))
                found[i] = found[i] with { FollowsFrom = root };
    }

    /// <summary>At most so many causes are named on one sheet.</summary>
    private const int MostCauses = 2;

    /// <summary>Traces what is outside to what caused it: the drawing is judged again without the cause, and what is outside no longer follows
    /// from it.</summary>
    private void Trace()
    {
        if (r.Reference is null)
            return;
        var search = new CauseSearch(r);
        var drawn = r.Landmarks;
        for (var n = 0; n < MostCauses && found.Count(Unexplained) > 1 && search.Best(drawn) is { } cause; n++)
        {
            var still = new FigureJudging(r with { Landmarks = cause.Without }, explain: false)
                .Run()
                .Findings.Where(Unexplained)
                .Select(f => (f.Key, f.Against))
                .ToHashSet();
            var symptoms = found.Where(f => Unexplained(f) && !still.Contains((f.Key, f.Against))).ToList();
            if (Root(cause, symptoms) is not { } root)
                break;
            if (!found.Contains(root))
            {
                // Said by all that it moves, not by its own two marks.
                found.RemoveAll(f => f.Key == root.Key && f.Against == Against.Reference);
                found.Add(root);
            }
            Fold(f => f != root && f.Key != root.Key && symptoms.Contains(f), root.Key);
            drawn = cause.Without;
        }
    }

    /// <summary>Off, or as it lies so probably; a cause may be sharp though none of the measures that show it is.</summary>
    private static bool Unexplained(Finding f) => (f.Verdict == Verdict.Outside || f.Suspected) && f.FollowsFrom is null;

    /// <summary>The finding that a cause is said by: the judge's own of it, the head's where a card told it, else one made for it. Null where
    /// it explains nothing, or isn't known sharply enough to be said. What moves many marks is known more sharply than any one of them.</summary>
    private Finding? Root(FoundCause cause, IReadOnlyList<Finding> symptoms)
    {
        if (symptoms.Count == 0)
            return null;
        if (cause.Cause.Part?.Id == "head" && symptoms.FirstOrDefault(f => f.Rule == Rules.Heads && f.IsOutside) is { } heads)
            return heads;
        var own = found.FirstOrDefault(f => f.Key == cause.Cause.Key && f.Against == Against.Reference);
        // An angle can't be spoken of without the drawn edge that it is read off.
        if (own is { IsOutside: true } || cause.Cause.Rule == Rules.Lean || (own is null && cause.Cause.Kind == MeasureKind.Angle))
            return own;
        var u = Measure.Ninety * cause.Sigma;
        // It is told no more finely than it is known.
        var tolerance = Math.Max(cause.Cause.Tolerance, u);
        var sharp = Verdicts.Of(cause.Amount, tolerance, u) == Verdict.Outside;
        if (!sharp || symptoms.Count < 2 || (exercise is not null && !exercise.Allows(cause.Cause.Rule)))
            return null;
        var told = own ?? Made(cause.Cause, cause.Amount);
        var against = told.Standards.First(s => s.Against == Against.Reference);
        return told with
        {
            Standards =
            [
                against with
                {
                    Tolerance = tolerance,
                    Source = Within(told.Measure.Kind, tolerance),
                },
                .. told.Standards.Where(s => s != against),
            ],
            Verdict = Verdict.Outside,
            Measured = told.Expected + cause.Amount,
            Tolerance = tolerance,
            Uncertainty = u,
            Placed = cause.Sigma,
            Missing = [],
        };
    }

    /// <summary>For what the judge has no measure of its own.</summary>
    private Finding Made(Cause cause, double amount) =>
        new(cause.Told(amount), [new(Against.Reference, cause.None, cause.Tolerance, 0, View, "")], Verdict.Outside)
        {
            Against = Against.Reference,
            Expected = cause.None,
            Landmarks = [.. cause.Needs.Where(r.Landmarks.Has)],
        };

    private static string Within(Measure measure, double tolerance) =>
        measure.Kind == MeasureKind.Offset
            ? $"±{Say.Number(100 * tolerance)} % of the {measure.Unit}"
            : $"±{Say.Number(100 * tolerance)} %";

    private static string Within(MeasureKind kind, double tolerance) =>
        kind switch
        {
            MeasureKind.Ratio => $"{View}: ±{Say.Number(100 * tolerance)} %",
            MeasureKind.Angle => $"{View}: ±{Say.Number(tolerance)}°",
            _ => $"{View}: ±{Say.Number(tolerance, 2)} heads",
        };
}
