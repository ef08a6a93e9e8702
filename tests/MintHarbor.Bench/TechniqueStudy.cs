using System.Diagnostics;
using System.Globalization;
using System.Numerics;
using System.Text;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Sheets;
using MintHarbor.Core.Simulation;
using MintHarbor.Core.Technique;
using MintHarbor.Media;
using SkiaSharp;

namespace MintHarbor.Bench;

/// <summary>What the ink says of technique, on sheets whose strokes are known one by one: drawn by a hand that the reader was not set on,
/// photographed on bad evenings, found, laid flat, evened and kept as the application keeps them.</summary>
public static class TechniqueStudy
{
    public const long Seed = 6_000_000;

    /// <summary>Spread of the gaps that was tried as a limit between even and uneven.</summary>
    private const double Uneven = 0.35;

    private static readonly string[] Papers = ["18x24in", "18x24in", "14x17in", "A3"];

    private sealed record Read(TechniqueSheet Sheet, TechniquePicture Picture, double Seconds, bool ByHand);

    private sealed class Maker
    {
        private readonly StudioFigure studio = new(200L << 20);
        private readonly StudioHead heads = new(StudioHead.Coarse, HeadCatalogue.Sitters.Count);

        public (DrawnSubject Subject, PaperSize Paper, double Height, TechniqueManner Manner) Any(long seed, int style, double care)
        {
            var random = new SeededRandom(seed);
            var head = random.Next(4) == 0;
            var paper = PaperSize.Find(Papers[random.Next(Papers.Length)])!;
            var subject = head
                ? DrawnSubject.Of(
                    heads.Model(HeadCatalogue.Sitters[random.Next(HeadCatalogue.Sitters.Count)].Id),
                    new HeadPose(Math.Round(random.Between(-45, 45)))
                )
                : DrawnSubject.Of(
                    studio.Model(
                        FigureCatalogue.Bodies[random.Next(FigureCatalogue.Bodies.Count)].Id,
                        FigureCatalogue.Poses[random.Next(FigureCatalogue.Poses.Count)],
                        Drapery.For(false, false),
                        StudioFigure.Coarse
                    ),
                    new Seat(random.Between(-180, 180))
                );
            return (subject, paper, paper.HeightMm * random.Between(0.58, 0.8), TechniqueManner.Any(style, care, random));
        }
    }

    private static Read Through(TechniqueSheet sheet, long seed)
    {
        var shot = StudioCamera.Take(sheet, 2400, 3200, seed);
        using var photo = Photo.Read(shot.Jpeg);
        var found = SheetFinder.Find(photo.Grey());
        var byHand = found.Corners is null || found.Corners.Zip(shot.Corners, (a, b) => (a - b).Length).Max() > 40;
        using var flat = photo.Straighten(byHand ? shot.Corners : found.Corners!, sheet.Paper, 0.25);
        if (LightField.Of(flat.Grey()) is { Evens: true } light)
            flat.Even(light);
        using var kept = Photo.Read(flat.Encode(SKEncodedImageFormat.Jpeg, 88));
        var grey = kept.Grey();
        var watch = Stopwatch.StartNew();
        var read = TechniqueReader.Read(grey, sheet.Paper.WidthMm / grey.Width);
        return new(sheet, read, watch.Elapsed.TotalSeconds, byHand);
    }

    private static List<T> Many<T>(int count, Func<int, T> one)
    {
        var made = new T[count];
        Parallel.For(0, count, new ParallelOptions { MaxDegreeOfParallelism = 2 }, n => made[n] = Alone.Run(() => one(n)));
        return [.. made];
    }

    public static int Run(string? file, int sheets = 200, long seed = Seed)
    {
        var maker = new Maker();
        var reads = Many(sheets, n =>
        {
            var (subject, paper, height, manner) = maker.Any(seed + n, n % 4, 0.1 + (0.2 * (n / 4 % 5)));
            return Through(TechniqueHand.Draw(subject, paper, height, manner, seed + 100_000 + n), seed + 200_000 + n);
        });
        var text = new StringBuilder();
        text.Append(CultureInfo.InvariantCulture, $"{Heading}\n\n{Intro(sheets, reads)}\n");
        Measures(text, reads);
        Sayings(text, maker, Math.Max(24, sheets * 2 / 5), seed);
        Pairs(text, maker, Math.Max(10, sheets * 3 / 20), seed);
        text.Append(CultureInfo.InvariantCulture, $"\n{Shown}\n");
        Console.WriteLine(text);
        if (file is not null)
            File.WriteAllText(file, Placed(File.ReadAllText(file), text.ToString()));
        return 0;
    }

    public const string Heading = "## Technique from the ink";

    private const string Shown =
        "Shown on the sheet and never said: straight and curved runs, restated lines, ends in 100 mm, the lengths of "
        + "strokes, how even hatching is. Not said, since it missed its target: thick and thin. Not built: taper, "
        + "whites left by neglect, few long strokes, one pressure throughout (found on none of 6), the lightness of a block-in, the squeezed last "
        + "part. A mass of charcoal is said nothing of but its tone.";

    /// <summary>The page with this part in the place of the one before, or at its end.</summary>
    private static string Placed(string page, string part)
    {
        var at = page.IndexOf(Heading, StringComparison.Ordinal);
        if (at < 0)
            return page.TrimEnd() + "\n\n" + part.TrimEnd() + "\n";
        var next = page.IndexOf("\n## ", at + Heading.Length, StringComparison.Ordinal);
        return page[..at] + part.TrimEnd() + "\n" + (next < 0 ? "" : page[next..]);
    }

    private static string Intro(int sheets, List<Read> reads) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"""
            `./harbor study --technique {sheets}` made this part. {sheets} sheets of figures and heads on A3, 14 × 17 and 18 × 24 in: pencil, pen,
            charcoal and charcoal mass, from rough to careful, drawn stroke by stroke by a hand (`Simulation/TechniqueHand.cs`) that the reader's constants
            were not set on, photographed on bad evenings (clips, tape, thumbs, a shadow), found, laid flat, evened and kept as a JPEG; corners by hand on
            {reads.Count(r => r.ByHand)}. Simulated strokes are kinder than real ones: these figures are ceilings. A sheet is read in {Quantile(
                [.. reads.Select(r => r.Seconds)],
                0.5
            ):0.00} s on one
            core, nine in ten within {Quantile([.. reads.Select(r => r.Seconds)], 0.9):0.00} s, on whatever machine ran it.
            """
        );

    private static double Quantile(List<double> of, double share) =>
        of.Count == 0 ? double.NaN : of.Order().ElementAt((int)Math.Clamp(share * of.Count, 0, of.Count - 1));

    // --- what is read against what was drawn ------------------------------------------------------------------

    private static void Measures(StringBuilder text, List<Read> reads)
    {
        text.Append("\n| said | on | measured | target |\n|---|---|---|---|\n");
        void Row(string what, int on, string measured, string target) =>
            text.Append(CultureInfo.InvariantCulture, $"| {what} | {on} | {measured} | {target} |\n");
        void ShareRow(string what, List<bool> of, double target) =>
            Row(
                what,
                of.Count,
                string.Create(CultureInfo.InvariantCulture, $"{100.0 * of.Count(x => x) / Math.Max(1, of.Count):0.0} %"),
                string.Create(CultureInfo.InvariantCulture, $"≥ {target:0} %")
            );
        var lined = reads.Where(r => !r.Picture.Reading.LinesHidden).ToList();
        var kinds = lined.Select(r => Classes(r)).ToList();
        double hatch = kinds.Sum(k => k.HatchAsHatch + k.HatchAsLine),
            said = kinds.Sum(k => k.HatchAsHatch + k.LineAsHatch),
            both = kinds.Sum(k => k.HatchAsHatch),
            line = kinds.Sum(k => k.LineAsHatch + k.LineAsLine);
        Row("hatching found, by length", lined.Count, string.Create(CultureInfo.InvariantCulture, $"{both / hatch:0.000}"), "≥ .93");
        Row("what is called hatching is", lined.Count, string.Create(CultureInfo.InvariantCulture, $"{both / said:0.000}"), "≥ .93");
        Row(
            "contour kept",
            lined.Count,
            string.Create(CultureInfo.InvariantCulture, $"{kinds.Sum(k => k.LineAsLine) / line:0.000}"),
            "no target"
        );
        var hatched = lined
            .Where(r => r.Picture.Reading.Hatch?.Spacing is not null && r.Sheet.Manner is { Spacing: > 0, Mass: 0 })
            .ToList();
        ShareRow(
            "spacing within 10 %",
            [.. hatched.Select(r => Math.Abs((r.Picture.Reading.Hatch!.Spacing!.Value / r.Sheet.Manner.Spacing) - 1) <= 0.1)],
            80
        );
        ShareRow("direction within 8°", [.. hatched.Where(r => !r.Sheet.Manner.Crossed).Select(r => Turned(r) <= 8)], 90);
        // What lies between the two would be told either way.
        ShareRow(
            "uneven gaps (25 % and more) told from even ones (12 % and less)",
            [
                .. hatched
                    .Where(r =>
                        r.Sheet.Manner is { Crossed: false, Uneven: >= 0.25 or <= 0.12 } && r.Picture.Reading.Hatch?.Evenness is not null
                    )
                    .Select(r => r.Picture.Reading.Hatch!.Evenness > Uneven == r.Sheet.Manner.Uneven >= 0.25),
            ],
            90
        );
        Row(
            "unevenness read, where true ≤ 12 %, where ≥ 25 %",
            hatched.Count,
            string.Join(
                "; ",
                new Func<TechniqueManner, bool>[] { m => m.Uneven <= 0.12, m => m.Uneven >= 0.25 }
                    .Select(of =>
                        hatched
                            .Where(r => !r.Sheet.Manner.Crossed && of(r.Sheet.Manner))
                            .Select(r => r.Picture.Reading.Hatch!.Evenness ?? 0)
                            .ToList()
                    )
                    .Select(e =>
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"{Quantile(e, 0.5):0.00} [{Quantile(e, 0.1):0.00} {Quantile(e, 0.9):0.00}]"
                        )
                    )
            ),
            "no target"
        );
        var sides = lined
            .Select(r => (Read: r.Picture.Reading.Contour?.Side, True: SideOf(r.Sheet)))
            .Where(s => s.Read is not null && s.True is not null)
            .ToList();
        ShareRow("heavier side right", [.. sides.Select(s => s.Read > 0 == s.True > 0)], 94);
        ShareRow(
            "the same where it is said: read 10 % apart and more",
            [.. sides.Where(s => Math.Abs(s.Read!.Value) >= TechniqueFindings.SideFrom).Select(s => s.Read > 0 == s.True > 0)],
            94
        );
        var truths = Many(reads.Count, n => ToneOf(reads[n].Sheet));
        var tones = reads.Zip(truths).Where(t => t.First.Picture.Reading.Tone is not null && t.Second is not null).ToList();
        ShareRow(
            "number of values of five within one",
            [.. tones.Select(t => Math.Abs(t.First.Picture.Reading.Tone!.ValuesOfFive - t.Second!.ValuesOfFive) <= 1)],
            95
        );
        ShareRow(
            "number of values of nine within one",
            [.. tones.Select(t => Math.Abs(t.First.Picture.Reading.Tone!.ValuesOfNine - t.Second!.ValuesOfNine) <= 1)],
            95
        );
        Spread(text, "range of values, L*", tones, t => t.Range);
        Spread(text, "darkest, L*", tones, t => t.Darkest);
        Spread(text, "untouched, share", tones, t => t.Untouched);
        var boxes = reads.Where(r => r.Picture.Reading.Place is not null).Select(r => Box(r)).ToList();
        ShareRow("box within 5 mm on its worst side", [.. boxes.Select(b => b <= 5)], 85);
        var area = reads
            .Where(r => r.Picture.Reading.Place is not null)
            .Select(r => r.Picture.Reading.Place!.Area / r.Sheet.Form.Count(f => f))
            .ToList();
        Row(
            "area of the form, read over true",
            area.Count,
            string.Create(
                CultureInfo.InvariantCulture,
                $"{Quantile(area, 0.5):0.00} [{Quantile(area, 0.1):0.00} {Quantile(area, 0.9):0.00}]"
            ),
            "no target"
        );
        var masses = reads.Select(r => (Solid: MassOf(r.Sheet), Hidden: r.Picture.Reading.LinesHidden)).ToList();
        ShareRow("can't tell, where a quarter and more is mass", [.. masses.Where(m => m.Solid >= 0.25).Select(m => m.Hidden)], 98);
        ShareRow("lines told, where less than 15 % is mass", [.. masses.Where(m => m.Solid < 0.15).Select(m => !m.Hidden)], 90);
    }

    private static void Spread(
        StringBuilder text,
        string what,
        List<(Read First, ToneMeasures? Second)> tones,
        Func<ToneMeasures, double> of
    )
    {
        var off = tones.Select(t => of(t.First.Picture.Reading.Tone!) - of(t.Second!)).ToList();
        text.Append(
            CultureInfo.InvariantCulture,
            $"| {what}, read − true: middle [10, 90 %] | {off.Count} | {Quantile(off, 0.5):0.00} [{Quantile(off, 0.1):0.00} {Quantile(off, 0.9):0.00}] | no target |\n"
        );
    }

    private static double Turned(Read r)
    {
        var d = Math.Abs(r.Picture.Reading.Hatch!.Direction!.Value - r.Sheet.Manner.Direction) % 180;
        return Math.Min(d, 180 - d);
    }

    private sealed record Kinds(double HatchAsHatch, double HatchAsLine, double LineAsHatch, double LineAsLine);

    /// <summary>By length, what was called hatching and what contour, by the nearest true stroke that runs alongside.</summary>
    private static Kinds Classes(Read r)
    {
        const float near = 1.6f,
            cell = 2;
        var strokes = new Dictionary<(int, int), List<(bool Hatch, Vector2 At, float Angle)>>();
        foreach (var s in r.Sheet.Strokes.Where(s => s.Use is not (StrokeUse.Mass or StrokeUse.Smudge)))
        {
            var path = StraightRuns.Stepped(s.Path, 0.8f);
            for (var i = 0; i < path.Count; i++)
            {
                var way = path[Math.Min(i + 1, path.Count - 1)] - path[Math.Max(0, i - 1)];
                var key = ((int)(path[i].X / cell), (int)(path[i].Y / cell));
                if (!strokes.TryGetValue(key, out var list))
                    strokes[key] = list = [];
                list.Add((s.Use == StrokeUse.Hatch, path[i], MathF.Atan2(way.Y, way.X)));
            }
        }
        double hh = 0,
            hl = 0,
            lh = 0,
            ll = 0;
        foreach (var line in r.Picture.Lines.Where(l => l.Kind != InkKind.LeftOut))
        {
            var path = StraightRuns.Stepped(line.Path, 0.75f);
            for (var i = 0; i < path.Count; i++)
            {
                var way = path[Math.Min(i + 1, path.Count - 1)] - path[Math.Max(0, i - 1)];
                var (best, hatch, any) = (near, false, false);
                var (cx, cy) = ((int)(path[i].X / cell), (int)(path[i].Y / cell));
                for (var y = cy - 1; y <= cy + 1; y++)
                for (var x = cx - 1; x <= cx + 1; x++)
                    foreach (var s in strokes.GetValueOrDefault((x, y)) ?? [])
                    {
                        var turn = InkLines.Apart(s.Angle, MathF.Atan2(way.Y, way.X));
                        var far = Vector2.Distance(s.At, path[i]) + turn;
                        if (turn <= 0.4f && far < best)
                            (best, hatch, any) = (far, s.Hatch, true);
                    }
                if (!any)
                    continue;
                var called = line.Kind == InkKind.Hatch;
                hh += hatch && called ? 0.75 : 0;
                hl += hatch && !called ? 0.75 : 0;
                lh += !hatch && called ? 0.75 : 0;
                ll += !hatch && !called ? 0.75 : 0;
            }
        }
        return new(hh, hl, lh, ll);
    }

    /// <summary>How much heavier the drawn outline is that faces right, from width and darkness of every stroke.</summary>
    private static double? SideOf(TechniqueSheet sheet)
    {
        double right = 0,
            rightLength = 0,
            left = 0,
            leftLength = 0;
        foreach (var s in sheet.Strokes.Where(s => s.Use is StrokeUse.Line or StrokeUse.Restated))
            for (var i = 1; i < s.Path.Count - 1; i++)
            {
                var along = s.Path[i + 1] - s.Path[i - 1];
                var length = along.Length() / 2;
                if (length < 1e-5f)
                    continue;
                var across = Vector2.Normalize(new(-along.Y, along.X));
                var ahead = sheet.Inside(s.Path[i] + (across * 4));
                if (ahead == sheet.Inside(s.Path[i] - (across * 4)))
                    continue;
                var outward = ahead ? -across.X : across.X;
                double weight = s.Widths[i] * s.Dark[i] * length;
                if (outward > 0.5f)
                    (right, rightLength) = (right + weight, rightLength + length);
                else if (outward < -0.5f)
                    (left, leftLength) = (left + weight, leftLength + length);
            }
        return rightLength > 60 && leftLength > 60 ? Math.Log(right / rightLength / (left / leftLength)) : null;
    }

    /// <summary>Values as they were laid, without tooth, camera or paper.</summary>
    private static ToneMeasures? ToneOf(TechniqueSheet sheet)
    {
        var light = InkPress.Light(sheet, 4, false, out var w, out _);
        var mean = new float[sheet.Width * sheet.Height];
        var paper = LightCurves.Linear(239);
        for (var y = 0; y < sheet.Height; y++)
        for (var x = 0; x < sheet.Width; x++)
        {
            double sum = 0;
            for (var k = 0; k < 16; k++)
            {
                var o = (((y * 4) + (k / 4)) * w) + (x * 4) + (k % 4);
                sum += o < light.Length ? LightCurves.Linear(21 + (218 * light[o])) / paper : 1;
            }
            mean[(y * sheet.Width) + x] = (float)(sum / 16);
        }
        return ToneMeasures.Of(mean, sheet.Form, sheet.Width, sheet.Height);
    }

    private static double Box(Read r)
    {
        var (w, h) = (r.Sheet.Paper.WidthMm, r.Sheet.Paper.HeightMm);
        List<Vector2> at =
        [
            .. r
                .Sheet.Strokes.Where(s => s.Use != StrokeUse.Smudge)
                .SelectMany(s => s.Path)
                .Where(p => p.X > 0 && p.Y > 0 && p.X < w && p.Y < h),
        ];
        var p = r.Picture.Reading.Place!;
        return new[]
        {
            p.Left - at.Min(q => q.X),
            p.Top - at.Min(q => q.Y),
            w - p.Right - at.Max(q => q.X),
            h - p.Bottom - at.Max(q => q.Y),
        }.Max(Math.Abs);
    }

    /// <summary>Share of the form that lies under charcoal's side.</summary>
    private static double MassOf(TechniqueSheet sheet)
    {
        var under = new bool[sheet.Form.Length];
        foreach (var s in sheet.Strokes.Where(s => s.Use == StrokeUse.Mass))
            for (var i = 0; i < s.Path.Count; i++)
            {
                var half = s.Widths[i] / 2;
                for (var y = (int)(s.Path[i].Y - half); y <= s.Path[i].Y + half; y++)
                for (var x = (int)(s.Path[i].X - half); x <= s.Path[i].X + half; x++)
                    if (
                        x >= 0
                        && y >= 0
                        && x < sheet.Width
                        && y < sheet.Height
                        && Vector2.Distance(new(x + 0.5f, y + 0.5f), s.Path[i]) <= half
                    )
                        under[(y * sheet.Width) + x] = true;
            }
        var form = sheet.Form.Count(f => f);
        return form == 0 ? 0 : sheet.Form.Where((f, i) => f && under[i]).Count() / (double)form;
    }

    // --- sayings ------------------------------------------------------------------------------------------------

    /// <summary>Sheets with one fault of the hand, and clean ones beside them.</summary>
    private static void Sayings(StringBuilder text, Maker maker, int count, long seed)
    {
        var read = Many(count, n =>
        {
            var random = new SeededRandom(seed + 300_000 + n);
            var (subject, paper, height, manner) = maker.Any(seed + 310_000 + n, n / 4 % 3, 0.4 + (0.2 * (n % 3)));
            var hairy = n % 4 == 0;
            manner = hairy
                ? manner with
                {
                    Stroke = random.Between(6, 11),
                    Restating = random.Between(1.4, 2),
                    Drift = random.Between(0.5, 0.9),
                }
                : manner with
                {
                    Stroke = Math.Max(manner.Stroke, 28),
                };
            return (hairy, Read: Through(TechniqueHand.Draw(subject, paper, height, manner, seed + 320_000 + n), seed + 330_000 + n));
        });
        text.Append("\n| said as yes or no | found | false | can't tell |\n|---|---|---|---|\n");
        void Row(string what, Func<TechniqueReading, bool?> says, Func<int, bool> due)
        {
            var all = read.Select((r, n) => (Says: says(r.Read.Picture.Reading), Due: due(n))).ToList();
            var told = all.Where(a => a.Says is not null).ToList();
            text.Append(
                CultureInfo.InvariantCulture,
                $"| {what} | {told.Count(a => a.Due && a.Says == true)} of {told.Count(a => a.Due)} | {told.Count(a => !a.Due && a.Says == true)} of {told.Count(a => !a.Due)} | {all.Count - told.Count} |\n"
            );
        }
        Row("hairy line", r => r.IsHairy, n => read[n].hairy);
    }

    // --- two sheets a fifth apart ---------------------------------------------------------------------------------

    private static void Pairs(StringBuilder text, Maker maker, int count, long seed)
    {
        (string Name, Func<TechniqueManner, TechniqueManner> More, Func<TechniqueReading, double?> Of)[] changes =
        [
            ("hatch spacing", m => m with { Spacing = m.Spacing * 1.2 }, r => r.Hatch?.Spacing),
            ("darkness of the line", m => m with { Dark = m.Dark * 1.2 }, r => r.Contour?.Weight),
            ("thick and thin", m => m with { ThickThin = m.ThickThin * 1.2 }, r => r.Contour?.ThickThin),
        ];
        var sheets = Many(count * (changes.Length + 1), n =>
        {
            int pair = n / (changes.Length + 1),
                which = n % (changes.Length + 1);
            var (subject, paper, height, manner) = maker.Any(seed + 400_000 + pair, pair % 3, 0.3 + (0.2 * (pair % 4)));
            manner = manner with
            {
                Spacing = manner.Spacing > 0 ? manner.Spacing : 2.4,
                Dark = Math.Min(manner.Dark, 0.8),
                ThickThin = Math.Max(manner.ThickThin, 0.2),
            };
            if (which > 0)
                manner = changes[which - 1].More(manner);
            return Through(TechniqueHand.Draw(subject, paper, height, manner, seed + 410_000 + n), seed + 420_000 + n).Picture.Reading;
        });
        text.Append(
            "\n| two sheets of one pose and hand, a fifth apart, drawn and photographed apart | the right one named | target |\n|---|---|---|\n"
        );
        foreach (var (c, k) in changes.Select((c, k) => (c, k)))
        {
            var told = Enumerable
                .Range(0, count)
                .Select(p => (First: c.Of(sheets[p * (changes.Length + 1)]), More: c.Of(sheets[(p * (changes.Length + 1)) + k + 1])))
                .Where(p => p.First is not null && p.More is not null)
                .ToList();
            text.Append(
                CultureInfo.InvariantCulture,
                $"| {c.Name} | {told.Count(t => t.More > t.First)} of {told.Count} | {(k == 2 ? "≥ 80 %" : "≥ 93 %")} |\n"
            );
        }
    }
}
