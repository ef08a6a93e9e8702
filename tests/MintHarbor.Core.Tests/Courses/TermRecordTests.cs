using MintHarbor.Core.Courses;
using NodaTime;
using Xunit;

namespace MintHarbor.Core.Tests.Courses;

public class TermRecordTests
{
    private static CritiquedSheet On(int day, params string[] faults) => new(day, 1, new LocalDate(2026, 9, 1).PlusDays(day), faults);

    [Fact]
    public void What_recurs_is_told_with_whether_it_fell_rose_or_stayed()
    {
        CritiquedSheet[] sheets =
        [
            On(1, "hairy", "lean"),
            On(2, "hairy"),
            On(3, "hairy", "small"),
            On(4, "lean", "small"),
            On(5, "hairy", "small"),
            On(6, "small", "lean"),
            On(7, "once"),
        ];
        // Four against three: the odd one is the earlier half's.
        var all = TermRecord.Recurring(sheets);
        Assert.Equal(["hairy", "small", "lean"], all.Select(f => f.Fault));
        Assert.Equal(("on 3 of 4 sheets, then on 1 of 3: fell", Trend.Fell), (all[0].Says, all[0].Trend));
        Assert.Equal(("on 2 of 4 sheets, then on 2 of 3: stayed", Trend.Stayed), (all[1].Says, all[1].Trend));
        Assert.Equal(("on 2 of 4 sheets, then on 1 of 3: stayed", Trend.Stayed), (all[2].Says, all[2].Trend));
        // In any order, and the same fault said twice on a sheet is once.
        Assert.Equal(all, TermRecord.Recurring([.. sheets.Reverse()]));
        Assert.Empty(TermRecord.Recurring([On(1, "hairy", "hairy"), On(2)]));
        Assert.Empty(TermRecord.Recurring([]));
    }

    [Fact]
    public void Only_what_mends_or_drills_it_and_came_after_it_was_named_was_planned_against_it()
    {
        CritiquedSheet[] sheets = [On(1), On(4, "lean"), On(9, "lean")];
        static Planned At(int day, string? exercise, string? drill = null) => new(new LocalDate(2026, 9, 1).PlusDays(day), exercise, drill);
        Planned[] planned =
        [
            At(2, "envelope"),
            At(6, "gesture"),
            At(7, "envelope"),
            At(7, "envelope"),
            At(8, null, "plumb"),
            At(9, null, "tilt"),
        ];
        var days = TermRecord.Against("lean", "envelope", "plumb", sheets, planned);
        Assert.Equal([7, 8], days.Select(d => Period.DaysBetween(new LocalDate(2026, 9, 1), d)));
        Assert.Empty(TermRecord.Against("lean", null, null, sheets, planned));
        Assert.Empty(TermRecord.Against("never", "envelope", "plumb", sheets, planned));
    }

    [Fact]
    public void Before_and_after_something_was_planned_against_it_and_too_few_say_nothing()
    {
        CritiquedSheet[] sheets = [On(1, "lean"), On(2, "lean"), On(5), On(6), On(8, "lean")];
        var lean = TermRecord.Since("lean", sheets, new LocalDate(2026, 9, 1).PlusDays(5));
        Assert.Equal((2, 2, 1, 3, Trend.Fell), (lean.Before, lean.BeforeOf, lean.After, lean.AfterOf, lean.Trend));
        Assert.Equal(Trend.Rose, new FaultOverTerm("x", 0, 5, 1, 5).Trend);
        Assert.Equal(Trend.Stayed, new FaultOverTerm("x", 1, 5, 1, 6).Trend);
        Assert.Equal(Trend.TooFew, TermRecord.Since("lean", sheets, new LocalDate(2026, 9, 2)).Trend);
        Assert.Equal(
            "on 0 of 0 sheets, then on 3 of 5: too few sheets to say",
            TermRecord.Since("lean", sheets, new LocalDate(2026, 9, 2)).Says
        );
    }
}
