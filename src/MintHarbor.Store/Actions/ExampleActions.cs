using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using MintHarbor.Store.Model;

namespace MintHarbor.Store.Actions;

/// <param name="Head">A head instead of a figure.</param>
/// <param name="Azimuth">The side it is drawn from; a head's turn.</param>
/// <param name="Body">Body of the figure, or sitter of the head.</param>
public sealed record ExampleWish(
    bool Head,
    string Pose,
    string Body,
    double Azimuth,
    IReadOnlyList<NamedFault> Faults,
    Manner Manner,
    long Seed
);

/// <summary>Example sheets for teaching: drawn with chosen faults, photographed, taken in as any sheet is, and put on the teacher's bench.</summary>
public sealed class ExampleActions(HarborContext db, IntakeActions intake, SheetActions sheets, SimulatedSheets drawer)
{
    public const int MostFaults = 4,
        MostExamples = 40;

    /// <exception cref="InputException">Something of the wish that isn't there, or too many examples in the course.</exception>
    public async Task<Sheet> Make(Course course, Membership teacher, ExampleWish w)
    {
        if (w.Faults.Count > MostFaults)
            throw new InputException($"{w.Faults.Count} faults in one drawing", "faults", $"up to {MostFaults}: more would teach nothing");
        var known = SimulatedStudent.All(w.Head).Select(f => f.Name).ToList();
        if (w.Faults.FirstOrDefault(f => !known.Contains(f.Name)) is { } unknown)
            throw new InputException($"there is no fault '{unknown.Name}' here", "faults", string.Join(", ", known));
        if (await db.Sheets.CountAsync(s => s.CourseId == course.Id && s.State == SheetState.Example) >= MostExamples)
            throw new InputException($"the course has {MostExamples} examples", "example", "fewer: take one away first");
        var paper = PaperSize.Find(course.Paper)
            ?? throw new InputException($"unknown paper '{course.Paper}'", "paper", "a paper of the list");
        var tall = Math.Max(paper.WidthMm, paper.HeightMm);
        SimulatedSheets.Drawn drawn;
        Submission said;
        var put =
            w.Faults.Count == 0 ? "Nothing is put in." : $"Put in: {Say.List([.. w.Faults.Select(f => $"{f.Name}{Size(f, w.Head)}")])}.";
        if (w.Head)
        {
            if (Math.Abs(w.Azimuth) > 60)
                throw new InputException($"a head turned by {w.Azimuth}°", "azimuth", "−60 to 60 degrees");
            if (HeadCatalogue.Sitters.All(s => s.Id != w.Body))
                throw new InputException(
                    $"there is no sitter '{w.Body}'",
                    "sitter",
                    string.Join(", ", HeadCatalogue.Sitters.Select(s => s.Id))
                );
            drawn = drawer.Head(w.Body, new(w.Azimuth), paper, tall * 0.6, w.Faults, w.Manner, w.Seed);
            said = new(
                "What would you say first?",
                put,
                "head-construction",
                "standing",
                null,
                Math.Abs(w.Azimuth) < 8 ? "front" : "three-quarter",
                course.Paper,
                null,
                null,
                "head"
            );
        }
        else
        {
            var pose = FigureCatalogue.Pose(w.Pose);
            FigureCatalogue.Body(w.Body);
            drawn = drawer.Figure(
                w.Body,
                w.Pose,
                Drapery.For(course.Minors, course.Minors),
                new Seat(w.Azimuth, 3.4, 1.3).Checked(),
                paper,
                tall
                    * (
                        pose.Strain is "lying" ? 0.25
                        : pose.Strain is "seated" ? 0.62
                        : 0.76
                    ),
                w.Faults,
                w.Manner,
                w.Seed
            );
            var word = PoseWords.Judged(pose);
            said = new("What would you say first?", put, "sitting", word, pose.Weight, PoseWords.View(w.Azimuth), course.Paper, null, null);
        }
        var sheet = await intake.Submit(course, teacher, said, () => Task.FromResult(drawn.Jpeg));
        var order = w.Head ? LandmarkIds.HeadOrder : LandmarkIds.BenchOrder;
        var marks = drawn
            .Placeable(order)
            .ToDictionary(id => id, id => drawn.Drawing.Landmarks[id])
            .Where(m => m.Value.X <= sheet.PaperWidthMm && m.Value.Y <= sheet.PaperHeightMm)
            .ToDictionary();
        await sheets.Place(sheet, course, marks, staff: true);
        sheet.State = SheetState.Example;
        if (!w.Head)
            await sheets.Hold(sheet, course, new(w.Pose, w.Body, false, w.Azimuth, 3.4, 1.3));
        await db.SaveChangesAsync();
        return sheet;
    }

    /// <exception cref="InputException">A sheet that somebody drew.</exception>
    public async Task Remove(Sheet sheet)
    {
        if (sheet.State != SheetState.Example)
            throw new InputException("only an example can be taken away", "sheet", "a sheet drawn for teaching");
        await intake.Remove(sheet);
    }

    private static string Size(NamedFault f, bool head) =>
        SimulatedStudent.All(head).First(a => a.Name == f.Name).Unit == "deg"
            ? $" by {Say.Number(f.Size, 1)}°"
            : $" by {Say.Number(100 * f.Size)} %";
}

/// <summary>How a pose and a side of the studio figure are called on a sheet.</summary>
public static class PoseWords
{
    /// <summary>The judge's word for a pose.</summary>
    public static string Judged(Pose pose) =>
        pose.Id switch
        {
            "stand" => "standing",
            "contrapposto" => "contrapposto",
            _ => pose.Strain switch
            {
                "seated" => "seated",
                "lying" => "reclining",
                _ => "other",
            },
        };

    /// <summary>The judge's word for a view.</summary>
    public static string View(double azimuth) => Core.Rooms.SeatPlanner.View(azimuth);
}
