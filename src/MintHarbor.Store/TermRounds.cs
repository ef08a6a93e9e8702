using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Shelves;
using NodaTime;

namespace MintHarbor.Store;

/// <summary>A student's finished rounds without what was asked in them: of a round's state a record wants numbers alone.</summary>
public static class TermRounds
{
    /// <param name="Limit">The course's own, as JSON; null for the drill's.</param>
    public sealed record Row(
        string Kind,
        Instant At,
        double? Bias,
        double? Spread,
        double? EndDifficulty,
        int Hits,
        double StartDifficulty,
        string? Limit,
        double[] Answers,
        double[] Truths
    )
    {
        /// <summary>Error that counted as right when the round began.</summary>
        public double Allowed(Drill drill) =>
            drill.Allowed(StartDifficulty, Limit is null ? null : JsonSerializer.Deserialize<DrillLimit>(Limit, HarborContext.Json));

        /// <summary>The same at the hardest.</summary>
        public double Hardest(Drill drill) =>
            drill.Allowed(1, Limit is null ? null : JsonSerializer.Deserialize<DrillLimit>(Limit, HarborContext.Json));
    }

    /// <returns>The newest so many, the earliest first.</returns>
    public static async Task<List<Row>> Of(HarborContext db, int course, int student, int most)
    {
        var rounds = await db
            .Database.SqlQuery<Row>(
                $"""
                select r.kind, r.finished_at as at, r.bias, r.spread, r.end_difficulty, r."right" as hits,
                    (r.state ->> 'startDifficulty')::float8 as start_difficulty, nullif(r.state -> 'limit', 'null'::jsonb)::text as "limit",
                    array(select a::text::float8 from jsonb_array_elements(r.state -> 'answers') a) as answers,
                    array(select (i -> 'truth' ->> 'value')::float8 from jsonb_array_elements(r.state -> 'items') i) as truths
                from drill_rounds r
                where r.course_id = {course} and r.student_id = {student} and r.finished_at is not null
                order by r.finished_at desc, r.id desc
                limit {most}
                """
            )
            .ToListAsync();
        rounds.Reverse();
        return rounds;
    }
}
