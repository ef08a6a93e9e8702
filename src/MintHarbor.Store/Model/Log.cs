using NodaTime;

namespace MintHarbor.Store.Model;

public enum LogKind
{
    Grade,
    Critique,
    Role,
    Settings,
    Child,
    Export,
    View,
    Account,
    Removal,
}

/// <summary>What was done, by whom, from what to what, and why. Only added to: the database itself refuses to change or take away a line.
/// Names are kept as they were; nothing here refers to a row that may go.</summary>
public sealed class LogEntry
{
    public long Id { get; set; }
    public Instant At { get; set; }

    /// <summary>Null for what belongs to no course.</summary>
    public int? CourseId { get; set; }
    public LogKind Kind { get; set; }

    /// <summary>Null for nobody who is known, as of a sign-in that failed.</summary>
    public int? ById { get; set; }
    public string By { get; set; } = "";

    /// <summary>Of what: a person, a work, a sheet.</summary>
    public string About { get; set; } = "";
    public string What { get; set; } = "";
    public string Was { get; set; } = "";
    public string Now { get; set; } = "";
    public string Why { get; set; } = "";

    /// <summary>The way through a project whose grade it speaks of; null for anything else. It outlasts the way.</summary>
    public int? WorkId { get; set; }
}
