using System.Diagnostics;
using System.Text;
using System.Text.Json.Nodes;
using MintHarbor.Core.Sessions;
using MintHarbor.Media;
using NodaTime;
using Xunit;

namespace MintHarbor.Core.Tests.Sessions;

/// <summary>Dates of a term, long poses over many meetings, what overran: the arithmetic that is done on paper otherwise.</summary>
public class TermTests
{
    private static readonly DateTimeZone Berlin = DateTimeZoneProviders.Tzdb["Europe/Berlin"];

    /// <summary>Worked in the design by hand: 180 − 10 − 15 − 15 − 10 = 130, less three rests of 5 = 115 posed; 1200 ÷ 115 = 10.4, so 11.</summary>
    [Fact]
    public void Twenty_hours_in_meetings_of_three_take_eleven()
    {
        var plan = LongPosePlan.Of(new(new() { Minutes = 180 }), 20);
        Assert.Equal((115.0, 11, 65.0), (plan.NetMinutes, plan.Meetings.Count, plan.LeftOver));
        Assert.Equal(1200, plan.Meetings[^1].Total);
        Assert.Equal(1200, plan.Meetings.SelectMany(m => m.Stages).Sum(s => s.Minutes), 6);
        // Placement, 5 %, is 60 min: over in the first meeting; block-in, to 20 % or 240 min, ends in the third.
        Assert.Contains(plan.Meetings[0].Stages, s => s is { Name: "placement", Minutes: 60, Ends: true });
        Assert.Contains(plan.Meetings[2].Stages, s => s is { Name: "block-in", Ends: true });
        Assert.Contains("115", plan.Because);
        // Away on the fourth date: everything after it moves by one, and with eleven dates the last finds none.
        Assert.Equal([0, 1, 2, 4, 5, 6, 7, 8, 9, 10, -1], plan.Places(11, new HashSet<int> { 3 }));
        Assert.Equal("hours", Assert.Throws<InputException>(() => LongPosePlan.Of(new(new() { Minutes = 180 }), 400)).Field);
    }

    [Fact]
    public void A_weekly_rule_leaves_out_holidays_and_bookings_and_makes_them_up()
    {
        var rule = new WeeklyRule(new(2026, 9, 29), new(19, 0), 150, 1, 4);
        var dates = rule.Dates(
            [new(new(2026, 10, 5), new(2026, 10, 9), "Autumn break")],
            [
                new(new(2026, 10, 13, 20, 0), new(2026, 10, 13, 22, 0), "Choir"),
                new(new(2026, 10, 20, 9, 0), new(2026, 10, 20, 12, 0), "Morning class"),
            ]
        );
        Assert.Equal(
            ["29 Sep", "06 Oct Autumn break", "13 Oct the room is taken: Choir", "20 Oct", "27 Oct", "03 Nov"],
            dates.Select(d => $"{d.Date:dd MMM} {d.Why}".TrimEnd())
        );
        Assert.DoesNotContain(rule.Dates([new(new(2020, 1, 1), new(2040, 1, 1), "For ever")], []), d => d.Why is null);
        Assert.Equal("count", Assert.Throws<InputException>(() => (rule with { Count = 0 }).Dates([], [])).Field);
    }

    private const string Ics = """
        BEGIN:VCALENDAR
        VERSION:2.0
        PRODID:-//Haverlock Quay//Room//EN
        BEGIN:VEVENT
        UID:1
        DTSTART;VALUE=DATE:20261005
        DTEND;VALUE=DATE:20261010
        SUMMARY:Autumn break
        END:VEVENT
        BEGIN:VEVENT
        UID:2
        DTSTART:20261006T170000Z
        DTEND:20261006T190000Z
        RRULE:FREQ=WEEKLY;COUNT=6
        EXDATE:20261020T170000Z
        SUMMARY:Choir
        END:VEVENT
        BEGIN:VEVENT
        UID:3
        DTSTART;VALUE=DATE:20261031
        SUMMARY:A day
        END:VEVENT
        END:VCALENDAR
        """;

    /// <summary>RFC 5545: an event of whole days ends before its DTEND; UTC times cross the end of summer time (25 October 2026 in this
    /// zone); EXDATE leaves one out.</summary>
    [Fact]
    public void A_calendar_is_read_across_the_clock_change_with_its_exceptions()
    {
        var (off, bookings) = Calendars.Read(Encoding.UTF8.GetBytes(Ics.Replace("\n", "\r\n")), new(2026, 9, 1), new(2026, 12, 31), Berlin);
        Assert.Equal(
            [(new(2026, 10, 5), new(2026, 10, 9), "Autumn break"), (new LocalDate(2026, 10, 31), new LocalDate(2026, 10, 31), "A day")],
            off.Select(o => (o.From, o.To, o.Name))
        );
        Assert.Equal(["6 19:00", "13 19:00", "27 18:00", "3 18:00", "10 18:00"], bookings.Select(b => $"{b.From.Day} {b.From:HH:mm}"));
        Assert.All(bookings, b => Assert.Equal(Period.FromHours(2), Period.Between(b.From, b.To, PeriodUnits.Hours)));
    }

    [Theory]
    [
        InlineData(""),
        InlineData("hello"),
        InlineData("BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nDTSTART:nonsense\r\nEND:VEVENT\r\nEND:VCALENDAR"),
        InlineData("BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nDTSTART:20261006T170000Z\r\nRRULE:FREQ=SECONDLY\r\nEND:VEVENT\r\nEND:VCALENDAR")
    ]
    public void What_is_no_calendar_is_refused_by_name(string text)
    {
        try
        {
            Calendars.Read(Encoding.UTF8.GetBytes(text), new(2026, 9, 1), new(2026, 12, 31), Berlin);
        }
        catch (InputException e)
        {
            Assert.Equal("Calendar", e.Field);
            return;
        }
        // What is left of a calendar that can be read in part is bounded.
        Assert.StartsWith("BEGIN", text);
    }

    private static string Event(string rule, string start = "20261006T170000Z") =>
        string.Join(
            "\r\n",
            "BEGIN:VCALENDAR",
            "VERSION:2.0",
            "BEGIN:VEVENT",
            "UID:1",
            $"DTSTART:{start}",
            "DURATION:PT1H",
            $"RRULE:{rule}",
            "SUMMARY:Bell",
            "END:VEVENT",
            "END:VCALENDAR",
            ""
        );

    [Theory]
    [InlineData("FREQ=SECONDLY"), InlineData("FREQ=MINUTELY;INTERVAL=30"), InlineData("FREQ=HOURLY")]
    [InlineData("FREQ=DAILY;BYHOUR=1,2,3"), InlineData("FREQ=YEARLY;BYMINUTE=1"), InlineData("FREQ=DAILY;BYSECOND=1,2")]
    [InlineData("FREQ=DAILY\r\nRRULE:FREQ=SECONDLY")]
    public void A_rule_finer_than_a_day_is_refused(string rule)
    {
        var e = Assert.Throws<InputException>(() =>
            Calendars.Read(Encoding.UTF8.GetBytes(Event(rule)), new(2026, 9, 1), new(2026, 12, 31), Berlin)
        );
        Assert.Contains("more often than once a day", e.Message);
        Assert.Contains("by the day, week, month or year", e.Accepted);
    }

    [Fact]
    public void A_rule_by_the_day_is_taken_and_one_that_never_comes_ends()
    {
        var daily = Calendars.Read(Encoding.UTF8.GetBytes(Event("FREQ=DAILY;COUNT=5")), new(2026, 9, 1), new(2026, 12, 31), Berlin);
        Assert.Equal(5, daily.Bookings.Count);
        var never = Event("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30");
        try
        {
            Assert.True(Calendars.Read(Encoding.UTF8.GetBytes(never), new(2026, 9, 1), new(2026, 12, 31), Berlin).Bookings.Count <= 1);
        }
        catch (InputException e)
        {
            Assert.Equal("Calendar", e.Field);
        }
    }

    [Fact]
    public void A_calendar_is_given_up_when_its_time_is_over()
    {
        using var over = new CancellationTokenSource();
        over.Cancel();
        var e = Assert.Throws<InputException>(() =>
            Calendars.Read(Encoding.UTF8.GetBytes(Event("FREQ=DAILY")), new(2026, 9, 1), new(2026, 12, 31), Berlin, over.Token)
        );
        Assert.Contains("takes too long", e.Message);
    }

    /// <summary>The feed is read by another parser than the one that wrote it: ical.js 2.2.1 under node. A meeting at 19:00 stays at
    /// 19:00 on both sides of both clock changes.</summary>
    [Fact]
    public void The_feed_is_read_back_by_another_parser()
    {
        List<FeedEvent> events =
        [
            .. new[]
            {
                new LocalDateTime(2026, 3, 24, 19, 0),
                new(2026, 3, 31, 19, 0),
                new(2026, 10, 20, 19, 0),
                new(2026, 10, 27, 19, 0),
            }.Select(
                (d, n) =>
                    new FeedEvent(
                        $"meeting-{n}@mint-harbor",
                        d,
                        150,
                        "Europe/Berlin",
                        $"Meeting {n}; evening, figure",
                        "Bring: clips\nand a board",
                        "Saltmarsh Loft"
                    )
            ),
        ];
        events.Add(new("due-1@mint-harbor", new(2026, 11, 1, 23, 59), 0, "Europe/Berlin", "Redo due: Bram Sedge", "", ""));
        var text = Calendars.Write("Evening figure", events, Instant.FromUtc(2026, 11, 24, 12, 0));
        Assert.All(text.Split("\r\n"), line => Assert.True(Encoding.UTF8.GetByteCount(line) <= 75, line));
        var read = Node(
                """
                const ICAL = (await import(process.argv[1])).default;
                let text = ''; for await (const c of process.stdin) text += c;
                const root = new ICAL.Component(ICAL.parse(text));
                for (const z of root.getAllSubcomponents('vtimezone')) ICAL.TimezoneService.register(z);
                console.log(JSON.stringify(root.getAllSubcomponents('vevent').map(v => { const e = new ICAL.Event(v); return { uid: e.uid, at: e.startDate.toString(), utc: e.startDate.toUnixTime(), minutes: e.endDate ? (e.endDate.toUnixTime() - e.startDate.toUnixTime()) / 60 : 0, summary: e.summary, what: e.description, where: e.location }; })));
                """,
                text
            )!
            .AsArray();
        Assert.Equal(events.Count, read.Count);
        for (var n = 0; n < events.Count; n++)
        {
            Assert.Equal(events[n].Uid, read[n]!["uid"]!.GetValue<string>());
            Assert.Equal(events[n].Starts.InZoneStrictly(Berlin).ToInstant().ToUnixTimeSeconds(), read[n]!["utc"]!.GetValue<long>());
            Assert.Equal(events[n].Minutes, read[n]!["minutes"]!.GetValue<double>());
            Assert.Equal(events[n].Summary, read[n]!["summary"]!.GetValue<string>());
            if (events[n].Description.Length > 0)
                Assert.Equal(events[n].Description, read[n]!["what"]!.GetValue<string>());
        }
        // And by the reader of this project.
        Assert.Equal(
            4,
            Calendars
                .Read(Encoding.UTF8.GetBytes(text), new(2026, 1, 1), new(2026, 10, 30), Berlin)
                .Bookings.Count(b => b.From.TimeOfDay == new LocalTime(19, 0))
        );
    }

    private static JsonNode? Node(string script, string input)
    {
        var root = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(root.FullName, "MintHarbor.slnx")))
            root = root.Parent!;
        var start = new ProcessStartInfo("node")
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        foreach (var a in new[] { "--input-type=module", "-e", script, Path.Combine(root.FullName, "node_modules/ical.js/dist/ical.js") })
            start.ArgumentList.Add(a);
        using var node = Process.Start(start)!;
        node.StandardInput.Write(input);
        node.StandardInput.Close();
        var (output, errors) = (node.StandardOutput.ReadToEnd(), node.StandardError.ReadToEnd());
        node.WaitForExit();
        Assert.True(node.ExitCode == 0, errors);
        return JsonNode.Parse(output);
    }

    [Fact]
    public void What_overran_is_counted_by_kind_and_the_next_plan_allows_for_it()
    {
        var plan = Planner.Plan(new(new() { Minutes = 150, Approach = Approach.Alternating })).Proposals[0].Items;
        var seven = Instant.FromUtc(2026, 11, 24, 18, 0);
        // Set-up ran 14 instead of 10, and everything was then run to the end.
        ClockEvent[] events =
        [
            new(seven, ClockAct.Start),
            .. Enumerable.Range(0, 4).Select(n => new ClockEvent(seven + Duration.FromMinutes(9), ClockAct.AddMinute)),
        ];
        var took = Overruns.Of(plan, events, seven + Duration.FromMinutes(160))!;
        Assert.Equal((10.0, 14.0, 4.0), took.Where(o => o.Kind == ItemKind.SetUp).Select(o => (o.Planned, o.Actual, o.Over)).Single());
        Assert.Equal(-4, took.Single(o => o.Kind == ItemKind.Review).Over, 6);
        Assert.Null(Overruns.Of(plan, [], seven));
        Assert.Equal(14, Overruns.Learned(ItemKind.SetUp, [took, took, took], 10));
        Assert.Null(Overruns.Learned(ItemKind.SetUp, [took], 10));
        Assert.Null(Overruns.Learned(ItemKind.SetUp, [took, took], 13));
    }
}
