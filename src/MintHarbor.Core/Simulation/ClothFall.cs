using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;

namespace MintHarbor.Core.Simulation;

/// <summary>A square of cloth let fall over a block, for the shelf's drape: places held by links (along, across, aslant, and farther against
/// bending) and relaxed step by step; block and table push back and hold by friction. Laid down gathered, so that what is too wide has to
/// fold. Seeded, without clock or threads: every run gives the same folds. Too slow for a page; its result is shipped (./harbor data).</summary>
public sealed class ClothFall
{
    private const int Cells = 54,
        Side = Cells + 1;

    private const double Size = 0.62,
        Thick = 0.004,
        Rounded = 0.012,
        Falls = 0.00045;

    private readonly record struct Link(int A, int B, double Length, double Stiff);

    private static readonly Point3 Half = new(0.1, 0.12, 0.09),
        Middle = new(0, 0.12, 0);

    private readonly Point3[] places = new Point3[Side * Side];
    private readonly Point3[] before;
    private readonly List<Link> links = [];

    /// <summary>How much narrower than its own width it is laid down, across its stripes of folds.</summary>
    private const double Gathered = 0.76;

    private ClothFall(long seed)
    {
        var random = new SeededRandom(seed);
        const double rest = Size / Cells;
        var (sin, cos) = Math.SinCos(31 * Math.PI / 180);
        // A ripple whose length makes up for what is gathered: ∫√(1 + (aω cos)²) ≈ 1 + (aω)²/4.
        const double waves = 7;
        var omega = waves * Math.Tau / (Size * Gathered);
        var height = 2 * Math.Sqrt((1 / Gathered) - 1) / omega;
        for (var j = 0; j < Side; j++)
        {
            for (var i = 0; i < Side; i++)
            {
                double x = ((i * rest) - (Size / 2)) * Gathered,
                    z = (j * rest) - (Size / 2),
                    ripple = height * (1 + Math.Sin(omega * (x + (0.1 * z))));
                places[(j * Side) + i] = new(
                    (x * cos) + (z * sin) + 0.003,
                    Middle.Y + Half.Y + 0.01 + ripple + (0.004 * random.Next()),
                    (z * cos) - (x * sin) + 0.003
                );
                foreach (
                    var (di, dj, stiff) in new[]
                    {
                        (1, 0, 0.95),
                        (0, 1, 0.95),
                        (1, 1, 0.35),
                        (-1, 1, 0.35),
                        (2, 0, 0.12),
                        (0, 2, 0.12),
                        (4, 0, 0.02),
                        (0, 4, 0.02),
                    }
                )
                {
                    if (i + di is >= 0 and < Side && j + dj < Side)
                        links.Add(new((j * Side) + i, ((j + dj) * Side) + i + di, rest * Math.Sqrt((di * di) + (dj * dj)), stiff));
                }
            }
        }
        before = [.. places];
    }

    /// <summary>Rows of the cloth at rest, as they are kept.</summary>
    public static int[][] Rest(long seed = 11)
    {
        var cloth = new ClothFall(seed);
        for (var step = 0; step < 620; step++)
            cloth.Step(late: step >= 380);
        return
        [
            .. cloth
                .places.Chunk(Side)
                .Select(row => row.SelectMany(p => new[] { p.X, p.Y, p.Z }).Select(v => (int)Math.Round(v / ClothNet.Unit)).ToArray()),
        ];
    }

    private void Step(bool late)
    {
        for (var i = 0; i < places.Length; i++)
        {
            var moved = (places[i] - before[i]) * (late ? 0.80 : 0.965);
            before[i] = places[i];
            places[i] += moved - new Point3(0, Falls, 0);
        }
        var passes = late ? 22 : 12;
        for (var pass = 0; pass < passes; pass++)
        {
            foreach (var link in links)
            {
                var d = places[link.B] - places[link.A];
                var length = d.Length;
                if (length < 1e-9)
                    continue;
                d *= 0.5 * link.Stiff * (length - link.Length) / length;
                places[link.A] += d;
                places[link.B] -= d;
            }
            if (pass % 3 == 2)
                PushOut();
        }
        PushOut();
    }

    private void PushOut()
    {
        for (var i = 0; i < places.Length; i++)
        {
            OutOfBlock(i);
            if (places[i].Y < Thick)
                Held(i, places[i] with { Y = Thick }, 0.7);
        }
    }

    /// <summary>Out of a block with rounded edges, along the way to its nearest place: nothing jumps between two faces.</summary>
    private void OutOfBlock(int i)
    {
        var q = places[i] - Middle;
        Point3 sign = new(Math.Sign(q.X), Math.Sign(q.Y), Math.Sign(q.Z)),
            past = new(Math.Abs(q.X) - Half.X + Rounded, Math.Abs(q.Y) - Half.Y + Rounded, Math.Abs(q.Z) - Half.Z + Rounded);
        var most = Math.Max(past.X, Math.Max(past.Y, past.Z));
        if (most >= Rounded + Thick)
            return;
        var way = new Point3(Math.Max(past.X, 0), Math.Max(past.Y, 0), Math.Max(past.Z, 0));
        var far = most > 0 ? way.Length : most;
        if (far >= Rounded + Thick)
            return;
        if (way.Length < 1e-9)
            way =
                past.Y >= past.X && past.Y >= past.Z ? Point3.UnitY
                : past.X > past.Z ? Point3.UnitX
                : Point3.UnitZ;
        way = way.Unit;
        Held(
            i,
            places[i] + (new Point3(way.X * sign.X, way.Y * sign.Y, way.Z * sign.Z) * (Rounded + Thick - far)),
            way.Y > 0.7 ? 0.6 : 0.25
        );
    }

    /// <param name="friction">Share of its speed that what it touches takes.</param>
    private void Held(int i, Point3 at, double friction)
    {
        places[i] = at;
        before[i] = Point3.Lerp(before[i], at, friction);
    }
}
