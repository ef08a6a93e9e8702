using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Store;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Pages.Critique;

/// <param name="Shape">holds, outside or unknown.</param>
public sealed record CardRow(string Name, string Card, string Drawn, string Shape, string Off);

/// <summary>The cards that judge a sheet, and how the drawing stands to them, line by line.</summary>
public sealed record SheetCards(PoseCard? Instructor, PoseCard? Own)
{
    /// <summary>Cards of the sheet's meeting: the staff's newest, and the student's own readings; one query.</summary>
    public static async Task<SheetCards> Load(HarborContext db, Sheet sheet)
    {
        if (sheet.MeetingId is not { } meeting)
            return new(null, null);
        var parts = sheet.Code.Split('-');
        var letter = parts.Length > 1 ? parts[1][..1] : "A";
        var readings = await db
            .PoseReadings.AsNoTracking()
            .Where(r => r.MeetingId == meeting && r.Pose == letter)
            .Select(r => new
            {
                r.ReaderId,
                r.Card,
                r.ReadAt,
                Staff = db.Memberships.Any(m => m.CourseId == sheet.CourseId && m.PersonId == r.ReaderId && m.Role != CourseRole.Student),
            })
            .ToListAsync();
        return new(
            readings.Where(r => r.Staff).OrderByDescending(r => r.ReadAt).FirstOrDefault()?.Card,
            readings.FirstOrDefault(r => r.ReaderId == sheet.StudentId && !r.Staff)?.Card
        );
    }

    public IReadOnlyList<CardRow> Rows(IReadOnlyList<Finding> findings)
    {
        if (Instructor is null)
            return [];
        var rows = new List<CardRow>();
        foreach (var (key, name, value) in Instructor.Ratios)
        {
            if (value is null)
                continue;
            var f = findings.FirstOrDefault(f =>
                f.Against == Against.PoseCard
                && (
                    key == "heads" ? f.Rule == "F-heads"
                    : key == "shoulders" ? f.Rule == "F-shoulder"
                    : f.Part == name
                )
            );
            rows.Add(
                new(
                    key == "heads" ? "height" : name,
                    Say.Fixed(value.Value, 2),
                    f?.Measured is { } m ? Say.Fixed(m, 2) : "–",
                    Shape(f),
                    f?.OffPercent is { } off ? Say.Signed(off) : ""
                )
            );
        }
        foreach (var f in findings.Where(f => f.Against == Against.PoseCard && f.Unit == "deg"))
            rows.Add(
                new(
                    $"{f.Part}, hour",
                    ClockAngle.Say(ClockAngle.ToHours(f.Expected ?? 0)),
                    f.Measured is { } m ? Say.Number(ClockAngle.ToHours(m) is var h && h < 0.25 ? h + 12 : h, 1) : "–",
                    Shape(f),
                    f.Measured is { } a ? Say.Signed(ClockAngle.Wrap(a - f.Expected!.Value)) + "°" : ""
                )
            );
        foreach (
            var f in findings.Where(f => f.Against == Against.PoseCard && f.Part?.StartsWith("plumb", StringComparison.Ordinal) == true)
        )
            rows.Add(
                new(
                    "plumb, heads",
                    Say.Fixed(f.Expected ?? 0, 2),
                    f.Measured is { } m ? Say.Fixed(m, 2) : "–",
                    Shape(f),
                    f.Measured is { } v ? Say.Signed(v - f.Expected!.Value, 2) : ""
                )
            );
        return rows;
    }

    private static string Shape(Finding? f) =>
        f?.Verdict switch
        {
            Verdict.Inside => "holds",
            Verdict.Outside => "outside",
            Verdict.TooClose or Verdict.Pushed => "near",
            _ => "unknown",
        };

    /// <summary>Whether the student read the pose as the instructor did: misread, or misdrawn.</summary>
    public ReadingsApart? OwnReadings() => Own is null ? null : Instructor?.Against(Own);
}
