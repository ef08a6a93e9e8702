using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>A drill that is printed, answered with a pencil and read off a photograph.</summary>
/// <param name="Wide">Its items take two cells.</param>
/// <param name="Make">An item in a cell.</param>
/// <param name="Trains">Ids of drills and exercises that train the same: a remark that names one can be practised by it.</param>
public sealed record PaperDrill(
    string Kind,
    string Name,
    string About,
    bool Wide,
    Func<SeededRandom, Vec2, PaperItem> Make,
    params IReadOnlyList<string> Trains
);

public static class PaperDrills
{
    public static IReadOnlyList<PaperDrill> All { get; } =
    [
        new("slant", "Copy a slant", "an edge's direction, beside it", false, Slant.Make, "clock-hand", "tilt", "foreshortened-edge"),
        new("half", "Halve", "a line halved by eye", false, (r, at) => Parting.Make(r, at, 2), "head-count", "pencil-measure"),
        new("third", "Thirds", "a line parted in three by eye", false, (r, at) => Parting.Make(r, at, 3), "far-share"),
        new(
            "carry",
            "Carry a length",
            "a length, to another direction",
            false,
            Carry.Make,
            "span-against-span",
            "foreshortened",
            "pencil-measure"
        ),
        new("ratio", "Ratio", "a line divided as another is", false, Ratio.Make, "span-against-span", "far-share", "pencil-measure"),
        new("plumb", "Plumb", "what stands under a point", false, PlumbPoints.Make, "plumb"),
        new("level", "Level", "what of an edge stands level with a point", false, CrossLevel.Make, "plumb"),
        new("envelope", "Envelope", "the rectangle round a shape, as large", true, Envelope.Make, "core-first", "envelope", "thumbnails"),
        new(
            "strokes",
            "Single strokes",
            "from dot to dot, one stroke each",
            true,
            (_, at) => new SingleStrokes(at),
            "line-and-pressure",
            "gesture"
        ),
        new("tone", "Match a tone", "five tones by hatching", true, (_, at) => new ToneSteps(at), "value-patches"),
        new(
            "pressure",
            "Pressure scale",
            "one stroke from light to dark in seven steps",
            true,
            (_, at) => new PressureScale(at),
            "line-and-pressure"
        ),
        new("contour", "Contour", "a bent edge copied", true, Contour.Make, "line-of-action", "contour", "part-study"),
        new("negative", "Negative shape", "a gap that a figure leaves, copied", true, NegativeShape.Make, "envelope", "mass"),
        new("ellipse", "Ellipse", "on given axes, in one go", false, EllipseOnAxes.Make, "basic-forms"),
        new("hatch", "Even hatching", "a form hatched at a given spacing", true, EvenHatch.Make, "value-patches"),
        new("converging", "Convergence", "lines towards a far point", true, Converging.Make, "basic-forms"),
    ];

    /// <summary>Those that train what a remark's drill or exercise trains, of one sheet; none where nothing on paper does.</summary>
    public static IReadOnlyList<PaperDrill> For(string? drill, string? exercise)
    {
        var all = All.Where(d => d.Trains.Any(t => t == drill || t == exercise)).ToList();
        return
        [
            .. all.Where(d => d.Wide).Take(DrillSheet.MostWide),
            .. all.Where(d => !d.Wide).Take(DrillSheet.MostKinds - DrillSheet.MostWide),
        ];
    }

    public static PaperDrill? Find(string? kind) => All.FirstOrDefault(d => d.Kind == kind);

    /// <exception cref="InputException">No drill of that kind.</exception>
    public static PaperDrill Get(string? kind, string field = "drills") =>
        Find(kind) ?? throw new InputException($"unknown drill '{kind}'", field, string.Join(" | ", All.Select(d => d.Kind)));
}

/// <summary>One printed sheet: its code and its items, in twelve cells.</summary>
public sealed record DrillSheet(SheetCode Code, IReadOnlyList<PaperItem> Items)
{
    public const int MostKinds = 8,
        MostWide = SheetLayout.Rows;

    /// <summary>A sheet of chosen drills, each as often as there is room for: the same for the same arguments. Wide items take two cells of a row; a row
    /// that nothing else fits keeps its last cell free.</summary>
    /// <exception cref="InputException">No drill, too many, or one that there isn't.</exception>
    public static DrillSheet Make(SheetCode code, IReadOnlyList<string> kinds, long seed)
    {
        var drills = kinds.Distinct().Select(k => PaperDrills.Get(k)).ToList();
        if (drills.Count is 0 or > MostKinds)
            throw new InputException(Say.Plural(drills.Count, "drill") + " on a sheet", "drills", $"1 to {MostKinds}");
        if (drills.Count(d => d.Wide) > MostWide)
            throw new InputException(
                $"{Say.List([.. drills.Where(d => d.Wide).Select(d => d.Name.ToLowerInvariant())])} each want half a row and more",
                "drills",
                $"{MostWide} such at most"
            );
        var random = new SeededRandom(seed);
        var wide = new Turns([.. drills.Where(d => d.Wide)]);
        var narrow = new Turns([.. drills.Where(d => !d.Wide)]);
        var items = new List<PaperItem>();
        for (var row = 0; row < SheetLayout.Rows; row++)
        {
            // As many wide items as rows have for them, so that each kind comes as often as another.
            var takesWide = wide.Any && (!narrow.Any || row < WideRows(drills));
            var first = takesWide && random.Next(2) == 0;
            for (var column = 0; column < SheetLayout.Columns; )
            {
                var two = takesWide && column + 1 < SheetLayout.Columns && (first || !narrow.Any ? column == 0 : column == 1);
                if (!two && !narrow.Any)
                    break;
                items.Add((two ? wide : narrow).Next().Make(random, SheetLayout.Cell(column, row)));
                column += two ? 2 : 1;
            }
        }
        return new(code, items);
    }

    /// <summary>Rows with a wide item: a wide kind should come about as often as a narrow one, and each at least once.</summary>
    private static int WideRows(IReadOnlyList<PaperDrill> drills)
    {
        int wide = drills.Count(d => d.Wide),
            narrow = Math.Max(1, drills.Count - wide);
        var even = Enumerable.Range(1, SheetLayout.Rows).MinBy(rows => Math.Abs(((double)rows / wide) - ((12.0 - (2 * rows)) / narrow)));
        return Math.Clamp(Math.Max(even, wide), 1, SheetLayout.Rows);
    }

    /// <summary>Kinds in turn.</summary>
    private sealed class Turns(IReadOnlyList<PaperDrill> drills)
    {
        private int next;
        public bool Any => drills.Count > 0;

        public PaperDrill Next() => drills[next++ % drills.Count];
    }

    /// <summary>Everything that is printed, words too.</summary>
    public IEnumerable<PrintShape> Print()
    {
        foreach (var m in SheetLayout.Marks)
        {
            yield return new PrintCircle(m, SheetLayout.Ring, SheetLayout.RingLine);
            yield return new PrintCircle(m, SheetLayout.Disc);
        }
        foreach (var d in SheetLayout.Dots)
            yield return new PrintCircle(d, SheetLayout.Dot);
        foreach (var shape in Block().Concat(Heading()).Concat(Ruler()))
            yield return shape;
        foreach (var item in Items)
        {
            yield return new PrintWords(item.At + new Vec2(2.2, 4.2), item.Asks, item.Wide ? PrintWords.Usual : PrintWords.Small);
            foreach (var shape in item.Print())
                yield return shape;
        }
    }

    private IEnumerable<PrintShape> Block()
    {
        var bytes = Code.Encode();
        const double inset = (SheetLayout.Pitch - SheetLayout.Square) / 2;
        for (var bit = 0; bit < bytes.Length * 8; bit++)
            if ((bytes[bit / 8] >> (7 - (bit % 8)) & 1) == 1 && SheetCode.SquareOf(bit) is var (column, row))
                yield return new PrintBox(
                    new(
                        SheetLayout.CodeLeft + (column * SheetLayout.Pitch) + inset,
                        SheetLayout.CodeTop + (row * SheetLayout.Pitch) + inset
                    ),
                    SheetLayout.Square,
                    SheetLayout.Square
                );
    }

    private IEnumerable<PrintShape> Heading()
    {
        yield return new PrintWords(new(13, 6), "Drill sheet", PrintWords.Large);
        yield return new PrintWords(new(13, 12), "Answer with the pencil you draw with.", PrintWords.Small);
        yield return new PrintWords(new(13, 16), "Photograph it flat, from above, with all eight rings.", PrintWords.Small);
        yield return new PrintWords(new(98, 15.2), $"Sheet {Code.Digits}");
    }

    private static IEnumerable<PrintShape> Ruler()
    {
        var from = SheetLayout.Ruler;
        yield return new PrintPath([from, from + new Vec2(SheetLayout.RulerLength, 0)], Line: PrintPath.Thin);
        for (var mm = 0; mm <= SheetLayout.RulerLength; mm++)
            yield return new PrintPath(
                [
                    from + new Vec2(mm, 0),
                    from
                        + new Vec2(
                            mm,
                            mm % 10 == 0 ? -3
                                : mm % 5 == 0 ? -2.2
                                : -1.4
                        ),
                ],
                Line: PrintPath.Thin
            );
        yield return new PrintWords(
            from + new Vec2(0, 5),
            "60 mm: measure it; a printer set to fit the page makes all smaller.",
            PrintWords.Small
        );
    }
}
