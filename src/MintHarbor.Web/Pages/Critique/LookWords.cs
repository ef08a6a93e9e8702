using MintHarbor.Core;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Technique;
using MintHarbor.Store.Model;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>What marks made by hand say: each by itself, and beside the one before it of its kind, or the reference's in its order.</summary>
public static class LookWords
{
    /// <returns>The mark that a note is about, null for a set's, and the note.</returns>
    public static IEnumerable<(HandMark? Mark, Note Note)> Of(IReadOnlyList<HandMark> marks, bool inch) =>
        [.. Patches(marks), .. Tones(marks), .. Edges(marks, inch), .. Families(marks), .. Shapes(marks, inch)];

    private static IEnumerable<(HandMark?, Note)> Patches(IReadOnlyList<HandMark> marks)
    {
        var patches = marks.Where(m => m is { Kind: MarkKind.Patch, Method: not null, Step: not null, Read: not null }).ToList();
        foreach (var w in PatchSet.Of([.. patches.Select(m => new Patch(m.Method!.Value, m.Step!.Value, m.Read!))]))
            yield return (null, new(Words.Shape(w.Verdict), w.Next is null ? w.Says : $"{w.Says} {w.Next}"));
        foreach (var m in patches)
            yield return (m, Area(m));
    }

    private static IEnumerable<(HandMark?, Note)> Tones(IReadOnlyList<HandMark> marks)
    {
        HandMark? before = null;
        foreach (var m in marks.Where(m => m is { Kind: MarkKind.Tone, Read: not null }))
        {
            yield return (m, Area(m, before));
            before ??= m;
        }
    }

    private static Note Area(HandMark m, HandMark? other = null)
    {
        var r = m.Read!;
        var way = r.Direction is { } d ? ClockAngle.SayTenths(ClockAngle.Hour(d + 90)) : "";
        var hatch = r.Spacing is { } s ? $", {(r.Crossed ? "cross-hatched" : "hatched")} at {Say.Number(s, 1)} mm, {way} o’clock" : "";
        var beside = other?.Read is { } o ? Beside(r, o, other.Name) : "";
        string[] because =
        [
            $"Covers {Say.Number(100 * r.Coverage)} % of the paper by its light (Murray and Davies); spread of L* {Say.Number(r.Spread, 1)}.",
            r.Evenness is { } e ? $"Its gaps differ by {Say.Number(100 * e)} %." : "",
            r.Line is { } w ? $"As closely drawn, a full line of {Say.Number(w, 2)} mm would cover as much." : "",
        ];
        return new(
            "holds",
            $"{m.Name}: value {r.Value} of five, L* {Say.Number(r.Lightness)}{hatch}.{beside}",
            null,
            string.Join(' ', because.Where(b => b != ""))
        );
    }

    private static string Beside(AreaMeasures r, AreaMeasures other, string name)
    {
        var d = r.Lightness - other.Lightness;
        var tone =
            Math.Abs(d) < 3 ? $" One value with {name}" : $" {Say.Number(Math.Abs(d))} L* {(d < 0 ? "darker" : "lighter")} than {name}";
        var lines =
            r.Spacing is { } a && other.Spacing is { } b && Math.Abs(a - b) >= 0.2
                ? $", its lines {Say.Number(Math.Abs(a - b), 1)} mm {(a < b ? "closer" : "wider apart")}"
                : "";
        return $"{tone}{lines}.";
    }

    private static IEnumerable<(HandMark?, Note)> Edges(IReadOnlyList<HandMark> marks, bool inch)
    {
        var edges = marks.Where(m => m.IsEdge).ToList();
        var seen = edges.Where(m => m.OfReference).ToList();
        var drawn = edges.Where(m => !m.OfReference).ToList();
        for (var n = 0; n < drawn.Count; n++)
        {
            var other =
                n < seen.Count ? seen[n]
                : n > 0 ? drawn[0]
                : null;
            yield return (
                drawn[n],
                new(
                    "holds",
                    MarkedEdges.Words(
                        drawn[n].Name,
                        drawn[n].Edge,
                        other?.OfReference == true ? $"{other.Name} as it is seen" : other?.Name,
                        other?.Edge,
                        inch
                    )
                )
            );
        }
        foreach (var m in seen)
            yield return (m, new("person", MarkedEdges.Words($"{m.Name}, as it is seen", m.Edge, inch: inch)));
    }

    private static IEnumerable<(HandMark?, Note)> Families(IReadOnlyList<HandMark> marks)
    {
        var family = marks.Where(m => m is { Kind: MarkKind.Parallel, OfReference: false }).ToList();
        foreach (var (a, b) in family.Zip(family.Skip(1)))
        {
            var c = MarkedEdges.Converge(a.Edge, b.Edge);
            var shape = c switch
            {
                Convergence.Away => "holds",
                Convergence.Reversed => "outside",
                _ => "unknown",
            };
            yield return (null, new(shape, MarkedEdges.Words(a.Name, b.Name, c)));
        }
    }

    private static IEnumerable<(HandMark?, Note)> Shapes(IReadOnlyList<HandMark> marks, bool inch)
    {
        foreach (var kind in new[] { MarkKind.Shape, MarkKind.Ellipse })
        {
            var seen = marks.Where(m => m.Kind == kind && m.OfReference).ToList();
            var drawn = marks.Where(m => m.Kind == kind && !m.OfReference).ToList();
            for (var n = 0; n < drawn.Count; n++)
            {
                var m = drawn[n];
                var alone = kind == MarkKind.Ellipse ? m.Shape.AsEllipse(m.Name, inch) : Alone(m, inch);
                var beside = n < seen.Count ? " " + m.Shape.Against(m.Name, $"{seen[n].Name} as it is seen", seen[n].Shape) : "";
                yield return (m, new("holds", alone + beside));
            }
            foreach (var m in seen)
                yield return (
                    m,
                    new("person", kind == MarkKind.Ellipse ? m.Shape.AsEllipse($"{m.Name}, as it is seen", inch) : Alone(m, inch))
                );
        }
    }

    private static string Alone(HandMark m, bool inch)
    {
        var area = inch ? $"{Say.Number(m.Shape.Area / (25.4 * 25.4), 1)} in²" : $"{Say.Number(m.Shape.Area / 100, 1)} cm²";
        var runs = m.Shape.HasDirection ? $", runs {ClockAngle.SayTenths(ClockAngle.Hour(m.Shape.Degrees))} o’clock" : "";
        return $"{m.Name}{(m.OfReference ? ", as it is seen" : "")}: {area}{runs}.";
    }
}
