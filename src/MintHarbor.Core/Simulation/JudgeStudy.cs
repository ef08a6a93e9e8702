using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Simulation;

/// <summary>What the judge made of many simulated sheets, for one rule against one kind of standard.</summary>
/// <param name="Due">Measures that lie at or beyond tolerance and twice the uncertainty, and are large enough to judge.</param>
/// <param name="Found">Of those, the ones that were said to be outside.</param>
/// <param name="Inside">Measures that truly lie within tolerance.</param>
/// <param name="False">Of those, the ones that were said to be outside.</param>
/// <param name="Judged">Measures with an interval.</param>
/// <param name="Covered">Of those, intervals that hold the truth.</param>
/// <param name="Large">Measures off by 8 % or 4° and more, whatever their uncertainty; <paramref name="LargeFound"/> of them said.</param>
public sealed record StudyRow(
    Against Against,
    string Rule,
    int Due,
    int Found,
    int Inside,
    int False,
    int Judged,
    int Covered,
    int TooSmall,
    int Large,
    int LargeFound
);

/// <param name="Due">Sheets on which the fault puts some measure at or beyond tolerance and twice the uncertainty.</param>
public sealed record FaultRow(string Fault, string Size, int Sheets, int Due, int Found);

/// <param name="Clean">Sheets without a fault, by kind of standard, and on how many of them something was said to be outside that isn't.</param>
/// <param name="Covers">Intervals on sheets with a fault and on clean ones, and how many of them hold the truth.</param>
/// <param name="Causes">Sheets with one fault that is due, by its name: on how many the right cause is named, and on how many it alone.</param>
public sealed record StudyResult(
    int Sheets,
    IReadOnlyList<StudyRow> Rows,
    IReadOnlyList<FaultRow> Faults,
    IReadOnlyList<(Against Against, int Sheets, int Alarms)> Clean
)
{
    public IReadOnlyList<(Against Against, bool Faulty, int Judged, int Covered)> Covers { get; init; } = [];
    public IReadOnlyList<(string Fault, int Due, int Named, int Alone)> Causes { get; init; } = [];
}

/// <summary>What a study counts, sheet by sheet.</summary>
internal sealed class StudyTally
{
    public Dictionary<(Against, string), int[]> Rows { get; } = [];
    public Dictionary<(string, string), int[]> Faults { get; } = [];
    public Dictionary<Against, int[]> Clean { get; } = [];
    public Dictionary<(Against, bool), int[]> Covers { get; } = [];
    public Dictionary<string, int[]> Causes { get; } = [];

    public StudyResult Result(int sheets) =>
        JudgeStudy.Result(sheets, Rows, Faults, Clean) with
        {
            Covers = [.. Covers.OrderBy(c => c.Key).Select(c => (c.Key.Item1, c.Key.Item2, c.Value[0], c.Value[1]))],
            Causes = [.. Causes.OrderBy(c => c.Key, StringComparer.Ordinal).Select(c => (c.Key, c.Value[0], c.Value[1], c.Value[2]))],
        };
}

/// <summary>Simulated sheets through the judge: the studio figure seen from a seat, drawn with known faults, its landmarks placed with
/// error, held against the reference view, a pose card read with error, and the canon. The truth of every measure is the geometry that was put in
/// (<see cref="PutIn"/>), so that the judge's own ways of finding scale and turn are on trial too.</summary>
public static class JudgeStudy
{
    /// <summary>Adds the error that a sheet got on its way from paper to the bench, mm; none where landmarks are taken from the drawing.</summary>
    public delegate Vec2 Straightened(int sheet, Vec2 truth, double paperWidth, double paperHeight);

    public const double Placement = 0.7,
        PaperWidth = 457.2,
        PaperHeight = 609.6;

    public static StudyResult Run(long seed, int sheets, StudioFigure studio, Straightened? straightened = null)
    {
        var random = new SeededRandom(seed);
        var tally = new StudyTally();
        var poses = FigureCatalogue.Poses;
        var bodies = FigureCatalogue.Bodies;
        for (var n = 0; n < sheets; n++)
        {
            // One body for each pose of a round keeps the count of models small: every body meets every pose in the end.
            var pose = poses[n % poses.Count];
            var body = bodies[(n / poses.Count) % bodies.Count].Id;
            var model = studio.Model(body, pose, Drapery.For(false, false), StudioFigure.Thumb);
            var view = StudioFigure.View(
                model,
                new(random.Between(-170, 170), random.Between(2.4, 4.5), random.Between(1.0, 1.6)),
                FigureViewKind.Mass,
                480,
                720
            );
            var seen = view.Limbs.ToDictionary(l => l.Id, l => l.Ratio);
            var reference = view.Landmarks.ToDictionary(l => l.Key, l => l.Value.At);
            var given = Faults(random, n);
            var side = random.Next(2) == 0 ? "L" : "R";
            var drawn = given.Aggregate((IReadOnlyDictionary<string, Vec2>)reference, (m, f) => FigureFaults.Apply(m, f, seen, side));
            var (exact, scale) = OnSheet(drawn, random.Between(300, 520));
            Dictionary<string, Vec2> Placed(Dictionary<string, Vec2> at) =>
                at.ToDictionary(
                    l => l.Key,
                    l =>
                        (straightened?.Invoke(n, l.Value, PaperWidth, PaperHeight) ?? l.Value)
                        + new Vec2(random.Normal(Placement), random.Normal(Placement))
                );
            var noisy = Placed(exact);
            var asked = new JudgeRequest
            {
                Pose = JudgesWord(pose),
                StandingLeg = pose.Weight,
                View = "front",
                Foreshortening = seen,
                Landmarks = new([]),
            };
            var (trueCard, readCard) = Cards(reference, pose, random);
            foreach (var against in Enum.GetValues<Against>())
            {
                if (against == Against.Canon)
                {
                    // A canon speaks of standing figures seen from the front: every sheet has one beside it with the same faults.
                    pose = FigureCatalogue.Pose(n % 2 == 0 ? "stand" : "contrapposto");
                    view = StudioFigure.View(
                        studio.Model(body, pose, Drapery.For(false, false), StudioFigure.Thumb),
                        new(random.Between(-10, 10)),
                        FigureViewKind.Mass,
                        480,
                        720
                    );
                    seen = view.Limbs.ToDictionary(l => l.Id, l => l.Ratio);
                    reference = view.Landmarks.ToDictionary(l => l.Key, l => l.Value.At);
                    (exact, scale) = OnSheet(
                        given.Aggregate((IReadOnlyDictionary<string, Vec2>)reference, (m, f) => FigureFaults.Apply(m, f, seen, side)),
                        random.Between(300, 520)
                    );
                    noisy = Placed(exact);
                    asked = asked with { Pose = JudgesWord(pose), StandingLeg = pose.Weight };
                }
                JudgeRequest With(Dictionary<string, Vec2> marks, PoseCard card, double error) =>
                    asked with
                    {
                        Landmarks = new(marks),
                        PlacementErrorMm = error,
                        Reference = against == Against.Reference ? new LandmarkSet(reference) : null,
                        PoseCard = against == Against.PoseCard ? card : null,
                    };
                var truth = new PutIn(exact, reference, scale, given, trueCard, asked.StandingLeg);
                var said = Judge.Figure(With(noisy, readCard, Placement)).Findings.Where(f => f.Against == against).ToList();
                var (alarm, dueOnSheet, foundOnSheet) = Count(tally, against, said, truth.Off, given.Count > 0);
                if (given.Count == 0)
                    Clean(tally.Clean, against, alarm);
                else if (against == Against.Reference && given.Count == 1)
                {
                    var fault = FigureFaults.All.First(a => a.Name == given[0].Name);
                    Tally(tally.Faults, (fault.Name, Third(fault, given[0].Size)), dueOnSheet, foundOnSheet);
                    if (dueOnSheet)
                        Cause(tally.Causes, fault.Name, said);
                }
            }
        }
        return tally.Result(sheets);
    }

    /// <summary>The rule that a fault's cause is named by, and the part where the rule has several; faults that are their own one measure are
    /// none's cause.</summary>
    internal static (Rule Rule, string? Part)? CauseOf(string fault) =>
        fault switch
        {
            "head large" => (Rules.Length, "head"),
            "legs short" or "squeezed at the end" => (Rules.Lower, null),
            FigureFaults.Leaning => (Rules.Lean, null),
            FigureFaults.WholeStretched => (Rules.Stretch, null),
            FigureFaults.HipsShifted => (Rules.HipShift, null),
            FigureFaults.ThighTurned => (Rules.EdgeDirection, "thigh"),
            FigureFaults.ArmTurned => (Rules.EdgeDirection, "upper-arm"),
            FigureFaults.ShankTurned => (Rules.EdgeDirection, "shank"),
            _ => null,
        };

    internal static bool Names(Finding f, (Rule Rule, string? Part) cause) =>
        (f.Rule == cause.Rule && (cause.Part is null || f.Measure.Part?.Id == cause.Part))
        || (cause.Part == "head" && f.Rule == Rules.Heads);

    private static void Cause(Dictionary<string, int[]> causes, string fault, IReadOnlyList<Finding> said)
    {
        if (CauseOf(fault) is not var (rule, part))
            return;
        var roots = said.Where(f => f.IsOutside && f.FollowsFrom is null).ToList();
        bool Right(Finding f) =>
            (f.Rule == rule && (part is null || f.Measure.Part?.Id == part)) || (part == "head" && f.Rule == Rules.Heads);
        var c = causes.GetValueOrDefault(fault) ?? (causes[fault] = new int[3]);
        c[0]++;
        if (roots.Any(Right))
            c[1]++;
        if (roots.Count > 0 && roots.All(Right))
            c[2]++;
    }

    internal static StudyResult Result(
        int sheets,
        Dictionary<(Against, string), int[]> rows,
        Dictionary<(string, string), int[]> faults,
        Dictionary<Against, int[]> clean
    ) =>
        new(
            sheets,
            [
                .. rows.OrderBy(r => r.Key.Item1)
                    .ThenBy(r => r.Key.Item2, StringComparer.Ordinal)
                    .Select(r => new StudyRow(
                        r.Key.Item1,
                        r.Key.Item2,
                        r.Value[0],
                        r.Value[1],
                        r.Value[2],
                        r.Value[3],
                        r.Value[4],
                        r.Value[5],
                        r.Value[6],
                        r.Value[7],
                        r.Value[8]
                    )),
            ],
            [
                .. faults
                    .OrderBy(f => f.Key.Item1, StringComparer.Ordinal)
                    .ThenBy(f => f.Key.Item2, StringComparer.Ordinal)
                    .Select(f => new FaultRow(f.Key.Item1, f.Key.Item2, f.Value[0], f.Value[1], f.Value[2])),
            ],
            [.. clean.OrderBy(c => c.Key).Select(c => (c.Key, c.Value[0], c.Value[1]))]
        );

    /// <summary>The third of a fault's range of sizes that one lies in, "4 % to 10 %".</summary>
    internal static string Third((string Name, string Unit, double Least, double Most) fault, double size)
    {
        var (_, unit, least, most) = fault;
        var third = (int)Math.Clamp((Math.Abs(size) - least) / (most - least) * 3, 0, 2);
        string Word(double v) => unit == "deg" ? $"{v:0.#}°" : $"{100 * v:0.#} %";
        return $"{Word(least + ((most - least) * third / 3))} to {Word(least + ((most - least) * (third + 1) / 3))}";
    }

    /// <summary>One more sheet of a fault and size: whether it was due, and whether something was said.</summary>
    internal static void Tally(Dictionary<(string, string), int[]> faults, (string, string) key, bool due, bool found)
    {
        var f = faults.GetValueOrDefault(key) ?? (faults[key] = [0, 0, 0]);
        f[0]++;
        if (due)
            f[1]++;
        if (due && found)
            f[2]++;
    }

    /// <summary>One more sheet without a fault.</summary>
    internal static void Clean(Dictionary<Against, int[]> clean, Against against, bool alarm)
    {
        var c = clean.GetValueOrDefault(against) ?? (clean[against] = [0, 0]);
        c[0]++;
        if (alarm)
            c[1]++;
    }

    /// <summary>Every fourth sheet is clean, the others have one fault or two.</summary>
    private static List<NamedFault> Faults(SeededRandom random, int n)
    {
        var faults = new List<NamedFault>();
        if (n % 4 == 0)
            return faults;
        for (var k = 0; k < (n % 4 == 3 ? 2 : 1); k++)
        {
            var (name, unit, least, most) = FigureFaults.All[random.Next(FigureFaults.All.Count)];
            if (faults.All(f => f.Name != name))
                faults.Add(new(name, random.Between(least, most) * (unit == "deg" && random.Next(2) == 0 ? -1 : 1)));
        }
        return faults;
    }

    /// <summary>Picture pixels to millimetres: the figure of a height, in the middle of the sheet.</summary>
    private static (Dictionary<string, Vec2> Marks, double Scale) OnSheet(IReadOnlyDictionary<string, Vec2> m, double heightMm)
    {
        var (x0, x1, y0, y1) = (m.Values.Min(p => p.X), m.Values.Max(p => p.X), m.Values.Min(p => p.Y), m.Values.Max(p => p.Y));
        var scale = Math.Min(heightMm / (y1 - y0), 400 / (x1 - x0));
        var middle = new Vec2((x0 + x1) / 2, (y0 + y1) / 2);
        return (m.ToDictionary(l => l.Key, l => new Vec2(PaperWidth / 2, PaperHeight / 2) + ((l.Value - middle) * scale)), scale);
    }

    private static string JudgesWord(Pose p) =>
        p.Id switch
        {
            "stand" => "standing",
            "contrapposto" => "contrapposto",
            _ => p.Strain is "seated" ? "seated"
            : p.Strain is "lying" ? "reclining"
            : "other",
        };

    /// <summary>The card of a pose as it is and as a pencil reads it.</summary>
    private static (PoseCard True, PoseCard Read) Cards(IReadOnlyDictionary<string, Vec2> reference, Pose pose, SeededRandom random)
    {
        var marks = new LandmarkSet(reference);
        var m = new FigureMeasures(marks, pose.Weight);
        double? Ratio(Measure x, double low, double high) => x.Value(marks) is var v && v > low && v < high ? v : null;
        double Hour(string part) => ClockAngle.ToHours(ClockAngle.Fold(m.Direction(part).Value(marks)));
        var exact = new PoseCard
        {
            Heads = Ratio(m.Heads(), 2, 12),
            Shoulders = Ratio(m.Shoulders(), 0.3, 4),
            PitToPubic = Ratio(m.PitTo(Parts.PitToPubic), 0.5, 5),
            PitToKneetop = Ratio(m.PitTo(Parts.PitToKneetop), 0.5, 7),
            PitToSole = Ratio(m.PitTo(Parts.PitToSole), 0.5, 10),
            DirectionsHours = new(Hour(Parts.Shoulders), Hour(Parts.Pelvis), Hour(Parts.Action)),
            Plumbs =
            [
                .. new[] { "ankleout.R", "ankleout.L", "pubic" }
                    .Select(to => new PlumbReading("pit", to, FigureMeasures.Plumb("pit", to).Value(marks)))
                    .Where(p => Math.Abs(p.OffsetHeads) < 7),
            ],
        };
        double? Misread(double? v) => v is { } x ? x * (1 + random.Normal(PoseCard.RatioSigma)) : null;
        double Around(double hours) => (hours + (random.Normal(PoseCard.DirectionSigma) / 30) + 12) % 12;
        var d = exact.DirectionsHours;
        return (
            exact,
            exact with
            {
                Heads = Misread(exact.Heads),
                Shoulders = Misread(exact.Shoulders),
                PitToPubic = Misread(exact.PitToPubic),
                PitToKneetop = Misread(exact.PitToKneetop),
                PitToSole = Misread(exact.PitToSole),
                DirectionsHours = new(Around(d.Shoulders!.Value), Around(d.Pelvis!.Value), Around(d.Action!.Value)),
                Plumbs = [.. exact.Plumbs!.Select(p => p with { OffsetHeads = p.OffsetHeads + random.Normal(PoseCard.PlumbSigma) })],
            }
        );
    }

    /// <param name="truth">How far a measure is truly off; null where the study has no truth of it.</param>
    internal static (bool Alarm, bool Due, bool Found) Count(
        StudyTally tally,
        Against against,
        List<Finding> said,
        Func<Finding, double?> truth,
        bool faulty
    )
    {
        var (alarm, anyDue, anyFound) = (false, false, false);
        foreach (var f in said)
        {
            if (f.Off is not { } d || f.Tolerance is not { } t || f.Uncertainty is not { } u || truth(f) is not { } off)
                continue;
            var angle = f.Measure.Kind == MeasureKind.Angle;
            var c = tally.Rows.GetValueOrDefault((against, f.Rule.Id)) ?? (tally.Rows[(against, f.Rule.Id)] = new int[9]);
            if (f.Verdict == Verdict.TooSmall)
            {
                c[6]++;
                continue;
            }
            var cover = tally.Covers.GetValueOrDefault((against, faulty)) ?? (tally.Covers[(against, faulty)] = new int[2]);
            var held = Math.Abs(angle ? ClockAngle.Wrap(d - off) : d - off) <= u;
            c[4]++;
            cover[0]++;
            if (held)
            {
                c[5]++;
                cover[1]++;
            }
            var outside = f.Verdict is Verdict.Outside or Verdict.Pushed;
            // A rule of sign has no tolerance: only the wrong way is off.
            var isSign = t == 0;
            var due = isSign ? off <= -2 * u : Math.Abs(off) >= t + (2 * u);
            var inside = isSign ? off >= 0 : Math.Abs(off) <= t;
            if (due)
            {
                c[0]++;
                if (outside)
                    c[1]++;
                anyDue = true;
                anyFound |= outside;
            }
            if (inside)
            {
                c[2]++;
                if (outside)
                {
                    c[3]++;
                    alarm = true;
                }
            }
            if (
                f.Rule == Rules.Length && Math.Abs(off) >= 0.08
                || ((f.Rule == Rules.EdgeDirection || f.Rule == Rules.Lean) && Math.Abs(off) >= 4)
            )
            {
                c[7]++;
                if (outside)
                    c[8]++;
            }
        }
        return (alarm, anyDue, anyFound);
    }
}
