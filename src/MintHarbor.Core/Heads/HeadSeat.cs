using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Heads;

/// <summary>How a drawn head is turned, as its own marks tell it, and where the studio head lies over it.</summary>
/// <param name="Laid">From pixels of the head's view to the sheet.</param>
public sealed record HeadSeat(HeadPose Pose, Similarity Laid, IReadOnlyList<(Vec2 Seen, Vec2 Drawn)> Marks)
{
    /// <summary>Marks in common below which nothing is told.</summary>
    public const int Least = 5;

    private const int MostTurn = 90,
        MostTilt = 20,
        Step = 5;

    /// <summary>Turn and tilt at which the head's marks lie best over the drawn ones, to 5°. Marks that the head hides are left out, and a
    /// turn that hides more is worth less.</summary>
    /// <param name="drawn">Landmarks on the sheet, mm.</param>
    /// <returns>Null with fewer than <see cref="Least"/> in common.</returns>
    public static HeadSeat? Of(HeadModel model, IReadOnlyDictionary<string, Vec2> drawn, int width = 480, int height = 600)
    {
        var marks = model.Landmarks.Where(l => drawn.ContainsKey(l.Id)).ToList();
        if (marks.Count < Least)
            return null;
        HeadSeat? best = null;
        var least = double.MaxValue;
        for (var turn = -MostTurn; turn <= MostTurn; turn += Step)
        for (var tilt = -MostTilt; tilt <= MostTilt; tilt += Step)
        {
            var pose = new HeadPose(turn, tilt);
            var rotation = pose.Rotation;
            var pairs = marks
                .Where(l => Vector3.TransformNormal(l.Normal, rotation).Z > -0.1f || HeadCatalogue.Landmark(l.Id).UnderHair)
                .Select(l => (Seen: StudioHead.OnPicture(rotation, l.Place, width, height), Drawn: drawn[l.Id]))
                .ToList();
            if (pairs.Count < Least || Similarity.Fit(pairs) is not { } fit || Math.Abs(fit.TurnDegrees) > 45)
                continue;
            // A head that looks straight is the likelier one of two that fit alike.
            var cost =
                fit.Residual / fit.Scale * Math.Sqrt((double)marks.Count / pairs.Count) * (1 + (0.002 * (Math.Abs(turn) + Math.Abs(tilt))));
            if (cost < least)
                (least, best) = (cost, new(pose, fit, pairs));
        }
        return best;
    }
}
