using MintHarbor.Core.Courses;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Simulation;
using Xunit;

namespace MintHarbor.Core.Tests.Simulation;

/// <summary>Drawings as a student makes them: their faults are exactly those that were asked for, and their lines carry them.</summary>
public sealed class SimulatedStudentTests
{
    private static readonly PaperSize Pad = PaperSize.Find("18x24in")!;
    private static readonly StudioHead Heads = new(StudioHead.Coarse);
    private static readonly Lazy<DrawnSubject> Standing = new(() => Subject("contrapposto", 20));

    private static DrawnSubject Subject(string pose, double azimuth) =>
        DrawnSubject.Of(
            new StudioFigure().Model("male", FigureCatalogue.Pose(pose), Drapery.For(false, false), StudioFigure.Thumb),
            new(azimuth)
        );

    private static SimulatedDrawing Draw(
        DrawnSubject subject,
        NamedFault[] faults,
        Manner? manner = null,
        double height = 420,
        long seed = 3
    ) => SimulatedStudent.Draw(subject, Pad, height, faults, manner ?? new(), seed);

    private static double Length(DrawnStroke s) => Enumerable.Range(1, s.Points.Count - 1).Sum(i => (s.Points[i] - s.Points[i - 1]).Length);

    [Fact]
    public void A_faultless_drawing_keeps_every_proportion_of_its_view()
    {
        var d = Draw(Standing.Value, []);
        var marks = Standing.Value.Line.Landmarks;
        var fit = Similarity.Fit([.. d.Landmarks.Select(l => (marks[l.Key].At, l.Value))])!;
        Assert.Equal(84, d.Landmarks.Count);
        Assert.Equal(0, fit.Residual, 1e-6);
        Assert.Equal(0, fit.TurnDegrees, 1e-6);
        Assert.Equal(420, d.Landmarks.Values.Max(p => p.Y) - d.Landmarks.Values.Min(p => p.Y), 1e-6);
        Assert.All(d.Strokes, s => Assert.All(s.Points, p => Assert.True(p.X > 0 && p.Y > 0 && p.X < Pad.WidthMm && p.Y < Pad.HeightMm)));
    }

    public static TheoryData<string, bool> Names =>
        [.. FigureFaults.All.Select(f => (f.Name, false)).Concat(FigureFaults.OfHeads.Select(f => (f.Name, true)))];

    /// <summary>The landmarks of a drawing are those of the fault, to the millimetre's millionth; drawn lines go with them.</summary>
    [Theory]
    [MemberData(nameof(Names))]
    public void A_fault_of_proportion_is_put_in_exactly(string name, bool head)
    {
        var subject =
            head ? DrawnSubject.Of(Heads.Model(), new(30))
            : name == "forearm at full length" ? Subject("seated", 20)
            : Standing.Value;
        var (_, _, _, most) = SimulatedStudent.All(head).First(f => f.Name == name);
        SimulatedDrawing clean = Draw(subject, [], height: 300),
            wrong = Draw(subject, [new(name, most)], height: 300);
        var marks = subject.Line.Landmarks.ToDictionary(l => l.Key, l => l.Value.At);
        var wanted = FigureFaults.Apply(marks, new(name, most), subject.Line.Limbs.ToDictionary(l => l.Id, l => l.Ratio), subject.Side);
        var fit = Similarity.Fit([.. clean.Landmarks.Select(l => (marks[l.Key], l.Value))])!;
        Assert.All(wrong.Landmarks, l => Assert.True((fit.Map(wanted[l.Key]) - l.Value).Length < 1e-6, l.Key));
        // The farthest moved landmark takes what is drawn at it along.
        var far = wrong
            .Landmarks.Keys.Where(k => subject.Line.Landmarks[k].Visible)
            .MaxBy(k => (wrong.Landmarks[k] - clean.Landmarks[k]).Length)!;
        Assert.True((wrong.Landmarks[far] - clean.Landmarks[far]).Length > 1, far);
        double Nearest(SimulatedDrawing d) => d.Strokes.SelectMany(s => s.Points).Min(p => (p - d.Landmarks[far]).Length);
        Assert.True(Nearest(wrong) < Nearest(clean) + 10, $"{far}: {Nearest(wrong)} and {Nearest(clean)}");
    }

    [Fact]
    public void Off_the_page_the_paper_ends()
    {
        var d = Draw(Standing.Value, [new(SimulatedStudent.OffThePage, 0.15)]);
        Assert.DoesNotContain("sole.L", d.Landmarks.Keys);
        Assert.Contains("crown", d.Landmarks.Keys);
        Assert.All(d.Strokes, s => Assert.All(s.Points, p => Assert.True(p.Y < Pad.HeightMm)));
        Assert.True(d.Strokes.SelectMany(s => s.Points).Max(p => p.Y) > Pad.HeightMm - 4);
    }

    [Fact]
    public void Broken_strokes_are_short_and_many()
    {
        // Without tone, so that only lines are counted.
        SimulatedDrawing whole = Draw(Standing.Value, [], new(0.6, Tone: false)),
            broken = Draw(Standing.Value, [new(SimulatedStudent.BrokenStrokes, 1)], new(0.6, Tone: false));
        Assert.True(broken.Strokes.Count > 3 * whole.Strokes.Count);
        Assert.True(broken.Strokes.Average(Length) < whole.Strokes.Average(Length) / 2.5);
        Assert.True(broken.Strokes.Max(Length) < 30);
    }

    /// <summary>Ink by light and shadow: a student who models lays it in the dark, one who greys lays it everywhere, one who leaves whites
    /// misses part of the dark.</summary>
    [Fact]
    public void Tone_goes_where_its_fault_says()
    {
        double Ink(params NamedFault[] faults) =>
            Draw(Standing.Value, faults).Strokes.Sum(Length) - Draw(Standing.Value, faults, new(Tone: false)).Strokes.Sum(Length);
        double right = Ink(),
            flat = Ink(new NamedFault(SimulatedStudent.FlatTone, 1)),
            gaps = Ink(new NamedFault(SimulatedStudent.WhitesLeft, 0.6));
        Assert.True(right > 500, $"{right}");
        Assert.True(flat > 1.7 * right, $"{flat} to {right}");
        Assert.InRange(gaps / right, 0.3, 0.85);
    }

    [Fact]
    public void A_calm_hand_strays_less_and_a_pencil_is_thinner()
    {
        static double Width(SimulatedDrawing d) => d.Strokes.Average(s => s.WidthMm);
        double Apart(double care)
        {
            // How far the strokes of one drawing lie from those of the calmest.
            var calm = Draw(Standing.Value, [], new(1, Tone: false)).Strokes.SelectMany(s => s.Points).ToList();
            return Draw(Standing.Value, [], new(care, Tone: false))
                .Strokes.SelectMany(s => s.Points)
                .Where((_, i) => i % 40 == 0)
                .Average(p => calm.Min(q => (p - q).Length));
        }
        Assert.True(Apart(0.1) > 1.5 * Apart(0.9));
        Assert.True(Width(Draw(Standing.Value, [], new(Tool: Tool.Pencil))) < 0.7 * Width(Draw(Standing.Value, [])));
        Assert.Equal(Draw(Standing.Value, []).Strokes.Select(s => s.Points[0]), Draw(Standing.Value, []).Strokes.Select(s => s.Points[0]));
        Assert.NotEqual(
            Draw(Standing.Value, []).Strokes.Select(s => s.Points[0]),
            Draw(Standing.Value, [], seed: 4).Strokes.Select(s => s.Points[0])
        );
    }

    /// <summary>The judge names what was put into a drawn head.</summary>
    [Theory]
    [
        InlineData("eyes high", 0.06, 0, "H-eye"),
        InlineData("mouth low", 0.045, 0, "H-mouth"),
        InlineData("ears high", 0.08, 0, "H-ear"),
        InlineData("neck thin", 0.28, 0, "H-neck"),
        InlineData("axis in the middle", 1, 32, "H-turn")
    ]
    public void A_drawn_heads_fault_is_named(string fault, double size, double turn, string rule)
    {
        Judgement Judged(params NamedFault[] faults) =>
            Judge.Head(
                new()
                {
                    Subject = "head",
                    Canon = "classical-head",
                    View = turn == 0 ? "front" : "three-quarter",
                    PlacementErrorMm = 0.5,
                    Landmarks = new(
                        SimulatedStudent
                            .Draw(DrawnSubject.Of(Heads.Model(), new(turn)), Pad, 420, faults, new(), 5)
                            .Landmarks.Where(l => LandmarkIds.HeadOrder.Contains(l.Key))
                    ),
                }
            );
        Assert.Contains(Judged(new NamedFault(fault, size)).Findings, f => f.Rule.Id == rule && f.Verdict == Verdict.Outside);
        Assert.DoesNotContain(Judged().Findings, f => f.Verdict == Verdict.Outside);
    }

    [Fact]
    public void An_unknown_fault_is_refused() =>
        Assert.Contains("eyes high", Assert.Throws<InputException>(() => Draw(Standing.Value, [new("nose long", 1)])).Accepted);
}
