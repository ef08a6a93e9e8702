using System.Text.Json.Serialization;
using NodaTime;

namespace MintHarbor.Core.Sessions;

public enum ClockAct
{
    Start,
    Pause,
    Resume,
    Next,
    AddMinute,
    Rest,
    Replan,
}

/// <summary>One act on the clock. The acts of a meeting are a log: only added to, in the order of their sequence.</summary>
/// <param name="Rest">For a re-plan: the timeline from the current item on.</param>
public sealed record ClockEvent(Instant At, ClockAct Act, IReadOnlyList<RunItem>? Rest = null);

/// <summary>One item of the running timetable, after what was added or cut in the room.</summary>
public sealed record RunItem(PlanItem Item, double Minutes)
{
    /// <summary>A rest that the model asked for: no line of the plan.</summary>
    [JsonIgnore]
    public bool Asked => Item.Line.IsNone;
}

/// <summary>Where a meeting stands at an instant.</summary>
/// <param name="Index">Index into <paramref name="Timeline"/>; its count when the meeting is over.</param>
/// <param name="SecondsIntoItem">Seconds of the current item that have run.</param>
/// <param name="LateMinutes">By how much the end has moved past the planned end, after review and packing up gave what they can.</param>
public sealed record ClockReading(
    bool Started,
    bool Running,
    bool Over,
    int Index,
    double SecondsIntoItem,
    IReadOnlyList<RunItem> Timeline,
    double LateMinutes
)
{
    public RunItem? Current => Started && !Over ? Timeline[Index] : null;
    public RunItem? Next => Started && Index + 1 < Timeline.Count ? Timeline[Index + 1] : null;
    public double SecondsLeft => Current is { } c ? Math.Max(0, (c.Minutes * 60) - SecondsIntoItem) : 0;

    /// <summary>Which pose of the current line is held now, from 0.</summary>
    public int PoseIndex => Current?.Item.PoseAt(SecondsIntoItem / 60) ?? 0;

    public double PoseSecondsLeft =>
        Current is { Item: { Poses: > 1, PoseMinutes: > 0 } i } && PoseIndex < i.Poses - 1
            ? (i.PoseStart(PoseIndex + 1) * 60) - SecondsIntoItem
            : SecondsLeft;

    /// <summary>Minutes of the timeline that have run, for the now-line.</summary>
    public double MinutesRun => Started ? Timeline.Take(Index).Sum(t => t.Minutes) + (Over ? 0 : SecondsIntoItem / 60) : 0;
}

/// <summary>The room clock: its state is the plan and the instants at which somebody acted. Nothing ticks; what the clock
/// shows at an instant is computed from these, on any node, and after any restart.</summary>
public static class MeetingClock
{
    /// <summary>Minutes of the rest that the model asks for.</summary>
    public const double AskedRestMinutes = 5;

    /// <summary>The instant that an act is stamped with, and a reading taken at, on a node whose own clock says <paramref name="now"/>: stamps
    /// never run back, whichever node took the last act.</summary>
    public static Instant Stamp(IReadOnlyList<ClockEvent> events, Instant now) =>
        events.Count == 0 ? now : Instant.Max(now, events.Max(e => e.At));

    /// <param name="events">In the order in which they were taken.</param>
    public static ClockReading Read(IReadOnlyList<PlanItem> plan, IReadOnlyList<ClockEvent> events, Instant now, TimingRules? rules = null)
    {
        rules ??= TimingRules.Default;
        var timeline = plan.Select(i => new RunItem(i, i.Minutes)).ToList();
        bool started = false,
            running = false;
        var index = 0;
        double into = 0;
        var last = Instant.MinValue;
        var planned = plan.Sum(i => i.Minutes);
        foreach (var e in events.Where(e => e.At <= now))
        {
            // An act stamped by a clock that was behind counts nothing twice.
            if (running)
                Advance((e.At - last).TotalSeconds);
            last = Instant.Max(last, e.At);
            switch (e.Act)
            {
                case ClockAct.Start when !started:
                    (started, running) = (true, true);
                    break;
                case ClockAct.Pause:
                    running = false;
                    break;
                case ClockAct.Resume:
                    running = started;
                    break;
                case ClockAct.Next when started && index < timeline.Count:
                    timeline[index] = timeline[index] with { Minutes = into / 60 };
                    (index, into) = (index + 1, 0);
                    break;
                case ClockAct.AddMinute when started && index < timeline.Count:
                    timeline[index] = timeline[index] with { Minutes = timeline[index].Minutes + 1 };
                    Absorb(timeline, index, planned, rules);
                    break;
                case ClockAct.Rest
                    when started && index < timeline.Count && timeline[index].Item.Kind is not (ItemKind.Rest or ItemKind.Break):
                    Interrupt();
                    Absorb(timeline, index, planned, rules);
                    break;
                case ClockAct.Replan when started && index < timeline.Count && e.Rest is { Count: > 0 } rest:
                    timeline.RemoveRange(index, timeline.Count - index);
                    timeline.AddRange(rest);
                    // What an overrun may eat from now on is measured against the new plan.
                    planned = timeline.Sum(t => t.Minutes);
                    break;
            }
        }
        if (running)
            Advance((now - last).TotalSeconds);
        var late = Math.Max(0, timeline.Sum(t => t.Minutes) - planned);
        return new(started, running && index < timeline.Count, started && index >= timeline.Count, index, into, timeline, late);

        void Advance(double seconds)
        {
            into += Math.Max(0, seconds);
            // A thousandth of a second of slack keeps a boundary from being missed by rounding.
            while (index < timeline.Count && into >= (timeline[index].Minutes * 60) - 0.001)
            {
                into = Math.Max(0, into - (timeline[index].Minutes * 60));
                index++;
            }
        }

        void Interrupt()
        {
            var current = timeline[index];
            var (gone, left) = (into / 60, current.Minutes - (into / 60));
            timeline.Insert(index + 1, new(new PlanItem(0, AskedRestMinutes, ItemKind.Rest), AskedRestMinutes));
            if (left > 0.01 && gone > 0.01)
            {
                var (held, rest) = (current.Item with { Minutes = current.Minutes }).Split(gone);
                timeline[index] = new(held, gone);
                timeline.Insert(index + 2, new(rest, left));
            }
            else
            {
                timeline[index] = current with { Minutes = gone };
                if (left > 0.01)
                    timeline.Insert(index + 2, current);
            }
            (index, into) = (index + 1, 0);
        }
    }

    /// <summary>Takes an overrun from the review, then from packing up, each down to its least. Done when the overrun
    /// arises, so that a review already begun keeps the length it began with.</summary>
    private static void Absorb(List<RunItem> timeline, int index, double planned, TimingRules rules)
    {
        var late = timeline.Sum(t => t.Minutes) - planned;
        foreach (var (kind, least) in new[] { (ItemKind.Review, rules.ReviewMin), (ItemKind.PackUp, rules.PackUpMin) })
        {
            var k = timeline.FindIndex(t => t.Item.Kind == kind);
            if (late <= 0 || k <= index)
                continue;
            var give = Math.Min(late, Math.Max(0, timeline[k].Minutes - least));
            timeline[k] = timeline[k] with { Minutes = timeline[k].Minutes - give };
            late -= give;
        }
    }
}
