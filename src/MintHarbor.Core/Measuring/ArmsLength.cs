namespace MintHarbor.Core.Measuring;

/// <summary>The sums of a pencil held at arm's length, and of drawing as large as one sees. Lengths of one sum in one unit. Similar triangles (common
/// practice, no source).</summary>
public static class ArmsLength
{
    /// <summary>How large a part is that the pencil reads: S = r · d ÷ a.</summary>
    /// <param name="reading">On the pencil.</param>
    /// <param name="arm">From the eye to the pencil.</param>
    /// <param name="distance">From the eye to the part.</param>
    /// <exception cref="InputException">A length that is none.</exception>
    public static double Size(double reading, double arm, double distance) =>
        Length(reading, "reading") * Length(distance, "distance") / Length(arm, "arm");

    /// <summary>What the pencil reads of a part: r = S · a ÷ d.</summary>
    /// <exception cref="InputException">A length that is none.</exception>
    public static double Reading(double size, double arm, double distance) =>
        Length(size, "size") * Length(arm, "arm") / Length(distance, "distance");

    /// <summary>By what share every reading becomes smaller when the elbow bends and the pencil comes nearer: −lost ÷ arm. A ratio of two readings
    /// stays right only where both are taken with the same arm.</summary>
    /// <exception cref="InputException">An arm that is none, or that loses more than it has.</exception>
    public static double Bent(double arm, double lost) =>
        lost >= 0 && lost < Length(arm, "arm")
            ? -lost / arm
            : throw new InputException(
                $"an elbow that takes {Say.Number(lost, 1)} of {Say.Number(arm, 1)}",
                "lost",
                "0 to less than the arm"
            );

    /// <summary>How high something stands on a board that is drawn on as large as it is seen: image = S · eye to board ÷ eye to model.</summary>
    /// <exception cref="InputException">A length that is none.</exception>
    public static double SightSize(double size, double board, double model) =>
        Length(size, "size") * Length(board, "board") / Length(model, "model");

    /// <summary>How far from the eye the board has to stand for an image so high.</summary>
    /// <exception cref="InputException">A length that is none.</exception>
    public static double BoardFor(double size, double image, double model) =>
        Length(image, "image") * Length(model, "model") / Length(size, "size");

    private static double Length(double value, string field) =>
        value > 0 && value < 1e6 ? value : throw new InputException($"a length of {Say.Number(value, 1)}", field, "more than 0");
}

/// <summary>How closely lines or dots stand for a tone: paper and lead mix in linear light by how much of the paper is covered (Murray and Davies 1936,
/// published; from memory). A start only: pressure decides, and one's own patches say what comes next.</summary>
public static class Hatching
{
    /// <summary>Linear light of white paper and of a pencil pressed well; our defaults, no source.</summary>
    public const double Paper = 0.86,
        Lead = 0.12;

    /// <summary>Share of the paper to be covered for a value: c = (R paper − R) ÷ (R paper − R lead), R the light of the value.</summary>
    /// <param name="value">From 1, bare paper, to <paramref name="values"/>, the darkest that the lead gives, in even steps of CIE L*.</param>
    /// <exception cref="InputException">A value that isn't among so many.</exception>
    public static double Coverage(int value, int values = 9)
    {
        if (values is < 2 or > 20 || value < 1 || value > values)
            throw new InputException($"value {value} of {values}", "value", $"1 to {values}");
        double light = Sheets.LightCurves.Lightness(Paper),
            dark = Sheets.LightCurves.Lightness(Lead),
            wanted = light + ((dark - light) * (value - 1) / (values - 1));
        return (Paper - Sheets.LightCurves.Light(wanted)) / (Paper - Lead);
    }

    /// <summary>Share of the paper that is covered, as its light says: the same turned round. 0 to 1.</summary>
    /// <param name="light">Linear light over bare paper's.</param>
    public static double Covered(double light) => Math.Clamp((1 - light) / (1 - (Lead / Paper)), 0, 1);

    /// <summary>Spacing from line to line: w ÷ c of one screen; of two that cross, each covers 1 − √(1 − c), since what the first leaves open the
    /// second covers again in part. Null where nothing is to be covered.</summary>
    /// <param name="width">Of a line; the spacing is in its unit.</param>
    /// <exception cref="InputException">A line without width, or a coverage outside 0 to 1.</exception>
    public static double? Spacing(double coverage, double width, bool crossed)
    {
        if (!(width > 0 && width < 100))
            throw new InputException($"a line {Say.Number(width, 2)} wide", "width", "more than 0");
        if (!(coverage is >= 0 and <= 1))
            throw new InputException($"a coverage of {Say.Number(coverage, 2)}", "coverage", "0 to 1");
        var each = crossed ? 1 - Math.Sqrt(1 - coverage) : coverage;
        return each < 1e-9 ? null : width / each;
    }

    /// <summary>Dots to a square of that unit which don't overlap: c ÷ (π · r²).</summary>
    /// <exception cref="InputException">A dot without width.</exception>
    public static double Dots(double coverage, double width) =>
        width > 0 ? coverage / (Math.PI * width * width / 4) : throw new InputException("a dot without width", "width", "more than 0");
}
