using MintHarbor.Core.Practice;
using NodaTime;
using Xunit;

namespace MintHarbor.Core.Tests.Practice;

/// <summary>Lists of times, logs of sittings and runs of days.</summary>
public sealed class SittingTests
{
    [Theory]
    [InlineData("1, 5, 3", new[] { 60, 300, 180 }, "1, 5, 3 min")]
    [InlineData("6 × 2", new[] { 120, 120, 120, 120, 120, 120 }, "6 × 2 min")]
    [InlineData("2x45s;10", new[] { 45, 45, 600 }, "2 × 45 s, 10 min")]
    [InlineData("30 s", new[] { 30 }, "30 s")]
    [InlineData("1.5 min", new[] { 90 }, "1.5 min")]
    [InlineData("2 sec, 5", null, "")]
    [InlineData("", null, "")]
    [InlineData("soon", null, "")]
    [InlineData("0", null, "")]
    [InlineData("-3", null, "")]
    [InlineData("61 × 1", null, "")]
    [InlineData("601", null, "")]
    [InlineData("1e300", null, "")]
    [InlineData("0 × 5", null, "")]
    public void A_list_of_times_is_read_as_it_is_typed(string typed, int[]? seconds, string said)
    {
        if (seconds is null)
        {
            Assert.NotEmpty(Assert.Throws<InputException>(() => TimedList.Read(typed)).Accepted);
            return;
        }
        Assert.Equal(seconds, TimedList.Read(typed));
        Assert.Equal(said, TimedList.Said(TimedList.Read(typed)));
        Assert.Equal(seconds, TimedList.Read(TimedList.Said(seconds).Replace(" min", "")));
    }

    [Fact]
    public void A_sitting_carries_what_its_last_drawing_taught_and_is_refused_when_it_is_none()
    {
        var log = new SittingLog(
            "gesture",
            SittingSubject.Mirror,
            [new(60, 60, "large", "first"), new(60, 41, "", ""), new(60, 60, "", "last")]
        );
        Assert.Equal(["last", "first"], log.Checked().Taught);
        Assert.Equal(161, log.Seconds);
        Assert.Throws<InputException>(() => (log with { Drawings = [] }).Checked());
        Assert.Throws<InputException>(() => (log with { Drawings = [new(1, 1, "", "")] }).Checked());
        Assert.Throws<InputException>(() => (log with { Drawings = [new(60, -5, "", "")] }).Checked());
        Assert.Throws<InputException>(() => (log with { Drawings = [new(60, 60, new string('x', 201), "")] }).Checked());
        Assert.Throws<InputException>(() => (log with { Drawings = [new(60, 60, null!, "")] }).Checked());
        Assert.Throws<InputException>(() => (log with { Subject = (SittingSubject)9 }).Checked());
        Assert.Throws<InputException>(() =>
            (log with { Drawings = [.. Enumerable.Repeat(new TimedDrawing(60, 60, "", ""), 61)] }).Checked()
        );
    }

    private static readonly LocalDate Today = new(2027, 3, 28);

    private static DailyRun Run(params int[] daysAgo) => DailyRun.Of(daysAgo.Select(d => Today.PlusDays(-d)), Today);

    [Fact]
    public void Days_in_a_row_count_and_today_may_still_come()
    {
        Assert.Equal((3, true), (Run(0, 1, 2).Days, Run(0, 1, 2).Open));
        Assert.Equal((3, true), (Run(1, 2, 3).Days, Run(1, 2, 3).Open));
        Assert.Equal((0, false), (Run().Days, Run().Open));
        Assert.Null(Run().Last);
        // The same day twice is one day; a day to come is none.
        Assert.Equal(2, DailyRun.Of([Today, Today, Today.PlusDays(-1), Today.PlusDays(1)], Today).Days);
    }

    [Fact]
    public void One_day_missed_is_bridged_and_named_and_two_end_the_run()
    {
        var bridged = Run(0, 1, 3, 4, 6);
        Assert.Equal(5, bridged.Days);
        Assert.Equal([Today.PlusDays(-5), Today.PlusDays(-2)], bridged.Missed);
        var broken = Run(0, 1, 4, 5);
        Assert.Equal(2, broken.Days);
        Assert.Empty(broken.Missed);
        // Yesterday missed, today still open: bridged. The day before too: over.
        Assert.Equal((1, true), (Run(2).Days, Run(2).Open));
        Assert.Equal([Today.PlusDays(-1)], Run(2).Missed);
        Assert.Equal((0, false, Today.PlusDays(-3)), (Run(3).Days, Run(3).Open, Run(3).Last!.Value));
        var term = Run([.. Enumerable.Range(1, 24).Where(d => d != 9)]);
        Assert.Equal((23, 1), (term.Days, term.Missed.Count));
    }

    /// <summary>The clocks of Europe/Berlin go forward in the night to 28 March 2027: the day has 23 hours, and is a day.</summary>
    [Fact]
    public void A_short_night_is_a_night()
    {
        var zone = DateTimeZoneProviders.Tzdb["Europe/Berlin"];
        LocalDate Day(LocalDateTime local) => zone.AtLeniently(local).ToInstant().InZone(zone).Date;
        var run = DailyRun.Of(
            [Day(new(2027, 3, 26, 23, 58)), Day(new(2027, 3, 27, 23, 59)), Day(new(2027, 3, 28, 2, 30))],
            Day(new(2027, 3, 28, 23, 0))
        );
        Assert.Equal((3, 0), (run.Days, run.Missed.Count));
    }

    [Theory]
    [InlineData(new[] { true, true, true, false }, DominantEye.Right), InlineData(new[] { false, false, true, false }, DominantEye.Left)]
    [InlineData(new[] { true, true, false, false }, DominantEye.Neither)]
    public void The_eye_is_the_one_that_the_thumb_stays_with(bool[] stays, DominantEye eye)
    {
        Assert.Equal(eye, EyeTest.Of(stays));
        Assert.Throws<InputException>(() => EyeTest.Of([true]));
    }
}
