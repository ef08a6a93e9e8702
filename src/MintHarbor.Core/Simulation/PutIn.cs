using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Simulation;

/// <summary>How far each measure of a simulated sheet is truly off, worked out from the geometry that was put in: the scale it was drawn to, the
/// lean it was given, the places of its landmarks. By formulas of its own, which share nothing with the judge's measures, so that a study can
/// find the judge wrong.</summary>
/// <param name="drawn">Exact places on the sheet, mm.</param>
/// <param name="reference">The view it was drawn from.</param>
/// <param name="scale">Millimetres to a pixel of the view.</param>
/// <param name="card">The pose card as the pose truly is.</param>
/// <param name="leg">The leg that carries; null where both do.</param>
internal sealed class PutIn(
    IReadOnlyDictionary<string, Vec2> drawn,
    IReadOnlyDictionary<string, Vec2> reference,
    double scale,
    IReadOnlyList<NamedFault> faults,
    PoseCard card,
    string? leg
)
{
    private double Lean => faults.Where(f => f.Name == FigureFaults.Leaning).Sum(f => f.Size);
    private bool Stretched => faults.Any(f => f.Name == FigureFaults.WholeStretched);

    /// <summary>Measured − expected as it truly is; null of a measure that this has no formula for.</summary>
    public double? Off(Finding f)
    {
        if (f.Rule == Rules.Lean)
            return Lean;
        if (f.Rule == Rules.Length)
            // A stretched drawing has two scales; which of them its lengths are held against is the judge's choice.
            return Stretched ? null : (Long(drawn, f.Measure.Needs) / (scale * Long(reference, f.Measure.Needs))) - 1;
        if (f.Rule == Rules.EdgeDirection)
            return Stretched ? null : ClockAngle.Wrap(Way(drawn, f.Measure.Needs) - Way(reference, f.Measure.Needs) - Lean);
        if (Value(drawn, f) is not { } value || Wanted(f) is not { } wanted)
            return null;
        return f.Measure.Kind == MeasureKind.Angle ? ClockAngle.Wrap(value - wanted) : value - wanted;
    }

    private double? Wanted(Finding f) =>
        f.Against switch
        {
            Against.Reference => Value(reference, f),
            Against.Canon => f.Expected,
            _ => OnCard(f),
        };

    private double? OnCard(Finding f) =>
        (f.Rule.Id, f.Measure.Part?.Id) switch
        {
            ("F-heads", _) => card.Heads,
            ("F-shoulder", _) => card.Shoulders,
            ("F-spans", Parts.PitToPubic) => card.PitToPubic,
            ("F-spans", Parts.PitToKneetop) => card.PitToKneetop,
            ("F-spans", Parts.PitToSole) => card.PitToSole,
            ("F-tilt", Parts.Shoulders) => card.DirectionsHours?.Shoulders * 30,
            ("F-tilt", Parts.Pelvis) => card.DirectionsHours?.Pelvis * 30,
            ("F-tilt", Parts.Action) => card.DirectionsHours?.Action * 30,
            ("F-balance", Parts.Plumb) => card.Plumbs?.FirstOrDefault(p => p.To == f.Measure.At[0])?.OffsetHeads,
            _ => null,
        };

    private static double Long(IReadOnlyDictionary<string, Vec2> m, IReadOnlyList<string> ends) => Apart(m[ends[0]], m[ends[1]]);

    private static double Way(IReadOnlyDictionary<string, Vec2> m, IReadOnlyList<string> ends) => Clock(m[ends[0]], m[ends[1]]);

    private static double Apart(Vec2 a, Vec2 b) => Math.Sqrt(((a.X - b.X) * (a.X - b.X)) + ((a.Y - b.Y) * (a.Y - b.Y)));

    private static double Clock(Vec2 a, Vec2 b) => Math.Atan2(b.X - a.X, a.Y - b.Y) * 180 / Math.PI;

    /// <summary>The measure's value on a set of landmarks.</summary>
    private double? Value(IReadOnlyDictionary<string, Vec2> m, Finding f)
    {
        Vec2 Sided(string id) => leg is null ? (m[id + ".L"] + m[id + ".R"]) * 0.5 : m[$"{id}.{leg}"];
        var head = Apart(m["crown"], m["chin"]);
        var side = f.Part is { } p && p.Contains("left", StringComparison.Ordinal) ? ".L" : ".R";
        double Of(string a, string b) => Apart(m[a + side], m[b + side]);
        double Both(string a, string b) => Apart(m[a + ".L"], m[b + ".L"]) / Apart(m[a + ".R"], m[b + ".R"]);
        return (f.Rule.Id, f.Measure.Part?.Id) switch
        {
            ("F-heads", _) => (Sided("sole").Y - m["crown"].Y) / head,
            ("F-shoulder", _) => Apart(m["deltoid.L"], m["deltoid.R"]) / head,
            ("F-spans", Parts.PitToPubic) => Apart(m["pit"], m["pubic"]) / head,
            ("F-spans", Parts.PitToKneetop) => Apart(m["pit"], Sided("kneetop")) / head,
            ("F-spans", Parts.PitToSole) => Apart(m["pit"], Sided("sole")) / head,
            ("F-spans", Parts.Thigh) => Apart(Sided("iliac"), Sided("kneetop")) / Apart(m["pit"], m["pubic"]),
            ("F-spans", Parts.Shank) => Apart(Sided("kneetop"), Sided("toe")) / Apart(Sided("iliac"), Sided("kneetop")),
            ("F-mid", _) => (m["pubic"].Y - m["crown"].Y) / (Sided("sole").Y - m["crown"].Y),
            ("F-hand", _) => Of("wrist", "fingertip") / Apart(m["chin"], m["hairline"]),
            ("F-elbow", _) => (m["elbow" + side].Y - m["ribarch" + side].Y) / head,
            ("F-arm", Parts.UpperArm) => Of("acromion", "elbow") / Of("elbow", "wrist"),
            ("F-arm", Parts.Forearm) => Of("elbow", "wrist") / Of("wrist", "fingertip"),
            ("F-foot", _) => Of("heel", "toe") / head,
            ("F-pair", "upper arm") => Both("acromion", "elbow"),
            ("F-pair", "forearm") => Both("elbow", "wrist"),
            ("F-pair", "thigh") => Both("asis", "kneetop"),
            ("F-pair", "shank") => Both("kneetop", "ankleout"),
            ("F-wrist", "wrist, left" or "wrist, right") => (m["wrist" + side].Y - m["pubic"].Y) / head,
            ("F-wrist", _) => (m["fingertip" + side].Y - ((m["crotch"].Y + Sided("kneetop").Y) / 2)) / head,
            ("F-tilt", Parts.Shoulders) => Clock(m["acromion.R"], m["acromion.L"]),
            ("F-tilt", Parts.Pelvis) => Clock(m["asis.R"], m["asis.L"]),
            ("F-tilt", Parts.Action) => Clock(Sided("sole"), m["pit"]),
            ("F-balance", Parts.Plumb) => (m[f.Measure.At[0]].X - m["pit"].X) / head,
            _ => null,
        };
    }
}
