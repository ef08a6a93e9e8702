using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Canons;

/// <summary>A figure, or a head, built by a canon's own numbers alone: seen level from the front, in millimetres. What a canon doesn't say
/// comes from measured adults (Drillis and Contini 1966 as reproduced in Winter, Biomechanics and Motor Control of Human Movement; values from
/// memory) or from common practice.</summary>
public static class CanonRecipe
{
    /// <summary>Heights of figure and head.</summary>
    private const double Figure = 540,
        HeadHeight = 200;

    /// <summary>Rules whose number the recipe builds by; of the others it can only be asked whether they hold with the rest.</summary>
    public static IReadOnlySet<string> Builds { get; } =
        new HashSet<string>
        {
            "F-heads",
            "F-mid",
            "F-shoulder",
            "F-hand",
            "F-arm",
            "H-eye",
            "H-thirds",
            "H-mouth",
            "H-fives",
            "H-nostril",
            "H-corner",
            "H-neck",
        };

    /// <returns>Landmarks by id.</returns>
    public static IReadOnlyDictionary<string, Vec2> Of(Canon canon) => canon.Subject == "head" ? OfHead(canon) : OfFigure(canon);

    private static Dictionary<string, Vec2> OfFigure(Canon canon)
    {
        var m = new Dictionary<string, Vec2>();
        void Mid(string id, double down) => m[id] = new(0, down);
        void Pair(string id, double half, double down) => (m[id + ".R"], m[id + ".L"]) = (new(-half, down), new(half, down));
        double At(double height) => (1 - height) * Figure;
        var head = Figure / (canon.Rule("F-heads")?.Expected ?? 7.5);
        var hand = 0.108 * Figure;
        double elbow = At(0.630),
            wrist = At(0.485);
        if (canon.Rule("F-arm") is { Parts: { } arm })
        {
            // From the hand up, hung from the shoulder: a school says ratios and no length.
            hand = 0.100 * Figure;
            var fore = hand * arm["forearm : hand"];
            elbow = At(0.818) + (fore * arm["upper arm : forearm"]);
            wrist = elbow + fore;
        }
        Mid("crown", 0);
        Mid("chin", head);
        Mid("hairline", head - (hand / (canon.Rule("F-hand")?.Expected ?? 1)));
        Mid("pit", At(0.818));
        Mid("pubic", (canon.Rule("F-mid")?.Expected ?? 0.5) * Figure);
        Mid("crotch", At(0.47));
        Pair("acromion", 0.125 * Figure, At(0.818));
        Pair("deltoid", (canon.Rule("F-shoulder")?.Expected ?? 2) * head / 2, At(0.79));
        Pair("elbow", 0.13 * Figure, elbow);
        Pair("ribarch", 0.06 * Figure, At(0.630));
        Pair("wrist", 0.13 * Figure, wrist);
        Pair("fingertip", 0.13 * Figure, wrist + hand);
        Pair("asis", 0.07 * Figure, At(0.55));
        Pair("iliac", 0.085 * Figure, At(0.6));
        Pair("kneetop", 0.06 * Figure, At(0.30));
        Pair("ankleout", 0.06 * Figure, At(0.039));
        Pair("sole", 0.05 * Figure, Figure);
        Pair("toe", 0.06 * Figure, Figure);
        return m;
    }

    private static Dictionary<string, Vec2> OfHead(Canon canon)
    {
        var m = new Dictionary<string, Vec2>();
        void Mid(string id, double down) => m[id] = new(0, down);
        void Pair(string id, double half, double down) => (m[id + ".R"], m[id + ".L"]) = (new(-half, down), new(half, down));
        double Says(string rule, double otherwise) => canon.Rule(rule)?.Expected ?? otherwise;
        var eyes = Says("H-eye", 0.5) * HeadHeight;
        // Hair begins a sixth down, where the school doesn't measure from the crown.
        var top = canon.Rule("H-thirds")?.From == "crown" ? 0 : HeadHeight / 6;
        var third = Says("H-thirds", 1 / 3.0) * (HeadHeight - top);
        var (nose, brow) = (HeadHeight - third, HeadHeight - (2 * third));
        var mouth = nose + (Says("H-mouth", 1 / 3.0) * third);
        var fives = canon.Rule("H-fives")?.Parts;
        var eye = HeadHeight / 7;
        var gap = (fives?.GetValueOrDefault(Parts.Between, 1) ?? 1) * eye;
        var breadth = (fives?.GetValueOrDefault(Parts.Across, 5) ?? 5) * eye;
        var jaw = 0.42 * breadth;
        Mid("crown", 0);
        Mid("chin", HeadHeight);
        Mid("hairline", HeadHeight / 6);
        Mid("brow", brow);
        Mid("nosebase", nose);
        Mid("lip-slit", mouth);
        Pair("eye-inner", gap / 2, eyes);
        Pair("eye-outer", (gap / 2) + eye, eyes);
        Pair("pupil", (gap + eye) / 2, eyes);
        Pair("iris-inner", (gap / 2) + (0.3 * eye), eyes);
        Pair("wing", (gap / 2) + (Says("H-nostril", 0) * eye), nose);
        var from = canon.Rule("H-corner")?.From ?? "iris-inner";
        Pair("mouth-corner", m[$"{from}.L"].X + (Says("H-corner", 0) * eye), mouth);
        Pair("head-side", breadth / 2, eyes);
        Pair("ear-top", breadth / 2, eyes);
        Pair("ear-base", breadth / 2, nose);
        Pair("jaw-angle", jaw, mouth);
        Pair("neck-side", Says("H-neck", 0.9) * jaw, HeadHeight * 1.1);
        return m;
    }
}
