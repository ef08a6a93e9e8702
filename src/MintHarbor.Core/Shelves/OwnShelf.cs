using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;

namespace MintHarbor.Core.Shelves;

/// <summary>Error that still counts as right in a drill, from the easiest item to the hardest, in the drill's unit.</summary>
public sealed record DrillLimit(double Easy, double Hard);

/// <summary>What a course changed of the studio's tables, and what it added; what is not in it is the table's. It is kept, exported and
/// read as it stands.</summary>
public sealed record OwnShelf
{
    public static OwnShelf None { get; } = new();

    /// <summary>Source of what a course says itself.</summary>
    public const string Source = "the course's own";

    /// <summary>Whole exercises: one with an id of the catalogue stands in its place, another is the course's own.</summary>
    public IReadOnlyList<Exercise> Exercises { get; init; } = [];

    /// <summary>Whole faults, as exercises are.</summary>
    public IReadOnlyList<Fault> Faults { get; init; } = [];

    /// <summary>By the drill's kind.</summary>
    public IReadOnlyDictionary<string, DrillLimit> Drills { get; init; } = new Dictionary<string, DrillLimit>();

    /// <summary>Things with the course's own price, wear and buyer.</summary>
    public IReadOnlyList<Material> Materials { get; init; } = [];

    /// <summary>Numbers of <see cref="TimingNumbers"/> by their id.</summary>
    public IReadOnlyDictionary<string, double> Timing { get; init; } = new Dictionary<string, double>();

    /// <summary>Why a number of it asks more of a model than the studio does; empty where none does.</summary>
    public string LooserBecause { get; init; } = "";

    /// <summary>Cautions in the course's words, and its own beside the studio's.</summary>
    public IReadOnlyList<Caution> Cautions { get; init; } = [];

    /// <summary>Which school it follows where schools disagree, by question; the first of each where it doesn't say.</summary>
    public IReadOnlyDictionary<string, string> Schools { get; init; } = new Dictionary<string, string>();

    [JsonIgnore]
    public bool IsEmpty => Write() == None.Write();

    /// <summary>The same with that exercise; one that is as the table has it is no longer the course's own.</summary>
    public OwnShelf With(Exercise e) =>
        this with
        {
            Exercises = Put(
                Exercises,
                e with
                {
                    Source = Source,
                },
                x => x.Id,
                Practice.Exercises.Find(e.Id) is { } t ? t with { Source = Source } : null
            ),
        };

    /// <summary>The same with that fault.</summary>
    public OwnShelf With(Fault f) =>
        this with
        {
            Faults = Put(
                Faults,
                f with
                {
                    Source = Source,
                },
                x => x.Id,
                Critiques.Faults.Find(f.Id) is { } t ? t with { Source = Source } : null
            ),
        };

    /// <summary>The same with those things; what is as the table has it is left out.</summary>
    public OwnShelf With(IEnumerable<Material> materials) =>
        this with
        {
            Materials = [.. materials.Where(m => Sessions.Materials.List.Find(m.Id) != m)],
        };

    /// <summary>The same with those cautions.</summary>
    public OwnShelf With(IEnumerable<Caution> cautions) =>
        this with
        {
            Cautions = [.. cautions.Where(c => Sessions.Cautions.All.All(t => t.Id != c.Id || t.Says != c.Says))],
        };

    /// <summary>The same with those numbers; the studio's own are left out, and so is the word where nothing is looser.</summary>
    public OwnShelf WithTiming(IReadOnlyDictionary<string, double> numbers, string? because)
    {
        var own = numbers.Where(n => TimingNumbers.Find(n.Key)?.Studio != n.Value).ToDictionary();
        var looser = own.Any(n => TimingNumbers.Find(n.Key)?.IsLooser(n.Value) ?? false);
        return this with { Timing = own, LooserBecause = looser ? (because ?? "").Trim() : "" };
    }

    /// <summary>The same with those limits; a drill's own are left out.</summary>
    public OwnShelf WithDrills(IReadOnlyDictionary<string, DrillLimit> limits) =>
        this with
        {
            Drills = limits
                .Where(l => Practice.Drills.Find(l.Key) is not { } d || l.Value != new DrillLimit(d.Allowed(0), d.Allowed(1)))
                .ToDictionary(),
        };

    /// <summary>The same with those schools; the first of each question goes without saying.</summary>
    public OwnShelf WithSchools(IReadOnlyDictionary<string, string> schools) =>
        this with
        {
            Schools = schools.Where(s => SchoolTable.All.All(q => q.Id != s.Key || q.Schools[0].Id != s.Value)).ToDictionary(),
        };

    public OwnShelf WithoutExercise(string id) => this with { Exercises = [.. Exercises.Where(e => e.Id != id)] };

    public OwnShelf WithoutFault(string id) => this with { Faults = [.. Faults.Where(f => f.Id != id)] };

    private static IReadOnlyList<T> Put<T>(IReadOnlyList<T> own, T one, Func<T, string> id, T? table)
        where T : class
    {
        var same = table is not null && JsonSerializer.Serialize(one, Json) == JsonSerializer.Serialize(table, Json);
        var at = own.Select(id).ToList().IndexOf(id(one));
        return same ? [.. own.Where((_, n) => n != at)]
            : at < 0 ? [.. own, one]
            : [.. own.Select((o, n) => n == at ? one : o)];
    }

    private static readonly JsonSerializerOptions Json = new(CoreData.Json)
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    public string Write() => JsonSerializer.Serialize(this, Json);

    /// <exception cref="InputException">No JSON of a shelf, or what <see cref="ShelfCheck"/> refuses.</exception>
    public static OwnShelf Read(string json)
    {
        OwnShelf own;
        try
        {
            own = JsonSerializer.Deserialize<OwnShelf>(json, Json) ?? throw new JsonException();
        }
        catch (Exception e) when (e is JsonException or NotSupportedException or ArgumentException)
        {
            var at = e is JsonException { Path: { Length: > 1 } path } ? $" at {path}" : "";
            throw new InputException($"that is no shelf{at}", "file", "JSON as the shelf writes it");
        }
        return ShelfCheck.Checked(own);
    }
}
