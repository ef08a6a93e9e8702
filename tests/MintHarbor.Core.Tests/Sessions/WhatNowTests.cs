using System.Text.Json;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sessions;
using NodaTime;
using Xunit;

namespace MintHarbor.Core.Tests.Sessions;

public class WhatNowTests
{
    private static readonly Instant Seven = Instant.FromUtc(2026, 11, 24, 19, 0);
    private static readonly PlanRequest Evening = Evenings.Usual;

    private static Instant At(double minutes) => Seven + Duration.FromSeconds((long)(minutes * 60));

    private static ClockReading Read(IReadOnlyList<PlanItem> plan, double minutes, params (double At, ClockAct Act)[] events) =>
        MeetingClock.Read(plan, [.. events.Select(e => new ClockEvent(At(e.At), e.Act))], At(minutes));

    /// <summary>Rest rules (from memory), counted here pose by pose without the planner's own proof.</summary>
    private static List<string> Faults(IReadOnlyList<RunItem> timeline)
    {
        var limits = new Dictionary<Strain, double>
        {
            [Strain.Lying] = 25,
            [Strain.Seated] = 25,
            [Strain.Standing] = 20,
            [Strain.OneLeg] = 15,
            [Strain.Raised] = 5,
            [Strain.Extreme] = 2,
        };
        var faults = new List<string>();
        var cells = new List<(bool Posed, Strain Strain)>();
        double stretch = 0;
        var onEnd = limits.ToDictionary(l => l.Key, _ => 0.0);
        foreach (var t in timeline.Where(t => t.Minutes > 0.01))
        {
            if (t.Item.Kind is ItemKind.Rest or ItemKind.Break)
            {
                if (t.Minutes >= 5 - 1e-6)
                    stretch = 0;
                foreach (var s in limits.Keys)
                    onEnd[s] = 0;
            }
            if (!t.Item.Posed)
                continue;
            stretch += t.Minutes;
            if (stretch > 25 + 1e-6)
                faults.Add($"a stretch of {stretch:0.0}");
            foreach (var run in (t.Item with { Minutes = t.Minutes }).PoseRuns())
            {
                foreach (var s in limits.Keys)
                {
                    onEnd[s] = run.Strain >= s ? onEnd[s] + run.Minutes : 0;
                    if (onEnd[s] > limits[s] + 1e-6)
                        faults.Add($"{s} for {onEnd[s]:0.0}");
                }
            }
        }
        return faults;
    }

    [Fact]
    public void A_meeting_on_time_asks_nothing()
    {
        var plan = Planner.Plan(Evening).Proposals[0].Items;
        Assert.Empty(WhatNow.Offers(Evening, Read(plan, 40, (0, ClockAct.Start)), 110));
        Assert.Empty(WhatNow.Offers(Evening, Read(plan, 40), 110));
        Assert.Equal(0, WhatNow.Behind(Read(plan, 200, (0, ClockAct.Start)), -50));
    }

    [Theory]
    [InlineData(10), InlineData(20), InlineData(35)]
    public void Started_late_the_end_is_kept_and_each_way_says_what_it_drops(double late)
    {
        var plan = Planner.Plan(Evening).Proposals[0].Items;
        var reading = Read(plan, late + 1, (late, ClockAct.Start));
        var left = 150 - (late + 1);
        Assert.Equal(late, WhatNow.Behind(reading, left), 3);
        var offers = WhatNow.Offers(Evening, reading, left);
        Assert.InRange(offers.Count, 2, 3);
        Assert.Equal(offers.Count, offers.Select(o => string.Join(",", o.Drops)).Distinct().Count());
        foreach (var o in offers)
        {
            Assert.NotEmpty(o.Drops);
            Assert.Equal(left, o.Rest.Sum(r => r.Minutes) - (reading.SecondsIntoItem / 60), 2);
            Assert.Equal(plan.Count(i => i.Kind == ItemKind.Break), o.Rest.Count(r => r.Item.Kind == ItemKind.Break));
            Assert.Empty(Faults(o.Rest));
        }
        Assert.Contains(offers.Single(o => o.Id == "room").Drops, d => d.StartsWith("review 15 → ", StringComparison.Ordinal));
        Assert.Contains(offers.Single(o => o.Id == "short").Drops, d => d.Contains("gesture") || d.Contains("mass"));
    }

    /// <summary>Two thousand random moments of random evenings: whatever is offered keeps the end to a second and the rest rules, and what has
    /// been held stays as it was.</summary>
    [Fact]
    public void Whatever_is_offered_keeps_rests_and_end()
    {
        var random = new SeededRandom(41);
        int asked = 0,
            offered = 0;
        for (var n = 0; asked < 2000; n++)
        {
            var request = new PlanRequest(
                new()
                {
                    Minutes = 60 + random.Next(181),
                    Approach = (Approach)random.Next(3),
                    Purpose = (Purpose)random.Next(6),
                    Level = (Level)random.Next(3),
                    Students = 9,
                    Seed = n,
                }
            );
            var shapes = Shapes.Of(request.Wish.Approach);
            if (Planner.Plan(request.Wishing(w => w with { Shape = shapes[random.Next(shapes.Count)].Id })).Proposals is not [var proposal])
                continue;
            var events = new List<ClockEvent> { new(At(random.Next(25)), ClockAct.Start) };
            var time = (events[0].At - Seven).TotalMinutes;
            for (var e = random.Next(5); e > 0; e--)
            {
                time += random.Between(0.5, 20);
                events.Add(new(At(time), (ClockAct)(1 + random.Next(5))));
            }
            time += random.Between(0.1, 10);
            var reading = MeetingClock.Read(proposal.Items, events, At(time));
            var left = request.Wish.Minutes - time;
            if (reading.Current is null || left < 1 || Math.Abs(WhatNow.Behind(reading, left)) < WhatNow.Worth)
                continue;
            asked++;
            var held = reading.Timeline.Take(reading.Index).ToList();
            // A pose that ran over in the room can't be mended afterwards; those evenings promise nothing.
            if (Faults(held).Count > 0)
                continue;
            foreach (var o in WhatNow.Offers(request, reading, left))
            {
                offered++;
                var taken = MeetingClock.Read(proposal.Items, [.. events, new(At(time), ClockAct.Replan, o.Rest)], At(time));
                Assert.Equal(JsonSerializer.Serialize(held), JsonSerializer.Serialize(taken.Timeline.Take(reading.Index)));
                // The current line goes on, or ends now.
                Assert.True(taken.SecondsIntoItem == reading.SecondsIntoItem || taken.Index == reading.Index + 1);
                Assert.Equal(0, WhatNow.Behind(taken, left), 2);
                var faults = Faults(taken.Timeline);
                Assert.True(faults.Count == 0, $"plan {n}, {o.Id}: {string.Join("; ", faults)}");
                Assert.All(o.Rest.Skip(1), r => Assert.True(r.Minutes > 0.01));
            }
        }
        Assert.True(offered > 2000, $"{asked} asked, {offered} offered");
    }

    [Fact]
    public void Minutes_won_go_to_the_long_pose_more_short_poses_or_the_review()
    {
        var plan = Planner.Plan(Evening).Proposals[0].Items;
        var sets = plan.ToList().FindIndex(i => i.Poses > 1);
        var at = plan[sets].At;
        var reading = Read(plan, at + 1, (0, ClockAct.Start), (at, ClockAct.Next), (at, ClockAct.Next));
        var offers = WhatNow.Offers(Evening, reading, 150 - (at + 1));
        Assert.True(WhatNow.Behind(reading, 150 - (at + 1)) < -5);
        Assert.Contains(offers, o => o.Id == "room" && o.Drops.Any(d => d.StartsWith("review 15 → ", StringComparison.Ordinal)));
        Assert.All(offers, o => Assert.Empty(Faults(o.Rest)));
    }

    [Fact]
    public void After_a_re_plan_an_overrun_is_counted_against_the_new_plan()
    {
        var plan = Planner.Plan(Evening).Proposals[0].Items;
        var reading = Read(plan, 21, (20, ClockAct.Start));
        var offer = WhatNow.Offers(Evening, reading, 129)[0];
        ClockEvent[] events =
        [
            new(At(20), ClockAct.Start),
            new(At(21), ClockAct.Replan, offer.Rest),
            new(At(22), ClockAct.Pause),
            new(At(34), ClockAct.Resume),
        ];
        var later = MeetingClock.Read(plan, events, At(34));
        Assert.Equal(12, WhatNow.Behind(later, 150 - 34), 2);
        Assert.NotEmpty(WhatNow.Offers(Evening, later, 150 - 34));
        Assert.True(MeetingClock.Read(plan, events, At(170)).Over);
    }

    [Fact]
    public void When_nothing_can_give_enough_nothing_is_offered()
    {
        var plan = Planner.Plan(Evening).Proposals[0].Items;
        Assert.Empty(WhatNow.Offers(Evening, Read(plan, 144, (140, ClockAct.Start)), 6));
    }

    /// <summary>The model unwell, the fire bell, the lamp out, at two thousand random moments: what was held stays, the end is kept or is
    /// earlier, rests hold, and there is always a way while drawing goes on.</summary>
    [Fact]
    public void Whatever_breaks_in_there_is_a_way_that_keeps_rests_and_end()
    {
        var random = new SeededRandom(77);
        int asked = 0,
            none = 0,
            pauses = 0;
        for (var n = 0; asked < 2000; n++)
        {
            var request = new PlanRequest(
                new()
                {
                    Minutes = 60 + random.Next(181),
                    Approach = (Approach)random.Next(3),
                    Purpose = (Purpose)random.Next(6),
                    Students = 9,
                    Seed = n,
                }
            );
            var items = Planner.Plan(request).Proposals[0].Items;
            var time = random.Between(0.5, request.Wish.Minutes - 20);
            var events = new List<ClockEvent> { new(At(0), ClockAct.Start) };
            var reading = MeetingClock.Read(items, events, At(time));
            var what = (Interruption)random.Next(3);
            var left = request.Wish.Minutes - time;
            if (reading.Current is null)
                continue;
            asked++;
            var offers = WhatNow.Interrupted(what, request, reading, left);
            if (offers.Count == 0)
                none++;
            pauses += offers.Count(o => o.Id == "pause");
            foreach (var o in offers)
            {
                var taken = MeetingClock.Read(items, [.. events, new(At(time), ClockAct.Replan, o.Rest)], At(time));
                Assert.Equal(reading.Timeline.Take(reading.Index), taken.Timeline.Take(reading.Index));
                if (o.Id == "wall")
                    Assert.True(WhatNow.Behind(taken, left) <= 0.01, $"the wall ends {WhatNow.Behind(taken, left)} min late");
                else
                    Assert.Equal(0, WhatNow.Behind(taken, left), 2);
                var faults = Faults(taken.Timeline);
                Assert.True(faults.Count == 0, $"plan {n}, {what}, {o.Id}: {string.Join("; ", faults)}");
                if (o.Id == "without" && what == Interruption.Unwell)
                    Assert.DoesNotContain(o.Rest.Skip(1), r => r.Item.Posed);
            }
        }
        Assert.True(none < asked / 10 && pauses > asked * 0.7, $"{none} of {asked} without a way, {pauses} with a pause");
    }

    [Theory]
    [InlineData(12, "12 min behind", "Go on, and say that it ends 12 min late.")]
    [InlineData(-80, "80 min ahead", "Go on, and say that it ends 80 min early.")]
    public void An_evening_ahead_of_its_plan_never_ends_late(double behind, string stands, string goOn)
    {
        Assert.Equal(stands, WhatNow.Stands(behind));
        Assert.Equal(goOn, WhatNow.GoOn(behind));
    }

    [Fact]
    public void A_lamp_that_went_out_on_time_ends_nothing_late() => Assert.Equal("Go on as planned.", WhatNow.GoOn(0));
}
