using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Sheets;

/// <summary>Whether a straight edge runs along one of a sheet's sides a little within it. Of a pile of sheets the front one's edge
/// is then taken for a line on a larger one, of a sheet on a board the board's for the sheet's: somebody has to look.</summary>
internal sealed class EdgeWithin
{
    /// <summary>Of the picture that it is looked for in, pixels: fine enough for the shadow of one sheet on another.</summary>
    private const int Longest = 1120;

    /// <summary>How near to the side an edge is the side's own, in pixels of that picture; how far in one is looked for, as a share of the
    /// sheet's size; how much it may be turned against the side, as a slope; which share of the side it covers.</summary>
    private const double Nearest = 4,
        Reach = 0.15,
        Turn = 0.08,
        Share = 0.5;

    /// <summary>A thin shadow is darker than both papers beside it by this, so many pixels away; an edge is lighter within by that. Levels of a
    /// mean over a stretch of the side, which grain doesn't reach.</summary>
    private const double Dark = 1.6,
        Step = 6,
        Aside = 2.5;
    private const int Stretches = 16,
        Samples = 16,
        Turns = 8;

    private readonly GreyImage image;
    private readonly double scale;
    private readonly Lens lens;

    /// <param name="lens">Of the photograph: an edge is straight without its bow.</param>
    public EdgeWithin(GreyImage photo, Lens lens)
    {
        (image, scale) = photo.Shrunk(Longest);
        this.lens = lens;
    }

    /// <param name="corners">In pixels of the photograph.</param>
    public bool Any(Vec2[] corners) => Shares(corners).Any(s => s >= Share);

    /// <summary>For each side the greatest share of its length that one line within it covers, as far as that is worth knowing.</summary>
    internal IEnumerable<double> Shares(Vec2[] corners)
    {
        Vec2[] straight = [.. corners.Select(lens.Straightened)];
        var size = Math.Sqrt(SheetFinder.Area(straight));
        return SheetSides.Of(straight).Select(side => Best(side.A, side.B, side.Inward, size));
    }

    private double Best(Vec2 a, Vec2 b, Vec2 inward, double size)
    {
        double best = 0;
        var (nearest, reach) = (Nearest * scale, Reach * size);
        for (var near = nearest; near <= reach; near += scale)
        {
            for (var k = -Turns; k <= Turns; k++)
            {
                var far = near + (Turn * k / Turns * (b - a).Length);
                if (far >= nearest && far <= reach)
                    best = Math.Max(best, Covered(a + (inward * near), b + (inward * far), inward));
            }
        }
        return best;
    }

    private double Covered(Vec2 from, Vec2 to, Vec2 inward)
    {
        int on = 0,
            off = 0;
        var start = Seen(from);
        for (var s = 0; s < Stretches && off <= Stretches * (1 - Share); s++)
        {
            var end = Seen(from + ((to - from) * ((s + 1.0) / Stretches)));
            if (Crossed(start, end, inward * Aside))
                on++;
            else
                off++;
            start = end;
        }
        return (double)on / Stretches;
    }

    /// <summary>Whether a stretch of an edge lies here, so short that no lens bows it.</summary>
    private bool Crossed(Vec2 start, Vec2 end, Vec2 aside)
    {
        double within = 0,
            without = 0,
            at = 0;
        for (var k = 0; k < Samples; k++)
        {
            var p = start + ((end - start) * ((k + 0.5) / Samples));
            within += image.At(p.X + aside.X, p.Y + aside.Y);
            without += image.At(p.X - aside.X, p.Y - aside.Y);
            at += image.At(p.X, p.Y);
        }
        return Math.Min(within, without) - at > Dark * Samples || within - without > Step * Samples;
    }

    /// <summary>Where the picture shows a place of the photograph without its bow.</summary>
    private Vec2 Seen(Vec2 straight)
    {
        var p = lens.Bent(straight);
        return new(((p.X + 0.5) / scale) - 0.5, ((p.Y + 0.5) / scale) - 0.5);
    }
}
