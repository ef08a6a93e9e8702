using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Canons;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Shelf;

/// <summary>Where an instructor makes a canon the course's own: which rules are judged, by which numbers, how exactly. Each save is another
/// version.</summary>
[For(CourseRole.Instructor)]
public sealed class CanonModel(CourseScope scope, HarborContext db, SchoolActions schools) : CoursePage(scope), IShowsProblems
{
    public sealed class RuleForm
    {
        public string Id { get; set; } = "";
        public bool Judged { get; set; }
        public double? Expected { get; set; }
        public double? Tolerance { get; set; }
        public Dictionary<string, double> Parts { get; set; } = [];

        public RuleWish Wish => new(Id, Judged, Expected, Tolerance, Parts.Count == 0 ? null : Parts);
    }

    public sealed class CanonForm
    {
        /// <summary>The canon of the table that it begins from.</summary>
        public string First { get; set; } = "";
        public string? Name { get; set; }
        public string? About { get; set; }
        public List<RuleForm> Rules { get; set; } = [];
    }

    [BindProperty]
    public CanonForm Form { get; set; } = new();

    public Canon First => CanonTable.Get(Form.First);
    public IReadOnlyList<CourseCanon> Versions { get; private set; } = [];

    /// <summary>What can't hold together as the form stands; null before it was asked.</summary>
    public IReadOnlyList<string>? Contradictions { get; private set; }

    /// <param name="from">A canon of the table, or the number of a version.</param>
    public async Task<IActionResult> OnGetAsync(string? from)
    {
        Fill(await Named(from ?? Course.HeadCanon));
        await Load();
        return Page();
    }

    /// <summary>Does it hold together? Nothing is kept.</summary>
    public async Task<IActionResult> OnPostCheckAsync()
    {
        Contradictions = OwnCanon.Contradictions(Wanted());
        await Load();
        return Page();
    }

    public async Task<IActionResult> OnPostSaveAsync()
    {
        var kept = await schools.Keep(Course, Wanted(), Me.Person.Name);
        await schools.Use(Course, kept.Canon);
        return To($"shelf?canon={kept.Id}");
    }

    /// <summary>From now on sheets are judged by this version, or by a canon of the table.</summary>
    public async Task<IActionResult> OnPostUseAsync(string? canon)
    {
        await schools.Use(Course, await Named(canon ?? ""));
        return To($"shelf?canon={canon}");
    }

    public async Task<IActionResult> OnGetJsonAsync(string? from)
    {
        var canon = await Named(from ?? "");
        return File(Encoding.UTF8.GetBytes(OwnCanon.Write(canon)), "application/json; charset=utf-8", $"{canon.Id}.canon.json");
    }

    /// <summary>A canon from a file becomes a version; it is used when somebody says so.</summary>
    public async Task<IActionResult> OnPostImportAsync(IFormFile? file)
    {
        var kept = await schools.Keep(Course, OwnCanon.Read(await file.Text("a canon as the shelf writes it")), Me.Person.Name);
        return To($"shelf?canon={kept.Id}");
    }

    private Canon Wanted() => OwnCanon.From(First, Form.Name, Form.About, [.. Form.Rules.Select(r => r.Wish)]);

    private async Task<Canon> Named(string from) =>
        int.TryParse(from, NumberStyles.None, CultureInfo.InvariantCulture, out var id)
            ? (await schools.Find(Course, id)).Canon
            : CanonTable.Get(from);

    private void Fill(Canon canon)
    {
        var own = !CanonTable.All.Contains(canon);
        Form = new()
        {
            First = canon.Id,
            Name = own ? canon.Name : "",
            About = canon.About,
            Rules =
            [
                .. CanonTable
                    .Get(canon.Id)
                    .Rules.Select(first => (First: first, Own: canon.Rule(first.Id)))
                    .Select(r => new RuleForm
                    {
                        Id = r.First.Id,
                        Judged = r.Own is not null,
                        Expected = (r.Own ?? r.First).Expected,
                        Tolerance = (r.Own ?? r.First).Tolerance,
                        Parts = (r.Own ?? r.First).Parts?.ToDictionary() ?? [],
                    }),
            ],
        };
    }

    private async Task Load() =>
        Versions = await db
            .CourseCanons.AsNoTracking()
            .Where(c => c.CourseId == Course.Id && c.Subject == First.Subject)
            .OrderByDescending(c => c.Number)
            .Take(20)
            .ToListAsync();

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        if (CanonTable.All.All(c => c.Id != Form.First))
            Fill(Course.SchoolOf("head"));
        await Load();
        return Page();
    }
}
