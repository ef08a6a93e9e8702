using System.Numerics;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Technique;

/// <summary>Tells hatching from contour: a line whose neighbours run beside it at like distances. From the middle of a line a ray is cast across it
/// to either side; four lines in a row at like gaps are hatching.</summary>
internal sealed class HatchSearch
{
    /// <summary>How far a ray reaches, mm, and within which angle lines run together, radians.</summary>
    private const float Reach = 12,
        Parallel = 0.26f,
        AsOne = 0.2f;

    /// <summary>Lines in a row, their mean gap from and to (mm), the greatest gap over the least, and what they span together.</summary>
    private const int InARow = 4;
    private const float LeastGap = 0.55f,
        MostGap = 6.5f,
        Alike = 2.1f,
        LeastSpan = 2.4f;

    /// <summary>A line is hatching by so many of its places, and its neighbours by so many of theirs.</summary>
    private const float ByPlaces = 0.5f,
        ByNeighbours = 0.6f;

    /// <summary>Longest stroke of hatching beside others, and how straight it is: chord over length; longest piece within hatching that is left out.</summary>
    private const float LongestStroke = 42,
        StraightBeside = 0.93f,
        StraightAlone = 0.95f,
        LongestWithin = 25;

    private readonly InkLines ink;
    private readonly InkIndex index;
    private readonly float[] gap;

    private HatchSearch(InkLines ink, InkIndex index) => (this.ink, this.index, gap) = (ink, index, new float[ink.Places.Length]);

    /// <summary>Marks the sheet's lines.</summary>
    /// <returns>Gap to the next line of its hatching for each place, mm; 0 where there is none.</returns>
    public static float[] Mark(InkLines ink, InkIndex index)
    {
        var search = new HatchSearch(ink, index);
        foreach (var line in ink.Lines.Where(search.InRows).ToList())
            line.Kind = InkKind.Hatch;
        for (var round = 0; round < 2; round++)
            foreach (var line in ink.Lines.Where(search.Beside))
                line.Kind = InkKind.Hatch;
        foreach (var line in ink.Lines.Where(search.InItsDirection).ToList())
            line.Kind = InkKind.Hatch;
        search.LeaveOutWithin();
        return search.gap;
    }

    private bool InRows(InkLine line)
    {
        var step = Math.Max(1, (int)MathF.Round(line.Places.Count / MathF.Max(1, line.Length)));
        int tried = 0,
            hits = 0;
        for (var k = 0; k < line.Places.Count; k += step, tried++)
        {
            var g = Regular(index.Side(line.Places[k], 1, Reach, Parallel), index.Side(line.Places[k], -1, Reach, Parallel));
            if (g == 0)
                continue;
            hits++;
            for (var m = k; m < Math.Min(line.Places.Count, k + step); m++)
                gap[line.Places[m]] = g;
        }
        return hits >= ByPlaces * tried;
    }

    /// <summary>Mean gap of the longest row of lines about the one at 0 whose gaps are alike; 0 where there is none.</summary>
    private static float Regular(List<float> ahead, List<float> behind)
    {
        if (ahead.Count + behind.Count + 1 < InARow)
            return 0;
        List<float> at = [.. behind.Select(d => -d).Reverse(), 0, .. ahead];
        var me = behind.Count;
        float best = 0;
        var most = 0;
        for (var a = 0; a <= me; a++)
        for (var b = Math.Max(me, a + InARow - 1); b < at.Count; b++)
        {
            var mean = (at[b] - at[a]) / (b - a);
            if (b - a > most && mean is >= LeastGap and <= MostGap && at[b] - at[a] >= LeastSpan && AreAlike(at, a, b))
                (best, most) = (mean, b - a);
        }
        return best;
    }

    private static bool AreAlike(List<float> at, int a, int b)
    {
        float least = float.MaxValue,
            most = 0;
        for (var k = a; k < b; k++)
            (least, most) = (MathF.Min(least, at[k + 1] - at[k]), MathF.Max(most, at[k + 1] - at[k]));
        return most <= Alike * least;
    }

    private bool IsStroke(InkLine line, float straight) =>
        line.Length <= LongestStroke && Vector2.Distance(ink.At(line.First), ink.At(line.Last)) >= straight * line.Length;

    /// <summary>A short straight piece that runs with the hatching round it.</summary>
    private bool Beside(InkLine line)
    {
        if (line.Kind == InkKind.Hatch || !IsStroke(line, StraightBeside))
            return false;
        int tried = 0,
            hits = 0;
        for (var k = 0; k < line.Places.Count; k += 4, tried++)
            if (index.Neighbours(line.Places[k], 5.5f, AsOne).Any(o => o.Kind == InkKind.Hatch))
                hits++;
        return hits >= ByNeighbours * tried;
    }

    private float[]? directions;

    /// <summary>A short straight piece in the direction in which the sheet is hatched, with another like it beside it.</summary>
    private bool InItsDirection(InkLine line)
    {
        if (line.Kind == InkKind.Hatch || !IsStroke(line, StraightAlone))
            return false;
        directions ??= HatchDirections.Of(ink);
        var way = ink.At(line.Last) - ink.At(line.First);
        return HatchDirections.IsMain(directions, MathF.Atan2(way.Y, way.X))
            && index
                .Neighbours(line.Places[line.Places.Count / 2], 7, AsOne)
                .Any(o => o != line && (o.Kind == InkKind.Hatch || IsStroke(o, StraightAlone)));
    }

    /// <summary>Other short pieces that lie within hatched ground say nothing of lines.</summary>
    private void LeaveOutWithin()
    {
        int w = (int)ink.Width + 1,
            h = (int)ink.Height + 1;
        int Cell(int place) => (Math.Clamp((int)ink.At(place).Y, 0, h - 1) * w) + Math.Clamp((int)ink.At(place).X, 0, w - 1);
        var hatched = new bool[w * h];
        foreach (var i in ink.Lines.Where(l => l.Kind == InkKind.Hatch).SelectMany(l => l.Places))
            hatched[Cell(i)] = true;
        // Grown by 3 mm and shrunk by 2: what lies between the lines belongs to it, what lies beside it doesn't.
        bool[] open = [.. InkForm.Far(hatched, w, h, 4).Select(d => d > 9)];
        var within = InkForm.Far(open, w, h, 3);
        foreach (var line in ink.Lines.Where(l => l.Kind == InkKind.Contour && l.Length <= LongestWithin))
            if (line.Places.Count(i => within[Cell(i)] > 4) > line.Places.Count / 2)
                line.Kind = InkKind.LeftOut;
    }
}

/// <summary>In which directions a sheet is hatched: its places by direction, in 60 steps of 3°.</summary>
internal static class HatchDirections
{
    private const int Steps = 60;
    private const float MainShare = 0.15f,
        LeastPlaces = 200;

    public static float[] Of(InkLines ink)
    {
        var count = new float[Steps];
        foreach (var i in ink.Lines.Where(l => l.Kind == InkKind.Hatch).SelectMany(l => l.Places))
            count[StepOf(ink.Places[i].Angle)]++;
        return count;
    }

    private static int StepOf(float angle) => ((int)MathF.Floor(angle / MathF.PI * Steps) % Steps + Steps) % Steps;

    /// <summary>Whether within 9° of an angle lies a good part of all hatching.</summary>
    public static bool IsMain(float[] directions, float angle)
    {
        var all = directions.Sum();
        var step = StepOf(angle);
        return all >= LeastPlaces && Enumerable.Range(-3, 7).Sum(k => directions[(step + k + Steps) % Steps]) > MainShare * all;
    }

    /// <summary>The direction that most hatching runs in, degrees from the sheet's x axis towards its foot, 0 to 180.</summary>
    public static double Main(float[] directions)
    {
        float At(int k) => directions[(k + Steps) % Steps];
        var peak = Enumerable.Range(0, Steps).MaxBy(k => At(k) + (0.7f * (At(k + 1) + At(k - 1))));
        double x = 0,
            y = 0;
        for (var k = peak - 3; k <= peak + 3; k++)
        {
            // An axis has no arrowhead: its doubled angle is what is averaged.
            var (sin, cos) = Math.SinCos((k + 0.5) * 2 * Math.PI / Steps);
            (x, y) = (x + (At(k) * cos), y + (At(k) * sin));
        }
        return ((Math.Atan2(y, x) / 2 * 180 / Math.PI) + 180) % 180;
    }
}
