using System.Numerics;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Technique;

/// <summary>Where a drawing lies on its sheet. Millimetres.</summary>
/// <param name="Left">Free margin to the drawing; likewise the others.</param>
/// <param name="Area">Of the form that the lines enclose, mm².</param>
/// <param name="Figure">That area over the sheet's.</param>
/// <param name="CutEdges">Edges of the sheet that the drawing runs into.</param>
public sealed record PagePlace(
    double Left,
    double Top,
    double Right,
    double Bottom,
    double Area,
    double Figure,
    IReadOnlyList<string> CutEdges
);

/// <param name="Share">Of all line, by length.</param>
/// <param name="Spacing">From line to line, mm; null where too little of it runs in rows.</param>
/// <param name="Evenness">Spread of the spacing over its middle: half of what lies between its 16th and 84th hundredth. 0 is a machine's.</param>
/// <param name="Direction">Degrees from the sheet's x axis towards its foot, 0 to 180.</param>
public sealed record HatchMeasures(double Length, double Share, double? Spacing, double? Evenness, double? Direction);

/// <summary>What a contour says, as <see cref="TechniqueReading"/> keeps it.</summary>
/// <param name="Weight">Middle weight, mm of full black: width and pressure together.</param>
/// <param name="ThickThin">How weight changes along a line: SD over mean of 3 mm pieces, on lines of 18 mm and more; null without any.</param>
/// <param name="Side">Natural logarithm of the weight of the outline facing right over that facing left; null where too little faces a side.</param>
/// <param name="Straight">Share of straight runs.</param>
/// <param name="Restated">Share that runs beside another line.</param>
/// <param name="Ends">Ends in 100 mm.</param>
public sealed record ContourMeasures(
    double Length,
    double Weight,
    double? ThickThin,
    double? Side,
    double Straight,
    double Restated,
    double Ends
);

public enum Nothing
{
    None,
    Blank,
    Black,
}

/// <summary>What the ink of a flat sheet says of technique, without any mark on it.</summary>
/// <param name="Why">Nothing is told of a blank or a black sheet.</param>
/// <param name="Solid">Share of the form under charcoal so dense that no paper shows.</param>
/// <param name="Contour">Null where too little line is drawn, or a mass of charcoal hides it.</param>
public sealed record TechniqueReading(
    Nothing Why,
    double Solid,
    PagePlace? Place,
    ContourMeasures? Contour,
    HatchMeasures? Hatch,
    ToneMeasures? Tone
)
{
    /// <summary>From this share of solid tone on nothing is said of lines.</summary>
    public const double TooSolid = 0.30;

    public static TechniqueReading Empty(Nothing why) => new(why, 0, null, null, null, null);

    /// <summary>A mass of charcoal hides what the lines do.</summary>
    public bool LinesHidden => Solid >= TooSolid;

    /// <summary>Whether the outline is made of short pieces; null where that can't be told.</summary>
    public bool? IsHairy => LinesHidden || Contour is null ? null : Contour.Ends > TechniqueRule.Get("L-hairy").Limit;
}

/// <summary>A sheet as it was read, with what shows how.</summary>
/// <param name="Lines">Every line, with what it was taken for.</param>
/// <param name="Ninths">By square millimetre, rows from the top: the ninth of L* that it reads in, 0 dark to 8 light; −1 outside the form.</param>
public sealed record TechniquePicture(TechniqueReading Reading, IReadOnlyList<ReadLine> Lines, int Width, int Height, sbyte[] Ninths)
{
    /// <summary>Null outside the form.</summary>
    public int? Ninth(int x, int y) => Ninths[(y * Width) + x] is >= 0 and var f ? f : null;
}

/// <param name="Path">Millimetres on the sheet.</param>
public sealed record ReadLine(InkKind Kind, float Length, IReadOnlyList<Vector2> Path);
