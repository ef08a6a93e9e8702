using System.Numerics;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Technique;

namespace MintHarbor.Core.Simulation;

/// <summary>A patch as it is to be laid.</summary>
/// <param name="Left">Of its square, mm; likewise the top.</param>
/// <param name="Gap">From line to line, or dot to dot, mm.</param>
/// <param name="Dark">Of its lines, 0 to 1.</param>
public sealed record RuledPatch(
    PatchMethod Method,
    PatchStep Step,
    double Left,
    double Top,
    double Side,
    double Gap,
    double Dark,
    double Width = 0.5
)
{
    public IReadOnlyList<Vec2> Outline => [new(Left, Top), new(Left + Side, Top), new(Left + Side, Top + Side), new(Left, Top + Side)];

    /// <summary>The outline well within it, as a hand would draw round what is to be read.</summary>
    public IReadOnlyList<Vec2> Within => (this with { Left = Left + 5, Top = Top + 5, Side = Side - 10 }).Outline;
}

/// <summary>Lays patches of value, each in its square: hatched, crossed, stippled, smooth; as evenly as a hand does.</summary>
public static class PatchHand
{
    /// <summary>Four methods in rows and three steps across a sheet.</summary>
    /// <param name="gap">By method and step; of what isn't hatched the darkness alone counts.</param>
    public static IReadOnlyList<RuledPatch> Rows(Func<PatchMethod, PatchStep, (double Gap, double Dark, double Width)> gap) =>
        [
            .. Enum.GetValues<PatchMethod>()
                .SelectMany(m =>
                    Enum.GetValues<PatchStep>()
                        .Select(s =>
                            gap(m, s) is var (apart, dark, width)
                                ? new RuledPatch(m, s, 45 + (75 * (int)s), 45 + (88 * (int)m), 58, apart, dark, width)
                                : null!
                        )
                ),
        ];

    public static TechniqueSheet Draw(PaperSize paper, IReadOnlyList<RuledPatch> patches, long seed)
    {
        var random = new SeededRandom(seed);
        var strokes = patches.SelectMany(p => Outline(p).Concat(Laid(p, random))).ToList();
        int w = (int)paper.WidthMm + 1,
            h = (int)paper.HeightMm + 1;
        var manner = TechniqueManner.Any(0, 0.8, random) with { Spacing = patches[0].Gap };
        var form = Polygons.Filled([.. patches.Select(p => p.Outline)], w, h);
        return new(paper, manner, strokes, form, w, h);
    }

    private static Vector2 Plain(Vec2 p) => new((float)p.X, (float)p.Y);

    private static IEnumerable<TechniqueStroke> Outline(RuledPatch p) =>
        p.Outline.Zip(p.Outline.Skip(1).Append(p.Outline[0]), (a, b) => Stroke(StrokeUse.Line, Plain(a), Plain(b), 0.35f, 0.5f));

    private static IEnumerable<TechniqueStroke> Laid(RuledPatch p, SeededRandom random) =>
        p.Method switch
        {
            PatchMethod.Hatch => Screen(p, 60, random),
            PatchMethod.CrossHatch => Screen(p, 60, random).Concat(Screen(p, 130, random)),
            PatchMethod.Stipple => Dots(p, random),
            _ => Smooth(p, random),
        };

    /// <summary>Parallel strokes over the square, clipped by it.</summary>
    private static IEnumerable<TechniqueStroke> Screen(RuledPatch p, double degrees, SeededRandom random)
    {
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        Vector2 way = new((float)cos, (float)sin),
            across = new(-way.Y, way.X),
            middle = new((float)(p.Left + (p.Side / 2)), (float)(p.Top + (p.Side / 2)));
        for (var c = -p.Side; c < p.Side; c += p.Gap * (1 + random.Normal(0.05)))
        {
            var on = Enumerable
                .Range(-100, 201)
                .Select(t => middle + (across * (float)c) + (way * t))
                .Where(q => q.X > p.Left + 1 && q.Y > p.Top + 1 && q.X < p.Left + p.Side - 1 && q.Y < p.Top + p.Side - 1)
                .ToList();
            if (on.Count > 3)
                yield return Stroke(
                    StrokeUse.Hatch,
                    on[0],
                    on[^1],
                    (float)p.Width,
                    (float)Math.Clamp(p.Dark + random.Normal(0.03), 0.05, 1)
                );
        }
    }

    private static IEnumerable<TechniqueStroke> Dots(RuledPatch p, SeededRandom random)
    {
        for (var y = p.Top + 2; y < p.Top + p.Side - 2; y += p.Gap)
        for (var x = p.Left + 2; x < p.Left + p.Side - 2; x += p.Gap)
        {
            var at = new Vector2((float)(x + random.Normal(p.Gap / 5)), (float)(y + random.Normal(p.Gap / 5)));
            yield return Stroke(StrokeUse.Restated, at, at + new Vector2(0.3f, 0), 0.8f, (float)p.Dark);
        }
    }

    /// <summary>The side of the lead, stroke on stroke, so that no line is left.</summary>
    private static IEnumerable<TechniqueStroke> Smooth(RuledPatch p, SeededRandom random)
    {
        for (var y = p.Top + 3; y < p.Top + p.Side - 2; y += 2)
            yield return Stroke(
                StrokeUse.Mass,
                new((float)p.Left + 3, (float)y),
                new((float)(p.Left + p.Side - 3), (float)y),
                5,
                (float)Math.Clamp((p.Dark / 2.5) + random.Normal(0.01), 0.02, 1)
            );
    }

    private static TechniqueStroke Stroke(StrokeUse use, Vector2 from, Vector2 to, float width, float dark)
    {
        var steps = Math.Max(1, (int)Vector2.Distance(from, to));
        return new(
            use,
            [.. Enumerable.Range(0, steps + 1).Select(i => Vector2.Lerp(from, to, i / (float)steps))],
            [.. Enumerable.Repeat(width, steps + 1)],
            [.. Enumerable.Repeat(dark, steps + 1)]
        );
    }
}
