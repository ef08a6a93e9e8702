using System.Numerics;

namespace MintHarbor.Core.Projects;

/// <summary>A fraction in lowest terms: a grade is worked out without rounding and rounded once, at the end.</summary>
public readonly struct Exact : IEquatable<Exact>, IComparable<Exact>
{
    private readonly BigInteger below;

    public BigInteger Over { get; }

    /// <summary>Above zero; the default value is 0 ÷ 1.</summary>
    public BigInteger Below => below.IsZero ? BigInteger.One : below;

    /// <exception cref="DivideByZeroException"><paramref name="below"/> is 0.</exception>
    public Exact(BigInteger over, BigInteger below)
    {
        if (below.IsZero)
            throw new DivideByZeroException();
        var shared = BigInteger.GreatestCommonDivisor(over, below) * below.Sign;
        (Over, this.below) = (over / shared, below / shared);
    }

    public static implicit operator Exact(int n) => new(n, 1);

    public static Exact operator +(Exact a, Exact b) => new((a.Over * b.Below) + (b.Over * a.Below), a.Below * b.Below);

    public static Exact operator -(Exact a, Exact b) => new((a.Over * b.Below) - (b.Over * a.Below), a.Below * b.Below);

    public static Exact operator *(Exact a, Exact b) => new(a.Over * b.Over, a.Below * b.Below);

    public static Exact operator /(Exact a, Exact b) => new(a.Over * b.Below, a.Below * b.Over);

    public static bool operator ==(Exact a, Exact b) => a.Equals(b);

    public static bool operator !=(Exact a, Exact b) => !a.Equals(b);

    public static bool operator <(Exact a, Exact b) => a.CompareTo(b) < 0;

    public static bool operator >(Exact a, Exact b) => a.CompareTo(b) > 0;

    public int CompareTo(Exact other) => (Over * other.Below).CompareTo(other.Over * Below);

    public bool Equals(Exact other) => Over == other.Over && Below == other.Below;

    public override bool Equals(object? obj) => obj is Exact e && Equals(e);

    public override int GetHashCode() => HashCode.Combine(Over, Below);

    public static Exact Max(Exact a, Exact b) => a < b ? b : a;

    /// <summary>To a whole number, half up: ⌊x + ½⌋.</summary>
    public int Rounded()
    {
        BigInteger twice = (2 * Over) + Below,
            by = 2 * Below;
        var whole = BigInteger.DivRem(twice, by, out var rest);
        return (int)(rest.Sign < 0 ? whole - 1 : whole);
    }

    /// <summary>With two decimals, for reading; the value itself stays exact.</summary>
    public override string ToString() => Say.Number((double)Over / (double)Below, 2);
}
