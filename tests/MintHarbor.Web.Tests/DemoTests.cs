using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Demo;
using MintHarbor.Store.Model;
using NodaTime;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>The demo hangs together: it came through the same actions, and what was drawn wrong on purpose is what is found.</summary>
public sealed class DemoTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private HarborApp App => fixture.App;

    private Task<Course> Evening() =>
        App.Read(db =>
            db.Courses.AsNoTracking().Include(c => c.Members).Include(c => c.Meetings).SingleAsync(c => c.Name == "Evening figure")
        );

    [Fact]
    public async Task Three_courses_four_past_meetings_tonight_and_the_next()
    {
        var evening = await Evening();
        Assert.Equal(14, evening.Members.Count(m => m.Role == CourseRole.Student));
        Assert.Equal(Enumerable.Range(1, 14), evening.Members.Where(m => m.Role == CourseRole.Student).Select(m => m.Seat!.Value).Order());
        var today = Words.Today(evening, SystemClock.Instance.GetCurrentInstant());
        var days = evening.Meetings.OrderBy(m => m.Number).Select(m => Period.Between(today, m.Date, PeriodUnits.Days).Days).ToList();
        // Loaded today, or at the latest yesterday if the day turned meanwhile.
        Assert.Equal(13, days.Count);
        Assert.InRange(days[4], -1, 0);
        // The harbour fair falls out and is made up at the end of the term.
        Assert.Equal([7, 7, 7, 7, 7, 7, 14, 7, 7, 7, 7, 7], days.Zip(days.Skip(1)).Select(p => p.Second - p.First));
        var young = await App.Read(db => db.Courses.AsNoTracking().Include(c => c.Meetings).SingleAsync(c => c.Minors));
        Assert.All(young.Meetings.SelectMany(m => m.Plan.Items).Where(i => i.Posed), i => Assert.True(i.Draped));
    }

    [Fact]
    public async Task Every_meeting_s_plan_keeps_its_rules_when_proved_again()
    {
        foreach (var m in await App.Read(db => db.Meetings.AsNoTracking().ToListAsync()))
        {
            Assert.All(RestRules.Prove(m.Plan.Items, m.Request), f => Assert.True(f.Holds, $"meeting {m.Number}: {f.Says}"));
            Assert.Equal(m.Minutes, m.Plan.Items.Sum(i => i.Minutes));
            Assert.Equal(40, m.RoomSecret.Length);
        }
    }

    [Fact]
    public async Task Sheets_stand_in_every_state_with_a_question_each()
    {
        var sheets = await App.Read(db => db.Sheets.AsNoTracking().ToListAsync());
        Assert.Equal(
            new[]
            {
                SheetState.Waiting,
                SheetState.Drafted,
                SheetState.Released,
                SheetState.Answered,
                SheetState.Redone,
                SheetState.Kept,
            }.Order(),
            sheets.Select(s => s.State).Distinct().Order()
        );
        Assert.All(sheets, s => Assert.False(string.IsNullOrWhiteSpace(s.Question) || string.IsNullOrWhiteSpace(s.SelfReview)));
        // A row of squares has edges of its own: its corners were set by hand.
        Assert.All(sheets, s => Assert.True(s.Confidence > 0.8 || s.Exercise == "value-patches"));
        // A figure has its marks, a thing is asked for none.
        Assert.All(sheets, s =>
            Assert.True(s.Subject == Sheet.Thing ? s.Landmarks.Count == 0 : s.Landmarks.Count >= 10 || s.SetId is not null)
        );
        Assert.All(sheets, s => Assert.Matches("^(The light is evened|Too little bare paper)", s.LightSays));
        var redo = sheets.Single(s => s.RedoOfId is not null);
        Assert.Equal(SheetState.Redone, sheets.Single(s => s.Id == redo.RedoOfId).State);
        Assert.All(sheets.Where(s => s.State is SheetState.Answered or SheetState.Redone), s => Assert.NotEmpty(s.Answer));
    }

    /// <summary>Ground truth of our own: the faults that the simulated hand was told to make, and the rule that finds each.</summary>
    [Theory]
    [
        InlineData("Maren Holt", "F-heads", -1),
        InlineData("Odile Marsh", "F-heads", -1),
        InlineData("Casper Lowe", "F-heads", -1),
        InlineData("Maren Holt", "F-tilt", 0),
        InlineData("Maren Holt", "F-balance", 0),
        InlineData("Bram Sedge", "F-balance", 0),
        InlineData("Sunniva Reed", "F-spans", -1)
    ]
    public async Task A_fault_put_in_is_a_fault_found(string who, string rule, int direction)
    {
        var outside = (await Findings(who)).Where(f => f.Rule.Id == rule && f.Verdict == Verdict.Outside).ToList();
        Assert.NotEmpty(outside);
        if (direction != 0)
            Assert.Contains(outside, f => Math.Sign(f.Measured!.Value - f.Expected!.Value) == direction);
    }

    [Fact]
    public async Task A_sheet_without_a_fault_has_none_against_its_pose_card() =>
        Assert.DoesNotContain(await Findings("Tove Arkle"), f => f.Against == Against.PoseCard && f.Verdict == Verdict.Outside);

    private async Task<IReadOnlyList<Finding>> Findings(string who) =>
        await App.Read(async db =>
        {
            var sheet = await db.Sheets.AsNoTracking().Where(s => s.Student.Name == who && s.RedoOfId == null).FirstAsync();
            var course = await db.Courses.SingleAsync(c => c.Id == sheet.CourseId);
            return (await new SheetContexts(db, new NoReferenceViews()).Of(sheet, course)).Findings;
        });

    [Fact]
    public async Task Drills_have_histories_that_make_sense()
    {
        var rounds = await App.Read(db =>
            db.DrillRounds.AsNoTracking().Include(r => r.Student).Where(r => r.FinishedAt != null).ToListAsync()
        );
        // Each drill scatters on a scale of its own; of a hundred rounds with a few items each one scatters widely.
        Assert.All(rounds, r => Assert.InRange(r.Spread!.Value / Core.Practice.Drills.Get(r.Kind).Allowed(0), 0.01, 4));
        Assert.Contains(rounds, r => r.Kind == "span-against-span");
        var byStudent = rounds.Where(r => r.Kind == "clock-hand").GroupBy(r => r.Student.Name).Where(g => g.Count() >= 4).ToList();
        Assert.True(byStudent.Count >= 10);
        var better = byStudent.Count(g =>
            g.OrderBy(r => r.StartedAt).Take(2).Average(r => r.Spread!.Value)
            > g.OrderBy(r => r.StartedAt).TakeLast(2).Average(r => r.Spread!.Value)
        );
        Assert.True(better * 2 > byStudent.Count, "most scatter less at the end than at the beginning");
        Assert.All(rounds, r => Assert.Equal(r.Right, r.State.Replay().Done.Count(d => d.Score.Correct)));
        Assert.DoesNotContain(rounds, r => r.Student.Name is "Greta Sands" or "Rafe Tolley");
    }

    [Fact]
    public async Task The_portrait_has_its_stages_worked_back_from_the_end()
    {
        var project = await App.Read(db =>
            db.Projects.AsNoTracking().Include(p => p.Works).SingleAsync(p => p.Template == "portrait-from-sitter")
        );
        Assert.Equal(14, project.Works.Count);
        Assert.Equal(project.Ends, project.Stages[^1].Due);
        Assert.True(project.Stages.Zip(project.Stages.Skip(1)).All(p => p.First.Due <= p.Second.Due));
        Assert.Contains(project.Works, w => w.Levels.Count > 0);
    }

    [Fact]
    public async Task Four_projects_stand_in_different_states_one_of_them_the_instructors_own()
    {
        var projects = await App.Read(db => db.Projects.AsNoTracking().Include(p => p.Works).ToListAsync());
        Assert.Equal(4, projects.Count);
        var own = Assert.Single(projects, p => p.Template.StartsWith("own-", StringComparison.Ordinal));
        // Graded: shown and not yet shown, late, extended, again, excused, incomplete.
        Assert.Contains(own.Works, w => w.ReleasedAt is not null);
        Assert.Contains(own.Works, w => w.ReleasedAt is null && w.Levels.Count == 3);
        Assert.Contains(own.Works, w => w.ExtendedTo is not null);
        Assert.Contains(own.Works, w => w.Again.Count > 0);
        Assert.Contains(own.Works, w => w.Standing == Core.Projects.Standing.Excused);
        Assert.Contains(own.Works, w => w.Standing == Core.Projects.Standing.Incomplete);
        foreach (var w in own.Works)
            w.Project = own;
        Assert.Contains(own.Works, w => w.DaysLate(NodaTime.DateTimeZone.Utc) > 1);
        // One keeps to a pose that is to come, one is drawn at home, one has heads on its way.
        Assert.Single(projects, p => p.LongPoseId is not null && p.Works.All(w => w.StagesDone.Count == 0));
        Assert.Single(projects, p => p.Template == "daily-line" && p.Stages.Sum(s => s.AtHome) > 0);
        Assert.Equal(2, await App.Read(db => db.Sheets.CountAsync(s => s.WorkId != null && s.StageId == "restate")));
    }

    [Fact]
    public void The_people_of_the_demo_are_invented_and_none_twice()
    {
        var names = DemoStudio.Evening.Concat(DemoStudio.Young).ToList();
        Assert.Equal(names.Count, names.Distinct().Count());
        Assert.All(DemoStudio.SignIns, s => Assert.EndsWith(".example", s.Mail));
    }
}
