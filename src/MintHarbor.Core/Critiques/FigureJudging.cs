using MintHarbor.Core.Canons;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>Judges a standing, leaning or seated figure.</summary>
internal sealed class FigureJudging(JudgeRequest request) : Judging(request, Hanging(request.Landmarks))
{
    private const string View = "reference view";

    /// <summary>Tolerances against a reference view, common practice, no source: lengths ±5 %, directions ±4°, lean ±2°.</summary>
    private const double LengthTolerance = 0.05,
        LeanTolerance = 2;

    /// <summary>Ratios of a sheet that are off alike within so many per cent are one fault.</summary>
    private const double AlikePercent = 2;

    private readonly FigureMeasures m = new(request.Landmarks, request.StandingLeg);

    public Judgement Run()
    {
        InHeads();
        Directions();
        Plumbs();
        var alignment = Alignment();
        AgainstReference(alignment);
        foreach (var rule in Rules.All.Where(r => r.OfFigure is not null))
            Settle(rule, expected => rule.OfFigure!(m, expected));
        Tilt();
        Balance();
        return new(Explain(), alignment);
    }

    /// <summary>Part by part against the reference view: the whole's lean first, then lengths and directions with it taken along.</summary>
    private void AgainstReference(Similarity? alignment)
    {
        if (r.Reference is not { } reference || alignment is null)
            return;
        Lean(reference, alignment);
        var parts = new ReferenceMeasures(r.Landmarks, reference, alignment);
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
        if (r.PoseCard is { FarSeat: false, Plumbs: not null })
            return;
        foreach (var to in new[] { "ankleout.R", "ankleout.L", "pubic" })
        {
            var plumb = FigureMeasures.Plumb("pit", to);
            if (plumb.Seen(reference))
                Settle(plumb, [new(Against.Reference, plumb.Value(reference), PoseCard.PlumbTolerance, 0, View, $"{View}: ±0.06 head", 0)]);
        }
    }

    private void Lean(Landmarks.LandmarkSet reference, Similarity alignment)
    {
        var shared = r.Landmarks.Points.Where(p => reference.Has(p.Key)).Select(p => p.Value).ToList();
        if (shared.Count < 6)
            return;
        var centre = new Vec2(shared.Average(p => p.X), shared.Average(p => p.Y));
        var spread = Math.Sqrt(shared.Average(p => (p - centre).Dot(p - centre)));
        var lean = new Measure(
            Rules.Lean,
            null,
            MeasureKind.Angle,
            "deg",
            ["crown", "chin"],
            _ => alignment.TurnDegrees,
            "turn that lays the reference view over the drawing"
        )
        {
            Steepness = 180 / Math.PI / (spread * Math.Sqrt(shared.Count)),
        };
        if (lean.Seen(r.Landmarks))
            Settle(lean, [new(Against.Reference, 0, LeanTolerance, 0, View, $"{View}: ±2°")]);
    }

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
        if (standards.Count > 0)
            Settle(measure, standards);
        else if (rule is not null)
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
            if (standards.Count > 0)
                Settle(measure, standards);
        }
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

    /// <summary>Whether no drawn arm leaves the upright by more than 30°.</summary>
    private static bool Hanging(Landmarks.LandmarkSet marks) =>
        new[] { "L", "R" }.All(s =>
            marks[$"acromion.{s}"] is not { } a
            || marks[$"wrist.{s}"] is not { } w
            || (Math.Abs(ClockAngle.Wrap(ClockAngle.OfEdge(a, w))) <= 30 && w.Y > a.Y)
        );

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

    /// <summary>When all ratios in heads are off alike, within 2 %, the head is the one fault and the rest follow.</summary>
    private List<Finding> Explain()
    {
        var inHeads = found
            .Where(f => f.Measure.CardKey is not null && f.Against is Against.PoseCard or Against.Reference && f.OffPercent is not null)
            .ToList();
        var head = inHeads.FirstOrDefault(f => f.Rule == Rules.Heads && f.Verdict == Verdict.Outside);
        if (head is null || inHeads.Count < 3)
            return found;
        var off = inHeads.Select(f => f.OffPercent!.Value).ToList();
        if (off.Max() - off.Min() > AlikePercent)
            return found;
        return [.. found.Select(f => f != head && inHeads.Contains(f) ? f with { FollowsFrom = Rules.Heads } : f)];
    }
}
