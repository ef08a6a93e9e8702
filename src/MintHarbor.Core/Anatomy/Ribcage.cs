using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>The ribcage at rest: superellipses by height, ribs and cartilages on them.</summary>
internal sealed class Ribcage(CageRow rows)
{
    private const float Power = 2.3f;

    /// <summary>Where a rib leaves the spine, degrees from the back's middle line.</summary>
    private const float AtSpine = 9;

    private readonly Vector3[] arch = rows.Arch;

    private CageSection Section(float y)
    {
        var s = rows.Sections;
        if (y >= s[0].Y)
            return s[0];
        for (var i = 0; i + 1 < s.Length; i++)
        {
            var (a, b) = (s[i], s[i + 1]);
            if (y < b.Y)
                continue;
            var t = (a.Y - y) / (a.Y - b.Y);
            return new(
                y,
                float.Lerp(a.Breadth, b.Breadth, t),
                float.Lerp(a.Front, b.Front, t),
                float.Lerp(a.Back, b.Back, t),
                float.Lerp(a.Widest, b.Widest, t)
            );
        }
        return s[^1];
    }

    /// <summary>A place on the cage, degrees from the back's middle line round to the front's.</summary>
    public Vector3 On(float y, float degrees)
    {
        var s = Section(y);
        var (sin, cos) = MathF.SinCos(degrees * MathF.PI / 180);
        float Eased(float v) => MathF.Pow(MathF.Abs(v), 2 / Power);
        var z = s.Widest + ((cos > 0 ? s.Back - s.Widest : s.Front - s.Widest) * Eased(cos));
        return new(s.Breadth * Eased(sin), y, z);
    }

    /// <summary>z of the back wall at a height and distance from the middle.</summary>
    public float BackWall(float x, float y)
    {
        // Above the second rib the cage closes: the blade's upper corner stands over it, not on it.
        const float top = 80.5f;
        var s = Section(MathF.Min(y, top));
        var aside = MathF.Min(MathF.Abs(x) / s.Breadth, 0.92f);
        return s.Widest + ((s.Back - s.Widest) * MathF.Pow(1 - MathF.Pow(aside, Power), 1 / Power));
    }

    /// <summary>How far outside the cage a rest place lies, units along the line to its middle; below 0 inside.</summary>
    public float Off(Vector3 p)
    {
        var s = Section(p.Y);
        float u = MathF.Abs(p.X) / s.Breadth,
            w = MathF.Abs((p.Z - s.Widest) / ((p.Z > s.Widest ? s.Front : s.Back) - s.Widest));
        var share = MathF.Pow(MathF.Pow(u, Power) + MathF.Pow(w, Power), 1 / Power);
        var away = new Vector2(p.X, p.Z - s.Widest).Length();
        return away - (away / share);
    }

    /// <summary>Ribs, their cartilages and the arch of the left.</summary>
    public IEnumerable<(string Id, string Name, string Latin, Mesh Mesh, bool Cartilage)> Parts()
    {
        for (var n = 1; n <= rows.Ribs.Length; n++)
        {
            var rib = rows.Ribs[n - 1];
            var line = RibLine(rib);
            yield return ($"rib{n}", $"rib {n}", $"costa {Roman(n)}", Flat(line, 0.34f, Vector3.UnitY), false);
            if (CartilageLine(n, rib, line) is { } cartilage)
                yield return (
                    $"cart{n}",
                    $"cartilage of rib {n}",
                    $"cartilago costalis {Roman(n)}",
                    Flat(cartilage, 0.3f, Vector3.UnitY),
                    true
                );
        }
        yield return (
            "arch",
            "arch of the ribs",
            "arcus costalis",
            BoneMesher.Tube(Splines.Through(arch, 8), _ => (0.19f, 0.36f), new(0.6f, 0.8f, 0), 8),
            true
        );
    }

    private static Mesh Flat(Vector3[] line, float broad, Vector3 up) => BoneMesher.Tube(line, _ => (0.17f, broad), up, 8);

    /// <summary>Down at once behind, then nearly level, as ribs run.</summary>
    private Vector3[] RibLine(RibRow rib)
    {
        const int steps = 30;
        var line = new Vector3[steps + 1];
        for (var i = 0; i <= steps; i++)
        {
            var t = i / (float)steps;
            var fall = (0.75f * t) + (0.25f * Splines.Eased(0, 1, t));
            line[i] = On(float.Lerp(rib.From, rib.To, fall), float.Lerp(AtSpine, rib.End, t));
        }
        line[0].X = 0.9f;
        return line;
    }

    /// <summary>True ribs reach the breastbone, the next three the cartilage above them along the arch, the last two nothing.</summary>
    private Vector3[]? CartilageLine(int n, RibRow rib, Vector3[] line)
    {
        var end = line[^1];
        var on = Vector3.Normalize(end - line[^3]);
        if (n is > 7 and <= 10)
        {
            var joins = Splines.At(
                arch,
                n switch
                {
                    8 => 1.5f,
                    9 => 2.4f,
                    _ => 3.2f,
                }
            );
            return Splines.Through([end, end + (on * (Vector3.Distance(end, joins) * 0.4f)), joins], 6);
        }
        if (rib.Sternum is not { } y)
            return null;
        var meets = n switch
        {
            1 => new Vector3(1.5f, y, 1.2f),
            2 => new(0.95f, 78.6f, 2.75f),
            _ => new(n == 7 ? 0.45f : 0.75f, y, 3 + ((77.6f - y) * 0.2f)),
        };
        var way = Vector3.Distance(end, meets);
        var sinks = end + (on * (way * 0.33f));
        if (n > 3)
            sinks.Y -= 0.18f * way * (n - 3) / 4f;
        return Splines.Through([end, sinks, Vector3.Lerp(sinks, meets, 0.55f) + new Vector3(0, 0, 0.25f), meets], 7);
    }

    internal static string Roman(int n) =>
        n switch
        {
            >= 10 => "X" + Roman(n - 10),
            9 => "IX",
            >= 5 => "V" + Roman(n - 5),
            4 => "IV",
            _ => new('I', n),
        };
}
