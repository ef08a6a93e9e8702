using System.Numerics;

namespace MintHarbor.Core.Figure;

/// <summary>What every pixel of a view shows: depth, triangle and place inside it. Shading, lines, masks and the visibility of
/// landmarks all ask this one picture, so that they lie over one another.</summary>
internal sealed class DepthPicture
{
    public const float Nothing = 1e9f;

    private readonly int[] firstTriangle;

    public SeatCamera Camera { get; }
    public int Width => Camera.Width;
    public int Height => Camera.Height;
    public Mesh[] Meshes { get; }
    public float[] Depth { get; }
    public int[] Triangle { get; }
    private readonly float[] second,
        third;

    /// <param name="meshes">The figure first, then what it rests on.</param>
    public DepthPicture(SeatCamera camera, params Mesh[] meshes)
    {
        (Camera, Meshes) = (camera, meshes);
        var pixels = Width * Height;
        (Depth, Triangle, second, third) = (new float[pixels], new int[pixels], new float[pixels], new float[pixels]);
        Array.Fill(Depth, Nothing);
        Array.Fill(Triangle, -1);
        firstTriangle = new int[meshes.Length + 1];
        for (var i = 0; i < meshes.Length; i++)
            firstTriangle[i + 1] = firstTriangle[i] + meshes[i].TriangleCount;
        var projected = meshes
            .Select(m =>
            {
                var p = new Vector3[m.Places.Length];
                Parallel.For(0, (p.Length + 8191) / 8192, k =>
                {
                    for (var i = k * 8192; i < Math.Min(p.Length, (k + 1) * 8192); i++)
                        p[i] = camera.Project(m.Places[i]);
                });
                return p;
            })
            .ToArray();
        const int bands = 4;
        Parallel.For(0, bands, band =>
        {
            for (var k = 0; k < meshes.Length; k++)
                Fill(meshes[k].Triangles, projected[k], firstTriangle[k], Height * band / bands, (Height * (band + 1) / bands) - 1);
        });
    }

    private void Fill(int[] triangles, Vector3[] at, int first, int top, int bottom)
    {
        for (var t = 0; t < triangles.Length; t += 3)
        {
            Vector3 a = at[triangles[t]],
                b = at[triangles[t + 1]],
                c = at[triangles[t + 2]];
            float least = MathF.Min(a.Y, MathF.Min(b.Y, c.Y)),
                most = MathF.Max(a.Y, MathF.Max(b.Y, c.Y));
            if (most < top || least > bottom + 1)
                continue;
            var area = ((b.X - a.X) * (c.Y - a.Y)) - ((b.Y - a.Y) * (c.X - a.X));
            if (area >= 0)
                continue;
            var inverse = 1 / area;
            int x0 = Math.Max(0, (int)MathF.Ceiling(MathF.Min(a.X, MathF.Min(b.X, c.X)) - 0.5f)),
                x1 = Math.Min(Width - 1, (int)MathF.Floor(MathF.Max(a.X, MathF.Max(b.X, c.X)) - 0.5f));
            int y0 = Math.Max(top, (int)MathF.Ceiling(least - 0.5f)),
                y1 = Math.Min(bottom, (int)MathF.Floor(most - 0.5f));
            for (var y = y0; y <= y1; y++)
            {
                for (var x = x0; x <= x1; x++)
                {
                    float px = x + 0.5f,
                        py = y + 0.5f;
                    float u = (((px - a.X) * (c.Y - a.Y)) - ((py - a.Y) * (c.X - a.X))) * inverse,
                        v = (((b.X - a.X) * (py - a.Y)) - ((b.Y - a.Y) * (px - a.X))) * inverse;
                    if (u < -1e-4f || v < -1e-4f || u + v > 1.0002f)
                        continue;
                    var z = a.Z + ((b.Z - a.Z) * u) + ((c.Z - a.Z) * v);
                    var o = (y * Width) + x;
                    if (z >= Depth[o])
                        continue;
                    (Depth[o], Triangle[o], second[o], third[o]) = (z, first + (t / 3), u, v);
                }
            }
        }
    }

    /// <summary>Whether a pixel shows the figure itself, not what it rests on.</summary>
    public bool IsFigure(int pixel) => (uint)Triangle[pixel] < (uint)firstTriangle[1];

    /// <summary>Normal, openness and mesh at a pixel that shows something; <paramref name="cloth"/> where the garment is seen.</summary>
    public Vector3 NormalAt(int pixel, out float open, out int mesh, out bool cloth)
    {
        var t = Triangle[pixel];
        mesh = 0;
        while (t >= firstTriangle[mesh + 1])
            mesh++;
        var m = Meshes[mesh];
        t = (t - firstTriangle[mesh]) * 3;
        int a = m.Triangles[t],
            b = m.Triangles[t + 1],
            c = m.Triangles[t + 2];
        float u = second[pixel],
            v = third[pixel],
            w = 1 - u - v;
        open = (m.Openness[a] * w) + (m.Openness[b] * u) + (m.Openness[c] * v);
        cloth = mesh == 0 && m.Form[a] < 0;
        return Vector3.Normalize((m.Normals[a] * w) + (m.Normals[b] * u) + (m.Normals[c] * v));
    }

    /// <summary>What a pixel of the figure shows of a value that is known at every place of its mesh.</summary>
    public Vector3 Blend(int pixel, Vector3[] atPlaces)
    {
        var (t, triangles) = (Triangle[pixel] * 3, Meshes[0].Triangles);
        float u = second[pixel],
            v = third[pixel];
        return (atPlaces[triangles[t]] * (1 - u - v)) + (atPlaces[triangles[t + 1]] * u) + (atPlaces[triangles[t + 2]] * v);
    }

    /// <summary>How far behind a projected place the farthest thing within two pixels lies; <see cref="Nothing"/> beside the ground.</summary>
    public float Behind(Vector3 projected)
    {
        int x = (int)projected.X,
            y = (int)projected.Y;
        float farthest = 0;
        for (var j = y - 2; j <= y + 2; j++)
        {
            for (var i = x - 2; i <= x + 2; i++)
            {
                var depth = (uint)i < Width && (uint)j < Height ? Depth[(j * Width) + i] : Nothing;
                if (depth >= Nothing)
                    return Nothing;
                farthest = MathF.Max(farthest, depth - projected.Z);
            }
        }
        return farthest;
    }

    /// <summary>Whether a projected place is on what is seen, within a depth: its pixel and the eight round it are asked, as a place on
    /// an edge falls beside it.</summary>
    public bool Shows(Vector3 projected, float within)
    {
        int x = (int)projected.X,
            y = (int)projected.Y;
        for (var j = y - 1; j <= y + 1; j++)
        {
            for (var i = x - 1; i <= x + 1; i++)
            {
                if ((uint)i >= Width || (uint)j >= Height)
                    continue;
                var o = (j * Width) + i;
                if (projected.Z <= Depth[o] + within)
                    return true;
            }
        }
        return false;
    }

    /// <summary>Whether a place of the surface is what its pixel, or one beside it, shows: neither hidden nor before something farther.</summary>
    public bool IsSeen(Vector3 projected, float within)
    {
        int x = (int)projected.X,
            y = (int)projected.Y;
        for (var j = y - 1; j <= y + 1; j++)
        {
            for (var i = x - 1; i <= x + 1; i++)
            {
                if ((uint)i < Width && (uint)j < Height && MathF.Abs(projected.Z - Depth[(j * Width) + i]) <= within)
                    return true;
            }
        }
        return false;
    }

    /// <summary>Whether a place lies at an edge of what is seen: within <paramref name="radius"/> pixels something lies farther than it, and nothing more than
    /// <paramref name="behind"/> before it.</summary>
    public bool IsOutline(Vector3 projected, float radius, float behind)
    {
        int x = (int)projected.X,
            y = (int)projected.Y,
            r = (int)MathF.Ceiling(radius);
        if ((uint)x >= Width || (uint)y >= Height || projected.Z - Depth[(y * Width) + x] > behind)
            return false;
        for (var j = Math.Max(0, y - r); j <= Math.Min(Height - 1, y + r); j++)
        {
            for (var i = Math.Max(0, x - r); i <= Math.Min(Width - 1, x + r); i++)
            {
                var near = ((i - x) * (i - x)) + ((j - y) * (j - y)) <= radius * radius;
                if (near && Depth[(j * Width) + i] > projected.Z + behind)
                    return true;
            }
        }
        return false;
    }

    /// <summary>Up to three places of a line that aren't seen between places that are: the picture's grain, bridged.</summary>
    public static void BridgeGrain(bool[] seen)
    {
        for (var i = 1; i < seen.Length - 1; i++)
        {
            if (seen[i] || !seen[i - 1])
                continue;
            var j = i;
            while (j < seen.Length && !seen[j])
                j++;
            if (j < seen.Length && j - i <= 3)
                Array.Fill(seen, true, i, j - i);
        }
    }

    public float DepthAt(float x, float y) =>
        (uint)(int)x < Width && (uint)(int)y < Height && x >= 0 && y >= 0 ? Depth[((int)y * Width) + (int)x] : Nothing;
}
