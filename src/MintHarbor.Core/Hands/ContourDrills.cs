using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Hands;

/// <summary>Blind contour: the eye travels the edge, the hand keeps its pace, the line is hidden until the end. What is read is how it was done, never
/// likeness.</summary>
/// <param name="strict">No look and no lift; else a glance to find one's place again, and lifts.</param>
public sealed class BlindContour(bool strict) : SeenDrill
{
    /// <summary>Share of the edge that is to be followed, per cent; glances and lifts that still are a blind contour. Our own defaults.</summary>
    private const double LeastCovered = 70;
    private const int MostGlances = 6,
        MostLifts = 8;

    /// <summary>Length that counts is of what was meant: shakes smaller than this are none of it, as a share of the size.</summary>
    private const double Shake = 0.012;

    public override string Kind => strict ? "blind-strict" : "blind-free";
    public override string Name => strict ? "Blind contour, strict" : "Blind contour, free";
    public override string About =>
        strict ? "follow the edge with the eye; no look, no lift" : "follow the edge; a glance to find your place again";
    public override string How =>
        strict
            ? "Put the point down, look at the edge, and don't look away until you have been all round it. Inside the form too."
            : "Let the eye lead and the hand follow; glance only to set the point down again. Press for the darks.";
    public override string Unit => " mm a second";
    public override int Length => 2;
    public override int Minutes => strict ? 3 : 4;
    protected override string Asks =>
        strict ? "Follow the edge, without a look and without a lift." : "Follow the edge; look only to set down again.";
    protected override bool WithThings => true;
    protected override (double Easy, double Hard) Width => (10, 4);
    public override TraceSight Sight => strict ? TraceSight.Hidden : TraceSight.Glances;
    public override bool OneGo => strict;

    public override string SayError(double error) => $"{Say.Number(error, 1)} mm a second";

    protected override HandReading Reading(DrillItem item, PenTrace trace, double allowed)
    {
        var (lines, outline) = (trace.Lines, Outline(item));
        var (drawn, shown) = (Area.Round(lines.SelectMany(l => l)), Area.Round(outline.SelectMany(o => o)));
        var size = Math.Max(1e-6, drawn.Diagonal / shown.Diagonal);
        var followed = lines.Sum(l => PathDistance.Length(Thin.Path([.. l], Shake * drawn.Diagonal)));
        var edge = outline.Sum(o => PathDistance.Length(Thin.Path([.. o], Shake * shown.Diagonal)));
        var covered = Math.Min(999, 100 * followed / size / Math.Max(1, edge));
        var pace = Pace.Of(trace);
        var slow = pace.Mean <= allowed;
        List<HandFact> facts =
        [
            new(HandMeasures.Pace, pace.Mean, 0, slow),
            new(HandMeasures.Raced, pace.Raced),
            new(HandMeasures.Covered, covered, 10, covered + 10 >= LeastCovered),
            new(HandMeasures.Lifts, trace.Lifts, 0, trace.Lifts <= (strict ? 0 : MostLifts)),
        ];
        if (!strict)
            facts.Add(new(HandMeasures.Glances, trace.Glances, 0, trace.Glances <= MostGlances));
        if (trace.Tilt is { } tilt)
            facts.Add(new(HandMeasures.Tilt, tilt, 5));
        return new(pace.Mean, 0, facts.All(f => f.Holds != false), facts, []);
    }
}

/// <summary>How fast a line was drawn.</summary>
/// <param name="Mean">Millimetres a second with the point down.</param>
/// <param name="Raced">Share of its length, per cent, at more than twice the middle pace.</param>
internal sealed record Pace(double Mean, double Raced)
{
    /// <summary>Places are taken together until they lie so far apart in time: single samples jump.</summary>
    private const double Window = 250;

    public static Pace Of(PenTrace trace)
    {
        var runs = trace.Strokes.SelectMany(Runs).Where(r => r.Ms > 0).ToList();
        var length = trace.Lines.Sum(PathDistance.Length) * trace.Mm;
        if (trace.Seconds <= 0 || runs.Count == 0)
            return new(length, 0);
        var middle = Samples.Quantile(runs.SelectMany(r => Enumerable.Repeat(r.Mm / r.Ms, 1 + (int)(r.Ms / Window))), 0.5);
        var all = runs.Sum(r => r.Mm);
        return new(length / trace.Seconds, all <= 0 ? 0 : 100 * runs.Where(r => r.Mm / r.Ms > 2 * middle).Sum(r => r.Mm) / all);

        IEnumerable<(double Mm, double Ms)> Runs(IReadOnlyList<PenPlace> s)
        {
            double mm = 0,
                since = s[0].Ms;
            for (var i = 1; i < s.Count; i++)
            {
                mm += (s[i].At - s[i - 1].At).Length * trace.Mm;
                if (s[i].Ms - since < Window && i + 1 < s.Count)
                    continue;
                yield return (mm, s[i].Ms - since);
                (mm, since) = (0, s[i].Ms);
            }
        }
    }
}

/// <summary>A drawing of the outline that is compared with it: laid over it, larger or smaller, never turned.</summary>
public abstract class LikenessDrill : SeenDrill
{
    public override string Unit => " % of the height";
    public override int Minutes => 3;

    public override string SayError(double error) => $"{Say.Number(error, 1)} % of the height off";

    public override string SayWidth(double width) => $"{Say.Number(width, 1)} %";

    /// <summary>Whether what is drawn beside the outline counts: a line that crosses the form to go on elsewhere doesn't.</summary>
    protected virtual bool StrayingCounts => true;

    protected virtual bool AlsoAsked(PenTrace trace) => true;

    protected override HandReading Reading(DrillItem item, PenTrace trace, double allowed)
    {
        var outline = Outline(item);
        var lines = trace.Lines;
        var (drawn, shown) = (Area.Round(lines.SelectMany(l => l)), Area.Round(outline.SelectMany(o => o)));
        if (Math.Min(drawn.Width, drawn.Height) * trace.Mm < 5)
            throw new InputException(
                $"a drawing {Say.Number(drawn.Width * trace.Mm)} by {Say.Number(drawn.Height * trace.Mm)} mm",
                "trace",
                "the whole figure"
            );
        var over = LaidOver.Of(outline, lines, scaled: true);
        var percent = 100 / shown.Height;
        var doubt = trace.DoubtUnits / over.Scale * percent;
        var off = (StrayingCounts ? over.Mean : over.Missed.Average()) * percent;
        var worst = (StrayingCounts ? over.Worst : Samples.Quantile(over.Missed, 0.95)) * percent;
        var near = Within(off, allowed, MeanOfDoubt * doubt);
        var asked = AlsoAsked(trace);
        return new(
            off,
            MeanOfDoubt * doubt,
            near && asked,
            [
                new(HandMeasures.Off, off, MeanOfDoubt * doubt, near),
                new(HandMeasures.Worst, worst, doubt),
                Proportion(drawn, shown, trace),
                new(HandMeasures.Lifts, trace.Lifts, 0, OneGo ? asked : null),
                new(HandMeasures.Pace, Pace.Of(trace).Mean),
            ],
            Laid(over, outline)
        );
    }
}

/// <summary>Contour with a look: slow, the eye to and fro.</summary>
public sealed class ContourWithLook : LikenessDrill
{
    public override string Kind => "contour-look";
    public override string Name => "Contour with a look";
    public override string About => "the outline as you see it, the eye to and fro";
    public override string How => "Half of the time on the figure. Slow; don't draw what you haven't just looked at.";
    protected override string Asks => "Draw the outline of the figure.";
    protected override (double Easy, double Hard) Width => (4, 1.3);
}

/// <summary>Continuous line: one line that crosses or retraces the form to go on.</summary>
public sealed class ContinuousLine : LikenessDrill
{
    public override string Kind => "continuous-line";
    public override string Name => "Continuous line";
    public override string About => "the whole figure in one line that is never lifted";
    public override string How => "Where an edge ends, go back along it or across the form to the next: that is what this drill trains.";
    protected override string Asks => "The whole figure in one line.";
    public override int Length => 2;
    public override bool OneGo => true;
    protected override (double Easy, double Hard) Width => (4, 1.3);
    protected override bool StrayingCounts => false;

    protected override bool AlsoAsked(PenTrace trace) => trace.Lifts == 0;
}

/// <summary>Looked at for ten seconds, then drawn without it.</summary>
public sealed class FromMemory : LikenessDrill
{
    public override string Kind => "memory";
    public override string Name => "From memory";
    public override string About => "ten seconds to look, then draw without it";
    public override string How => "In the ten seconds: the line it hangs on, then how near hand is to knee, then its outer shape.";
    protected override string Asks => "The pose as you remember it: its outline.";
    public override int? LookSeconds => 10;
    protected override (double Easy, double Hard) Width => (6.5, 2.2);
}
