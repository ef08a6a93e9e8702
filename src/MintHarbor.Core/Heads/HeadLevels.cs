using MintHarbor.Core.Canons;

namespace MintHarbor.Core.Heads;

/// <summary>Where the features of a head lie, as shares of its height from crown (0) to chin (1): by a school, or as they were measured on a
/// sitter, pencil at arm's length.</summary>
/// <param name="Breadth">Breadth of the head over its height; null for the school's.</param>
public sealed record HeadLevels(double Hairline, double Brow, double Eyes, double NoseBase, double Mouth, double? Breadth = null)
{
    /// <summary>Two features that lie nearer than this are one: nothing between them could be drawn.</summary>
    public const double Least = 0.03;

    /// <summary>The studio head's own breadth over its height: its skull at the level of the eyes, without hair and ears.</summary>
    public const double Usual = 0.657;

    /// <summary>The levels with their names, downward.</summary>
    public IReadOnlyList<(string Id, string Name, double At)> All =>
        [
            ("crown", "crown", 0),
            ("hairline", "hairline", Hairline),
            ("brow", "brow", Brow),
            ("eye", "eye line", Eyes),
            ("noseBase", "base of the nose", NoseBase),
            ("mouth", "mouth", Mouth),
            ("chin", "chin", 1),
        ];

    /// <summary>The levels of a canon of heads, a course's own among them: what it has no rule for is the table's that it began from.</summary>
    public static HeadLevels Of(Canon canon)
    {
        var first = HeadCatalogue.Tables.Canons.First(c => c.Id == canon.Id);
        double Table(string level) => Math.Round(0.5 - first.Levels[level], 4);
        var (thirds, mouth) = (canon.Rule("H-thirds"), canon.Rule("H-mouth"));
        var top = thirds?.From == "crown" ? 0 : Table("hairline");
        var third = thirds is null ? 1 - Table("noseBase") : thirds.Expected * (1 - top);
        return new(
            Table("hairline"),
            thirds is null ? Table("brow") : 1 - (2 * third),
            canon.Rule("H-eye")?.Expected ?? Table("eye"),
            1 - third,
            mouth is null ? Table("mouth") : 1 - third + (mouth.Expected * third)
        );
    }

    /// <summary>Whether a head can be drawn on them: each far enough below the one before it.</summary>
    public bool AreDrawable => All.Zip(All.Skip(1)).All(p => Apart(p.First.At, p.Second.At)) && (Breadth is null or (>= 0.5 and <= 1));

    private static bool Apart(double upper, double lower) => lower - upper >= Least - 1e-9;

    /// <exception cref="InputException">A level out of order, too near the next, or a breadth that no head has.</exception>
    public HeadLevels Checked()
    {
        foreach (var (upper, lower) in All.Zip(All.Skip(1)))
            if (!Apart(upper.At, lower.At))
                throw new InputException(
                    $"{lower.Name} at {Say.Number(lower.At, 3)} lies too near the {upper.Name} at {Say.Number(upper.At, 3)}, or above it",
                    lower.Id,
                    $"shares of the head from crown 0 to chin 1, downward, {Say.Number(Least, 2)} apart at least"
                );
        if (Breadth is { } b && !(b is >= 0.5 and <= 1))
            throw new InputException($"a breadth of {Say.Number(b, 2)} of the height", "breadth", "0.5 to 1");
        return this;
    }

    /// <summary>What the studio head is warped onto.</summary>
    internal HeadCanonRow Row => new($"levels {this}", All.ToDictionary(l => l.Id, l => (float)(0.5 - l.At)));

    internal SitterRow Sitter =>
        Breadth is { } b
            ? new(
                $"breadth {Say.Number(b, 4)}",
                "measured",
                Widths:
                [
                    [-0.5f, (float)(b / Usual)],
                    [0.5f, (float)(b / Usual)],
                ]
            )
            : HeadCatalogue.Tables.Sitters[0];
}
