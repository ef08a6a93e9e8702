using MintHarbor.Core;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;
using MintHarbor.Web.Figures;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Shelf;

/// <summary>The numbers of a still life from a seat, as they would be measured with a pencil.</summary>
/// <param name="Truth">Null where the things can't stand so.</param>
/// <param name="Overlaps">Which things stand in one another.</param>
/// <param name="Refused">Why they can't stand so; empty where they can.</param>
public sealed record ThingReadout(
    Arrangement Arrangement,
    ThingTruth? Truth,
    IReadOnlyList<int> Overlaps,
    string Refused,
    IReadOnlyList<Note> Notes
)
{
    public static ThingReadout Of(ThingAddress address, ThingViews views)
    {
        var arrangement = Arrangement.Read(address.Things);
        try
        {
            arrangement.Checked();
            var truth = views.Truth(address);
            return new(arrangement, truth, [], "", [.. Spoken(truth)]);
        }
        catch (InputException e)
        {
            var known = arrangement.Places.All(p => ThingShelf.Things.Any(t => t.Id == p.Thing));
            int[] overlaps = known ? [.. arrangement.Overlaps().SelectMany(o => new[] { o.A, o.B }).Distinct()] : [];
            return new(arrangement, null, overlaps, $"{char.ToUpperInvariant(e.Message[0])}{e.Message[1..]}: {e.Accepted}.", []);
        }
    }

    private static IEnumerable<Note> Spoken(ThingTruth truth)
    {
        var whole = truth.Whole;
        var (wide, high) = (whole.Width, whole.Height);
        yield return new(
            "holds",
            wide > high
                ? $"The whole is *{Say.Number(wide / high, 2)}* times as broad as high."
                : $"The whole is *{Say.Number(high / wide, 2)}* times as high as broad.",
            null,
            "the upright rectangle round all of it: the envelope begins here"
        );
        // Of a rim that is hidden nobody sees how open it is.
        var rims = truth.Ellipses.Where(e => e.Seen > 0.3).ToList();
        if (rims.MinBy(e => e.Openness) is { } flattest && rims.MaxBy(e => e.Openness) is { } most)
            yield return new(
                "holds",
                $"Rims: from *{Say.Number(flattest.Openness, 2)}* open (the {flattest.Thing}'s {flattest.Name}) to *{Say.Number(most.Openness, 2)}* (the {most.Thing}'s {most.Name}).",
                null,
                "depth over breadth; the nearer the eye's level, the flatter"
            );
        if (truth.Families.Where(f => f is { Level: true, Vanishing: not null }).MaxBy(f => f.Deep) is { } deepest)
            yield return new(
                "holds",
                $"The {deepest.Thing}'s edges run together {Where(deepest.Vanishing!.Value, whole)}.",
                null,
                "uprights stay upright"
            );
        if (truth.Gaps.MaxBy(g => g.Area) is { } gap)
            yield return new(
                "holds",
                gap.Between is [var own] ? $"The largest gap is the {own}'s own." : $"The largest gap lies between {Said(gap.Between)}.",
                null,
                "negative shape: ground shut in by things, or by things and a straight line laid against the whole"
            );
        if (truth.Planes.Count > 1)
        {
            var (light, dark) = (truth.Planes.MaxBy(p => p.Mean)!, truth.Planes.MinBy(p => p.Mean)!);
            yield return new(
                "holds",
                $"Lightest flat face: the {light.Thing}'s {light.Name}, value *{Say.Number(Core.Practice.ValueDrill.Of(light.Mean), 1)}*; darkest: the {dark.Thing}'s {dark.Name}, *{Say.Number(Core.Practice.ValueDrill.Of(dark.Mean), 1)}*.",
                null,
                "of nine, 1 the lightest; as it is seen, shadows with it"
            );
        }
    }

    private static string Said(IEnumerable<string> names) => Say.List([.. names.Select(n => $"the {n}")]);

    private static string Where(Vec2 at, Area whole)
    {
        var away = Math.Abs(at.X - whole.Middle.X) / whole.Width;
        var side = at.X < whole.Middle.X ? "left" : "right";
        return away < 0.5
            ? "behind it, within the picture's breadth"
            : $"*{Say.Number(away, 1)}* breadths of the whole to the {side} of its middle, at the level of your eye";
    }
}
