using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core;
using MintHarbor.Core.Simulation;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>A sheet for teaching, with faults of the teacher's choice: the critique tried without a photograph.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant), OnesOwn]
public sealed class ExampleModel(CourseScope scope, ExampleActions examples, IClock clock) : CoursePage(scope), IShowsProblems
{
    /// <summary>How strongly a fault is put in, as a share of the way from its least to its greatest size.</summary>
    public static readonly IReadOnlyList<(string Id, string Name, double Share)> Strengths =
    [
        ("slight", "slight", 0.2),
        ("plain", "plain", 0.6),
        ("strong", "strong", 1),
    ];

    public static readonly IReadOnlyList<(double Azimuth, string Name)> Sides =
    [
        (0, "from the front"),
        (-35, "three-quarter, from its right"),
        (35, "three-quarter, from its left"),
        (-90, "profile, from its right"),
        (90, "profile, from its left"),
        (180, "from behind"),
    ];

    public static readonly IReadOnlyList<(double Turn, string Name)> Turns =
    [
        (0, "from the front"),
        (-18, "turned a little left"),
        (18, "turned a little right"),
        (-35, "three-quarter, left"),
        (35, "three-quarter, right"),
    ];

    public static readonly IReadOnlyList<(string Id, string Name, double Care)> Hands =
    [
        ("quick", "quick", 0.2),
        ("plain", "neither quick nor slow", 0.5),
        ("careful", "careful", 0.9),
    ];

    public sealed class ExampleForm
    {
        public string Subject { get; set; } = "figure";
        public string Pose { get; set; } = "contrapposto";
        public string Body { get; set; } = "male";
        public double Side { get; set; }
        public string Sitter { get; set; } = "classical";
        public double Turn { get; set; }
        public string Hand { get; set; } = "plain";
        public Tool Tool { get; set; } = Tool.Charcoal;

        /// <summary>Strength by fault; no entry for one that isn't put in.</summary>
        public Dictionary<string, string> Faults { get; set; } = [];
    }

    [BindProperty]
    public ExampleForm Form { get; set; } = new();

    public static IReadOnlyList<(string Name, string Unit, double Least, double Most)> FaultsOf(string subject) =>
        [.. SimulatedStudent.All(subject == "head")];

    public void OnGet()
    {
        // A first example that has something to find.
        Form.Faults["head large"] = "plain";
    }

    public async Task<IActionResult> OnPostMakeAsync()
    {
        var head = Form.Subject == "head";
        if (!head && Form.Subject != "figure")
            throw new InputException($"'{Form.Subject}' can't be drawn", "Form.Subject", "figure, head");
        var hand = Hands.FirstOrDefault(h => h.Id == Form.Hand);
        if (hand.Id is null)
            throw new InputException($"no hand is called '{Form.Hand}'", "Form.Hand", string.Join(", ", Hands.Select(h => h.Id)));
        var known = FaultsOf(Form.Subject);
        var faults = new List<NamedFault>();
        foreach (var (name, strength) in Form.Faults.Where(f => !string.IsNullOrEmpty(f.Value)))
        {
            var fault = known.FirstOrDefault(f => f.Name == name);
            // A fault of the other subject is only hidden on the page.
            if (fault.Name is null)
                continue;
            var how = Strengths.FirstOrDefault(s => s.Id == strength);
            if (how.Id is null)
                throw new InputException($"'{strength}' is no strength", "Form.Faults", string.Join(", ", Strengths.Select(s => s.Id)));
            faults.Add(new(name, fault.Least + ((fault.Most - fault.Least) * how.Share)));
        }
        var sheet = await examples.Make(
            Course,
            Me,
            new(
                head,
                Form.Pose,
                head ? Form.Sitter : Form.Body,
                head ? Form.Turn : Form.Side,
                faults,
                new(hand.Care, Form.Tool),
                clock.GetCurrentInstant().ToUnixTimeSeconds()
            )
        );
        return To($"critique/{sheet.Id}/bench");
    }

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        return Task.FromResult<IActionResult>(Page());
    }
}
