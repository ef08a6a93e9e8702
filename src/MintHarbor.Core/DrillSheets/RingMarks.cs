using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Rings with a disc in their middle, wherever a photograph shows one.</summary>
internal static class RingMarks
{
    /// <summary>The photograph is looked at about so large.</summary>
    private const int Across = 1000;

    /// <summary>Dark is under this share of the lightest nearby.</summary>
    private const float Dark = 0.55f;
    private const int Nearby = 14;

    private sealed class Blot
    {
        public int Left = int.MaxValue,
            Top = int.MaxValue,
            Right,
            Foot,
            Count;
        public double SumX,
            SumY;

        public int Width => Right - Left + 1;
        public int Height => Foot - Top + 1;
        public Vec2 Middle => new((Left + Right) / 2.0, (Top + Foot) / 2.0);
        public Vec2 Centroid => new(SumX / Count, SumY / Count);

        public void Add(int x, int y)
        {
            (Left, Top) = (Math.Min(Left, x), Math.Min(Top, y));
            (Right, Foot) = (Math.Max(Right, x), Math.Max(Foot, y));
            SumX += x;
            SumY += y;
            Count++;
        }
    }

    /// <summary>The middles of their discs, pixels of the photograph.</summary>
    public static IReadOnlyList<Vec2> Of(LinearPicture photo)
    {
        var k = Math.Max(1, (int)Math.Round(Math.Max(photo.Width, photo.Height) / (double)Across));
        var (light, w, h) = photo.Shrunk(k);
        var most = Extremes.Greatest(light, w, h, Nearby);
        var (of, blots) = Blots(light, most, w, h);
        return
        [
            .. blots
                .Where(IsRing)
                .Select(ring =>
                    (
                        Ring: ring,
                        Disc: blots.ElementAtOrDefault(of[((int)Math.Round(ring.Middle.Y) * w) + (int)Math.Round(ring.Middle.X)] - 1)
                    )
                )
                .Where(x => x.Disc is not null && IsDiscOf(x.Disc, x.Ring))
                .Select(x => (x.Disc!.Centroid + new Vec2(0.5, 0.5)) * k),
        ];
    }

    private static bool IsRing(Blot b) =>
        b is { Width: >= 10 and <= 70, Height: >= 10 and <= 70 }
        && b.Width <= 2.2 * b.Height
        && b.Height <= 2.2 * b.Width
        && b.Count / (double)(b.Width * b.Height) is >= 0.22 and <= 0.75;

    private static bool IsDiscOf(Blot disc, Blot ring) =>
        disc.Left > ring.Left
        && disc.Right < ring.Right
        && disc.Top > ring.Top
        && disc.Foot < ring.Foot
        && disc.Count / (double)ring.Count is >= 0.06 and <= 0.5
        && Math.Abs(disc.Centroid.X - ring.Middle.X) <= 0.14 * ring.Width
        && Math.Abs(disc.Centroid.Y - ring.Middle.Y) <= 0.14 * ring.Height;

    /// <summary>What is dark and hangs together, and for every pixel the number of its blot; 0 for none.</summary>
    private static (int[] Of, List<Blot> Blots) Blots(float[] light, float[] most, int w, int h)
    {
        var of = new int[light.Length];
        var blots = new List<Blot>();
        var open = new Stack<int>();
        void Take(int i)
        {
            if (of[i] != 0 || light[i] >= Dark * most[i])
                return;
            of[i] = blots.Count;
            open.Push(i);
        }
        for (var i = 0; i < light.Length; i++)
        {
            if (of[i] != 0 || light[i] >= Dark * most[i])
                continue;
            var blot = new Blot();
            blots.Add(blot);
            Take(i);
            while (open.TryPop(out var p))
            {
                int x = p % w,
                    y = p / w;
                blot.Add(x, y);
                for (var yy = Math.Max(0, y - 1); yy <= Math.Min(h - 1, y + 1); yy++)
                for (var xx = Math.Max(0, x - 1); xx <= Math.Min(w - 1, x + 1); xx++)
                    Take((yy * w) + xx);
            }
        }
        return (of, blots);
    }
}
