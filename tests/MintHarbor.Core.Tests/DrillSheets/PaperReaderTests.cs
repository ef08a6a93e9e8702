using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sheets;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using SkiaSharp;
using Xunit;

namespace MintHarbor.Core.Tests.DrillSheets;

/// <summary>Sheets printed, answered, photographed and read. The truth is where the strokes were put, by the test's own arithmetic or the simulated
/// hand's; docs/study.md has the same over three hundred sheets.</summary>
public sealed class PaperReaderTests : IDisposable
{
    private readonly PrintFaces faces = new(Checkout.Path("src/MintHarbor.Web/wwwroot/lib/print"));

    public void Dispose() => faces.Dispose();

    private GreyImage Print(DrillSheet sheet) => DrillSheetPrint.Print(sheet, faces);

    private static DrillSheet Of(long number, params string[] kinds) => DrillSheet.Make(new(number, false), kinds, number);

    private (DrillSheetReading? Reading, NoSheet? Not) Read(byte[] jpeg, params DrillSheet[] known)
    {
        using var photo = Photo.Read(jpeg);
        return DrillSheetReader.Read(photo.Grey(), c => known.FirstOrDefault(s => s.Code == c), Print);
    }

    /// <summary>Flat, well lit, from above: what is read then is read as well as it can be.</summary>
    private DrillSheetReading Photographed(DrillSheet sheet, IReadOnlyList<PencilStroke> strokes)
    {
        var drawn = new PencilledSheet(sheet, strokes, [], [.. sheet.Items.Select(_ => new PaperTruth(AnswerState.Empty, [], false, 0))]);
        var shot = PaperCamera.Take(drawn, CameraManner.Tuning, faces, 5, flat: true, width: 2000);
        return Read(shot.Jpeg, sheet).Reading ?? throw new InvalidOperationException("not found");
    }

    private static PencilStroke Stroke(double dark, params Vec2[] places) => new([.. PathDistance.Even(places, 60)], 0.5, dark, dark);

    private static Vec2 Dir(double degrees) => new(Math.Cos(degrees * Math.PI / 180), Math.Sin(degrees * Math.PI / 180));

    [Theory]
    [InlineData(3, "clockwise"), InlineData(-3, "anticlockwise"), InlineData(0, "right")]
    public void A_slant_turned_is_read_turned_the_same_way(double off, string word)
    {
        var sheet = Of(101, "slant");
        var reading = Photographed(
            sheet,
            [
                .. sheet
                    .Items.Cast<Slant>()
                    .Select(s => (s.Field.Middle, Dir(s.Degrees + off) * 9))
                    .Select(x => Stroke(0.5, x.Middle - x.Item2, x.Middle + x.Item2)),
            ]
        );
        foreach (var item in reading.Items)
        {
            Assert.True(item.Counts, string.Join(", ", item.Flags));
            Assert.Equal(off, item.Scores.Single().Error, 0.4);
            Assert.Contains(word, PaperWords.Short(item));
        }
    }

    /// <summary>Ticks at the true places of the print, moved by so much along the line.</summary>
    [Theory]
    [
        InlineData("half", 2.0, "2 mm to the right"),
        InlineData("third", -1.5, "1.5 mm to the left"),
        InlineData("carry", -2.0, "2 mm too short")
    ]
    [
        InlineData("carry", 2.0, "2 mm too long"),
        InlineData("ratio", 1.5, "1.5 mm too far along"),
        InlineData("plumb", -2.0, "2 mm to the left")
    ]
    [InlineData("half", 0.0, "right")]
    public void A_tick_is_read_where_it_was_made_and_said_the_right_way(string kind, double off, string says)
    {
        var sheet = Of(102, kind);
        var strokes = new List<PencilStroke>();
        foreach (var item in sheet.Items.Cast<TickItem>())
        {
            var axis = item.Axis();
            foreach (var at in item.Targets.Select(t => t + off))
                strokes.Add(Stroke(0.5, axis.At(at) - (axis.Across(at) * 3), axis.At(at) + (axis.Across(at) * 3)));
        }
        var reading = Photographed(sheet, strokes);
        foreach (var item in reading.Items)
        {
            Assert.True(item.Counts, string.Join(", ", item.Flags));
            Assert.All(item.Scores, s => Assert.Equal(off, s.Error, 0.25));
            Assert.All(item.Scores, s => Assert.True(s.Uncertainty is > 0.05 and < 0.7));
        }
        Assert.Contains(says.Split(' ')[0] == "right" ? "right" : says[^8..], PaperWords.Short(reading.Items[0]));
    }

    [Fact]
    public void Ticks_below_a_level_are_said_to_be_too_low()
    {
        var sheet = Of(103, "level");
        var strokes = new List<PencilStroke>();
        foreach (var item in sheet.Items.Cast<CrossLevel>())
        foreach (var p in item.Points)
        {
            // Where the printed edge stands 2 mm below the point, looked up in the print itself.
            var edge = item.Print().OfType<PrintPath>().Single().Places;
            var y = item.At.Y + p.Y + 2;
            var n = Enumerable.Range(0, edge.Count - 1).First(i => edge[i].Y <= y && edge[i + 1].Y >= y);
            var at = edge[n] + ((edge[n + 1] - edge[n]) * ((y - edge[n].Y) / (edge[n + 1].Y - edge[n].Y)));
            strokes.Add(Stroke(0.5, at - new Vec2(3, 0), at + new Vec2(3, 0)));
        }
        var reading = Photographed(sheet, strokes);
        Assert.All(reading.Items, i => Assert.All(i.Scores, s => Assert.Equal(2, s.Error, 0.4)));
        Assert.Contains("too low", PaperWords.Short(reading.Items[0]));
    }

    [Fact]
    public void An_envelope_drawn_a_tenth_too_wide_and_too_low_is_read_so()
    {
        var sheet = Of(104, "envelope");
        var strokes = new List<PencilStroke>();
        foreach (var item in sheet.Items.Cast<Envelope>())
        {
            var shape = item.Print().OfType<PrintPath>().First(p => p.Closed).Places;
            double w = (shape.Max(p => p.X) - shape.Min(p => p.X)) * 1.1 / 2,
                h = (shape.Max(p => p.Y) - shape.Min(p => p.Y)) * 0.9 / 2;
            Vec2 At(double x, double y) => item.Field.Middle + new Vec2(x, y);
            Vec2[] corners = [At(-w, -h), At(w, -h), At(w, h), At(-w, h)];
            for (var n = 0; n < 4; n++)
                strokes.Add(Stroke(0.5, corners[n], corners[(n + 1) % 4]));
        }
        var reading = Photographed(sheet, strokes);
        foreach (var item in reading.Items)
        {
            Assert.Equal([10.0, -10.0], item.Scores.Select(s => s.Error), (a, b) => Math.Abs(a - b) < 2);
            Assert.Matches("too wide.*too low", PaperWords.Short(item));
        }
    }

    [Fact]
    public void Strokes_are_counted_with_their_breaks_and_ends()
    {
        var sheet = Of(105, "strokes");
        var strokes = new List<PencilStroke>();
        foreach (var item in sheet.Items.Cast<SingleStrokes>())
            for (var n = 0; n < SingleStrokes.Strokes; n++)
            {
                var (from, to) = item.Row(n);
                if (n == 2)
                {
                    strokes.Add(Stroke(0.5, from, from + new Vec2(40, 0)));
                    strokes.Add(Stroke(0.5, from + new Vec2(44, 0), to));
                }
                else
                    strokes.Add(Stroke(0.5, from - new Vec2(3, 0), to + new Vec2(n == 5 ? -3 : 2, 0)));
            }
        var reading = Photographed(sheet, strokes);
        foreach (var item in reading.Items)
        {
            Assert.Equal(AnswerState.Answered, item.State);
            Assert.Equal([0.0, 0, 1, 0, 0, 0, 0, 0], item.Scores.Where(s => s.Measure == "breaks").Select(s => s.Error));
            var ends = item.Scores.Where(s => s.Measure == "overrun").Select(s => s.Error).Chunk(2).ToList();
            Assert.Equal(3, ends[0][0], 0.5);
            Assert.Equal(2, ends[0][1], 0.5);
            Assert.Equal(-3, ends[5][1], 0.5);
            Assert.Equal(
                "8 strokes, 1 break, wobble 0 mm",
                PaperWords.Short(item).Replace("0.01", "0").Replace("0.02", "0").Replace("0.03", "0")
            );
        }
    }

    [Fact]
    public void Hatching_twice_as_wide_is_too_wide_and_lines_too_steep_meet_too_soon()
    {
        var sheet = Of(106, "hatch", "converging");
        var strokes = new List<PencilStroke>();
        foreach (var item in sheet.Items)
        {
            if (item is EvenHatch h)
            {
                var (along, across) = (Dir(h.Degrees), Dir(h.Degrees + 90));
                for (var o = -16.0; o <= 16; o += h.Spacing + 1)
                    strokes.Add(Stroke(0.5, h.FormMiddle + (across * o) - (along * 9), h.FormMiddle + (across * o) + (along * 9)));
            }
            if (item is Converging c)
                foreach (var dot in c.Dots)
                {
                    var from = c.At + dot;
                    // Aimed at a place two thirds of the way on the far point's level: they meet too soon.
                    var aim = new Vec2(c.At.X + dot.X + ((c.Point.X - dot.X) * 0.66), c.At.Y + c.Point.Y);
                    strokes.Add(Stroke(0.5, from, from + ((aim - from) * (38 / (aim - from).Length))));
                }
        }
        var reading = Photographed(sheet, strokes);
        foreach (var (item, read) in sheet.Items.Zip(reading.Items))
        {
            if (item is EvenHatch)
                Assert.Equal(1, read.Scores.Single(s => s.Measure == EvenHatch.Measure).Error, 0.2);
            if (item is Converging && read.Scores.Count > 0)
            {
                Assert.All(read.Scores, s => Assert.True(s.Error > 0, $"{s}"));
                Assert.Contains("too steep: they meet too soon", PaperWords.Short(read));
            }
        }
        Assert.Contains(sheet.Items.Zip(reading.Items), x => x.First is Converging && x.Second.Scores.Count > 3);
    }

    [Fact]
    public void An_empty_sheet_reads_as_empty_and_two_ticks_are_left_to_a_person()
    {
        var sheet = Of(107, "half", "slant");
        var blank = Photographed(sheet, []);
        Assert.All(blank.Items, i => Assert.Equal((AnswerState.Empty, 0), (i.State, i.Flags.Count)));
        var strokes = sheet
            .Items.OfType<TickItem>()
            .SelectMany(i =>
            {
                var axis = i.Axis();
                return new[] { 8.0, 24 }.Select(at =>
                    Stroke(0.5, axis.At(at) - (axis.Across(at) * 3), axis.At(at) + (axis.Across(at) * 3))
                );
            })
            .ToList();
        var twice = Photographed(sheet, strokes);
        foreach (var (item, read) in sheet.Items.Zip(twice.Items).Where(x => x.First is TickItem))
        {
            Assert.Equal((AnswerState.Twice, false), (read.State, read.Counts));
            Assert.Contains(ReadingFlag.TwoAnswers, read.Flags);
            Assert.Empty(read.Scores);
        }
    }

    [Fact]
    public void A_sheet_is_read_whichever_way_it_lies_and_no_other_is_taken_for_it()
    {
        var sheet = Of(108, "slant", "third");
        var drawn = PaperPencil.Answer(sheet, PencilManner.Tuning, 9, neat: true);
        var shot = PaperCamera.Take(drawn, CameraManner.Tuning, faces, 9, flat: true, width: 1800);
        var upright = Read(shot.Jpeg, sheet).Reading!;
        foreach (var turns in new[] { 1, 2, 3 })
        {
            var turned = Read(Turned(shot.Jpeg, turns), sheet).Reading!;
            Assert.Equal(sheet.Code, turned.Code);
            Assert.Equal(
                upright.Items.SelectMany(i => i.Scores).Select(s => s.Error),
                turned.Items.SelectMany(i => i.Scores).Select(s => s.Error),
                (a, b) => Math.Abs(a - b) < 0.4
            );
        }
        Assert.Equal(NoSheet.Unknown, Read(shot.Jpeg).Not);
        Assert.Equal(NoSheet.Unknown, Read(shot.Jpeg, Of(109, "slant", "third")).Not);
    }

    private static byte[] Turned(byte[] jpeg, int turns)
    {
        using var from = SKBitmap.Decode(jpeg);
        using var to = turns == 2 ? new SKBitmap(from.Width, from.Height) : new SKBitmap(from.Height, from.Width);
        using (var canvas = new SKCanvas(to))
        {
            canvas.Translate(to.Width / 2f, to.Height / 2f);
            canvas.RotateDegrees(90 * turns);
            canvas.DrawBitmap(from, -from.Width / 2f, -from.Height / 2f, SKSamplingOptions.Default);
        }
        using var data = to.Encode(SKEncodedImageFormat.Jpeg, 92);
        return data.ToArray();
    }

    [Fact]
    public void Where_there_is_no_sheet_none_is_found()
    {
        var sheet = Of(110, "slant");
        var shot = PaperCamera.Take(
            PaperPencil.Answer(sheet, PencilManner.Tuning, 3),
            CameraManner.Tuning,
            faces,
            3,
            flat: true,
            width: 1600
        );
        // Half of it, an empty table, noise, four small ones in one picture.
        Assert.Equal(NoSheet.NotFound, Read(Cut(shot.Jpeg, 1, 0.45), sheet).Not);
        Assert.Equal(NoSheet.NotFound, Read(Plain(900, 1200, 90), sheet).Not);
        Assert.Equal(NoSheet.NotFound, Read(Plain(900, 1200, 0), sheet).Not);
        Assert.Equal(NoSheet.NotFound, Read(Plain(40, 30, 90), sheet).Not);
    }

    private static byte[] Cut(byte[] jpeg, double wide, double tall)
    {
        using var from = SKBitmap.Decode(jpeg);
        using var to = new SKBitmap((int)(from.Width * wide), (int)(from.Height * tall));
        using (var canvas = new SKCanvas(to))
            canvas.DrawBitmap(from, 0, -from.Height * 0.3f, SKSamplingOptions.Default);
        using var data = to.Encode(SKEncodedImageFormat.Jpeg, 90);
        return data.ToArray();
    }

    /// <param name="grey">0 for noise.</param>
    private static byte[] Plain(int width, int height, byte grey)
    {
        var random = new SeededRandom(1);
        using var to = new SKBitmap(width, height);
        for (var y = 0; y < height; y++)
        for (var x = 0; x < width; x++)
        {
            var v = grey == 0 ? (byte)random.Next(256) : grey;
            to.SetPixel(x, y, new(v, v, v));
        }
        using var data = to.Encode(SKEncodedImageFormat.Jpeg, 90);
        return data.ToArray();
    }

    /// <summary>Another camera and another hand than the constants were looked at with; the targets of the whole study on a handful of sheets.</summary>
    [Fact]
    public void A_handful_of_bad_photographs_is_read_right_or_left_to_a_person()
    {
        var tally = new PaperStudy(faces).Run(PencilManner.Other, CameraManner.Other, from: 900_000, count: 14, width: 2200);
        Assert.True(tally.Found >= 13, string.Join("\n", tally.Notes));
        Assert.Equal(0, tally.Mistaken);
        Assert.True(tally.Wrong + tally.Missed <= 1, string.Join("\n", tally.Notes));
        Assert.True(tally.Right > 0.85 * tally.Answered, $"{tally.Right} of {tally.Answered}");
        Assert.Equal(0, tally.EmptyScored);
    }
}
