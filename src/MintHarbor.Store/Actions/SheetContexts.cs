using System.Linq.Expressions;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Canons;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Store.Model;

namespace MintHarbor.Store.Actions;

/// <summary>A reference view as the judge needs it: where its landmarks are (picture pixels) and what the seat shortens.</summary>
public sealed record SeenReference(LandmarkSet Landmarks, IReadOnlyDictionary<string, double> Foreshortening);

/// <summary>Makes the view of the studio figure that a sheet is held against.</summary>
public interface IReferenceViews
{
    /// <summary>Null where none was chosen or its pose is gone.</summary>
    Task<SeenReference?> Seen(Sheet sheet, Course course);
}

/// <summary>Where no figure is at hand: nothing is held against a view.</summary>
public sealed class NoReferenceViews : IReferenceViews
{
    public Task<SeenReference?> Seen(Sheet sheet, Course course) => Task.FromResult<SeenReference?>(null);
}

/// <summary>Everything that a sheet is judged by, and what comes of it. Whoever speaks of a sheet's measures reads them here, so that one
/// sheet has one verdict.</summary>
/// <param name="Card">The staff's newest card of the pose that the sheet is drawn from.</param>
/// <param name="Own">The student's own readings of that pose.</param>
public sealed record SheetContext(Sheet Sheet, Course Course, PoseCard? Card, PoseCard? Own, SeenReference? Reference)
{
    /// <summary>How exactly a landmark is placed by hand on the bench, 1 σ per coordinate in mm: about the width of a charcoal line; our
    /// default.</summary>
    public const double PlacementErrorMm = 0.7;

    private (IReadOnlyList<Finding> Findings, string? Problem)? judged;

    /// <summary>In working order, the outside ones first; none without landmarks.</summary>
    public IReadOnlyList<Finding> Findings => (judged ??= Judged()).Findings;

    /// <summary>Why it can't be judged as its landmarks lie; null where it can.</summary>
    public string? Problem => (judged ??= Judged()).Problem;

    /// <summary>What it is judged by: what is released keeps what it was released with.</summary>
    public Canon School => Sheet.ReleasedAt is null ? Course.SchoolOf(Sheet.Subject) : Sheet.JudgedBy ?? Course.SchoolOf(Sheet.Subject);

    public JudgeRequest Request =>
        new()
        {
            Subject = Sheet.Subject,
            Canon = School.Id,
            School = School,
            View = Sheet.View,
            Pose = Sheet.Pose,
            StandingLeg = Sheet.StandingLeg,
            Exercise = Sheet.Exercise,
            Own = Course.Shelf.Exercise(Sheet.Exercise),
            PlacementErrorMm = PlacementErrorMm,
            Errors = SheetMarks.Errors(Sheet),
            NotLookedAt = SheetMarks.NotLookedAt(Sheet),
            Landmarks = new(Sheet.Landmarks),
            PoseCard = Sheet.Subject == "head" ? null : Card,
            Reference = Sheet.Subject == "head" ? null : Reference?.Landmarks,
            Foreshortening = Reference?.Foreshortening ?? new Dictionary<string, double>(),
            Observed = Sheet.Observed.ToHashSet(),
        };

    private (IReadOnlyList<Finding>, string?) Judged()
    {
        if (Sheet.Landmarks.Count < 2)
            return ([], null);
        try
        {
            var found = Judge.Of(Request).Findings;
            return ([.. found.OrderBy(Rank).ThenBy(f => f.FollowsFrom is null ? 0 : 1).ThenBy(f => f.Rule.Order)], null);
        }
        catch (InputException e)
        {
            return ([], e.Message);
        }
    }

    private static int Rank(Finding f) =>
        f.Verdict switch
        {
            Verdict.Outside => f.FollowsFrom is null ? 0 : 1,
            Verdict.Pushed => 2,
            Verdict.TooClose => 3,
            Verdict.Inside => 4,
            Verdict.TooSmall => 5,
            _ => 6,
        };

    /// <summary>Where on the sheet a finding is spoken of: the middle of what it measures; null where none of it is placed.</summary>
    public Vec2? Place(Finding f) => Place(Sheet, f.Measure.At);

    /// <summary>The middle of some landmarks; null when none of them is placed.</summary>
    public static Vec2? Place(Sheet sheet, IReadOnlyList<string> landmarks)
    {
        var p = landmarks.Where(sheet.Landmarks.ContainsKey).Select(l => sheet.Landmarks[l]).ToList();
        return p.Count == 0 ? null : new(p.Average(v => v.X), p.Average(v => v.Y));
    }

    /// <summary>Whether the student read the pose as the instructor did: misread, or misdrawn.</summary>
    public ReadingsApart? OwnReadings() => Own is null ? null : Card?.Against(Own);

    /// <summary>The same drawing held against another's view, where it was held against none of its own.</summary>
    public SheetContext HeldLike(SheetContext other) => Reference is null ? new(Sheet, Course, Card, Own, other.Reference) : this;
}

/// <summary>Loads what sheets are judged by: the cards of all of them in one query, their reference views from the figure.</summary>
public sealed class SheetContexts(HarborContext db, IReferenceViews references)
{
    /// <summary>A sheet with all that it is judged by, and what tells it from another; without its remarks, words and steps taken back.</summary>
    public static Expression<Func<Sheet, Sheet>> AsJudged { get; } =
        s => new Sheet
        {
            Id = s.Id,
            CourseId = s.CourseId,
            StudentId = s.StudentId,
            MeetingId = s.MeetingId,
            PoseKey = s.PoseKey,
            Code = s.Code,
            Landmarks = s.Landmarks,
            ByStudent = s.ByStudent,
            ByStaff = s.ByStaff,
            Fit = s.Fit,
            Subject = s.Subject,
            Pose = s.Pose,
            StandingLeg = s.StandingLeg,
            View = s.View,
            Exercise = s.Exercise,
            Observed = s.Observed,
            Reference = s.Reference,
            RedoOfId = s.RedoOfId,
            SubmittedAt = s.SubmittedAt,
            ReleasedAt = s.ReleasedAt,
            JudgedBy = s.JudgedBy,
            PaperWidthMm = s.PaperWidthMm,
            PaperHeightMm = s.PaperHeightMm,
        };

    public async Task<SheetContext> Of(Sheet sheet, Course course) => (await Of([sheet], course))[0];

    public async Task<IReadOnlyList<SheetContext>> Of(IReadOnlyList<Sheet> sheets, Course course)
    {
        var students = sheets.Select(s => s.StudentId).Distinct().ToList();
        var meetings = sheets.Where(s => s.PoseKey is not null).Select(s => s.MeetingId).OfType<int>().Distinct().ToList();
        var readings =
            meetings.Count == 0
                ? []
                : await db
                    .PoseReadings.AsNoTracking()
                    .Where(r => meetings.Contains(r.MeetingId))
                    .Select(r => new
                    {
                        r.MeetingId,
                        r.Pose,
                        r.ReaderId,
                        r.Card,
                        r.ReadFrom,
                        r.ReadAt,
                        Staff = db.Memberships.Any(m =>
                            m.CourseId == course.Id && m.PersonId == r.ReaderId && m.Role != CourseRole.Student
                        ),
                        Seats = db
                            .Seatings.Where(x => x.MeetingId == r.MeetingId && students.Contains(x.PersonId))
                            .Select(x => new { x.PersonId, x.Azimuth })
                            .ToList(),
                    })
                    .ToListAsync();
        var contexts = new List<SheetContext>();
        foreach (var s in sheets)
        {
            var of = readings.Where(r => r.MeetingId == s.MeetingId && r.Pose == s.PoseKey).ToList();
            var staffs = of.Where(r => r.Staff).MaxBy(r => r.ReadAt);
            var seat = staffs?.Seats.FirstOrDefault(x => x.PersonId == s.StudentId)?.Azimuth;
            contexts.Add(
                new(
                    s,
                    course,
                    // A seat that nobody was put on is not known, and the card serves in full.
                    staffs is null
                        ? null
                        : staffs.Card with
                        {
                            SeatAzimuth = Apart(staffs.ReadFrom, seat),
                        },
                    of.FirstOrDefault(r => r.ReaderId == s.StudentId && !r.Staff)?.Card,
                    await references.Seen(s, course)
                )
            );
        }
        return contexts;
    }

    private static double? Apart(double? one, double? other) => one - other is { } degrees ? Math.IEEERemainder(degrees, 360) : null;
}
