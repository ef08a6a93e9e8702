using System.Globalization;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Sheets;
using MintHarbor.Store.Model;

namespace MintHarbor.Store.Fitting;

/// <summary>A view that a sheet may have been drawn from.</summary>
/// <param name="Choice">As it is kept; <paramref name="Pose"/> the pose itself.</param>
/// <param name="Certain">Somebody chose it: no other is tried.</param>
public sealed record FitView(ReferenceChoice Choice, Pose Pose, bool Certain);

/// <summary>What a sheet's fit is worked out from.</summary>
/// <param name="Of">Names all of it.</param>
/// <param name="Sheet">Names the flat sheet and the view asked for: what stays when a mark is placed.</param>
/// <param name="View">Null where nobody knows it.</param>
public sealed record FitAsked(
    string Of,
    string Sheet,
    string Subject,
    string HeadView,
    string HeadCanon,
    bool Tilted,
    bool Clothed,
    FitView? View,
    IReadOnlyDictionary<string, Vec2> Placed
);

/// <summary>Fits sheets: makes the views, reads the ink, and keeps what the last few sheets need, so that a mark that is placed costs only its own
/// steps. It shares nothing with the views that are looked at.</summary>
public sealed class SheetFitter
{
    /// <summary>Sheets whose maps and search are kept; one takes about 60 MB.</summary>
    private const int Kept = 3;

    private const double GoodEnough = 0.5;

    /// <summary>Turns that a head in three-quarter view is tried in, and tilts that a tilted one is, degrees.</summary>
    private static readonly double[] Turns = [20, 32, 45, -20, -32, -45],
        Tilts = [-18, -9, 9, 18];

    /// <summary>One sheet is read at a time, for views and maps are large; what lies ready is kept under its own lock, so that whoever places a
    /// mark never waits for another sheet's reading.</summary>
    private readonly Lock reading = new(),
        shelf = new();

    private readonly StudioFigure studio = new(24L << 20);
    private readonly StudioHead heads = new(StudioHead.Coarse, 2);
    private readonly LinkedList<Ready> recent = new();

    /// <summary>A sheet whose marks can be fitted again; one at a time, for the steps write into its arrays.</summary>
    private sealed record Ready(string Sheet, Tried Tried, ReferenceChoice? View, IReadOnlyList<FoundPose> Poses)
    {
        private readonly Lock one = new();

        /// <summary>Whether what lay nowhere is worth reading anew: crown and foot, or chin, are placed where they weren't.</summary>
        public bool AnewBy(FitAsked asked) => Tried.Result.Why != NoFit.None && Clicks(asked) is { } clicks && clicks != Tried.Clicked;

        public FitState Run(FitAsked asked)
        {
            lock (one)
                return State(asked, Tried.Fit.Run(asked.Placed), View, Poses);
        }
    }

    /// <param name="Clicked">Crown and foot, or chin, that it was laid by; null where the ink alone told.</param>
    private sealed record Tried(MarkFit Fit, FitResult Result, (Vec2 Crown, Vec2 Lower)? Clicked = null);

    /// <summary>Fits again with the marks as they are placed now, where the sheet was fitted just before; null where it must be read anew.</summary>
    public FitState? Again(FitAsked asked)
    {
        Ready? ready;
        lock (shelf)
        {
            ready = recent.FirstOrDefault(r => r.Sheet == asked.Sheet);
            if (ready is null || ready.AnewBy(asked))
                return null;
            recent.Remove(ready);
            recent.AddFirst(ready);
        }
        return ready.Run(asked);
    }

    public FitState Fit(FitAsked asked, InkReading ink)
    {
        (Ready? Ready, FitResult Result) made;
        lock (reading)
            made = asked.Subject == "head" ? Head(asked, ink) : Figure(asked, ink);
        if (made.Ready is { } ready)
            Keep(ready);
        return State(asked, made.Result, made.Ready?.View, made.Ready?.Poses ?? []);
    }

    private void Keep(Ready ready)
    {
        lock (shelf)
        {
            if (recent.FirstOrDefault(r => r.Sheet == ready.Sheet) is { } older)
                recent.Remove(older);
            recent.AddFirst(ready);
            while (recent.Count > Kept)
                recent.RemoveLast();
        }
    }

    /// <summary>Of what was fitted the marks of the bench that the view shows, and the figure's ends, which everybody marks.</summary>
    private static FitState State(FitAsked asked, FitResult fit, ReferenceChoice? view, IReadOnlyList<FoundPose> poses)
    {
        var bench = LandmarkIds.OrderOf(asked.Subject);
        var marks = bench
            .Where(id => fit.Marks.TryGetValue(id, out var m) && (m.Seen || Ends.Contains(id)))
            .Select(id => fit.Marks[id])
            .ToDictionary(m => m.Id, m => m with { At = new(Math.Round(m.At.X, 2), Math.Round(m.At.Y, 2)) });
        return new(asked.Of, fit.Why, marks, view, poses);
    }

    private static readonly string[] Ends = ["crown", "chin", "sole.L", "sole.R"];

    private (Ready?, FitResult) Figure(FitAsked asked, InkReading ink)
    {
        if (asked.View is { } known)
        {
            var tried = With(asked, ink, Reference(known.Choice, known.Pose, asked.Clothed));
            if (known.Certain || tried.Result is { Why: NoFit.None, Cost: < GoodEnough } || ink.Nothing != NoFit.None)
                return (new(asked.Sheet, tried, known.Choice, []), tried.Result);
        }
        if (ink.Nothing != NoFit.None || PoseFinder.Find(ink.Form) is not { Count: > 0 } found)
            return (null, FitResult.Nothing(ink.Nothing == NoFit.None ? NoFit.Blank : ink.Nothing));
        var best = Sharpened(found[0], ink, asked.Clothed);
        var told = With(asked, ink, Reference(best, FigureCatalogue.Pose(best.Pose), asked.Clothed));
        return (new(asked.Sheet, told, best, [.. found.Take(3)]), told.Result);
    }

    /// <summary>Sides are told in steps; half a step to either side may lie nearer.</summary>
    private ReferenceChoice Sharpened(FoundPose found, InkReading ink, bool clothed)
    {
        ReferenceChoice At(double azimuth) => new(found.Pose, "male", found.Mirrored, Math.IEEERemainder(azimuth, 360), 3.2, 1.5);
        return new[] { 0, -11.25, 11.25 }
            .Select(by => At(found.Azimuth + by))
            .MinBy(c => ClickProposal.From(ink.Form, Reference(c, FigureCatalogue.Pose(c.Pose), clothed))?.Apart ?? double.MaxValue)!;
    }

    private FitReference Reference(ReferenceChoice c, Pose pose, bool clothed) =>
        FitReferences.Of(
            studio.Model(c.Body, c.Mirrored ? pose.Mirrored() : pose, Drapery.For(clothed, clothed), StudioFigure.Coarse),
            new Seat(c.Azimuth, c.Distance, c.EyeHeight)
        );

    private (Ready?, FitResult) Head(FitAsked asked, InkReading ink)
    {
        if (ink.Nothing != NoFit.None)
            return (null, FitResult.Nothing(ink.Nothing));
        double[] turns = asked.HeadView switch
        {
            "front" => [0],
            "profile" => [88, -88],
            "back" => [180],
            _ => Turns,
        };
        double[] tilts = asked.Tilted ? Tilts : [0];
        var views = turns.SelectMany(turn => tilts.Select(tilt => new HeadPose(turn, tilt))).ToList();
        FitReference At(HeadPose pose) => FitReferences.Of(heads.Model(canon: asked.HeadCanon), pose);
        var reference =
            views.Count == 1 ? At(views[0]) : views.Select(At).MinBy(r => ClickProposal.From(ink.Form, r)?.Apart ?? double.MaxValue)!;
        var tried = With(asked, ink, reference);
        return (new(asked.Sheet, tried, null, []), tried.Result);
    }

    /// <summary>From the ink alone; where that lies nowhere, from crown and foot, or chin, that somebody placed.</summary>
    private static Tried With(FitAsked asked, InkReading ink, FitReference reference)
    {
        var blind = new MarkFit(ink, reference);
        var result = blind.Run(asked.Placed);
        if (result.Why == NoFit.None || Clicks(asked) is not { } clicks)
            return new(blind, result);
        var clicked = new MarkFit(ink, reference, clicks.Crown, clicks.Lower);
        return new(clicked, clicked.Run(asked.Placed), clicks);
    }

    /// <summary>Crown and the lowest of the foot, or the chin, where both are placed and far enough apart to lay a view by.</summary>
    private static (Vec2 Crown, Vec2 Lower)? Clicks(FitAsked asked)
    {
        var foot = asked.Placed.Where(p => IsLower(asked.Subject, p.Key)).Select(p => (Vec2?)p.Value).MaxBy(p => p!.Value.Y);
        return asked.Placed.TryGetValue("crown", out var crown) && foot is { } lower && (lower - crown).Length >= MarkFit.Shortest
            ? (crown, lower)
            : null;
    }

    private static bool IsLower(string subject, string id) =>
        subject == "head" ? id == "chin" : id.Split('.')[0] is "sole" or "heel" or "toe" or "ball";
}
