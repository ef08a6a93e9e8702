using Microsoft.AspNetCore.Identity;
using NodaTime;

namespace MintHarbor.Store.Model;

/// <summary>Somebody who signs in.</summary>
public sealed class Person : IdentityUser<int>
{
    public string Name { get; set; } = "";

    /// <summary>May open courses of their own.</summary>
    public bool Teaches { get; set; }

    /// <summary>Under 18, as far as the courses they are in know: figures are dressed for them wherever they are.</summary>
    public bool Minor { get; set; }
}

/// <summary>One browser in which somebody is signed in. Its cookie names this row: ended, or idle for too long, it opens nothing.</summary>
public sealed class SignedIn
{
    public Guid Id { get; set; }
    public int PersonId { get; set; }
    public Instant At { get; set; }

    /// <summary>When it was last used, to some minutes.</summary>
    public Instant SeenAt { get; set; }

    /// <summary>Chosen on signing in: it outlasts the browser's window and holds for weeks.</summary>
    public bool Stays { get; set; }
    public Instant? EndedAt { get; set; }
}

/// <summary>A form that was sent and done: sent again, it is not done again.</summary>
public sealed class OnceKey
{
    /// <summary>How long one is kept: nobody sends a form again after that.</summary>
    public static readonly Duration Lasts = Duration.FromDays(2);

    public Guid Key { get; set; }
    public int PersonId { get; set; }

    /// <summary>A print of the address and the fields.</summary>
    public string Sent { get; set; } = "";

    /// <summary>Where whoever sends it again is led.</summary>
    public string Went { get; set; } = "";
    public Instant At { get; set; }
}

public enum CourseRole
{
    Student,
    Assistant,
    Instructor,
}

/// <summary>Who belongs to a course, and as what: every right comes from here.</summary>
public sealed class Membership
{
    public int CourseId { get; set; }
    public Course Course { get; set; } = null!;
    public int PersonId { get; set; }
    public Person Person { get; set; } = null!;
    public CourseRole Role { get; set; }
    public int? Seat { get; set; }

    /// <summary>The drawing hand.</summary>
    public Core.Rooms.Hand Hand { get; set; }

    /// <summary>The eye that is kept open while measuring; null where it wasn't tried.</summary>
    public Core.Practice.DominantEye? Eye { get; set; }

    /// <summary>What their place must have: ids of <see cref="Core.Rooms.SeatPlanner.Needs"/>.</summary>
    public List<string> Needs { get; set; } = [];

    /// <summary>When a guardian agreed that pictures of a minor's work leave the course; null where nobody did.</summary>
    public LocalDate? ConsentOn { get; set; }

    /// <summary>What they agreed to: a show, a catalogue, the school's page.</summary>
    public string ConsentFor { get; set; } = "";
}

/// <summary>An open invitation: whoever holds the link may join under this name.</summary>
public sealed class Invitation
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public Course Course { get; set; } = null!;
    public string Token { get; set; } = "";
    public string Name { get; set; } = "";
    public string Mail { get; set; } = "";
    public Instant SentAt { get; set; }
    public Instant Expires { get; set; }
    public Instant? JoinedAt { get; set; }
}

/// <summary>A mail that would be sent. The outbox is a stand-in: it keeps them to be read in the application.</summary>
public sealed class OutboxMail
{
    public int Id { get; set; }

    /// <summary>Course the mail belongs to; null for account mails.</summary>
    public int? CourseId { get; set; }
    public string To { get; set; } = "";
    public string Subject { get; set; } = "";
    public string Body { get; set; } = "";

    /// <summary>Path in the application that the mail asks to open.</summary>
    public string Link { get; set; } = "";
    public Instant SentAt { get; set; }
}
