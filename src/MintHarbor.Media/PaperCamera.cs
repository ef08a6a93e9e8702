using System.Runtime.InteropServices;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Simulation;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>How a camera sees, and how a sheet lies before it: two of them, so that a reader made on the one is tried on the other.</summary>
/// <param name="Width">Pixels; the picture is upright, 3 : 4.</param>
/// <param name="Focal">Over the width.</param>
/// <param name="Bow">Of the lens: at most so much, either way, at the corners.</param>
/// <param name="Noise">Of its light, least and most.</param>
/// <param name="Sharpened">In so many of all, and how much.</param>
/// <param name="Quality">JPEG, least and most.</param>
/// <param name="Falloff">Darkening towards the corners.</param>
/// <param name="Tint">Red and blue over green.</param>
public sealed record CameraManner(
    int Width,
    (double Least, double Most) Focal,
    double Bow,
    (double Least, double Most) Noise,
    (double Share, double Most) Sharpened,
    (int Least, int Most) Quality,
    double Falloff,
    (double Red, double Blue) Tint,
    bool OfSmoothPaper
)
{
    public static CameraManner Tuning { get; } =
        new(3000, (0.97, 1.17), 0.035, (0.006, 0.016), (0.5, 0.9), (70, 94), 0.18, (1.03, 0.93), false);

    /// <summary>Wider, noisier, warmer, sharpened harder and pressed smaller.</summary>
    public static CameraManner Other { get; } =
        new(2736, (0.78, 0.95), 0.05, (0.010, 0.022), (0.75, 1.2), (62, 88), 0.30, (1.08, 0.84), true);
}

/// <summary>What went into one picture of a drill sheet.</summary>
/// <param name="Scale">How large it was printed.</param>
public sealed record PaperLie(double Scale, double TiltDegrees, bool Covered, bool Shadowed, bool Curled, bool Buckled, bool Moved);

/// <param name="Truth">With the tones as they came out on the paper.</param>
public sealed record PaperShot(byte[] Jpeg, int Width, int Height, IReadOnlyList<PaperTruth> Truth, PaperLie Lie);

/// <summary>The sheet camera for drill sheets: printed, pencilled, laid on a table, curled or buckled, lit from a side, in a hand's shadow, and
/// photographed by a phone that is held a little askew.</summary>
public sealed class PaperCamera
{
    /// <summary>Pixels to a millimetre of the paper that is photographed.</summary>
    private const double PerMm = 12;

    /// <summary>White paper sends back so much light.</summary>
    private const double White = 0.86;

    private readonly CameraManner manner;
    private readonly SeededRandom random;
    private readonly PencilledSheet sheet;
    private readonly double scale;
    private readonly Vec2 corner;
    private readonly int width,
        height;
    private readonly float[] paper;

    private PaperCamera(PencilledSheet sheet, CameraManner manner, SKTypeface face, long seed, double? scale)
    {
        (this.sheet, this.manner, random) = (sheet, manner, new(seed));
        this.scale = scale ?? random.Between(0.94, 1);
        var (w, h) = SheetLayout.Page(sheet.Sheet.Code.Letter);
        (w, h) = (w / this.scale, h / this.scale);
        corner = new((SheetLayout.Width - w) / 2, (SheetLayout.Height - h) / 2);
        (width, height) = ((int)Math.Ceiling(w * PerMm), (int)Math.Ceiling(h * PerMm));
        paper = Printed(face);
        Pencilled();
    }

    /// <param name="flat">The sheet lies flat, well lit and seen from above: a good photograph.</param>
    public static PaperShot Take(
        PencilledSheet sheet,
        CameraManner manner,
        PrintFaces faces,
        long seed,
        bool flat = false,
        int? width = null
    )
    {
        var camera = new PaperCamera(sheet, width is { } w ? manner with { Width = w } : manner, faces.Text, seed, flat ? 1 : null);
        return camera.Shot(flat);
    }

    // ---- the sheet

    private float[] Printed(SKTypeface face)
    {
        var print = DrillSheetPrint.Raster(sheet.Sheet, face, corner.X, corner.Y, PerMm, width, height).Pixels;
        List<Area> tones = [.. sheet.Sheet.Items.OfType<ToneSteps>().SelectMany(t => Enumerable.Range(0, ToneSteps.Steps).Select(t.Given))];
        double black = random.Between(0.035, 0.11),
            gain = random.Between(-0.04, 0.08);
        var jet = random.Next() < 0.4;
        var seed = random.Next(1 << 20);
        var light = new float[width * height];
        Parallel.For(0, height, y =>
        {
            var dots = new SeededRandom((seed * 65536L) + y);
            for (var x = 0; x < width; x++)
            {
                var ink = 1 - (print[(y * width) + x] / 255.0);
                if (ink is > 0.02 and < 0.98 && tones.Any(t => t.Holds(Place(x, y))))
                    ink = Screened(Math.Clamp(ink + (gain * 4 * ink * (1 - ink)), 0, 1), x, y, jet ? dots.Next() : null);
                light[(y * width) + x] = (float)(1 - (ink * (1 - black)));
            }
        });
        return light;
    }

    private Vec2 Place(int x, int y) => corner + new Vec2((x + 0.5) / PerMm, (y + 0.5) / PerMm);

    /// <summary>A printer has no grey: spray, or clusters of dots 0.27 mm apart.</summary>
    private static double Screened(double ink, int x, int y, double? spray)
    {
        if (spray is { } chance)
            return chance < ink ? 1 : 0;
        const double cell = 0.27 * PerMm;
        double u = (x + y) * 0.7071 * 2 * Math.PI / cell,
            v = (y - x) * 0.7071 * 2 * Math.PI / cell;
        return Share(0.5 + (0.25 * (Math.Cos(u) + Math.Cos(v)))) < ink ? 1 : 0;
    }

    /// <summary>Share of the screen that lies below a threshold.</summary>
    private static readonly double[] Below = Shares();

    private static double Share(double threshold) => Below[Math.Clamp((int)(threshold * 1000), 0, 1000)];

    private static double[] Shares()
    {
        var count = new double[1001];
        for (var i = 0; i < 200; i++)
        for (var j = 0; j < 200; j++)
            count[(int)((0.5 + (0.25 * (Math.Cos(i * Math.PI / 100) + Math.Cos(j * Math.PI / 100)))) * 1000)] += 1.0 / 40000;
        for (var i = 1; i < count.Length; i++)
            count[i] += count[i - 1];
        return count;
    }

    private void Pencilled()
    {
        var dark = new float[width * height];
        foreach (var s in sheet.Strokes)
            Stamp(dark, s);
        foreach (var s in sheet.Smudges)
            Smear(dark, s);
        for (var i = 0; i < paper.Length; i++)
            paper[i] *= 1 - dark[i];
    }

    private void Stamp(float[] dark, PencilStroke s)
    {
        const double step = 0.06;
        double phase = random.Between(0, 100),
            slow = random.Between(0.05, 0.2),
            total = s.Places.Zip(s.Places.Skip(1), (a, b) => (b - a).Length).Sum(),
            along = 0;
        for (var i = 0; i + 1 < s.Places.Count; i++)
        {
            var (a, b) = (s.Places[i], s.Places[i + 1]);
            var length = (b - a).Length;
            var n = Math.Max(1, (int)(length / step));
            for (var k = 0; k < n; k++)
            {
                along += length / n;
                var press =
                    (s.Dark + ((s.DarkTo - s.Dark) * along / total))
                    * (1 + (0.22 * Math.Sin((along * slow * 6.28) + phase)) + (0.1 * Math.Sin((along * 1.7) + (phase * 3))));
                Dab(
                    dark,
                    (a + ((b - a) * ((double)k / n)) - corner) * PerMm,
                    s.Width / 2 * (1 + (0.12 * Math.Sin((along * 0.9) + phase))) * PerMm,
                    press,
                    s.Soft
                );
            }
        }
    }

    private void Dab(float[] dark, Vec2 at, double radius, double press, bool soft)
    {
        for (var y = Math.Max(0, (int)(at.Y - radius - 2)); y <= Math.Min(height - 1, (int)(at.Y + radius + 2)); y++)
        for (var x = Math.Max(0, (int)(at.X - radius - 2)); x <= Math.Min(width - 1, (int)(at.X + radius + 2)); x++)
        {
            var off = Math.Sqrt(((x + 0.5 - at.X) * (x + 0.5 - at.X)) + ((y + 0.5 - at.Y) * (y + 0.5 - at.Y)));
            var edge = Math.Clamp(((radius - off) / (soft ? radius * 0.8 : 1.8)) + 0.5, 0, 1);
            if (edge <= 0)
                continue;
            var v = (float)Math.Min(0.97, press * edge * (soft ? 1 : Tooth(x, y)));
            ref var d = ref dark[(y * width) + x];
            d = Math.Max(d, v);
        }
    }

    /// <summary>The paper's tooth: grain by grain, or in small hills.</summary>
    private double Tooth(int x, int y)
    {
        static double Hash(int x, int y)
        {
            var h = ((uint)x * 73856093u) ^ ((uint)y * 19349663u);
            h ^= h >> 13;
            h *= 0x85ebca6b;
            h ^= h >> 16;
            return (h & 1023) / 1023.0;
        }
        if (!manner.OfSmoothPaper)
            return 0.55 + (0.9 * Hash(x, y));
        double u = x / 3.0,
            v = y / 3.0;
        int i = (int)u,
            j = (int)v;
        double a = u - i,
            b = v - j;
        var hill =
            ((1 - b) * (((1 - a) * Hash(i, j)) + (a * Hash(i + 1, j)))) + (b * (((1 - a) * Hash(i, j + 1)) + (a * Hash(i + 1, j + 1))));
        return 0.6 + (0.8 * hill);
    }

    private void Smear(float[] dark, Smudge s)
    {
        var along = new Vec2(Math.Cos(s.Degrees * Math.PI / 180), Math.Sin(s.Degrees * Math.PI / 180));
        var (from, to) = (
            (s.Middle - new Vec2(2 * s.Radius, 2 * s.Radius) - corner) * PerMm,
            (s.Middle + new Vec2(2 * s.Radius, 2 * s.Radius) - corner) * PerMm
        );
        for (var y = Math.Max(0, (int)from.Y); y < Math.Min(height, (int)to.Y); y++)
        for (var x = Math.Max(0, (int)from.X); x < Math.Min(width, (int)to.X); x++)
        {
            var e = Place(x, y) - s.Middle;
            double u = e.Dot(along) / s.Radius,
                v = e.Cross(along) / (s.Radius * 0.55);
            ref var d = ref dark[(y * width) + x];
            d = (float)(1 - ((1 - d) * (1 - (s.Dark * Math.Exp(-1.2 * ((u * u) + (v * v)))))));
        }
    }

    private double Mean(Area a)
    {
        Vec2 from = (new Vec2(a.Left, a.Top) - corner) * PerMm,
            to = (new Vec2(a.Right, a.Foot) - corner) * PerMm;
        double sum = 0;
        var count = 0;
        for (var y = (int)from.Y; y < to.Y; y++)
        for (var x = (int)from.X; x < to.X; x++, count++)
            sum += paper[(y * width) + x];
        return sum / count;
    }

    private IReadOnlyList<PaperTruth> Truth() =>
        [
            .. sheet.Truth.Zip(sheet.Sheet.Items, (t, item) =>
                item is ToneSteps tone && t.State == AnswerState.Answered
                    ? t with
                    {
                        Scores =
                        [
                            .. Enumerable
                                .Range(0, ToneSteps.Steps)
                                .Select(n => new ItemScore(
                                    ToneSteps.Measure,
                                    100 * (Mean(ToneSteps.Inside(tone.Field(n))) - Mean(ToneSteps.Inside(tone.Given(n)))),
                                    0
                                )),
                        ],
                    }
                    : t
            ),
        ];

    // ---- the photograph

    private PaperShot Shot(bool flat)
    {
        int w = manner.Width,
            h = w * 4 / 3;
        var lie = new Lie(random, sheet.Sheet.Code.Letter, manner, w, h, flat);
        var light = new float[w * h];
        Parallel.For(0, h, y =>
        {
            for (var x = 0; x < w; x++)
                light[(y * w) + x] = (float)Seen(lie, x, y);
        });
        Soften(light, w, h, lie.Blur);
        if (lie.Moved)
            light = Shaken(light, w, h, lie.Shake);
        if (random.Next() < manner.Sharpened.Share)
            Sharpen(light, w, h, (float)random.Between(0.3, manner.Sharpened.Most));
        var jpeg = Developed(light, w, h);
        return new(jpeg, w, h, Truth(), new(scale, lie.Tilt, lie.Covered, lie.Shadowed, lie.Curled, lie.Buckled, lie.Moved));
    }

    /// <summary>Light that one pixel gathers.</summary>
    private double Seen(Lie lie, int x, int y)
    {
        var (on, far) = lie.OnPage(x, y);
        var at = new Vec2((on.X / scale) + (SheetLayout.Width / 2), (on.Y / scale) + (SheetLayout.Height / 2));
        var px = (at - corner) * PerMm;
        var value =
            lie.Finger(at) is { } skin ? skin
            : px.X >= 1 && px.Y >= 1 && px.X < width - 2 && px.Y < height - 2 ? White * Sample(px.X - 0.5, px.Y - 0.5)
            : lie.Table(on);
        return value * lie.Lamp(on, at, far);
    }

    private float Sample(double x, double y)
    {
        int ix = (int)x,
            iy = (int)y;
        float fx = (float)(x - ix),
            fy = (float)(y - iy);
        var i = (iy * width) + ix;
        return ((1 - fy) * (((1 - fx) * paper[i]) + (fx * paper[i + 1])))
            + (fy * (((1 - fx) * paper[i + width]) + (fx * paper[i + width + 1])));
    }

    /// <summary>Where camera, sheet, light and hand are.</summary>
    private sealed class Lie
    {
        private readonly double focal,
            cx,
            cy,
            bow,
            distance,
            falloff,
            halfDiagonal;
        private readonly double[] r;
        private readonly double curl,
            buckle,
            wave,
            phase;
        private readonly bool curledDown;
        private readonly Vec2 buckleAlong;
        private readonly double gx,
            gy,
            shade,
            shadowRadius,
            soft,
            tableLight;
        private readonly Vec2 shadowAt,
            shadowAlong,
            fingerAt,
            fingerAlong;
        private readonly int table;

        public double Tilt { get; }
        public bool Covered { get; }
        public bool Shadowed { get; }
        public bool Curled => curl != 0;
        public bool Buckled => buckle != 0;
        public bool Moved { get; }
        public double Blur { get; }
        public Vec2 Shake { get; }

        public Lie(SeededRandom random, bool letter, CameraManner manner, int w, int h, bool flat)
        {
            bool Chance(double share) => random.Next() < share && !flat;
            focal = w * random.Between(manner.Focal.Least, manner.Focal.Most);
            Tilt =
                flat ? random.Between(0, 4)
                : Chance(0.15) ? random.Between(20, 25)
                : random.Between(0, 18);
            (cx, cy) = ((w / 2.0) + random.Between(-60, 60), (h / 2.0) + random.Between(-60, 60));
            (bow, falloff, halfDiagonal) = (random.Between(-manner.Bow, manner.Bow), manner.Falloff, Math.Sqrt((w * w) + (h * h)) / 2);
            r = Turned(random.Between(-9, 9) + (Chance(0.25) ? 180 : 0), random.Between(0, 360), Tilt);
            curl = Chance(0.3) ? random.Between(0.8, 2.5) * (Chance(0.7) ? 1 : -1) : 0;
            curledDown = Chance(0.5);
            buckle = Chance(0.3) ? random.Between(0.3, 1.2) : 0;
            (wave, phase, buckleAlong) = (random.Between(70, 140), random.Between(0, 2 * Math.PI), Vec2.Towards(random.Between(0, 180)));
            Moved = Chance(0.2);
            Shake = Vec2.Towards(random.Between(0, 180)) * (random.Between(2, 4.5) * w / 3000);
            Blur = random.Between(0.6, 1.3) * w / 3000;
            distance = Fitted(letter, w, h, random.Between(0.84, 0.96));
            (gx, gy) = (random.Between(-0.35, 0.35), random.Between(-0.35, 0.35));
            Shadowed = Chance(0.45);
            (shadowAt, shadowAlong) = (
                new(91 + random.Between(-40, 40), 85 + random.Between(0, 130)),
                Vec2.Towards(random.Between(0, 180))
            );
            (shade, shadowRadius, soft) = (random.Between(0.2, 0.45), random.Between(35, 70), random.Between(8, 25));
            Covered = Chance(0.2);
            fingerAlong = Vec2.Towards(random.Between(0, 360));
            fingerAt = SheetLayout.Marks[2 * random.Next(4)] + new Vec2(random.Normal(2.2), random.Normal(2.2)) + (fingerAlong * 5);
            tableLight = random.Next() < 0.3 ? random.Between(0.5, 0.8) : random.Between(0.08, 0.4);
            table = random.Next(1 << 20);
        }

        /// <summary>Turned in the page's plane, then tilted about an axis in it.</summary>
        private static double[] Turned(double roll, double about, double tilt)
        {
            var (sr, cr) = Math.SinCos(roll * Math.PI / 180);
            var (sa, ca) = Math.SinCos(about * Math.PI / 180);
            var (st, ct) = Math.SinCos(tilt * Math.PI / 180);
            double[] t =
            [
                (ca * ca) + (sa * sa * ct),
                ca * sa * (1 - ct),
                sa * st,
                ca * sa * (1 - ct),
                (sa * sa) + (ca * ca * ct),
                -ca * st,
                -sa * st,
                ca * st,
                ct,
            ];
            return
            [
                (t[0] * cr) + (t[1] * sr),
                (t[1] * cr) - (t[0] * sr),
                t[2],
                (t[3] * cr) + (t[4] * sr),
                (t[4] * cr) - (t[3] * sr),
                t[5],
                (t[6] * cr) + (t[7] * sr),
                (t[7] * cr) - (t[6] * sr),
                t[8],
            ];
        }

        /// <summary>As near as the whole page fits.</summary>
        private double Fitted(bool letter, int w, int h, double fill)
        {
            var (pw, ph) = SheetLayout.Page(letter);
            for (var z = 150.0; z < 900; z += 4)
            {
                var fits = true;
                foreach (var sx in (int[])[-1, 1])
                foreach (var sy in (int[])[-1, 1])
                {
                    double x = sx * pw / 2,
                        y = sy * ph / 2,
                        depth = (r[6] * x) + (r[7] * y) + z;
                    fits &= Math.Abs(focal * ((r[0] * x) + (r[1] * y)) / depth) <= w / 2.0 * fill;
                    fits &= Math.Abs(focal * ((r[3] * x) + (r[4] * y)) / depth) <= h / 2.0 * fill;
                }
                if (fits)
                    return z;
            }
            return 900;
        }

        /// <summary>Where a pixel's ray meets the paper, millimetres from the page's middle, and how far it lies from the picture's, 0 to 1.</summary>
        public (Vec2 On, double Far) OnPage(int x, int y)
        {
            double u = x + 0.5 - cx,
                v = y + 0.5 - cy,
                far = ((u * u) + (v * v)) / (halfDiagonal * halfDiagonal),
                q = 1 + (bow * far);
            (u, v) = (u * q / focal, v * q / focal);
            var along = (r[2] * u) + (r[5] * v) + r[8];
            var on = Meets(0);
            // Paper that stands up meets the ray earlier.
            for (var pass = 0; pass < 2 && (curl != 0 || buckle != 0); pass++)
                on = Meets(Height(on));
            return (on, far);

            Vec2 Meets(double height)
            {
                var l = ((r[8] * distance) - height) / along;
                double px = l * u,
                    py = l * v,
                    pz = l - distance;
                return new((r[0] * px) + (r[3] * py) + (r[6] * pz), (r[1] * px) + (r[4] * py) + (r[7] * pz));
            }
        }

        private double Height(Vec2 on) =>
            (curledDown ? curl * Math.Pow(on.Y / 148, 2) : curl * Math.Pow(on.X / 105, 2))
            + (buckle * Math.Sin((2 * Math.PI * on.Dot(buckleAlong) / wave) + phase));

        public double? Finger(Vec2 at)
        {
            if (!Covered)
                return null;
            var e = at - fingerAt;
            double along = (e.Dot(fingerAlong) / 12) - 0.55,
                across = e.Cross(fingerAlong) / 7,
                edge = (along * along * 0.6) + (across * across);
            return edge < 1 ? 0.32 * (1.05 - (0.3 * edge)) : null;
        }

        /// <summary>Grain of a table, with rings on it that are no marks of a sheet.</summary>
        public double Table(Vec2 on)
        {
            int i = (int)Math.Floor(on.X / 67),
                j = (int)Math.Floor(on.Y / 53);
            if (((i * 31) + (j * 17) + table) % 7 == 0 && (on - new Vec2((67 * i) + 33, (53 * j) + 26)).Length is < 9 and var off)
                return off < 4 ? 0.7
                    : off < 7 ? 0.1
                    : 0.6;
            var grain = (0.5 * Math.Sin((on.X * 0.11) + (3 * Math.Sin(on.Y * 0.013)))) + (0.25 * Math.Sin((on.Y * 1.3) + (on.X * 0.05)));
            return tableLight * (1 + (0.25 * grain));
        }

        /// <summary>How much light falls there, and how much of it the lens lets through.</summary>
        public double Lamp(Vec2 on, Vec2 at, double far)
        {
            var light = 1 + (gx * on.X / 150) + (gy * on.Y / 200);
            if (Shadowed)
            {
                var e = at - shadowAt;
                double along = e.Dot(shadowAlong),
                    across = Math.Abs(e.Cross(shadowAlong)),
                    off = along < 0 ? e.Length : across;
                light *= 1 - (shade / (1 + Math.Exp((off - (0.6 * shadowRadius)) / (soft / 4))));
            }
            return light * (1 - (falloff * far));
        }
    }

    private static void Soften(float[] light, int w, int h, double sigma)
    {
        var radius = (int)Math.Ceiling(sigma * 2.5);
        var kernel = Enumerable.Range(-radius, (2 * radius) + 1).Select(i => (float)Math.Exp(-i * i / (2 * sigma * sigma))).ToArray();
        var sum = kernel.Sum();
        var across = new float[light.Length];
        Parallel.For(0, h, y =>
        {
            for (var x = 0; x < w; x++)
            {
                float v = 0;
                for (var k = -radius; k <= radius; k++)
                    v += kernel[k + radius] * light[(y * w) + Math.Clamp(x + k, 0, w - 1)];
                across[(y * w) + x] = v / sum;
            }
        });
        Parallel.For(0, h, y =>
        {
            for (var x = 0; x < w; x++)
            {
                float v = 0;
                for (var k = -radius; k <= radius; k++)
                    v += kernel[k + radius] * across[(Math.Clamp(y + k, 0, h - 1) * w) + x];
                light[(y * w) + x] = v / sum;
            }
        });
    }

    private static float[] Shaken(float[] light, int w, int h, Vec2 by)
    {
        const int steps = 7;
        var shaken = (float[])light.Clone();
        Parallel.For(6, h - 6, y =>
        {
            for (var x = 6; x < w - 6; x++)
            {
                float v = 0;
                for (var k = 0; k < steps; k++)
                {
                    var o = by * (((double)k / (steps - 1)) - 0.5);
                    v += light[((y + (int)Math.Round(o.Y)) * w) + x + (int)Math.Round(o.X)];
                }
                shaken[(y * w) + x] = v / steps;
            }
        });
        return shaken;
    }

    private static void Sharpen(float[] light, int w, int h, float much)
    {
        var soft = (float[])light.Clone();
        Soften(soft, w, h, 1.6 * w / 3000);
        for (var i = 0; i < light.Length; i++)
            light[i] = Math.Max(0, light[i] + (much * (light[i] - soft[i])));
    }

    /// <summary>Exposed, with the sensor's noise, and coded.</summary>
    private byte[] Developed(float[] light, int w, int h)
    {
        double most = light.Where((_, i) => i % 97 == 0).Max(),
            exposure = random.Between(0.62, 0.85) * 1.15 / most,
            noise = random.Between(manner.Noise.Least, manner.Noise.Most);
        var curve = Curve(random.Between(0, 0.10), random.Between(0.97, 1.03));
        var seed = random.Next(1 << 30);
        using var bitmap = new SKBitmap(new SKImageInfo(w, h, SKColorType.Rgba8888, SKAlphaType.Opaque));
        var pixels = new byte[w * h * 4];
        Parallel.For(0, h, y =>
        {
            var grain = (uint)((seed ^ (y * 2654435761u)) | 1);
            double before = 0;
            for (var x = 0; x < w; x++)
            {
                double n = 0;
                for (var k = 0; k < 3; k++)
                {
                    grain ^= grain << 13;
                    grain ^= grain >> 17;
                    grain ^= grain << 5;
                    n += ((grain & 0xFFFF) / 65536.0) - 0.5;
                }
                // Neighbours share noise, as after the colours are pieced together.
                before = (0.45 * before) + (1.8 * n);
                var l = light[(y * w) + x] * exposure;
                l += noise * before * Math.Sqrt(Math.Max(0.02, l));
                var o = 4 * ((y * w) + x);
                byte Coded(double tint) => curve[(int)Math.Clamp(l * tint * 4096, 0, 4096)];
                (pixels[o], pixels[o + 1], pixels[o + 2], pixels[o + 3]) = (Coded(manner.Tint.Red), Coded(1), Coded(manner.Tint.Blue), 255);
            }
        });
        Marshal.Copy(pixels, 0, bitmap.GetPixels(), pixels.Length);
        using var data = bitmap.Encode(
            SKEncodedImageFormat.Jpeg,
            manner.Quality.Least + random.Next(manner.Quality.Most - manner.Quality.Least)
        );
        return data.ToArray();
    }

    /// <summary>From light to the coded value (sRGB), with a phone's own contrast.</summary>
    private static byte[] Curve(double contrast, double gamma) =>
        [
            .. Enumerable
                .Range(0, 4097)
                .Select(i => Math.Pow(i / 4096.0, gamma))
                .Select(v => v <= 0.0031308 ? 12.92 * v : (1.055 * Math.Pow(v, 1 / 2.4)) - 0.055)
                .Select(s => ((1 - contrast) * s) + (contrast * s * s * (3 - (2 * s))))
                .Select(s => (byte)Math.Clamp(Math.Round(s * 255), 0, 255)),
        ];
}
