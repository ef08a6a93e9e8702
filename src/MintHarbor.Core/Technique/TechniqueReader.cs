using System.Numerics;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Technique;

/// <summary>Reads technique from a flat sheet's ink: ridges of darkness become lines, lines that run in rows become hatching, the rest contour;
/// light over paper becomes tone. Methods and constants were set on simulated sheets of known strokes (docs/study.md).</summary>
public static class TechniqueReader
{
    /// <summary>Nearest to the rim, mm, at which a line's both ends lie on the sheet's own edge or a clip's; a drawing this near runs off.</summary>
    private const float Edge = 8,
        CutAt = 4.5f;

    /// <summary>Cells in which the form's own ink lies, mm: what lies in no such cell is a clip, tape or a thumb.</summary>
    private const int InkCell = 6;

    /// <summary>Share of the lines left out at each end of the drawing's box; places it needs.</summary>
    private const int BoxRest = 1000,
        LeastPlaces = 50;

    /// <summary>Places in rows that a spacing needs.</summary>
    private const int LeastGaps = 60;

    /// <param name="flat">Straightened sheet.</param>
    /// <param name="mmPerPixel">Its scale.</param>
    /// <param name="ink">The same sheet's, where it was read for its marks already.</param>
    public static TechniquePicture Read(GreyImage flat, double mmPerPixel, InkReading? ink = null)
    {
        ink ??= InkReading.Of(flat, mmPerPixel);
        if (ink.Nothing != NoFit.None)
            return new(TechniqueReading.Empty(ink.Nothing == NoFit.Black ? Nothing.Black : Nothing.Blank), [], 0, 0, []);
        var (dark, lines, index, tone, gaps) = Followed(flat, mmPerPixel, ink.Form);
        var form = ink.Form;
        var solid = SolidShare(tone, form);
        var contour = solid >= TechniqueReading.TooSolid ? null : LineMeasures.Of(lines, index, LineWeights.Of(dark, lines), form);
        var reading = new TechniqueReading(
            Nothing.None,
            solid,
            PlaceOf(lines, form),
            contour,
            solid >= TechniqueReading.TooSolid ? null : HatchOf(lines, gaps),
            ToneMeasures.Of(tone.Light, form.Inside, tone.Width, tone.Height)
        );
        return new(
            reading,
            [.. lines.Lines.Select(l => new ReadLine(l.Kind, l.Length, [.. lines.Path(l)]))],
            tone.Width,
            tone.Height,
            ToneMeasures.NinthsOf(tone.Light, form.Inside, tone.Width, tone.Height)
        );
    }

    /// <summary>The same sheet, to be asked for any part of it.</summary>
    /// <returns>Null where nothing is drawn, or everything is black.</returns>
    public static SheetAreas? Areas(GreyImage flat, double mmPerPixel)
    {
        var ink = InkReading.Of(flat, mmPerPixel);
        if (ink.Nothing != NoFit.None)
            return null;
        var read = Followed(flat, mmPerPixel, ink.Form);
        return new(read.Tone, read.Lines, read.Gaps);
    }

    private static (DarkSheet Dark, InkLines Lines, InkIndex Index, ToneMap Tone, float[] Gaps) Followed(
        GreyImage flat,
        double mmPerPixel,
        InkForm form
    )
    {
        var fine = AtScale(flat, mmPerPixel);
        var dark = LineTrace.Dark(fine);
        var lines = LineTrace.Read(dark);
        lines.Lines.RemoveAll(Foreign(lines, form));
        var tone = new ToneMap(fine, form, lines);
        var index = new InkIndex(lines);
        var gaps = HatchSearch.Mark(lines, index);
        LeaveOutSolid(lines, tone);
        return (dark, lines, index, tone, gaps);
    }

    private static GreyImage AtScale(GreyImage flat, double mmPerPixel)
    {
        var scale = (float)(mmPerPixel * LineTrace.PerMm);
        if (MathF.Abs(scale - 1) < 0.005f)
            return flat;
        var (w, h, grey) = InkRidges.Scaled(flat, scale);
        return new(w, h, [.. grey.Select(g => (byte)Math.Clamp(MathF.Round(g), 0, 255))]);
    }

    /// <summary>Lines that are not of the drawing: most of a clip, tape or thumb, and the sheet's own edge.</summary>
    private static Predicate<InkLine> Foreign(InkLines lines, InkForm form)
    {
        (int, int) CellOf(Vector2 p) => ((int)(p.X / InkCell), (int)(p.Y / InkCell));
        var own = form.Lines.Select(p => CellOf(p.At)).ToHashSet();
        bool Near(Vector2 p)
        {
            var (x, y) = CellOf(p);
            for (var v = y - 1; v <= y + 1; v++)
            for (var u = x - 1; u <= x + 1; u++)
                if (own.Contains((u, v)))
                    return true;
            return false;
        }
        float Rim(Vector2 p) => MathF.Min(MathF.Min(p.X, lines.Width - p.X), MathF.Min(p.Y, lines.Height - p.Y));
        return line =>
            (Rim(lines.At(line.First)) < Edge && Rim(lines.At(line.Last)) < Edge) || !Near(lines.At(line.Places[line.Places.Count / 2]));
    }

    private static void LeaveOutSolid(InkLines lines, ToneMap tone)
    {
        bool Solid(Vector2 p) => tone.Solid[(Math.Min(tone.Height - 1, (int)p.Y) * tone.Width) + Math.Min(tone.Width - 1, (int)p.X)];
        foreach (var line in lines.Lines.Where(l => l.Kind == InkKind.Contour))
            if (line.Places.Count(i => Solid(lines.At(i))) > line.Places.Count / 2)
                line.Kind = InkKind.LeftOut;
    }

    private static double SolidShare(ToneMap tone, InkForm form)
    {
        int solid = 0,
            all = 0;
        for (var i = 0; i < form.Inside.Length; i++)
            if (form.Inside[i])
                (solid, all) = (solid + (tone.Solid[i] ? 1 : 0), all + 1);
        return all == 0 ? 0 : solid / (double)all;
    }

    private static PagePlace? PlaceOf(InkLines lines, InkForm form)
    {
        List<Vector2> at = [.. lines.Lines.SelectMany(l => l.Places).Select(lines.At)];
        if (at.Count < LeastPlaces)
            return null;
        float[] xs = [.. at.Select(p => p.X).Order()],
            ys = [.. at.Select(p => p.Y).Order()];
        var rest = at.Count / BoxRest;
        float left = xs[rest],
            right = lines.Width - xs[^(1 + rest)],
            top = ys[rest],
            bottom = lines.Height - ys[^(1 + rest)];
        (string Name, float Margin)[] edges = [("left", left), ("top", top), ("right", right), ("bottom", bottom)];
        return new(
            left,
            top,
            right,
            bottom,
            form.Area,
            form.Area / (lines.Width * lines.Height),
            [.. edges.Where(e => e.Margin < CutAt).Select(e => e.Name)]
        );
    }

    private static HatchMeasures HatchOf(InkLines lines, float[] gaps)
    {
        var hatch = lines.Lines.Where(l => l.Kind == InkKind.Hatch).ToList();
        double length = hatch.Sum(l => l.Length),
            all = lines.Lines.Sum(l => l.Length);
        var told = hatch.SelectMany(l => l.Places).Select(i => gaps[i]).Where(g => g > 0).Order().ToList();
        if (told.Count < LeastGaps)
            return new(length, all > 0 ? length / all : 0, null, null, null);
        double At(double share) => told[(int)(told.Count * share)];
        return new(length, length / all, At(0.5), (At(0.84) - At(0.16)) / 2 / At(0.5), HatchDirections.Main(HatchDirections.Of(lines)));
    }
}
