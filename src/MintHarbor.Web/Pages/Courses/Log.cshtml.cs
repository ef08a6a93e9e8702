using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Courses;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;
using NodaTime;
using NodaTime.Text;

namespace MintHarbor.Web.Pages.Courses;

/// <summary>Who did what: grades, critiques, roles, settings, children's protection, exports, views, sign-ins. Nobody changes it.</summary>
[For(CourseRole.Instructor)]
public sealed class LogModel(CourseScope scope, LogActions log) : CoursePage(scope)
{
    private const int MostRows = 20_000;

    [BindProperty(SupportsGet = true)]
    public LogKind? Kind { get; set; }
    public IReadOnlyList<LogEntry> Lines { get; private set; } = [];
    public Paging Paging { get; private set; } = null!;

    public async Task OnGetAsync(int? part)
    {
        var all = log.Of(Course, Kind);
        Paging = Paging.Of(part, LogActions.APage, await all.CountAsync(), "lines") with { Asked = Kind is { } k ? $"kind={k}&" : "" };
        Lines = await all.Skip(Paging.Skip).Take(LogActions.APage).ToListAsync();
    }

    /// <summary>The same as a table; taking it out is a line of its own.</summary>
    public async Task<IActionResult> OnGetCsvAsync()
    {
        var lines = await log.Of(Course, Kind).Take(MostRows).ToListAsync();
        await log.Exported(Course, "the log");
        var csv = Roster.Csv([
            ["at", "kind", "by", "about", "what", "was", "now", "why"],
            .. lines.Select(l =>
                (IEnumerable<string>)[InstantPattern.General.Format(l.At), Word(l.Kind), l.By, l.About, l.What, l.Was, l.Now, l.Why]
            ),
        ]);
        return File(Encoding.UTF8.GetBytes(csv), "text/csv; charset=utf-8", $"log-{Course.Id}.csv");
    }

    public static string Word(LogKind kind) =>
        kind switch
        {
            LogKind.Grade => "grades",
            LogKind.Critique => "critiques",
            LogKind.Role => "who is in",
            LogKind.Settings => "settings",
            LogKind.Child => "under 18",
            LogKind.Export => "taken out",
            LogKind.View => "looked at",
            LogKind.Account => "accounts",
            _ => "taken away",
        };

    /// <summary>How a course's settings are called where they are set.</summary>
    private static readonly Dictionary<string, string> Settings = new()
    {
        [nameof(Course.Name)] = "name",
        [nameof(Course.Weekday)] = "meets on",
        [nameof(Course.StartsAt)] = "from",
        [nameof(Course.Minutes)] = "minutes",
        [nameof(Course.Room)] = "room",
        [nameof(Course.Approach)] = "approach",
        [nameof(Course.Paper)] = "paper",
        [nameof(Course.Inch)] = "lengths in inch",
        [nameof(Course.Minors)] = "students under 18",
        [nameof(Course.Canon)] = "canon",
        [nameof(Course.HeadCanon)] = "heads by",
        [nameof(Course.OwnFigure)] = "own canon",
        [nameof(Course.OwnHead)] = "own canon of heads",
        [nameof(Course.Book)] = "what counts over the term",
        [nameof(Course.Zone)] = "time zone",
        [nameof(Course.Studio)] = "the room's plan",
        [nameof(Course.Pay)] = "what the model is paid",
        [nameof(Course.Medium)] = "medium",
        [nameof(Course.DaysOff)] = "days off",
        [nameof(Course.Bookings)] = "bookings",
    };

    public static string What(LogEntry l) => Settings.GetValueOrDefault(l.What, l.What);

    private static string Value(string value) =>
        value switch
        {
            "True" or "true" => "yes",
            "False" or "false" => "no",
            _ => value,
        };

    /// <summary>From what to what, as one reads it.</summary>
    public static string Change(LogEntry l) =>
        (Value(l.Was), Value(l.Now)) switch
        {
            ("", "") => "",
            ("", var now) => now,
            (var was, "") => $"was {was}",
            var (was, now) => $"{was} → {now}",
        };
}
