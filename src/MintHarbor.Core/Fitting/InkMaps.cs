using System.Numerics;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Fitting;

/// <summary>For twelve directions, how far the nearest ink that runs about that way lies from every millimetre of the sheet, and which it is:
/// exact squared distances by lower envelopes of parabolas (Felzenszwalb and Huttenlocher 2012, "Distance transforms of sampled functions",
/// from memory), begun at what faint ink and ink of another direction is held to lie farther.</summary>
public sealed class InkMaps
{
    public const int Directions = 12;
    private const float Nowhere = 1e6f,
        FaintSquared = 9,
        StepSquared = 3,
        /// <summary>Ink that runs more than so far off isn't of this direction, radians.</summary>
        Reach = 0.62f;

    public int Width { get; }
    public int Height { get; }
    public InkPoint[] Ink { get; }

    /// <summary>By direction: squared distance, mm², of each square millimetre in rows from the top.</summary>
    public float[][] Squared { get; } = new float[Directions][];

    /// <summary>By direction: which of <see cref="Ink"/> is nearest; −1 where there is none.</summary>
    public int[][] Nearest { get; } = new int[Directions][];

    public InkMaps(InkRidges ridges)
    {
        (Width, Height) = ((int)ridges.Width + 1, (int)ridges.Height + 1);
        Ink = [.. ridges.Points];
        Alone.For(0, Directions, Fill);
    }

    /// <summary>Which map a direction belongs to.</summary>
    /// <param name="angle">Radians, 0 to π.</param>
    public static int Channel(float angle) => Math.Clamp((int)(angle / MathF.PI * Directions), 0, Directions - 1);

    /// <summary>Which map the direction of a line element belongs to.</summary>
    public static int Channel(Vector2 along)
    {
        var a = MathF.Atan2(along.Y, along.X);
        return Channel(a < 0 ? a + MathF.PI : a);
    }

    private void Fill(int channel)
    {
        var middle = (channel + 0.5f) * MathF.PI / Directions;
        var n = Width * Height;
        var far = new float[n];
        var from = new int[n];
        Array.Fill(far, Nowhere);
        Array.Fill(from, -1);
        for (var i = 0; i < Ink.Length; i++)
        {
            var off = MathF.Abs(Ink[i].Angle - middle);
            off = MathF.Min(off, MathF.PI - off);
            if (off > Reach)
                continue;
            var steps = off / (MathF.PI / Directions);
            var start = (FaintSquared * (1 - Ink[i].Weight)) + (StepSquared * steps * steps);
            int x = Math.Clamp((int)Ink[i].At.X, 0, Width - 1),
                y = Math.Clamp((int)Ink[i].At.Y, 0, Height - 1),
                o = (y * Width) + x;
            if (start < far[o])
                (far[o], from[o]) = (start, i);
        }
        Spread(far, from, Width, 1, Height, Width);
        Spread(far, from, Height, Width, Width, 1);
        (Squared[channel], Nearest[channel]) = (far, from);
    }

    /// <summary>One dimension after the other: the lower envelope of a parabola over every place of a line.</summary>
    /// <param name="lines">How many lines, <paramref name="between"/> apart, each of <paramref name="length"/> places <paramref name="step"/> apart.</param>
    private static void Spread(float[] far, int[] from, int lines, int between, int length, int step)
    {
        var value = new float[length];
        var source = new int[length];
        var lowest = new int[length];
        var begins = new float[length + 1];
        for (var line = 0; line < lines; line++)
        {
            for (var i = 0; i < length; i++)
                (value[i], source[i]) = (far[(line * between) + (i * step)], from[(line * between) + (i * step)]);
            var top = 0;
            (lowest[0], begins[0], begins[1]) = (0, float.MinValue, float.MaxValue);
            for (var i = 1; i < length; i++)
            {
                float meets;
                while ((meets = Meet(value, lowest[top], i)) <= begins[top] && top > 0)
                    top--;
                if (meets > begins[top])
                    top++;
                (lowest[top], begins[top], begins[top + 1]) = (i, meets, float.MaxValue);
            }
            top = 0;
            for (var i = 0; i < length; i++)
            {
                while (begins[top + 1] < i)
                    top++;
                var p = lowest[top];
                (far[(line * between) + (i * step)], from[(line * between) + (i * step)]) = (((i - p) * (i - p)) + value[p], source[p]);
            }
        }
    }

    private static float Meet(float[] value, int p, int q) => (value[q] + (q * q) - (value[p] + (p * p))) / (2f * (q - p));
}
