using MintHarbor.Core.Hands;
using MintHarbor.Core.Practice;
using NodaTime;

namespace MintHarbor.Store.Model;

/// <summary>What was drawn for one item of a round, and what was read of it: apart from the round, whose state stays small.</summary>
public sealed class DrawnAnswer
{
    public int RoundId { get; set; }
    public int Number { get; set; }

    /// <summary>As <see cref="PenTrace.Write"/> wrote it.</summary>
    public string Trace { get; set; } = "";
    public HandReading Reading { get; set; } = null!;
}

/// <summary>A list of timed drawings that was gone through.</summary>
public sealed class PracticeSitting
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public int StudentId { get; set; }
    public Person Student { get; set; } = null!;
    public int? AssignmentId { get; set; }

    /// <summary>Given by the page that ran the clock: sent twice it is one sitting.</summary>
    public Guid Key { get; set; }
    public SittingLog Log { get; set; } = null!;
    public Instant EndedAt { get; set; }
}

/// <summary>The one line of a day.</summary>
public sealed class DailyLine
{
    public int CourseId { get; set; }
    public int StudentId { get; set; }
    public Person Student { get; set; } = null!;

    /// <summary>Of the course's zone.</summary>
    public LocalDate Day { get; set; }

    /// <summary>Drawn on the screen; null where it was drawn on paper.</summary>
    public string? Trace { get; set; }

    /// <summary>Drawn over it, in the other colour.</summary>
    public string? Second { get; set; }

    /// <summary>What it is of, in the student's words.</summary>
    public string Of { get; set; } = "";
    public Instant At { get; set; }
    public uint Version { get; set; }
}

/// <summary>One piece of evidence of how well a student measures by eye: a round of drills, a drill sheet on paper, a critiqued drawing.</summary>
public sealed class MeasurePoint
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public int StudentId { get; set; }
    public Person Student { get; set; } = null!;
    public string Measure { get; set; } = "";
    public EvidenceOf From { get; set; }

    /// <summary>Id of the round, drill sheet or sheet.</summary>
    public int Of { get; set; }
    public string Name { get; set; } = "";
    public Instant At { get; set; }
    public double Lean { get; set; }
    public double Scatter { get; set; }

    public StagePoint Point => new(From, Name, At, Lean, Scatter);
}

/// <summary>A student's measure moved from one stage of measuring to another.</summary>
public sealed class StageMove
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public int StudentId { get; set; }
    public Person Student { get; set; } = null!;
    public string Measure { get; set; } = "";
    public MeasuringStage From { get; set; }
    public MeasuringStage To { get; set; }

    /// <summary>The numbers that moved it; null where an instructor's word did.</summary>
    public StageEvidence? Evidence { get; set; }

    /// <summary>Why, in the instructor's words; empty where numbers moved it.</summary>
    public string Word { get; set; } = "";
    public string By { get; set; } = "";
    public Instant At { get; set; }
}
