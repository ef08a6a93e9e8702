using System.Numerics;

namespace MintHarbor.Core.Figure;

/// <summary>A closed surface of triangles: places, normals, how open each place is to the light (1 open, 0.15 deep in a fold) and
/// which form it lies on (−1 cloth).</summary>
internal sealed record Mesh(Vector3[] Places, Vector3[] Normals, float[] Openness, short[] Form, int[] Triangles)
{
    public int TriangleCount => Triangles.Length / 3;
    public long Bytes => (Places.LongLength * 30) + (Triangles.LongLength * 4);

    /// <summary>The triangles of some forms; the places stay.</summary>
    public Mesh Only(Func<int, bool> wanted)
    {
        var kept = new List<int>(Triangles.Length);
        for (var i = 0; i < Triangles.Length; i += 3)
            if (wanted(Form[Triangles[i]]))
                kept.AddRange(Triangles.AsSpan(i, 3));
        return this with { Triangles = [.. kept] };
    }

    /// <summary>A value of every place, made the mean of the triangles round it so many times.</summary>
    public float[] Calmed(float[] of, int rounds)
    {
        for (var round = 0; round < rounds; round++)
        {
            var sum = new float[of.Length];
            var count = new int[of.Length];
            for (var i = 0; i < Triangles.Length; i += 3)
            {
                var mean = (of[Triangles[i]] + of[Triangles[i + 1]] + of[Triangles[i + 2]]) / 3;
                for (var k = 0; k < 3; k++)
                {
                    sum[Triangles[i + k]] += mean;
                    count[Triangles[i + k]]++;
                }
            }
            for (var i = 0; i < sum.Length; i++)
                sum[i] = count[i] > 0 ? sum[i] / count[i] : of[i];
            of = sum;
        }
        return of;
    }

    /// <summary>Lines along which a value of every place changes its sign, through the triangles that are wanted.</summary>
    public IEnumerable<(List<Vector3> Chain, bool Closed)> Zeros(float[] of, Func<int, int, int, bool> wanted)
    {
        var net = new EdgeNet();
        for (var i = 0; i < Triangles.Length; i += 3)
        {
            int a = Triangles[i],
                b = Triangles[i + 1],
                c = Triangles[i + 2];
            bool pa = of[a] > 0,
                pb = of[b] > 0,
                pc = of[c] > 0;
            if ((pa == pb && pb == pc) || !wanted(a, b, c))
                continue;
            net.Begin();
            foreach (var (p, q) in (ReadOnlySpan<(int, int)>)[(a, b), (b, c), (c, a)])
            {
                if (of[p] > 0 != of[q] > 0)
                    net.Cross(p, q, () => Vector3.Lerp(Places[p], Places[q], of[p] / (of[p] - of[q])));
            }
        }
        return net.Chains();
    }

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
