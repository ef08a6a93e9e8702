using MintHarbor.Store.Model;

namespace MintHarbor.Web.Access;

/// <summary>What the address of a request names, loaded and allowed by <see cref="CourseGate"/> before any page runs.</summary>
public sealed class CourseScope
{
    public Membership Member { get; set; } = null!;
    public Course Course => Member.Course;
    public CourseRole Role => Member.Role;
    public bool IsStudent => Role == CourseRole.Student;
    public bool IsInstructor => Role == CourseRole.Instructor;

    /// <summary>The page only shows a sheet's picture: what several drew together each of them may look at.</summary>
    public bool Looks { get; set; }
    public Meeting? Meeting { get; set; }
    public Sheet? Sheet { get; set; }
    public IReadOnlyList<Sheet> Set { get; set; } = [];
    public DrillRound? Round { get; set; }
    public Assignment? Assignment { get; set; }
    public PaperSheet? DrillSheet { get; set; }
    public Project? Project { get; set; }
    public ProjectWork? Work { get; set; }
    public ProjectPlan? Plan { get; set; }
    public BookedModel? Sitter { get; set; }
    public Membership? Student { get; set; }
}

/// <summary>A page that shows no more of a sheet than its picture.</summary>
[AttributeUsage(AttributeTargets.Class)]
public sealed class LooksAttribute : Attribute;

/// <summary>Who may open a page or use a handler of it; without it every member of the course may.</summary>
[AttributeUsage(AttributeTargets.Class | AttributeTargets.Method)]
public sealed class ForAttribute(params CourseRole[] roles) : Attribute
{
    public IReadOnlyList<CourseRole> Roles { get; } = roles;
}
