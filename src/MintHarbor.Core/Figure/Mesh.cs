using System.Numerics;

namespace MintHarbor.Core.Figure;

/// <summary>A closed surface of triangles: places, normals, how open each place is to the light (1 open, 0.15 deep in a fold) and
/// which form it lies on (−1 cloth).</summary>
internal sealed record Mesh(Vector3[] Places, Vector3[] Normals, float[] Openness, short[] Form, int[] Triangles)
{
    public int TriangleCount => Triangles.Length / 3;
    public long Bytes => (Places.LongLength * 30) + (Triangles.LongLength * 4);

    public static Mesh Of(Solid s)
    {
        List<Vector3> places = [],
            normals = [];
        List<int> triangles = [];
        void Face(Vector3 normal, params ReadOnlySpan<Vector3> corners)
        {
            var first = places.Count;
            foreach (var c in corners)
            {
                places.Add(s.Centre + c);
                normals.Add(normal);
            }
            for (var i = 2; i < corners.Length; i++)
                triangles.AddRange([first, first + i - 1, first + i]);
        }
        if (s.Box)
        {
            foreach (var (n, u) in new[] { (Vector3.UnitX, Vector3.UnitY), (Vector3.UnitY, Vector3.UnitZ), (Vector3.UnitZ, Vector3.UnitX) })
            {
                foreach (var sign in Sides.Both)
                {
                    Vector3 normal = n * sign,
                        v = Vector3.Cross(normal, u);
                    Face(
                        normal,
                        (normal - u - v) * s.Half,
                        (normal + u - v) * s.Half,
                        (normal + u + v) * s.Half,
                        (normal - u + v) * s.Half
                    );
                }
            }
        }
        else
        {
            const int parts = 48;
            for (var k = 0; k < parts; k++)
            {
                float a = k * MathF.Tau / parts,
                    b = (k + 1) * MathF.Tau / parts;
                Vector3 d = new(MathF.Cos(a), 0, MathF.Sin(a)),
                    e = new(MathF.Cos(b), 0, MathF.Sin(b)),
                    up = Vector3.UnitY * s.Half.Y;
                Face(d, (d * s.Half.X) - up, (d * s.Half.X) + up, (e * s.Half.X) + up, (e * s.Half.X) - up);
                Face(Vector3.UnitY, up, (e * s.Half.X) + up, (d * s.Half.X) + up);
            }
        }
        return new([.. places], [.. normals], [.. places.Select(_ => 1f)], new short[places.Count], [.. triangles]);
    }
}
