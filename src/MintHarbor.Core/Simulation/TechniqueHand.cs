using System.Numerics;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Simulation;

/// <summary>What a stroke is for.</summary>
public enum StrokeUse
{
    Line,

    /// <summary>A soft line in a hollow.</summary>
    Soft,
    Restated,
    Hatch,

    /// <summary>Charcoal laid with its side.</summary>
    Mass,
    Smudge,
}

/// <summary>How a sheet is drawn, as far as technique is concerned. Lengths in millimetres on the sheet.</summary>
/// <param name="Stroke">Length of a stroke, its middle.</param>
/// <param name="Drift">How far a stroke lies off its line, 1 σ.</param>
/// <param name="Restating">How often a line is drawn again, 0 never to 2 twice.</param>
/// <param name="ThickThin">How much pressure swells and fades along a stroke.</param>
/// <param name="RightHeavier">How much heavier the outline is that faces right; below 0 that which faces left.</param>
/// <param name="Dark">Darkness of a line, 0 to 1; <paramref name="Width"/> its width.</param>
/// <param name="Spacing">From one line of hatching to the next; 0 hatches nothing.</param>
/// <param name="Direction">Of the hatching, degrees from the sheet's x axis towards its foot.</param>
/// <param name="Pressure">Darkness of hatching where it is darkest.</param>
/// <param name="Cover">Light below which something is hatched.</param>
/// <param name="Uneven">Of the hatching's gaps, 1 σ as a share of the gap.</param>
/// <param name="Mass">Share of the dark that is laid as a mass with charcoal's side.</param>
public sealed record TechniqueManner(
    Tool Tool,
    double Stroke,
    double Drift,
    double Restating,
    double ThickThin,
    double RightHeavier,
    double Dark,
    double Width,
    double Spacing,
    double Direction,
    double Pressure,
    double Cover,
    bool Crossed = false,
    double Mass = 0,
    bool Smudged = false,
    double Uneven = 0.12
)
{
    /// <summary>Any hand: a pencil's line, a pen's or charcoal's hatching, or a mass.</summary>
    /// <param name="style">0 to 3, in that order.</param>
    /// <param name="care">0 rough to 1 careful.</param>
    public static TechniqueManner Any(int style, double care, SeededRandom random)
    {
        var tool = new[] { Tool.Pencil, Tool.Pen, Tool.Charcoal, Tool.Charcoal }[style];
        var (dark, width) = tool switch
        {
            Tool.Pen => (random.Between(0.8, 1), random.Between(0.3, 0.55)),
            Tool.Pencil => (random.Between(0.45, 0.85), random.Between(0.4, 0.75)),
            _ => (random.Between(0.5, 0.9), random.Between(0.7, 1.4)),
        };
        var hatched = style != 0 || random.Next(2) == 0;
        return new(
            tool,
            14 + (75 * care * random.Between(0.7, 1.2)),
            0.2 + (0.8 * (1 - care)),
            random.Next(3) == 0 ? 0 : random.Between(0.2, 1.4) * (1.15 - care),
            random.Between(0.05, 0.5),
            random.Between(-0.5, 0.5),
            dark,
            width,
            hatched ? random.Between(1.9, 4.2) : 0,
            random.Between(20, 70) + (random.Next(2) * 90),
            random.Between(0.3, 0.65),
            random.Between(0.4, 0.7),
            style != 3 && random.Next(4) == 0,
            style == 3 ? random.Between(0.4, 1) : 0,
            style >= 2 && random.Next(2) == 0,
            random.Between(0.04, 0.3)
        );
    }
}

/// <summary>A stroke with its own width and darkness at every place.</summary>
/// <param name="Path">Millimetres on the sheet.</param>
public sealed record TechniqueStroke(StrokeUse Use, IReadOnlyList<Vector2> Path, IReadOnlyList<float> Widths, IReadOnlyList<float> Dark)
{
    public float Length => Enumerable.Range(1, Math.Max(0, Path.Count - 1)).Sum(i => Vector2.Distance(Path[i], Path[i - 1]));
}

/// <param name="Form">What the drawing's outline encloses, by square millimetre, rows from the top.</param>
public sealed record TechniqueSheet(
    PaperSize Paper,
    TechniqueManner Manner,
    IReadOnlyList<TechniqueStroke> Strokes,
    bool[] Form,
    int Width,
    int Height
)
{
    public bool Inside(Vector2 p) => p.X >= 0 && p.Y >= 0 && p.X < Width && p.Y < Height && Form[((int)p.Y * Width) + (int)p.X];
}

/// <summary>Draws a view of the studio figure or head with a technique that is known stroke by stroke. It has nothing to do with how the reader
/// works, and the reader's constants were set on another hand.</summary>
public sealed class TechniqueHand
{
    private const float Step = 1;

    private readonly DrawnSubject subject;
    private readonly PaperSize paper;
    private readonly TechniqueManner manner;
    private readonly SeededRandom random;
    private readonly List<TechniqueStroke> strokes = [];
    private readonly float scale;
    private readonly Vector2 middle,
        origin;
    private readonly TechniqueSheet sheet;

    private TechniqueHand(DrawnSubject subject, PaperSize paper, double heightMm, TechniqueManner manner, long seed)
    {
        (this.subject, this.paper, this.manner, random) = (subject, paper, manner, new(seed));
        List<Vector2> outline = [.. subject.Mass.Mass.SelectMany(l => l)];
        Vector2 low = outline.Aggregate(Vector2.Min),
            high = outline.Aggregate(Vector2.Max);
        scale = (float)Math.Min(heightMm / (high.Y - low.Y), paper.WidthMm * 0.84 / (high.X - low.X));
        middle = (low + high) / 2;
        origin = new((float)((paper.WidthMm / 2) + random.Normal(8)), (float)((paper.HeightMm / 2) + random.Normal(8)));
        int w = (int)paper.WidthMm + 1,
            h = (int)paper.HeightMm + 1;
        sheet = new(paper, manner, strokes, Polygons.Filled([.. subject.Mass.Mass.Select(l => l.Select(OnSheet).ToList())], w, h), w, h);
    }

    /// <param name="heightMm">Of the subject on the sheet; less where it would be wider than the sheet.</param>
    public static TechniqueSheet Draw(DrawnSubject subject, PaperSize paper, double heightMm, TechniqueManner manner, long seed)
    {
        var hand = new TechniqueHand(subject, paper, heightMm, manner, seed);
        hand.LayMass();
        if (manner is { Spacing: > 0, Mass: < 0.7 })
        {
            hand.HatchOnce(manner.Direction, manner.Cover);
            if (manner.Crossed)
                hand.HatchOnce(manner.Direction + 70, manner.Cover * 0.6);
        }
        foreach (var line in subject.Line.Strokes)
            hand.DrawLine(line);
        if (manner.Smudged)
            hand.Smudge();
        return hand.sheet;
    }

    private Vector2 OnSheet(Vector2 view) => origin + ((view - middle) * scale);

    private float LightAt(Vector2 p)
    {
        if (!sheet.Inside(p))
            return 1;
        var view = (middle + ((p - origin) / scale)) * ((float)subject.Tone.Width / subject.Line.Width);
        int x = (int)view.X,
            y = (int)view.Y;
        return x >= 0 && y >= 0 && x < subject.Tone.Width && y < subject.Tone.Height
            ? subject.Tone.Values[(y * subject.Tone.Width) + x]
            : 1;
    }

    private float Some(double sigma) => (float)random.Normal(sigma);

    /// <summary>A stroke whose pressure swells and fades by two slow waves and runs out at its ends.</summary>
    private void Add(StrokeUse use, IReadOnlyList<Vector2> path, double width, double dark, double swell, Func<int, float>? by = null)
    {
        if (path.Count < 2 || !path.Any(p => p.X > 0 && p.Y > 0 && p.X < paper.WidthMm && p.Y < paper.HeightMm))
            return;
        double first = random.Between(0, Math.Tau),
            second = random.Between(0, Math.Tau),
            slow = random.Between(35, 60),
            quick = random.Between(15, 25),
            ends = random.Between(0.4, 0.9);
        var (widths, darks) = (new float[path.Count], new float[path.Count]);
        double along = 0;
        var length = path.Zip(path.Skip(1), Vector2.Distance).Sum();
        for (var i = 0; i < path.Count; i++)
        {
            along += i == 0 ? 0 : Vector2.Distance(path[i], path[i - 1]);
            var wave =
                1
                + (swell * ((0.75 * Math.Sin(first + (along * Math.Tau / slow))) + (0.5 * Math.Sin(second + (along * Math.Tau / quick)))));
            var end = Math.Min(1, ends + ((1 - ends) * Math.Min(along, length - along) / 4));
            var pressure = Math.Max(0.15, wave * end * (by?.Invoke(i) ?? 1));
            // A harder press is darker, and a little wider.
            (widths[i], darks[i]) = ((float)(width * Math.Pow(pressure, 0.45)), (float)Math.Min(1, dark * Math.Pow(pressure, 0.65)));
        }
        strokes.Add(new(use, [.. path], widths, darks));
    }

    private void LayMass()
    {
        if (manner.Mass == 0)
            return;
        const float wide = 7;
        var way = Vector2.Normalize(new(0.5f, -0.85f));
        foreach (var run in Runs(way, wide * 0.7f, 0, p => LightAt(p) < manner.Cover, 24))
        {
            var depth = run.Average(p => (float)manner.Cover - LightAt(p));
            Add(StrokeUse.Mass, run, wide, Math.Clamp(0.2 + (0.9 * manner.Pressure * (depth + 0.1)), 0.15, 0.75), 0.05);
        }
    }

    private void HatchOnce(double degrees, double cover)
    {
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        foreach (
            var run in Runs(
                new((float)cos, (float)sin),
                (float)manner.Spacing,
                manner.Uneven,
                p => LightAt(p) < cover - (0.05 * random.Next()),
                (int)random.Between(20, 36)
            )
        )
        {
            var depth = run.Max(p => (float)cover - LightAt(p));
            Add(StrokeUse.Hatch, run, manner.Width * 0.6, Math.Clamp(manner.Pressure * (0.45 + (1.1 * depth)), 0.12, 0.95), 0.12);
        }
    }

    /// <summary>Parallel runs over the form where something is wanted.</summary>
    /// <param name="uneven">Share of the gap that it differs by, 1 σ.</param>
    private IEnumerable<List<Vector2>> Runs(Vector2 way, float gap, double uneven, Func<Vector2, bool> wanted, int longest)
    {
        Vector2 across = new(-way.Y, way.X),
            centre = OnSheet(middle);
        var reach = (float)Math.Sqrt((paper.WidthMm * paper.WidthMm) + (paper.HeightMm * paper.HeightMm)) / 2;
        for (var c = -reach; c < reach; c += gap * (float)Math.Max(0.5, 1 + random.Normal(uneven)))
        {
            var run = new List<Vector2>();
            var bow = Some(uneven > 0 ? 0.002 : 0);
            for (var t = -reach; t < reach; t += Step)
            {
                var p = centre + (across * (c + (bow * t * t / 40))) + (way * t);
                var on = sheet.Inside(p) && wanted(p);
                if (on)
                    run.Add(p);
                if (on && run.Count <= longest)
                    continue;
                if (run.Count > 3)
                    yield return run;
                run = [];
            }
        }
    }

    private void DrawLine(LineStroke stroke)
    {
        List<Vector2> places = [.. stroke.Places.Select(OnSheet)];
        if (stroke.Closed)
            places.Add(places[0]);
        var line = Technique.StraightRuns.Stepped(places, Step);
        if (line.Count < 5)
            return;
        var soft = stroke.Kind is LineKind.Soft or LineKind.Prop;
        float Facing(int i)
        {
            var along = line[Math.Min(i + 1, line.Count - 1)] - line[Math.Max(0, i - 1)];
            var across = Vector2.Normalize(new Vector2(-along.Y, along.X) + new Vector2(1e-6f));
            var ahead = sheet.Inside(line[i] + (across * 3));
            return ahead == sheet.Inside(line[i] - (across * 3)) ? 0
                : ahead ? -across.X
                : across.X;
        }
        var more = soft ? 0 : manner.Restating;
        for (var pass = 0; pass == 0 || random.Next() < more - (pass - 1); pass++)
            foreach (var (from, piece) in Pieces(line))
                Add(
                    soft ? StrokeUse.Soft
                        : pass == 0 ? StrokeUse.Line
                        : StrokeUse.Restated,
                    piece,
                    manner.Width * (soft ? 0.6 : random.Between(0.85, 1.15)),
                    manner.Dark
                        * (
                            soft ? 0.55
                            : pass == 0 ? random.Between(0.85, 1.1)
                            : random.Between(0.4, 0.8)
                        ),
                    manner.ThickThin,
                    soft ? null : i => (float)(1 + (manner.RightHeavier * Facing(Math.Min(from + i, line.Count - 1))))
                );
    }

    /// <summary>A line in strokes, each a little off it; the next one begins near where the last ended.</summary>
    private IEnumerable<(int From, List<Vector2> Piece)> Pieces(List<Vector2> line)
    {
        for (var from = 0; from < line.Count - 3; )
        {
            var end = Math.Min(line.Count, from + (int)Math.Max(4, manner.Stroke * Math.Exp(random.Normal(0.3))));
            if (line.Count - end < 6)
                end = line.Count;
            var centre = line[(from + end) / 2];
            var off = new Vector2(Some(manner.Drift), Some(manner.Drift));
            var (sin, cos) = MathF.SinCos(Some(0.03 * manner.Drift));
            yield return (
                from,
                [
                    .. line.GetRange(from, end - from)
                        .Select(p => p - centre)
                        .Select(d => centre + off + new Vector2((cos * d.X) - (sin * d.Y), (sin * d.X) + (cos * d.Y))),
                ]
            );
            from = end == line.Count ? end : Math.Max(from + 3, end + (int)Math.Round(random.Between(-3, 2.5)));
        }
    }

    private void Smudge()
    {
        for (var k = 0; k < 3; k++)
        {
            Vector2 from = OnSheet(middle) + new Vector2(Some(60), Some(110)),
                to = from + new Vector2(Some(25), Some(25));
            var path = Technique.StraightRuns.Stepped([from, to], 4);
            float width = (float)random.Between(14, 26),
                dark = (float)random.Between(0.08, 0.2);
            strokes.Add(new(StrokeUse.Smudge, path, [.. path.Select(_ => width)], [.. path.Select(_ => dark)]));
        }
    }
}
