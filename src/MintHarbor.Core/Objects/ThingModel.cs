using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Objects;

/// <summary>One thing made, in its own metres: surfaces by part, and its edges, circles, flat faces and joints, which are known and not looked for.</summary>
internal sealed class ThingModel
{
    public Thing Thing { get; }
    public List<PartMesh> Parts { get; } = [];

    /// <summary>The rows that the parts were made of, in their order.</summary>
    public List<PartRow> Rows { get; } = [];
    public List<SharpEdge> Edges { get; } = [];
    public List<Ring> Rings { get; } = [];
    public List<Plane> Planes { get; } = [];

    /// <summary>Lines where a swept part enters a turned one.</summary>
    public List<(Point3[] Places, bool Closed)> Joints { get; } = [];

    /// <summary>Of turned parts, how far a place lies outside, at its own level.</summary>
    public Dictionary<string, Func<Point3, double>> Outside { get; } = [];

    /// <summary>Plan on the ground: the hull of all it stands over, and how high it lies.</summary>
    public IReadOnlyList<Vec2> Plan { get; }
    public double Low { get; }
    public double High { get; }

    public ThingModel(Thing thing)
    {
        Thing = thing;
        foreach (var row in thing.Parts)
        {
            for (var k = 0; k < (row.Repeat?.Times ?? 1); k++)
            {
                var shift = row.Repeat is { } r ? Point3.Of(r.By) * k : default;
                foreach (var (side, mx, mz) in Copies(row.Mirror))
                    Make(row, $"{row.Name}{(row.Repeat is null ? "" : $" {k + 1}")}{side}", shift, mx, mz);
            }
        }
        var places = Parts.SelectMany(m => m.Places).ToList();
        Plan = [.. Hull.Of(places.Select(p => new Vector2((float)p.X, (float)p.Z))).Select(v => new Vec2(v.X, v.Y))];
        (Low, High) = (places.Min(p => p.Y), places.Max(p => p.Y));
    }

    private static IEnumerable<(string Side, int X, int Z)> Copies(string? mirror)
    {
        yield return ("", 1, 1);
        if (mirror?.Contains('x') == true)
            yield return (" right", -1, 1);
        if (mirror?.Contains('z') == true)
            yield return (" back", 1, -1);
        if (mirror == "xz")
            yield return (" back right", -1, -1);
    }

    private void Make(PartRow row, string name, Point3 shift, int mx, int mz)
    {
        Point3 Moved(Point3 p) => new((p.X + shift.X) * mx, p.Y + shift.Y, (p.Z + shift.Z) * mz);
        var turn = Point3.Of(row.Turn);
        var frame = Frame.Of(Moved(Point3.Of(row.At)), new(turn.X * mz, turn.Y * mx * mz, turn.Z * mx));
        var mesh = new PartMesh(name, row.Value ?? Thing.Value, row.Glass, row.Smooth);
        row.Build(new(this, mesh, name, frame, Moved));
        Parts.Add(mesh);
        Rows.Add(row);
    }
}
