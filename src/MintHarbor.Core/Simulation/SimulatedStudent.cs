using System.Numerics;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Objects;

namespace MintHarbor.Core.Simulation;

public enum Tool
{
    Charcoal,
    Pencil,
    Pen,
}

/// <param name="Care">0 hasty to 1 careful: drift, wobble and how long a stroke is.</param>
/// <param name="Tone">Whether the shadows are hatched.</param>
public sealed record Manner(double Care = 0.55, Tool Tool = Tool.Charcoal, bool Tone = true);

/// <summary>What is drawn from: the view's lines, its outline and its values, all of one seat.</summary>
/// <param name="Side">"L" or "R": the side of a fault that has one.</param>
public sealed record DrawnSubject(FigureView Line, FigureView Mass, TonePicture Tone, string Side = "R")
{
    /// <summary>The figure in a pose from a seat.</summary>
    public static DrawnSubject Of(FigureModel model, Seat seat, string side = "R") =>
        new(
            StudioFigure.View(model, seat, FigureViewKind.Line),
            StudioFigure.View(model, seat, FigureViewKind.Mass),
            StudioFigure.View(model, seat, FigureViewKind.Tone, 240, 360, finer: 1).Tone!,
            side
        );

    /// <summary>Things on a ground.</summary>
    public static DrawnSubject Of(ArrangementModel things, Seat seat) =>
        new(
            StillLife.View(things, seat, FigureViewKind.Line),
            StillLife.View(things, seat, FigureViewKind.Mass),
            StillLife.View(things, seat, FigureViewKind.Tone, 240, 240, finer: 1).Tone!
        );

    /// <summary>A head, turned. Its sides are placed where the outline is, as on a sheet.</summary>
    public static DrawnSubject Of(HeadModel head, HeadPose pose) =>
        new(
            Outlined(StudioHead.View(head, pose, FigureViewKind.Line), StudioHead.Sides(head, pose)),
            StudioHead.View(head, pose, FigureViewKind.Mass),
            StudioHead.View(head, pose, FigureViewKind.Tone, 240, 300, finer: 1).Tone!
        );

    /// <summary>A head's view whose sides are those of its outline.</summary>
    internal static FigureView Outlined(FigureView view, (double Left, double Right) sides)
    {
        SeenLandmark At(string id, double x) => view.Landmarks[id] with { At = new(x, view.Landmarks[id].At.Y), Visible = true };
        return view with
        {
            Landmarks = new Dictionary<string, SeenLandmark>(view.Landmarks)
            {
                ["head-side.L"] = At("head-side.L", sides.Right),
                ["head-side.R"] = At("head-side.R", sides.Left),
            },
        };
    }
}

/// <summary>Draws a view of the studio figure or head as a student would: strokes of limited length with wobble and overshoot, lines restated,
/// shadows hatched with pressure by their darkness. Faults of proportion move the landmarks exactly and the lines with them; faults of the
/// hand and of the page are drawn as such.</summary>
public static class SimulatedStudent
{
    public const string OffThePage = "off the page",
        BrokenStrokes = "broken short strokes",
        FlatTone = "single flat tone",
        WhitesLeft = "whites left";

    /// <summary>Faults that only a drawing can have, beside those of its landmarks.</summary>
    public static readonly IReadOnlyList<(string Name, string Unit, double Least, double Most)> OfHand =
    [
        (OffThePage, "share", 0.03, 0.15),
        (BrokenStrokes, "share", 0.3, 1),
        (FlatTone, "share", 0.3, 1),
        (WhitesLeft, "share", 0.2, 0.8),
    ];

    /// <summary>Every fault that a drawing can be given.</summary>
    public static IEnumerable<(string Name, string Unit, double Least, double Most)> All(bool head) =>
        (head ? FigureFaults.OfHeads : FigureFaults.All).Concat(OfHand);

    /// <summary>How a line of the view becomes strokes.</summary>
    public delegate IEnumerable<DrawnStroke> Hand(IReadOnlyList<Vec2> line, LineKind kind, SeededRandom random);

    /// <param name="hand">Another hand than this one's own.</param>
    /// <param name="heightMm">Height of the faultless subject on the sheet, from its highest landmark to its lowest, mm.</param>
    /// <exception cref="InputException">No fault of that name.</exception>
    public static SimulatedDrawing Draw(
        DrawnSubject subject,
        PaperSize paper,
        double heightMm,
        IReadOnlyList<NamedFault> faults,
        Manner manner,
        long seed,
        Hand? hand = null
    )
    {
        double Size(string name) => faults.FirstOrDefault(f => f.Name == name)?.Size ?? 0;
        var random = new SeededRandom(seed);
        var sheet = new Sheet(subject, paper, heightMm, faults);
        var strokes = new List<DrawnStroke>();
        var (width, dark) = manner.Tool switch
        {
            Tool.Pencil => (0.55, 0.8),
            Tool.Pen => (0.45, 1.15),
            _ => (1, 1.0),
        };
        void Add(IReadOnlyList<Vec2> points, double w, double d)
        {
            // The paper ends where it ends.
            foreach (var run in Runs(points, p => p.X > 0 && p.Y > 0 && p.X < paper.WidthMm && p.Y < paper.HeightMm))
                strokes.Add(new(run, w * width, Math.Clamp(d * dark, 0, 1)));
        }
        if (manner.Tone)
            Hatch(subject, sheet, random, manner.Care, Size(FlatTone), Size(WhitesLeft), Add);
        var broken = Size(BrokenStrokes);
        foreach (var s in subject.Line.Strokes)
        {
            List<Vec2> line = [.. Even(s.Places.Select(p => new Vec2(p.X, p.Y))).Select(sheet.Map)];
            if (line.Count < 2)
                continue;
            if (hand is not null)
            {
                foreach (var piece in hand(line, s.Kind, random))
                    Add(piece.Points, piece.WidthMm, piece.Dark);
                continue;
            }
            var soft = s.Kind is LineKind.Soft or LineKind.Prop;
            var passes =
                broken > 0 ? 2 + (int)(2 * broken)
                : soft || manner.Care > 0.8 ? 1
                : 2;
            for (var pass = 0; pass < passes; pass++)
                foreach (
                    var piece in SimulatedHand.Pieces(
                        line,
                        random,
                        broken > 0 ? Math.Min(manner.Care, 0.35) : manner.Care,
                        soft ? 2 : 0,
                        pass,
                        broken
                    )
                )
                    Add(piece.Points, piece.WidthMm, piece.Dark);
        }
        return new(
            paper,
            strokes,
            sheet
                .Landmarks.Where(l => l.Value.X > 0 && l.Value.Y > 0 && l.Value.X < paper.WidthMm && l.Value.Y < paper.HeightMm)
                .ToDictionary()
        );
    }

    /// <summary>Drawn lines are thinned; a hand needs places close together.</summary>
    private static IEnumerable<Vec2> Even(IEnumerable<Vec2> thinned)
    {
        Vec2? before = null;
        foreach (var p in thinned)
        {
            if (before is { } b)
            {
                var n = (int)Math.Ceiling((p - b).Length / 4);
                for (var k = 1; k < n; k++)
                    yield return b + ((p - b) * ((double)k / n));
            }
            yield return p;
            before = p;
        }
    }

    private static IEnumerable<List<Vec2>> Runs(IReadOnlyList<Vec2> points, Func<Vec2, bool> within)
    {
        var run = new List<Vec2>();
        foreach (var p in points)
        {
            if (within(p))
            {
                run.Add(p);
                continue;
            }
            if (run.Count > 1)
                yield return run;
            run = [];
        }
        if (run.Count > 1)
            yield return run;
    }

    /// <summary>Parallel strokes up to the right, laid where the view is dark, the harder the darker. A single flat tone covers the whole form
    /// alike; whites are left where patches of it are skipped.</summary>
    private static void Hatch(
        DrawnSubject subject,
        Sheet sheet,
        SeededRandom random,
        double care,
        double flat,
        double whites,
        Action<IReadOnlyList<Vec2>, double, double> add
    )
    {
        const double lean = 0.55,
            step = 1.2,
            threshold = 0.6;
        var direction = new Vec2(lean, -1) * (1 / Math.Sqrt((lean * lean) + 1));
        var (left, right, top, bottom) = sheet.Box;
        var reach = (bottom - top) * lean;
        for (var c = left - reach; c < right; c += random.Between(2.2, 3.2) + care)
        {
            var run = new List<Vec2>();
            double darkest = 0;
            void End()
            {
                if (run.Count > 2)
                    add(run, 0.5, flat > 0 ? 0.34 : Math.Clamp(0.16 + (darkest * 0.75), 0.16, 0.6) + random.Normal(0.03));
                (run, darkest) = ([], 0);
            }
            for (var way = 0.0; way * -direction.Y < bottom - top; way += step)
            {
                var p = new Vec2(c, bottom) + (direction * way);
                var light = sheet.LightAt(p, out var onForm);
                var wanted = onForm && (flat > 0 || light < threshold - (0.06 * random.Next()));
                if (wanted && whites > 0 && Sheet.IsSkipped(p, whites))
                    wanted = false;
                if (wanted)
                {
                    run.Add(p + new Vec2(random.Normal(0.15), random.Normal(0.15)));
                    darkest = Math.Max(darkest, threshold - light);
                }
                if (!wanted || run.Count > 26)
                    End();
            }
            End();
        }
    }

    /// <summary>Where the view's pixels fall on the sheet, with the faults in between.</summary>
    private sealed class Sheet
    {
        private readonly (Vec2 At, Vec2 By)[] moved;
        private readonly double scale;
        private readonly Vec2 origin;
        private readonly TonePicture tone;
        private readonly bool[] form;
        private readonly double perPixel;
        private const int Grid = 8;
        private readonly int columns;
        private readonly Vec2[] grid;

        public IReadOnlyDictionary<string, Vec2> Landmarks { get; }
        public (double Left, double Right, double Top, double Bottom) Box { get; }

        public Sheet(DrawnSubject subject, PaperSize paper, double heightMm, IReadOnlyList<NamedFault> faults)
        {
            var marks = subject.Line.Landmarks.ToDictionary(l => l.Key, l => l.Value.At);
            var seen = subject.Line.Limbs.ToDictionary(l => l.Id, l => l.Ratio);
            var drawn = faults
                .Where(f => OfHand.All(h => h.Name != f.Name))
                .Aggregate((IReadOnlyDictionary<string, Vec2>)marks, (m, f) => FigureFaults.Apply(m, f, seen, subject.Side));
            moved = [.. marks.Select(m => (m.Value, drawn[m.Key] - m.Value))];
            if (moved.All(m => m.By.Length < 1e-9))
                moved = [];
            double top = marks.Values.Min(p => p.Y),
                bottom = marks.Values.Max(p => p.Y);
            scale = heightMm / (bottom - top);
            var off = faults.FirstOrDefault(f => f.Name == OffThePage)?.Size;
            // Begun too low: what is left of the paper is too little for the feet.
            var middle = new Vec2((marks.Values.Min(p => p.X) + marks.Values.Max(p => p.X)) / 2, (top + bottom) / 2);
            origin = new(paper.WidthMm / 2, off is { } share ? paper.HeightMm - (heightMm * (0.5 - share)) : paper.HeightMm / 2);
            origin -= middle * scale;
            Landmarks = drawn.ToDictionary(l => l.Key, l => OnSheet(l.Value));
            columns = (subject.Line.Width / Grid) + 2;
            grid =
                moved.Length == 0
                    ? []
                    :
                    [
                        .. Enumerable
                            .Range(0, columns * ((subject.Line.Height / Grid) + 2))
                            .Select(i => Moved(new(i % columns * Grid, i / columns * Grid))),
                    ];
            tone = subject.Tone;
            perPixel = (double)tone.Width / subject.Line.Width;
            form = Polygons.Filled(subject.Mass.Mass, tone.Width, tone.Height, perPixel);
            var places = subject.Mass.Mass.SelectMany(l => l).Select(p => Map(new(p.X, p.Y))).ToList();
            Box = places.Count == 0 ? default : (places.Min(p => p.X), places.Max(p => p.X), places.Min(p => p.Y), places.Max(p => p.Y));
        }

        private Vec2 OnSheet(Vec2 p) => origin + (p * scale);

        /// <summary>Each landmark carries what lies round it (Shepard's weights, 1/d⁴), so that at a landmark the fault is exact.</summary>
        private Vec2 Moved(Vec2 p)
        {
            if (moved.Length == 0)
                return default;
            Vec2 sum = default;
            double weights = 0;
            foreach (var (at, by) in moved)
            {
                var d = p - at;
                var near = d.Dot(d) + 0.01;
                var w = 1 / (near * near);
                sum += by * w;
                weights += w;
            }
            return sum * (1 / weights);
        }

        public Vec2 Map(Vec2 p) => OnSheet(p + Moved(p));

        /// <summary>The same between places 8 pixels apart: near enough for where a shadow lies.</summary>
        private Vec2 Nearly(Vec2 p)
        {
            if (moved.Length == 0)
                return default;
            double gx = Math.Clamp(p.X / Grid, 0, columns - 1.001),
                gy = Math.Clamp(p.Y / Grid, 0, (grid.Length / columns) - 1.001);
            int x = (int)gx,
                y = (int)gy;
            double u = gx - x,
                v = gy - y;
            Vec2 At(int i, int j) => grid[((y + j) * columns) + x + i];
            return (((At(0, 0) * (1 - u)) + (At(1, 0) * u)) * (1 - v)) + (((At(0, 1) * (1 - u)) + (At(1, 1) * u)) * v);
        }

        /// <summary>What the view shows where a place of the sheet lies.</summary>
        public double LightAt(Vec2 onSheet, out bool onForm)
        {
            var p = (onSheet - origin) * (1 / scale);
            p -= Nearly(p - Nearly(p));
            int x = (int)(p.X * perPixel),
                y = (int)(p.Y * perPixel);
            onForm = x >= 0 && y >= 0 && x < tone.Width && y < tone.Height && form[(y * tone.Width) + x];
            return onForm ? tone.Values[(y * tone.Width) + x] : 1;
        }

        /// <summary>Patches that are passed over, always the same ones of a sheet: islands of white in the dark.</summary>
        public static bool IsSkipped(Vec2 p, double share) =>
            Math.Sin((p.X / 6) + (2.1 * Math.Sin(p.Y / 11))) * Math.Sin((p.Y / 7) + (1.7 * Math.Sin(p.X / 13))) > 0.5 - share;
    }
}
