using System.Numerics;

namespace MintHarbor.Core.Technique;

/// <summary>What a line of the sheet is.</summary>
public enum InkKind
{
    Contour,
    Hatch,

    /// <summary>A short piece within hatching, or a ridge within a mass of charcoal: it says nothing of lines.</summary>
    LeftOut,
}

/// <summary>A place on the middle of a drawn line.</summary>
/// <param name="At">Millimetres on the sheet.</param>
/// <param name="Angle">Direction of the line, radians from the sheet's x axis, 0 to π.</param>
/// <param name="Strength">Of the ridge.</param>
internal readonly record struct InkPlace(Vector2 At, float Angle, float Strength)
{
    public Vector2 Along => new(MathF.Cos(Angle), MathF.Sin(Angle));
    public Vector2 Across => new(-MathF.Sin(Angle), MathF.Cos(Angle));
}

/// <summary>A line of the drawing: places that follow one another.</summary>
/// <param name="Places">Numbers of its places among the sheet's, in order.</param>
/// <param name="Length">Millimetres along it.</param>
internal sealed record InkLine(IReadOnlyList<int> Places, float Length)
{
    public InkKind Kind { get; set; }
    public int First => Places[0];
    public int Last => Places[^1];
}

/// <summary>Lines of a sheet and their places.</summary>
/// <param name="Width">Of the sheet, mm; likewise the height.</param>
/// <param name="Grain">Ridge strength of the paper's own grain.</param>
internal sealed record InkLines(float Width, float Height, InkPlace[] Places, List<InkLine> Lines, float Grain)
{
    public Vector2 At(int place) => Places[place].At;

    public static float Apart(float a, float b)
    {
        var d = MathF.Abs(a - b) % MathF.PI;
        return MathF.Min(d, MathF.PI - d);
    }

    public IEnumerable<Vector2> Path(InkLine line) => line.Places.Select(At);
}
