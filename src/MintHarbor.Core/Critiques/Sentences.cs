using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>A finding in one plain sentence with its number, and its "why" with the values in the formula.</summary>
internal static class Sentences
{
    public static string RuleName(string rule) => rule switch
    {
        "F-heads" => "Heads in the height",
        "F-mid" => "Half height",
        "F-spans" => "The three spans",
        "F-hand" => "Hand against face",
        "F-foot" => "Foot against head",
        "F-elbow" => "Elbow level",
        "F-arm" => "Arm lengths",
        "F-pair" => "Left against right",
        "F-shoulder" => "Shoulder breadth",
        "F-wrist" => "Wrist and fingertips",
        "F-tilt" => "Tilt of shoulders and pelvis",
        "F-balance" => "Balance",
        _ => rule,
    };

    public static string Subject(Measure m) => m.Part is null || m.Rule is "F-hand" or "F-elbow" or "F-foot" ? RuleName(m.Rule) + (m.Part is null ? "" : ", " + m.Part)
        : m.Part.StartsWith("plumb", StringComparison.Ordinal) ? Plumb(m) : char.ToUpperInvariant(m.Part[0]) + m.Part[1..];

    private static string Plumb(Measure m) => $"Plumb from {Landmarks.LandmarkIds.Name(m.Needs[0])} to {Landmarks.LandmarkIds.Name(m.Needs[1])}";

    private static string Unit(Measure m, double v, int decimals = 2) => m.Unit switch
    {
        "deg" => Say.Number(v, 1) + "°",
        "heads" => Say.Number(v, decimals) + " heads",
        "mm" => Say.Number(v, 1) + " mm",
        "share of height" => Say.Number(v * 100, 1) + " % of the height",
        _ => Say.Number(v, decimals),
    };

    public static string Says(Measure m, Verdict verdict, double value, double d, double expected, double tolerance, double u, IReadOnlyList<(string Name, double Expected)> against)
    {
        var sources = string.Join(", ", against.Select(a => $"{a.Name} {(m.Kind == MeasureKind.Angle ? ClockAngle.Say(ClockAngle.ToHours(a.Expected)) + " o'clock" : Say.Number(a.Expected, 2))}"));
        if (verdict == Verdict.TooSmall) return $"{Subject(m)}: too small to judge. Placing alone is uncertain by {Unit(m, u)}, the tolerance is {Unit(m, tolerance)}.";
        var fact = m.Rule switch
        {
            "F-heads" => Heads(value, d, expected, tolerance, sources),
            "F-balance" when m.Unit == "mm" => verdict == Verdict.Outside ? $"The plumb falls {Say.Number(Math.Abs(d) - tolerance, 0)} mm outside the feet." : $"The plumb meets the feet, {Say.Number(Math.Abs(d), 0)} mm from their middle.",
            _ when m.Kind == MeasureKind.Sign => $"{Subject(m)}: {Unit(m, value)}, {(value >= 0 ? "as it should be" : "the wrong way")}.",
            _ when m.Kind == MeasureKind.Angle => $"{Subject(m)} {Say.Number(Math.Abs(d))}° {(d > 0 ? "clockwise" : "anticlockwise")} of it (±{Say.Number(tolerance)}). Drawn at {ClockAngle.Say(ClockAngle.ToHours(value))} o'clock; {sources}.",
            _ when m.Kind == MeasureKind.Offset => $"{Subject(m)} {Unit(m, d)} off (±{Say.Number(tolerance, 2)}). Drawn {Say.Number(value, 2)}; {sources}.",
            _ => $"{Subject(m)} {Say.Number(Math.Abs(100 * d / expected))} % {(d < 0 ? "short" : "long")} (±{Say.Number(100 * tolerance / Math.Abs(expected))}). {Unit(m, value)}; {sources}.",
        };
        return verdict switch
        {
            Verdict.Pushed => fact + " Pushed, in the pose's own direction.",
            Verdict.TooClose => fact + $" Too close to call: uncertain by {Unit(m, u)}.",
            _ => fact,
        };
    }

    private static string Heads(double value, double d, double expected, double tolerance, string sources)
    {
        var off = Math.Abs((expected / value) - 1) * 100;
        var size = off < 0.5 ? "Head in proportion to the height" : $"Head {Say.Number(off)} % {(d < 0 ? "large" : "small")} for the height";
        return $"{size} (±{Say.Number(100 * tolerance / expected)}). {Say.Number(value, 2)} heads tall; {sources}.";
    }

    public static string Because(Measure m, double value, double expected, double tolerance, double placed, double read, double u, string source, Verdict verdict)
    {
        var error = read > 0 ? $"1.645·√({Say.Number(placed, 3)}² + {Say.Number(read, 3)}²)" : $"1.645·{Say.Number(placed, 3)}";
        var rule = m.Kind == MeasureKind.Sign ? "outside below −u, inside from +u on" : "outside if |d| > t + u, inside if |d| ≤ t − u, too small if u > t";
        var diff = m.Kind == MeasureKind.Angle ? ClockAngle.Wrap(value - expected) : value - expected;
        return $"{m.Formula} = {Unit(m, value, 3)}; d = {Unit(m, diff, 3)}, t = {Unit(m, tolerance, 3)}, u = {error} = {Unit(m, u, 3)}; {rule}: {Word(verdict)}. Source: {source}.";
    }

    private static string Word(Verdict v) => v switch { Verdict.TooClose => "too close to call", Verdict.TooSmall => "too small to judge", Verdict.Pushed => "pushed", Verdict.Outside => "outside", _ => "inside" };
}
