using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Practice;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>Where each measure of a student stands, and what moves it: rounds, drill sheets and critiqued drawings, or an instructor's word.</summary>
public sealed class StageActions(HarborContext db, IClock clock)
{
    public const int LongestWord = 200;

    /// <summary>A finished round.</summary>
    public async Task Round(DrillRound round)
    {
        var drill = Drills.Get(round.Kind);
        if (Stages.Of(drill, round.Bias, round.Spread, drill.Allowed(1, round.State.Holds), round.FinishedAt!.Value) is { } told)
            await Take(round.CourseId, round.StudentId, round.Id, [told]);
    }

    /// <summary>A drill sheet that was read.</summary>
    public Task Paper(PaperSheet sheet) =>
        Take(
            sheet.CourseId,
            sheet.StudentId,
            sheet.Id,
            [.. Stages.Of($"sheet {sheet.Printed.Code.Digits}", sheet.Scores, sheet.ReadAt ?? clock.GetCurrentInstant())]
        );

    /// <summary>A drawing whose critique is released.</summary>
    public Task Drawing(Sheet sheet, IReadOnlyList<Finding> findings) =>
        Take(sheet.CourseId, sheet.StudentId, sheet.Id, [.. Stages.Of(sheet.Code, findings, sheet.SubmittedAt)]);

    /// <summary>Keeps the evidence, once for each of its sources, and moves what it moves.</summary>
    private async Task Take(int course, int student, int of, IReadOnlyList<(string Measure, StagePoint Point)> told)
    {
        if (told.Count == 0)
            return;
        // Two rounds that end at the same moment must not both make the same move.
        await using var whole = db.Database.CurrentTransaction is null ? await db.Database.BeginTransactionAsync() : null;
        await Turns.Hold(db, $"stages {course} {student}");
        var from = told[0].Point.From;
        var measures = told.Select(t => t.Measure).ToList();
        var kept = await db
            .MeasurePoints.Where(p => p.From == from && p.Of == of && measures.Contains(p.Measure))
            .ToDictionaryAsync(p => p.Measure);
        foreach (var (measure, p) in told)
        {
            if (!kept.TryGetValue(measure, out var row))
                db.MeasurePoints.Add(
                    row = new()
                    {
                        CourseId = course,
                        StudentId = student,
                        Measure = measure,
                        From = from,
                        Of = of,
                    }
                );
            (row.Name, row.At, row.Lean, row.Scatter) = (p.Name, p.At, p.Lean, p.Scatter);
        }
        await db.SaveChangesAsync();
        await Settle(course, student, measures);
        if (whole is not null)
            await whole.CommitAsync();
    }

    private async Task Settle(int course, int student, IReadOnlyList<string> measures)
    {
        var stands = await Stand(course, student);
        var points = await db
            .MeasurePoints.AsNoTracking()
            .Where(p => p.CourseId == course && p.StudentId == student && measures.Contains(p.Measure))
            .OrderByDescending(p => p.At)
            .Take(60)
            .ToListAsync();
        foreach (var measure in measures)
        {
            var last = stands.GetValueOrDefault(measure);
            var stage = last?.To ?? MeasuringStage.ByTool;
            var since = points.Where(p => p.Measure == measure && (last is null || p.At > last.At)).Select(p => p.Point);
            if (Stages.Moves(stage, since) is not var (to, why))
                continue;
            db.StageMoves.Add(
                new()
                {
                    CourseId = course,
                    StudentId = student,
                    Measure = measure,
                    From = stage,
                    To = to,
                    Evidence = why,
                    At = why.Points.Max(p => p.At),
                }
            );
        }
        await db.SaveChangesAsync();
    }

    /// <summary>The last move of each measure; a measure that never moved stands by tool.</summary>
    public async Task<Dictionary<string, StageMove>> Stand(int course, int student) =>
        (
            await db
                .StageMoves.AsNoTracking()
                .Where(m => m.CourseId == course && m.StudentId == student)
                .OrderBy(m => m.At)
                .ThenBy(m => m.Id)
                .ToListAsync()
        )
            .GroupBy(m => m.Measure)
            .ToDictionary(g => g.Key, g => g.Last());

    /// <summary>Where the measures of everybody in the course stand, by student; one that never moved isn't named.</summary>
    public async Task<Dictionary<int, Dictionary<string, MeasuringStage>>> Stand(int course)
    {
        var last = await db
            .StageMoves.AsNoTracking()
            .Where(m => m.CourseId == course)
            .GroupBy(m => new { m.StudentId, m.Measure })
            .Select(g => g.OrderByDescending(m => m.At).ThenByDescending(m => m.Id).First())
            .ToListAsync();
        return last.GroupBy(m => m.StudentId).ToDictionary(g => g.Key, g => g.ToDictionary(m => m.Measure, m => m.To));
    }

    /// <summary>An instructor's word moves a measure wherever they say; evidence counts from then on.</summary>
    /// <exception cref="InputException">No such measure or stage, the stage it stands in, or no reason.</exception>
    public async Task Say(Course course, int student, string? measure, MeasuringStage to, string? word, string by)
    {
        var m = Stages.Get(measure);
        var said = (word ?? "").Trim();
        if (!Enum.IsDefined(to))
            throw new InputException($"stage {to}", "to", string.Join(" | ", Enum.GetValues<MeasuringStage>().Select(Stages.Name)));
        if (said.Length is 0 or > LongestWord)
            throw new InputException(
                said == "" ? "no reason" : $"a reason of {said.Length} letters",
                "word",
                $"a line, up to {LongestWord} letters"
            );
        var stands = (await Stand(course.Id, student)).GetValueOrDefault(m.Id)?.To ?? MeasuringStage.ByTool;
        if (stands == to)
            throw new InputException($"{m.Name} stands {Stages.Name(to)} already", "to", "another stage");
        db.StageMoves.Add(
            new()
            {
                CourseId = course.Id,
                StudentId = student,
                Measure = m.Id,
                From = stands,
                To = to,
                Word = said,
                By = by,
                At = clock.GetCurrentInstant(),
            }
        );
        await db.SaveChangesAsync();
    }

    /// <summary>The eye that a student aims with.</summary>
    public async Task Eye(Membership member, IReadOnlyList<bool> stays)
    {
        member.Eye = EyeTest.Of(stays);
        await db.SaveChangesAsync();
    }
}
