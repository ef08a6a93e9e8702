using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Sessions;
using MintHarbor.Media;
using MintHarbor.Store.Model;
using NodaTime;
using Npgsql;

namespace MintHarbor.Store.Actions;

/// <summary>One note of a walk round the room, as it was kept in the phone.</summary>
/// <param name="Key">The phone's own name for it.</param>
/// <param name="SaidAt">When it was said, by the phone.</param>
/// <param name="Shared">The student may read it.</param>
public sealed record RoomNoteDraft(
    Guid Key,
    int? StudentId,
    string? FaultId,
    string Place,
    string Text,
    Instant SaidAt,
    bool Shared = false
);

/// <summary>What is kept of an evening beside its clock: who was there, what the eye saw, what was said.</summary>
public sealed class EveningActions(HarborContext db, PictureService pictures, IClock clock)
{
    public const int LongestText = 280,
        MostNotes = 500;

    public async Task Attend(Meeting meeting, int person, bool present)
    {
        var p = await Presence(meeting, person);
        (p.Present, p.At) = (present, clock.GetCurrentInstant());
        await db.SaveChangesAsync();
    }

    /// <summary>Puts a tick on or off; somebody who is ticked is there.</summary>
    public async Task Tick(Meeting meeting, int person, string tick, bool on)
    {
        if (EyeTicks.All.All(t => t.Id != tick))
            throw new InputException($"unknown tick '{tick}'", "tick", string.Join(" | ", EyeTicks.All.Select(t => t.Id)));
        var p = await Presence(meeting, person);
        p.Ticks = on ? [.. p.Ticks.Append(tick).Distinct()] : [.. p.Ticks.Where(t => t != tick)];
        (p.Present, p.At) = (p.Present || on, clock.GetCurrentInstant());
        await db.SaveChangesAsync();
    }

    public async Task SetUp(Meeting meeting, int person, SetUpCard card)
    {
        var p = await Presence(meeting, person);
        (p.SetUp, p.At) = (card.Checked(), clock.GetCurrentInstant());
        await db.SaveChangesAsync();
    }

    private async Task<Presence> Presence(Meeting meeting, int person)
    {
        if (await db.Presences.SingleOrDefaultAsync(p => p.MeetingId == meeting.Id && p.PersonId == person) is { } kept)
            return kept;
        if (!await db.Memberships.AnyAsync(m => m.CourseId == meeting.CourseId && m.PersonId == person && m.Role == CourseRole.Student))
            throw new InputException("that is no student of the course", "person", "a student of the course");
        var p = new Presence { MeetingId = meeting.Id, PersonId = person };
        db.Presences.Add(p);
        return p;
    }

    /// <summary>Keeps a note once, however often it is sent. It stands at the minute at which it was said, held to the meeting's day.</summary>
    /// <returns>False where it had been kept already.</returns>
    public async Task<bool> Keep(
        Course course,
        Meeting meeting,
        int author,
        RoomNoteDraft draft,
        byte[]? photo,
        CancellationToken over = default
    )
    {
        if (await db.RoomNotes.AnyAsync(n => n.MeetingId == meeting.Id && n.Key == draft.Key, over))
            return false;
        var (place, text) = (draft.Place.Trim(), draft.Text.Trim());
        if (text.Length > LongestText || place.Length > 60)
            throw new InputException(
                $"a note of {Math.Max(text.Length, place.Length)} letters",
                text.Length > LongestText ? "text" : "place",
                $"up to {LongestText} letters, a place up to 60"
            );
        if (draft.FaultId is { } fault && course.Shelf.Fault(fault) is null)
            throw new InputException($"unknown fault '{fault}'", "fault", "a fault of the library");
        if (draft.FaultId is null && text == "" && photo is null)
            throw new InputException("the note says nothing", "text", "a fault, a line or a photograph");
        if (
            draft.StudentId is { } student
            && !await db.Memberships.AnyAsync(m => m.CourseId == course.Id && m.PersonId == student && m.Role == CourseRole.Student, over)
        )
            throw new InputException("that is no student of the course", "student", "a student of the course");
        if (await db.RoomNotes.CountAsync(n => n.MeetingId == meeting.Id, over) >= MostNotes)
            throw new InputException($"the evening has {MostNotes} notes", "text", "a new meeting");
        var now = clock.GetCurrentInstant();
        var begun = meeting.Clock.FirstOrDefault(e => e.Act == ClockAct.Start)?.At ?? meeting.Starts(course.Zone);
        var note = new RoomNote
        {
            MeetingId = meeting.Id,
            Key = draft.Key,
            AuthorId = author,
            StudentId = draft.StudentId,
            FaultId = draft.FaultId,
            Place = place,
            Text = text,
            Shared = draft.Shared && draft.StudentId is not null,
            At = now,
            Minute = Math.Clamp(Math.Round((Instant.Min(draft.SaidAt, now) - begun).TotalMinutes, 1), 0, meeting.Minutes),
        };
        List<Picture> kept = [];
        if (photo is not null)
        {
            using var open = await pictures.Take(() => Task.FromResult(photo), over);
            kept = [open.Kept, PictureService.Made(open.Kept.Hash, PictureService.Screen, open.Photo)];
            note.PictureHash = open.Kept.Hash;
        }
        // The picture first, and by itself: kept already, it is the same; only the note's own key tells that the note came before.
        await using var own = db.Database.CurrentTransaction is null ? await db.Database.BeginTransactionAsync(over) : null;
        await pictures.Keep(kept);
        db.RoomNotes.Add(note);
        try
        {
            await db.SaveChangesAsync(over);
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            // The same note came twice at once; one of them was kept.
            db.ChangeTracker.Clear();
            return false;
        }
        if (own is not null)
            await own.CommitAsync(over);
        return true;
    }

    /// <summary>Lets the student whom a note speaks of read it, or takes that back.</summary>
    public async Task Share(Meeting meeting, int note, bool shared)
    {
        var changed = await db
            .RoomNotes.Where(n => n.Id == note && n.MeetingId == meeting.Id && n.StudentId != null)
            .ExecuteUpdateAsync(u => u.SetProperty(n => n.Shared, shared));
        if (changed == 0)
            throw new InputException("no such note", "note", "a note of this evening that speaks of a student");
    }

    public async Task PutAside(Course course, Meeting meeting, string caution)
    {
        if (Cautions.For(course.Shelf.Cautions, meeting.Request, meeting.Plan).All(c => c.Id != caution))
            throw new InputException($"no caution '{caution}' applies tonight", "caution", "one that is shown");
        meeting.CautionsSeen = [.. meeting.CautionsSeen.Append(caution).Distinct()];
        await db.SaveChangesAsync();
    }

    /// <summary>The model's link, made when it is first wanted.</summary>
    public async Task<string> ModelLink(Meeting meeting, bool renew = false)
    {
        if (meeting.ModelSecret != "" && !renew)
            return meeting.ModelSecret;
        meeting.ModelSecret = Secrets.New();
        await db.SaveChangesAsync();
        return meeting.ModelSecret;
    }

    public async Task<string> FeedLink(Course course, bool renew = false)
    {
        if (course.FeedSecret != "" && !renew)
            return course.FeedSecret;
        course.FeedSecret = Secrets.New();
        await db.SaveChangesAsync();
        return course.FeedSecret;
    }
}
