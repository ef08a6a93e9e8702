using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>Bones and muscles drawn in line inside the figure's outline, with a wash under the lines; everything of one seat lies over the other
/// kinds to the pixel.</summary>
internal static class AnatomyView
{
    /// <summary>Pixels a side of the picture that what is seen is read from, for one of the result.</summary>
    public const int Finer = 2;

    private const string Outline = "#8C8678",
        SkinLine = "#6A665C",
        BoneLine = "#1E4F8F",
        MuscleLine = "#5A2216",
        FibreLine = "#8E3C26";

    /// <summary>What both kinds are drawn from.</summary>
    /// <param name="camera">So many times finer than the picture of the skin.</param>
    /// <param name="only">Some muscles and bones; null all.</param>
    internal sealed class Setting(FigureModel model, SeatCamera camera, Vector3 lamp, DepthPicture skin, OnlyParts? only = null)
    {
        public FigureModel Model => model;
        public Vector3 Lamp => lamp;
        public SeatCamera Camera => camera;
        public OnlyParts? Only => only;
        public Mesh[] Solids { get; } = [.. model.Solids.Select(s => s.Mesh)];

        public IReadOnlyList<LineStroke> SkinLines() => LineView.Draw(skin, model, lamp, close: false);
    }

    /// <summary>Bones in blue, hidden by one another and by what the figure rests on.</summary>
    public static (IReadOnlyList<ViewLayer> Layers, ColourPicture Wash) Bones(Setting s)
    {
        var bones = s.Model.UnderSkin.Bones;
        var depth = new DepthPicture(s.Camera, [s.Only is null ? bones.Mesh : s.Only.Of(bones), .. s.Solids]);
        var lines = LineView.Draw(
            depth,
            [.. Enumerable.Range(0, bones.Parts.Count)],
            s.Lamp,
            [],
            [],
            new LineStyle(Hollows: false, Contour: 0.2f)
        );
        return (
            [
                new(Outline, [.. s.SkinLines().Where(l => l.Kind is LineKind.Contour or LineKind.Crease or LineKind.Prop)]),
                new(BoneLine, Smaller(lines.Select(l => l with { Widths = [.. l.Widths.Select(w => w * 0.72f)] }))),
            ],
            Wash(depth, s.Lamp, 0.35f, (pixel, light, open) => BoneWash(bones, depth, pixel, light, open))
        );
    }

    private static uint BoneWash(PosedBones bones, DepthPicture d, int pixel, float light, float open)
    {
        if (!d.IsFigure(pixel))
            return 0;
        var alpha = 150 - (105 * light) + (95 * (1 - open));
        var bone = bones.Mesh.Form[bones.Mesh.Triangles[d.Triangle[pixel] * 3]];
        return bones.IsCartilage(bone) ? ColourPicture.Pixel(0x6A, 0x9C, 0xA8, alpha * 0.8f) : ColourPicture.Pixel(0x5A, 0x84, 0xB8, alpha);
    }

    /// <summary>Muscles as flowing line: their borders, the run of their fibres; bones that lie under the skin in a cool wash.</summary>
    public static (IReadOnlyList<ViewLayer> Layers, ColourPicture Wash) Muscles(Setting s)
    {
        var scene = new MuscleScene(s.Model, s.Camera, s.Only);
        bool OnSkin(LineStroke l)
        {
            var p = l.Places[l.Places.Length / 2] * Finer;
            return scene.At(p) == MuscleScene.Skin;
        }
        var skin = s.SkinLines();
        return (
            [
                new(Outline, [.. skin.Where(l => l.Kind is LineKind.Contour or LineKind.Prop)]),
                new(SkinLine, [.. skin.Where(l => l.Kind is LineKind.Feature or LineKind.Crease or LineKind.Soft && OnSkin(l))]),
                new(FibreLine, Smaller(Fibres(scene)), 0.75f),
                new(MuscleLine, Smaller(Borders(scene))),
            ],
            Wash(scene.Depth, s.Lamp, 0.3f, (pixel, light, _) => MuscleWash(scene, pixel, light))
        );
    }

    private static uint MuscleWash(MuscleScene scene, int pixel, float light)
    {
        var id = scene.Id[pixel];
        if (scene.IsBone(id))
            return ColourPicture.Pixel(0x7E, 0x9C, 0xB8, 95 - (70 * light));
        if (!scene.IsMuscle(id))
            return 0;
        return ColourPicture.Pixel(0xC0, 0x60, 0x40, (128 - (84 * light)) * (1 - (0.75f * scene.Tendon(pixel))));
    }

    private static List<LineStroke> Borders(MuscleScene scene)
    {
        var unit = scene.Depth.Height / 720f;
        // Where the breastbone's two parts meet, or flesh and skin, nothing is drawn.
        var ids = scene.Id.Select(i => scene.IsMuscle(i) || i is MuscleScene.Nothing or MuscleScene.Prop ? i : scene.Kind(i)).ToArray();
        bool Wanted(int a, int b) =>
            a is not (MuscleScene.Nothing or MuscleScene.Prop) && b is not (MuscleScene.Nothing or MuscleScene.Prop);
        return
        [
            .. RegionBorders
                .Of(ids, scene.Depth.Width, scene.Depth.Height, Wanted)
                .Where(l => l.Count > 7 * unit)
                .Select(l => Stroke(l, LineKind.Contour, unit, 12 * unit, 9)),
        ];
    }

    /// <summary>Lines along a muscle, kept where the picture shows that muscle and at its own depth: the number alone would cross to a limb behind at the
    /// rim. Neither in bands nor in tendons.</summary>
    private static List<LineStroke> Fibres(MuscleScene scene)
    {
        var muscles = scene.Muscles;
        var unit = scene.Depth.Height / 720f;
        var lines = new List<LineStroke>();
        for (var m = 0; m < muscles.Sheets.Count; m++)
        {
            if (!scene.Shows(m))
                continue;
            var count = Math.Clamp((int)(Breadth(scene, m) / (4.6f * unit)), 1, 34);
            for (var j = 0; j < count; j++)
                foreach (var run in FibreRuns(scene, m, j, (((j + 0.5f) / count) * 1.84f) - 0.92f))
                    if (run.Count > 4 && Curves.Length(run) > 9 * unit)
                        lines.Add(Stroke(run, LineKind.Soft, 0.5f * unit, 16 * unit, 3));
        }
        return lines;
    }

    private static float Breadth(MuscleScene scene, int muscle)
    {
        Vector2 Seen(float u, float v)
        {
            var p = scene.Depth.Camera.Project(scene.Muscles.At(muscle, u, v));
            return new(p.X, p.Y);
        }
        float widest = 0;
        for (var u = 0.2f; u < 0.9f; u += 0.15f)
            widest = MathF.Max(widest, Vector2.Distance(Seen(u, -0.95f), Seen(u, 0)) + Vector2.Distance(Seen(u, 0), Seen(u, 0.95f)));
        return widest;
    }

    /// <summary>How much farther than its pixel a fibre may lie, units.</summary>
    private const float FibreDepth = 0.45f;

    private static IEnumerable<List<Vector2>> FibreRuns(MuscleScene scene, int muscle, int number, float v)
    {
        const int steps = 60;
        var row = scene.Muscles.Sheets[muscle].Row;
        // Every other one is shorter, and no two end level, as a hand hatches.
        var shorter = number % 2 == 0 ? 0.05f : 0.135f;
        float from = (row.Tendon[0] * 0.4f) + shorter + (0.05f * MathF.Sin(number * 12.9f)),
            to = 1 - (row.Tendon[1] * 0.7f) - shorter - (0.05f * MathF.Cos(number * 7.3f));
        var run = new List<Vector2>();
        for (var i = 0; i <= steps; i++)
        {
            var u = float.Lerp(from, to, i / (float)steps);
            var p = scene.Depth.Camera.Project(scene.Muscles.At(muscle, u, v));
            var at = new Vector2(p.X, p.Y);
            var banded = row.Bands?.Any(b => MathF.Abs(u - b) < 0.018f) == true;
            if (!banded && scene.At(at) == muscle && p.Z < scene.Depth.DepthAt(p.X, p.Y) + FibreDepth)
            {
                run.Add(at);
                continue;
            }
            yield return run;
            run = [];
        }
        yield return run;
    }

    private static LineStroke Stroke(List<Vector2> line, LineKind kind, float width, float taper, int smoothing)
    {
        var closed = line.Count > 8 && Vector2.Distance(line[0], line[^1]) < 1.5f;
        var places = Curves.Simplify(Curves.Smooth(Curves.Resample(line, 2), false, smoothing), 0.2f);
        var total = Curves.Length(places);
        var over = MathF.Max(1, MathF.Min(taper, total * 0.45f));
        float along = 0;
        var widths = new float[places.Count];
        for (var i = 0; i < widths.Length; i++)
        {
            along += i > 0 ? Vector2.Distance(places[i], places[i - 1]) : 0;
            widths[i] = width * (closed ? 1 : 0.3f + (0.7f * MathF.Min(1, MathF.Min(along, total - along) / over)));
        }
        return new(kind, false, [.. places], widths);
    }

    private static List<LineStroke> Smaller(IEnumerable<LineStroke> strokes) => Curves.Smaller(strokes, Finer);

    /// <summary>The colour of every pixel, four of them averaged into one.</summary>
    /// <param name="least">Light of what faces away from the lamp.</param>
    /// <param name="colour">Of a pixel that shows something: its light, how open it is; 0 for none.</param>
    private static ColourPicture Wash(DepthPicture d, Vector3 lamp, float least, Func<int, float, float, uint> colour)
    {
        var pixels = new uint[d.Width * d.Height];
        Parallel.For(0, d.Height, y =>
        {
            for (var o = y * d.Width; o < (y + 1) * d.Width; o++)
            {
                if (d.Triangle[o] < 0)
                    continue;
                var n = d.NormalAt(o, out var open, out _, out _);
                pixels[o] = colour(o, Math.Clamp(least + ((1 - least) * Vector3.Dot(n, lamp)), 0, 1), open);
            }
        });
        return new ColourPicture(d.Width, d.Height, pixels).Smaller(Finer);
    }
}
