using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>A part of the body that is looked at alone: a place on a bone and how much round it is seen.</summary>
/// <param name="Half">Half the height of the picture, units.</param>
public sealed record CloseUp(string Id, string Name, PlaceOnBone Middle, float Half)
{
    private static readonly CloseUp[] Left =
    [
        new("neck", "neck", new("neck", new(0, 86.5f, -0.5f)), 9.5f),
        new("shoulder.L", "left shoulder", new("arm.L", new(9.4f, 76.5f, -0.8f)), 11.5f),
        new("forearm.L", "left forearm", new("fore.L", new(11, 53.5f, -1.2f)), 14),
        new("hand.L", "left hand", new("hand.L", new(11, 44.5f, -0.8f)), 7),
        new("knee.L", "left knee", new("knee.L", new(4.7f, 28, 0)), 11.5f),
        new("foot.L", "left foot", new("foot.L", new(4.2f, 3.4f, 2.2f)), 8),
    ];

    public static IReadOnlyList<CloseUp> All { get; } =
    [
        .. Left.SelectMany(c =>
            Sides
                .Of(c.Id)
                .Select(s => new CloseUp(
                    Sides.Id(c.Id, s),
                    s < 0 ? c.Name.Replace("left", "right", StringComparison.Ordinal) : c.Name,
                    new(Sides.Id(c.Middle.Bone, s), Sides.Place(c.Middle.At, s)),
                    c.Half
                ))
        ),
    ];

    /// <exception cref="InputException">No such part.</exception>
    public static CloseUp Find(string id) =>
        All.FirstOrDefault(c => c.Id == id)
        ?? throw new InputException($"there is no part '{id}'", "part", string.Join(", ", All.Select(c => c.Id)));

    /// <summary>The picture of this part of a model; as wide as it is high for upright pictures, within what they leave.</summary>
    internal SeatCamera Camera(FigureModel model, Seat seat, int width, int height)
    {
        var middle = model.Skeleton.World(Middle.Bone, Middle.At);
        var (sin, cos) = Math.SinCos(seat.Azimuth * Math.PI / 180);
        Vector3 up = Vector3.UnitY * Half,
            aside = new Vector3((float)cos, 0, (float)-sin) * (Half * 0.68f);
        return SeatCamera.Fit(
            seat,
            model.MetresPerUnit,
            width,
            height,
            [
                [middle + up, middle - up, middle + aside, middle - aside],
            ]
        );
    }
}

/// <summary>What every pixel of a view of bones or muscles is called.</summary>
/// <param name="Parts">What is seen, each with a pixel of its own near its middle.</param>
/// <param name="Runs">Row by row: number of the part (−1 nothing), how many pixels.</param>
public sealed record AnatomyNames(int Width, int Height, IReadOnlyList<NamedPart> Parts, IReadOnlyList<int> Runs)
{
    /// <exception cref="InputException">Another kind of view, or what it refuses.</exception>
    public static AnatomyNames Of(FigureModel model, Seat seat, FigureViewKind kind, int width, int height, CloseUp? part = null)
    {
        seat.Checked();
        FigureView.CheckSize(width, height, 0);
        StudioFigure.CheckDressed(model, kind);
        var camera = StudioFigure.Camera(model, seat, width, height, part);
        return kind switch
        {
            FigureViewKind.Bones => Bones(model, camera),
            FigureViewKind.Muscles or FigureViewKind.Ecorche => Muscles(new(model, camera)),
            _ => throw new InputException("a view of the skin names nothing under it", "kind", "bones, muscles, ecorche"),
        };
    }

    private static AnatomyNames Bones(FigureModel model, SeatCamera camera)
    {
        var bones = model.UnderSkin.Bones;
        var depth = new DepthPicture(camera, [bones.Mesh, .. model.Solids.Select(s => s.Mesh)]);
        return Read(depth, o => depth.IsFigure(o) ? bones.Mesh.Form[bones.Mesh.Triangles[depth.Triangle[o] * 3]] : -1, b => bones.Parts[b]);
    }

    private static AnatomyNames Muscles(MuscleScene scene) =>
        Read(scene.Depth, o => scene.Part(scene.Id[o]) is null ? -1 : scene.Id[o], id => scene.Part(id)!);

    private static AnatomyNames Read(DepthPicture d, Func<int, int> idOf, Func<int, AnatomyPart> partOf)
    {
        var ids = Enumerable.Range(0, d.Depth.Length).Select(idOf).ToArray();
        var seen = Enumerable.Range(0, ids.Length).Where(o => ids[o] >= 0).GroupBy(o => ids[o]).OrderBy(g => g.Min()).ToList();
        var number = seen.Select((g, i) => (g.Key, i)).ToDictionary(p => p.Key, p => p.i);
        var runs = new List<int>();
        for (var o = 0; o < ids.Length; o++)
        {
            var n = ids[o] < 0 ? -1 : number[ids[o]];
            if (runs.Count > 0 && runs[^2] == n)
                runs[^1]++;
            else
                runs.AddRange([n, 1]);
        }
        return new(d.Width, d.Height, [.. seen.Select(g => Named(partOf(g.Key), [.. g], d.Width))], runs);
    }

    private static NamedPart Named(AnatomyPart part, int[] pixels, int width)
    {
        Vector2 At(int o) => new(o % width, o / width);
        var middle = pixels.Aggregate(Vector2.Zero, (c, o) => c + At(o)) / pixels.Length;
        var nearest = At(pixels.MinBy(o => Vector2.DistanceSquared(At(o), middle)));
        return new(part.Id, Sided(part), part.Latin, (int)nearest.X, (int)nearest.Y);
    }

    private static string Sided(AnatomyPart part) =>
        part.Id.EndsWith(".L", StringComparison.Ordinal) ? $"{part.Name}, left"
        : part.Id.EndsWith(".R", StringComparison.Ordinal) ? $"{part.Name}, right"
        : part.Name;
}

/// <param name="X">A pixel of its own.</param>
public sealed record NamedPart(string Id, string Name, string Latin, int X, int Y);
