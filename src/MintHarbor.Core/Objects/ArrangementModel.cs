using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Objects;

/// <summary>A pane of glass: one corner, its two sides and where it faces.</summary>
internal sealed record Pane(Point3 Corner, Point3 Across, Point3 Up, Point3 Normal);

/// <summary>What the surface of a part looks like.</summary>
/// <param name="Thing">Which of the arrangement's things it belongs to.</param>
internal sealed record PartLook(int Thing, float Value, float Gloss, bool Smooth, bool Cloth);

/// <summary>An arrangement made ready to be drawn from any seat: kept, and shared between views. In units of which all of it is about 180
/// large, as large as the figure, so that what views allow holds for both; y 0 is the ground.</summary>
public sealed class ArrangementModel
{
    private const float Large = 180;
    private readonly Lazy<bool> opened;

    public Arrangement Arrangement { get; }
    public IReadOnlyList<string> Names { get; }

    /// <summary>Units a metre.</summary>
    internal double Scale { get; }
    internal Vector3 Low { get; }
    internal Vector3 High { get; }
    internal Mesh Things { get; }
    internal Mesh Support { get; }
    internal Mesh? Cloth { get; }
    internal Mesh? Glass { get; }
    internal IReadOnlyList<Pane> Panes { get; }
    internal IReadOnlyList<PartLook> Looks { get; }

    /// <summary>Edges of things, named "thing: edge", with the thing that each belongs to.</summary>
    internal IReadOnlyList<(int Thing, SharpEdge Edge)> Edges { get; }
    internal IReadOnlyList<(int Thing, Ring Ring)> Rings { get; }
    internal IReadOnlyList<(int Thing, Plane Plane)> Planes { get; }
    internal IReadOnlyList<(Point3[] Places, bool Closed)> Joints { get; }
    internal IReadOnlyList<SharpEdge> SupportEdges { get; }

    /// <summary>Memory that it holds on to.</summary>
    public long Bytes => Things.Bytes + Support.Bytes + 100_000;

    /// <exception cref="InputException">See <see cref="Arrangement.Drawable"/>.</exception>
    public ArrangementModel(Arrangement arrangement)
    {
        Arrangement = arrangement.Drawable();
        var placed = Placed();
        Names = Named([.. placed.Select(p => p.Model.Thing.Name)]);
        var every = placed.SelectMany(p => p.Model.Parts.SelectMany(m => m.Places).Select(p.Frame.Place)).ToList();
        Point3 low = new(every.Min(p => p.X), every.Min(p => p.Y), every.Min(p => p.Z)),
            high = new(every.Max(p => p.X), every.Max(p => p.Y), every.Max(p => p.Z)),
            size = high - low;
        Scale = Large / Math.Max(size.Y, 0.75 * Math.Sqrt((size.X * size.X) + (size.Z * size.Z)));
        (Low, High) = ((low * Scale).Single, (high * Scale).Single);
        var all = new Collected(Scale);
        for (var i = 0; i < placed.Count; i++)
            all.Add(i, Names[i], placed[i].Model, placed[i].Frame);
        (Things, Cloth, Glass) = (all.Solid.Mesh(), all.Cloth.MeshOrNull(), all.Glass.MeshOrNull());
        (Looks, Panes, Edges, Rings, Planes, Joints) = (all.Looks, all.Panes, all.Edges, all.Rings, all.Planes, all.Joints);
        var stand = new GroundPart(arrangement.Ground);
        SupportEdges = [.. stand.Edges.Select(e => e.Moved(e.Name, p => p * Scale, n => n))];
        var support = new MeshBuilder();
        support.Add(stand.Mesh, 0, p => (p * Scale).Single, n => n.Single);
        Support = support.Mesh();
        opened = new(() => SkyLight.Open(this));
    }

    /// <summary>How open every place lies to the light, found once, when a tone is first asked for.</summary>
    internal void Open() => _ = opened.Value;

    private List<(ThingModel Model, Frame Frame)> Placed() =>
        [
            .. Arrangement
                .Places.Zip(Arrangement.Stands())
                .Select(p =>
                    (ThingShelf.Model(p.First.Thing), Frame.Of(new(p.First.X, p.Second.Height, p.First.Z), new(0, p.First.Turn, 0)))
                ),
        ];

    /// <summary>Two cups are "cup 1" and "cup 2".</summary>
    private static List<string> Named(List<string> names) =>
        [.. names.Select((n, i) => names.Count(m => m == n) > 1 ? $"{n} {names.Take(i + 1).Count(m => m == n)}" : n)];

    /// <summary>Everything of all things in the arrangement's units.</summary>
    private sealed class Collected(double scale)
    {
        public MeshBuilder Solid { get; } = new();
        public MeshBuilder Cloth { get; } = new();
        public MeshBuilder Glass { get; } = new();
        public List<PartLook> Looks { get; } = [];
        public List<Pane> Panes { get; } = [];
        public List<(int, SharpEdge)> Edges { get; } = [];
        public List<(int, Ring)> Rings { get; } = [];
        public List<(int, Plane)> Planes { get; } = [];
        public List<(Point3[], bool)> Joints { get; } = [];

        public void Add(int thing, string name, ThingModel model, Frame frame)
        {
            Point3 Place(Point3 p) => frame.Place(p) * scale;
            var firstPart = Looks.Count;
            foreach (var (part, row) in model.Parts.Zip(model.Rows))
            {
                var cloth = row is ClothPart;
                var look = (short)Looks.Count;
                Looks.Add(new(thing, (float)part.Value, (float)model.Thing.Gloss, part.Smooth, cloth));
                (part.Glass ? Glass : Solid).Add(part, look, p => Place(p).Single, n => frame.Turn(n).Single);
                if (cloth)
                    Cloth.Add(part, 0, p => Place(p).Single, n => frame.Turn(n).Single);
                if (part.Glass && row is BoxPart box)
                    Panes.AddRange(PanesOf(box, Place, frame.Turn));
            }
            var glass = model.Parts.Where(p => p.Glass).Select(p => p.Name + " ").ToList();
            Edges.AddRange(
                model
                    .Edges.Where(e => !glass.Any(g => e.Name.StartsWith(g, StringComparison.Ordinal)))
                    .Select(e => (thing, e.Moved($"{name}: {e.Name}", Place, frame.Turn)))
            );
            Rings.AddRange(
                model.Rings.Select(r =>
                    (
                        thing,
                        r with
                        {
                            Name = $"{name}: {r.Name}",
                            Centre = Place(r.Centre),
                            Axis = frame.Turn(r.Axis),
                            Radius = r.Radius * scale,
                        }
                    )
                )
            );
            Planes.AddRange(
                model
                    .Planes.Where(p => !model.Parts[p.Part].Glass)
                    .Select(p => (thing, new Plane($"{name}: {p.Name}", frame.Turn(p.Normal), firstPart + p.Part)))
            );
            Joints.AddRange(model.Joints.Select(j => (j.Places.Select(Place).ToArray(), j.Closed)));
        }

        private static IEnumerable<Pane> PanesOf(BoxPart box, Func<Point3, Point3> place, Func<Point3, Point3> turn)
        {
            Point3 half = Point3.Of(box.Size) * 0.5,
                middle = Point3.Of(box.At),
                up = new(0, 2 * half.Y, 0);
            foreach (var normal in new[] { Point3.UnitZ, -Point3.UnitZ, Point3.UnitX, -Point3.UnitX })
            {
                var along = Point3.UnitY.Cross(normal);
                Point3 Sized(Point3 v) => new(v.X * half.X, v.Y * half.Y, v.Z * half.Z);
                var corner = middle + Sized(normal - along - Point3.UnitY);
                var at = place(corner);
                yield return new(at, place(corner + (Sized(along) * 2)) - at, place(corner + up) - at, turn(normal));
            }
        }
    }
}

/// <summary>Collects parts into one mesh.</summary>
internal sealed class MeshBuilder
{
    private readonly List<Vector3> places = [],
        normals = [];
    private readonly List<short> looks = [];
    private readonly List<int> triangles = [];

    public void Add(PartMesh part, short look, Func<Point3, Vector3> place, Func<Point3, Vector3> turn)
    {
        var first = places.Count;
        places.AddRange(part.Places.Select(place));
        normals.AddRange(part.Normals.Select(turn));
        looks.AddRange(Enumerable.Repeat(look, part.Places.Count));
        triangles.AddRange(part.Triangles.Select(i => first + i));
    }

    public Mesh Mesh() => new([.. places], [.. normals], [.. Enumerable.Repeat(1f, places.Count)], [.. looks], [.. triangles]);

    public Mesh? MeshOrNull() => places.Count == 0 ? null : Mesh();
}

/// <summary>The table's top with its edges, or the floor.</summary>
internal sealed class GroundPart
{
    private const double Thick = 0.032,
        Cell = 0.02;

    private const int FloorCells = 200;
    private const double FloorCell = 0.04;

    public PartMesh Mesh { get; } = new("ground", 1, false, false);
    public List<SharpEdge> Edges { get; } = [];

    public GroundPart(Ground ground)
    {
        if (ground == Ground.Table)
            Table();
        else
            Floor();
    }

    private void Table()
    {
        Point3 half = new(Arrangement.TableBreadth / 2, 0, Arrangement.TableDepth / 2);
        Mesh.Flat(-half, Point3.UnitX * (2 * half.X), Point3.UnitZ * (2 * half.Z), Point3.UnitY, Cell);
        Point3 At(int x, double y, int z) => new(x * half.X, y, z * half.Z);
        foreach (var side in new[] { -1, 1 })
        {
            Point3 outZ = Point3.UnitZ * side,
                outX = Point3.UnitX * side;
            Mesh.Flat(At(-1, -Thick, side), Point3.UnitX * (2 * half.X), Point3.UnitY * Thick, outZ, 0.5);
            Mesh.Flat(At(side, -Thick, -1), Point3.UnitZ * (2 * half.Z), Point3.UnitY * Thick, outX, 0.5);
            foreach (var (y, facing) in new[] { (0.0, Point3.UnitY), (-Thick, -Point3.UnitY) })
            {
                Edges.Add(new("table edge", [At(-1, y, side), At(1, y, side)], [facing], [outZ]));
                Edges.Add(new("table edge", [At(side, y, -1), At(side, y, 1)], [facing], [outX]));
            }
            foreach (var front in new[] { -1, 1 })
                Edges.Add(new("table corner", [At(side, 0, front), At(side, -Thick, front)], [outX], [Point3.UnitZ * front]));
        }
    }

    private void Floor()
    {
        const int rows = FloorCells + 1;
        for (var j = 0; j < rows; j++)
        for (var i = 0; i < rows; i++)
            Mesh.Add(new((i - (FloorCells / 2)) * FloorCell, 0, (j - (FloorCells / 2)) * FloorCell), Point3.UnitY);
        Mesh.Net(0, rows, rows);
    }
}
