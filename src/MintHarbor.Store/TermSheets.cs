using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Courses;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store;

/// <summary>Sheets of a course with the faults that their critiques name, without the critiques: the database reads the remarks.</summary>
public static class TermSheets
{
    /// <summary>Over so many years a record looks back.</summary>
    public const int Years = 3;

    /// <param name="Faults">Ids with commas between; empty where nothing is named.</param>
    /// <param name="Critiqued">Somebody has said something of it.</param>
    public sealed record Row(
        int Id,
        int Student,
        string Code,
        string State,
        Instant At,
        Instant? Released,
        Instant? Answered,
        bool Critiqued,
        string Faults
    )
    {
        public SheetState Stands => Enum.Parse<SheetState>(State);

        public CritiquedSheet As(Course course) =>
            new(Id, Student, At.InZone(course.TimeZone).Date, Faults.Split(',', StringSplitOptions.RemoveEmptyEntries));
    }

    /// <param name="student">Null for the whole class.</param>
    /// <param name="shown">Only what was released counts as critiqued: what a student may know.</param>
    public static Task<List<Row>> Of(HarborContext db, int course, int? student, Instant now, bool shown)
    {
        var since = now - Duration.FromDays(366 * Years);
        return db
            .Database.SqlQuery<Row>(
                $"""
                select s.id, s.student_id as student, s.code, s.state, s.submitted_at as at, s.released_at as released,
                    s.answered_at as answered,
                    jsonb_array_length(s.remarks) > 0 and (s.released_at is not null or not {shown}) as critiqued,
                    case when s.released_at is null and {shown} then '' else coalesce((
                        select string_agg(distinct r ->> 'faultId', ',') from jsonb_array_elements(s.remarks) r
                    ), '') end as faults
                from sheets s
                where s.course_id = {course} and ({student}::int is null or s.student_id = {student}) and s.state <> 'Example'
                    and s.submitted_at > {since}
                order by s.submitted_at, s.id
                """
            )
            .ToListAsync();
    }
}
