using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Projects;
using MintHarbor.Core.Sessions;
using MintHarbor.Core.Shelves;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Shelf;

/// <summary>What a course works by, part by part, and where its instructors make it their own. Each save is another version.</summary>
public sealed class OwnModel(CourseScope scope, HarborContext db, ShelfActions shelves) : CoursePage(scope), IShowsProblems
{
    public static readonly IReadOnlyList<(string Id, string Name)> Parts =
    [
        ("exercises", "exercises"),
        ("faults", "faults"),
        ("drills", "drills"),
        ("timing", "rest and frame"),
        ("kit", "kit and prices"),
        ("cautions", "cautions"),
        ("schools", "schools"),
    ];

    public sealed class ExerciseForm
    {
        /// <summary>Of the exercise that is changed, or that another is begun from.</summary>
        public string Id { get; set; } = "";

        /// <summary>Another of the course's own is made of it.</summary>
        public bool Another { get; set; }
        public string? Name { get; set; }
        public double Least { get; set; }
        public double Most { get; set; }
        public int Look { get; set; }
        public string? StartFrom { get; set; }
        public string? Steps { get; set; }
        public string? Rule { get; set; }
        public List<string> Findings { get; set; } = [];
        public string? Inspected { get; set; }
        public string? UsualFaults { get; set; }
        public string? Wall { get; set; }
        public string? Student { get; set; }
        public string? Paper { get; set; }
        public List<string> Kit { get; set; } = [];
        public bool AllowsPush { get; set; }
    }

    public sealed class FaultForm
    {
        /// <summary>Empty for one to be added.</summary>
        public string? Id { get; set; }
        public Family Family { get; set; }
        public string? Name { get; set; }
        public string? Where { get; set; }
        public string? Sign { get; set; }
        public string? Principle { get; set; }
        public string? Remedy { get; set; }
        public string? Drill { get; set; }
        public string? Exercise { get; set; }
    }

    public sealed class LimitForm
    {
        public string Kind { get; set; } = "";
        public double Easy { get; set; }
        public double Hard { get; set; }
    }

    public sealed class MaterialForm
    {
        public string Id { get; set; } = "";
        public string? Buys { get; set; }
        public double Lasts { get; set; }
        public double Cost { get; set; }
    }

    public sealed class CautionForm
    {
        public string? Id { get; set; }
        public string? When { get; set; }
        public string? Says { get; set; }
    }

    /// <summary>One of <see cref="Parts"/>.</summary>
    [BindProperty(SupportsGet = true, Name = "part")]
    public string? Wanted { get; set; }

    /// <summary>The exercise or fault that is looked at; "new" for one to be added.</summary>
    [BindProperty(SupportsGet = true, Name = "id")]
    public string? Chosen { get; set; }

    public string Part => Parts.Any(p => p.Id == Wanted) ? Wanted! : Parts[0].Id;
    public CourseShelf Shelf => Course.Shelf;
    public IReadOnlyList<ShelfVersion> Versions { get; private set; } = [];

    /// <summary>Other courses that whoever looks instructs, to take a shelf over from.</summary>
    public IReadOnlyList<Course> Others { get; private set; } = [];

    public ExerciseForm Exercise { get; private set; } = new();
    public FaultForm Fault { get; private set; } = new();

    public async Task OnGetAsync()
    {
        Fill();
        await Load();
    }

    private void Fill()
    {
        var e = Shelf.Exercise(Chosen) ?? Shelf.Exercises[0];
        Exercise = new()
        {
            Id = e.Id,
            Another = Chosen == "new",
            Name = Chosen == "new" ? "" : e.Name,
            Least = e.MinMinutes,
            Most = e.MaxMinutes,
            Look = e.Look,
            StartFrom = e.StartFrom,
            Steps = string.Join('\n', e.Steps),
            Rule = e.Rule,
            Findings = [.. e.Findings],
            Inspected = string.Join('\n', e.Inspected),
            UsualFaults = string.Join('\n', e.UsualFaults),
            Wall = e.Wall,
            Student = e.Student,
            Paper = e.Paper,
            Kit = [.. e.Kit],
            AllowsPush = e.AllowsPush,
        };
        if (Shelf.Fault(Chosen) is { } f)
            Fault = new()
            {
                Id = f.Id,
                Family = f.Family,
                Name = f.Name,
                Where = f.Where,
                Sign = f.Sign,
                Principle = f.Principle,
                Remedy = f.Remedy,
                Drill = f.Drill,
                Exercise = f.Exercise,
            };
    }

    private async Task Load()
    {
        Versions = await shelves.Versions(Course);
        if (Scope.IsInstructor)
            Others = await db
                .Memberships.AsNoTracking()
                .Where(m => m.PersonId == Me.PersonId && m.Role == CourseRole.Instructor && m.CourseId != Course.Id)
                .Where(m => m.Course.OwnShelf != null)
                .OrderBy(m => m.Course.Name)
                .Select(m => m.Course)
                .Take(20)
                .ToListAsync();
    }

    public int Number => Versions.Count == 0 ? 0 : Versions[0].Number;

    /// <summary>What stood when the page was made: two who change the shelf at once are told of one another.</summary>
    public string StoodAt => Stood.Of(Stands);

    private (string, object?) Stands => ("the shelf", Versions is [{ } v, ..] ? $"version {v.Number}: {v.What}, {v.By}" : "");

    private static IReadOnlyList<string> Lines(string? text) =>
        (text ?? "").Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    private async Task<IActionResult> Keep(OwnShelf own, string what, string? id = null)
    {
        await Load();
        Stood.Check(Request, Stands);
        await shelves.Keep(Course, own, what, Me.Person.Name);
        return To($"shelf/own?part={Part}{(id is null ? "" : "&id=" + id)}");
    }

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostExerciseAsync([FromForm(Name = "Form")] ExerciseForm form)
    {
        (Wanted, Chosen) = ("exercises", form.Another ? "new" : form.Id);
        var first = Shelf.GetExercise(form.Id);
        var id = form.Another ? OwnId(form.Name, Shelf.Exercises.Select(e => e.Id)) : first.Id;
        var own = first with
        {
            Id = id,
            Name = (form.Name ?? "").Trim(),
            MinMinutes = form.Least,
            MaxMinutes = form.Most,
            Look = form.Look,
            StartFrom = (form.StartFrom ?? "").Trim(),
            Steps = Lines(form.Steps),
            Rule = (form.Rule ?? "").Trim(),
            Findings = form.Findings,
            Inspected = Lines(form.Inspected),
            UsualFaults = Lines(form.UsualFaults),
            Wall = (form.Wall ?? "").Trim(),
            Student = (form.Student ?? "").Trim(),
            Paper = form.Paper ?? "",
            Kit = form.Kit,
            AllowsPush = form.AllowsPush,
        };
        return Keep(Shelf.Own.With(own), $"{own.Name}, an exercise", id);
    }

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostExerciseBackAsync(string? exercise) =>
        Keep(Shelf.Own.WithoutExercise(exercise ?? ""), $"{Shelf.GetExercise(exercise ?? "").Name}, taken back");

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostFaultAsync([FromForm(Name = "Form")] FaultForm form)
    {
        (Wanted, Chosen) = ("faults", form.Id ?? "new");
        var first = Shelf.Fault(form.Id);
        if (first is null && form.Id is not null)
            throw new InputException($"unknown fault '{form.Id}'", "fault", "a fault of the shelf");
        var id = first?.Id ?? OwnId(form.Name, Shelf.Faults.Select(f => f.Id));
        var own = new Fault(
            id,
            form.Family,
            (form.Name ?? "").Trim(),
            (form.Where ?? "").Trim(),
            (form.Sign ?? "").Trim(),
            (form.Principle ?? "").Trim(),
            (form.Remedy ?? "").Trim(),
            string.IsNullOrEmpty(form.Drill) ? null : form.Drill,
            string.IsNullOrEmpty(form.Exercise) ? null : form.Exercise,
            first?.Rule,
            OwnShelf.Source
        );
        return Keep(Shelf.Own.With(own), $"{own.Name}, a fault", id);
    }

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostFaultBackAsync(string? fault) =>
        Keep(Shelf.Own.WithoutFault(fault ?? ""), $"{Shelf.Fault(fault)?.Name ?? "A fault"}, taken back");

    private static string OwnId(string? name, IEnumerable<string> taken) =>
        TemplateCheck.IdOf(ShelfCheck.OwnPrefix + Names.Checked(name, "name", ShelfCheck.LongestName - 8), taken);

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostDrillsAsync([FromForm(Name = "Form")] List<LimitForm> form)
    {
        Wanted = "drills";
        return Keep(
            Shelf.Own.WithDrills(form.DistinctBy(l => l.Kind).ToDictionary(l => l.Kind, l => new DrillLimit(l.Easy, l.Hard))),
            "what is right in drills"
        );
    }

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostTimingAsync([FromForm(Name = "Form")] Dictionary<string, double> form, string? because)
    {
        Wanted = "timing";
        return Keep(Shelf.Own.WithTiming(form, because), "rest and frame");
    }

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostKitAsync([FromForm(Name = "Form")] List<MaterialForm> form)
    {
        Wanted = "kit";
        return Keep(
            Shelf.Own.With(
                form.Select(m =>
                    (
                        Materials.List.Find(m.Id)
                        ?? throw new InputException($"'{m.Id}' is nothing that is drawn with", "kit", "things of the list")
                    ) with
                    {
                        Buys = m.Buys ?? "",
                        Lasts = m.Lasts,
                        Cost = m.Cost,
                    }
                )
            ),
            "kit and prices"
        );
    }

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostCautionsAsync([FromForm(Name = "Form")] List<CautionForm> form)
    {
        Wanted = "cautions";
        var taken = Cautions.All.Select(c => c.Id).Concat(form.Select(f => f.Id).OfType<string>()).ToList();
        var own = new List<Caution>();
        foreach (var f in form)
        {
            var says = (f.Says ?? "").Trim();
            var table = Cautions.All.FirstOrDefault(c => c.Id == f.Id);
            // An own one that is emptied goes; one of the studio's comes back as it was.
            if (says == "")
                continue;
            var id = table?.Id ?? (string.IsNullOrEmpty(f.Id) ? OwnId(says.Length > 24 ? says[..24] : says, taken) : f.Id);
            taken.Add(id);
            own.Add(new(id, table?.When ?? f.When ?? "", says, OwnShelf.Source));
        }
        return Keep(Shelf.Own.With(own), "cautions");
    }

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostSchoolsAsync([FromForm(Name = "Form")] Dictionary<string, string> form)
    {
        Wanted = "schools";
        return Keep(Shelf.Own.WithSchools(form), "which schools");
    }

    /// <summary>A version that was kept, or the studio's tables.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostBackAsync(int version)
    {
        await Load();
        Stood.Check(Request, Stands);
        await shelves.Back(Course, version, Me.Person.Name);
        return To($"shelf/own?part={Part}");
    }

    [For(CourseRole.Instructor)]
    public IActionResult OnGetJson() => File(Encoding.UTF8.GetBytes(Shelf.Own.Write()), "application/json; charset=utf-8", "shelf.json");

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostImportAsync(IFormFile? file) =>
        await Keep(OwnShelf.Read(await file.Text("a shelf as this page writes it")), "read from a file");

    /// <summary>Takes over what another course of the same instructor made its own.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostTakeAsync(int from)
    {
        await Load();
        var other = Others.FirstOrDefault(c => c.Id == from)
            ?? throw new InputException("that is no course of yours with a shelf of its own", "from", "another course that you instruct");
        return await Keep(other.OwnShelf!, $"taken over from {other.Name}");
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        Fill();
        await Load();
        return Page();
    }

    /// <summary>The school that a question is answered by here; null where both stand side by side.</summary>
    public School? Here(SchoolQuestion q) =>
        q.Decides switch
        {
            SchoolTable.Choice => q.Chosen(Shelf.Own),
            "approach" => q.Schools.FirstOrDefault(s => s.Id == Words.Kebab(Course.Approach)),
            "medium" => q.Schools.FirstOrDefault(s => s.Id == Course.Medium),
            "canon" => Course.SchoolOf("head").Rule(q.Rule!) is { } rule ? q.Schools.FirstOrDefault(s => s.Holds(rule)) : null,
            _ => null,
        };

    /// <summary>Where a question is settled, in a word.</summary>
    public static string Settled(SchoolQuestion q) =>
        q.Decides switch
        {
            SchoolTable.Choice => "chosen here",
            "approach" or "medium" => "in the course's settings",
            "canon" => "by the head's canon",
            "both" => "both judge, side by side",
            _ => "by each exercise",
        };
}
