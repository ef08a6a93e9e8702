using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Demo;

/// <summary>Drill sheets of the demo: printed for some, answered by simulated pencils, photographed, read in turn as a person's are.</summary>
internal sealed class DemoPaper(HarborContext db, IPaperPrints prints)
{
    /// <summary>Pixels across: enough to read by, and quick to draw.</summary>
    private const int Width = 1800;

    private static readonly string[] First = ["slant", "half", "third", "tone"],
        Second = ["slant", "half", "plumb", "strokes"];

    private sealed class NoQueue : IPaperQueue
    {
        public void Ring() { }
    }

    public async Task Load(Course course, IReadOnlyList<Membership> students, Func<Instant, IClock> at, Instant now, string by)
    {
        List<Membership> six =
        [
            .. students.Where(s => s.CourseId == course.Id).OrderBy(s => s.Person.Name != "Maren Holt").ThenBy(s => s.Person.Name).Take(6),
        ];
        await Round(course, six, six, First, 1.3, at, now - Duration.FromDays(23), by);
        await Round(course, six, [.. six.Take(3)], Second, 0.8, at, now - Duration.FromDays(6), by);
    }

    private async Task Round(
        Course course,
        IReadOnlyList<Membership> given,
        IReadOnlyList<Membership> answered,
        string[] drills,
        double eye,
        Func<Instant, IClock> at,
        Instant then,
        string by
    )
    {
        PaperActions Actions(Instant when) => new(db, new(db), prints, new NoQueue(), at(when));
        var batch = await Actions(then).Give(course, [.. given.Select(g => g.PersonId)], drills, letter: false, by);
        var back = Actions(then + Duration.FromDays(2));
        foreach (var who in answered)
        {
            var sheet = await db.PaperSheets.SingleAsync(s => s.Batch == batch && s.StudentId == who.PersonId);
            var drawn = PaperPencil.Answer(sheet.Printed, PencilManner.Tuning with { Eye = eye }, (who.PersonId * 97) + drills.Length);
            var shot = PaperCamera.Take(drawn, CameraManner.Tuning, prints.Faces, who.PersonId, width: Width);
            await back.Take(who, null, $"sheet {who.PersonId}.jpg", () => Task.FromResult(shot.Jpeg));
            await back.Read((await back.Longest(default))!.Value, default);
        }
    }
}
