using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Figures;

/// <summary>A reference view laid over a sheet.</summary>
/// <param name="Fit">From the view's pixels to millimetres on the sheet; null with fewer than two landmarks in common.</param>
/// <param name="Shared">Landmarks it was laid by.</param>
public sealed record LaidReference(Pose Pose, FigureAddress Address, SeenReference Seen, FigureView View, Similarity? Fit, int Shared);

/// <summary>Makes reference views for sheets: the pose of the meeting from the student's own seat unless something else was chosen.</summary>
public sealed class ReferenceViews(HarborContext db, PoseActions poses, FigureViews views) : IReferenceViews
{
    /// <summary>Views made for this request: a sheet is laid over and judged by the same one.</summary>
    private readonly Dictionary<ReferenceChoice, (Pose Pose, FigureAddress Address, FigureView View)> made = [];

    /// <summary>What a sheet would be held against first.</summary>
    public async Task<ReferenceChoice> Default(Sheet sheet)
    {
        var meeting = sheet.MeetingId is { } id
            ? sheet.Meeting ?? await db.Meetings.AsNoTracking().SingleOrDefaultAsync(m => m.Id == id)
            : null;
        var number = await db
            .Memberships.Where(m => m.CourseId == sheet.CourseId && m.PersonId == sheet.StudentId)
            .Select(m => m.Seat)
            .SingleOrDefaultAsync();
        var seat = meeting is null ? PoseActions.Default(number) : await poses.SeatOf(meeting.Id, sheet.StudentId, number);
        return new(PoseActions.LongPoseOf(meeting), "male", false, seat.Azimuth, seat.Distance, seat.EyeHeight);
    }

    /// <summary>The chosen view laid over the sheet; null where none is chosen or its pose is gone.</summary>
    public async Task<LaidReference?> Of(Sheet sheet, Course course)
    {
        if (await View(sheet, course) is not var (pose, address, view))
            return null;
        var seen = Seen(view);
        var pairs = sheet.Landmarks.Where(l => seen.Landmarks.Has(l.Key)).Select(l => (seen.Landmarks[l.Key]!.Value, l.Value)).ToList();
        // Laid as it is judged: by what most parts say, so that one limb doesn't turn the whole.
        var errors = SheetMarks.Errors(sheet);
        double Error(string id) => errors.GetValueOrDefault(id, SheetContext.PlacementErrorMm);
        var parts = new ReferenceMeasures(new(sheet.Landmarks), seen.Landmarks, null, Error);
        return new(
            pose,
            address,
            seen,
            view,
            parts.Seen.Count >= ReferenceMeasures.LeastParts ? parts.Alignment() : Similarity.Fit(pairs),
            pairs.Count
        );
    }

    public async Task<SeenReference?> Seen(Sheet sheet, Course course) => await View(sheet, course) is var (_, _, view) ? Seen(view) : null;

    // What the figure hides is guessed by a student too, so that hidden landmarks serve for the fit as well.
    private static SeenReference Seen(FigureView view) =>
        new(
            new LandmarkSet(view.Landmarks.Select(l => new KeyValuePair<string, Vec2>(l.Key, l.Value.At))),
            view.Limbs.ToDictionary(l => l.Id, l => l.Ratio)
        );

    private async Task<(Pose Pose, FigureAddress Address, FigureView View)?> View(Sheet sheet, Course course)
    {
        if (sheet.Reference is not { } c || sheet.Subject == "head")
            return null;
        if (made.TryGetValue(c, out var known))
            return known;
        if (await poses.Find(course.Id, c.Pose) is not { } pose)
            return null;
        var address = new FigureAddress
        {
            Pose = c.Pose,
            Body = c.Body,
            Mirrored = c.Mirrored,
            Seat = new(c.Azimuth, c.Distance, c.EyeHeight),
            Garment = course.Minors,
        };
        var model = views.Model(address, pose, Drapery.For(course.Minors, course.Minors), forDrawing: false);
        return made[c] = (pose, address, StudioFigure.View(model, address.Seat, FigureViewKind.Mass));
    }
}
