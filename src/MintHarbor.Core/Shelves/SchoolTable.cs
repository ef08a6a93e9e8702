using MintHarbor.Core.Canons;

namespace MintHarbor.Core.Shelves;

/// <summary>One school's answer to a question.</summary>
/// <param name="Line">What a student is told where the course chose it; null where nothing changes.</param>
/// <param name="From">Of a canon's rule, what it is measured from in this school; empty for the rule's own place.</param>
/// <param name="Below">Of a canon's rule, its value lies below this.</param>
/// <param name="AtLeast">Of a canon's rule, its value is this at least.</param>
public sealed record School(
    string Id,
    string Name,
    string Says,
    string? Line = null,
    string? From = null,
    double? Below = null,
    double? AtLeast = null
)
{
    /// <summary>Whether a canon's rule is as this school has it.</summary>
    public bool Holds(CanonRule rule) =>
        (From is null || From == (rule.From ?? "")) && !(rule.Expected >= Below) && !(rule.Expected < AtLeast);
}

/// <summary>A question on which schools disagree.</summary>
/// <param name="Decides">What settles it in a course: "approach", "medium" and "canon" are settled there, "exercise" by each exercise, "both"
/// stand side by side, and "choice" is chosen here.</param>
/// <param name="Rule">The canon's rule that answers it.</param>
public sealed record SchoolQuestion(string Id, string Question, string Decides, IReadOnlyList<School> Schools, string? Rule = null)
{
    /// <summary>What the course chose; the first where it said nothing.</summary>
    public School Chosen(OwnShelf own) => Schools.FirstOrDefault(s => s.Id == own.Schools.GetValueOrDefault(Id)) ?? Schools[0];
}

/// <summary>Where instructors disagree: both schools as data (common practice, no source).</summary>
public static class SchoolTable
{
    public const string Choice = "choice";

    public static IReadOnlyList<SchoolQuestion> All { get; } = CoreData.Read<List<SchoolQuestion>>("schools");
}
