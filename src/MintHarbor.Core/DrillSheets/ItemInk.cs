using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>What is drawn in one item of a flat sheet, once its own print has been found there: paper that buckles shifts it by up to a millimetre, and
/// printed lines would be taken for pencil.</summary>
internal sealed class ItemInk
{
    /// <summary>Found within so many pixels.</summary>
    private const int Reach = 12;

    /// <summary>Ink of which so much lies near print is leaked print.</summary>
    private const double LeakShare = 0.93;
    private const int FewestPixels = 10;

    private readonly FlatSheet flat;
    private readonly Vec2 shift;

    public ItemInk(FlatSheet flat, PaperItem item)
    {
        this.flat = flat;
        (shift, Match) = Registered(item);
    }

    /// <summary>How much of the print is found dark, 0 to 1.</summary>
    public double Match { get; }
    public Vec2 Shift => shift;
    public double LeftOut => flat.LeftOut;

    public bool Hidden => Match < 0.5;
    public bool Displaced => Math.Max(Math.Abs(shift.X), Math.Abs(shift.Y)) > 1.3;

    private (Vec2 Shift, double Match) Registered(PaperItem item)
    {
        var anchors = Anchors(item);
        if (anchors.Count < 60)
            return (default, 1);
        var step = Math.Max(1, anchors.Count / 1500);
        var taken = (anchors.Count + step - 1) / step;
        double Score(int dx, int dy)
        {
            double sum = 0;
            for (var i = 0; i < anchors.Count; i += step)
            {
                int x = anchors[i].X + dx,
                    y = anchors[i].Y + dy;
                if (x >= 0 && y >= 0 && x < FlatSheet.Width && y < FlatSheet.Height)
                    sum += Math.Min(0.5f, flat.Darkness[(y * FlatSheet.Width) + x]);
            }
            return sum;
        }
        // Of places that are as good the nearest.
        var (best, bx, by) = (-1.0, 0, 0);
        for (var j = -Reach; j <= Reach; j += 2)
        for (var i = -Reach; i <= Reach; i += 2)
            if (Score(i, j) - (8e-6 * ((i * i) + (j * j)) * taken) is var s && s > best)
                (best, bx, by) = (s, i, j);
        var (cx, cy) = (bx, by);
        for (var j = cy - 1; j <= cy + 1; j++)
        for (var i = cx - 1; i <= cx + 1; i++)
            if (Score(i, j) is var s && s > best)
                (best, bx, by) = (s, i, j);
        var fine = new Vec2(
            bx + Samples.Peak(Score(bx - 1, by), best, Score(bx + 1, by)),
            by + Samples.Peak(Score(bx, by - 1), best, Score(bx, by + 1))
        );
        return (fine * (1 / FlatSheet.PerMm), best / taken / 0.5);
    }

    private List<(int X, int Y)> Anchors(PaperItem item)
    {
        var a = item.Anchors;
        var (from, to) = (FlatSheet.Pixel(new(a.Left, a.Top)), FlatSheet.Pixel(new(a.Right, a.Foot)));
        var words = FlatSheet.Pixel(item.At + new Vec2(0, 5.5)).Y;
        var all = new List<(int, int)>();
        for (var y = Math.Max(0, from.Y); y < Math.Min(FlatSheet.Height, to.Y); y++)
        for (var x = Math.Max(0, from.X); x < Math.Min(FlatSheet.Width, to.X); x++)
        {
            if (flat.Printed[(y * FlatSheet.Width) + x] <= 0.5f)
                continue;
            // Patches of tone are drawn beside; letters are many pixels, half of them say as much.
            if (item.Patches.Any() ? y > words : y < words && ((x + y) & 1) == 0)
                continue;
            all.Add((x, y));
        }
        return all;
    }

    /// <summary>Light of a patch over that of bare paper there: how light, and how uneven its ninths are.</summary>
    public (double Mean, double Uneven) Tone(Area area)
    {
        var (from, to) = (FlatSheet.Pixel(new Vec2(area.Left, area.Top) + shift), FlatSheet.Pixel(new Vec2(area.Right, area.Foot) + shift));
        var sums = new double[9];
        var counts = new int[9];
        for (var y = from.Y; y < to.Y; y++)
        for (var x = from.X; x < to.X; x++)
        {
            var ninth = ((y - from.Y) * 3 / (to.Y - from.Y) * 3) + ((x - from.X) * 3 / (to.X - from.X));
            sums[ninth] += flat.Light(x, y) / flat.Paper(FlatSheet.Place(x, y));
            counts[ninth]++;
        }
        var ninths = sums.Select((s, i) => s / counts[i]).ToList();
        var mean = sums.Sum() / counts.Sum();
        return (mean, Math.Sqrt(ninths.Average(n => (n - mean) * (n - mean))));
    }

    public double Paper(Vec2 at) => flat.Paper(at + shift);

    /// <summary>Mean darkness of an area against the paper nearby.</summary>
    public double Dark(Area area)
    {
        var (from, to) = (FlatSheet.Pixel(new Vec2(area.Left, area.Top) + shift), FlatSheet.Pixel(new Vec2(area.Right, area.Foot) + shift));
        double sum = 0;
        for (var y = from.Y; y < to.Y; y++)
        for (var x = from.X; x < to.X; x++)
            sum += flat.Darkness[(y * FlatSheet.Width) + x];
        return sum / ((to.X - from.X) * (to.Y - from.Y));
    }

    /// <summary>Ink in an area, in pieces that hang together.</summary>
    /// <param name="keep">Only places that it says; null for all.</param>
    /// <param name="bridge">Pixels of print that a piece may reach across.</param>
    /// <param name="print">False where print is so small that it is taken for ink, and told from it by whoever asks.</param>
    public List<InkMark> Marks(Area area, int bridge = 3, Func<Vec2, bool>? keep = null, bool print = true)
    {
        var moved = new Area(area.Left + shift.X, area.Top + shift.Y, area.Right + shift.X, area.Foot + shift.Y);
        var region = new Region(flat, shift, moved, print);
        return region.Threshold(keep) ? [.. region.Pieces(bridge).Where(m => m.Places.Count >= FewestPixels && !Leaked(m))] : [];
    }

    private bool Leaked(InkMark mark)
    {
        var near = 0;
        foreach (var p in mark.Places)
        {
            var (x, y) = FlatSheet.Pixel(p.At);
            if (x >= 0 && y >= 0 && x < FlatSheet.Width && y < FlatSheet.Height && flat.NearPrint[(y * FlatSheet.Width) + x])
                near++;
        }
        return near > LeakShare * mark.Places.Count;
    }

    private enum Pixel : byte
    {
        Bare,
        Faint,
        Ink,
        Print,
    }

    /// <summary>A rectangle of the flat picture, each pixel said to be bare, faint, ink or print.</summary>
    private sealed class Region
    {
        private readonly FlatSheet flat;
        private readonly Vec2 shift;
        private readonly int left,
            top,
            width,
            height,
            sx,
            sy;
        private readonly Pixel[] said;
        private readonly bool print;
        private double paper;

        public Region(FlatSheet flat, Vec2 shift, Area area, bool print)
        {
            (this.flat, this.shift, this.print) = (flat, shift, print);
            var (from, to) = (FlatSheet.Pixel(new(area.Left, area.Top)), FlatSheet.Pixel(new(area.Right, area.Foot)));
            (left, top) = (Math.Max(1, from.X), Math.Max(1, from.Y));
            (width, height) = (Math.Min(FlatSheet.Width - 2, to.X) - left + 1, Math.Min(FlatSheet.Height - 2, to.Y) - top + 1);
            (sx, sy) = ((int)Math.Round(shift.X * FlatSheet.PerMm), (int)Math.Round(shift.Y * FlatSheet.PerMm));
            said = width > 0 && height > 0 ? new Pixel[width * height] : [];
        }

        private float Dark(int x, int y) => flat.Darkness[((y + top) * FlatSheet.Width) + x + left];

        private bool Print(int x, int y)
        {
            x += left - sx;
            y += top - sy;
            return print && x >= 0 && y >= 0 && x < FlatSheet.Width && y < FlatSheet.Height && flat.IsPrint[(y * FlatSheet.Width) + x];
        }

        private Vec2 Place(int x, int y) => FlatSheet.Place(x + left, y + top) - shift;

        /// <summary>Ink stands out of the paper's own unevenness; what hangs on it may be fainter.</summary>
        public bool Threshold(Func<Vec2, bool>? keep)
        {
            var bare = new List<float>();
            for (var y = 0; y < height; y += 2)
            for (var x = 0; x < width; x += 2)
                if (!Print(x, y))
                    bare.Add(Dark(x, y));
            if (bare.Count < 50)
                return false;
            bare.Sort();
            paper = bare[(int)(0.4 * bare.Count)];
            var sigma = Math.Max(0.004, 1.48 * (paper - bare[(int)(0.12 * bare.Count)]) / 0.92);
            double faint = paper + Math.Max(0.028, 3.2 * sigma),
                ink = paper + Math.Max(0.055, 5.5 * sigma);
            for (var y = 0; y < height; y++)
            for (var x = 0; x < width; x++)
                if (keep is null || keep(Place(x, y)))
                    said[(y * width) + x] =
                        Print(x, y) ? Pixel.Print
                        : Dark(x, y) > ink ? Pixel.Ink
                        : Dark(x, y) > faint ? Pixel.Faint
                        : Pixel.Bare;
            return true;
        }

        public IEnumerable<InkMark> Pieces(int bridge)
        {
            var taken = new bool[said.Length];
            var open = new Stack<int>();
            var reach = 1 + bridge;
            for (var i = 0; i < said.Length; i++)
            {
                if (taken[i] || said[i] != Pixel.Ink)
                    continue;
                var mark = new InkMark();
                taken[i] = true;
                open.Push(i);
                while (open.TryPop(out var p))
                {
                    int x = p % width,
                        y = p / width;
                    mark.Add(Place(x, y), Dark(x, y) - paper);
                    // Only beside print is there anything to reach across.
                    var far = reach > 1 && BesidePrint(x, y) ? reach : 1;
                    for (var yy = Math.Max(0, y - far); yy <= Math.Min(height - 1, y + far); yy++)
                    for (var xx = Math.Max(0, x - far); xx <= Math.Min(width - 1, x + far); xx++)
                    {
                        var q = (yy * width) + xx;
                        if (taken[q] || said[q] is not (Pixel.Faint or Pixel.Ink))
                            continue;
                        if (Math.Max(Math.Abs(xx - x), Math.Abs(yy - y)) > 1 && !Across(x, y, xx - x, yy - y))
                            continue;
                        taken[q] = true;
                        open.Push(q);
                    }
                }
                mark.Close();
                yield return mark;
            }
        }

        private bool BesidePrint(int x, int y)
        {
            for (var yy = Math.Max(0, y - 1); yy <= Math.Min(height - 1, y + 1); yy++)
            for (var xx = Math.Max(0, x - 1); xx <= Math.Min(width - 1, x + 1); xx++)
                if (said[(yy * width) + xx] == Pixel.Print)
                    return true;
            return false;
        }

        /// <summary>Whether at least half of the way between two pixels is print.</summary>
        private bool Across(int x, int y, int dx, int dy)
        {
            var n = Math.Max(Math.Abs(dx), Math.Abs(dy));
            var print = 0;
            for (var k = 1; k < n; k++)
                if (said[((y + (dy * k / n)) * width) + x + (dx * k / n)] == Pixel.Print)
                    print++;
            return print * 2 >= n - 1;
        }
    }
}
