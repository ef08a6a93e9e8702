using System.Net;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>The models' book and a model's own page.</summary>
public sealed class ModelsBookTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Instructor = "edda@saltmarsh.example",
        Assistant = "lorne@saltmarsh.example";

    private HarborApp App => fixture.App;

    private Task<BookedModel> Model(string name) =>
        App.Read(db => db.BookedModels.AsNoTracking().Include(m => m.Bookings).SingleAsync(m => m.Name == name));

    private async Task<BookedModel> Added(HttpClient staff, string name)
    {
        Assert.Equal(HttpStatusCode.Redirect, (await staff.PostForm("/courses/1/models/add", ("name", name))).StatusCode);
        return await Model(name);
    }

    [Fact]
    public async Task The_book_and_its_pay_are_the_instructors_own()
    {
        var model = await Model("Ilka Torn");
        foreach (var client in new[] { await App.As(Assistant), await App.AsNamed("Maren Holt") })
        {
            Assert.Equal(HttpStatusCode.Forbidden, (await client.GetAsync("/courses/1/models")).StatusCode);
            Assert.Equal(HttpStatusCode.Forbidden, (await client.GetAsync("/courses/1/models/pay?month=2026-11")).StatusCode);
            Assert.NotEqual(HttpStatusCode.OK, (await client.GetAsync($"/courses/1/models/{model.Id}")).StatusCode);
        }
        // Another course's book is nobody's here.
        Assert.Equal(HttpStatusCode.NotFound, (await (await App.As(Instructor)).GetAsync($"/courses/2/models/{model.Id}")).StatusCode);
    }

    [Fact]
    public async Task A_model_sees_and_mends_their_own_page_and_nothing_of_the_class()
    {
        var staff = await App.As(Instructor);
        var model = await Added(staff, "Wren Halloway");
        var own = App.Anonymous();
        var path = $"/sits/{model.Secret}";
        var page = await own.Text(path);
        Assert.Contains("Your page, Wren Halloway", page);
        Assert.DoesNotContain("Maren Holt", page);
        var sent = await own.PostForm(
            path,
            ("wish[twist]", "not"),
            ("wish[seated]", "gladly"),
            ("wish[standing]", ""),
            ("ease", "0.8"),
            ("note", "The radio low."),
            ("version", $"{model.Version}"),
            ("rate", "900"),
            ("name", "Somebody Else")
        );
        Assert.Equal(HttpStatusCode.Redirect, sent.StatusCode);
        var now = await Model("Wren Halloway");
        Assert.Equal(("seated", "twist"), (Assert.Single(now.Gladly), Assert.Single(now.RatherNot)));
        Assert.Equal((0.8, "The radio low.", "the model"), (now.Ease, now.Note, now.By));
        // Pay and name stay the instructor's.
        Assert.Null(now.RatePerHour);
        // Who saw the page before that is told, and nothing is written over.
        var late = await staff.PostForm(
            $"/courses/1/models/{model.Id}",
            ("name", "Wren Halloway"),
            ("ease", "1"),
            ("posedRate", "0"),
            ("version", $"{model.Version}")
        );
        Assert.Equal(HttpStatusCode.Conflict, late.StatusCode);
        Assert.Contains("changed meanwhile by the model", await late.Content.ReadAsStringAsync());
        Assert.Equal(0.8, (await Model("Wren Halloway")).Ease);
        // Another secret opens nothing; a renewed one ends the old.
        Assert.Equal(HttpStatusCode.NotFound, (await own.GetAsync($"/sits/{new string('a', 40)}")).StatusCode);
        await staff.PostForm($"/courses/1/models/{model.Id}/link");
        Assert.Equal(HttpStatusCode.NotFound, (await own.GetAsync(path)).StatusCode);
    }

    [Theory]
    [
        InlineData("wish[levitating]", "gladly", "nothing that is asked of a model"),
        InlineData("ease", "0.1", "of the usual"),
        InlineData("note", "*", "up to 300 letters")
    ]
    public async Task What_can_not_be_kept_is_refused_and_stays_typed(string field, string value, string says)
    {
        var model = await Model("Renke Abt");
        var fields = new Dictionary<string, string>
        {
            ["ease"] = "1",
            ["note"] = "",
            [field] = value == "*" ? new string('x', 301) : value,
        };
        var answer = await App.Anonymous().PostForm($"/sits/{model.Secret}", [.. fields.Select(f => (f.Key, f.Value))]);
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(says, WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()));
    }

    [Fact]
    public async Task Whoever_is_booked_is_planned_for_and_answers()
    {
        var staff = await App.As(Instructor);
        var model = await Added(staff, "Corin Dace");
        await staff.PostForm(
            $"/courses/1/models/{model.Id}",
            ("name", "Corin Dace"),
            ("wish[standing]", "not"),
            ("wish[seated]", "gladly"),
            ("ease", "0.8"),
            ("posedRate", "3"),
            ("rate", "30")
        );
        var meeting = await App.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 7));
        await staff.PostForm("/courses/1/models/sits", ("of", $"{meeting.Id}"), ("sits", $"{model.Id}"));
        var now = await App.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == meeting.Id));
        Assert.All(now.Plan.Rules, r => Assert.True(r.Holds, r.Says));
        Assert.All(now.Plan.Items.SelectMany(i => i.PoseIds), p => Assert.NotEqual("standing", PoseLibrary.Find(p, now.Request)?.Family));
        Assert.True(now.Plan.Rules.Single(r => r.Id == "rest-stretch").Value <= 20);
        // Their calendar is read by another's reader, in the course's own time zone (RFC 5545).
        var own = App.Anonymous();
        var ics = await own.Text($"/sits/{model.Secret}/calendar");
        var e = Assert.Single(Ical.Net.Calendar.Load(ics)!.Events);
        Assert.Equal($"sits-{meeting.Id}-{model.Id}@mint-harbor", e.Uid);
        Assert.Equal((now.Date + now.StartsAt).ToDateTimeUnspecified(), e.Start!.Value);
        Assert.Contains("BEGIN:VTIMEZONE", ics);
        await own.PostForm($"/sits/{model.Secret}/answer", ("meeting", $"{meeting.Id}"), ("comes", "true"));
        Assert.Equal(BookingAnswer.Comes, (await Model("Corin Dace")).Bookings.Single().Answer);
        // The month's pay, by their own rates: hours from first pose to last, and what is posed of them.
        var csv = await staff.Text($"/courses/1/models/pay?month={now.Date.ToString("yyyy-MM", null)}");
        var line = csv.Split('\n').Single(l => l.StartsWith("Corin Dace", StringComparison.Ordinal)).Trim().Split(',');
        var posed = now.Plan.Items.Where(i => i.Posed).ToList();
        var booked = posed.Max(i => i.End) - posed.Min(i => i.At);
        Assert.Equal((booked, posed.Sum(i => i.Minutes)), (Number(line[3]), Number(line[5])));
        Assert.Equal(Math.Round((Number(line[4]) / 60 * 30) + (Number(line[5]) / 60 * 3), 2), Number(line[6]), 0.011);
        // Who can't come is not paid, and not in the calendar.
        await own.PostForm($"/sits/{model.Secret}/answer", ("meeting", $"{meeting.Id}"), ("comes", "false"));
        Assert.DoesNotContain("Corin Dace", await staff.Text($"/courses/1/models/pay?month={now.Date.ToString("yyyy-MM", null)}"));
        Assert.DoesNotContain("BEGIN:VEVENT", await own.Text($"/sits/{model.Secret}/calendar"));
        // Out of the book: bookings to come end with the link.
        await staff.PostForm($"/courses/1/models/{model.Id}/out");
        Assert.Empty((await Model("Corin Dace")).Bookings);
        Assert.Equal(HttpStatusCode.NotFound, (await own.GetAsync($"/sits/{model.Secret}")).StatusCode);
    }

    private static double Number(string text) => double.Parse(text, System.Globalization.CultureInfo.InvariantCulture);

    [Fact]
    public async Task Nobody_is_booked_twice_by_two_presses_or_where_nobody_poses()
    {
        var staff = await App.As(Instructor);
        var model = await Model("Renke Abt");
        var meetings = await App.Read(db => db.Meetings.AsNoTracking().Where(m => m.CourseId == 1).ToListAsync());
        var cast = meetings.First(m => m.Request.Wish.Model == ModelKind.Cast);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm("/courses/1/models/sits", ("of", $"{cast.Id}"), ("sits", $"{model.Id}"))).StatusCode
        );
        var six = meetings.Single(m => m.Number == 6);
        await Task.WhenAll(
            Enumerable.Range(0, 3).Select(_ => staff.PostForm("/courses/1/models/sits", ("of", $"{six.Id}"), ("sits", $"{model.Id}")))
        );
        Assert.Single((await Model("Renke Abt")).Bookings, b => b.MeetingId == six.Id);
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm("/courses/1/models/add", ("name", "Renke Abt"))).StatusCode);
    }

    /// <summary>A double lesson's recess is held where the bell rings, and what stands in the room from the class before is not set up again.</summary>
    [Fact]
    public async Task A_double_lesson_keeps_its_recess_and_shares_its_set_up()
    {
        var staff = await App.As(Instructor);
        var day = (await App.Read(db => db.Meetings.MaxAsync(m => m.Date))).PlusWeeks(3);
        async Task<Meeting> Take(int course, string starts)
        {
            var taken = await staff.PostForm(
                $"/courses/{course}/sessions/plan/take",
                ("Form.Date", day.ToString("yyyy-MM-dd", null)),
                ("Form.StartsAt", starts),
                ("Form.Minutes", "100"),
                ("Form.Approach", "Alternating"),
                ("Form.Purpose", "Tone"),
                ("Form.Level", "Beginner"),
                ("Form.Students", "8"),
                ("Form.Model", "Cast"),
                ("Form.RecessAfter", "45"),
                ("Form.Recess", "10"),
                ("shape", "opener")
            );
            Assert.Equal(HttpStatusCode.Redirect, taken.StatusCode);
            var id = int.Parse(taken.Headers.Location!.PathAndQuery().Split('/')[^1], null);
            return await App.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == id));
        }
        var first = await Take(2, "10:00");
        Assert.Contains(first.Plan.Items, i => i is { At: 45, Minutes: 10, Kind: ItemKind.Break });
        Assert.Equal(10, first.Plan.Items[0].Minutes);
        var second = await Take(1, "11:50");
        Assert.Equal((ItemKind.SetUp, 5.0), (second.Plan.Items[0].Kind, second.Plan.Items[0].Minutes));
        Assert.Contains(second.Plan.Items, i => i is { At: 45, Minutes: 10, Kind: ItemKind.Break });
    }
}
