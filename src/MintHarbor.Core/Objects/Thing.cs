using System.Text.Json.Serialization;

namespace MintHarbor.Core.Objects;

/// <summary>A thing of the studio's shelf, as its table says it: metres, y up, front +z, standing on y 0.</summary>
/// <param name="Value">How light it is of itself, 0 black to 1 white.</param>
/// <param name="Gloss">How bright its highlight is, 0 dull.</param>
/// <param name="Holds">How high another thing stands on it; null where none can.</param>
public sealed record Thing(string Id, string Name, double Value, double Gloss, IReadOnlyList<PartRow> Parts, double? Holds = null);

/// <summary>Again so many times, each moved on.</summary>
public sealed record Repeated(int Times, IReadOnlyList<double> By);

/// <summary>A part of a thing. How it is built lives with its kind.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(BoxPart), "box")]
[JsonDerivedType(typeof(BeamPart), "beam")]
[JsonDerivedType(typeof(LathePart), "lathe")]
[JsonDerivedType(typeof(SweepPart), "sweep")]
[JsonDerivedType(typeof(PrismPart), "prism")]
[JsonDerivedType(typeof(HullPart), "hull")]
[JsonDerivedType(typeof(ClothPart), "cloth")]
[JsonDerivedType(typeof(BonePart), "bone")]
public abstract record PartRow
{
    public string Name { get; init; } = "";
    public IReadOnlyList<double>? At { get; init; }

    /// <summary>Degrees about x, y and z.</summary>
    public IReadOnlyList<double>? Turn { get; init; }

    /// <summary>Its own lightness; null for the thing's.</summary>
    public double? Value { get; init; }

    public Repeated? Repeat { get; init; }

    /// <summary>"x", "z" or "xz": made again on the other side of that axis, both for "xz".</summary>
    public string? Mirror { get; init; }

    /// <summary>Seen through: it hides nothing and throws no shadow.</summary>
    public bool Glass { get; init; }

    /// <summary>Whether its faces bend: their outlines are then found where they turn away.</summary>
    [JsonIgnore]
    internal virtual bool Smooth => true;

    internal abstract void Build(PartSite site);
}

/// <summary>A sharp edge: places along it, with the normals of the two faces that meet there at each (one alone where it is the same along all).</summary>
internal sealed record SharpEdge(string Name, Point3[] Places, Point3[] First, Point3[] Second, bool Closed = false, double Weight = 1)
{
    public bool Straight => Places.Length == 2;

    public SharpEdge Moved(string name, Func<Point3, Point3> place, Func<Point3, Point3> turn) =>
        this with
        {
            Name = name,
            Places = [.. Places.Select(place)],
            First = [.. First.Select(turn)],
            Second = [.. Second.Select(turn)],
        };

    /// <summary>A value of places that lie evenly along the edge, at a share of it.</summary>
    public static Point3 Along(Point3[] of, double share)
    {
        if (of.Length == 1)
            return of[0];
        var at = Math.Clamp(share, 0, 1) * (of.Length - 1);
        var i = Math.Min((int)at, of.Length - 2);
        return Point3.Lerp(of[i], of[i + 1], at - i);
    }
}

/// <summary>A circle of a turned part.</summary>
/// <param name="Drawn">A sharp one is an edge; a smooth one (a belly, a neck) is only known.</param>
internal sealed record Ring(string Name, Point3 Centre, Point3 Axis, double Radius, bool Drawn);

/// <summary>A flat face.</summary>
/// <param name="Part">Which part it belongs to.</param>
internal sealed record Plane(string Name, Point3 Normal, int Part);

/// <summary>The surface of one part as triangles that face out.</summary>
internal sealed class PartMesh(string name, double value, bool glass, bool smooth)
{
    public string Name { get; } = name;
    public double Value { get; } = value;
    public bool Glass { get; } = glass;
    public bool Smooth { get; } = smooth;
    public List<Point3> Places { get; } = [];
    public List<Point3> Normals { get; } = [];
    public List<int> Triangles { get; } = [];

    public int Add(Point3 place, Point3 normal)
    {
        Places.Add(place);
        Normals.Add(normal);
        return Places.Count - 1;
    }

    /// <summary>Turned so that it faces as its normals do; without area it isn't kept.</summary>
    public void Triangle(int a, int b, int c)
    {
        var across = (Places[b] - Places[a]).Cross(Places[c] - Places[a]);
        if (across.Length < 1e-14)
            return;
        Triangles.AddRange(across.Dot(Normals[a] + Normals[b] + Normals[c]) < 0 ? [a, c, b] : [a, b, c]);
    }

    /// <summary>Rows of places, one row after another, joined into a net.</summary>
    public void Net(int first, int across, int rows)
    {
        for (var j = 0; j + 1 < rows; j++)
        {
            for (var i = 0; i + 1 < across; i++)
            {
                var a = first + (j * across) + i;
                Triangle(a, a + 1, a + across + 1);
                Triangle(a, a + across + 1, a + across);
            }
        }
    }

    /// <summary>A flat parallelogram as a net, so that how open it lies to the light can vary over it.</summary>
    public void Flat(Point3 corner, Point3 u, Point3 v, Point3 normal, double cell)
    {
        int Cells(Point3 side) => Math.Clamp((int)Math.Ceiling(side.Length / cell), 1, 64);
        var (across, rows, first) = (Cells(u) + 1, Cells(v) + 1, Places.Count);
        for (var j = 0; j < rows; j++)
        for (var i = 0; i < across; i++)
            Add(corner + (u * (i / (across - 1.0))) + (v * (j / (rows - 1.0))), normal);
        Net(first, across, rows);
    }
}

/// <summary>Where a part is being built: its mesh, its frame, and what is known of it.</summary>
/// <param name="Moved">A place of the row, as this copy of the part has it.</param>
internal sealed record PartSite(ThingModel Thing, PartMesh Mesh, string Name, Frame Frame, Func<Point3, Point3> Moved)
{
    /// <summary>How large the cells of a flat face are, metres.</summary>
    public const double Cell = 0.02;

    private string Named(string what) => $"{Name} {what}".Trim();

    public void Edge(string what, Point3[] places, Point3[] first, Point3[] second, bool closed = false, double weight = 1) =>
        Thing.Edges.Add(new(Named(what), places, first, second, closed, weight));

    public void Face(string what, Point3 normal) => Thing.Planes.Add(new(Named(what), normal, Thing.Parts.Count));

    public void Circle(string what, double y, double radius, bool drawn) =>
        Thing.Rings.Add(new(what, Frame.Place(new(0, y, 0)), Frame.Y, radius, drawn));

    /// <summary>A block of six parallelograms with its twelve edges.</summary>
    /// <param name="half">Its three half axes; not necessarily square to one another.</param>
    public void Block(Point3 middle, Point3[] half)
    {
        string[,] sides =
        {
            { "left", "right" },
            { "bottom", "top" },
            { "back", "front" },
        };
        var normals = new Point3[3];
        for (var k = 0; k < 3; k++)
        {
            var n = half[(k + 1) % 3].Cross(half[(k + 2) % 3]).Unit;
            normals[k] = n.Dot(half[k]) < 0 ? -n : n;
        }
        for (var k = 0; k < 3; k++)
        {
            var (u, v) = (half[(k + 1) % 3], half[(k + 2) % 3]);
            foreach (var way in new[] { -1, 1 })
            {
                Mesh.Flat(middle + (half[k] * way) - u - v, u * 2, v * 2, normals[k] * way, Cell);
                Face(sides[k, (way + 1) / 2], normals[k] * way);
            }
            foreach (var (p, q) in new[] { (-1, -1), (-1, 1), (1, -1), (1, 1) })
            {
                int i = (k + 1) % 3,
                    j = (k + 2) % 3;
                var on = middle + (half[i] * p) + (half[j] * q);
                Edge(
                    $"{Words((i, sides[i, (p + 1) / 2]), (j, sides[j, (q + 1) / 2]))} edge",
                    [on - half[k], on + half[k]],
                    [normals[i] * p],
                    [normals[j] * q]
                );
            }
        }
    }

    /// <summary>"top front", not "front top": height first, then depth.</summary>
    private static string Words(params (int Axis, string Word)[] sides) =>
        string.Join(
            ' ',
            sides
                .OrderBy(w =>
                    w.Axis switch
                    {
                        1 => 0,
                        2 => 1,
                        _ => 2,
                    }
                )
                .Select(w => w.Word)
        );
}
