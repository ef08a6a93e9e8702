using System.Collections.Concurrent;

namespace MintHarbor.Core.Objects;

/// <summary>The things and arrangements that ship with the core, read once; a thing is made when it is first asked for.</summary>
public static class ThingShelf
{
    private static readonly Lazy<IReadOnlyList<Thing>> LazyThings = new(() => CoreData.Read<List<Thing>>("objects/things"));
    private static readonly Lazy<IReadOnlyList<Arrangement>> LazyArrangements = new(() =>
        CoreData.Read<List<Arrangement>>("objects/arrangements")
    );
    private static readonly ConcurrentDictionary<string, Lazy<ThingModel>> Made = new();

    public static IReadOnlyList<Thing> Things => LazyThings.Value;
    public static IReadOnlyList<Arrangement> Arrangements => LazyArrangements.Value;

    public static Arrangement? Find(string? id) => Arrangements.FirstOrDefault(a => a.Id == id);

    /// <exception cref="InputException">No thing of that id.</exception>
    internal static ThingModel Model(string id, string field = "thing")
    {
        var thing = Things.FirstOrDefault(t => t.Id == id)
            ?? throw new InputException($"there is no '{id}' on the shelf", field, string.Join(", ", Things.Select(t => t.Id)));
        return Made.GetOrAdd(id, _ => new(() => new(thing))).Value;
    }
}
