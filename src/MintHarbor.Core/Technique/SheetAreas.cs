using System.Numerics;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Technique;

/// <summary>What was read within an outline that somebody drew on the sheet.</summary>
/// <param name="Area">Square millimetres.</param>
/// <param name="Lightness">CIE L* of its mean light, bare paper at 95.</param>
/// <param name="Spread">Of L*, mixed over 2 mm: half of what lies between its 16th and 84th hundredth. A flat tone has little, a turning form much.</param>
/// <param name="Coverage">Share of the paper that its light says is covered (Murray and Davies), 0 to 1.</param>
/// <param name="HatchLength">Of the hatching within it, mm.</param>
/// <param name="Spacing">From line to line, mm; null where too little of it runs in rows.</param>
/// <param name="Evenness">Spread of the spacing over its middle.</param>
/// <param name="Direction">Degrees from the sheet's x axis towards its foot, 0 to 180.</param>
/// <param name="Crossed">Whether a second screen lies over the first.</param>
public sealed record AreaMeasures(
    double Area,
    double Lightness,
    double Spread,
    double Coverage,
    double HatchLength,
    double? Spacing,
    double? Evenness,
    double? Direction,
    bool Crossed
)
{
    /// <summary>Its value of five, 1 bare paper to 5.</summary>
    public int Value => 5 - (int)(Math.Clamp(Lightness / 95, 0, 0.9999) * 5);

    /// <summary>How broad a line of full lead would cover as much at this spacing: w = c · s, of two screens each its own share. It holds
    /// pressure and width both. Null without a spacing.</summary>
    public double? Line => Spacing is { } s ? s * (Crossed ? 1 - Math.Sqrt(1 - Coverage) : Coverage) : null;

    /// <summary>The spacing at which the same line would give a lightness; null without a line, and where it would have to be closer than the
    /// line is broad, or than half a millimetre: then pressure decides.</summary>
    public double? SpacingFor(double lightness)
    {
        if (Line is not { } line || !(line > 0.02))
            return null;
        var wanted = SheetAreas.CoverageOf(lightness);
        return wanted is > 0.02 and < 0.9 && Hatching.Spacing(wanted, line, Crossed) is { } s && s >= Math.Max(0.5, line) ? s : null;
    }
}

/// <summary>A sheet as it was read, to be asked for the tone and the hatching of any part of it.</summary>
public sealed class SheetAreas
{
    /// <summary>Fewest square millimetres that say something of tone, and hatching within them, mm and places of it.</summary>
    public const double LeastArea = 25;
    private const double LeastHatch = 40;
    private const int LeastGaps = 30;

    /// <summary>Closest lines that are told apart, mm, and the broadest that a hand hatches with: what reads otherwise lies too close to be told.</summary>
    private const double Closest = 1.3,
        Broadest = 1.25;

    /// <summary>Share of the places that a second direction needs to be another screen, and how far it is turned, radians.</summary>
    private const double Second = 0.2;
    private const float Apart = 0.45f;

    /// <summary>A place of hatching, with its gap to the next line, mm; 0 where it stands in no row.</summary>
    private readonly record struct Row(Vector2 At, float Angle, float Gap, float Share);

    private readonly float[] light,
        mixed;
    private readonly int width,
        height;
    private readonly List<Row> rows;

    internal SheetAreas(ToneMap tone, InkLines lines, float[] gaps)
    {
        (light, width, height) = (tone.Light, tone.Width, tone.Height);
        mixed = Convolution.Gauss(light, width, height, 2, 0, 0);
        rows =
        [
            .. lines
                .Lines.Where(l => l.Kind == InkKind.Hatch)
                .SelectMany(l =>
                    l.Places.Select(i => new Row(lines.At(i), lines.Places[i].Angle, gaps[i], l.Length / Math.Max(1, l.Places.Count)))
                ),
        ];
    }

    /// <summary>Share of the paper that a lightness says is covered.</summary>
    internal static double CoverageOf(double lightness) => Hatching.Covered(LightCurves.Light(lightness) / ToneMap.PaperY);

    /// <param name="outline">Millimetres on the sheet; closed by itself, and what crosses itself is counted by the even-odd rule.</param>
    /// <exception cref="InputException">No outline, or one too small to say anything.</exception>
    public AreaMeasures Of(IReadOnlyList<Vec2> outline)
    {
        if (outline.Count < 3)
            throw new InputException($"an outline of {Say.Plural(outline.Count, "place")}", "outline", "3 places or more");
        var inside = Polygons.Filled([outline], width, height);
        var at = Enumerable.Range(0, inside.Length).Where(i => inside[i]).ToList();
        if (at.Count < LeastArea)
            throw new InputException(
                $"an area of {at.Count} mm² on the sheet",
                "outline",
                $"{Say.Number(LeastArea)} mm² or more, a finger's tip"
            );
        var values = at.Select(i => (double)ToneMap.L(mixed[i])).Order().ToList();
        double mean = at.Average(i => light[i]),
            lightness = ToneMap.L((float)mean);
        var hatch = rows.Where(r => inside[((int)Math.Min(r.At.Y, height - 1) * width) + (int)Math.Min(r.At.X, width - 1)]).ToList();
        var length = hatch.Sum(r => r.Share);
        var told = hatch.Where(r => r.Gap > 0).Select(r => (double)r.Gap).Order().ToList();
        var rowed = length >= LeastHatch && told.Count >= LeastGaps;
        double At(List<double> of, double share) => of[(int)(share * (of.Count - 1))];
        rowed = rowed && At(told, 0.5) >= Closest && At(told, 0.5) * CoverageOf(lightness) <= Broadest;
        var way = rowed ? Direction(hatch) : (double?)null;
        return new(
            at.Count,
            lightness,
            (At(values, 0.84) - At(values, 0.16)) / 2,
            CoverageOf(lightness),
            length,
            rowed ? At(told, 0.5) : null,
            rowed ? (At(told, 0.84) - At(told, 0.16)) / 2 / At(told, 0.5) : null,
            way,
            way is { } w && hatch.Count(r => InkLines.Apart(r.Angle, (float)(w * Math.PI / 180)) > Apart) > Second * hatch.Count
        );
    }

    /// <summary>The direction that most of it runs in.</summary>
    private static double Direction(List<Row> hatch)
    {
        var count = new float[60];
        foreach (var r in hatch)
            count[((int)MathF.Floor(r.Angle / MathF.PI * 60) % 60 + 60) % 60]++;
        return HatchDirections.Main(count);
    }
}
