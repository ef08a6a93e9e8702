using MintHarbor.Core.Sessions;
using NodaTime;

namespace MintHarbor.Store.Model;

/// <summary>Somebody who poses for a course, in the instructor's book: a name, what they hold gladly and not, their pay. Nothing of their body, no
/// photograph. They see and mend their own page by a secret link.</summary>
public sealed class BookedModel
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public Course Course { get; set; } = null!;
    public string Name { get; set; } = "";

    /// <summary>Ids of <see cref="ModelOfDay.Wishes"/>.</summary>
    public List<string> Gladly { get; set; } = [];
    public List<string> RatherNot { get; set; } = [];

    /// <summary>Share of the usual lengths that they are asked for.</summary>
    public double Ease { get; set; } = 1;

    /// <summary>What they want the room to know, in their own words.</summary>
    public string Note { get; set; } = "";

    /// <summary>Null where the course's pay holds.</summary>
    public double? RatePerHour { get; set; }
    public double RatePerPosedHour { get; set; }

    /// <summary>Whoever has it sees and mends the page.</summary>
    public string Secret { get; set; } = "";

    /// <summary>Who changed it last, and when: "the model", or an instructor's name.</summary>
    public string By { get; set; } = "";
    public Instant At { get; set; }

    /// <summary>When they were taken out of the book: what was posed and paid stays.</summary>
    public Instant? LeftAt { get; set; }
    public uint Version { get; set; }
    public List<ModelBooking> Bookings { get; set; } = [];

    public ModelOfDay OfDay => new(Ease, Gladly, RatherNot);

    /// <summary>What they are paid by.</summary>
    public PayRules PayBy(Course course)
    {
        var usual = course.Pay ?? TimingRules.Default.Pay;
        return usual with { RatePerHour = RatePerHour ?? usual.RatePerHour, RatePerPosedHour = RatePerPosedHour };
    }
}

public enum BookingAnswer
{
    Asked,
    Comes,
    CanNot,
}

/// <summary>A model asked for a meeting, and what they said.</summary>
public sealed class ModelBooking
{
    public int MeetingId { get; set; }
    public Meeting Meeting { get; set; } = null!;
    public int ModelId { get; set; }
    public BookedModel Model { get; set; } = null!;
    public BookingAnswer Answer { get; set; }
    public Instant At { get; set; }
}
