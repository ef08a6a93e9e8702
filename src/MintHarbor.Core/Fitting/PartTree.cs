namespace MintHarbor.Core.Fitting;

/// <summary>A part of what is drawn, and how freely a hand draws it. Turns in degrees, lengths as natural logarithms, slips as shares of the
/// height from the upper click to the lower; all 1 σ, common practice of simulated hands, no source.</summary>
/// <param name="Parent">Index of the part that it hangs on; −1 for the first.</param>
/// <param name="Turn">Against its parent.</param>
/// <param name="Length">Against its parent.</param>
/// <param name="Slip">How far its joint is drawn beside where the parent puts it.</param>
/// <param name="SearchSlip">The same while the whole is searched for on a coarse grid.</param>
/// <param name="Breadth">Against its length.</param>
/// <param name="Even">Grows in breadth as it does in length: a head, a hand, a foot.</param>
/// <param name="AtJoint">Joined to its parent round a place rather than across a line, as a thigh to the pelvis.</param>
/// <param name="Alone">Set on its parent like a feature on a face: no line goes over from one into the other.</param>
public sealed record FitPart(
    string Id,
    int Parent,
    double Length = 0.09,
    double Slip = 0.002,
    double SearchSlip = 0.005,
    double Turn = 3,
    double Breadth = 0.045,
    bool Even = false,
    bool AtJoint = false,
    bool Alone = false
);

/// <param name="Of">Two parts that are drawn about as long as one another.</param>
/// <param name="Length">1 σ of the difference of their logarithms.</param>
public sealed record PartPair((int A, int B) Of, double Length);

/// <summary>What a figure, or a head, falls into when it is drawn: parents before children.</summary>
public sealed class PartTree
{
    public IReadOnlyList<FitPart> Parts { get; }
    public IReadOnlyList<PartPair> Pairs { get; }

    /// <summary>The parts that hang on each.</summary>
    public IReadOnlyList<int[]> Children { get; }

    /// <summary>The part that the upper click lies on.</summary>
    public int Top { get; }

    private readonly Dictionary<string, int> index;

    private PartTree(IReadOnlyList<FitPart> parts, string top, params ReadOnlySpan<(string A, string B, double Length)> pairs)
    {
        Parts = parts;
        index = parts.Select((p, i) => (p.Id, i)).ToDictionary(p => p.Id, p => p.i);
        Children = [.. parts.Select((_, i) => Enumerable.Range(0, parts.Count).Where(c => parts[c].Parent == i).ToArray())];
        var alike = new List<PartPair>();
        foreach (var (a, b, length) in pairs)
            alike.Add(new((Index(a), Index(b)), length));
        (Pairs, Top) = (alike, Index(top));
    }

    public int Index(string id) => index[id];

    public const string Pelvis = "pelvis",
        Thorax = "thorax",
        Neck = "neck",
        Head = "head",
        Hand = "hand",
        Foot = "foot";

    private const double Loose = 0.09 * 1.3;

    public static readonly PartTree Figure = new(
        [
            new(Pelvis, -1, Slip: 0.03, SearchSlip: 0.03, Turn: 4.5),
            new(Thorax, 0),
            new(Neck, 1),
            new(Head, 2, Loose, 0.006, 0.008, Even: true),
            new("upper-arm.L", 1, Slip: 0.006, SearchSlip: 0.012, AtJoint: true),
            new("upper-arm.R", 1, Slip: 0.006, SearchSlip: 0.012, AtJoint: true),
            new("forearm.L", 4),
            new("forearm.R", 5),
            new(Hand + ".L", 6, Even: true),
            new(Hand + ".R", 7, Even: true),
            new("thigh.L", 0, Loose, 0.006, 0.008, AtJoint: true),
            new("thigh.R", 0, Loose, 0.006, 0.008, AtJoint: true),
            new("shank.L", 10),
            new("shank.R", 11),
            new(Foot + ".L", 12, Even: true),
            new(Foot + ".R", 13, Even: true),
        ],
        Head,
        ("upper-arm.L", "upper-arm.R", 0.06),
        ("forearm.L", "forearm.R", 0.06),
        (Hand + ".L", Hand + ".R", 0.06),
        ("thigh.L", "thigh.R", 0.04),
        ("shank.L", "shank.R", 0.04),
        (Foot + ".L", Foot + ".R", 0.06)
    );

    public const string Skull = "skull",
        Jaw = "jaw",
        Eye = "eye",
        Nose = "nose",
        Mouth = "mouth",
        Ear = "ear";

    /// <summary>A head: features are placed on the skull by the eye, each by itself, so that they slip much and turn little.</summary>
    public static readonly PartTree Features = new(
        [
            new(Skull, -1, Slip: 0.03, SearchSlip: 0.03, Turn: 4.5, Even: true),
            new(Jaw, 0, Slip: 0.012, SearchSlip: 0.015, Even: true),
            new(Eye + ".L", 0, Slip: 0.03, SearchSlip: 0.035, Even: true, Alone: true),
            new(Eye + ".R", 0, Slip: 0.03, SearchSlip: 0.035, Even: true, Alone: true),
            new(Nose, 0, Slip: 0.025, SearchSlip: 0.03, Even: true, Alone: true),
            new(Mouth, 0, Slip: 0.025, SearchSlip: 0.03, Even: true, Alone: true),
            new(Ear + ".L", 0, Slip: 0.03, SearchSlip: 0.035, Even: true, Alone: true),
            new(Ear + ".R", 0, Slip: 0.03, SearchSlip: 0.035, Even: true, Alone: true),
            new(Neck, 1, Slip: 0.02, SearchSlip: 0.02, Breadth: 0.2),
        ],
        Skull,
        (Eye + ".L", Eye + ".R", 0.05),
        (Ear + ".L", Ear + ".R", 0.06)
    );
}
