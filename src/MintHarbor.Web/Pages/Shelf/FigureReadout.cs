using MintHarbor.Core;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Shelf;

/// <summary>The numbers beside a view of the figure: how it stands, how hard it is to hold, what is short from here.</summary>
public sealed record FigureReadout(
    FigureModel Figure,
    FigureView View,
    IReadOnlyList<Note> Notes,
    double? CanonHeads,
    bool Whole,
    Seat Seat
)
{
    /// <summary>The checks of anatomy in this view, those that are seen first.</summary>
    public IReadOnlyList<SeenCheck> Checks() => [.. BodyChecks.In(Figure, Seat, View.Width, View.Height).OrderByDescending(c => c.Visible)];

    public IReadOnlyList<Foreshortening> Short => [.. View.Limbs.Where(l => l.Ratio < 0.9)];

    /// <param name="part">The part that is looked at alone, where it isn't the whole.</param>
    /// <param name="edited">The pose has been changed: its strain is read off the figure instead of the catalogue.</param>
    public static FigureReadout Of(
        FigureModel figure,
        Pose pose,
        Seat seat,
        bool edited,
        double? canonHeads,
        TimingRules timing,
        CloseUp? part = null
    )
    {
        var view = StudioFigure.View(figure, seat, FigureViewKind.Mass, part: part);
        var notes = new List<Note>();
        var stance = figure.Stance;
        if (stance.BalanceMargin is { } margin)
        {
            var cm = margin * figure.MetresPerUnit * 100;
            notes.Add(
                new(
                    margin < 0 ? "outside"
                        : margin < 1 ? "near"
                        : "holds",
                    margin < 0
                        ? $"It would fall: its weight lies *{Say.Number(-cm, 1)} cm* outside the feet."
                        : $"It stands: its weight lies *{Say.Number(cm, 1)} cm* inside the feet.",
                    null,
                    "centre of mass from the segment table (Dempster 1955 via Winter, values from memory) against the hull of what touches the floor"
                )
            );
        }
        else
            notes.Add(new("holds", $"Borne by {pose.Support}."));
        if (stance.OutOfReach > 0.3f)
            notes.Add(
                new(
                    "outside",
                    $"A hand or foot falls *{Say.Number(stance.OutOfReach * figure.MetresPerUnit * 100, 1)} cm* short of its place: lower the pelvis or lift the heel."
                )
            );
        var (strain, why) = edited ? PoseEdit.StrainOf(figure) : (Strains.Read(pose.Strain), pose.Support);
        var limit = timing.Limit(strain);
        notes.Add(
            new(
                limit.LimitMinutes <= 5 ? "near" : "holds",
                $"To hold: {limit.Name}, at most *{Say.Number(limit.LimitMinutes)} min* on end.",
                null,
                $"{why}; {timing.Source}"
            )
        );
        if (view.Limbs is [{ Ratio: < 0.9 } first, ..])
            notes.Add(
                new(
                    first.Ratio < 0.8 ? "near" : "holds",
                    $"Shortest from here: the {first.Name}, seen at *{Say.Fixed(first.Ratio, 2)}* of its length.",
                    null,
                    "seen length ÷ the length it would have square to the eye at its own distance"
                )
            );
        notes.Add(new("holds", $"The drawn trouble: {pose.Trouble}."));
        return new(figure, view, notes, canonHeads, part is null, seat);
    }
}
