using System.Numerics;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Fitting;

/// <summary>The two clicks that a person would make, guessed from where the ink as a whole lies.</summary>
/// <param name="Apart">How far the drawing's shape lies from the view's, cells: the less the surer.</param>
public sealed record ClickProposal(Vec2 Crown, Vec2 Sole, double Apart)
{
    private const int Rounds = 12;

    /// <summary>Null where nothing is drawn.</summary>
    public static ClickProposal? From(InkForm form, FitReference reference)
    {
        if (Shape.Of(form) is not { } drawing)
            return null;
        var view = reference.Shape;
        float[][] far = drawing.Distances(),
            back = view.Distances();
        var best = ShapeMatch.Best(drawing, far, view, back);
        var lines = Apart(best.Scale, best.Shift);
        float grow = 0.04f,
            move = 2;
        for (var round = 0; round < Rounds; round++)
        {
            var better = false;
            foreach (var (s, x, y) in Ways)
            {
                var (scale, shift) = (best.Scale * (1 + (s * grow)), best.Shift + (new Vector2(x, y) * move));
                if (Apart(scale, shift) is var apart && apart < lines)
                    (lines, best, better) = (apart, best with { Scale = scale, Shift = shift }, true);
            }
            if (!better)
                (grow, move) = (grow / 2, move / 2);
        }
        return new(Laid(reference.Crown.At), Laid(reference.Sole.At), best.Apart);

        float Apart(float scale, Vector2 shift) => view.Apart(far, scale, shift, 300) + drawing.Apart(back, 1 / scale, -shift / scale, 300);

        Vec2 Laid(Vector2 p)
        {
            var at = drawing.FromCell(((view.ToCell(p) - Shape.Centre) * best.Scale) + Shape.Centre + best.Shift);
            return new(at.X, at.Y);
        }
    }

    private static readonly (int S, int X, int Y)[] Ways = [(1, 0, 0), (-1, 0, 0), (0, 1, 0), (0, -1, 0), (0, 0, 1), (0, 0, -1)];
}
