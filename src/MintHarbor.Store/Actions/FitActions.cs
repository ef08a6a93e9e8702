using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Rooms;
using MintHarbor.Core.Sessions;
using MintHarbor.Core.Technique;
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

/// <summary>Asks for a sheet's reading, its marks and its technique, and takes in what came of it.</summary>
public sealed class FitActions(
    HarborContext db,
    PictureService pictures,
    PoseActions poses,
    SheetFitter fitter,
    IClock clock,
    IFitQueue queue
)
{
    /// <summary>Something that the reading hangs on has changed: it is done at once where that is quick, else the sheet waits for it.</summary>
    public async Task Changed(Sheet sheet, Course course)
    {
        sheet.Landmarks = SheetMarks.Merged(sheet);
        sheet.FitSince = null;
        if (sheet.FlatHash is null)
            return;
        var asked = await Asked(sheet, course);
        if (asked.Marks is { } marks && sheet.Fit?.Of != marks.Of && fitter.Again(marks) is { } again)
            Take(sheet, new(again, null));
        if (asked.IsOpen(sheet))
        {
            sheet.FitSince = clock.GetCurrentInstant();
            queue.Ring();
        }
    }

    /// <summary>Reads a sheet now.</summary>
    public async Task Fit(Sheet sheet, Course course, CancellationToken over = default)
    {
        if (sheet.FlatHash is not null)
            Take(sheet, await Work(sheet, await Asked(sheet, course), over));
    }

    /// <summary>Reads a sheet's technique now, its marks not.</summary>
    public async Task Technique(Sheet sheet, Course course, CancellationToken over = default)
    {
        if (sheet.FlatHash is not null)
            Take(sheet, await Work(sheet, (await Asked(sheet, course)) with { Marks = null }, over));
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
        var read = await Work(sheet, asked, over);
        // In turn with whoever writes the sheet by hand.
        await using var turn = await db.Database.BeginTransactionAsync(over);
        await Turns.Hold(db, $"sheet {sheet.Id}");
        if (await db.Sheets.Include(s => s.Course).SingleOrDefaultAsync(s => s.Id == sheet.Id, over) is { } now)
        {
            if ((await Asked(now, now.Course)).Of == asked.Of)
                Take(now, read);
            else
                now.FitSince = clock.GetCurrentInstant();
            await db.SaveChangesAsync(over);
        }
        await turn.CommitAsync(over);
    }

    /// <summary>What a sheet is to be read for.</summary>
    /// <param name="Flat">Hash of the flat sheet.</param>
    /// <param name="Marks">Null where its exercise has no landmarks.</param>
    private sealed record ReadAsked(string Flat, FitAsked? Marks, LampSide Lamp)
    {
        public string Of => $"{Flat}|{Marks?.Of}";

        public bool FitIsOpen(Sheet sheet) => Marks is not null && sheet.Fit?.Of != Marks.Of;

        public bool TechniqueIsOpen(Sheet sheet) => sheet.Technique?.Of != Flat;

        public bool IsOpen(Sheet sheet) => FitIsOpen(sheet) || TechniqueIsOpen(sheet);
    }

    /// <summary>What came of reading; null where nothing new did.</summary>
    private sealed record ReadState(FitState? Fit, TechniqueState? Technique);

    /// <summary>The ink is read once for both.</summary>
    private async Task<ReadState> Work(Sheet sheet, ReadAsked asked, CancellationToken over)
    {
        var (fit, technique) = (asked.FitIsOpen(sheet), asked.TechniqueIsOpen(sheet));
        if (fit && !technique && fitter.Again(asked.Marks!) is { } again)
            return new(again, null);
        if (!fit && !technique)
            return new(null, null);
        using var open = await pictures.Take(asked.Flat, over);
        var grey = open.Photo.Grey();
        var mm = sheet.PaperWidthMm / grey.Width;
        return await Nice.Work(
            () =>
            {
                var ink = InkReading.Of(grey, mm);
                return new ReadState(
                    fit ? fitter.Fit(asked.Marks!, ink) : null,
                    technique ? new(asked.Flat, TechniqueReader.Read(grey, mm, ink).Reading, asked.Lamp) : null
                );
            },
            over
        );
    }

    private static void Take(Sheet sheet, ReadState read)
    {
        sheet.FitSince = null;
        sheet.Technique = read.Technique ?? sheet.Technique;
        sheet.Fit = read.Fit ?? sheet.Fit;
        sheet.Landmarks = SheetMarks.Merged(sheet);
    }

    /// <summary>Everything that a sheet's fit hangs on, as it is now.</summary>
    private async Task<ReadAsked> Asked(Sheet sheet, Course course)
    {
        var (view, facing) = sheet.Subject == "head" ? (null, 0) : await View(sheet);
        var marks = SheetMarks.AreAsked(sheet, course) ? Asked(sheet, course, view) : null;
        var lamp = view is null ? LampSide.Unknown : RoomActions.Of(course).LampFrom(view.Choice.Azimuth + facing);
        return new(sheet.FlatHash!, marks, lamp);
    }

    private static FitAsked Asked(Sheet sheet, Course course, FitView? view)
    {
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

    /// <summary>The view that the sheet is held against, else the meeting's pose from the student's seat; null where neither is known. How far the pose
    /// was turned on the stand, degrees.</summary>
    private async Task<(FitView? View, double Facing)> View(Sheet sheet)
    {
        var (meeting, item) = await Item(sheet);
        var facing = item?.Facings.FirstOrDefault() ?? 0;
        if (sheet.Reference is { } held)
            return (await poses.Find(sheet.CourseId, held.Pose) is { } pose ? new(held, pose, true) : null, facing);
        // Of a set of quick poses nobody knows which one a sheet shows.
        if (item is not { PoseIds.Count: 1 } || await poses.Find(sheet.CourseId, item.PoseIds[0]) is not { } drawn)
            return (null, 0);
        var number = await db
            .Memberships.Where(m => m.CourseId == sheet.CourseId && m.PersonId == sheet.StudentId)
            .Select(m => m.Seat)
            .SingleOrDefaultAsync();
        var seat = await poses.SeatOf(meeting!.Id, sheet.StudentId, number);
        return (new(new(item.PoseIds[0], "male", false, seat.Azimuth, seat.Distance, seat.EyeHeight), drawn, false), facing);
    }

    /// <summary>The part of the meeting that a sheet was drawn in.</summary>
    private async Task<(Meeting? Meeting, PlanItem? Item)> Item(Sheet sheet)
    {
        if (sheet.MeetingId is not { } id || sheet.PoseKey is not { } key)
            return (null, null);
        var meeting = sheet.Meeting ?? await db.Meetings.AsNoTracking().SingleOrDefaultAsync(m => m.Id == id);
        return (meeting, meeting?.Plan.Items.FirstOrDefault(i => i.Pose.ToString() == key));
    }
}
