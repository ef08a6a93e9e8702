using MintHarbor.Core.Sessions;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Web.Pages.Courses;

/// <summary>The fields of a course as they are typed.</summary>
public sealed class CourseForm
{
    public string? Name { get; set; }
    public IsoDayOfWeek Weekday { get; set; } = IsoDayOfWeek.Tuesday;
    public TimeOnly StartsAt { get; set; } = new(19, 0);
    public int Minutes { get; set; } = 150;
    public string? Room { get; set; }
    public Approach Approach { get; set; } = Approach.Alternating;
    public string Paper { get; set; } = "18x24in";
    public bool Inch { get; set; }
    public bool Minors { get; set; }
    public string Canon { get; set; } = "academic";
    public string HeadCanon { get; set; } = "classical-head";
    public string Zone { get; set; } = "Europe/Berlin";

    public static CourseForm Of(Course c) =>
        new()
        {
            Name = c.Name,
            Weekday = c.Weekday,
            StartsAt = c.StartsAt.ToTimeOnly(),
            Minutes = c.Minutes,
            Room = c.Room,
            Approach = c.Approach,
            Paper = c.Paper,
            Inch = c.Inch,
            Minors = c.Minors,
            Canon = c.Canon,
            HeadCanon = c.HeadCanon,
            Zone = c.Zone,
        };

    /// <summary>The fields by the names that a person knows them by.</summary>
    public IEnumerable<(string Name, object? Value)> Named() =>
        [
            ("the name", Name),
            ("the weekday", Weekday),
            ("the hour", StartsAt),
            ("the length", Minutes),
            ("the room", Room),
            ("the approach", Approach),
            ("the paper", Paper),
            ("inch or mm", Inch ? "inch" : "mm"),
            ("under 18", Minors ? "yes" : "no"),
            ("the canon of figures", Canon),
            ("the canon of heads", HeadCanon),
            ("the time zone", Zone),
        ];

    public CourseDetails Details() =>
        new(
            Name ?? "",
            Weekday,
            LocalTime.FromTimeOnly(StartsAt),
            Minutes,
            Room ?? "",
            Approach,
            Paper ?? "",
            Inch,
            Minors,
            Canon ?? "",
            HeadCanon ?? "",
            (Zone ?? "").Trim()
        );
}
