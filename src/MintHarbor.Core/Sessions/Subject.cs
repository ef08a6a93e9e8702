namespace MintHarbor.Core.Sessions;

/// <summary>What an evening draws, in its own words: a cast is not taped by its feet, a mirror has no half ring.</summary>
/// <param name="Name">What it is called where it is chosen.</param>
/// <param name="One">What one long drawing is made from: a "pose", or a "view" of something that holds still by itself.</param>
/// <param name="Short">What a drawing of a few minutes is called.</param>
/// <param name="SetUp">What is set up, for the sheet that is pinned up; <paramref name="OnWall"/> shorter, for the display.</param>
/// <param name="Asked">Why somebody rests outside the plan.</param>
/// <param name="Stays">What keeps its place when a long drawing goes on.</param>
/// <param name="Marks">How one long drawing is kept, after its minutes.</param>
/// <param name="Last">What the printed sheet ends with.</param>
/// <param name="Place">Where everybody is, where nobody is seated round a stand.</param>
/// <param name="Live">Somebody holds poses: they rest by the rules, are paid, and may stop at any time.</param>
/// <param name="Clothed">Always clothed. <paramref name="Seated"/>: only poses that are sat on a seat.</param>
/// <param name="Stand">It stands in the middle of the room, with places round it.</param>
/// <param name="Lamp">It is lit by a lamp.</param>
/// <param name="Purposes">What it can serve; null for all.</param>
/// <param name="Longest">Minutes of its longest drawing. <paramref name="Halves"/>: its shortest take half a minute.</param>
/// <param name="How">How each drawing of it is gone about, before the exercise's own words.</param>
/// <param name="Warm">What opens the hand before it, where gestures don't.</param>
/// <param name="Paper">What is drawn on, in place of the exercise's paper.</param>
/// <param name="Leave">Kit that is left behind, <paramref name="Instead"/> taken for it.</param>
public sealed record Subject(
    ModelKind Id,
    string Name,
    string One,
    string Short,
    string SetUp,
    string OnWall,
    string Rest,
    string Asked,
    string Break,
    string Stays,
    string Marks,
    string Last,
    string? Place = null,
    bool Live = false,
    bool Clothed = false,
    bool Seated = false,
    bool Stand = false,
    bool Lamp = false,
    IReadOnlyList<Purpose>? Purposes = null,
    double? Longest = null,
    bool Halves = false,
    string? How = null,
    string? Warm = null,
    string? Paper = null,
    IReadOnlyList<string>? Leave = null,
    string? Instead = null,
    string Review = "all sheets on the wall, question first",
    string PackUp = "dust wiped damp, sheets photographed"
)
{
    public static IReadOnlyList<Subject> All { get; } = CoreData.Read<List<Subject>>("subjects");

    private static readonly Dictionary<ModelKind, Subject> ById = All.ToDictionary(s => s.Id);

    public static Subject Of(ModelKind model) => ById[model];

    /// <summary>Whether it can serve a purpose: a still life has no features, what moves has no anatomy to study.</summary>
    public bool Serves(Purpose purpose) => Purposes?.Contains(purpose) != false;

    /// <summary>The same drawn at home, each before a camera: where somebody poses in the studio, nothing of its own set-up is left.</summary>
    public Subject Online()
    {
        var at = OnlineWords.Default;
        return this with
        {
            SetUp = Live ? at.SetUp : $"{SetUp}; {at.SetUp}",
            OnWall = Live ? at.OnWall : $"{OnWall}; {at.OnWall}",
            Rest = at.Rest,
            Break = at.Break,
            Review = at.Review,
        };
    }
}

/// <summary>What is said of an evening that is drawn at home before cameras.</summary>
internal sealed record OnlineWords(string SetUp, string OnWall, string Rest, string Break, string Review)
{
    public static OnlineWords Default { get; } = CoreData.Read<OnlineWords>("online");
}
