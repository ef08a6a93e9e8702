using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;

namespace MintHarbor.Store.Demo;

/// <summary>Draws the invented students' sheets from the studio figure and head and photographs them.</summary>
public sealed class DemoDrawing(bool minors = false)
{
    private readonly StudioFigure studio = new(48L << 20);
    private readonly StudioHead heads = new(StudioHead.Coarse, 4);

    public sealed record Drawn(SimulatedDrawing Drawing, byte[] Jpeg, IReadOnlySet<string> Seen);

    /// <param name="side">"L" or "R", for a fault that has a side.</param>
    public Drawn Figure(string body, string pose, Seat seat, PaperSize paper, double height, IReadOnlyList<NamedFault> faults, Manner manner, long seed, bool clothed = false, string side = "R", int width = 1500)
    {
        var model = studio.Model(body, FigureCatalogue.Pose(pose), Drapery.For(minors, clothed), StudioFigure.Coarse);
        return Taken(DrawnSubject.Of(model, seat, side), paper, height, faults, manner, seed, width);
    }

    public Drawn Head(string sitter, HeadPose pose, PaperSize paper, double height, IReadOnlyList<NamedFault> faults, Manner manner, long seed, int width = 1500) =>
        Taken(DrawnSubject.Of(heads.Model(sitter), pose), paper, height, faults, manner, seed, width);

    private static Drawn Taken(DrawnSubject subject, PaperSize paper, double height, IReadOnlyList<NamedFault> faults, Manner manner, long seed, int width)
    {
        var drawing = SimulatedStudent.Draw(subject, paper, height, faults, manner, seed);
        var seen = subject.Line.Landmarks.Where(l => l.Value.Visible).Select(l => l.Key).ToHashSet();
        return new(drawing, SheetCamera.Take(drawing, width, width * 4 / 3, 0.6, seed).Jpeg, seen);
    }
}
