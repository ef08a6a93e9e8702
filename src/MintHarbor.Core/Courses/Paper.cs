namespace MintHarbor.Core.Courses;

/// <summary>A size of paper, upright, in millimetres. ISO 216 sizes and the inch pads (an inch is 25.4 mm).</summary>
public sealed record PaperSize(string Id, string Name, double WidthMm, double HeightMm)
{
    public static readonly IReadOnlyList<PaperSize> All =
    [
        new("18x24in", "18 × 24 in", 18 * 25.4, 24 * 25.4),
        new("14x17in", "14 × 17 in", 14 * 25.4, 17 * 25.4),
        new("9x12in", "9 × 12 in", 9 * 25.4, 12 * 25.4),
        new("A1", "A1", 594, 841),
        new("A2", "A2", 420, 594),
        new("A3", "A3", 297, 420),
        new("A4", "A4", 210, 297),
        new("letter", "Letter, 8½ × 11 in", 8.5 * 25.4, 11 * 25.4),
    ];

    public static PaperSize? Find(string? id) => All.FirstOrDefault(p => p.Id == id);

    /// <summary>A size written as millimetres, "457.2x609.6".</summary>
    public static PaperSize Parse(string text)
    {
        var parts = text.Split('x', '×');
        if (
            parts.Length == 2
            && double.TryParse(parts[0], System.Globalization.CultureInfo.InvariantCulture, out var w)
            && double.TryParse(parts[1], System.Globalization.CultureInfo.InvariantCulture, out var h)
            && w is >= 20 and <= 3000
            && h is >= 20 and <= 3000
        )
            return new(text, $"{Say.Number(w, 1)} × {Say.Number(h, 1)} mm", w, h);
        return Find(text)
            ?? throw new InputException(
                $"paper '{text}'",
                "paper",
                "WIDTHxHEIGHT in mm, 20 to 3000 each, or " + string.Join(" | ", All.Select(p => p.Id))
            );
    }

    public PaperSize Turned => new(Id, Name, HeightMm, WidthMm);

    /// <summary>A length in the course's unit.</summary>
    public static string Length(double mm, bool inch) => inch ? Say.Number(mm / 25.4, 2) + " in" : Say.Number(mm, 0) + " mm";
}
