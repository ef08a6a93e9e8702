using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Store.Fitting;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>Who fits sheets whose turn has come: the application does it beside the pages, whoever loads data at once.</summary>
public interface IFitQueue
{
    /// <summary>A sheet waits for its fit.</summary>
    void Ring();
}

/// <summary>Where nobody fits beside: sheets wait.</summary>
public sealed class NoFitQueue : IFitQueue
{
    public void Ring() { }
}

/// <summary>Asks for a sheet's fit and takes in what came of it.</summary>
public sealed class FitActions(
    HarborContext db,
    PictureService pictures,
    PoseActions poses,
    SheetFitter fitter,
    IClock clock,
    IFitQueue queue
)
{
    /// <summary>Something that the fit hangs on has changed: it is done at once where that is quick, else the sheet waits for it.</summary>
    public async Task Changed(Sheet sheet, Course course)
    {
        sheet.Landmarks = SheetMarks.Merged(sheet);
        if (sheet.FlatHash is null)
        {
            sheet.FitSince = null;
            return;
        }
        var asked = await Asked(sheet, course);
        if (sheet.Fit?.Of == asked.Of)
        {
            sheet.FitSince = null;
            return;
        }
        if (fitter.Again(asked) is { } again)
        {
            Take(sheet, again);
            return;
        }
        sheet.FitSince = clock.GetCurrentInstant();
        queue.Ring();
    }

    /// <summary>Fits a sheet now.</summary>
    public async Task Fit(Sheet sheet, Course course, CancellationToken over = default)
    {
        if (sheet.FlatHash is not { } flat)
            return;
        var asked = await Asked(sheet, course);
        Take(sheet, fitter.Again(asked) ?? await Work(asked, flat, sheet.PaperWidthMm, over));
    }

    /// <summary>The sheet that has waited longest for its fit; null when none does.</summary>
    public Task<int?> Longest(CancellationToken over = default) =>
        db
            .Sheets.Where(s => s.FitSince != null && s.FlatHash != null)
            .OrderBy(s => s.FitSince)
            .Select(s => (int?)s.Id)
            .FirstOrDefaultAsync(over);

    /// <summary>A sheet that can't be read waits no longer: its marks are placed by hand.</summary>
    public Task GiveUp(int id, CancellationToken over = default) =>
        db.Sheets.Where(s => s.Id == id).ExecuteUpdateAsync(s => s.SetProperty(x => x.FitSince, (Instant?)null), over);

    /// <summary>Fits a sheet that waits. What was changed meanwhile waits on.</summary>
    public async Task FitWaiting(int id, CancellationToken over = default)
    {
        var sheet = await db.Sheets.AsNoTracking().Include(s => s.Course).SingleOrDefaultAsync(s => s.Id == id && s.FitSince != null, over);
        if (sheet?.FlatHash is not { } flat)
            return;
        var asked = await Asked(sheet, sheet.Course);
        var state = fitter.Again(asked) ?? await Work(asked, flat, sheet.PaperWidthMm, over);
        // In turn with whoever writes the sheet by hand.
        await using var turn = await db.Database.BeginTransactionAsync(over);
        await Turns.Hold(db, $"sheet {sheet.Id}");
        if (await db.Sheets.Include(s => s.Course).SingleOrDefaultAsync(s => s.Id == sheet.Id, over) is { } now)
        {
            if ((await Asked(now, now.Course)).Of == asked.Of)
                Take(now, state);
            else
                now.FitSince = clock.GetCurrentInstant();
            await db.SaveChangesAsync(over);
        }
        await turn.CommitAsync(over);
    }

    private async Task<FitState> Work(FitAsked asked, string flat, double widthMm, CancellationToken over)
    {
        using var open = await pictures.Take(flat, over);
        var grey = open.Photo.Grey();
        return await Nice.Work(() => fitter.Fit(asked, grey, widthMm / grey.Width), over);
    }

    private static void Take(Sheet sheet, FitState state)
    {
        (sheet.Fit, sheet.FitSince) = (state, null);
        sheet.Landmarks = SheetMarks.Merged(sheet);
    }

    /// <summary>Everything that a sheet's fit hangs on, as it is now.</summary>
    private async Task<FitAsked> Asked(Sheet sheet, Course course)
    {
        var view = sheet.Subject == "head" ? null : await View(sheet);
        var of = string.Join(
            '|',
            sheet.FlatHash,
            sheet.Subject,
            sheet.View,
            sheet.Pose == "other",
            course.Minors,
            course.HeadCanon,
            view?.Choice,
            view is null ? "" : Core.Figure.StudioFigure.Key(view.Pose)
        );
        var placed = SheetMarks.Placed(sheet);
        var marks = string.Join(
            '|',
            placed.OrderBy(p => p.Key, StringComparer.Ordinal).Select(p => FormattableString.Invariant($"{p.Key} {p.Value.X} {p.Value.Y}"))
        );
        return new(
            Name(of + "\n" + marks),
            Name(of),
            sheet.Subject,
            sheet.View,
            course.HeadCanon,
            sheet.Pose == "other",
            course.Minors,
            view,
            placed
        );
    }

    private static string Name(string of) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(of)))[..24];

    /// <summary>The view that the sheet is held against, else the meeting's pose from the student's seat; null where neither is known.</summary>
    private async Task<FitView?> View(Sheet sheet)
    {
        if (sheet.Reference is { } held)
            return await poses.Find(sheet.CourseId, held.Pose) is { } pose ? new(held, pose, true) : null;
        if (sheet.MeetingId is not { } id || sheet.PoseKey is not { } key)
            return null;
        var meeting = sheet.Meeting ?? await db.Meetings.AsNoTracking().SingleOrDefaultAsync(m => m.Id == id);
        // Of a set of quick poses nobody knows which one a sheet shows.
        if (meeting?.Plan.Items.FirstOrDefault(i => i.Pose.ToString() == key && i.PoseIds.Count == 1) is not { } item)
            return null;
        if (await poses.Find(sheet.CourseId, item.PoseIds[0]) is not { } drawn)
            return null;
        var number = await db
            .Memberships.Where(m => m.CourseId == sheet.CourseId && m.PersonId == sheet.StudentId)
            .Select(m => m.Seat)
            .SingleOrDefaultAsync();
        var seat = await poses.SeatOf(id, sheet.StudentId, number);
        return new(new(item.PoseIds[0], "male", false, seat.Azimuth, seat.Distance, seat.EyeHeight), drawn, false);
    }
}
