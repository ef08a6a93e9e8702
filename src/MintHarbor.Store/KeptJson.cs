using System.Text.Json;
using Microsoft.Extensions.Caching.Memory;
using MintHarbor.Core.Sessions;

namespace MintHarbor.Store;

/// <summary>Timetables and requests by their text: they are read with almost every page, change with few, and nobody can change one
/// that was read. The same text is one value, whoever reads it.</summary>
public static class KeptJson
{
    /// <summary>Letters of text that are kept: a long timetable has some twenty thousand.</summary>
    private const long Most = 16L << 20;

    private static readonly MemoryCache Values = new(new MemoryCacheOptions { SizeLimit = Most, CompactionPercentage = 0.25 });

    /// <summary>A timetable; one of before lines had identities gets them here (the room clock's were given by a migration, alike).</summary>
    public static Proposal Plan(string json) =>
        Kept(json, j =>
            Deserialised<Proposal>(j) is var p && Identities.Complete(p.Items) ? p : p with { Items = Identities.Assign(p.Items) }
        );

    public static PlanRequest Request(string json) => Kept(json, Deserialised<PlanRequest>);

    private static T Deserialised<T>(string json) => JsonSerializer.Deserialize<T>(json, HarborContext.Json)!;

    private static T Kept<T>(string json, Func<string, T> read)
    {
        if (Values.TryGetValue((typeof(T), json), out T? kept))
            return kept!;
        return Values.Set((typeof(T), json), read(json), new MemoryCacheEntryOptions { Size = json.Length });
    }
}
