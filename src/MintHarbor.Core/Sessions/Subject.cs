namespace MintHarbor.Core.Sessions;

/// <summary>What an evening draws, in its own words: a cast is not taped by its feet, a mirror has no half ring.</summary>
/// <param name="One">What one long drawing is made from: a "pose", or a "view" of something that holds still by itself.</param>
/// <param name="Short">What a drawing of a few minutes is called.</param>
/// <param name="SetUp">What is set up, for the sheet that is pinned up; <paramref name="OnWall"/> shorter, for the display.</param>
/// <param name="Asked">Why somebody rests outside the plan.</param>
/// <param name="Stays">What keeps its place when a long drawing goes on.</param>
/// <param name="Marks">How one long drawing is kept, after its minutes.</param>
/// <param name="Warm">What opens the hand before it, where gestures don't.</param>
public sealed record Subject(
    ModelKind Id,
    string One,
    string Short,
    string SetUp,
    string OnWall,
    string Rest,
    string Asked,
    string Break,
    string Stays,
    string Marks,
    string? Warm = null
)
{
    public static IReadOnlyList<Subject> All { get; } = CoreData.Read<List<Subject>>("subjects");

    public static Subject Of(ModelKind model) => All.First(s => s.Id == model);
}
