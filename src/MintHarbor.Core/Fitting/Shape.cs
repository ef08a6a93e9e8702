using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Fitting;

/// <summary>A piece of line in a shape's cells.</summary>
/// <param name="Direction">One of six.</param>
internal readonly record struct ShapePoint(Vector2 Cell, byte Direction);

/// <summary>A drawing, or a view, as a whole: its lines and its form laid into a box of one height, so that they can be compared whatever their
/// size and place.</summary>
/// <param name="Middle">Of its box, in the unit it came in; <paramref name="Size"/> what one height is there.</param>
internal sealed record Shape(Vector2 Middle, float Size, ShapePoint[] Points, bool[] Form)
{
    public const int Columns = 190,
        Rows = 110,
        Directions = 6;
    private const float CellsPerHeight = 80;

    /// <summary>A wide shape is measured by its width.</summary>
    private const float OfWidth = 0.62f;

    /// <summary>Farther than this is simply elsewhere, cells.</summary>
    private const float Elsewhere = 6;

    public static readonly Vector2 Centre = new(Columns / 2f, Rows / 2f);

    public static float SizeOf(Vector2 low, Vector2 high) => MathF.Max(high.Y - low.Y, (high.X - low.X) * OfWidth);

    public Vector2 ToCell(Vector2 p) => ((p - Middle) / Size * CellsPerHeight) + Centre;

    public Vector2 FromCell(Vector2 c) => ((c - Centre) / CellsPerHeight * Size) + Middle;

    /// <summary>Null where nothing is drawn.</summary>
    /// <param name="turn">Degrees clockwise that the drawing is turned by first: a figure that leans stands upright again.</param>
    public static Shape? Of(InkForm form, float turn = 0)
    {
        if (form.Box is not var (lowest, highest))
            return null;
        var (sin, cos) = MathF.SinCos(turn * MathF.PI / 180);
        var about = (lowest + highest) / 2;
        Vector2 Turned(Vector2 p, float s)
        {
            var d = p - about;
            return about + new Vector2((cos * d.X) - (s * d.Y), (s * d.X) + (cos * d.Y));
        }
        var every = Math.Max(1, form.Lines.Count / 2500);
        var lines = form.Lines.Where((_, i) => i % every == 0).Select(p => (At: Turned(p.At, sin), p.Angle)).ToList();
        Vector2 low = turn == 0 ? lowest : lines.Select(l => l.At).Aggregate(Vector2.Min),
            high = turn == 0 ? highest : lines.Select(l => l.At).Aggregate(Vector2.Max);
        var empty = new Shape((low + high) / 2, SizeOf(low, high), [], []);
        var points = lines
            .Select(p => new ShapePoint(empty.ToCell(p.At), DirectionOf((p.Angle + (turn * MathF.PI / 180) + MathF.PI) % MathF.PI)))
            .ToArray();
        var inside = new bool[Columns * Rows];
        for (var i = 0; i < inside.Length; i++)
        {
            var p = Turned(empty.FromCell(new((i % Columns) + 0.5f, (i / Columns) + 0.5f)), -sin);
            int x = (int)MathF.Floor(p.X),
                y = (int)MathF.Floor(p.Y);
            inside[i] = (uint)x < form.Width && (uint)y < form.Height && form.Inside[(y * form.Width) + x];
        }
        return empty with { Points = points, Form = inside };
    }

    /// <summary>A view's lines but the soft ones, and what its outline encloses, what the figure rests on with it.</summary>
    public static Shape Of(FigureView line, FigureView mass)
    {
        var lines = line.Strokes.Where(s => s.Kind != LineKind.Soft).Select(s => s.Places).ToList();
        var outlines = mass.Mass.Select(l => l.Append(l[0]).ToArray()).ToList();
        var all = lines.Concat(outlines).SelectMany(p => p).ToList();
        Vector2 low = all.Aggregate(Vector2.Min),
            high = all.Aggregate(Vector2.Max);
        var empty = new Shape((low + high) / 2, SizeOf(low, high), [], []);
        var points = new List<ShapePoint>();
        var ink = new bool[Columns * Rows];
        void Mark(Vector2 cell)
        {
            if (cell.X >= 0 && cell.Y >= 0 && cell.X < Columns && cell.Y < Rows)
                ink[((int)cell.Y * Columns) + (int)cell.X] = true;
        }
        foreach (var l in lines)
        {
            var even = Curves.Resample(l, empty.Size * 0.0125f);
            for (var i = 0; i < even.Count; i++)
            {
                var along = even[Math.Min(even.Count - 1, i + 1)] - even[Math.Max(0, i - 1)];
                if (along.LengthSquared() < 1e-9f)
                    continue;
                var angle = MathF.Atan2(along.Y, along.X);
                points.Add(new(empty.ToCell(even[i]), DirectionOf(angle < 0 ? angle + MathF.PI : angle)));
                Mark(points[^1].Cell);
            }
        }
        foreach (var l in outlines)
        foreach (var p in Curves.Resample(l, empty.Size * 0.01f))
            Mark(empty.ToCell(p));
        return empty with { Points = [.. points], Form = InkForm.Filled(ink, Columns, Rows, 1) };
    }

    private static byte DirectionOf(float angle) => (byte)((int)(angle / MathF.PI * Directions) % Directions);

    /// <summary>As a mirror shows it.</summary>
    public Shape Mirrored()
    {
        var form = new bool[Form.Length];
        for (var i = 0; i < form.Length; i++)
            form[i] = Form[(i / Columns * Columns) + Columns - 1 - (i % Columns)];
        return this with
        {
            Middle = Middle with { X = -Middle.X },
            Points = [.. Points.Select(p => new ShapePoint(p.Cell with { X = Columns - p.Cell.X }, (byte)(Directions - 1 - p.Direction)))],
            Form = form,
        };
    }

    /// <summary>Turned by 180°.</summary>
    public Shape UpsideDown() =>
        this with
        {
            Points = [.. Points.Select(p => p with { Cell = new(Columns - p.Cell.X, Rows - p.Cell.Y) })],
            Form = [.. Form.Reverse()],
        };

    /// <summary>By direction: how far the nearest line that runs about that way lies from every cell, at most <see cref="Elsewhere"/>.</summary>
    public float[][] Distances()
    {
        var to = new float[Directions][];
        for (var d = 0; d < Directions; d++)
        {
            var on = new bool[Columns * Rows];
            foreach (var p in Points)
            {
                var off = Math.Abs(p.Direction - d);
                if (Math.Min(off, Directions - off) <= 1 && p.Cell.X >= 0 && p.Cell.Y >= 0 && p.Cell.X < Columns && p.Cell.Y < Rows)
                    on[((int)p.Cell.Y * Columns) + (int)p.Cell.X] = true;
            }
            to[d] = [.. InkForm.Far(on, Columns, Rows, (int)Elsewhere + 1).Select(f => MathF.Min(Elsewhere, MathF.Sqrt(f)))];
        }
        return to;
    }

    /// <summary>Of what either covers, the share that both do.</summary>
    public float Overlap(Shape other)
    {
        int both = 0,
            either = 0;
        for (var i = 0; i < Form.Length; i++)
        {
            if (Form[i] && other.Form[i])
                both++;
            if (Form[i] || other.Form[i])
                either++;
        }
        return (float)both / Math.Max(1, either);
    }

    /// <summary>Mean distance of this shape's lines, grown and shifted, from lines of the other; every so many are asked.</summary>
    public float Apart(float[][] other, float scale, Vector2 shift, int asked)
    {
        var every = Math.Max(1, Points.Length / asked);
        float sum = 0;
        var n = 0;
        for (var i = 0; i < Points.Length; i += every, n++)
        {
            var p = ((Points[i].Cell - Centre) * scale) + Centre + shift;
            sum +=
                p.X >= 0 && p.Y >= 0 && p.X < Columns && p.Y < Rows
                    ? other[Points[i].Direction][((int)p.Y * Columns) + (int)p.X]
                    : Elsewhere;
        }
        return n == 0 ? Elsewhere : sum / n;
    }
}

/// <param name="Apart">Distance of the lines both ways and of the forms: the less the better.</param>
/// <param name="Scale">What the view's shape must grow by, and then be shifted, to lie on the drawing's.</param>
internal readonly record struct ShapeMatch(float Apart, float Scale, Vector2 Shift)
{
    private const float FormCounts = 4;
    private static readonly float[] Scales = [0.95f, 1, 1.05f];
    private static readonly int[] Shifts = [-2, 0, 2];

    /// <summary>The best of three sizes and nine places.</summary>
    /// <param name="far">The drawing's distances.</param>
    /// <param name="back">The view's distances; null leaves the way back out, for a first choice among many.</param>
    public static ShapeMatch Best(Shape drawing, float[][] far, Shape view, float[][]? back)
    {
        var best = new ShapeMatch(float.MaxValue, 1, default);
        foreach (var scale in Scales)
        {
            foreach (var dy in Shifts)
            {
                foreach (var dx in Shifts)
                {
                    var shift = new Vector2(dx, dy);
                    var apart = view.Apart(far, scale, shift, 220);
                    if (back is not null)
                        apart += drawing.Apart(back, 1 / scale, -shift / scale, 260);
                    if (apart < best.Apart)
                        best = new(apart, scale, shift);
                }
            }
        }
        return best with { Apart = best.Apart + (FormCounts * (1 - drawing.Overlap(view))) };
    }
}
