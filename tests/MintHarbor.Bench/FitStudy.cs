using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;

namespace MintHarbor.Bench;

/// <summary>What became of the sheets of one condition after so many answers.</summary>
public sealed class FitRow
{
    public int Sheets { get; set; }
    public int Unfitted { get; set; }
    public int Beyond { get; set; }
    public int Marks { get; set; }
    public int Covered { get; set; }
    public int ProportionsDue { get; set; }
    public int ProportionsFound { get; set; }
    public int DirectionsDue { get; set; }
    public int DirectionsFound { get; set; }

    /// <summary>Of what is due, said to be outside; the rest of what is found is only pointed at.</summary>
    public int Judged { get; set; }
    public int Right { get; set; }

    /// <summary>Right ones that are pointed at.</summary>
    public int Pointed { get; set; }
    public int False { get; set; }
    public int Clean { get; set; }
    public int Alarms { get; set; }

    /// <summary>Causes of the whole: head, legs, squash, stretch, lean.</summary>
    public int CausesDue { get; set; }
    public int CausesNamed { get; set; }

    /// <summary>One limb turned, or the hips shifted.</summary>
    public int LimbsDue { get; set; }
    public int LimbsNamed { get; set; }
    public List<double> Errors { get; } = [];

    public double Error(double share) =>
        Errors.Count == 0 ? 0 : Errors.Order().ElementAt(Math.Min(Errors.Count - 1, (int)(share * Errors.Count)));

    public void Add(FitRow o)
    {
        Sheets += o.Sheets;
        Unfitted += o.Unfitted;
        Beyond += o.Beyond;
        Marks += o.Marks;
        Covered += o.Covered;
        ProportionsDue += o.ProportionsDue;
        ProportionsFound += o.ProportionsFound;
        DirectionsDue += o.DirectionsDue;
        DirectionsFound += o.DirectionsFound;
        Judged += o.Judged;
        Pointed += o.Pointed;
        Right += o.Right;
        False += o.False;
        Clean += o.Clean;
        Alarms += o.Alarms;
        CausesDue += o.CausesDue;
        CausesNamed += o.CausesNamed;
        LimbsDue += o.LimbsDue;
        LimbsNamed += o.LimbsNamed;
        Errors.AddRange(o.Errors);
    }
}

/// <summary>Sheets whose marks come from the ink alone, then from two and four answers: drawn by simulated hands from the studio figure, from
/// another body from beside the seat, and from a model who holds the pose badly. Their truth is the drawing's own landmarks and what was put
/// into them.</summary>
public static class FitStudy
{
    public static readonly string[] Conditions = ["as it stands", "another body, seat 6° off", "pose held 8° off at every joint"];
    public static readonly int[] Answers = [0, 2, 4];
    private const double PoseOff = 8,
        SeatOff = 6,
        Answered = 0.8,
        DueShare = 0.08,
        DueDegrees = 4;

    /// <summary>A sheet of a study, and what it was drawn with.</summary>
    private sealed record Case(
        SimulatedDrawing Drawing,
        FitReference Reference,
        PutIn Truth,
        LandmarkSet View,
        IReadOnlyList<NamedFault> Faults
    );

    public static Dictionary<(int Condition, bool Faulty, int Answers), FitRow> Figures(long seed, int sheets, bool otherHand)
    {
        var rows = new Dictionary<(int, bool, int), FitRow>();
        var studio = new StudioFigure(160L << 20);
        Parallel.For(0, sheets, new ParallelOptions { MaxDegreeOfParallelism = 2 }, n =>
        {
            var made = Alone.Run(() => Figure(new(seed + (n * 7919L)), n % 3, studio, otherHand, seed + n));
            foreach (var (answers, row) in Alone.Run(() => Run(made, new(seed + n)).ToList()))
                lock (rows)
                    (
                        rows.GetValueOrDefault((n % 3, made.Faults.Count > 1, answers))
                        ?? (rows[(n % 3, made.Faults.Count > 1, answers)] = new())
                    ).Add(row);
        });
        return rows;
    }

    public static Dictionary<(int Condition, bool Faulty, int Answers), FitRow> Heads(long seed, int sheets, bool otherHand)
    {
        var rows = new Dictionary<(int, bool, int), FitRow>();
        var studio = new StudioHead(StudioHead.Coarse, 14);
        Parallel.For(0, sheets, new ParallelOptions { MaxDegreeOfParallelism = 2 }, n =>
        {
            var made = Alone.Run(() => Head(new(seed + (n * 7919L)), n % 2, studio, otherHand, seed + n));
            foreach (var (answers, row) in Alone.Run(() => Run(made, new(seed + n)).ToList()))
                lock (rows)
                    (
                        rows.GetValueOrDefault((n % 2, made.Faults.Count > 0, answers))
                        ?? (rows[(n % 2, made.Faults.Count > 0, answers)] = new())
                    ).Add(row);
        });
        return rows;
    }

    private static Manner AnyManner(SeededRandom random) => new(random.Between(0.15, 0.95), (Tool)random.Next(3), random.Next(2) == 0);

    private static Case Figure(SeededRandom random, int condition, StudioFigure studio, bool otherHand, long seed)
    {
        var poses = FigureCatalogue.Poses;
        var pose = poses[random.Next(poses.Count)];
        var body = random.Next(2) == 0 ? "male" : "female";
        var seat = new Seat(new double[] { 0, 35, -40, 75, 180 }[random.Next(5)]);
        var fitted = studio.Model(body, pose, Drapery.For(false, false), StudioFigure.Coarse);
        var (drawnFrom, drawnSeat) = condition switch
        {
            1 => (
                studio.Model(
                    FigureCatalogue.Bodies.Where(b => b.Id != body).ElementAt(random.Next(FigureCatalogue.Bodies.Count - 1)).Id,
                    pose,
                    Drapery.For(false, false),
                    StudioFigure.Coarse
                ),
                seat with
                {
                    Azimuth = Math.IEEERemainder(seat.Azimuth + (random.Next(2) == 0 ? SeatOff : -SeatOff), 360),
                }
            ),
            2 => (studio.Model(body, Badly(pose, random), Drapery.For(false, false), StudioFigure.Coarse), seat),
            _ => (fitted, seat),
        };
        var subject = DrawnSubject.Of(drawnFrom, drawnSeat, random.Next(2) == 0 ? "L" : "R");
        List<NamedFault> faults = [new(FigureFaults.Ordinary, random.Next(1 << 30))];
        if (random.Next(4) > 0)
        {
            var (name, unit, least, most) = FigureFaults.All[random.Next(FigureFaults.All.Count)];
            faults.Add(new(name, random.Between(least, most) * (unit != "share" && random.Next(2) == 0 ? -1 : 1)));
        }
        var marks = subject.Line.Landmarks.ToDictionary(l => l.Key, l => l.Value.At);
        double tall = marks.Values.Max(p => p.Y) - marks.Values.Min(p => p.Y),
            wide = marks.Values.Max(p => p.X) - marks.Values.Min(p => p.X);
        var paper = PaperSize.Find(new[] { "18x24in", "14x17in", "A3" }[random.Next(3)])!;
        var height = random.Between(0.68, 0.86) * Math.Min(paper.HeightMm, paper.WidthMm * tall / wide);
        var drawing = SimulatedStudent.Draw(subject, paper, height, faults, AnyManner(random), seed, otherHand ? OtherHand.Draw : null);
        // What a hand varies by is no fault, and no reference knows of it: it is part of what was drawn from.
        return new(
            drawing,
            FitReferences.Of(fitted, seat),
            new PutIn(drawing.Landmarks, marks, height / tall, faults, new(), null),
            new(marks),
            faults
        );
    }

    private static Pose Badly(Pose pose, SeededRandom random) =>
        pose with
        {
            Id = pose.Id + "-off",
            Joints = pose.Joints.ToDictionary(
                j => j.Key,
                j =>
                    j.Value.ToDictionary(
                        a => a.Key,
                        a => a.Value + (j.Key.StartsWith("fing") || j.Key.StartsWith("tips") ? 0 : (float)random.Normal(PoseOff))
                    )
            ),
        };

    private static Case Head(SeededRandom random, int condition, StudioHead studio, bool otherHand, long seed)
    {
        var sitters = HeadCatalogue.Sitters;
        var drawn = studio.Model(condition == 0 ? "classical" : sitters[random.Next(sitters.Count)].Id);
        var turn = new HeadPose(new double[] { 0, 20, -30, 40 }[random.Next(4)]);
        var subject = DrawnSubject.Of(drawn, turn);
        List<NamedFault> faults = [];
        if (random.Next(4) > 0)
        {
            var (name, _, least, most) = FigureFaults.OfHeads[random.Next(FigureFaults.OfHeads.Count)];
            faults.Add(new(name, random.Between(least, most)));
        }
        var marks = subject.Line.Landmarks.ToDictionary(l => l.Key, l => l.Value.At);
        var paper = PaperSize.Find(new[] { "18x24in", "A3" }[random.Next(2)])!;
        var height = paper.HeightMm * random.Between(0.5, 0.7);
        var tall = marks.Values.Max(p => p.Y) - marks.Values.Min(p => p.Y);
        var drawing = SimulatedStudent.Draw(subject, paper, height, faults, AnyManner(random), seed, otherHand ? OtherHand.Draw : null);
        return new(
            drawing,
            FitReferences.Of(studio.Model("classical"), turn),
            new PutIn(drawing.Landmarks, marks, height / tall, faults, new(), null),
            new(marks),
            faults
        );
    }

    private static IEnumerable<(int, FitRow)> Run(Case c, SeededRandom random)
    {
        const double mm = 0.25;
        var ink = InkReading.Of(SheetCamera.Flat(c.Drawing, mm, random.Next(1 << 30)), mm);
        var fit = new MarkFit(ink, c.Reference);
        var pins = new Dictionary<string, Vec2>();
        FitResult? result = null;
        for (var n = 0; n <= Answers[^1]; n++)
        {
            if (n > 0 && Asked(c, result!, pins) is { } ask && c.Drawing.Landmarks.TryGetValue(ask, out var at))
                pins[ask] = at + new Vec2(random.Normal(Answered), random.Normal(Answered));
            result = fit.Run(pins);
            if (Answers.Contains(n))
                yield return (n, Score(c, result, pins));
        }
    }

    /// <summary>The mark that the bench would ask for.</summary>
    private static string? Asked(Case c, FitResult fit, Dictionary<string, Vec2> pins) =>
        fit.Why != NoFit.None ? null
        : c.Reference.Tree == PartTree.Figure ? Asking.Next(Judged(c, fit, pins).Findings, [.. fit.Marks.Values], pins.Keys)
        : fit.Ask;

    private static FitRow Score(Case c, FitResult fit, Dictionary<string, Vec2> pins)
    {
        var row = new FitRow { Sheets = 1 };
        if (fit.Why != NoFit.None)
        {
            row.Unfitted = 1;
            return row;
        }
        var height = (fit.Crown!.Value - fit.Sole!.Value).Length;
        var tree = c.Reference.Tree;
        foreach (var m in fit.Marks.Values.Where(m => m.Seen && !pins.ContainsKey(m.Id) && MarkTolerances.Measured(tree, m.Id)))
        {
            if (!c.Drawing.Landmarks.TryGetValue(m.Id, out var truth))
                continue;
            var error = (m.At - truth).Length;
            row.Errors.Add(100 * error / height);
            row.Marks++;
            if (error <= m.R90)
                row.Covered++;
            if (error > m.Tolerance)
                row.Beyond++;
        }
        if (tree == PartTree.Figure)
            Count(c, Judged(c, fit, pins), row);
        return row;
    }

    /// <summary>How much was put into what a finding measures; null where the view shows too little of it.</summary>
    private static double? Off(Case c, Finding f) =>
        Seen(c, f) < (f.Rule == Rules.Length ? LeastLength : LeastDirection) ? null : c.Truth.Off(f);

    private static bool IsLarge(Finding f, double off) => Math.Abs(off) >= (f.Rule == Rules.Length ? DueShare : DueDegrees);

    /// <summary>Whether a fault is due to be named: what it is named by is seen, and it puts that off by as much as counts. One that is smaller, or
    /// whose own part the view hides, nobody could name.</summary>
    private static bool Shows(Case c, NamedFault fault, IReadOnlyList<Finding> said)
    {
        bool Any(Rule rule, params string[] parts) =>
            said.Any(f =>
                f.Rule == rule && f.Measured is not null && parts.Contains(f.Measure.Part?.Id) && Off(c, f) is { } off && IsLarge(f, off)
            );
        return fault.Name switch
        {
            "head large" => Any(Rules.Length, "head"),
            "legs short" or "squeezed at the end" => Any(Rules.Length, "thigh", "shank"),
            FigureFaults.Leaning => Math.Abs(fault.Size) >= DueDegrees,
            FigureFaults.WholeStretched => fault.Size >= DueShare,
            FigureFaults.HipsShifted => Any(Rules.EdgeDirection, "trunk", "thigh", "shank"),
            FigureFaults.ThighTurned => Any(Rules.EdgeDirection, "thigh"),
            FigureFaults.ArmTurned => Any(Rules.EdgeDirection, "upper-arm"),
            _ => Any(Rules.EdgeDirection, "shank"),
        };
    }

    /// <summary>What the view shows shorter than this, as a share of the height, is too short to be judged by anybody.</summary>
    private const double LeastLength = 0.07,
        LeastDirection = 0.09;

    private static double Seen(Case c, Finding f) =>
        (c.View[f.Measure.Needs[0]]!.Value - c.View[f.Measure.Needs[1]]!.Value).Length
        / (c.View.Points.Values.Max(p => p.Y) - c.View.Points.Values.Min(p => p.Y));

    private static Judgement Judged(Case c, FitResult fit, Dictionary<string, Vec2> pins)
    {
        var marks = fit.Marks.Values.Where(m => m.Seen || pins.ContainsKey(m.Id)).ToList();
        return Judge.Figure(
            new()
            {
                Pose = "other",
                Landmarks = new(marks.Select(m => KeyValuePair.Create(m.Id, pins.GetValueOrDefault(m.Id, m.At)))),
                Reference = c.View,
                PlacementErrorMm = Answered,
                Errors = marks.Where(m => !pins.ContainsKey(m.Id)).ToDictionary(m => m.Id, m => m.Sigma),
                NotLookedAt = marks.Where(m => !m.Sure && !pins.ContainsKey(m.Id)).Select(m => m.Id).ToHashSet(),
            }
        );
    }

    private static void Count(Case c, Judgement judged, FitRow row)
    {
        var said = judged.Findings.Where(f => f.Against == Against.Reference).ToList();
        var (due, alarm) = (false, false);
        foreach (var f in said.Where(f => f.Rule == Rules.Length || f.Rule == Rules.EdgeDirection))
        {
            var length = f.Rule == Rules.Length;
            if (Off(c, f) is not { } off)
                continue;
            var (large, outside) = (IsLarge(f, off), f.IsOutside);
            // Said, or pointed at as worth a look.
            var right = (outside || f.Suspected) && Math.Sign(f.Off!.Value) == Math.Sign(off);
            var judgedRight = outside && right;
            due |= large;
            if (large && length)
                (row.ProportionsDue, row.ProportionsFound, row.Judged) = (
                    row.ProportionsDue + 1,
                    row.ProportionsFound + (right ? 1 : 0),
                    row.Judged + (judgedRight ? 1 : 0)
                );
            else if (large)
                (row.DirectionsDue, row.DirectionsFound, row.Judged) = (
                    row.DirectionsDue + 1,
                    row.DirectionsFound + (right ? 1 : 0),
                    row.Judged + (judgedRight ? 1 : 0)
                );
            else if (Math.Abs(off) < (length ? DueShare : DueDegrees) / 2)
            {
                row.Right++;
                row.False += outside ? 1 : 0;
                row.Pointed += f.Suspected ? 1 : 0;
                alarm |= outside && f.FollowsFrom is null;
            }
        }
        if (c.Faults.Count == 1 && !due)
            (row.Clean, row.Alarms) = (1, alarm ? 1 : 0);
        if (c.Faults is [_, var fault] && JudgeStudy.CauseOf(fault.Name) is { } cause && Shows(c, fault, said))
        {
            var named = said.Any(f => f.IsOutside && f.FollowsFrom is null && JudgeStudy.Names(f, cause)) ? 1 : 0;
            if (cause.Rule == Rules.EdgeDirection || cause.Rule == Rules.HipShift)
                (row.LimbsDue, row.LimbsNamed) = (1, named);
            else
                (row.CausesDue, row.CausesNamed) = (1, named);
        }
    }
}

/// <summary>A hand that nothing was tuned on: long lines drawn in one go with a slow drift, blocked in with straights, a restated line beside, gaps
/// left where the eye goes on by itself.</summary>
internal static class OtherHand
{
    public static IEnumerable<DrawnStroke> Draw(IReadOnlyList<Vec2> line, LineKind kind, SeededRandom random)
    {
        if (kind is LineKind.Soft && random.Next(3) == 0)
            yield break;
        var straight = random.Next(3) == 0 ? random.Between(1, 2.4) : 0;
        for (var pass = 0; pass < (random.Next(3) == 0 ? 2 : 1); pass++)
        {
            var (amplitude, length, phase) = (random.Between(0.3, 1.1), random.Between(25, 60), random.Between(0, 6));
            var drift = new Vec2(random.Normal(0.5 + pass), random.Normal(0.5 + pass));
            var bent = Geometry(line, straight);
            var run = new List<Vec2>();
            double along = 0;
            var (dark, width) = (random.Between(0.45, 0.85) * (pass == 0 ? 1 : 0.6), random.Between(0.6, 1.1));
            for (var i = 0; i < bent.Count; i++)
            {
                if (i > 0)
                    along += (bent[i] - bent[i - 1]).Length;
                var d = bent[Math.Min(bent.Count - 1, i + 1)] - bent[Math.Max(0, i - 1)];
                var across = d.Length > 0 ? new Vec2(-d.Y, d.X) * (1 / d.Length) : new(0, 0);
                // A gap now and then, as long as a thumb.
                if (Math.Sin((along / 37) + phase) > 0.93)
                {
                    if (run.Count > 2)
                        yield return new(run, width, dark);
                    run = [];
                    continue;
                }
                run.Add(bent[i] + drift + (across * (amplitude * Math.Sin(phase + (along * 2 * Math.PI / length)))));
            }
            if (run.Count > 2)
                yield return new(run, width, dark);
        }
    }

    /// <summary>Straights between the places where a line bends most, as far as it leaves them by less than <paramref name="by"/>.</summary>
    private static List<Vec2> Geometry(IReadOnlyList<Vec2> line, double by)
    {
        if (by == 0)
            return [.. line];
        var kept = new List<Vec2> { line[0] };
        var from = 0;
        while (from < line.Count - 1)
        {
            var to = from + 1;
            while (to + 1 < line.Count && Fits(line, from, to + 1, by))
                to++;
            for (var k = 1; k <= 4; k++)
                kept.Add(line[from] + ((line[to] - line[from]) * (k / 4.0)));
            from = to;
        }
        return kept;
    }

    private static bool Fits(IReadOnlyList<Vec2> line, int from, int to, double by)
    {
        var d = line[to] - line[from];
        if (d.Length < 1e-9)
            return true;
        for (var i = from + 1; i < to; i++)
            if (Math.Abs((line[i] - line[from]).Cross(d)) / d.Length > by)
                return false;
        return true;
    }
}
