using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Canons;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>A course's own canons: each save is another version, and what is released keeps what it was judged by.</summary>
public sealed class SchoolActions(HarborContext db, IClock clock)
{
    public const int MostVersions = 200;

    /// <summary>Keeps a version. One that contradicts itself is not kept: it would find faults in its own perfect figure.</summary>
    public async Task<CourseCanon> Keep(Course course, Canon canon, string by)
    {
        var contradictions = OwnCanon.Contradictions(OwnCanon.Checked(canon));
        if (contradictions.Count > 0)
            throw new InputException(string.Join("; ", contradictions), "rules", "numbers that hold together, or a rule that isn't judged");
        var last = await db.CourseCanons.Where(c => c.CourseId == course.Id && c.Subject == canon.Subject).MaxAsync(c => (int?)c.Number);
        if (last >= MostVersions)
            throw new InputException($"{MostVersions} versions are kept already", "rules", "a course of its own for another school");
        var kept = new CourseCanon
        {
            CourseId = course.Id,
            Subject = canon.Subject,
            Number = 1 + (last ?? 0),
            Canon = canon,
            By = by,
            At = clock.GetCurrentInstant(),
        };
        db.CourseCanons.Add(kept);
        await db.SaveChangesAsync();
        return kept;
    }

    public async Task<CourseCanon> Find(Course course, int id) =>
        await db.CourseCanons.AsNoTracking().SingleOrDefaultAsync(c => c.CourseId == course.Id && c.Id == id)
        ?? throw new InputException($"there is no version {id}", "version", "a version of this course");

    /// <summary>From now on sheets are judged by it.</summary>
    public async Task Use(Course course, Canon canon)
    {
        await KeepReleased(db, course, canon.Subject);
        var own = CanonTable.All.Contains(canon) ? null : canon;
        if (canon.Subject == "head")
            (course.HeadCanon, course.OwnHead) = (canon.Id, own);
        else
            (course.Canon, course.OwnFigure) = (canon.Id, own);
        await db.SaveChangesAsync();
    }

    /// <summary>What is released stays judged as its student read it, whatever the course is judged by from here on.</summary>
    internal static Task KeepReleased(HarborContext db, Course course, string subject)
    {
        var until = course.SchoolOf(subject);
        return db
            .Sheets.Where(s => s.CourseId == course.Id && s.Subject == subject && s.ReleasedAt != null && s.JudgedBy == null)
            .ExecuteUpdateAsync(u => u.SetProperty(s => s.JudgedBy, until));
    }
}
