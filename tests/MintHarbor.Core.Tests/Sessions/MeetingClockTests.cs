using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;
using Xunit;

namespace MintHarbor.Core.Tests.Sessions;

public class MeetingClockTests
{
    public static TheoryData<string> Says() => [.. ClockVector.All.Select(v => v.Says)];

    [Theory, MemberData(nameof(Says))]
    public void The_clock_stands_where_it_was_worked_out_to_stand(string says)
    {
        var v = ClockVector.All.Single(x => x.Says == says);
        var r = MeetingClock.Read(ClockVector.Plan, v.Log, ClockVector.After(v.At));
        Assert.Equal((v.Index, v.Pose, v.Before), (r.Index, r.PoseIndex, r.Current!.Item.Before));
        Assert.Equal(v.Left, r.PoseSecondsLeft, 3);
    }

    /// <summary>What is planned again reads the strains that were held: after seven seated poses and an asked-for rest three standing ones are
    /// left, not ten seated ones.</summary>
    [Fact]
    public void A_rest_inside_a_set_leaves_what_was_held_and_what_is_left()
    {
        var log = ClockVector.All.Single(v => v.Says.StartsWith("after that rest", StringComparison.Ordinal)).Log;
        var t = MeetingClock.Read(ClockVector.Plan, log, ClockVector.After(1020)).Timeline;
        Assert.Equal((7, 7.0, 7), (t[1].Item.Poses, t[1].Minutes, t[1].Item.Strains.Count));
        Assert.True(t[2].Asked);
        Assert.Equal((3, 3.0), (t[3].Item.Poses, t[3].Minutes));
        Assert.Equal([Strain.Standing, Strain.Standing, Strain.Standing], t[3].Item.Strains);
        Assert.Equal(["stand", "behind", "stand"], t[3].Item.PoseIds);
        Assert.Equal([-90, 0, 90], t[3].Item.Facings);
        Assert.Equal(t[1].Item.Line, t[3].Item.Line);
        var late = MeetingClock.Read(ClockVector.Plan, log, ClockVector.After(1020));
        // The rest takes its five minutes from the review, down to its least, and nothing else.
        Assert.Equal((5.0, 10.0, 0.0), (t.Single(x => x.Item.Kind == ItemKind.Review).Minutes, t[^1].Minutes, late.LateMinutes));
    }

    /// <summary>One way to split an item: the clock, a line broken in two by hand, and the interruption of an evening use it.</summary>
    [Theory]
    [InlineData(3, 3, 7, 0), InlineData(3.5, 4, 7, 0.5), InlineData(0.25, 1, 10, 0.25), InlineData(9.5, 10, 1, 0.5)]
    public void A_set_split_in_a_pose_goes_on_with_what_the_pose_still_wants(double minutes, int held, int left, double into)
    {
        var (a, b) = ClockVector.Plan[1].Split(minutes);
        Assert.Equal((held, left, into), (a.Poses, b.Poses, b.Into));
        Assert.Equal(10, a.Minutes + b.Minutes, 9);
        Assert.Equal(10, a.PoseRuns().Concat(b.PoseRuns()).Sum(r => r.Minutes), 9);
        Assert.All(b.PoseRuns().Skip(1), r => Assert.Equal(1, r.Minutes, 9));
        Assert.Equal(5 + minutes, b.At, 9);
        var runs = b.PoseRuns().ToList();
        Assert.Equal(1 - into, runs[0].Minutes, 9);
    }

    [Fact]
    public void A_stamp_never_runs_back_whichever_node_gives_it()
    {
        ClockEvent[] log = [new(ClockVector.After(10), ClockAct.Start), new(ClockVector.After(8), ClockAct.Pause)];
        Assert.Equal(ClockVector.After(10), MeetingClock.Stamp(log, ClockVector.After(9)));
        Assert.Equal(ClockVector.After(12), MeetingClock.Stamp(log, ClockVector.After(12)));
        Assert.Equal(ClockVector.After(3), MeetingClock.Stamp([], ClockVector.After(3)));
    }
}
