using MintHarbor.Web.Tests;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>Every main view in the demo: no console error, nothing wider than the screen, and what the axe engine finds against
/// WCAG 2.2 AA: nothing. Both themes, desk and phone.</summary>
public sealed class LookTests
{
    private static readonly string Axe = File.ReadAllText(Path.Combine(Root(), "node_modules", "axe-core", "axe.min.js"));

    private static string Root()
    {
        var dir = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(dir.FullName, "MintHarbor.slnx")))
            dir = dir.Parent ?? throw new InvalidOperationException("not run from the checkout");
        return dir.FullName;
    }

    private const string Everything = "{runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']}",
        OnlyContrast = "{runOnly: {type: 'rule', values: ['color-contrast']}}",
        AllButContrast = "{runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'], rules: {'color-contrast': {enabled: false}}}";

    /// <summary>A theme changes nothing but colours, a tablet's width everything but them: what the desk has answered isn't asked again.</summary>
    private static string Asked(int width, string theme) =>
        (width, theme) switch
        {
            (1280, "dim") => OnlyContrast,
            (820, _) => AllButContrast,
            _ => Everything,
        };

    private static void Check(Browser b, string path, string asked = Everything)
    {
        b.Go(path);
        var found = Faults(b, asked);
        Assert.True(found == "", $"{path}\n{found}");
        Assert.True(b.Js<bool>("return document.documentElement.scrollWidth <= innerWidth"), $"{path} is wider than the screen");
        b.NoErrors();
    }

    /// <summary>What the axe engine finds on the page that stands; nothing where it is accessible.</summary>
    internal static string Faults(Browser b, string asked = Everything)
    {
        b.Until(() => b.Js<bool>("return document.readyState === 'complete' && document.fonts.status === 'loaded'"), "the page");
        b.Js<object>(Axe + "; window.axe = axe");
        return (string)
            b.Driver.ExecuteAsyncScript(
                "const done = arguments[0]; axe.run(document, "
                    + asked
                    + ").then(r => done(r.violations.map(v => `${v.id}: ${v.help} — ${v.nodes.slice(0, 3).map(n => n.html.slice(0, 160) + ' ' + (n.any[0]?.message || '')).join(' | ')}`).join('\\n')), e => done('axe failed: ' + e))"
            )!;
    }

    [Theory]
    [
        InlineData("Edda Quill", 1280, 800, "light"),
        InlineData("Edda Quill", 1280, 800, "dim"),
        InlineData("Edda Quill", 820, 1180, "light"),
        InlineData("Bram Sedge", 390, 844, "light"),
        InlineData("Pim Daly", 390, 844, "dim")
    ]
    public async Task Every_main_view_is_accessible_and_quiet(string who, int width, int height, string theme)
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var b = new Browser("look", address, width, height);
        try
        {
            b.Go("/sign-in").Click("button", who);
            b.At("/today");
            if (theme == "dim")
                b.Js<object>("document.cookie = 'theme=dim;path=/'");
            var course = b.Path.Split('/')[2];
            var me = await app.Read(db => Task.FromResult(db.Users.First(u => u.Name == who).Id));
            var pages = new List<string> { "today", "sessions", "practice", "projects", "critique", "shelf" };
            if (who == "Edda Quill")
                pages.AddRange([
                    "sessions/plan",
                    "sessions/5",
                    "sessions/5?row=3",
                    "sessions/5/run",
                    "sessions/4/card",
                    "critique/4/bench",
                    "critique/8/bench",
                    "critique/71/look",
                    "critique/contact",
                    "critique/1",
                    "students",
                    "students/5",
                    "settings",
                    "projects/1",
                    "projects/way/2",
                    "ladder",
                    "critique/10/bench",
                    "shelf/poses",
                    "shelf/poses/seated?kind=construction",
                    "shelf/poses/armraised?kind=bones&part=shoulder.R",
                    "shelf/things",
                    "shelf/things/evening?a=table;cup,0,0,0;jug,0.01,0,0&kind=tone",
                    "critique/4/held?of=kitchen",
                    "sessions/5/seat",
                    "critique/example",
                    "shelf/sitter?kind=construction&turn=30",
                    "sessions/plan?from=last",
                    "sessions/room",
                    "sessions/long",
                    "sessions/lists",
                    "models",
                    "models/2",
                    "sessions/4/class",
                    "sessions/5/walk",
                    "sessions/5/wall",
                    "sessions/6/seat",
                    "sessions/5/run?what=Fire",
                    "students/term",
                    "projects/1/groups",
                    "shelf/own?part=exercises&id=gesture",
                    "shelf/own?part=faults&id=new",
                    "shelf/own?part=drills",
                    "shelf/own?part=timing",
                    "shelf/own?part=kit",
                    "shelf/own?part=cautions",
                    "shelf/own?part=schools",
                    "shelf/construction?by=measured&m.Eyes=0.47",
                    "shelf/construction?of=figure",
                    "practice/paper?drills=slant,half",
                    "practice/paper/" + await app.Read(db => Task.FromResult(db.PaperSheets.First(s => s.ReadAt != null).Id)),
                ]);
            else
                pages.AddRange([
                    "critique/submit",
                    $"sessions/{(course == "1" ? 5 : 10)}/card",
                    "shelf/poses",
                    "shelf/poses/stand?kind=tone",
                    "shelf/things/kitchen",
                    "practice/home?set=still-life&seed=4",
                    $"sessions/{(course == "1" ? 5 : 10)}/seat",
                    "practice/home",
                    "practice/home?set=gesture&seed=4",
                    "practice/home?set=head&seed=4",
                    "shelf/sitter?kind=line",
                    "shelf/own?part=exercises&id=gesture",
                    "shelf/own?part=schools",
                    "shelf/construction",
                    "practice/paper",
                    "practice/measure",
                    "practice/daily",
                    "students/" + me + "/stages",
                    "students/" + me + "/series",
                    "practice/home?set=warm-up&seed=4",
                ]);
            if (who == "Bram Sedge")
                pages.Add("critique/" + await app.Read(db => Task.FromResult(db.Sheets.First(s => s.Student.Name == who).Id)));
            if (who == "Edda Quill")
                pages.Add("critique/set/" + await app.Read(db => Task.FromResult(db.Sheets.First(s => s.SetId != null).SetId)));
            foreach (var page in pages)
                Check(b, $"/courses/{course}/{page}", Asked(width, theme));
            foreach (
                var page in new[]
                {
                    "/courses",
                    "/room/" + await app.Read(db => Task.FromResult(db.Meetings.First(m => m.Id == 5).RoomSecret)),
                }
            )
                Check(b, page, Asked(width, theme));
        }
        catch
        {
            b.Save("look");
            throw;
        }
    }

    [Fact]
    public async Task An_empty_course_leads_to_the_next_step_on_every_page()
    {
        var (app, address) = Studio.Open(await TestDatabase.Empty(), demo: false);
        await using var closing = app;
        using var b = new Browser("empty", address);
        b.Go("/welcome");
        b.Type("#Name", "Vilhelmina Anneliese Thorvaldsdottir-Winterbottom of the Upper Harbour Steps");
        b.Type("#Mail", "v@example.org");
        b.Type("#Password", "a long enough one");
        b.Click("button", "Open the studio");
        b.Type("#Form_Name", "رسم الشكل: a course with a name that is long enough to be a nuisance on every line");
        b.Click("button", "Open the course");
        foreach (var page in new[] { "today", "sessions", "practice", "projects", "critique", "students", "shelf" })
        {
            Check(b, $"/courses/1/{page}");
            if (page is "today" or "sessions" or "projects" or "critique" or "students")
                b.See(".empty");
        }
    }

    /// <summary>A leader that strikes through what it crosses makes a word unreadable: every step of every leader is held against the words
    /// and fields of the sheet. Where no way is free it begins at the margin.</summary>
    [Theory]
    [InlineData("/courses/new"), InlineData("/courses/1/sessions/plan"), InlineData("/courses/1/practice"), InlineData("/courses/1/today")]
    public async Task Leaders_run_round_words_and_fields(string page)
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var b = new Browser("leaders", address);
        b.Go("/sign-in").Click("button", "Edda Quill");
        b.At("/today");
        b.Go(page).See("#sheet");
        b.Until(() => b.Js<bool>("return document.fonts.status === 'loaded' && document.readyState === 'complete'"), "the faces");
        var struck = b.Until(() => b.Js<IReadOnlyCollection<object>>(Struck), "the leaders")!;
        Assert.True(struck.Count == 0, string.Join('\n', struck));
        b.NoErrors();
    }

    private const string Struck = """
        const sheet = document.querySelector('.page .sheet'), words = [];
        const walker = document.createTreeWalker(sheet, NodeFilter.SHOW_TEXT), range = document.createRange();
        while (walker.nextNode()) {
            if (!walker.currentNode.data.trim()) continue;
            range.selectNodeContents(walker.currentNode);
            for (const r of range.getClientRects()) if (r.width > 2 && r.height > 2) words.push([r, walker.currentNode.data.trim()]);
        }
        for (const f of sheet.querySelectorAll('input:not([type=hidden]), select, textarea')) words.push([f.getBoundingClientRect(), f.name]);
        const out = [];
        for (const path of document.querySelectorAll('svg.leaders path:not(.halo)')) {
            const m = path.getScreenCTM(), length = path.getTotalLength();
            for (let at = 3; at < length; at += 2) {
                const p = path.getPointAtLength(at), x = p.x * m.a + m.e, y = p.y * m.d + m.f;
                const hit = words.find(([r]) => x > r.left + 1 && x < r.right - 1 && y > r.top + 2 && y < r.bottom - 2);
                if (hit) { out.push(`${hit[1].slice(0, 40)} at ${Math.round(x)}, ${Math.round(y)}`); break; }
            }
        }
        return out;
        """;
}
