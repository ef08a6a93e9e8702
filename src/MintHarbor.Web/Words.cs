using System.Globalization;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using MintHarbor.Core.Technique;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Web;

/// <summary>Dates, names of things and states as the studio says them.</summary>
public static class Words
{
    public static string Day(LocalDate d) => d.ToString("dddd d MMMM", CultureInfo.InvariantCulture);

    public static string WeekDay(LocalDate d) => d.ToString("ddd d MMM", CultureInfo.InvariantCulture);

    public static string ShortDay(LocalDate d) => d.ToString("d MMM", CultureInfo.InvariantCulture);

    public static string Clock(LocalTime t) => t.ToString("HH:mm", CultureInfo.InvariantCulture);

    public static LocalDateTime Local(Instant i, Course c) => i.InZone(Zone(c)).LocalDateTime;

    public static string When(Instant i, Course c) => Local(i, c).ToString("d MMMM, HH:mm", CultureInfo.InvariantCulture);

    /// <summary>A moment that belongs to no course, so to no zone.</summary>
    public static string Utc(Instant i) => i.ToString("d MMM HH:mm 'UTC'", CultureInfo.InvariantCulture);

    /// <summary>Of the last six days the day of the week, before that the date: a Saturday of two weeks ago is not this one.</summary>
    public static string WhenShort(Instant i, Course c, Instant now) =>
        Local(i, c).ToString(now - i < Duration.FromDays(6) ? "ddd HH:mm" : "d MMM, HH:mm", CultureInfo.InvariantCulture);

    public static DateTimeZone Zone(Course c) => c.TimeZone;

    public static LocalDate Today(Course c, Instant now) => now.InZone(Zone(c)).Date;

    /// <summary>A name set apart from the text around it, so that one read from the right leaves numbers beside it where they are.</summary>
    public static string Apart(string name) => $"\u2068{name}\u2069";

    public static string InDays(LocalDate d, LocalDate today) =>
        Period.Between(today, d, PeriodUnits.Days).Days switch
        {
            0 => "today",
            1 => "tomorrow",
            -1 => "yesterday",
            2 => "in two days",
            > 0 and var n => $"in {n} days",
            var n => $"{-n} days ago",
        };

    public static string Of(Approach a) =>
        a switch
        {
            Approach.QuickFirst => "Quick-first",
            Approach.LongFirst => "Long-first",
            _ => "Alternating",
        };

    public static string Of(ModelKind m) => Subject.Of(m).Name;

    public static string Of(SheetState s) =>
        s switch
        {
            SheetState.Placing => "not handed in",
            SheetState.Example => "example",
            SheetState.Drafted => "draft",
            SheetState.Kept => "kept beside",
            _ => s.ToString().ToLowerInvariant(),
        };

    /// <summary>A sheet's state as its student may know it: whether a draft exists is the instructor's affair.</summary>
    public static string Of(SheetState s, bool own) => Of(own && s == SheetState.Drafted ? SheetState.Waiting : s);

    /// <summary>The mark beside what the ink says.</summary>
    public static string Shape(TechniqueVerdict v) =>
        v switch
        {
            TechniqueVerdict.Off => "near",
            TechniqueVerdict.CantTell => "unknown",
            _ => "holds",
        };

    public static string Of(CourseRole r) => r.ToString().ToLowerInvariant();

    public static string Of(Assignment a, Course c) =>
        a.PaperBatch is not null ? "Drill sheet on paper"
        : a.Exercise is { } e ? c.Shelf.Exercise(e)?.Name ?? e
        : Drills.Find(a.Drill)?.Name ?? "Drill";

    public static string Kebab(Enum e) => System.Text.Json.JsonNamingPolicy.KebabCaseLower.ConvertName(e.ToString());

    /// <summary>Minutes that are left, as said on the wall: whole, rounded up.</summary>
    public static int Left(double seconds) => (int)Math.Ceiling(seconds / 60 - 1e-6);
}
