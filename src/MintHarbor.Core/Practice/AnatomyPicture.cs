using System.Globalization;
using System.Text;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;

namespace MintHarbor.Core.Practice;

/// <summary>Draws a task of anatomy in line, where no page lays its pictures together.</summary>
public static class AnatomyPicture
{
    private const int Card = 200;

    private static readonly StudioFigure Figures = new(48L << 20);
    private static readonly Drapery Undraped = Drapery.For(false, false);
    private static readonly StudioHead Heads = new(StudioHead.Coarse, 4);

    internal static string Svg(DrillItem item) =>
        item.Anatomy!.Ask is AnatomyAsk.BodyMistake or AnatomyAsk.HeadMistake ? Pair(item) : OnFigure(item, item.Anatomy);

    /// <summary>Both drawings of a check beside one another, without what tells which is wrong.</summary>
    private static string Pair(DrillItem item)
    {
        var s = new StringBuilder($"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {2 * Card} {Card}\">");
        for (var n = 0; n < 2; n++)
        {
            var drawing = Drawing(item.Anatomy!, n == (int)item.Truth.Value, Figures, Heads, Undraped, Card).Unmarked.ToSvg(null);
            s.Append($"<svg x=\"{n * Card}\" width=\"{Card}\" height=\"{Card}\"").Append(drawing.AsSpan("<svg".Length));
        }
        return s.Append("</svg>").ToString();
    }

    /// <summary>One of the two drawings that a task asks about. The head is one head, whatever a course's school.</summary>
    /// <param name="size">Pixels a side.</param>
    /// <exception cref="InputException">A task of no check, or of muscles on a dressed figure.</exception>
    public static CheckDrawing Drawing(AnatomyTask task, bool wrong, StudioFigure figures, StudioHead heads, Drapery drapery, int size)
    {
        var on = CheckOn.Read(task.Of);
        if (on.Check is HeadCheck head)
            return HeadChecks.Draw(heads, PlainHead, head, on.Side, new(task.At), wrong, size, task.By);
        var model = figures.Model(AnatomySeen.Body, FigureCatalogue.Pose(task.Pose), drapery, StudioFigure.Fine);
        return BodyChecks.Draw(model, (BodyCheck)on.Check, on.Side, AnatomySeen.Seat(task.At), wrong, size, task.By);
    }

    private static readonly HeadLevels PlainHead = HeadLevels.Of(Canons.CanonTable.Get("classical-head"));

    private static string OnFigure(DrillItem item, AnatomyTask task)
    {
        var at = item.Asked.From;
        var kind = task.Ask switch
        {
            AnatomyAsk.BoneName => FigureViewKind.Bones,
            AnatomyAsk.MuscleName => FigureViewKind.Muscles,
            _ => FigureViewKind.Line,
        };
        var model = Figures.Model(AnatomySeen.Body, FigureCatalogue.Pose(task.Pose), Undraped, StudioFigure.Coarse);
        var view = StudioFigure.View(model, AnatomySeen.Seat(task.At), kind, AnatomySeen.Width, AnatomySeen.Height);
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
                $"<circle class=\"drill-ring\" cx=\"{at.X:0.#}\" cy=\"{at.Y:0.#}\" r=\"11\" fill=\"none\" stroke=\"#B0472F\" stroke-width=\"3\"/>"
            );
        return s.Append("</svg>").ToString();
    }
}
