using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Objects;

/// <summary>An arrangement in values under one lamp with its cast shadows: light of the sky by how open a place lies, light that the ground throws
/// back, each thing as light as it is of itself. In few values a flat face has one value, lit or in shadow.</summary>
internal sealed class ThingTones(ArrangementView view)
{
    /// <summary>How light wall, table and floor are drawn or are of themselves.</summary>
    private const float WallTone = 0.47f,
        TableValue = 0.64f,
        FloorValue = 0.52f;

    private const float Sky = 0.20f,
        Everywhere = 0.05f,
        Direct = 0.86f,
        ThrownBack = 0.16f,
        Exposure = 1.22f,
        Gamma = 0.68f;

    /// <summary>How open flat faces and the ground are taken to lie in few values.</summary>
    private const float FlatOpen = 0.85f,
        GroundOpen = 0.95f;

    private const int WallId = -2,
        GroundId = -1;

    private readonly SeatCamera camera = view.Camera;
    private readonly DepthPicture depth = view.Depth;
    private readonly ShadowMap shadow = new(
        view.Lamp,
        [view.Model.Things],
        view.Model.Low,
        view.Model.High,
        view.Finer > 1 ? ShadowMap.Fine : ShadowMap.Coarse
    );

    public TonePicture Draw(int values)
    {
        var tone = Shade(few: values > 0, out var id);
        if (values > 0)
            tone = Steps(Calm(tone, id, values), id, values);
        return Smaller(tone);
    }

    /// <summary>The tone of every pixel of the finer picture, soft.</summary>
    public float[] Soft() => Shade(few: false, out _);

    private float[] Shade(bool few, out int[] ids)
    {
        // A quick view while something moves does without: it is found once the arrangement rests.
        if (view.Finer > 1)
            view.Model.Open();
        int width = camera.Width,
            height = camera.Height;
        var tone = new float[width * height];
        var id = new int[width * height];
        Parallel.For(0, height, y =>
        {
            for (var x = 0; x < width; x++)
                (tone[(y * width) + x], id[(y * width) + x]) = Pixel(x, y, few);
        });
        if (view.Model.Glass is { } glass)
            Veil(glass, tone);
        ids = id;
        return tone;
    }

    private (float Tone, int Id) Pixel(int x, int y, bool few)
    {
        var o = (y * camera.Width) + x;
        if (depth.Triangle[o] < 0)
            return (WallTone, WallId);
        var normal = depth.NormalAt(o, out var open, out var mesh, out _);
        var place = camera.At(x + 0.5f, y + 0.5f, depth.Depth[o]);
        if (mesh > 0 && view.IsWall(place))
            return (WallTone, WallId);
        var look = mesh == 0 ? view.LookAt(o) : null;
        if (few && look is null)
            open = GroundOpen;
        else if (few && !look!.Smooth)
            open = FlatOpen;
        var toLamp = Vector3.Dot(normal, view.Lamp);
        var lit =
            toLamp <= 0 ? 0
            : look is not null || shadow.Covers(place) ? shadow.Lit(place, normal)
            : 1;
        if (few)
            lit = lit > 0.45f ? 1 : 0;
        return (Exposed(Light(normal, toLamp, lit, open, look, place)), look?.Thing ?? GroundId);
    }

    private float Light(Vector3 normal, float toLamp, float lit, float open, PartLook? look, Vector3 place)
    {
        var ground = view.Model.Arrangement.Ground == Ground.Table ? TableValue : FloorValue;
        var thrown = MathF.Max(0, 0.55f - (0.5f * normal.Y)) * ThrownBack * (0.35f + (0.65f * open));
        var light =
            (
                ((Everywhere + (Sky * (0.5f + (0.5f * normal.Y)))) * open)
                + thrown
                + (Direct * MathF.Max(0, toLamp) * lit * (0.75f + (0.25f * open)))
            ) * (look?.Value ?? ground);
        if (look?.Gloss > 0 && toLamp > 0)
        {
            var half = Vector3.Normalize(view.Lamp + camera.ToEye(place));
            light += look.Gloss * lit * MathF.Pow(MathF.Max(0, Vector3.Dot(normal, half)), 70);
        }
        return light;
    }

    private static float Exposed(double light) => MathF.Pow(Math.Clamp((float)light * Exposure, 0, 1), Gamma);

    /// <summary>The tone of a flat face by where it faces alone, fully lit.</summary>
    public static double Facing(ArrangementView view, Plane plane)
    {
        double toLamp = Math.Max(0, plane.Normal.Dot(Point3.Of(view.Lamp))),
            thrown = Math.Max(0, 0.55 - (0.5 * plane.Normal.Y)) * ThrownBack,
            light = Everywhere + (Sky * (0.5 + (0.5 * plane.Normal.Y))) + thrown + (Direct * toLamp);
        return Exposed(light * view.Model.Looks[plane.Part].Value);
    }

    private void Veil(Mesh glass, float[] tone)
    {
        var panes = new DepthPicture(camera, glass);
        for (var o = 0; o < tone.Length; o++)
        {
            if (panes.Triangle[o] < 0 || panes.Depth[o] >= depth.Depth[o])
                continue;
            var toLamp = MathF.Max(0, Vector3.Dot(panes.NormalAt(o, out _, out _, out _), view.Lamp));
            tone[o] = (tone[o] * 0.9f) + (0.055f * (1 + toLamp));
        }
    }

    /// <summary>A box blur within a form and a light: it crosses neither into another thing, nor over a fold or a shadow's edge.</summary>
    private float[] Calm(float[] tone, int[] id, int values)
    {
        int width = camera.Width,
            height = camera.Height;
        var share =
            values <= 3 ? 0.009f
            : values <= 5 ? 0.006f
            : 0.003f;
        var radius = Math.Max(1, (int)(height * share));
        foreach (var step in new[] { 1, width, 1, width })
        {
            var from = tone;
            var to = new float[from.Length];
            Parallel.For(0, height, y => CalmRow(from, id, to, y, step, radius));
            tone = to;
        }
        return tone;
    }

    private const float OneForm = 4,
        OneLight = 0.11f;

    private void CalmRow(float[] from, int[] id, float[] to, int y, int step, int radius)
    {
        int width = camera.Width,
            // Along the row its ends have fewer neighbours, across it the first and last rows.
            low = step == 1 ? -radius : -Math.Min(radius, y),
            high = step == 1 ? radius : Math.Min(radius, camera.Height - 1 - y),
            border = step == 1 ? radius : 0,
            row = y * width,
            x = 0;
        for (; x < border; x++)
            to[row + x] = Mean(from, id, row + x, -x, high, step);
        for (; x + Vector<float>.Count <= width - border; x += Vector<float>.Count)
            Means(from, id, row + x, low, high, step).CopyTo(to, row + x);
        for (; x < width; x++)
            to[row + x] = Mean(from, id, row + x, low, step == 1 ? Math.Min(high, width - 1 - x) : high, step);
    }

    /// <summary>Several pixels of a row at once.</summary>
    private Vector<float> Means(float[] tone, int[] id, int o, int low, int high, int step)
    {
        Vector<float> own = new(tone, o),
            far = new(depth.Depth, o),
            form = new(OneForm),
            light = new(OneLight),
            sum = Vector<float>.Zero,
            count = Vector<float>.Zero;
        var mine = new Vector<int>(id, o);
        for (var k = low; k <= high; k++)
        {
            var q = o + (k * step);
            var value = new Vector<float>(tone, q);
            var alike =
                Vector.Equals(new Vector<int>(id, q), mine)
                & Vector.LessThanOrEqual(Vector.Abs(new Vector<float>(depth.Depth, q) - far), form)
                & Vector.LessThanOrEqual(Vector.Abs(value - own), light);
            sum += Vector.ConditionalSelect(alike, value, Vector<float>.Zero);
            count += Vector.ConditionalSelect(alike, Vector<float>.One, Vector<float>.Zero);
        }
        return sum / count;
    }

    private float Mean(float[] tone, int[] id, int o, int low, int high, int step)
    {
        float sum = 0;
        var count = 0;
        for (var k = low; k <= high; k++)
        {
            var q = o + (k * step);
            if (id[q] != id[o] || MathF.Abs(depth.Depth[q] - depth.Depth[o]) > OneForm || MathF.Abs(tone[q] - tone[o]) > OneLight)
                continue;
            sum += tone[q];
            count++;
        }
        return sum / count;
    }

    /// <summary>As few values as are wanted, parted where the arrangement's own lights lie apart (Lloyd's rounds from even steps): faces that meet stay
    /// told apart as far as so few values can.</summary>
    private static float[] Steps(float[] tone, int[] id, int values)
    {
        var darkest =
            values <= 3 ? 0.20f
            : values <= 5 ? 0.14f
            : 0.10f;
        var means = Parted(Sample(tone, id), values);
        var stepped = new float[tone.Length];
        Parallel.For(0, (tone.Length + 65535) / 65536, block =>
        {
            for (var i = block * 65536; i < Math.Min(tone.Length, (block + 1) * 65536); i++)
                stepped[i] = darkest + ((0.95f - darkest) * Nearest(means, tone[i]) / (values - 1));
        });
        return stepped;
    }

    /// <summary>Tones of every seventh pixel of the things, from dark to light.</summary>
    private static float[] Sample(float[] tone, int[] id)
    {
        var some = new List<float>(tone.Length / 7);
        for (var i = 0; i < tone.Length; i += 7)
            if (id[i] >= 0)
                some.Add(tone[i]);
        some.Sort();
        return [.. some];
    }

    private static float[] Parted(float[] sorted, int values)
    {
        float low = sorted[sorted.Length / 50],
            high = MathF.Max(sorted[sorted.Length * 97 / 100], low + 0.3f);
        float[] means = [.. Enumerable.Range(0, values).Select(i => low + ((high - low) * (i + 0.5f) / values))];
        for (var round = 0; round < 12; round++)
        {
            var sum = new double[values];
            var count = new int[values];
            foreach (var t in sorted)
            {
                var k = Nearest(means, t);
                sum[k] += t;
                count[k]++;
            }
            for (var k = 0; k < values; k++)
                if (count[k] > 0)
                    means[k] = (float)(sum[k] / count[k]);
        }
        return means;
    }

    private static int Nearest(float[] means, float t)
    {
        var k = 0;
        while (k + 1 < means.Length && t > (means[k] + means[k + 1]) / 2)
            k++;
        return k;
    }

    private TonePicture Smaller(float[] tone) => ToneView.Smaller(new(camera.Width, camera.Height, tone), view.Finer);
}
