using MintHarbor.Core.Canons;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>Judges a standing, leaning or seated figure.</summary>
internal sealed class FigureJudging(JudgeRequest request) : Judging(request)
{
    private readonly FigureMeasures m = new(request.Landmarks, request.StandingLeg);

    private bool Standing => r.Pose is "standing";
    private bool Upright => r.Pose is "standing" or "contrapposto";
    private bool Frontal => r.View is "front" or "back";

    public Judgement Run()
    {
        InHeads();
        Directions();
        Plumbs();
        var alignment = Alignment();
        AgainstReference(alignment);
        CanonOnly();
        return new(Explain(), alignment);
    }

    /// <summary>Tolerances against a reference view, common practice, no source: lengths ±5 %, directions ±4°, lean ±2°.</summary>
    private const double LengthTolerance = 0.05,
        LeanTolerance = 2;

    /// <summary>Part by part against the reference view: the whole's lean first, then lengths and directions with it taken along.</summary>
    private void AgainstReference(Similarity? alignment)
    {
        if (r.Reference is not { } reference || alignment is null)
            return;
        var m = new ReferenceMeasures(r.Landmarks, reference, alignment);
        var shared = r.Landmarks.Points.Where(p => reference.Has(p.Key)).Select(p => p.Value).ToList();
        if (shared.Count >= 6)
        {
            var centre = new Vec2(shared.Average(p => p.X), shared.Average(p => p.Y));
            var spread = Math.Sqrt(shared.Average(p => (p - centre).Dot(p - centre)));
            var lean = new Measure(
                "R-lean",
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
                Settle(lean, [new(Against.Reference, 0, LeanTolerance, 0, "reference view", "reference view: ±2°")]);
        }
        foreach (var p in m.Seen)
        {
            var seen =
                p.Limb is null ? null
                : r.Foreshortening.TryGetValue(p.Limb, out var ratio) ? ratio
                : (double?)null;
            Settle(
                m.LengthOf(p),
                [
                    new(Against.Reference, 1, LengthTolerance, m.ScaleSigma(r.PlacementErrorMm), "reference view", "reference view: ±5 %")
                    {
                        Foreshortened = seen,
                    },
                ]
            );
            if (p.Limb is not null || p.Name == "trunk")
                Settle(
                    ReferenceMeasures.DirectionOf(p),
                    [
                        new(
                            Against.Reference,
                            m.ExpectedDirection(p),
                            PoseCard.DirectionTolerance,
                            0,
                            "reference view",
                            "reference view: ±4°"
                        ),
                    ]
                );
        }
        if (r.PoseCard is { FarSeat: false, Plumbs: not null })
            return;
        foreach (var to in new[] { "ankleout.R", "ankleout.L", "pubic" })
        {
            var plumb = FigureMeasures.Plumb("pit", to);
            if (plumb.Seen(reference))
                Settle(
                    plumb,
                    [
                        new(
                            Against.Reference,
                            plumb.Value(reference),
                            PoseCard.PlumbTolerance,
                            0,
                            "reference view",
                            "reference view: ±0.06 head",
                            0
                        ),
                    ]
                );
        }
    }

    private void InHeads()
    {
        var card = r.PoseCard;
        Add(m.Heads(), card?.Heads, "F-heads", Standing, "the canon's count holds for a standing figure seen level");
        Add(
            m.Shoulders(),
            card is { FarSeat: false } ? card.Shoulders : null,
            "F-shoulder",
            r.View == "front" && Upright,
            "shoulder breadth holds from the front"
        );
        Add(m.PitTo("pit to pubic bone", "pubic"), card?.PitToPubic, null, false, "");
        Add(m.PitTo("pit to kneecap", "kneetop"), card?.PitToKneetop, null, false, "");
        Add(m.PitTo("pit to sole", "sole"), card?.PitToSole, null, false, "");
    }

    /// <summary>A ratio in heads, which card, reference and canon may all speak of.</summary>
    private void Add(Measure measure, double? read, string? canonRule, bool canonHolds, string holdsWhen)
    {
        var rule = canonRule is null ? null : canon.Rule(canonRule);
        var standards = new List<Standard>();
        if (read is { } v)
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
            standards.Add(
                new(Against.Reference, e, PoseCard.RatioTolerance * e, 0, "reference view", "reference view: ±3 %", rule?.Expected)
            );
        }
        if (rule is not null && canonHolds)
            standards.Add(OfCanon(rule, rule.Expected));
        if (standards.Count > 0)
            Settle(measure, standards);
        else if (rule is not null)
            NotApplicable(rule, holdsWhen);
    }

    private void Directions()
    {
        var hours = r.PoseCard is { FarSeat: false } card ? card.DirectionsHours : null;
        foreach (
            var (part, read, level) in new[]
            {
                ("shoulders", hours?.Shoulders, 90.0),
                ("pelvis", hours?.Pelvis, 90.0),
                ("action", hours?.Action, 0.0),
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
                    new(
                        Against.Reference,
                        measure.Value(reference),
                        PoseCard.DirectionTolerance,
                        0,
                        "reference view",
                        "reference view: ±4°",
                        level
                    )
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

    private void CanonOnly()
    {
        Group("F-mid", Standing, "half height holds for a standing figure", rule => [(m.Mid(), rule.Expected)]);
        Group("F-spans", Upright, "the three spans hold standing or on one leg", rule => m.Spans().Select(s => (s, rule.Expected)));
        Group("F-hand", Standing && r.View != "profile", "the hand must lie unforeshortened, as in a level standing pose", rule =>
            m.EachSide(FigureMeasures.Hand).Select(s => (s, rule.Expected))
        );
        Group("F-foot", r.View == "profile", "the foot's length shows from the side", rule =>
            m.EachSide(FigureMeasures.Foot).Select(s => (s, rule.Expected))
        );
        Group("F-elbow", Standing && Hanging, "the arm must hang", rule =>
            m.EachSide(FigureMeasures.Elbow).Select(s => (s, rule.Expected))
        );
        Group("F-arm", Standing && Frontal, "the arm must lie unforeshortened, as in a level standing pose", rule =>
            new[] { "R", "L" }.SelectMany(FigureMeasures.Arm).Select(s => (s, rule.ExpectedOf(s.Part!.Split(',')[0])))
        );
        Group("F-wrist", Standing && Hanging, "the arm must hang", rule =>
            new[] { "R", "L" }.SelectMany(m.Wrist).Select(s => (s, rule.Expected))
        );
        Group("F-pair", Standing && Frontal && r.Reference is null, "both limbs must lie unforeshortened", rule =>
            FigureMeasures.Limbs.Select(l => (FigureMeasures.Pair(l.Name, l.A, l.B), rule.Expected))
        );
        Tilt();
        Balance();
    }

    /// <summary>Whether no drawn arm leaves the upright by more than 30°.</summary>
    private bool Hanging =>
        new[] { "L", "R" }.All(s =>
            r.Landmarks[$"acromion.{s}"] is not { } a
            || r.Landmarks[$"wrist.{s}"] is not { } w
            || (Math.Abs(ClockAngle.Wrap(ClockAngle.OfEdge(a, w))) <= 30 && w.Y > a.Y)
        );

    private void Tilt()
    {
        if (canon.Rule("F-tilt") is not { } rule)
            return;
        if (r.Pose != "contrapposto" || r.StandingLeg is null)
        {
            NotApplicable(
                rule,
                r.Pose != "contrapposto" ? "the tilts oppose one another in contrapposto" : "it must be known which leg stands"
            );
            return;
        }
        var measures = FigureMeasures.Tilt(r.StandingLeg).Where(t => !(t.Kind == MeasureKind.Sign && CardReads(t))).ToList();
        if (measures.Count > 0 && measures.All(t => !t.Seen(r.Landmarks)))
            NotSeen(measures[0], 0, rule.Tolerance, Against.Canon);
        foreach (var t in measures.Where(t => t.Seen(r.Landmarks)))
            Settle(t, [OfCanon(rule, 0)]);

        bool CardReads(Measure t) =>
            r.PoseCard is { FarSeat: false, DirectionsHours: { } d }
            && (t.Part!.StartsWith("pelvis", StringComparison.Ordinal) ? d.Pelvis : d.Shoulders) is not null;
    }

    private void Balance()
    {
        if (canon.Rule("F-balance") is not { } rule)
            return;
        if (!Upright)
        {
            NotApplicable(rule, "the plumb meets the feet in a standing pose at rest");
            return;
        }
        var mass = FigureMeasures.CentreOfMass(r.Landmarks);
        if (m.Support() is not { } feet || (mass is null && !r.Landmarks.Has("pit")))
        {
            NotSeen(
                new(
                    "F-balance",
                    null,
                    MeasureKind.Offset,
                    "mm",
                    ["pit", "sole.L", "sole.R"],
                    _ => 0,
                    "plumb from the pit against the feet"
                ),
                null,
                null,
                Against.Canon
            );
            return;
        }
        var (middle, half) = ((feet.Left + feet.Right) / 2, (feet.Right - feet.Left) / 2);
        var what = mass is null ? "plumb from the pit of the neck" : "plumb from the centre of mass";
        var measure = new Measure(
            "F-balance",
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
        };
        Settle(measure, [new(Against.Canon, 0, half, 0, "base of support", rule.Source)], [.. measure.Needs.Take(1), .. feet.Ids]);
    }

    /// <summary>When all ratios in heads are off alike, within 2 %, the head is the one fault and the rest follow.</summary>
    private List<Finding> Explain()
    {
        var inHeads = found
            .Where(f =>
                f.Unit == "heads"
                && f.Rule is "F-heads" or "F-shoulder" or "F-spans"
                && f.Against is Against.PoseCard or Against.Reference
                && f.OffPercent is not null
            )
            .ToList();
        var head = inHeads.FirstOrDefault(f => f.Rule == "F-heads" && f.Verdict == Verdict.Outside);
        if (head is null || inHeads.Count < 3)
            return found;
        var off = inHeads.Select(f => f.OffPercent!.Value).ToList();
        if (off.Max() - off.Min() > 2)
            return found;
        return [.. found.Select(f => f != head && inHeads.Contains(f) ? f with { FollowsFrom = "F-heads" } : f)];
    }
}
