using System.Numerics;

namespace MintHarbor.Core.Figure;

/// <summary>One lamp.</summary>
/// <param name="Azimuth">Degrees round the stand, as a seat's.</param>
/// <param name="Elevation">Degrees above the level.</param>
public sealed record Lamp(double Azimuth, double Elevation = 45)
{
    /// <summary>The studio's habit: 58° to the left of the eye; light from behind the eye flattens.</summary>
    public static Lamp BesideEye(Seat seat) => new(seat.Azimuth - 58);

    internal Vector3 Direction
    {
        get
        {
            var (sa, ca) = Math.SinCos(Azimuth * Math.PI / 180);
            var (se, ce) = Math.SinCos(Math.Clamp(Elevation, 5, 85) * Math.PI / 180);
            return new((float)(sa * ce), (float)se, (float)(ca * ce));
        }
    }

    /// <exception cref="InputException">An angle that isn't finite.</exception>
    public Lamp Checked(string field = "lamp") =>
        double.IsFinite(Azimuth) && double.IsFinite(Elevation)
            ? this
            : throw new InputException("the lamp's place is not an angle", field, "azimuth and elevation in degrees");
}

/// <summary>A picture in values, 0 black to 1 paper, row by row.</summary>
public sealed record TonePicture(int Width, int Height, float[] Values)
{
    /// <summary>The same in pixels, made paler towards the paper.</summary>
    /// <param name="paler">0 as it is, 1 all paper.</param>
    internal ColourPicture Washed(float paler) =>
        new(
            Width,
            Height,
            [
                .. Values.Select(v =>
                {
                    var grey = 255 * (v + ((1 - v) * paler));
                    return ColourPicture.Pixel(grey, grey, grey, 255);
                }),
            ]
        );
}

/// <summary>What the lamp sees: the depth picture that cast shadows are read from.</summary>
internal sealed class ShadowMap
{
    /// <summary>Cells a side where nothing fine throws shadows, and where chair legs do.</summary>
    public const int Coarse = 768,
        Fine = 2048;

    private readonly int size;
    private readonly float[] depth;
    private readonly Vector3 x,
        y,
        z,
        centre;
    private readonly float scale;

    public Vector3 Lamp { get; }

    public ShadowMap(Vector3 lamp, IReadOnlyList<Mesh> meshes, Vector3 low, Vector3 high, int size = Coarse)
    {
        (Lamp, this.size, depth) = (lamp, size, new float[size * size]);
        z = -lamp;
        x = Vector3.Normalize(Vector3.Cross(z, Vector3.UnitY));
        y = Vector3.Cross(x, z);
        centre = (low + high) / 2;
        scale = size / ((high - low).Length() * 1.02f);
        Array.Fill(depth, DepthPicture.Nothing);
        // Every place is seen by the lamp once; its triangles share it.
        var seen = meshes
            .Select(m =>
            {
                var at = new Vector3[m.Places.Length];
                Parallel.For(0, (at.Length + 8191) / 8192, k =>
                {
                    for (var i = k * 8192; i < Math.Min(at.Length, (k + 1) * 8192); i++)
                        at[i] = At(m.Places[i]);
                });
                return (At: at, m.Triangles);
            })
            .ToArray();
        Parallel.For(0, 4, band =>
        {
            foreach (var (at, t) in seen)
            {
                for (var i = 0; i < t.Length; i += 3)
                    Fill(at[t[i]], at[t[i + 1]], at[t[i + 2]], size * band / 4, (size * (band + 1) / 4) - 1);
            }
        });
    }

    private Vector3 At(Vector3 p)
    {
        var d = p - centre;
        return new((size / 2f) + (Vector3.Dot(d, x) * scale), (size / 2f) - (Vector3.Dot(d, y) * scale), Vector3.Dot(d, z));
    }

    private void Fill(Vector3 a, Vector3 b, Vector3 c, int top, int bottom)
    {
        // The far side of a closed form is never what the lamp sees first.
        var area = ((b.X - a.X) * (c.Y - a.Y)) - ((b.Y - a.Y) * (c.X - a.X));
        if (area >= -1e-9f)
            return;
        int y0 = Math.Max(top, (int)MathF.Ceiling(MathF.Min(a.Y, MathF.Min(b.Y, c.Y)) - 0.5f)),
            y1 = Math.Min(bottom, (int)MathF.Floor(MathF.Max(a.Y, MathF.Max(b.Y, c.Y)) - 0.5f));
        if (y0 > y1)
            return;
        var inverse = 1 / area;
        int x0 = Math.Max(0, (int)MathF.Ceiling(MathF.Min(a.X, MathF.Min(b.X, c.X)) - 0.5f)),
            x1 = Math.Min(size - 1, (int)MathF.Floor(MathF.Max(a.X, MathF.Max(b.X, c.X)) - 0.5f));
        for (var py = y0; py <= y1; py++)
        {
            for (var px = x0; px <= x1; px++)
            {
                float qx = px + 0.5f,
                    qy = py + 0.5f;
                float u = (((qx - a.X) * (c.Y - a.Y)) - ((qy - a.Y) * (c.X - a.X))) * inverse,
                    v = (((b.X - a.X) * (qy - a.Y)) - ((b.Y - a.Y) * (qx - a.X))) * inverse;
                if (u < 0 || v < 0 || u + v > 1)
                    continue;
                var d = a.Z + ((b.Z - a.Z) * u) + ((c.Z - a.Z) * v);
                ref var cell = ref depth[(py * size) + px];
                if (d < cell)
                    cell = d;
            }
        }
    }

    /// <summary>Share of the lamp that reaches a place, 3 × 3 taps; the place is moved out along its normal first, or it would shade itself.</summary>
    public float Lit(Vector3 p, Vector3 normal)
    {
        var q = At(p + (normal * 0.5f));
        var lit = 0;
        for (var j = -1; j <= 1; j++)
        {
            for (var i = -1; i <= 1; i++)
            {
                int px = (int)(q.X + (i * 1.3f)),
                    py = (int)(q.Y + (j * 1.3f));
                if ((uint)px >= size || (uint)py >= size || depth[(py * size) + px] > q.Z - 0.55f)
                    lit++;
            }
        }
        return lit / 9f;
    }

    public bool Covers(Vector3 p) => At(p) is var q && q.X > 0 && q.X < size && q.Y > 0 && q.Y < size;
}

/// <summary>Plaster under one lamp, in soft tone or in a few values.</summary>
internal static class ToneView
{
    private const float Ground = 0.87f;

    /// <param name="finer">How many pixels a side are averaged into one of the result.</param>
    /// <param name="paint">How light a pixel of the figure is of itself, 1 plaster; null where all is plaster.</param>
    public static TonePicture Draw(DepthPicture d, ShadowMap shadow, int values, int finer, Func<int, float>? paint = null)
    {
        var tone = Shade(d, shadow, paint);
        if (values > 0)
        {
            var radius = Math.Max(
                1,
                (int)(
                    d.Height
                    * (
                        values <= 3 ? 0.011f
                        : values <= 5 ? 0.007f
                        : 0.003f
                    )
                )
            );
            var stepped = Steps(Calm(d, tone, radius), values);
            for (var i = 0; i < tone.Length; i++)
                tone[i] = d.Triangle[i] < 0 ? tone[i] * 0.92f : stepped[i];
        }
        return Smaller(new(d.Width, d.Height, tone), finer);
    }

    private static float[] Shade(DepthPicture d, ShadowMap shadow, Func<int, float>? paint)
    {
        var tone = new float[d.Width * d.Height];
        var camera = d.Camera;
        Parallel.For(0, d.Height, y =>
        {
            for (var x = 0; x < d.Width; x++)
            {
                var o = (y * d.Width) + x;
                if (d.Triangle[o] < 0)
                {
                    // The floor only catches the shadow.
                    tone[o] =
                        camera.OnFloor(x + 0.5f, y + 0.5f) is { } f && shadow.Covers(f)
                            ? Ground - (0.30f * (1 - shadow.Lit(f, Vector3.UnitY)))
                            : Ground;
                    continue;
                }
                var n = d.NormalAt(o, out var open, out var mesh, out var cloth);
                var toLamp = Vector3.Dot(n, shadow.Lamp);
                var direct = toLamp > 0 ? toLamp * shadow.Lit(camera.At(x + 0.5f, y + 0.5f, d.Depth[o]), n) : 0;
                var up = Vector3.Dot(n, camera.Up);
                var reflected = MathF.Max(0, 0.1f - (up * 0.5f) - (toLamp * 0.35f));
                var light =
                    ((0.11f + (0.10f * (0.5f + (0.5f * up))) + (0.12f * reflected)) * open) + (0.80f * direct * (0.55f + (0.45f * open)));
                if (paint is not null)
                    light *= paint(o);
                tone[o] =
                    MathF.Pow(Math.Clamp(light, 0, 1), 0.72f)
                    * (
                        mesh > 0 ? 0.82f
                        : cloth ? 0.86f
                        : 1
                    );
            }
        });
        return tone;
    }

    /// <summary>How much farther a pixel may lie and still be of one form, units.</summary>
    private const float OneForm = 2.5f;

    /// <summary>A box blur inside the figure that doesn't cross from one form to another behind it: values become shapes, not islands. Several
    /// pixels of a row are summed at once; what shows nothing lies farther than any form.</summary>
    private static float[] Calm(DepthPicture d, float[] tone, int radius)
    {
        foreach (var step in new[] { 1, d.Width, 1, d.Width })
        {
            var from = tone;
            var to = new float[from.Length];
            Parallel.For(0, d.Height, y => CalmRow(d, from, to, y, step, radius));
            tone = to;
        }
        return tone;
    }

    private static void CalmRow(DepthPicture d, float[] from, float[] to, int y, int step, int radius)
    {
        // Along the row its ends have fewer neighbours, across it the first and last rows.
        int low = step == 1 ? -radius : -Math.Min(radius, y),
            high = step == 1 ? radius : Math.Min(radius, d.Height - 1 - y),
            border = step == 1 ? radius : 0;
        var row = y * d.Width;
        var x = 0;
        for (; x < border; x++)
            CalmPixel(d, from, to, row, x, step, low, high);
        var near = new Vector<float>(OneForm);
        for (; x + Vector<float>.Count <= d.Width - border; x += Vector<float>.Count)
        {
            var o = row + x;
            var depth = new Vector<float>(d.Depth, o);
            Vector<float> sum = Vector<float>.Zero,
                count = Vector<float>.Zero;
            for (var k = low; k <= high; k++)
            {
                var q = o + (k * step);
                var alike = Vector.LessThanOrEqual(Vector.Abs(new Vector<float>(d.Depth, q) - depth), near);
                sum += Vector.ConditionalSelect(alike, new Vector<float>(from, q), Vector<float>.Zero);
                count += Vector.ConditionalSelect(alike, Vector<float>.One, Vector<float>.Zero);
            }
            var shows = Vector.LessThan(depth, new Vector<float>(DepthPicture.Nothing));
            Vector.ConditionalSelect(shows, sum / count, new Vector<float>(from, o)).CopyTo(to, o);
        }
        for (; x < d.Width; x++)
            CalmPixel(d, from, to, row, x, step, low, high);
    }

    private static void CalmPixel(DepthPicture d, float[] from, float[] to, int row, int x, int step, int low, int high)
    {
        var o = row + x;
        to[o] = from[o];
        if (d.Triangle[o] < 0)
            return;
        float sum = 0;
        var count = 0;
        for (var k = low; k <= high; k++)
        {
            var q = o + (k * step);
            if ((step == 1 && (uint)(x + k) >= d.Width) || MathF.Abs(d.Depth[q] - d.Depth[o]) > OneForm)
                continue;
            sum += from[q];
            count++;
        }
        to[o] = sum / count;
    }

    private static float[] Steps(float[] tone, int n)
    {
        var darkest =
            n <= 3 ? 0.26f
            : n <= 5 ? 0.20f
            : 0.14f;
        return [.. tone.Select(v => darkest + ((0.95f - darkest) * MathF.Floor(Math.Clamp(v, 0, 0.9999f) * n) / (n - 1)))];
    }

    internal static TonePicture Smaller(TonePicture p, int k)
    {
        if (k == 1)
            return p;
        int w = p.Width / k,
            h = p.Height / k;
        var v = new float[w * h];
        for (var y = 0; y < h; y++)
        {
            for (var x = 0; x < w; x++)
            {
                float sum = 0;
                for (var j = 0; j < k; j++)
                for (var i = 0; i < k; i++)
                    sum += p.Values[(((y * k) + j) * p.Width) + (x * k) + i];
                v[(y * w) + x] = sum / (k * k);
            }
        }
        return new(w, h, v);
    }
}
