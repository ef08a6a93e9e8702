using System.Numerics;

namespace MintHarbor.Core.Heads;

/// <summary>Moves a sculpt onto a canon's levels and a sitter's departures; mesh, landmarks and curves go through it alike. First the
/// moves, then the widths, then the heights by monotone cubics (Fritsch and Butland's harmonic slopes, from memory), so that the levels
/// are met exactly whatever was moved before.</summary>
internal sealed class HeadWarp
{
    private readonly MoveRow[] moves;
    private readonly float[][]? widths;
    private readonly Monotone heights,
        faceHeights;

    /// <summary>Whether left and right are moved apart, so that one is no longer the mirror of the other.</summary>
    public bool OneSided => moves.Any(m => m.Side != 0);

    /// <param name="from">Heights of the levels on the sculpt.</param>
    /// <param name="to">Where they shall be.</param>
    public HeadWarp(IReadOnlyDictionary<string, float> from, IReadOnlyDictionary<string, float> to, SitterRow? sitter)
    {
        (moves, widths) = (sitter?.Moves ?? [], sitter?.Widths);
        var levels = HeadTables.LevelNames.Select(n => (from[n], to[n])).ToList();
        heights = new(levels);
        // Near the face's front lids and lips keep their size: the stretch goes to what lies between.
        levels.Add((from["eye"] + 0.034f, to["eye"] + MathF.Min(0.034f, 0.65f * (to["brow"] - to["eye"]))));
        levels.Add((from["eye"] - 0.036f, to["eye"] - 0.036f));
        levels.Add((from["mouth"] + 0.040f, to["mouth"] + MathF.Min(0.040f, 0.62f * (to["noseBase"] - to["mouth"]))));
        levels.Add((from["mouth"] - 0.042f, to["mouth"] - 0.042f));
        faceHeights = new(levels.OrderBy(l => l.Item1).ToList());
    }

    public Vector3 Place(Vector3 p)
    {
        var side = p.X < 0 ? -1 : 1;
        p.X = MathF.Abs(p.X);
        var from = p;
        float shift = 0;
        foreach (var m in moves)
        {
            if (m.Side != 0 && m.At.X > 0 && m.Side != side)
                continue;
            var away = from - m.At;
            var far = (away / m.Reach).LengthSquared();
            if (far > 18)
                continue;
            var w = MathF.Exp(-0.5f * far);
            var by = (m.By + (away * (m.Grow - 1))) * w;
            // The middle stays the middle: a move aside of what lies beside it fades out before it.
            if (m.At.X > 0)
                by.X *= HeadField.Step(0, 0.06f, from.X);
            else
            {
                // On the middle a move aside carries both halves the same way.
                if (m.Side != 0)
                    shift += m.By.X * w;
                by.X -= m.By.X * w;
            }
            p += by;
        }
        if (widths is not null)
            p.X *= 1 + ((HeadField.Between(widths, 1, p.Y) - 1) * HeadField.Step(0.06f, 0.20f, p.X));
        var front = (1 - HeadField.Step(0.205f, 0.29f, from.X)) * HeadField.Step(0.12f, 0.26f, from.Z);
        var y = heights.At(p.Y);
        p.Y = front > 0 ? y + ((faceHeights.At(p.Y) - y) * front) : y;
        p.X = (p.X * side) + shift;
        return p;
    }

    /// <summary>A normal, by the images of two tangents.</summary>
    public Vector3 Normal(Vector3 p, Vector3 n)
    {
        const float e = 0.001f;
        var u = Vector3.Normalize(Vector3.Cross(n, MathF.Abs(n.X) < 0.7f ? Vector3.UnitX : Vector3.UnitY));
        var v = Vector3.Cross(n, u);
        var moved = Vector3.Normalize(Vector3.Cross(Place(p + (u * e)) - Place(p - (u * e)), Place(p + (v * e)) - Place(p - (v * e))));
        return Vector3.Dot(moved, n) < 0 ? -moved : moved;
    }

    private sealed class Monotone
    {
        private readonly float[] x,
            y,
            slope;

        public Monotone(IReadOnlyList<(float X, float Y)> knots)
        {
            (x, y) = ([.. knots.Select(k => k.X)], [.. knots.Select(k => k.Y)]);
            var n = x.Length;
            var chord = new float[n - 1];
            for (var i = 0; i < n - 1; i++)
                chord[i] = (y[i + 1] - y[i]) / (x[i + 1] - x[i]);
            slope = new float[n];
            (slope[0], slope[^1]) = (MathF.Min(1.5f, chord[0]), chord[^1]);
            for (var i = 1; i < n - 1; i++)
                slope[i] = chord[i - 1] * chord[i] <= 0 ? 0 : 2 * chord[i - 1] * chord[i] / (chord[i - 1] + chord[i]);
        }

        public float At(float v)
        {
            var n = x.Length;
            if (v <= x[0])
            {
                // Under the chin the slope eases to 1: the neck is not stretched.
                var u = x[0] - v;
                return y[0] - u - ((slope[0] - 1) * 0.06f * (1 - MathF.Exp(-u / 0.06f)));
            }
            if (v >= x[n - 1])
                return y[n - 1] + ((v - x[n - 1]) * slope[n - 1]);
            var i = 0;
            while (v > x[i + 1])
                i++;
            float h = x[i + 1] - x[i],
                s = (v - x[i]) / h,
                s2 = s * s,
                s3 = s2 * s;
            return (((2 * s3) - (3 * s2) + 1) * y[i])
                + ((s3 - (2 * s2) + s) * h * slope[i])
                + (((-2 * s3) + (3 * s2)) * y[i + 1])
                + ((s3 - s2) * h * slope[i + 1]);
        }
    }
}
