using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;

namespace MintHarbor.Core.Measuring;

/// <summary>What is measured on a drawn head. Heights are taken upright and count downwards; a head is crown of the skull to
/// chin. The eye line is the middle of the eye corners that are placed, or of the figure's eyes.</summary>
public sealed class HeadMeasures(LandmarkSet marks)
{
    private static readonly string[] Corners = ["eye-inner.L", "eye-inner.R", "eye-outer.L", "eye-outer.R"];

    private string[] Eyes =>
        Corners.Where(marks.Has).ToArray() is { Length: > 0 } placed ? placed
        : marks.Has("eye.L") || marks.Has("eye.R") ? [.. new[] { "eye.L", "eye.R" }.Where(marks.Has)]
        : ["eye-inner.L", "eye-inner.R"];

    /// <summary>The line between the lips, or the figure's mouth.</summary>
    private string Mouth => marks.Has("lip-slit") || !marks.Has("mouth") ? "lip-slit" : "mouth";

    private string Brow => marks.Has("brow") || !marks.Has("glabella") ? "brow" : "glabella";

    private static double Mean(Func<string, Vec2> at, string[] ids) => ids.Average(i => at(i).Y);

    private static double Head(Func<string, Vec2> at) => at("chin").Y - at("crown").Y;

    public Measure EyeLine()
    {
        var eyes = Eyes;
        return new(
            Rules.EyeLine,
            null,
            MeasureKind.Ratio,
            "head",
            ["crown", "chin", .. eyes],
            at => (Mean(at, eyes) - at("crown").Y) / Head(at),
            "crown to eye line ÷ crown to chin"
        )
        {
            At = eyes,
        };
    }

    /// <summary>Three shares: of the face (hairline to chin) in the classical school, of the head (crown to chin) in the other.</summary>
    public IReadOnlyList<Measure> Thirds(string top)
    {
        var brow = Brow;
        Measure Share(string name, string a, string b) =>
            new(
                Rules.Thirds,
                name,
                MeasureKind.Ratio,
                top == "crown" ? "head" : "face",
                [top, a, b, "chin"],
                at => (at(b).Y - at(a).Y) / (at("chin").Y - at(top).Y),
                $"{name} ÷ {top} to chin"
            );
        return
        [
            Share($"{top} to brow", top, brow),
            Share("brow to nose base", brow, "nosebase"),
            Share("nose base to chin", "nosebase", "chin"),
        ];
    }

    public Measure MouthLine()
    {
        var mouth = Mouth;
        return new(
            Rules.MouthLine,
            null,
            MeasureKind.Ratio,
            "span",
            ["nosebase", mouth, "chin"],
            at => (at(mouth).Y - at("nosebase").Y) / (at("chin").Y - at("nosebase").Y),
            "nose base to mouth ÷ nose base to chin"
        )
        {
            At = [mouth],
        };
    }

    private static double Eye(Func<string, Vec2> at) =>
        (Math.Abs(at("eye-outer.L").X - at("eye-inner.L").X) + Math.Abs(at("eye-outer.R").X - at("eye-inner.R").X)) / 2;

    public static IReadOnlyList<Measure> Breadths() => [Gap(), Across()];

    public static Measure Gap() =>
        new(
            Rules.Fives,
            Parts.Between,
            MeasureKind.Ratio,
            "eyes",
            Corners,
            at => Math.Abs(at("eye-inner.L").X - at("eye-inner.R").X) / Eye(at),
            "between the inner corners ÷ the mean breadth of both eyes"
        );

    public static Measure Across() =>
        new(
            Rules.Fives,
            Parts.Across,
            MeasureKind.Ratio,
            "eyes",
            [.. Corners, "head-side.L", "head-side.R"],
            at => Math.Abs(at("head-side.L").X - at("head-side.R").X) / Eye(at),
            "breadth of the head ÷ the mean breadth of both eyes"
        );

    /// <summary>How far outside a plumb a paired landmark stands, in eyes: positive away from the middle of the face.</summary>
    private static Measure Plumb(Rule rule, string part, string of, string from, string side)
    {
        string a = $"{from}.{side}",
            b = $"{of}.{side}",
            other = side == "L" ? "R" : "L";
        return new(
            rule,
            (side == "L" ? "left " : "right ") + part,
            MeasureKind.Offset,
            "eyes",
            [a, b, .. Corners],
            at => Math.Sign(at($"eye-outer.{side}").X - at($"eye-inner.{other}").X) * (at(b).X - at(a).X) / Eye(at),
            $"how far {LandmarkIds.Name(b)} stands outside the plumb from {LandmarkIds.Name(a)} ÷ eye"
        )
        {
            At = [b],
            Less = $"inside the plumb from the {PlainName(from)}",
            More = $"outside the plumb from the {PlainName(from)}",
        };
    }

    private static string PlainName(string id) => LandmarkIds.Name(id + ".L")["left ".Length..];

    public static IEnumerable<Measure> Nostrils() =>
        [Plumb(Rules.Nostril, "nose wing", "wing", "eye-inner", "R"), Plumb(Rules.Nostril, "nose wing", "wing", "eye-inner", "L")];

    /// <param name="from">"iris-inner", "pupil" or "wing", by school.</param>
    public static IEnumerable<Measure> MouthCorners(string from) =>
        [Plumb(Rules.Corner, "mouth corner", "mouth-corner", from, "R"), Plumb(Rules.Corner, "mouth corner", "mouth-corner", from, "L")];

    /// <summary>The ear's top may lie anywhere from brow to eye line; its base at the nose base.</summary>
    public IEnumerable<Measure> Ears()
    {
        var (eyes, brow) = (Eyes, Brow);
        foreach (var side in new[] { "R", "L" })
        {
            string top = $"ear-top.{side}",
                foot = $"ear-base.{side}",
                name = side == "L" ? "left" : "right";
            yield return new(
                Rules.Ear,
                new(Parts.EarTop, $"{name} ear's top"),
                MeasureKind.Offset,
                "head",
                [top, brow, .. eyes, "crown", "chin"],
                at => Outside(at(top).Y, at(brow).Y, Mean(at, eyes)) / Head(at),
                "how far the ear's top lies outside brow to eye line ÷ head"
            )
            {
                At = [top],
                Less = "above the brow",
                More = "below the eye line",
                Carries = at => Nearest(at(top).Y, at(brow).Y, Mean(at, eyes)) / Head(at),
            };
            yield return new(
                Rules.Ear,
                new(Parts.EarBase, $"{name} ear's base"),
                MeasureKind.Offset,
                "head",
                [foot, "nosebase", "crown", "chin"],
                at => (at(foot).Y - at("nosebase").Y) / Head(at),
                "how far the ear's base lies below the nose base ÷ head"
            )
            {
                At = [foot],
                Less = "above the nose base",
                More = "below the nose base",
            };
        }

        static double Nearest(double y, double upper, double lower) => Math.Abs(y - upper) < Math.Abs(y - lower) ? y - upper : y - lower;
        static double Outside(double y, double upper, double lower) =>
            y < upper ? y - upper
            : y > lower ? y - lower
            : 0;
    }

    public static Measure Neck() =>
        new(
            Rules.Neck,
            null,
            MeasureKind.Ratio,
            "ratio",
            ["neck-side.L", "neck-side.R", "jaw-angle.L", "jaw-angle.R"],
            at => Math.Abs(at("neck-side.L").X - at("neck-side.R").X) / Math.Abs(at("jaw-angle.L").X - at("jaw-angle.R").X),
            "breadth of the neck ÷ breadth of the jaw"
        );
}

/// <summary>A pair of features with the midline point between them, and how deep the pair lies behind that point.</summary>
/// <param name="Relief">k = depth ÷ half breadth, on the classical studio head.</param>
/// <param name="Varies">How much k differs from sitter to sitter, 1 σ.</param>
public sealed record TurnPair(string Name, string Side, string[] Middle, double Relief, double Varies);

/// <summary>How far a head is turned, from far and near share. Parallel view: from six head heights pairs over-read the turn by
/// about 2° at 20°.</summary>
public static class HeadTurn
{
    /// <summary>Half breadth and half depth of the head at the eye line, as shares of its height, measured on the studio head.</summary>
    public const double HalfBreadth = 0.328,
        HalfDepth = 0.438;

    // Reliefs of eyes, wings and mouth measured on the studio head and its sitters; chin from its table of places.
    public static readonly IReadOnlyList<TurnPair> Pairs =
    [
        new("eyes", "eye-outer", ["nose-root", "glabella"], 0.47, 0.03),
        new("nose", "wing", ["nosetip"], 0.89, 0.12),
        new("mouth", "mouth-corner", ["lip-slit", "mouth"], 0.37, 0.03),
    ];

    /// <summary>Far share of a pair at a turn: (1 − k·tan t)/2, exact at any tilt.</summary>
    public static double FarShare(double relief, double turnDegrees) => (1 - (relief * Math.Tan(turnDegrees * Math.PI / 180))) / 2;

    /// <summary>Turn in degrees from a pair's far share, 0 to 0.5 (below 0 when the far feature has passed behind the middle).</summary>
    public static double OfFarShare(double relief, double farShare) => Math.Atan((1 - (2 * farShare)) / relief) * 180 / Math.PI;

    /// <summary>Far share of the whole head for an ellipse of half breadth b and half depth c, midline at its front:
    /// (1 − c·sin t/√(b²cos²t + c²sin²t))/2. Serves to 55° within 1.3° with c/b of 1.33 to 1.36.</summary>
    public static double FarShareOfEllipse(double b, double c, double turnDegrees)
    {
        var (sin, cos) = Math.SinCos(turnDegrees * Math.PI / 180);
        return (1 - (c * sin / Math.Sqrt((b * b * cos * cos) + (c * c * sin * sin)))) / 2;
    }

    /// <summary>Turn in degrees from the head's far share; the inverse of the ellipse, in closed form.</summary>
    public static double OfEllipse(double b, double c, double farShare)
    {
        // s = 1 − 2·share = c·sin/√(b²cos²+c²sin²)  ⇒  tan t = (b/c)·s/√(1−s²)
        var s = Math.Clamp(1 - (2 * farShare), -1, 1);
        return Math.Atan2(b * s, c * Math.Sqrt(1 - (s * s))) * 180 / Math.PI;
    }

    /// <summary>The turn a pair tells, positive where the face looks to picture right. The midline point is compared with the
    /// middle of the pair: ((x₁+x₂)/2 → x_mid) ÷ half breadth = k·tan t.</summary>
    public static Measure Of(TurnPair pair, LandmarkSet marks)
    {
        string l = $"{pair.Side}.L",
            r = $"{pair.Side}.R",
            mid = pair.Middle.FirstOrDefault(marks.Has) ?? pair.Middle[0];
        return new(
            Rules.Turn,
            pair.Name,
            MeasureKind.Angle,
            "deg",
            [l, r, mid],
            at =>
            {
                var half = Math.Abs(at(l).X - at(r).X) / 2;
                return Math.Atan((at(mid).X - ((at(l).X + at(r).X) / 2)) / half / pair.Relief) * 180 / Math.PI;
            },
            $"arctan of the midline's way from the middle of both sides ÷ half their breadth ÷ {Say.Number(pair.Relief, 2)}"
        );
    }

    /// <summary>The turn the head's own outline tells, by the ellipse.</summary>
    public static Measure OfOutline(LandmarkSet marks)
    {
        var mid = marks.Has("nose-root") || !marks.Has("glabella") ? "nose-root" : "glabella";
        return new(
            Rules.Turn,
            "outline",
            MeasureKind.Angle,
            "deg",
            ["head-side.L", "head-side.R", mid],
            at =>
            {
                double a = Math.Min(at("head-side.L").X, at("head-side.R").X),
                    b = Math.Max(at("head-side.L").X, at("head-side.R").X);
                // Face to picture right: the share right of the midline is the far one.
                return OfEllipse(HalfBreadth, HalfDepth, (b - at(mid).X) / (b - a));
            },
            $"the ellipse of half breadth {HalfBreadth} and half depth {HalfDepth} whose midline divides the outline so"
        );
    }
}
