using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Objects;

/// <summary>A box.</summary>
public sealed record BoxPart : PartRow
{
    public required IReadOnlyList<double> Size { get; init; }

    internal override bool Smooth => false;

    internal override void Build(PartSite site)
    {
        var (half, f) = (Point3.Of(Size) * 0.5, site.Frame);
        site.Block(f.At, [f.X * half.X, f.Y * half.Y, f.Z * half.Z]);
    }
}

/// <summary>A straight bar from one place to another.</summary>
public sealed record BeamPart : PartRow
{
    public required IReadOnlyList<double> From { get; init; }
    public required IReadOnlyList<double> To { get; init; }

    /// <summary>Height and breadth across it.</summary>
    public required IReadOnlyList<double> Section { get; init; }

    /// <summary>Cosine of the lean from upright up to which a bar is a leg: its ends are cut level, and it stands.</summary>
    private const double Leg = 0.7;

    internal override bool Smooth => false;

    internal override void Build(PartSite site)
    {
        Point3 a = site.Moved(Point3.Of(From)),
            b = site.Moved(Point3.Of(To)),
            along = (b - a).Unit,
            across = along.Cross(Math.Abs(along.Y) > 0.8 ? Point3.UnitZ : Point3.UnitY).Unit,
            up = across.Cross(along);
        Point3[] half = [(b - a) * 0.5, up * (Section[0] / 2), across * (Section[1] / 2)];
        if (Math.Abs(along.Y) > Leg)
        {
            // Slid along the leg until its corners are level with its middle.
            half[1] -= along * (half[1].Y / along.Y);
            half[2] -= along * (half[2].Y / along.Y);
        }
        site.Block(Point3.Lerp(a, b, 0.5), half);
    }
}

/// <summary>A flat board with an outline of its own, in x and y, as thick as is said along z.</summary>
public sealed record PrismPart : PartRow
{
    public required IReadOnlyList<IReadOnlyList<double>> Outline { get; init; }
    public required double Thick { get; init; }

    internal override bool Smooth => false;

    internal override void Build(PartSite site)
    {
        List<Vec2> outline = [.. Outline.Select(q => new Vec2(q[0], q[1]))];
        if (Enumerable.Range(0, outline.Count).Sum(i => outline[i].Cross(outline[(i + 1) % outline.Count])) < 0)
            outline.Reverse();
        var n = outline.Count;
        var f = site.Frame;
        Point3 Corner(int i, double z) => f.Place(new(outline[i % n].X, outline[i % n].Y, z));
        Point3 Side(int i) => (outline[(i + 1) % n] - outline[i % n]) is var d ? f.Turn(new Point3(d.Y, -d.X, 0).Unit) : default;
        foreach (var z in new[] { Thick / 2, -Thick / 2 })
        {
            var facing = f.Z * Math.Sign(z);
            foreach (var (a, b, c) in Ears(outline))
                Split(site.Mesh, Corner(a, z), Corner(b, z), Corner(c, z), facing, 4);
            var word = z > 0 ? "front" : "back";
            site.Face(word, facing);
            for (var i = 0; i < n; i++)
                site.Edge($"{word} edge {i + 1}", [Corner(i, z), Corner(i + 1, z)], [facing], [Side(i)]);
        }
        for (var i = 0; i < n; i++)
        {
            var from = Corner(i, -Thick / 2);
            site.Mesh.Flat(from, Corner(i + 1, -Thick / 2) - from, f.Z * Thick, Side(i), PartSite.Cell);
            site.Face($"side {i + 1}", Side(i));
            site.Edge($"cross edge {i + 1}", [from, Corner(i, Thick / 2)], [Side(i + n - 1)], [Side(i)]);
        }
    }

    /// <summary>Triangles of an outline that runs anticlockwise, its ears cut off one by one.</summary>
    private static IEnumerable<(int A, int B, int C)> Ears(List<Vec2> o)
    {
        var left = Enumerable.Range(0, o.Count).ToList();
        double Turn(int a, int b, int c) => (o[b] - o[a]).Cross(o[c] - o[a]);
        while (left.Count > 2)
        {
            var ear = Enumerable
                .Range(0, left.Count)
                .Select(i => (I: i, A: left[(i + left.Count - 1) % left.Count], B: left[i], C: left[(i + 1) % left.Count]))
                .First(e =>
                    Turn(e.A, e.B, e.C) > 0
                    && !left.Any(k =>
                        k != e.A && k != e.B && k != e.C && Turn(e.A, e.B, k) > 0 && Turn(e.B, e.C, k) > 0 && Turn(e.C, e.A, k) > 0
                    )
                );
            yield return (ear.A, ear.B, ear.C);
            left.RemoveAt(ear.I);
        }
    }

    private static void Split(PartMesh mesh, Point3 a, Point3 b, Point3 c, Point3 normal, int deep)
    {
        if (deep == 0)
        {
            mesh.Triangle(mesh.Add(a, normal), mesh.Add(b, normal), mesh.Add(c, normal));
            return;
        }
        Point3 ab = Point3.Lerp(a, b, 0.5),
            bc = Point3.Lerp(b, c, 0.5),
            ca = Point3.Lerp(c, a, 0.5);
        Split(mesh, a, ab, ca, normal, deep - 1);
        Split(mesh, ab, b, bc, normal, deep - 1);
        Split(mesh, ca, bc, c, normal, deep - 1);
        Split(mesh, ab, bc, ca, normal, deep - 1);
    }
}
