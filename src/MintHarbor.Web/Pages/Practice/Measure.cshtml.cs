using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core;
using MintHarbor.Core.Measuring;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Practice;

/// <summary>The sums of the pencil at arm's length, of sight-size and of a first hatch, worked out: typed with one thumb, the answer beside it.</summary>
public sealed class MeasureModel(CourseScope scope) : CoursePage(scope), IShowsProblems
{
    /// <summary>Lengths in centimetres, or inches where the course measures so; what the pencil reads and its line in millimetres.</summary>
    [BindProperty(SupportsGet = true, Name = "reading")]
    public double Reading { get; set; } = 30;

    [BindProperty(SupportsGet = true, Name = "arm")]
    public double? Arm { get; set; }

    [BindProperty(SupportsGet = true, Name = "distance")]
    public double? Distance { get; set; }

    [BindProperty(SupportsGet = true, Name = "lost")]
    public double? Lost { get; set; }

    [BindProperty(SupportsGet = true, Name = "size")]
    public double? Size { get; set; }

    [BindProperty(SupportsGet = true, Name = "board")]
    public double? Board { get; set; }

    [BindProperty(SupportsGet = true, Name = "model")]
    public double? Model { get; set; }

    [BindProperty(SupportsGet = true, Name = "value")]
    public int Value { get; set; } = 5;

    [BindProperty(SupportsGet = true, Name = "width")]
    public double Width { get; set; } = 0.5;

    public string Unit => Course.Inch ? "in" : "cm";

    /// <summary>Millimetres of the unit.</summary>
    private double Mm => Course.Inch ? 25.4 : 10;

    public double ArmOr => Arm ?? Round(65);
    public double DistanceOr => Distance ?? Round(400);
    public double LostOr => Lost ?? Round(5);
    public double SizeOr => Size ?? Round(170);
    public double BoardOr => Board ?? Round(120);
    public double ModelOr => Model ?? Round(400);

    private double Round(double cm) => Course.Inch ? Math.Round(cm / 2.54) : cm;

    public double PartSize { get; private set; }
    public double Bent { get; private set; }
    public double Image { get; private set; }
    public double Coverage { get; private set; }
    public double? Spacing { get; private set; }
    public double? Crossed { get; private set; }
    public double Dots { get; private set; }

    public void OnGet() => Work();

    private void Work()
    {
        PartSize = ArmsLength.Size(Reading, ArmOr * Mm, DistanceOr * Mm) / Mm;
        Bent = ArmsLength.Bent(ArmOr, LostOr);
        Image = ArmsLength.SightSize(SizeOr, BoardOr, ModelOr);
        Coverage = Hatching.Coverage(Value);
        (Spacing, Crossed) = (Hatching.Spacing(Coverage, Width, false), Hatching.Spacing(Coverage, Width, true));
        Dots = Hatching.Dots(Coverage, Width);
    }

    /// <summary>What the card is worked out for: readings of a pencil in millimetres, and every value that isn't bare paper.</summary>
    public static IReadOnlyList<double> Readings { get; } = [10, 20, 30, 40, 60, 80, 100, 120];
    public static IReadOnlyList<int> Values { get; } = [.. Enumerable.Range(2, 8)];

    public string SizeOf(double reading) => Say.Fixed(ArmsLength.Size(reading, ArmOr * Mm, DistanceOr * Mm) / Mm, 1);

    /// <summary>The same part, as large as it is seen on the board.</summary>
    public string SeenOf(double reading) =>
        Say.Fixed(ArmsLength.SightSize(ArmsLength.Size(reading, ArmOr * Mm, DistanceOr * Mm), BoardOr, ModelOr) / Mm, 1);

    public string SpacingOf(int value, bool crossed) => Say.Fixed(Hatching.Spacing(Hatching.Coverage(value), Width, crossed)!.Value, 1);

    public string Length(double value) => $"{Say.Number(value, 1)} {Unit}";

    /// <summary>What was typed stays; what stands beside it is of the usual lengths.</summary>
    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        return Task.FromResult<IActionResult>(Page());
    }
}
