using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace MintHarbor.Store;

/// <summary>Which faults the critiques of a course name. The database reads the remarks: they are long, and of each one word is wanted.</summary>
public static class NamedFaults
{
    /// <param name="Fault">Null for a remark that names none.</param>
    public sealed record Named(int Sheet, string? Fault);

    /// <summary>Each sheet with each fault once, of sheets that were handed in, critiqued or released since then.</summary>
    public static Task<List<Named>> Since(HarborContext db, int course, Instant since) =>
        db
            .Database.SqlQuery<Named>(
                $"""
                select distinct s.id as sheet, r ->> 'faultId' as fault
                from sheets s cross join lateral jsonb_array_elements(s.remarks) r
                where s.course_id = {course} and s.state not in ('Placing', 'Example')
                    and greatest(s.submitted_at, s.saved_at, s.released_at) > {since}
                """
            )
            .ToListAsync();
}
