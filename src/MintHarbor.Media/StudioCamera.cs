using System.Runtime.Intrinsics;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Simulation;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>The sheet camera on a bad evening: a sheet on a table, a drawing board or a pale wall, held by clips, tape or a
/// thumb, half in shadow, seen from up to 25° aside, a little blurred. Everything follows from the seed, and where the sheet's
/// corners lie in the photograph is known exactly.</summary>
public static partial class StudioCamera
{
    private enum Ground
    {
        Table,
        Board,
        PaleWall,
        Cloth,
        Floor,
    }

    /// <param name="Says">What the scene holds, for a failing test.</param>
    public sealed record Shot(byte[] Jpeg, IReadOnlyList<Vec2> Corners, string Says);

    public static Shot Take(SimulatedDrawing drawing, int width, int height, long seed, Trouble trouble = Trouble.None) =>
        Take(drawing.Paper, random => SheetCamera.DrawSheet(drawing, 3, random), width, height, seed, trouble);

    /// <summary>A sheet of known strokes.</summary>
    public static Shot Take(TechniqueSheet sheet, int width, int height, long seed) =>
        Take(sheet.Paper, _ => InkPress.Bitmap(sheet, 4), width, height, seed, Trouble.None);

    private static Shot Take(PaperSize size, Func<SeededRandom, SKBitmap> drawn, int width, int height, long seed, Trouble trouble)
    {
        var random = new SeededRandom(seed);
        double w = size.WidthMm,
            h = size.HeightMm;
        var view = new View(random, width, height, w, h, trouble == Trouble.CroppedCorner ? 1 + random.Next(4) : 0);
        Vec2[] paper = [new(0, 0), new(w, 0), new(w, h), new(0, h)];
        var corners = paper.Select(view.See).ToArray();
        var ground = trouble == Trouble.PaleWall ? Ground.PaleWall : (Ground)random.Next(5);
        using var sheet = drawn(random);
        if (trouble == Trouble.CharcoalToEdge)
            Rub(sheet, random);
        using var scene = new SKBitmap(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Opaque, SKColorSpace.CreateSrgb()));
        var says = $"seed {seed}: {trouble}, {ground}, {view.Says}";
        using (var canvas = new SKCanvas(scene))
        {
            Lay(canvas, ground, view, random, width, height, w, h);
            if (trouble == Trouble.PaleWall)
                canvas.DrawColor(Pale(random), SKBlendMode.SrcOver);
            if (trouble == Trouble.Stack)
                says += Pile(canvas, view, random, w, h);
            canvas.Save();
            var map = Homography.FromFourPoints(
                [new(0, 0), new(sheet.Width, 0), new(sheet.Width, sheet.Height), new(0, sheet.Height)],
                [.. corners.Select(c => c + new Vec2(0.5, 0.5))]
            );
            canvas.SetMatrix(Matrix(map));
            // The paper lifts a little from what it lies on: a thin soft shadow on one side.
            using (
                var lift = new SKPaint
                {
                    Color = new SKColor(20, 18, 16, (byte)random.Between(40, 120)),
                    MaskFilter = SKMaskFilter.CreateBlur(SKBlurStyle.Normal, (float)random.Between(2, 7)),
                }
            )
                canvas.DrawRect(
                    new SKRect(2, 3, sheet.Width + (float)random.Between(1, 8), sheet.Height + (float)random.Between(1, 8)),
                    lift
                );
            using (var image = SKImage.FromBitmap(sheet))
                canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
            canvas.Restore();
            says += Hold(canvas, view, random, w, h) + Shade(canvas, random, width, height);
        }
        var blur = random.Between(0, 1.8);
        using var photo = new SKBitmap(scene.Info);
        using (var canvas = new SKCanvas(photo))
        using (var image = SKImage.FromBitmap(scene))
        using (var soft = new SKPaint { ImageFilter = blur < 0.4 ? null : SKImageFilter.CreateBlur((float)blur, (float)blur) })
            canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Nearest), soft);
        Grain(photo, random);
        using var data = photo.Encode(SKEncodedImageFormat.Jpeg, 74 + random.Next(19));
        return new(data.ToArray(), corners, says);
    }

    /// <summary>A pinhole over the sheet's plane: where a place on it (mm) falls in the photograph (px).</summary>
    private sealed class View
    {
        private readonly Homography map;

        /// <param name="cropped">Which corner, from 1, the photograph leaves out; 0 for none.</param>
        public View(SeededRandom random, int width, int height, double w, double h, int cropped)
        {
            double pitch = random.Between(-25, 25),
                yaw = random.Between(-18, 18),
                roll = random.Between(-9, 9),
                share = random.Between(0.58, 0.86);
            Says = $"pitch {pitch:0}, yaw {yaw:0}, roll {roll:0}, fills {share:0.00}";
            var (sp, cp) = Math.SinCos(pitch * Math.PI / 180);
            var (sy, cy) = Math.SinCos(yaw * Math.PI / 180);
            var (sr, cr) = Math.SinCos(roll * Math.PI / 180);
            // A phone's lens: 26 mm on a 36 mm frame, the long side of the photograph.
            var focal = Math.Max(width, height) * 0.72;
            Vec2 Project(double x, double y, double distance)
            {
                var (x1, z1) = ((x - (w / 2)) * cy, (x - (w / 2)) * sy);
                var (y2, z2) = (((y - (h / 2)) * cp) - (z1 * sp), ((y - (h / 2)) * sp) + (z1 * cp));
                var (x3, y3) = ((x1 * cr) - (y2 * sr), (x1 * sr) + (y2 * cr));
                return new((width / 2.0) + (focal * x3 / (distance + z2)), (height / 2.0) + (focal * y3 / (distance + z2)));
            }
            Vec2[] at = [new(0, 0), new(w, 0), new(w, h), new(0, h)];
            // Come nearer until the sheet fills its share of the frame, then hold it a little off the middle.
            double near = 200,
                far = 20000;
            for (var k = 0; k < 60; k++)
            {
                var d = (near + far) / 2;
                var seen = at.Select(p => Project(p.X, p.Y, d)).ToList();
                var fills = Math.Max((seen.Max(p => p.X) - seen.Min(p => p.X)) / width, (seen.Max(p => p.Y) - seen.Min(p => p.Y)) / height);
                if (fills > share)
                    near = d;
                else
                    far = d;
            }
            var corners = at.Select(p => Project(p.X, p.Y, near)).ToArray();
            double left = corners.Min(p => p.X),
                right = width - corners.Max(p => p.X),
                top = corners.Min(p => p.Y),
                foot = height - corners.Max(p => p.Y);
            var shift = new Vec2(
                ((right - left) / 2) + random.Between(-0.35, 0.35) * (left + right) / 2,
                ((foot - top) / 2) + random.Between(-0.35, 0.35) * (top + foot) / 2
            );
            if (cropped > 0)
                shift = Beyond(corners[cropped - 1], width, height, random) - corners[cropped - 1];
            map = Homography.FromFourPoints(at, [.. corners.Select(c => c + shift)]);
        }

        public string Says { get; }

        public Vec2 See(Vec2 mm) => map.Map(mm);

        public SKPoint Point(double x, double y) => See(new(x, y)) is var p ? new((float)p.X, (float)p.Y) : default;

        public SKPath Path(params (double X, double Y)[] mm)
        {
            using var builder = new SKPathBuilder();
            builder.MoveTo(Point(mm[0].X, mm[0].Y));
            foreach (var (x, y) in mm.Skip(1))
                builder.LineTo(Point(x, y));
            builder.Close();
            return builder.Detach();
        }
    }

    private static SKMatrix Matrix(Homography map) =>
        map.Coefficients is var m
            ? new((float)m[0], (float)m[1], (float)m[2], (float)m[3], (float)m[4], (float)m[5], (float)m[6], (float)m[7], (float)m[8])
            : default;

    private static void Lay(SKCanvas canvas, Ground ground, View view, SeededRandom random, int width, int height, double w, double h)
    {
        var tone = (byte)random.Between(0, 30);
        canvas.Clear(
            ground switch
            {
                Ground.PaleWall => new SKColor((byte)(196 + tone), (byte)(194 + tone), (byte)(186 + tone)),
                Ground.Cloth => new SKColor((byte)(38 + tone), (byte)(44 + tone), (byte)(60 + tone)),
                Ground.Floor => new SKColor((byte)(120 + tone), (byte)(116 + tone), (byte)(110 + tone)),
                _ => new SKColor((byte)(84 + tone), (byte)(66 + tone), (byte)(50 + tone)),
            }
        );
        using var paint = new SKPaint { IsAntialias = true, Style = SKPaintStyle.Stroke };
        if (ground is Ground.Table or Ground.Board)
        {
            for (var i = 0; i < 260; i++)
            {
                paint.Color = new SKColor(36, 24, 14, (byte)random.Between(14, 60));
                paint.StrokeWidth = (float)random.Between(1, 9);
                var y = (float)random.Between(0, height);
                canvas.DrawLine(0, y, width, y + (float)random.Normal(height * 0.01), paint);
            }
        }
        if (ground is Ground.Floor)
        {
            // Tiles: long straight joints, dark and light, in both directions.
            paint.Color = new SKColor(70, 66, 62);
            paint.StrokeWidth = 10;
            for (var n = -3; n < 8; n++)
            {
                canvas.DrawLine(view.Point(-600, n * 310 - 120), view.Point(w + 600, n * 310 - 120), paint);
                canvas.DrawLine(view.Point(n * 310 - 90, -600), view.Point(n * 310 - 90, h + 600), paint);
            }
        }
        if (ground is Ground.PaleWall)
        {
            using var mottle = new SKPaint { Color = new SKColor(90, 84, 70, 9) };
            for (var i = 0; i < 500; i++)
                canvas.DrawCircle((float)random.Between(0, width), (float)random.Between(0, height), (float)random.Between(6, 60), mottle);
        }
        if (ground is not Ground.Board)
            return;
        // A drawing board, larger than the sheet: another light rectangle round it.
        double margin = random.Between(25, 90),
            lean = random.Between(-14, 14);
        using var board = view.Path(
            (-margin, -margin - lean),
            (w + margin, -margin + lean),
            (w + margin + lean, h + margin),
            (-margin + lean, h + margin)
        );
        using var fill = new SKPaint
        {
            IsAntialias = true,
            Color = random.Next(2) == 0 ? new SKColor(168, 142, 104) : new SKColor(126, 130, 128),
        };
        canvas.DrawPath(board, fill);
    }

    /// <summary>Clips, tape, thumbs over the sheet's edge.</summary>
    private static string Hold(SKCanvas canvas, View view, SeededRandom random, double w, double h)
    {
        var said = "";
        using var paint = new SKPaint { IsAntialias = true };
        for (var n = random.Next(3); n > 0; n--)
        {
            var x = random.Between(0.08, 0.92) * w;
            using var clip = view.Path((x - 22, -30), (x + 22, -30), (x + 26, random.Between(12, 26)), (x - 26, random.Between(12, 26)));
            paint.Color = random.Next(2) == 0 ? new SKColor(24, 24, 26) : new SKColor(150, 152, 158);
            canvas.DrawPath(clip, paint);
            said += ", clip";
        }
        if (random.Next(3) == 0)
        {
            foreach (var (x, y) in new[] { (0.0, 0.0), (w, 0.0), (w, h), (0.0, h) })
            {
                if (random.Next(2) == 0)
                    continue;
                var (dx, dy) = (x == 0 ? 1 : -1, y == 0 ? 1 : -1);
                using var tape = view.Path(
                    (x - (dx * 18), y + (dy * 34)),
                    (x + (dx * 34), y - (dy * 18)),
                    (x + (dx * 46), y - (dy * 4)),
                    (x - (dx * 4), y + (dy * 46))
                );
                paint.Color = new SKColor(226, 214, 180, 216);
                canvas.DrawPath(tape, paint);
            }
            said += ", tape";
        }
        if (random.Next(3) == 0)
        {
            // A thumb from outside the frame over one of the sides.
            var side = random.Next(4);
            var along = random.Between(0.2, 0.8);
            Vec2 edge = side switch
            {
                0 => new(along * w, 0),
                1 => new(w, along * h),
                2 => new(along * w, h),
                _ => new(0, along * h),
            };
            Vec2 away = side switch
            {
                0 => new(0, -1),
                1 => new(1, 0),
                2 => new(0, 1),
                _ => new(-1, 0),
            };
            paint.Color = new SKColor((byte)random.Between(120, 232), (byte)random.Between(80, 186), (byte)random.Between(60, 160));
            for (var k = 0; k < 40; k++)
            {
                var at = view.See(edge + (away * ((k * 6) - 26)));
                var size = (view.See(edge + new Vec2(12, 0)) - view.See(edge)).Length;
                canvas.DrawCircle((float)at.X, (float)at.Y, (float)size, paint);
            }
            said += ", thumb";
        }
        return said;
    }

    /// <summary>Fall of light, and on many evenings a cast shadow whose edge crosses the sheet.</summary>
    private static string Shade(SKCanvas canvas, SeededRandom random, int width, int height)
    {
        var angle = random.Between(0, 2 * Math.PI);
        var reach = new SKPoint((float)(Math.Cos(angle) * width * 0.7), (float)(Math.Sin(angle) * height * 0.7));
        var middle = new SKPoint(width / 2f, height / 2f);
        using (
            var fall = new SKPaint
            {
                Shader = SKShader.CreateLinearGradient(
                    middle - reach,
                    middle + reach,
                    [new SKColor(255, 250, 235, 0), new SKColor(24, 20, 30, (byte)random.Between(30, 105))],
                    SKShaderTileMode.Clamp
                ),
            }
        )
            canvas.DrawRect(0, 0, width, height, fall);
        if (random.Next(2) == 0)
            return "";
        using var shadow = new SKPaint
        {
            IsAntialias = true,
            Color = new SKColor(16, 14, 22, (byte)random.Between(50, 120)),
            MaskFilter = SKMaskFilter.CreateBlur(SKBlurStyle.Normal, (float)random.Between(3, 60)),
        };
        canvas.Save();
        canvas.Translate(width * (float)random.Between(0.25, 0.75), height * (float)random.Between(0.25, 0.75));
        canvas.RotateDegrees((float)random.Between(0, 360));
        canvas.DrawRect(0, -height * 2, width * 2, height * 4, shadow);
        canvas.Restore();
        return ", shadow";
    }

    private static void Grain(SKBitmap b, SeededRandom random)
    {
        // A block of noise laid over and over at changing places: quick, and no pattern that a finder could lean on.
        const int Block = 65536;
        var noise = new sbyte[4 * (Block + b.Width)];
        for (var i = 0; i < Block; i++)
            noise.AsSpan(4 * i, 3).Fill((sbyte)Math.Clamp(random.Normal(4), -14, 14));
        noise.AsSpan(0, 4 * b.Width).CopyTo(noise.AsSpan(4 * Block));
        for (var y = 0; y < b.Height; y++)
            Add(b.GetPixelSpan().Slice(y * b.RowBytes, 4 * b.Width), noise.AsSpan(4 * random.Next(Block), 4 * b.Width));
    }

    /// <summary>Adds to every byte, kept within 0 to 255.</summary>
    private static void Add(Span<byte> bytes, ReadOnlySpan<sbyte> more)
    {
        // A byte less 128 is a signed one, whose sums the processor keeps within bounds by itself.
        var middle = Vector128.Create((byte)128);
        var o = 0;
        for (; o + 16 <= bytes.Length; o += 16)
        {
            var sum = Vector128.AddSaturate((Vector128.Create<byte>(bytes[o..]) ^ middle).AsSByte(), Vector128.Create(more[o..]));
            (sum.AsByte() ^ middle).CopyTo(bytes[o..]);
        }
        for (; o < bytes.Length; o++)
            bytes[o] = (byte)Math.Clamp(bytes[o] + more[o], 0, 255);
    }
}
