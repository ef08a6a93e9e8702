using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>A finding in one plain sentence with its number, and its "why" with the values in the formula. Reads values, never sentences;
/// nothing decides by what is written here.</summary>
internal static class Sentences
{
    /// <summary>What is spoken of, as the sentence begins.</summary>
    public static string Subject(Measure m) =>
        m.Part is null ? m.Rule.Name
        : m.Rule.NamedWithPart ? $"{m.Rule.Name}, {m.Part.Name}"
        : Capital(m.Part.Name);

    public static string Says(Finding f) =>
        f.Verdict switch
        {
            Verdict.DoesNotApply when f.ClosedBy is { } exercise =>
                $"{Subject(f.Measure)}: not judged in {exercise.Name.ToLowerInvariant()}.",
            Verdict.DoesNotApply => $"{Subject(f.Measure)}: not judgeable here; {f.Rule.HoldsWhen}.",
            Verdict.NotSeen => $"{Subject(f.Measure)}: not judgeable, {Say.List([.. f.Missing.Select(LandmarkIds.Name)])} not placed.",
            Verdict.NotLookedAt =>
                $"{Subject(f.Measure)}: not looked at yet; {Say.List([.. f.Missing.Select(LandmarkIds.Name)])} only proposed.",
            Verdict.TooSmall =>
                $"{Subject(f.Measure)}: too small to judge. Placing alone is uncertain by {Amount(f.Measure, f.Uncertainty!.Value)}, "
                    + $"the tolerance is {Amount(f.Measure, f.Tolerance!.Value)}.",
            Verdict.TooClose when f.Rule.Phrasing == Phrasing.Asked => Fact(f),
            Verdict.TooClose => $"{Fact(f)} Too close to call: uncertain by {Amount(f.Measure, f.Uncertainty!.Value)}.",
            Verdict.Pushed when f.Observed => $"{Fact(f)} Observed: the sitter's own.",
            Verdict.Pushed => $"{Fact(f)} Pushed, in the pose's own direction.",
            _ => Fact(f),
        };

    /// <summary>What recurs on several sheets, without the number of any.</summary>
    public static string Recurs(Finding f) =>
        f.Rule.Phrasing == Phrasing.Lean ? $"the whole figure leans, to the {Word(f.Direction)}"
        : f.Rule.Phrasing == Phrasing.Heads ? $"the head {Word(f.Direction)} for the height"
        : f.Measure.Kind == MeasureKind.Angle ? $"{Subject(f.Measure).ToLowerInvariant()} turned {Word(f.Direction)}"
        : $"{Subject(f.Measure).ToLowerInvariant()} {Word(f.Direction)}".TrimEnd();

    private static string NotLookedAt(Finding f) =>
        $"{Subject(f.Measure)}: not looked at yet; {Say.List([.. f.Missing.Select(LandmarkIds.Name)])} only proposed.";

    private static string Fact(Finding f) =>
        f.Rule.Phrasing switch
        {
            Phrasing.Heads => Heads(f),
            Phrasing.Length => Length(f),
            Phrasing.Lean => Lean(f),
            Phrasing.Feet when f.Part is null => Feet(f),
            Phrasing.Face => Face(f),
            Phrasing.Turn => Turn(f),
            Phrasing.Asked => Asked(f),
            _ => Plain(f),
        };

    private static string Plain(Finding f)
    {
        var (m, d, t) = (f.Measure, f.Off!.Value, f.Tolerance!.Value);
        var (subject, way, value) = (Subject(m), Word(f.Direction), f.Measured!.Value);
        return m.Kind switch
        {
            MeasureKind.Sign => $"{subject}: {Amount(m, value)}, {(value >= 0 ? "as it should be" : "the wrong way")}.",
            MeasureKind.Angle =>
                $"{subject}{(m.Rule.Quantity is null ? "" : " goes")} {Departs($"{Say.Number(Math.Abs(d))}°", way, "of it")} (±{Say.Number(t)}). "
                    + $"Drawn at {Hours(f, value)} o'clock; {Sources(f)}.",
            MeasureKind.Offset =>
                $"{subject} {Departs(Amount(m, Math.Abs(d)), way)} (±{Bare(m, t)}). Drawn {Bare(m, value)}; {Sources(f)}.",
            _ => $"{subject} {Departs($"{Say.Number(Math.Abs(100 * d / f.Expected!.Value))} %", way)} "
                + $"(±{Say.Number(100 * t / Math.Abs(f.Expected.Value))}). {Amount(m, value)}; {Sources(f)}.",
        };
    }

    /// <summary>Amount and direction, or that there is none: nought has no direction.</summary>
    private static string Departs(string amount, string way, string of = "") =>
        amount[0] == '0' && (amount.Length < 2 || !(amount[1] is '.' or ',')) || way == ""
            ? "as it should be"
            : $"{amount} {way}{(of == "" ? "" : " " + of)}";

    private static string Heads(Finding f)
    {
        var off = Math.Abs((f.Expected!.Value / f.Measured!.Value) - 1) * 100;
        var size = off < 0.5 ? "Head in proportion to the height" : $"Head {Say.Number(off)} % {Word(f.Direction)} for the height";
        return $"{size} (±{Say.Number(100 * f.Tolerance!.Value / f.Expected.Value)}). {Say.Number(f.Measured.Value, 2)} heads tall; {Sources(f)}.";
    }

    /// <summary>A limb's length, with what the seat does to it: short where it looks short is right.</summary>
    private static string Length(Finding f)
    {
        var (subject, d) = (Subject(f.Measure), f.Off!.Value);
        var seen = f.Standards[0].Foreshortened is { } share and < 0.85 ? Say.Fixed(share, 2) : null;
        if (f.Explanation == Explanation.SeenShort)
            return $"{subject} looks short: from this seat it is, {seen} of its length.";
        var percent = Say.Number(Math.Abs(100 * d));
        var off =
            percent == "0"
                ? $"{subject} as long as in the reference view (±{Say.Number(100 * f.Tolerance!.Value)})."
                : $"{subject} {percent} % {Word(f.Direction)} against the reference view (±{Say.Number(100 * f.Tolerance!.Value)}).";
        return seen is null ? off
            : f.Explanation == Explanation.KnownLength ? $"{off} Seen at {seen} of its length from this seat: known, not seen, length?"
            : $"{off} From this seat it is seen at {seen} of its length.";
    }

    private static string Lean(Finding f) =>
        Math.Abs(f.Off!.Value) < 0.5
            ? "The figure leans as it stands."
            : $"The whole figure leans {Say.Number(Math.Abs(f.Off.Value), 1)}° to the {Word(f.Direction)} (±{Say.Number(f.Tolerance!.Value)}).";

    private static string Feet(Finding f)
    {
        var d = Math.Abs(f.Off!.Value);
        return f.Verdict == Verdict.Outside
            ? $"The plumb falls {Say.Number(d - f.Tolerance!.Value, 0)} mm outside the feet, to the {Word(f.Direction)}."
            : $"The plumb meets the feet, {Say.Number(d, 0)} mm from their middle.";
    }

    /// <summary>A head is never called wrong: likeness lives in departures, so the deviation is put as a question.</summary>
    private static string Face(Finding f)
    {
        var (m, d, t) = (f.Measure, f.Off!.Value, f.Tolerance!.Value);
        var what = m.Part is null ? m.Rule.Name : Capital(m.Part.Name);
        var departs = f.Verdict is not Verdict.Inside;
        var fact =
            m.Kind == MeasureKind.Offset
                ? $"{what} {Amount(m, Math.Abs(d))} {(d < 0 ? m.Less : m.More)} (±{Bare(m, t)})"
                : $"{what}{(departs ? $" {Word(f.Direction)}:" : "")} {Amount(m, f.Measured!.Value)}; {f.Standards[0].Name} {Bare(m, f.Expected!.Value)} (±{Bare(m, t)})";
        return fact
            + "."
            + (
                f.Verdict != Verdict.Outside ? ""
                : f.Against == Against.Reference ? " It departs from the reference view."
                : " Is that the sitter?"
            );
    }

    private static string Turn(Finding f)
    {
        var says =
            $"{Capital(f.Part!)} turned {Amount(f.Measure, f.Measured!.Value)}; all features together {Amount(f.Measure, f.Expected!.Value)} (±{Say.Number(f.Tolerance!.Value)}).";
        return f.Verdict == Verdict.Outside ? $"{says} One turn does not explain it: turned too {Word(f.Direction)}." : says;
    }

    /// <summary>Card and view disagree: which of them is wrong is asked, and nothing is said of the drawing.</summary>
    private static string Asked(Finding f)
    {
        string Value(double v) => f.Measure.Kind == MeasureKind.Angle ? $"{Hours(f, v)} o'clock" : Amount(f.Measure, v);
        var others = f.Missing.Count == 0 ? "" : $" So do {Say.List([.. f.Missing.Select(m => m.ToLowerInvariant())])}.";
        return $"{f.Part}: the card reads {Value(f.Measured!.Value)}, the reference view {Value(f.Expected!.Value)}."
            + $"{others} Card misread, or another seat?";
    }

    private static string Sources(Finding f) =>
        string.Join(
            ", ",
            f.Standards.Select(s =>
                $"{s.Name} {(f.Measure.Kind == MeasureKind.Angle ? Hours(f, s.Expected) + " o'clock" : Bare(f.Measure, s.Expected))}"
            )
        );

    /// <summary>An hour to the quarter; to the tenth where quarters would say the same of what is drawn and what was wanted.</summary>
    private static string Hours(Finding f, double degrees)
    {
        double Near(double d) => ClockAngle.HourNear(d, f.Expected!.Value);
        var alike = f.Off != 0 && ClockAngle.Say(Near(f.Measured!.Value)) == ClockAngle.Say(Near(f.Expected!.Value));
        return alike ? ClockAngle.SayTenths(Near(degrees)) : ClockAngle.Say(Near(degrees));
    }

    /// <summary>A value with its unit.</summary>
    private static string Amount(Measure m, double v, int decimals = 2) =>
        m.Unit switch
        {
            "deg" => Say.Number(v, 1) + "°",
            "heads" => Say.Number(v, decimals) + " heads",
            "mm" => Say.Number(v, 1) + " mm",
            "share of height" => Say.Number(v * 100, 1) + " % of the height",
            _ when IsShare(m) => Say.Number(v * 100, 1) + $" % of the {m.Unit}",
            "span" => Say.Number(v * 100) + " % of the span",
            "eyes" => Say.Number(v, decimals) + " eyes",
            _ => Say.Number(v, decimals),
        };

    /// <summary>Units that are a length of the drawing itself: what is measured is said in hundredths of it.</summary>
    private static bool IsShare(Measure m) =>
        m.Unit is "head" or "face" or "lower leg" or "breadth of the knee" or "upper arm" or "shoulders";

    /// <summary>The number alone where the unit has just been said.</summary>
    private static string Bare(Measure m, double v) => IsShare(m) || m.Unit == "span" ? Say.Number(100 * v) : Say.Number(v, 2);

    public static string Because(Finding f)
    {
        var (m, source) = (f.Measure, f.Standards.Count > 0 ? f.Standards[0].Source : "");
        if (f.ClosedBy is { } exercise)
            return $"{exercise.Name} is inspected for {Say.List(exercise.Inspected)}";
        if (f.Verdict == Verdict.DoesNotApply)
            return $"holds when: {f.HoldsWhen}. Source: {source}";
        if (f.Verdict is Verdict.NotSeen or Verdict.NotLookedAt)
            return $"{m.Formula}; wanted: {Say.List([.. m.Needs.Distinct().Select(LandmarkIds.Name)])}";
        var read = f.Standards[0].Sigma;
        var error = read > 0 ? $"1.645·√({Say.Number(f.Placed, 3)}² + {Say.Number(read, 3)}²)" : $"1.645·{Say.Number(f.Placed, 3)}";
        var rule =
            m.Kind == MeasureKind.Sign
                ? "outside below −u, inside from +u on"
                : "outside if |d| > t + u, inside if the true value lies within t with 90 % probability, too small if u > t";
        return $"{m.Formula} = {Amount(m, f.Measured!.Value, 3)}; d = {Amount(m, f.Off!.Value, 3)}, "
            + $"t = {Amount(m, f.Standards[0].Tolerance, 3)}, u = {error} = {Amount(m, f.Uncertainty!.Value, 3)}; "
            + $"{rule}: {Word(f.Verdict)}. Source: {source}.";
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

    public static string Word(Direction d) =>
        d switch
        {
            Direction.None => "",
            Direction.Towards => "far towards us",
            Direction.Away => "far away",
            Direction.Inwards => "too far in",
            Direction.Outwards => "too far out",
            Direction.Reversed => "the wrong way",
            Direction.Left => "left",
            Direction.Right => "right",
            _ => d.ToString().ToLowerInvariant(),
        };

    private static string Capital(string s) => char.ToUpperInvariant(s[0]) + s[1..];
}
