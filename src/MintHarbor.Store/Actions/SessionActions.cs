using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;
using NodaTime;
using Npgsql;

namespace MintHarbor.Store.Actions;

/// <summary>A running meeting: its clock and its pose cards.</summary>
public sealed class SessionActions(HarborContext db, IClock clock)
{
    public const string RoomChannel = "room";

    /// <summary>One act on the room clock, stamped with the server's time; the displays are told.</summary>
    /// <param name="seen">How many acts the person saw when they pressed: an act that was already taken, by them over a line
    /// that dropped or by somebody else, is not taken twice. Null takes it as it comes.</param>
    /// <returns>False when the clock had moved on.</returns>
    public async Task<bool> Act(Meeting meeting, ClockAct act, int? seen = null)
    {
        if (act == ClockAct.Replan)
            throw new InputException("a re-plan names what it takes", "act", "start, pause, resume, next, add-minute, rest");
        return await Add(meeting, act, null, seen);
    }

    /// <summary>Takes one of the ways to go on that <see cref="WhatNow"/> offers at this instant.</summary>
    /// <param name="what">What broke into the evening; null where it is only late or early.</param>
    public async Task<bool> TakeOffer(Meeting meeting, string offer, Instant end, int? seen = null, Interruption? what = null)
    {
        var now = clock.GetCurrentInstant();
        var reading = meeting.Reading(now);
        var left = (end - MeetingClock.Stamp(meeting.Clock, now)).TotalMinutes;
        var offers = what is { } broke
            ? WhatNow.Interrupted(broke, meeting.Request, reading, left)
            : WhatNow.Offers(meeting.Request, reading, left);
        var taken = offers.FirstOrDefault(o => o.Id == offer)
            ?? throw new InputException("that way to go on is no longer open", "offer", "one of the ways shown");
        return await Add(meeting, ClockAct.Replan, taken.Rest, seen);
    }

    /// <summary>Writes one act behind the last that is known. Of two at once the second finds its place taken: it was seen on a clock that
    /// has moved on.</summary>
    private async Task<bool> Add(Meeting meeting, ClockAct act, IReadOnlyList<RunItem>? rest, int? seen)
    {
        if (seen is { } n && n != meeting.Acts.Count)
            return false;
        var entry = new ClockEntry
        {
            MeetingId = meeting.Id,
            Sequence = meeting.Acts.Count + 1,
            At = MeetingClock.Stamp(meeting.Clock, clock.GetCurrentInstant()),
            Act = act,
            Rest = rest,
        };
        db.ClockActs.Add(entry);
        // Whoever changes the timetable at the same moment is told that the meeting has begun.
        if (act == ClockAct.Start && db.Entry(meeting).State != EntityState.Detached)
            db.Entry(meeting).Property(m => m.Note).IsModified = true;
        try
        {
            await db.SaveChangesAsync();
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            db.ChangeTracker.Clear();
            meeting.Acts = await db.ClockActs.AsNoTracking().Where(a => a.MeetingId == meeting.Id).ToListAsync();
            return seen is null && await Add(meeting, act, rest, seen);
        }
        if (!meeting.Acts.Contains(entry))
            meeting.Acts.Add(entry);
        await Tell(meeting.Id);
        return true;
    }

    public Task Tell(int meetingId) =>
        db.Database.ExecuteSqlAsync($"select pg_notify({RoomChannel}, {meetingId.ToString(CultureInfo.InvariantCulture)})");

    /// <summary>A new secret for the room display; the old link ends.</summary>
    public async Task RenewRoomLink(Meeting meeting)
    {
        meeting.RoomSecret = Secrets.New();
        await db.SaveChangesAsync();
        await Tell(meeting.Id);
    }

    /// <param name="pose">One of the meeting's <see cref="Proposal.CardPoses"/>.</param>
    /// <param name="from">Where it was read from, degrees round the stand; null where that is not said.</param>
    public async Task SaveCard(Meeting meeting, PoseKey pose, Person reader, PoseCard card, double? from = null)
    {
        card.Checked();
        if (from is { } at)
            new Seat(at).Checked("from");
        if (meeting.Plan.CardPoses.All(i => i.Pose != pose))
            throw new InputException($"pose '{pose}'", "pose", string.Join(" | ", meeting.Plan.CardPoses.Select(i => i.Pose)));
        var letter = pose.ToString();
        var reading = await db.PoseReadings.SingleOrDefaultAsync(r =>
            r.MeetingId == meeting.Id && r.Pose == letter && r.ReaderId == reader.Id
        );
        if (reading is null)
            db.PoseReadings.Add(
                reading = new()
                {
                    MeetingId = meeting.Id,
                    Pose = letter,
                    ReaderId = reader.Id,
                }
            );
        (reading.Card, reading.ReadFrom, reading.ReadAt) = (card, from, clock.GetCurrentInstant());
        await db.SaveChangesAsync();
    }
}
