using MintHarbor.Core.Critiques;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;

namespace MintHarbor.Core.Shelves;

/// <summary>What a course works by: the studio's tables with what the course changed.</summary>
public sealed class CourseShelf
{
    /// <summary>The tables as they are.</summary>
    public static CourseShelf Studio { get; } = new(OwnShelf.None);

    public CourseShelf(OwnShelf own)
    {
        Own = own;
        Exercises = Over(Practice.Exercises.All, own.Exercises, e => e.Id);
        Faults = Over(Critiques.Faults.All, own.Faults, f => f.Id);
        Materials = Sessions.Materials.List with { Items = Over(Sessions.Materials.List.Items, own.Materials, m => m.Id) };
        Timing = TimingNumbers.Over(TimingRules.Default, own.Timing);
        Cautions = Over(Sessions.Cautions.All, own.Cautions, c => c.Id);
    }

    public OwnShelf Own { get; }
    public IReadOnlyList<Exercise> Exercises { get; }
    public IReadOnlyList<Fault> Faults { get; }
    public MaterialList Materials { get; }
    public TimingRules Timing { get; }
    public IReadOnlyList<Caution> Cautions { get; }

    private static IReadOnlyList<T> Over<T>(IReadOnlyList<T> table, IReadOnlyList<T> own, Func<T, string> id)
    {
        if (own.Count == 0)
            return table;
        var changed = own.ToDictionary(id);
        var known = table.Select(id).ToHashSet();
        return [.. table.Select(t => changed.GetValueOrDefault(id(t), t)), .. own.Where(o => !known.Contains(id(o)))];
    }

    public Exercise? Exercise(string? id) => Exercises.FirstOrDefault(e => e.Id == id);

    /// <exception cref="InputException">No exercise of the shelf.</exception>
    public Exercise GetExercise(string id, string field = "exercise") =>
        Exercise(id) ?? throw new InputException($"unknown exercise '{id}'", field, string.Join(" | ", Exercises.Select(e => e.Id)));

    public Fault? Fault(string? id) => Faults.FirstOrDefault(f => f.Id == id);

    /// <summary>How far off an answer of the drill may be; null where the drill's own limit holds.</summary>
    public DrillLimit? Limit(string drill) => Own.Drills.GetValueOrDefault(drill);

    /// <summary>What the schools that the course chose say to a student, in the order of the questions.</summary>
    public IReadOnlyList<string> HouseLines =>
        [.. SchoolTable.All.Where(q => q.Decides == SchoolTable.Choice).Select(q => q.Chosen(Own).Line).OfType<string>()];
}
