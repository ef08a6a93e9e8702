using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Landmarks;

/// <summary>Where a school has a head's landmarks: what a head is constructed from.</summary>
public static class LandmarkProposal
{
    // The classical studio head, seen from the front: x from the axis (the sitter's left positive), y down from the crown, in
    // heads, and how far each place stands before or behind the axis, so that it can be turned.
    private static readonly (string Id, double X, double Y, double Z)[] Classical =
    [
        ("hairline", 0, 0.145, 0.35),
        ("brow", 0, 0.43, 0.40),
        ("nose-root", 0, 0.47, 0.375),
        ("nosetip", 0, 0.685, 0.47),
        ("nosebase", 0, 0.715, 0.42),
        ("lip-slit", 0, 0.81, 0.40),
        ("eye-inner", 0.065, 0.505, 0.31),
        ("eye-outer", 0.195, 0.498, 0.28),
        ("iris-inner", 0.1055, 0.497, 0.34),
        ("pupil", 0.132, 0.497, 0.345),
        ("wing", 0.065, 0.696, 0.41),
        ("mouth-corner", 0.1055, 0.811, 0.36),
        ("ear-top", 0.335, 0.435, -0.06),
        ("ear-base", 0.325, 0.715, -0.04),
        ("head-side", 0.325, 0.5, -0.02),
        ("jaw-angle", 0.2545, 0.815, 0.02),
        ("neck-side", 0.229, 1.05, -0.08),
    ];

    /// <summary>A head's landmarks between crown and chin by the school's levels; a three-quarter view is turned by 30° to the right.</summary>
    public static IReadOnlyDictionary<string, Vec2> Head(Vec2 crown, Vec2 chin, bool beginner, string view)
    {
        var result = new Dictionary<string, Vec2>();
        var axis = chin - crown;
        if (axis.Y <= 0 || view is "profile" or "back")
            return result;
        var (sin, cos) = Math.SinCos(view == "three-quarter" ? Math.PI / 6 : 0);
        foreach (var (id, x, y, z) in Classical)
        {
            foreach (var side in x == 0 ? new[] { "" } : [".R", ".L"])
            {
                var across = ((side == ".R" ? -x : x) * cos) + (z * sin);
                // The beginners' levels: brow a third down, nose base two thirds, mouth half way from there to the chin.
                var level = beginner
                    ? id switch
                    {
                        "hairline" => 0.111,
                        "brow" => 0.333,
                        "nosebase" => 0.667,
                        "nosetip" => 0.64,
                        "wing" => 0.65,
                        "lip-slit" or "mouth-corner" => 0.833,
                        "ear-base" => 0.667,
                        _ => y,
                    }
                    : y;
                var across0 = view == "three-quarter" ? across - 0.14 : across;
                result[id + side] = new(
                    Math.Round(crown.X + (axis.X * level) + (across0 * axis.Y), 1),
                    Math.Round(crown.Y + (axis.Y * level), 1)
                );
            }
        }
        return result;
    }
}
