namespace MintHarbor.Core.Projects;

/// <summary>One of those who draw a project together.</summary>
/// <param name="Student">Their person's id.</param>
/// <param name="Role">What they do in it, in a word; empty where everybody does all.</param>
/// <param name="Rows">Ids of the rubric's rows that their role answers for; none leaves them the whole group's grade.</param>
public sealed record GroupMember(int Student, string Role, IReadOnlyList<string> Rows);

/// <summary>What of a grade is the group's and what is the member's own.</summary>
/// <param name="Common">Per cent of the grade that is everybody's, 0 to 100.</param>
/// <param name="Rows">Rows that make the rest.</param>
public sealed record GradeShare(int Common, IReadOnlyList<string> Rows);

/// <summary>Students who hand in one sheet and are given one set of levels.</summary>
/// <param name="Common">Per cent of each grade that is everybody's; 100 grades all alike.</param>
public sealed record WorkGroup(string Name, int Common, IReadOnlyList<GroupMember> Members)
{
    public const int Most = 6,
        LongestName = 40;

    public GroupMember? Of(int student) => Members.FirstOrDefault(m => m.Student == student);

    /// <summary>A member's share; null where everybody is graded alike, or their role answers for no row.</summary>
    public GradeShare? Share(int student) => Common < 100 && Of(student) is { Rows.Count: > 0 } m ? new(Common, m.Rows) : null;

    /// <summary>Everybody with somebody, each once, with roles that the rubric has rows for.</summary>
    /// <param name="students">Who works on the project.</param>
    /// <exception cref="InputException">What is wrong, and what is accepted.</exception>
    public static IReadOnlyList<WorkGroup> Checked(
        IReadOnlyList<WorkGroup> groups,
        IReadOnlyList<RubricRow> rubric,
        IReadOnlyCollection<int> students
    )
    {
        foreach (var g in groups)
        {
            Names.Checked(g.Name, "name", LongestName);
            if (g.Members.Count is < 2 or > Most)
                throw new InputException($"{g.Name} has {Say.Plural(g.Members.Count, "member")}", "members", $"2 to {Most}");
            if (g.Common is < 0 or > 100)
                throw new InputException($"{g.Common} % in common", "common", "0 to 100 %");
            foreach (var m in g.Members)
            {
                if (m.Role.Length > LongestName || m.Role.Any(char.IsControl))
                    throw new InputException($"a role of {m.Role.Length} letters", "role", $"up to {LongestName} letters on one line");
                if (m.Rows.FirstOrDefault(r => rubric.All(x => x.Id != r)) is { } row)
                    throw new InputException($"'{row}' is no row of the rubric", "rows", string.Join(" | ", rubric.Select(r => r.Id)));
                if (!students.Contains(m.Student))
                    throw new InputException("somebody is not in the project", "members", "students of the project");
            }
        }
        if (groups.GroupBy(g => g.Name).FirstOrDefault(g => g.Count() > 1) is { } twice)
            throw new InputException($"two groups are called {twice.Key}", "name", "names that tell them apart");
        if (groups.SelectMany(g => g.Members).GroupBy(m => m.Student).Any(g => g.Count() > 1))
            throw new InputException("somebody stands in two groups", "members", "each student in one group at most");
        return groups;
    }
}
