using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using MintHarbor.Core;
using MintHarbor.Core.Canons;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using MintHarbor.Media;
using MintHarbor.Web.Access;
using MintHarbor.Web.Drawing;
using MintHarbor.Web.Figures;

namespace MintHarbor.Web.Pages.Shelf;

/// <summary>Construction sheets to scale, by a school or by a sitter's measured fractions: looked at, then printed.</summary>
[EnableRateLimiting(Limits.Figures)]
public sealed class ConstructionModel(CourseScope scope, FigureViews views, Papers.Papers papers) : CoursePage(scope), IShowsProblems
{
    public const string Measured = "measured",
        InUse = "in-use";

    public sealed class Levels
    {
        public double? Hairline { get; set; }
        public double? Brow { get; set; }
        public double? Eyes { get; set; }
        public double? NoseBase { get; set; }
        public double? Mouth { get; set; }
        public double? Breadth { get; set; }
    }

    /// <summary>"head" or "figure".</summary>
    [BindProperty(SupportsGet = true, Name = "of")]
    public string? Subject { get; set; }

    /// <summary>The course's canon as it is in use, one of the table, or a sitter's measures.</summary>
    [BindProperty(SupportsGet = true, Name = "by")]
    public string? Wanted { get; set; }
    public string By => Wanted ?? InUse;

    [BindProperty(SupportsGet = true, Name = "use")]
    public ConstructionUse Use { get; set; }

    [BindProperty(SupportsGet = true, Name = "paper")]
    public string? PaperName { get; set; }

    /// <summary>Of the three-quarter view, degrees.</summary>
    [BindProperty(SupportsGet = true, Name = "turn")]
    public double Turn { get; set; } = 35;

    [BindProperty(SupportsGet = true, Name = "m")]
    public Levels Typed { get; set; } = new();

    public bool OfHead => Subject != "figure";
    public PaperSize Paper { get; private set; } = PaperSize.Find("A4")!;
    public Canon Canon { get; private set; } = null!;
    public HeadLevels Head { get; private set; } = null!;
    public string Title => OfHead && By == Measured ? "a sitter as measured" : Canon.Name;

    /// <summary>Height of what is drawn, millimetres.</summary>
    public double Height => OfHead ? ConstructionSheet.HeadHeight(Use, Paper) : ConstructionSheet.FigureHeight(Paper);

    public void OnGet() => Read();

    public IActionResult OnGetPdf()
    {
        Read();
        var paper = new ConstructionPaper(Title, Course.Name, Use, Paper, Course.Inch);
        var pdf = OfHead
            ? papers.Head(views.Head(Head, quick: Use == ConstructionUse.Sheet), Head, Turn, paper)
            : papers.Figure(Canon, paper);
        return File(pdf, "application/pdf", $"{(OfHead ? "head" : "figure")}-{(Use == ConstructionUse.Poster ? "poster" : "sheet")}.pdf");
    }

    private void Read()
    {
        Start();
        Paper = PaperSize.Find(PaperName ?? "A4")
            ?? throw new InputException($"paper '{PaperName}'", "paper", string.Join(" | ", PaperSize.All.Select(p => p.Id)));
        if (!Enum.IsDefined(Use))
            throw new InputException("no such use", "use", "poster | sheet");
        if (!(Turn is >= 10 and <= 80))
            throw new InputException($"a turn of {Say.Number(Turn)}°", "turn", "10 to 80 degrees");
        if (By is not (InUse or Measured))
            Canon = CanonTable.All.FirstOrDefault(c => c.Id == By && c.Subject == (OfHead ? "head" : "figure"))
                ?? throw new InputException($"'{By}' is no canon of a {(OfHead ? "head" : "figure")}", "by", "a canon of the list");
        if (!OfHead)
            return;
        var school = HeadLevels.Of(Canon);
        Head =
            By == Measured
                ? new HeadLevels(
                    Typed.Hairline ?? school.Hairline,
                    Typed.Brow ?? school.Brow,
                    Typed.Eyes ?? school.Eyes,
                    Typed.NoseBase ?? school.NoseBase,
                    Typed.Mouth ?? school.Mouth,
                    Typed.Breadth
                ).Checked()
                : school;
    }

    /// <summary>What stands before anything is asked: the canon in use.</summary>
    private void Start()
    {
        Canon = Course.SchoolOf(OfHead ? "head" : "figure");
        Head = HeadLevels.Of(Course.SchoolOf("head"));
    }

    /// <summary>The head from in front on its levels, as it will be printed.</summary>
    public HtmlString Preview()
    {
        const int width = 480,
            height = 600;
        var svg = new Svg().Add(
            $"<svg class=\"guide-preview\" viewBox=\"0 40 {width} {height - 90}\" role=\"img\" aria-label=\"{Title}: the head from in front on its levels\">"
        );
        var view = StudioHead.View(views.Head(Head, quick: true), new(0), FigureViewKind.Line, width, height);
        var crown = view.Landmarks["crown"].At.Y;
        foreach (var (_, _, at) in Head.All)
            svg.Line("guide", 60, crown + (at * height * 0.6), width - 60, crown + (at * height * 0.6));
        foreach (var stroke in view.Strokes)
            svg.Path("guide-head", stroke.Places, stroke.Closed);
        return svg.Add($"</svg>").Html();
    }

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        Start();
        return Task.FromResult<IActionResult>(Page());
    }
}
