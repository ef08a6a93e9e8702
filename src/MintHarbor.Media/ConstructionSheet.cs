using System.Numerics;
using MintHarbor.Core;
using MintHarbor.Core.Canons;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>What a construction sheet is for.</summary>
public enum ConstructionUse
{
    /// <summary>To hang on the wall: drawn, named, with its numbers.</summary>
    Poster,

    /// <summary>To draw on: light guide lines alone.</summary>
    Sheet,
}

/// <param name="By">The school, or whose measures they are.</param>
/// <param name="Paper">Upright; a poster of three heads turns it.</param>
public sealed record ConstructionPaper(string By, string Over, ConstructionUse Use, PaperSize Paper, bool Inch);

/// <summary>Draws construction sheets to scale: heads on the levels of a school or of a sitter, from in front, in three-quarter view and in
/// profile; a figure counted in heads. What a page says of its millimetres is what a ruler finds on it.</summary>
public static class ConstructionSheet
{
    private const float Border = PrintPen.Border,
        Names = 54,
        HeadTop = 46,
        FootRoom = 30;

    /// <summary>Pixels to a head in the views that the lines are taken from.</summary>
    private const int ViewWidth = 720,
        ViewHeight = 900;
    private const float PerHead = ViewHeight * 0.6f;

    private const string Says = "Measure the ruler first: a printer set to fit the page makes everything smaller.";

    /// <param name="turn">Of the three-quarter view, degrees.</param>
    public static byte[] Head(HeadModel head, HeadLevels levels, double turn, ConstructionPaper paper, PrintFaces faces)
    {
        (string Name, double Turn)[] views = [("front", 0), ($"three-quarter, turned {Say.Number(turn)}°", turn), ("profile", 90)];
        var title = $"Head, {paper.By}";
        if (paper.Use == ConstructionUse.Poster)
        {
            var page = paper.Paper.Turned;
            return PrintPen.Document(
                title,
                faces,
                [pen => HeadPage(pen, head, levels, views, paper, page)],
                (float)page.WidthMm,
                (float)page.HeightMm
            );
        }
        return PrintPen.Document(
            title,
            faces,
            [.. views.Select(v => (Action<PrintPen>)(pen => HeadPage(pen, head, levels, [v], paper, paper.Paper)))],
            (float)paper.Paper.WidthMm,
            (float)paper.Paper.HeightMm
        );
    }

    /// <summary>Height of a head on its page, millimetres: whole, so that it can be measured.</summary>
    public static double HeadHeight(ConstructionUse use, PaperSize paper)
    {
        var (page, views) = use == ConstructionUse.Poster ? (paper.Turned, 3) : (paper, 1);
        var across = (page.WidthMm - (2 * Border) - Names) / views / 1.08;
        var down = (page.HeightMm - HeadTop - FootRoom) / 1.28;
        return Math.Floor(Math.Min(across, down));
    }

    private static void HeadPage(
        PrintPen pen,
        HeadModel head,
        HeadLevels levels,
        IReadOnlyList<(string Name, double Turn)> views,
        ConstructionPaper paper,
        PaperSize page
    )
    {
        var height = (float)HeadHeight(paper.Use, paper.Paper);
        var whole = PaperSize.Length(height, paper.Inch);
        pen.Head(paper.Over, $"Head, {paper.By}", $"{(views.Count == 1 ? views[0].Name + ", " : "")}crown to chin {whole}");
        float top = HeadTop + 4,
            left = Border + Names,
            right = (float)page.WidthMm - Border;
        using var guide = Guide(paper.Use);
        foreach (var (id, name, at) in levels.All)
        {
            var y = top + ((float)at * height);
            pen.Canvas.DrawLine(Border, y, right, y, guide);
            pen.Text(name, Border, y - 1, pen.Faces.Text, 9, pen.Lead);
            if (id is not ("crown" or "chin"))
                pen.Right($"{Say.Fixed(at, 3)} {Millimetres(at * height)}", Border + Names - 3, y - 1, pen.Faces.Figures, 8, pen.Lead);
        }
        var each = (right - left) / views.Count;
        for (var n = 0; n < views.Count; n++)
        {
            var middle = left + ((n + 0.5f) * each);
            View(pen, head, views[n].Turn, middle, top, height, paper.Use);
            if (views.Count > 1)
                pen.Text(views[n].Name, middle - (each / 2) + 2, top - 7, pen.Faces.Italic, 11, pen.Lead);
        }
        pen.Foot(Says, (float)page.HeightMm);
    }

    private static string Millimetres(double mm) => Say.Fixed(mm, 1) + " mm";

    /// <summary>Lines to be drawn over are so light that they sink behind a pencil's.</summary>
    private static SKPaint Guide(ConstructionUse use) =>
        new()
        {
            Color = use == ConstructionUse.Sheet ? new(0xB4, 0xC4, 0xBD) : new(0x8F, 0xA9, 0x9E),
            IsStroke = true,
            StrokeWidth = 0.15f,
            IsAntialias = true,
        };

    /// <summary>One view of the head, its crown on <paramref name="top"/> and its chin a height below it.</summary>
    private static void View(PrintPen pen, HeadModel head, double turn, float middle, float top, float height, ConstructionUse use)
    {
        var k = height / PerHead;
        var pose = new HeadPose(turn);
        var forms = StudioHead.View(head, pose, FigureViewKind.Construction, ViewWidth, ViewHeight);
        var crown = (float)(forms.Landmarks["crown"].At.Y);
        SKPoint On(Vector2 p) => new(middle + ((p.X - (ViewWidth / 2f)) * k), top + ((p.Y - crown) * k));
        using var guide = Guide(use);
        foreach (var line in forms.Construction.Where(l => Drawn(l.Role)))
            Stroke(pen.Canvas, line.Places.Select(On), line.Closed, guide);
        // The plumbs that a face is hung on: its middle, the inner corners with the wings, the outer corners.
        foreach (var id in (string[])["eye-inner.L", "eye-inner.R", "eye-outer.L", "eye-outer.R"])
            if (forms.Landmarks[id].Visible)
            {
                var x = On(new((float)forms.Landmarks[id].At.X, 0)).X;
                pen.Canvas.DrawLine(x, top + (0.3f * height), x, top + (0.9f * height), guide);
            }
        if (use == ConstructionUse.Sheet)
            return;
        var drawn = StudioHead.View(head, pose, FigureViewKind.Line, ViewWidth, ViewHeight);
        foreach (var stroke in drawn.Strokes)
        {
            using var ink = new SKPaint
            {
                Color = new(0x22, 0x30, 0x2E),
                IsStroke = true,
                StrokeWidth = Math.Max(0.12f, stroke.Widths.DefaultIfEmpty(1).Average() * k * 0.8f),
                StrokeCap = SKStrokeCap.Round,
                StrokeJoin = SKStrokeJoin.Round,
                IsAntialias = true,
            };
            Stroke(pen.Canvas, stroke.Places.Select(On), stroke.Closed, ink);
        }
    }

    /// <summary>What is drawn first of a head: its ball and side, the curves across, the middle, the jaw; nothing that is hidden.</summary>
    private static bool Drawn(string role) => role is "ball" or "side" or "cross" or "cross-heavy" or "median" or "jaw" or "neck";

    private static void Stroke(SKCanvas canvas, IEnumerable<SKPoint> places, bool closed, SKPaint paint)
    {
        using var builder = new SKPathBuilder();
        builder.AddPoly([.. places], closed);
        using var path = builder.Detach();
        canvas.DrawPath(path, paint);
    }

    /// <summary>A figure counted in heads, with what of the canon lies at which height.</summary>
    public static byte[] Figure(Canon canon, ConstructionPaper paper, PrintFaces faces) =>
        PrintPen.Document(
            $"Figure, {paper.By}",
            faces,
            [pen => FigurePage(pen, canon, paper)],
            (float)paper.Paper.WidthMm,
            (float)paper.Paper.HeightMm
        );

    /// <summary>Height of the figure on its page, millimetres; whole.</summary>
    public static double FigureHeight(PaperSize paper) => Math.Floor(paper.HeightMm - HeadTop - FootRoom - 6);

    /// <summary>Heights that are measured to, downward.</summary>
    private static readonly (string Id, string Name)[] Heights =
    [
        ("crown", "crown"),
        ("chin", "chin"),
        ("pit", "pit of the neck"),
        ("elbow.L", "elbow"),
        ("iliac.L", "hip crest"),
        ("wrist.L", "wrist"),
        ("pubic", "pubic bone"),
        ("fingertip.L", "fingertips"),
        ("kneetop.L", "top of kneecap"),
        ("ankleout.L", "ankle"),
        ("sole.L", "sole"),
    ];

    /// <summary>Limbs between their landmarks, and how broad they are there, in heads; our own, only to be seen.</summary>
    private static readonly (string A, string B, double Upper, double Lower)[] Limbs =
    [
        ("acromion", "elbow", 0.34, 0.26),
        ("elbow", "wrist", 0.26, 0.16),
        ("wrist", "fingertip", 0.16, 0.10),
        ("asis", "kneetop", 0.62, 0.36),
        ("kneetop", "ankleout", 0.36, 0.20),
        ("ankleout", "sole", 0.20, 0.34),
    ];

    private static void FigurePage(PrintPen pen, Canon canon, ConstructionPaper paper)
    {
        var built = CanonRecipe.Of(canon);
        var height = (float)FigureHeight(paper.Paper);
        var heads = canon.Rule("F-heads")?.Expected ?? canon.Heads;
        var k = height / (built["sole.L"].Y - built["crown"].Y);
        pen.Head(
            paper.Over,
            $"Figure, {paper.By}",
            $"{Say.Number(heads, 2)} heads; crown to sole {PaperSize.Length(height, paper.Inch)}, a head {Millimetres(height / heads)}"
        );
        float top = HeadTop + 4,
            right = (float)paper.Paper.WidthMm - Border,
            middle = (Border + Names + right) / 2;
        using var guide = Guide(paper.Use);
        for (var n = 0; n <= heads + 1e-9; n++)
        {
            var y = top + (float)(n * height / heads);
            pen.Canvas.DrawLine(Border + Names, y, right, y, guide);
            pen.Right($"{n}", right, y - 0.8f, pen.Faces.Figures, 9, pen.Lead);
        }
        pen.Canvas.DrawLine(middle, top, middle, top + height, guide);
        // Names that would lie on one another move apart; their lines stay.
        var said = float.MinValue;
        foreach (var (id, name) in Heights.OrderBy(h => built[h.Id].Y))
        {
            var y = top + (float)((built[id].Y - built["crown"].Y) * k);
            pen.Canvas.DrawLine(Border + Names - 6, y, Border + Names + 4, y, pen.Hair);
            said = Math.Max(y + 1, said + 4.2f);
            var share = (built[id].Y - built["crown"].Y) * k / height;
            pen.Text($"{name}  {Say.Fixed(share * heads, 2)}", Border, said, pen.Faces.Text, 9, pen.Lead);
        }
        Mannequin(pen, built, p => new(middle + (float)(p.X * k), top + (float)((p.Y - built["crown"].Y) * k)), paper.Use);
        pen.Foot(Says, (float)paper.Paper.HeightMm);
    }

    /// <summary>Egg of the head, ribcage, pelvis, limbs as lines: what a figure is built from, no more.</summary>
    private static void Mannequin(PrintPen pen, IReadOnlyDictionary<string, Vec2> m, Func<Vec2, SKPoint> on, ConstructionUse use)
    {
        using var line = new SKPaint
        {
            Color = use == ConstructionUse.Sheet ? new(0xB4, 0xC4, 0xBD) : new(0x22, 0x30, 0x2E),
            IsStroke = true,
            StrokeWidth = use == ConstructionUse.Sheet ? 0.18f : 0.45f,
            StrokeCap = SKStrokeCap.Round,
            IsAntialias = true,
        };
        void Egg(Vec2 upper, Vec2 lower, double half)
        {
            var (a, b) = (on(new(upper.X - half, upper.Y)), on(new(lower.X + half, lower.Y)));
            pen.Canvas.DrawOval(new SKRect(a.X, a.Y, b.X, b.Y), line);
        }
        var head = m["chin"].Y - m["crown"].Y;
        Egg(m["crown"], m["chin"], 0.35 * head);
        foreach (var side in (int[])[-1, 1])
            Stroke(
                pen.Canvas,
                [on(new(side * 0.2 * head, m["chin"].Y - (0.1 * head))), on(new(side * 0.24 * head, m["pit"].Y))],
                false,
                line
            );
        Egg(new(0, m["pit"].Y), new(0, m["ribarch.L"].Y), 0.72 * m["deltoid.L"].X);
        // The pelvis as a bowl: crests, and down to the crotch.
        Stroke(
            pen.Canvas,
            [
                on(m["iliac.R"]),
                on(m["iliac.L"]),
                on(new(m["asis.L"].X + (0.12 * head), m["pubic"].Y - (0.1 * head))),
                on(m["crotch"]),
                on(new(m["asis.R"].X - (0.12 * head), m["pubic"].Y - (0.1 * head))),
            ],
            true,
            line
        );
        Stroke(pen.Canvas, [on(m["deltoid.R"]), on(m["deltoid.L"])], false, line);
        foreach (var (a, b, upper, lower) in Limbs)
        foreach (var side in (string[])[".L", ".R"])
        {
            var (from, to) = (m[a + side], m[b + side]);
            var (u, l) = (new Vec2(upper * head / 2, 0), new Vec2(lower * head / 2, 0));
            Stroke(pen.Canvas, [on(from - u), on(from + u), on(to + l), on(to - l)], true, line);
        }
    }
}
