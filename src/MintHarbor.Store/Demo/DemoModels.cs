using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Demo;

/// <summary>Who poses, and evenings of other subjects: a cast, a sitter, mirrors at home, a morning in the museum as a double lesson.</summary>
internal sealed class DemoModels(HarborContext db, Person instructor)
{
    public async Task Load(Course evening, Course young, Func<Instant, IClock> at, Instant now)
    {
        (evening, young) = (await Anew(evening), await Anew(young));
        await Subjects(evening, new(db, at(now)));
        await Museum(young, new(db, at(now)));
        await Book(evening, new(db, at(now)), now);
    }

    private Task<Course> Anew(Course course) => db.Courses.Include(c => c.Members).SingleAsync(c => c.Id == course.Id);

    /// <summary>After the term's long pose: a cast in tone, self in a mirror at home, somebody who sits.</summary>
    private async Task Subjects(Course course, PlanActions plans)
    {
        var last = await db.Meetings.Where(m => m.CourseId == course.Id).OrderByDescending(m => m.Date).FirstAsync();
        var students = course.Members.Count(m => m.Role == CourseRole.Student);
        PlanWish Wish(ModelKind model, Purpose purpose, Approach approach, int minutes) =>
            new()
            {
                Minutes = minutes,
                Approach = approach,
                Purpose = purpose,
                Students = students,
                Model = model,
                Draped = true,
                Seed = 90 + (int)model,
            };
        var date = last.Date;
        foreach (
            var (wish, online) in new[]
            {
                (Wish(ModelKind.Cast, Purpose.Tone, Approach.Alternating, course.Minutes), false),
                (Wish(ModelKind.Mirror, Purpose.Portrait, Approach.Alternating, 120), true),
                (Wish(ModelKind.Sitter, Purpose.Portrait, Approach.LongFirst, course.Minutes), false),
            }
        )
        {
            date = date.PlusWeeks(1);
            await Plan(plans, course, date, course.StartsAt, new(wish), online);
        }
    }

    /// <summary>A double lesson of 45 and 45 minutes with the bell between them, in the museum.</summary>
    private async Task Museum(Course course, PlanActions plans)
    {
        var last = await db.Meetings.Where(m => m.CourseId == course.Id).OrderByDescending(m => m.Date).FirstAsync();
        var wish = new PlanWish
        {
            Minutes = 100,
            Approach = Approach.Alternating,
            Purpose = Purpose.Proportion,
            Level = Level.Beginner,
            Students = course.Members.Count(m => m.Role == CourseRole.Student),
            Model = ModelKind.Museum,
            Draped = true,
            Seed = 97,
        };
        await Plan(plans, course, last.Date.PlusWeeks(1), course.StartsAt, new(wish) { Held = [new(45, 10, ItemKind.Break)] }, false);
    }

    private static async Task Plan(PlanActions plans, Course course, LocalDate date, LocalTime startsAt, PlanRequest request, bool online)
    {
        var (meeting, cannot) = await plans.Plan(course, date, startsAt, request, online);
        if (meeting is null)
            throw new InvalidOperationException(cannot[0].Says);
    }

    private async Task Book(Course course, ModelActions models, Instant now)
    {
        var ilka = await models.Add(
            course,
            new("Ilka Torn", ["standing", "twist"], [], 1, "Music off in the long ones, please."),
            instructor.Name
        );
        var joss = await models.Add(
            course,
            new("Joss Verrin", ["seated", "reclining"], ["kneeling", "arms-up"], 0.8, "A blanket on the stand.", 26, 2),
            instructor.Name
        );
        await models.Add(course, new("Renke Abt", [], ["twist"], 1, ""), instructor.Name);
        var meetings = await db.Meetings.Where(m => m.CourseId == course.Id).OrderBy(m => m.Date).ToListAsync();
        var today = now.InZone(DateTimeZoneProviders.Tzdb[course.Zone]).Date;
        foreach (var (meeting, n) in meetings.Where(m => m.Request.Wish.HasLiveModel).Select((m, n) => (m, n)))
        {
            var who = n % 3 == 1 ? joss : ilka;
            await models.Sits(meeting, [who.Id]);
            if (meeting.Date < today || n % 2 == 0)
                await models.Answer(who, meeting.Id, BookingAnswer.Comes);
        }
    }
}
