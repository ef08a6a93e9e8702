using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>The book of those who pose: who sits when, and what a month is paid. It is the instructors' own.</summary>
[For(CourseRole.Instructor)]
public sealed class ModelsModel(CourseScope scope, HarborContext db, ModelActions models, LogActions log, IClock clock)
    : CoursePage(scope),
        IShowsProblems
{
    public IReadOnlyList<BookedModel> Book { get; private set; } = [];
    public IReadOnlyList<Meeting> Coming { get; private set; } = [];
    public ILookup<int, ModelBooking> Booked { get; private set; } = Array.Empty<ModelBooking>().ToLookup(b => b.MeetingId);
    public YearMonth Month { get; private set; }
    public IReadOnlyList<ModelPaid> Paid { get; private set; } = [];
    public LocalDate Today { get; private set; }

    public async Task OnGetAsync(string? month)
    {
        Today = Words.Today(Course, clock.GetCurrentInstant());
        Month = Read(month);
        Book = await models.Book(Course.Id);
        var coming = await db
            .Meetings.AsNoTracking()
            .Where(m => m.CourseId == Course.Id && m.Date >= Today)
            .OrderBy(m => m.Date)
            .ThenBy(m => m.StartsAt)
            .Take(24)
            .ToListAsync();
        Coming = [.. coming.Where(m => m.Request.Wish.HasLiveModel)];
        var ids = Coming.Select(m => m.Id).ToList();
        Booked = (await db.ModelBookings.AsNoTracking().Include(b => b.Model).Where(b => ids.Contains(b.MeetingId)).ToListAsync()).ToLookup(
            b => b.MeetingId
        );
        Paid = await models.Paid(Course, Month);
    }

    private YearMonth Read(string? month) =>
        string.IsNullOrEmpty(month) ? Today.ToYearMonth()
        : DateTime.TryParseExact(month, "yyyy-MM", CultureInfo.InvariantCulture, DateTimeStyles.None, out var m) ? new(m.Year, m.Month)
        : throw new InputException($"'{month}' is no month", "month", "a year and a month, as in 2026-12");

    public async Task<IActionResult> OnPostAddAsync(string? name)
    {
        var added = await models.Add(Course, new(name, [], [], 1, ""), Me.Person.Name);
        return To($"models/{added.Id}");
    }

    /// <summary>Who sits at a meeting.</summary>
    public async Task<IActionResult> OnPostSitsAsync(int of, int[] sits)
    {
        var meeting = await db.Meetings.SingleOrDefaultAsync(m => m.Id == of && m.CourseId == Course.Id);
        if (meeting is null)
            return NotFound();
        await models.Sits(meeting, [.. sits.Where(s => s > 0)]);
        return Redirect($"/courses/{Course.Id}/models#m{of}");
    }

    /// <summary>A month's pay as a table.</summary>
    public async Task<IActionResult> OnGetPayAsync(string? month)
    {
        await OnGetAsync(month);
        await log.Exported(Course, "the models' pay");
        string Money(double v) => v.ToString("0.00", CultureInfo.InvariantCulture);
        var csv = Roster.Csv([
            ["model", "date", "meeting", "booked minutes", "paid minutes", "posed minutes", "amount", "currency"],
            .. Paid.Select(p =>
                (IEnumerable<string>)
                    [
                        p.Name,
                        p.Date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                        $"{p.Meeting}",
                        Money(p.Pay.BookedMinutes),
                        Money(p.Pay.PaidMinutes),
                        Money(p.Pay.PosedMinutes),
                        Money(p.Pay.Amount),
                        p.Pay.Currency,
                    ]
            ),
        ]);
        return File(
            Encoding.UTF8.GetBytes(csv),
            "text/csv; charset=utf-8",
            $"models-{Month.ToString("yyyy-MM", CultureInfo.InvariantCulture)}.csv"
        );
    }

    public static string Said(BookingAnswer answer) =>
        answer switch
        {
            BookingAnswer.Comes => "comes",
            BookingAnswer.CanNot => "can't come",
            _ => "asked",
        };

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await OnGetAsync(null);
        return Page();
    }
}
