using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;
using NodaTime;

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
        return await Add(meeting, new(clock.GetCurrentInstant(), act), seen);
    }

    /// <summary>Takes one of the ways to go on that <see cref="WhatNow"/> offers at this instant.</summary>
    /// <param name="what">What broke into the evening; null where it is only late or early.</param>
    public async Task<bool> TakeOffer(Meeting meeting, string offer, Instant end, int? seen = null, Interruption? what = null)
    {
        var now = clock.GetCurrentInstant();
        var reading = MeetingClock.Read(meeting.Plan.Items, meeting.Clock, now);
        var left = (end - now).TotalMinutes;
        var offers = what is { } broke
            ? WhatNow.Interrupted(broke, meeting.Request, reading, left)
            : WhatNow.Offers(meeting.Request, reading, left);
        var taken = offers.FirstOrDefault(o => o.Id == offer)
            ?? throw new InputException("that way to go on is no longer open", "offer", "one of the ways shown");
        return await Add(meeting, new(now, ClockAct.Replan, taken.Rest), seen);
    }

    private async Task<bool> Add(Meeting meeting, ClockEvent e, int? seen)
    {
        if (seen is { } n && n != meeting.Clock.Count)
            return false;
        meeting.Clock = [.. meeting.Clock, e];
        await db.SaveChangesAsync();
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

    public async Task SaveCard(Meeting meeting, string pose, Person reader, PoseCard card)
    {
        card.Checked();
        if (pose.Length != 1 || !char.IsAsciiLetterUpper(pose[0]))
            throw new InputException($"pose '{pose}'", "pose", "a letter A to Z");
        var reading = await db.PoseReadings.SingleOrDefaultAsync(r =>
            r.MeetingId == meeting.Id && r.Pose == pose && r.ReaderId == reader.Id
        );
        if (reading is null)
            db.PoseReadings.Add(
                reading = new()
                {
                    MeetingId = meeting.Id,
                    Pose = pose,
                    ReaderId = reader.Id,
                }
            );
        (reading.Card, reading.ReadAt) = (card, clock.GetCurrentInstant());
        await db.SaveChangesAsync();
    }
}

/// <summary>Letters of a timetable's exercises, as written on the sheets: the periods of one long pose share a letter.</summary>
public static class PlanLetters
{
    public static IReadOnlyDictionary<int, string> Of(IReadOnlyList<PlanItem> items)
    {
        var letters = new Dictionary<int, string>();
        var next = 'A';
        string? sitting = null;
        for (var k = 0; k < items.Count; k++)
        {
            if (items[k].Kind != ItemKind.Exercise)
                continue;
            if (items[k].Period > 0)
                letters[k] = sitting ??= (next++).ToString();
            else
                letters[k] = (next <= 'Z' ? next++ : 'Z').ToString();
        }
        return letters;
    }

    /// <summary>Letter of the pose that a card is read from: the long pose, else the longest exercise.</summary>
    public static string LongPose(IReadOnlyList<PlanItem> items)
    {
        var letters = Of(items);
        var best = Enumerable
            .Range(0, items.Count)
            .Where(letters.ContainsKey)
            .OrderByDescending(k => items[k].Period > 0)
            .ThenByDescending(k => items[k].PoseMinutes)
            .FirstOrDefault(-1);
        return best < 0 ? "A" : letters[best];
    }
}
