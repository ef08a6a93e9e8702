using System.Globalization;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Simulation;

/// <summary>Faults of a simulated drawing, each known exactly.</summary>
/// <param name="HeadScale">1.1: the head a tenth too large, grown upward from the chin.</param>
/// <param name="LegScale">Below 1: the legs too short, from the pubic bone down.</param>
/// <param name="LeanDegrees">The whole figure leaning, positive to the right.</param>
/// <param name="LevelTilts">0 leaves the tilts of shoulders and pelvis, 1 makes them level.</param>
/// <param name="ShoulderScale">Breadth of shoulders and arms about the middle.</param>
public sealed record DrawingFaults(
    double HeadScale = 1,
    double LegScale = 1,
    double LeanDegrees = 0,
    double LevelTilts = 0,
    double ShoulderScale = 1
);

/// <param name="Points">In mm on the sheet.</param>
/// <param name="WidthMm">Width of the stroke.</param>
/// <param name="Dark">0 to 1.</param>
public sealed record DrawnStroke(IReadOnlyList<Vec2> Points, double WidthMm, double Dark);

public sealed record SimulatedDrawing(PaperSize Paper, IReadOnlyList<DrawnStroke> Strokes, IReadOnlyDictionary<string, Vec2> Landmarks);

/// <summary>Re-draws a studio view as a hand would: strokes of limited length, a little wobble, lines restated, hatching on the
/// shadow side; with faults of proportion put in exactly, so that the sheet's truth is known.</summary>
public static class SimulatedHand
{
    /// <param name="heightMm">Height of the faultless figure on the sheet, mm.</param>
    /// <param name="care">0 hasty to 1 careful.</param>
    public static SimulatedDrawing Draw(string viewId, PaperSize paper, double heightMm, DrawingFaults faults, double care, long seed)
    {
        var view = StudioViews.Get(viewId);
        var warp = new Warp(view, paper, heightMm, faults);
        var random = new SeededRandom(seed);
        var strokes = new List<DrawnStroke>();
        foreach (var s in view.Strokes ?? throw new ArgumentException($"view {viewId} has no strokes to re-draw", nameof(viewId)))
        {
            var line = new List<Vec2>();
            for (var i = 0; i + 2 < s.At.Count; i += 3)
                line.Add(warp.Map(new(s.At[i], s.At[i + 1])));
            if (line.Count < 2)
                continue;
            for (var pass = 0; pass < (s.Kind == 2 || care > 0.8 ? 1 : 2); pass++)
                strokes.AddRange(Pieces(line, random, care, s.Kind, pass));
        }
        strokes.AddRange(Hatching(view, warp, random, care));
        return new(paper, strokes, view.Landmarks.Keys.ToDictionary(k => k, k => warp.Map(view.At(k)!.Value)));
    }

    /// <param name="broken">Above 0: short strokes side by side instead of one line, the shorter the more.</param>
    internal static IEnumerable<DrawnStroke> Pieces(
        List<Vec2> line,
        SeededRandom random,
        double care,
        int kind,
        int pass,
        double broken = 0
    )
    {
        var i = 0;
        while (i < line.Count - 1)
        {
            var start = i;
            var want = broken > 0 ? random.Between(5, 9) + (8 * (1 - broken)) : random.Between(14, 22) + (60 * care);
            var piece = new List<Vec2>();
            double length = 0;
            var drift = new Vec2(random.Normal(1.1 - (0.8 * care)), random.Normal(1.1 - (0.8 * care)));
            var phase = random.Between(0, 6);
            for (; i < line.Count && length < want; i++)
            {
                if (piece.Count > 0)
                    length += (line[i] - line[i - 1]).Length;
                var wobble = (0.5 - (0.35 * care)) * Math.Sin(phase + (length * 0.35));
                piece.Add(line[i] + drift + new Vec2(wobble, wobble * 0.6));
            }
            // The next stroke takes up two points of this one, but always gets further along.
            if (i < line.Count)
                i = Math.Max(i - 2, start + 1);
            if (piece.Count > 1)
                yield return new(
                    piece,
                    kind == 2 ? 0.45 : random.Between(0.55, 0.95),
                    kind == 2 ? 0.3
                        : pass == 0 ? random.Between(0.62, 0.9)
                        : random.Between(0.25, 0.45)
                );
        }
    }

    private static IEnumerable<DrawnStroke> Hatching(StudioView view, Warp warp, SeededRandom random, double care)
    {
        var outline = Loops(view.Mass).Select(l => l.Select(warp.Map).ToList()).ToList();
        if (outline.Count == 0)
            yield break;
        var box = outline.SelectMany(l => l).ToList();
        var (left, right) = (box.Min(p => p.X), box.Max(p => p.X));
        var (top, bottom) = (box.Min(p => p.Y), box.Max(p => p.Y));
        const double lean = 0.55;
        for (var c = left - ((bottom - top) * lean); c < right + ((bottom - top) * lean); c += random.Between(2.4, 3.6) + care)
        {
            // Hatch lines run up to the right; each crosses the figure in spans whose last third is in shadow.
            Vec2 a = new(c, bottom),
                d = new(lean, -1);
            var cuts = new List<double>();
            foreach (var loop in outline)
            {
                for (var i = 0; i < loop.Count; i++)
                {
                    var (p, q) = (loop[i], loop[(i + 1) % loop.Count]);
                    var e = q - p;
                    var det = d.Cross(e);
                    if (Math.Abs(det) < 1e-9)
                        continue;
                    var t = (p - a).Cross(e) / det;
                    var u = (p - a).Cross(d) / det;
                    if (u is >= 0 and < 1)
                        cuts.Add(t);
                }
            }
            cuts.Sort();
            for (var i = 0; i + 1 < cuts.Count; i += 2)
            {
                var span = cuts[i + 1] - cuts[i];
                if (span < 5)
                    continue;
                var from = cuts[i + 1] - Math.Min(span * random.Between(0.26, 0.40), 34);
                yield return new(
                    [a + (d * (from + random.Normal(0.7))), a + (d * (cuts[i + 1] - random.Between(0.2, 1.6)))],
                    0.5,
                    random.Between(0.22, 0.5)
                );
            }
        }
    }

    private static IEnumerable<List<Vec2>> Loops(string path)
    {
        foreach (var part in path.Split('Z', StringSplitOptions.RemoveEmptyEntries))
        {
            yield return
            [
                .. part.TrimStart('M')
                    .Split('L')
                    .Select(p => p.Split(' '))
                    .Select(p => new Vec2(
                        double.Parse(p[0], CultureInfo.InvariantCulture),
                        double.Parse(p[1], CultureInfo.InvariantCulture)
                    )),
            ];
        }
    }

    /// <summary>Picture pixels to millimetres on the sheet, with the faults in between.</summary>
    private sealed class Warp
    {
        private readonly Vec2 crown,
            chin,
            pit,
            pubic,
            foot;
        private readonly double scale,
            shoulderTilt,
            pelvisTilt,
            shoulderY,
            pelvisY;
        private readonly Vec2 origin;
        private readonly DrawingFaults f;

        public Warp(StudioView view, PaperSize paper, double heightMm, DrawingFaults faults)
        {
            Vec2 At(string id) => view.At(id)!.Value;
            f = faults;
            (crown, chin, pit, pubic) = (At("crown"), At("chin"), At("pit"), At("pubic"));
            foot = Vec2.Mid(At("sole.L"), At("sole.R"));
            scale = heightMm / (Math.Max(At("sole.L").Y, At("sole.R").Y) - crown.Y);
            origin = new((paper.WidthMm / 2) - (pit.X * scale), (paper.HeightMm * 0.5) - ((crown.Y + foot.Y) / 2 * scale));
            static double Slope(Vec2 a, Vec2 b) => (b.Y - a.Y) / (b.X - a.X);
            (shoulderTilt, pelvisTilt) = (Slope(At("acromion.R"), At("acromion.L")), Slope(At("asis.R"), At("asis.L")));
            (shoulderY, pelvisY) = (pit.Y, Vec2.Mid(At("asis.L"), At("asis.R")).Y);
        }

        public Vec2 Map(Vec2 p)
        {
            var (x, y) = (p.X, p.Y);
            if (f.LevelTilts > 0)
            {
                static double Bell(double d, double w) => Math.Exp(-d * d / (2 * w * w));
                y -= f.LevelTilts * (x - pit.X) * ((shoulderTilt * Bell(p.Y - shoulderY, 38)) + (pelvisTilt * Bell(p.Y - pelvisY, 38)));
            }
            var neck = Math.Clamp((pit.Y - p.Y) / (pit.Y - chin.Y), 0, 1);
            x = pit.X + ((x - pit.X) * (1 + ((f.ShoulderScale - 1) * (1 - neck))));
            var grow = 1 + ((f.HeadScale - 1) * neck);
            x = chin.X + ((x - chin.X) * grow);
            if (p.Y < chin.Y)
                y = chin.Y + ((y - chin.Y) * f.HeadScale);
            if (p.Y > pubic.Y)
                y = pubic.Y + ((y - pubic.Y) * f.LegScale);
            x += Math.Tan(f.LeanDegrees * Math.PI / 180) * (foot.Y - y);
            return origin + (new Vec2(x, y) * scale);
        }
    }
}
