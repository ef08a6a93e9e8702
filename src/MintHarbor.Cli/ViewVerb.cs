using System.Text.Json;
using System.Text.Json.Nodes;
using MintHarbor.Core;
using MintHarbor.Core.Figure;
using MintHarbor.Media;

namespace MintHarbor.Cli;

/// <summary>A view of the studio figure: lines as SVG, tone as a PNG file, with landmarks and foreshortening.</summary>
internal static class ViewVerb
{
    private sealed record WantedSeat(double? Azimuth, double? Distance, double? EyeHeight);

    private sealed record WantedLamp(double? Azimuth, double? Elevation);

    private sealed record Wanted(
        string? Subject, string? Body, string? Pose, bool? Mirrored, WantedSeat? Seat, WantedLamp? Lamp, string? Kind, int? Values, int? Width, int? Height,
        bool? Garment, bool? Minors, string? Out);

    public static object Run(JsonObject request)
    {
        var w = request.Deserialize<Wanted>(Wire.Json)!;
        if (w.Subject is "head") return new { svg = (string?)null, png = (string?)null, landmarks = (object?)null, foreshortening = (object?)null };
        if (w.Subject is not (null or "figure")) throw new InputException($"unknown subject '{w.Subject}'", "subject", "figure | head");
        if (!Enum.TryParse<FigureViewKind>(w.Kind ?? "line", true, out var kind) || (w.Kind is { } k && !char.IsLetter(k[0]))) throw new InputException($"unknown kind '{w.Kind}'", "kind", "line | tone | mass | construction");
        if (kind == FigureViewKind.Tone && w.Out is null) throw new InputException("a tone view is a picture file", "out", "a file name ending .png");
        var pose = FigureCatalogue.Pose(w.Pose ?? throw new InputException("no pose", "pose", string.Join(" | ", FigureCatalogue.Poses.Select(p => p.Id))));
        var model = new StudioFigure().Model(w.Body ?? "male", w.Mirrored == true ? pose.Mirrored() : pose, Drapery.For(w.Minors ?? false, w.Garment ?? false));
        var view = StudioFigure.View(model, new Seat(w.Seat?.Azimuth ?? 0, w.Seat?.Distance ?? 3.2, w.Seat?.EyeHeight ?? 1.5), kind, w.Width ?? 480, w.Height ?? 720, w.Values ?? 0,
            w.Lamp is { } lamp ? new Lamp(lamp.Azimuth ?? -58, lamp.Elevation ?? 45) : null);
        if (view.Tone is { } tone) File.WriteAllBytes(w.Out!, FigurePicture.Png(tone));
        return new
        {
            view.Width, view.Height, svg = view.Tone is null ? view.ToSvg() : null, png = view.Tone is null ? null : w.Out, model.Clothed,
            landmarks = view.Landmarks.ToDictionary(l => l.Key, l => new { x = Math.Round(l.Value.At.X, 2), y = Math.Round(l.Value.At.Y, 2), visible = l.Value.Visible }),
            foreshortening = view.Limbs.ToDictionary(l => l.Id, l => Math.Round(l.Ratio, 3)),
            stance = new { balanceMargin = model.Stance.BalanceMargin is { } m ? Math.Round(m, 2) : (double?)null, outOfReach = Math.Round(model.Stance.OutOfReach, 2) },
        };
    }
}
