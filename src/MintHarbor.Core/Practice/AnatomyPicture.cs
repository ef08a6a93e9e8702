using System.Globalization;
using System.Text;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;

namespace MintHarbor.Core.Practice;

/// <summary>Draws a task of anatomy in line, where no page lays its pictures together.</summary>
internal static class AnatomyPicture
{
    private const int Card = 200;

    private static readonly StudioFigure Figures = new(48L << 20);
    private static readonly StudioHead Heads = new(StudioHead.Coarse, 4);

    public static string Svg(DrillItem item) =>
        item.Anatomy!.Ask is AnatomyAsk.BodyMistake or AnatomyAsk.HeadMistake ? Pair(item) : OnFigure(item, item.Anatomy);

    /// <summary>Both drawings of a check beside one another, without what tells which is wrong.</summary>
    private static string Pair(DrillItem item)
    {
        var s = new StringBuilder($"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {2 * Card} {Card}\">");
        for (var n = 0; n < 2; n++)
        {
            var drawing = Drawing(item.Anatomy!, n == (int)item.Truth.Value).Unmarked.ToSvg(null);
            s.Append($"<svg x=\"{n * Card}\" width=\"{Card}\" height=\"{Card}\"").Append(drawing.AsSpan("<svg".Length));
        }
        return s.Append("</svg>").ToString();
    }

    private static CheckDrawing Drawing(AnatomyTask task, bool wrong)
    {
        var on = CheckOn.Read(task.Of);
        return on.Check is BodyCheck body
            ? BodyChecks.Draw(Model(task, false), body, on.Side, AnatomySeen.Seat(task.At), wrong, Card, task.By)
            : HeadChecks.Draw(
                Heads,
                HeadLevels.Of(Canons.CanonTable.Get("classical-head")),
                (HeadCheck)on.Check,
                on.Side,
                new(task.At),
                wrong,
                Card,
                task.By
            );
    }

    private static FigureModel Model(AnatomyTask task, bool clothed) =>
        Figures.Model(AnatomySeen.Body, FigureCatalogue.Pose(task.Pose), Drapery.For(false, clothed), StudioFigure.Coarse);

    private static string OnFigure(DrillItem item, AnatomyTask task)
    {
        var kind = task.Ask switch
        {
            AnatomyAsk.BoneName => FigureViewKind.Bones,
            AnatomyAsk.MuscleName => FigureViewKind.Muscles,
            _ => FigureViewKind.Line,
        };
        var view = StudioFigure.View(Model(task, false), AnatomySeen.Seat(task.At), kind, AnatomySeen.Width, AnatomySeen.Height);
        var s = new StringBuilder(
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {AnatomySeen.Width} {AnatomySeen.Height}\" class=\"drill-picture\">"
        );
        if (kind == FigureViewKind.Line)
            s.Append($"<path class=\"fill-graphite\" d=\"{Curves.Ribbons(view.Strokes)}\"/>");
        foreach (var layer in view.Layers)
            s.Append($"<path fill=\"{layer.Ink}\" d=\"{layer.Path()}\"/>");
        if (task.Ask != AnatomyAsk.Place)
            s.Append(
                CultureInfo.InvariantCulture,
                $"<circle class=\"drill-ring\" cx=\"{item.Asked.From.X:0.#}\" cy=\"{item.Asked.From.Y:0.#}\" r=\"11\" fill=\"none\" stroke=\"#B0472F\" stroke-width=\"3\"/>"
            );
        return s.Append("</svg>").ToString();
    }
}
