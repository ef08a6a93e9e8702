using MintHarbor.Core.Courses;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sheets;
using MintHarbor.Core.Simulation;
using MintHarbor.Core.Technique;
using MintHarbor.Media;
using SkiaSharp;
using Xunit;
using Cv = OpenCvSharp;

namespace MintHarbor.Core.Tests.Sheets;

public class SheetTests
{
    private static readonly PaperSize Pad = PaperSize.Find("18x24in")!;

    private static SimulatedDrawing Drawing(DrawingFaults? faults = null, long seed = 1) =>
        SimulatedHand.Draw("stand-male-0", Pad, 500, faults ?? new(), 0.6, seed);

    [Fact]
    public void The_sheet_is_found_in_simulated_photographs()
    {
        for (var seed = 1; seed <= 12; seed++)
        {
            var shot = SheetCamera.Take(Drawing(seed: seed), 1500, 2000, seed % 3 / 2.0, seed);
            using var photo = Photo.Read(shot.Jpeg);
            var found = SheetFinder.Find(photo.Grey());
            Assert.True(found.Corners is not null, $"seed {seed}: {found.Says}");
            var worst = Enumerable.Range(0, 4).Max(i => (found.Corners![i] - shot.Corners[i]).Length);
            Assert.True(worst < 3, $"seed {seed}: a corner {worst:0.0} px off");
        }
    }

    [Fact]
    public void A_picture_without_a_sheet_says_so()
    {
        Assert.Null(SheetFinder.Find(new GreyImage(64, 64, [.. Enumerable.Repeat((byte)180, 64 * 64)])).Corners);
        Assert.Null(SheetFinder.Find(new GreyImage(1, 1, [7])).Corners);
        Assert.False(SheetFinder.IsUsable([new(0, 0), new(100, 0), new(0, 100), new(100, 100)]));
        Assert.True(SheetFinder.IsUsable([new(0, 0), new(100, 0), new(100, 100), new(0, 100)]));
    }

    /// <summary>Reference library: OpenCV's warpPerspective on the same photograph and corners.</summary>
    [Fact]
    public void The_straightened_sheet_agrees_with_OpenCV()
    {
        var shot = SheetCamera.Take(Drawing(), 900, 1200, 1, 5);
        using var photo = Photo.Read(shot.Jpeg);
        using var ours = photo.Straighten(shot.Corners, Pad, 0.75);
        using var source = Cv.Mat.FromPixelData(photo.Height, photo.Width, Cv.MatType.CV_8UC4, photo.Bitmap.Bytes);
        // OpenCV's pixel centres lie on whole numbers: the sheet's edge is half a pixel outside the first centre.
        Cv.Point2f[] to =
        [
            new(-0.5f, -0.5f),
            new(ours.Width - 0.5f, -0.5f),
            new(ours.Width - 0.5f, ours.Height - 0.5f),
            new(-0.5f, ours.Height - 0.5f),
        ];
        using var m = Cv.Cv2.GetPerspectiveTransform(shot.Corners.Select(c => new Cv.Point2f((float)c.X, (float)c.Y)), to);
        using var theirs = new Cv.Mat();
        Cv.Cv2.WarpPerspective(source, theirs, m, new Cv.Size(ours.Width, ours.Height));
        var a = ours.Bitmap.Bytes;
        theirs.GetArray(out Cv.Vec4b[] b);
        double sum = 0;
        long n = 0;
        for (var y = 4; y < ours.Height - 4; y++)
        {
            for (var x = 4; x < ours.Width - 4; x++, n++)
                sum += Math.Abs(a[((y * ours.Width) + x) * 4] - b[(y * ours.Width) + x].Item0);
        }
        Assert.True(sum / n < 1.5, $"mean difference {sum / n:0.00} of 255");
    }

    [Fact]
    public void Landmarks_on_the_straightened_sheet_stand_at_their_true_millimetres()
    {
        var drawing = Drawing();
        var shot = SheetCamera.Take(drawing, 1500, 2000, 0.8, 9);
        using var photo = Photo.Read(shot.Jpeg);
        var found = SheetFinder.Find(photo.Grey()).Corners!;
        // A true place, carried through the camera by its true corners and back by the found ones.
        Vec2[] sheet = [new(0, 0), new(Pad.WidthMm, 0), new(Pad.WidthMm, Pad.HeightMm), new(0, Pad.HeightMm)];
        var there = Homography.FromFourPoints(sheet, shot.Corners);
        var back = Homography.FromFourPoints(found, sheet);
        foreach (var p in drawing.Landmarks.Values)
            Assert.True((back.Map(there.Map(p)) - p).Length < 0.8);
    }

    /// <summary>Published: EXIF orientation tag 1 to 8. Each file is turned upright: red must come to the upper left.</summary>
    [Theory]
    [InlineData(1), InlineData(2), InlineData(3), InlineData(4), InlineData(5), InlineData(6), InlineData(7), InlineData(8)]
    public void Every_EXIF_turn_is_made_upright(int tag)
    {
        using var upright = new SKBitmap(64, 96);
        using (var canvas = new SKCanvas(upright))
        {
            canvas.Clear(SKColors.White);
            canvas.DrawRect(0, 0, 32, 48, new SKPaint { Color = SKColors.Red });
            canvas.DrawRect(32, 48, 32, 48, new SKPaint { Color = SKColors.Blue });
        }
        using var photo = Photo.Read(ExifJpeg.Turned(upright, tag));
        Assert.Equal((64, 96, tag), (photo.Width, photo.Height, photo.ExifTurn));
        Assert.True(photo.Bitmap.GetPixel(8, 8) is { Red: > 200, Blue: < 90 }, "upper left is not red");
        Assert.True(photo.Bitmap.GetPixel(56, 88) is { Blue: > 200, Red: < 90 }, "lower right is not blue");
        Assert.True(photo.Bitmap.GetPixel(56, 8) is { Red: > 200, Blue: > 200 }, "upper right is not white");
    }

    [Fact]
    public void Bad_files_are_named_with_what_is_accepted()
    {
        var whole = SheetCamera.Take(Drawing(), 300, 400, 0, 1).Jpeg;
        foreach (
            var (file, says) in new (byte[], string)[]
            {
                ([], "empty"),
                ("<svg xmlns='http://www.w3.org/2000/svg'/>"u8.ToArray(), "not a picture"),
                ("GIF89a"u8.ToArray(), "not a picture"),
                (whole[..(whole.Length / 2)], "breaks off"),
            }
        )
        {
            var e = Assert.Throws<InputException>(() => Photo.Read(file));
            Assert.Contains(says, e.Message);
            Assert.Contains("JPEG", e.Accepted);
        }
        Assert.Contains("megapixels", Assert.Throws<InputException>(() => Photo.Read(HugePng())).Message);
    }

    [Fact]
    public void A_transparent_ground_is_taken_as_white()
    {
        using var drawn = new SKBitmap(new SKImageInfo(40, 30, SKColorType.Rgba8888, SKAlphaType.Premul));
        drawn.Erase(SKColors.Transparent);
        drawn.SetPixel(20, 15, SKColors.Black);
        foreach (var format in new[] { SKEncodedImageFormat.Png, SKEncodedImageFormat.Webp })
        {
            using var data = drawn.Encode(format, 100);
            using var photo = Photo.Read(data.ToArray());
            Assert.Equal(SKColors.White, photo.Bitmap.GetPixel(2, 2));
            Assert.True(photo.Bitmap.GetPixel(20, 15).Red < 60);
        }
    }

    /// <summary>A PNG whose header claims 30,000 × 30,000 and holds nothing: refused before a pixel is allocated.</summary>
    private static byte[] HugePng()
    {
        using var one = new SKBitmap(1, 1);
        using var data = one.Encode(SKEncodedImageFormat.Png, 100);
        var png = data.ToArray();
        byte[] size = [0, 0, 0x75, 0x30];
        size.CopyTo(png, 16);
        size.CopyTo(png, 20);
        var crc = Crc32(png.AsSpan(12, 17));
        crc.CopyTo(png, 29);
        return png;
    }

    private static byte[] Crc32(ReadOnlySpan<byte> data)
    {
        var c = 0xFFFFFFFFu;
        foreach (var b in data)
        {
            c ^= b;
            for (var k = 0; k < 8; k++)
                c = (c & 1) == 1 ? 0xEDB88320 ^ (c >> 1) : c >> 1;
        }
        c ^= 0xFFFFFFFF;
        return [(byte)(c >> 24), (byte)(c >> 16), (byte)(c >> 8), (byte)c];
    }

    /// <summary>Published: CIE 15 lightness, IEC 61966-2-1 transfer function (from memory).</summary>
    [Fact]
    public void Lightness_follows_the_published_formulas()
    {
        Assert.Equal(50.0, LightCurves.Lightness(0.1842), 1);
        Assert.Equal(100, LightCurves.Lightness(1), 6);
        Assert.Equal(0, LightCurves.Lightness(0), 6);
        Assert.Equal(50.0, LightCurves.Lightness(LightCurves.Linear(0x77)), 0);
    }

    [Fact]
    public void Placement_and_tone_of_a_drawing_are_read()
    {
        var drawing = Drawing();
        var shot = SheetCamera.Take(drawing, 1200, 1600, 0.3, 3);
        using var photo = Photo.Read(shot.Jpeg);
        using var flat = photo.Straighten(shot.Corners, Pad, 0.5);
        var read = TechniqueReader.Read(flat.Grey(), 0.5).Reading;
        var top = drawing.Landmarks["crown"].Y;
        Assert.InRange(read.Place!.Top, top - 8, top + 8);
        Assert.InRange(Pad.HeightMm - read.Place.Top - read.Place.Bottom, 480, 540);
        Assert.Empty(read.Place.CutEdges);
        Assert.Equal(1, read.Tone!.Fifths.Sum(), 2);
        Assert.True(read.Tone.Darkest < 80);
        Assert.Null(TechniqueReader.Read(new GreyImage(400, 500, [.. Enumerable.Repeat((byte)240, 200_000)]), 1).Reading.Place);
    }

    [Fact]
    public void A_simulated_fault_is_exactly_what_was_asked_for()
    {
        static double Head(SimulatedDrawing d) => (d.Landmarks["chin"] - d.Landmarks["crown"]).Length;
        Assert.Equal(1.11, Head(Drawing(new(HeadScale: 1.11))) / Head(Drawing()), 6);
        static double Legs(SimulatedDrawing d) => d.Landmarks["sole.L"].Y - d.Landmarks["pubic"].Y;
        Assert.Equal(0.92, Legs(Drawing(new(LegScale: 0.92))) / Legs(Drawing()), 6);
    }
}

/// <summary>Writes a JPEG with a given EXIF orientation, its pixels turned so that the tag undoes it.</summary>
internal static class ExifJpeg
{
    public static byte[] Turned(SKBitmap upright, int tag)
    {
        var swap = tag >= 5;
        int w = swap ? upright.Height : upright.Width,
            h = swap ? upright.Width : upright.Height;
        using var stored = new SKBitmap(w, h);
        for (var y = 0; y < h; y++)
        {
            for (var x = 0; x < w; x++)
            {
                // The tag says where row 0 and column 0 of the stored pixels lie in the upright picture (EXIF 2.3, from memory).
                var (ux, uy) = tag switch
                {
                    2 => (w - 1 - x, y),
                    3 => (w - 1 - x, h - 1 - y),
                    4 => (x, h - 1 - y),
                    5 => (y, x),
                    6 => (h - 1 - y, x),
                    7 => (h - 1 - y, w - 1 - x),
                    8 => (y, w - 1 - x),
                    _ => (x, y),
                };
                stored.SetPixel(x, y, upright.GetPixel(ux, uy));
            }
        }
        using var data = stored.Encode(SKEncodedImageFormat.Jpeg, 95);
        var jpeg = data.ToArray();
        byte[] exif =
        [
            0xFF,
            0xE1,
            0,
            34,
            (byte)'E',
            (byte)'x',
            (byte)'i',
            (byte)'f',
            0,
            0,
            (byte)'M',
            (byte)'M',
            0,
            42,
            0,
            0,
            0,
            8,
            0,
            1,
            1,
            0x12,
            0,
            3,
            0,
            0,
            0,
            1,
            0,
            (byte)tag,
            0,
            0,
            0,
            0,
            0,
            0,
        ];
        return [.. jpeg[..2], .. exif, .. jpeg[2..]];
    }
}
