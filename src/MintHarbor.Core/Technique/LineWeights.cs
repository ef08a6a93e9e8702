using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Technique;

/// <summary>Weight of a line: its darkness summed across it, less that of what lies beside it. It holds width and pressure both, as millimetres of
/// full black, and a blur of the photograph leaves it alone.</summary>
internal static class LineWeights
{
    /// <summary>Pixels to either side that belong to the line, and beyond that tell the ground.</summary>
    private const int Half = 4,
        Ground = 6;

    private const int Band = 192;

    /// <returns>By place; 0 where a place belongs to no line.</returns>
    public static float[] Of(DarkSheet sheet, InkLines ink)
    {
        var weights = new float[ink.Places.Length];
        var rows = ink.Lines.SelectMany(l => l.Places).ToLookup(i => (int)(ink.At(i).Y * LineTrace.PerMm) / Band);
        foreach (var group in rows)
        {
            int from = Math.Max(0, (group.Key * Band) - Ground - 2),
                end = Math.Min(sheet.Height, ((group.Key + 1) * Band) + Ground + 2),
                w = sheet.Width,
                h = end - from;
            var dark = new float[w * h];
            for (var y = 0; y < h; y++)
                sheet.Read(from + y, dark.AsSpan(y * w, w));
            foreach (var i in group)
                weights[i] = Weight(dark, w, h, ink.Places[i], from);
        }
        return weights;
    }

    private static float Weight(float[] dark, int w, int h, InkPlace place, int from)
    {
        var across = place.Across;
        float x = (place.At.X * LineTrace.PerMm) - 0.5f,
            y = (place.At.Y * LineTrace.PerMm) - 0.5f - from;
        float Dark(int k) => DarkSheet.Between(dark, w, h, x + (across.X * k), y + (across.Y * k));
        float sum = 0;
        for (var k = -Half; k <= Half; k++)
            sum += Dark(k);
        float one = (Dark(Half + 1) + Dark(Ground)) / 2,
            other = (Dark(-Half - 1) + Dark(-Ground)) / 2,
            ground = MathF.Max(0, MathF.Min(one, other));
        return MathF.Max(0, (sum - (((2 * Half) + 1) * ground)) / LineTrace.PerMm);
    }
}
