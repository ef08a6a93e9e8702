using System.Globalization;
using NodaTime;

namespace MintHarbor.Core;

/// <summary>Numbers as they are written on the sheet and in the margin: a true minus, no needless zeros.</summary>
public static class Say
{
    public static string Number(double v, int decimals = 0)
    {
        var s = Math.Round(v, decimals, MidpointRounding.AwayFromZero)
            .ToString("0." + new string('#', decimals), CultureInfo.InvariantCulture);
        return s == "-0" ? "0" : s.Replace('-', '−');
    }

    /// <summary>With exactly so many decimals, for columns.</summary>
    public static string Fixed(double v, int decimals) => v.ToString("F" + decimals, CultureInfo.InvariantCulture).Replace('-', '−');

    public static string Signed(double v, int decimals = 0) => (v > 0 && Number(v, decimals) != "0" ? "+" : "") + Number(v, decimals);

    public static string Plural(int n, string one, string? many = null) => $"{n} {(n == 1 ? one : many ?? one + "s")}";

    /// <summary>A day with its year, as in 3 Feb 2027.</summary>
    public static string Date(LocalDate d) => d.ToString("d MMM uuuu", CultureInfo.InvariantCulture);

    public static string Minutes(double m) => Number(m, 1) + " min";

    public static string List(IReadOnlyList<string> words) =>
        words.Count switch
        {
            0 => "",
            1 => words[0],
            _ => string.Join(", ", words.Take(words.Count - 1)) + " and " + words[^1],
        };
}
