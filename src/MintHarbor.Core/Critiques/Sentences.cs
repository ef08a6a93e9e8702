using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>A finding in one plain sentence with its number, and its "why" with the values in the formula.</summary>
internal static class Sentences
{
    public static string RuleName(string rule) =>
        rule switch
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
            "R-length" => "Length against the reference view",
            "R-direction" => "Direction against the reference view",
            "R-lean" => "Lean of the whole figure",
            "H-eye" => "Eye line",
            "H-thirds" => "Thirds of the face",
            "H-mouth" => "Mouth line",
            "H-fives" => "Eyes across",
            "H-nostril" => "Nose wing under the eye corner",
            "H-corner" => "Mouth corner",
            "H-ear" => "Ear",
            "H-neck" => "Neck against jaw",
            "H-turn" => "Turn of the head",
            _ => rule,
        };

    public static string Subject(Measure m) =>
        m.Part is null || m.Rule is "F-hand" or "F-elbow" or "F-foot" || m.Rule[0] == 'H'
            ? RuleName(m.Rule) + (m.Part is null ? "" : ", " + m.Part)
        : m.Part.StartsWith("plumb", StringComparison.Ordinal) ? Plumb(m)
        : char.ToUpperInvariant(m.Part[0]) + m.Part[1..];

    private static string Plumb(Measure m) =>
        $"Plumb from {Landmarks.LandmarkIds.Name(m.Needs[0])} to {Landmarks.LandmarkIds.Name(m.Needs[1])}";

    private static string Unit(Measure m, double v, int decimals = 2) =>
        m.Unit switch
        {
            "deg" => Say.Number(v, 1) + "°",
            "heads" => Say.Number(v, decimals) + " heads",
            "mm" => Say.Number(v, 1) + " mm",
            "share of height" => Say.Number(v * 100, 1) + " % of the height",
            "head" or "face" => Say.Number(v * 100, 1) + $" % of the {m.Unit}",
            "span" => Say.Number(v * 100) + " % of the span",
            "eyes" => Say.Number(v, decimals) + " eyes",
            _ => Say.Number(v, decimals),
        };

    public static string Says(
        Measure m,
        Verdict verdict,
        double value,
        double d,
        double expected,
        double tolerance,
        double u,
        IReadOnlyList<(string Name, double Expected)> against,
        bool observed = false,
        double? foreshortened = null
    )
    {
        var sources = string.Join(
            ", ",
            against.Select(a =>
                $"{a.Name} {(m.Kind == MeasureKind.Angle ? ClockAngle.Say(ClockAngle.ToHours(a.Expected)) + " o'clock" : Say.Number(a.Expected, 2))}"
            )
        );
        if (verdict == Verdict.TooSmall)
            return $"{Subject(m)}: too small to judge. Placing alone is uncertain by {Unit(m, u)}, the tolerance is {Unit(m, tolerance)}.";
        var fact = m.Rule switch
        {
            _ when m.Rule[0] == 'H' => OfHead(m, verdict, value, d, expected, tolerance, against),
            "R-length" => Length(m, verdict, d, tolerance, foreshortened),
            "R-lean" => Math.Abs(d) < 0.5
                ? "The figure leans as it stands."
                : $"The whole figure leans {Say.Number(Math.Abs(d), 1)}° to the {(d > 0 ? "right" : "left")} (±{Say.Number(tolerance)}).",
            "F-heads" => Heads(value, d, expected, tolerance, sources),
            "F-balance" when m.Unit == "mm" => verdict == Verdict.Outside
                ? $"The plumb falls {Say.Number(Math.Abs(d) - tolerance, 0)} mm outside the feet."
                : $"The plumb meets the feet, {Say.Number(Math.Abs(d), 0)} mm from their middle.",
            _ when m.Kind == MeasureKind.Sign => $"{Subject(m)}: {Unit(m, value)}, {(value >= 0 ? "as it should be" : "the wrong way")}.",
            _ when m.Kind == MeasureKind.Angle =>
                $"{(m.Rule == "R-direction" ? $"{Subject(m)} goes" : Subject(m))} {Say.Number(Math.Abs(d))}° {(d > 0 ? "clockwise" : "anticlockwise")} of it (±{Say.Number(tolerance)}). Drawn at {ClockAngle.Say(ClockAngle.ToHours(value))} o'clock; {sources}.",
            _ when m.Kind == MeasureKind.Offset =>
                $"{Subject(m)} {Unit(m, d)} off (±{Say.Number(tolerance, 2)}). Drawn {Say.Number(value, 2)}; {sources}.",
            _ =>
                $"{Subject(m)} {Say.Number(Math.Abs(100 * d / expected))} % {(d < 0 ? "short" : "long")} (±{Say.Number(100 * tolerance / Math.Abs(expected))}). {Unit(m, value)}; {sources}.",
        };
        return verdict switch
        {
            Verdict.Pushed when observed => fact + " Observed: the sitter's own.",
            Verdict.Pushed => fact + " Pushed, in the pose's own direction.",
            Verdict.TooClose => fact + $" Too close to call: uncertain by {Unit(m, u)}.",
            _ => fact,
        };
    }

    /// <summary>A limb's length, with what the seat does to it: short where it looks short is right.</summary>
    private static string Length(Measure m, Verdict verdict, double d, double tolerance, double? foreshortened)
    {
        var seen = foreshortened is { } f and < 0.85 ? Say.Fixed(f, 2) : null;
        if (seen is not null && verdict == Verdict.Inside)
            return $"{Subject(m)} looks short: from this seat it is, {seen} of its length.";
        var off =
            $"{Subject(m)} {Say.Number(Math.Abs(100 * d))} % {(d < 0 ? "short" : "long")} of the reference view (±{Say.Number(100 * tolerance)}).";
        return seen is null ? off
            : d > 0 ? $"{off} Seen at {seen} of its length from this seat: known, not seen, length?"
            : $"{off} From this seat it is seen at {seen} of its length.";
    }

    /// <summary>A head is never called wrong: likeness lives in departures, so the canon's deviation is put as a question.</summary>
    private static string OfHead(
        Measure m,
        Verdict verdict,
        double value,
        double d,
        double expected,
        double tolerance,
        IReadOnlyList<(string Name, double Expected)> against
    )
    {
        var (first, name) = (against[0], against[0].Name);
        if (m.Rule == "H-turn")
            return $"{char.ToUpperInvariant(m.Part![0])}{m.Part[1..]} turned {Unit(m, value)}; all features together {Unit(m, expected)} (±{Say.Number(tolerance)})."
                + (verdict == Verdict.Outside ? " One turn does not explain it." : "");
        var what = m.Part is not null ? char.ToUpperInvariant(m.Part![0]) + m.Part[1..] : Subject(m);
        var fact =
            m.Kind == MeasureKind.Offset
                ? $"{what} {Unit(m, Math.Abs(d))} {(d < 0 ? m.Less : m.More)} (±{Number(m, tolerance)})"
                : $"{what} {Unit(m, value)}; {name} {Number(m, first.Expected)} (±{Number(m, tolerance)})";
        return fact
            + "."
            + (
                verdict != Verdict.Outside ? ""
                : name == "reference view" ? " It departs from the reference view."
                : " Is that the sitter?"
            );
    }

    /// <summary>The number alone where the unit has just been said.</summary>
    private static string Number(Measure m, double v) => m.Unit is "head" or "face" or "span" ? Say.Number(100 * v) : Say.Number(v, 2);

    private static string Heads(double value, double d, double expected, double tolerance, string sources)
    {
        var off = Math.Abs((expected / value) - 1) * 100;
        var size =
            off < 0.5 ? "Head in proportion to the height" : $"Head {Say.Number(off)} % {(d < 0 ? "large" : "small")} for the height";
        return $"{size} (±{Say.Number(100 * tolerance / expected)}). {Say.Number(value, 2)} heads tall; {sources}.";
    }

    public static string Because(
        Measure m,
        double value,
        double expected,
        double tolerance,
        double placed,
        double read,
        double u,
        string source,
        Verdict verdict
    )
    {
        var error = read > 0 ? $"1.645·√({Say.Number(placed, 3)}² + {Say.Number(read, 3)}²)" : $"1.645·{Say.Number(placed, 3)}";
        var rule =
            m.Kind == MeasureKind.Sign
                ? "outside below −u, inside from +u on"
                : "outside if |d| > t + u, inside if |d| ≤ t − u, too small if u > t";
        var diff = m.Kind == MeasureKind.Angle ? ClockAngle.Wrap(value - expected) : value - expected;
        return $"{m.Formula} = {Unit(m, value, 3)}; d = {Unit(m, diff, 3)}, t = {Unit(m, tolerance, 3)}, u = {error} = {Unit(m, u, 3)}; {rule}: {Word(verdict)}. Source: {source}.";
    }

    private static string Word(Verdict v) =>
        v switch
        {
            Verdict.TooClose => "too close to call",
            Verdict.TooSmall => "too small to judge",
            Verdict.Pushed => "pushed",
            Verdict.Outside => "outside",
            _ => "inside",
        };
}
