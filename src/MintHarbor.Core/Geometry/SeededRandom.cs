namespace MintHarbor.Core.Geometry;

/// <summary>A small repeatable source of numbers (SplitMix64), so that a seed gives the same drill, hatch or drawing on
/// every machine and every version of the runtime.</summary>
public sealed class SeededRandom(long seed)
{
    private ulong state = unchecked((ulong)seed);

    private ulong Bits()
    {
        state += 0x9E3779B97F4A7C15;
        var z = state;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
        return z ^ (z >> 31);
    }

    /// <summary>Uniform in [0, 1).</summary>
    public double Next() => (Bits() >> 11) * (1.0 / (1UL << 53));

    /// <summary>Whole number in [0, <paramref name="below"/>).</summary>
    public int Next(int below) => (int)(Next() * below);

    public double Between(double low, double high) => low + ((high - low) * Next());

    /// <summary>Normal with mean 0 and the given standard deviation (Box and Muller).</summary>
    public double Normal(double sigma) => sigma * Math.Sqrt(-2 * Math.Log(1 - Next())) * Math.Cos(2 * Math.PI * Next());
}
