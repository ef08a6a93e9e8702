using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>A line that ticks are made on, straight or bent: a place of the sheet as so far along it and so far beside.</summary>
internal sealed class TickAxis(IReadOnlyList<Vec2> line)
{
    public double Length { get; } = line.Zip(line.Skip(1), (a, b) => (b - a).Length).Sum();

    public Area Bounds { get; } = new(line.Min(p => p.X), line.Min(p => p.Y), line.Max(p => p.X), line.Max(p => p.Y));

    /// <returns>X so far along, beyond the ends too; Y so far to its right.</returns>
    public Vec2 Beside(Vec2 p)
    {
        var (best, along, found) = (double.MaxValue, 0.0, default(Vec2));
        for (var i = 0; i + 1 < line.Count; i++)
        {
            var step = line[i + 1] - line[i];
            var length = step.Length;
            var d = step * (1 / length);
            var reach = (p - line[i]).Dot(d);
            var held = Math.Clamp(reach, i == 0 ? double.MinValue : 0, i + 2 == line.Count ? double.MaxValue : length);
            var off = (p - line[i] - (d * held)).Length;
            if (off < best)
                (best, found) = (off, new(along + held, d.Cross(p - line[i])));
            along += length;
        }
        return found;
    }

    /// <summary>The place so far along.</summary>
    public Vec2 At(double along)
    {
        for (var i = 0; i + 1 < line.Count; i++)
        {
            var step = line[i + 1] - line[i];
            if (along <= step.Length || i + 2 == line.Count)
                return line[i] + (step * (along / step.Length));
            along -= step.Length;
        }
        return line[^1];
    }

    /// <summary>Its right-hand normal there.</summary>
    public Vec2 Across(double along)
    {
        var d = At(along + 0.2) - At(along - 0.2);
        return new Vec2(-d.Y, d.X) * (1 / d.Length);
    }
}

/// <summary>Reads ticks on a line.</summary>
internal static class TickReading
{
    /// <summary>Ticks nearer than this are one, drawn twice.</summary>
    private const double Merged = 1.6;

    /// <summary>A mark that comes no nearer to the line is none.</summary>
    private const double Contact = 1.8;
    private const double MostDoubt = 0.7;

    private sealed record Tick(double Along, double Doubt, double Ink, double Dark, double Size);

    /// <param name="wanted">So many ticks are asked for.</param>
    /// <param name="score">Scores of ticks, each with its place along the line and its doubt, from the line's beginning.</param>
    public static ItemReading Of(
        ItemInk ink,
        PaperItem item,
        TickAxis axis,
        int wanted,
        Func<IReadOnlyList<(double Along, double Doubt)>, IEnumerable<ItemScore>> score
    )
    {
        var (ticks, stray) = Ticks(ink, item, axis);
        var darkest = ticks.Where(t => t.Size > 2).Select(t => t.Dark).DefaultIfEmpty(0).Max();
        var faint = Erased.IsFaint(darkest) && ticks.Any(t => t.Dark < 0.45 * darkest && t.Size > 2);
        ticks = Joined([.. ticks.Where(t => t.Dark >= 0.45 * darkest).OrderBy(t => t.Along)]);
        if (ticks.Count > wanted)
        {
            var most = ticks.Max(t => t.Ink);
            var small = ticks.Where(t => t.Ink < 0.18 * most && t.Size < 2).ToList();
            stray |= small.Count > 0;
            ticks = [.. ticks.Except(small)];
        }
        if (ticks.Count == 0)
            return ItemReading.Nothing.With(ReadingFlag.StrayMarks, stray);
        var reading = new ItemReading(
            ticks.Count == wanted ? AnswerState.Answered
                : ticks.Count > wanted ? AnswerState.Twice
                : AnswerState.Partly,
            ticks.Count == wanted ? [.. score([.. ticks.Select(t => (t.Along, t.Doubt))])] : [],
            [],
            [
                .. ticks.Select(t => new SeenLine([
                    axis.At(t.Along) - (axis.Across(t.Along) * 4),
                    axis.At(t.Along) + (axis.Across(t.Along) * 4),
                ])),
            ]
        );
        return reading
            .With(ReadingFlag.TwoAnswers, ticks.Count > wanted)
            .With(ReadingFlag.PartAnswered, ticks.Count < wanted)
            .With(ReadingFlag.FaintSecond, faint)
            .With(ReadingFlag.StrayMarks, stray)
            .With(ReadingFlag.TickUnclear, ticks.Max(t => t.Doubt) > MostDoubt);
    }

    private static (List<Tick> Ticks, bool Stray) Ticks(ItemInk ink, PaperItem item, TickAxis axis)
    {
        var b = axis.Bounds.Grown(7);
        var cell = item.At;
        var area = new Area(
            Math.Max(b.Left, cell.X + 0.8),
            Math.Max(b.Top, cell.Y + 5),
            Math.Min(b.Right, cell.X + item.Width - 0.8),
            Math.Min(b.Foot, cell.Y + 49.2)
        );
        var marks = ink.Marks(area, 11, p => axis.Beside(p) is var q && q.X > -3 && q.X < axis.Length + 3 && Math.Abs(q.Y) < 6.5);
        var ticks = new List<Tick>();
        var stray = false;
        foreach (var mark in marks.Where(m => m.Size >= 1.1))
        {
            List<InkPlace> beside = [.. mark.Places.Select(p => p with { At = axis.Beside(p.At) })];
            var (tick, astray) = One(beside, mark, ink.LeftOut);
            if (tick is not null)
                ticks.Add(tick);
            stray |= astray;
        }
        return (ticks, stray);
    }

    /// <summary>One mark as a tick, or as something astray.</summary>
    private static (Tick? Tick, bool Stray) One(IReadOnlyList<InkPlace> beside, InkMark mark, double leftOut)
    {
        double least = beside.Min(p => p.At.Y),
            most = beside.Max(p => p.At.Y),
            along = beside.Max(p => p.At.X) - beside.Min(p => p.At.X);
        if (least > Contact || most < -Contact)
            return (null, mark.Size > 2);
        var fit = StrokeFit.Of(beside)!;
        Tick Seen(double at, double doubt) => new(at, doubt, mark.Ink, mark.Dark, Math.Max(mark.Size, most - least));
        if (most - least < 1.5)
            return along < 3 ? (Seen(fit.Through.X, 0.3), false) : (null, true);
        if (Math.Abs(fit.Along.Y) < 0.5)
            return along > 4 ? (null, true) : (Seen(fit.Through.X, 0.6), false);
        var down = -fit.Through.Y / fit.Along.Y;
        var beyond = Math.Abs(down) / Math.Max(0.5, (most - least) / 2);
        var spread = Math.Max(0, fit.Scatter - 0.12) * (1 + beyond);
        return (
            Seen(fit.Through.X + (fit.Along.X * down), Math.Sqrt((0.12 * 0.12) + Math.Pow(Math.Min(leftOut, 0.25), 2) + (spread * spread))),
            false
        );
    }

    private static List<Tick> Joined(List<Tick> ticks)
    {
        for (var i = 0; i + 1 < ticks.Count; )
        {
            var (a, b) = (ticks[i], ticks[i + 1]);
            if (b.Along - a.Along >= Merged)
            {
                i++;
                continue;
            }
            var ink = a.Ink + b.Ink;
            ticks[i] = new(
                ((a.Along * a.Ink) + (b.Along * b.Ink)) / ink,
                Math.Max(Math.Max(a.Doubt, b.Doubt), (b.Along - a.Along) / 2),
                ink,
                Math.Max(a.Dark, b.Dark),
                Math.Max(a.Size, b.Size)
            );
            ticks.RemoveAt(i + 1);
        }
        return ticks;
    }
}
