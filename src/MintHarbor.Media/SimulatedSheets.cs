using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Objects;
using MintHarbor.Core.Simulation;

namespace MintHarbor.Media;

/// <summary>Sheets that nobody drew: the studio figure or head, drawn with chosen faults as a student would and photographed as a phone
/// would. They go through the same upload as real ones.</summary>
public sealed class SimulatedSheets
{
    private readonly StudioFigure studio = new(48L << 20);
    private readonly StudioHead heads = new(StudioHead.Coarse, 4);

    public sealed record Drawn(SimulatedDrawing Drawing, byte[] Jpeg, IReadOnlySet<string> Seen)
    {
        /// <summary>Ends of a figure that everybody marks, though they face away.</summary>
        private static readonly string[] Ends = ["crown", "chin", "sole.L", "sole.R"];

        /// <summary>Of the given landmarks those that a person would place on the sheet.</summary>
        public IEnumerable<string> Placeable(IEnumerable<string> order) =>
            order.Where(id => Drawing.Landmarks.ContainsKey(id) && (Seen.Contains(id) || Ends.Contains(id)));
    }

    /// <summary>The figure that is drawn.</summary>
    public FigureModel Model(string body, string pose, Drapery drapery) =>
        studio.Model(body, FigureCatalogue.Pose(pose), drapery, StudioFigure.Coarse);

    /// <param name="width">Of the photograph, pixels.</param>
    /// <param name="side">"L" or "R", for a fault that has a side.</param>
    /// <param name="mistake">A check of anatomy that is drawn wrong.</param>
    public Drawn Figure(
        string body,
        string pose,
        Drapery drapery,
        Seat seat,
        PaperSize paper,
        double height,
        IReadOnlyList<NamedFault> faults,
        Manner manner,
        long seed,
        string side = "R",
        int width = 1100,
        BodyCheck? mistake = null
    )
    {
        var model = Model(body, pose, drapery);
        if (mistake is not null)
            model = BodyChecks.Mistaken(model, mistake, 1, StudioFigure.Coarse);
        return Taken(DrawnSubject.Of(model, seat, side), paper, height, faults, manner, seed, width);
    }

    /// <summary>A figure in a hand whose every stroke is known, photographed as on any evening.</summary>
    public StudioCamera.Shot Stroked(
        string body,
        string pose,
        Drapery drapery,
        Seat seat,
        PaperSize paper,
        double height,
        TechniqueManner manner,
        long seed
    ) =>
        Taken(
            TechniqueHand.Draw(
                DrawnSubject.Of(studio.Model(body, FigureCatalogue.Pose(pose), drapery, StudioFigure.Coarse), seat),
                paper,
                height,
                manner,
                seed
            ),
            seed
        );

    /// <summary>A still life in such a hand.</summary>
    public static StudioCamera.Shot Stroked(
        Arrangement things,
        Seat seat,
        PaperSize paper,
        double height,
        TechniqueManner manner,
        long seed
    ) => Taken(TechniqueHand.Draw(DrawnSubject.Of(new ArrangementModel(things), seat), paper, height, manner, seed), seed);

    /// <summary>Patches of value by such a hand.</summary>
    public static StudioCamera.Shot Patches(PaperSize paper, IReadOnlyList<RuledPatch> patches, long seed) =>
        Taken(PatchHand.Draw(paper, patches, seed), seed);

    private static StudioCamera.Shot Taken(TechniqueSheet sheet, long seed) => StudioCamera.Take(sheet, 1800, 2400, seed);

    /// <summary>Two small drawings of one pose beside one another on a sheet: nothing tells which of them is meant.</summary>
    public byte[] Two(
        string body,
        string pose,
        Drapery drapery,
        Seat seat,
        PaperSize paper,
        double height,
        Manner manner,
        long seed,
        int width
    )
    {
        var subject = DrawnSubject.Of(studio.Model(body, FigureCatalogue.Pose(pose), drapery, StudioFigure.Coarse), seat);
        var one = SimulatedStudent.Draw(subject, paper, height, [], manner, seed);
        DrawnStroke Aside(DrawnStroke s, double by) => s with { Points = [.. s.Points.Select(p => p + new Core.Geometry.Vec2(by, 0))] };
        var aside = paper.WidthMm / 4;
        var both = one with { Strokes = [.. one.Strokes.Select(s => Aside(s, -aside)), .. one.Strokes.Select(s => Aside(s, aside))] };
        return SheetCamera.Take(both, width, width * 4 / 3, 0.6, seed).Jpeg;
    }

    public Drawn Head(
        string sitter,
        HeadPose pose,
        PaperSize paper,
        double height,
        IReadOnlyList<NamedFault> faults,
        Manner manner,
        long seed,
        int width = 1100
    ) => Taken(DrawnSubject.Of(heads.Model(sitter), pose), paper, height, faults, manner, seed, width);

    private static Drawn Taken(
        DrawnSubject subject,
        PaperSize paper,
        double height,
        IReadOnlyList<NamedFault> faults,
        Manner manner,
        long seed,
        int width
    )
    {
        var drawing = SimulatedStudent.Draw(subject, paper, height, faults, manner, seed);
        var seen = subject.Line.Landmarks.Where(l => l.Value.Visible).Select(l => l.Key).ToHashSet();
        return new(drawing, SheetCamera.Take(drawing, width, width * 4 / 3, 0.6, seed).Jpeg, seen);
    }
}
