using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Light of the bare paper round patches of tone: medians of small blocks where nothing is drawn or printed, and between them what joins
/// them most smoothly (Laplace's equation).</summary>
internal sealed class PaperLight
{
    /// <summary>Pixels of a block.</summary>
    private const int Block = 8;
    private const int Across = FlatSheet.Width / Block,
        Down = FlatSheet.Height / Block;

    /// <summary>So little darkness is bare paper.</summary>
    private const float Bare = 0.035f;
    private const int FewestPixels = 20;

    private readonly float[] light = new float[Across * Down];

    public PaperLight(FlatSheet flat, DrillSheet sheet)
    {
        var holes = new List<int>();
        var wanted = sheet.Items.Where(i => i.Patches.Any()).ToList();
        foreach (var item in wanted)
            Blocks(flat, item, holes);
        Join(holes);
        light = Convolution.Gauss(light, Across, Down, 0.8f, 0, 0);
    }

    private void Blocks(FlatSheet flat, PaperItem item, List<int> holes)
    {
        List<Area> patches = [.. item.Patches.Select(p => p.Grown(1))];
        var from = FlatSheet.Pixel(item.At - new Vec2(4, 3));
        var to = FlatSheet.Pixel(item.At + new Vec2(item.Width + 4, SheetLayout.CellHeight + 3));
        var found = new List<float>();
        for (var j = Math.Max(0, from.Y / Block); j < Math.Min(Down, to.Y / Block); j++)
        for (var i = Math.Max(0, from.X / Block); i < Math.Min(Across, to.X / Block); i++)
        {
            found.Clear();
            for (var y = j * Block; y < (j + 1) * Block; y++)
            for (var x = i * Block; x < (i + 1) * Block; x++)
            {
                var q = (y * FlatSheet.Width) + x;
                if (!flat.IsPrint[q] && flat.Darkness[q] < Bare && !patches.Any(p => p.Holds(FlatSheet.Place(x, y))))
                    found.Add(flat.Light(x, y));
            }
            if (found.Count <= FewestPixels)
            {
                holes.Add((j * Across) + i);
                continue;
            }
            found.Sort();
            light[(j * Across) + i] = found[found.Count / 2];
        }
    }

    /// <summary>Each hole the mean of its neighbours, over and over with a step too far, until nothing moves.</summary>
    private void Join(List<int> holes)
    {
        for (var pass = 0; pass < 500; pass++)
        {
            var (moved, empty) = (0f, false);
            for (var n = 0; n < holes.Count; n++)
            {
                var p = holes[pass % 2 == 0 ? n : holes.Count - 1 - n];
                if (Neighbours(p) is not { } mean)
                {
                    empty = true;
                    continue;
                }
                var next = light[p] > 0 ? light[p] + (1.7f * (mean - light[p])) : mean;
                moved = Math.Max(moved, Math.Abs(next - light[p]));
                light[p] = next;
            }
            if (!empty && pass > 20 && moved < 2e-4f)
                return;
        }
    }

    private float? Neighbours(int p)
    {
        float sum = 0;
        var count = 0;
        void Add(bool there, int at)
        {
            if (!there || light[at] <= 0)
                return;
            sum += light[at];
            count++;
        }
        Add(p % Across > 0, p - 1);
        Add(p % Across < Across - 1, p + 1);
        Add(p >= Across, p - Across);
        Add(p < Across * (Down - 1), p + Across);
        return count == 0 ? null : sum / count;
    }

    public double At(Vec2 place)
    {
        double u = ((place.X - FlatSheet.Left) * FlatSheet.PerMm / Block) - 0.5,
            v = ((place.Y - FlatSheet.Top) * FlatSheet.PerMm / Block) - 0.5;
        int i = Math.Clamp((int)u, 0, Across - 2),
            j = Math.Clamp((int)v, 0, Down - 2);
        double fx = u - i,
            fy = v - j;
        var k = (j * Across) + i;
        return ((1 - fy) * (((1 - fx) * light[k]) + (fx * light[k + 1])))
            + (fy * (((1 - fx) * light[k + Across]) + (fx * light[k + Across + 1])));
    }
}
