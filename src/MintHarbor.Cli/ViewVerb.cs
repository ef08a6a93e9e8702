using System.Text.Json;
using System.Text.Json.Nodes;
using MintHarbor.Core;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using MintHarbor.Media;

namespace MintHarbor.Cli;

/// <summary>A seat of a request; what it leaves out is the usual one's.</summary>
internal sealed record WantedSeat(double? Azimuth, double? Distance, double? EyeHeight)
{
    public static Seat Of(WantedSeat? w) => new(w?.Azimuth ?? 0, w?.Distance ?? 3.2, w?.EyeHeight ?? 1.5);
}

/// <summary>A view of the studio figure or head: lines as SVG, tone as a PNG file, with landmarks and, for a figure, foreshortening.</summary>
internal static class ViewVerb
{
    private sealed record WantedLamp(double? Azimuth, double? Elevation);

    private sealed record Wanted(
        string? Subject,
        string? Body,
        string? Pose,
        bool? Mirrored,
        WantedSeat? Seat,
        WantedLamp? Lamp,
        string? Kind,
        int? Values,
        int? Width,
        int? Height,
        bool? Garment,
        bool? Minors,
        string? Sitter,
        string? Canon,
        double? Turn,
        double? Tilt,
        double? Roll,
        string? Part,
        string? Out
    );

    public static object Run(JsonObject request)
    {
        var w = request.Deserialize<Wanted>(Wire.Json)!;
        if (w.Subject is not (null or "figure" or "head"))
            throw new InputException($"unknown subject '{w.Subject}'", "subject", "figure | head");
        if (!Enum.TryParse<FigureViewKind>(w.Kind ?? "line", true, out var kind) || (w.Kind is { } k && !char.IsLetter(k[0])))
            throw new InputException($"unknown kind '{w.Kind}'", "kind", "line | tone | mass | construction | bones | muscles | ecorche");
        if (kind is FigureViewKind.Tone or FigureViewKind.Ecorche && w.Out is null)
            throw new InputException("a view in tone is a picture file", "out", "a file name ending .png");
        var lamp = w.Lamp is { } l ? new Lamp(l.Azimuth ?? -58, l.Elevation ?? 45) : null;
        return w.Subject == "head" ? Head(w, kind, lamp) : Figure(w, kind, lamp);
    }

    private static object Figure(Wanted w, FigureViewKind kind, Lamp? lamp)
    {
        foreach (
            var (value, name) in new[]
            {
                (w.Sitter, "sitter"),
                (w.Canon, "canon"),
                (w.Turn?.ToString(), "turn"),
                (w.Tilt?.ToString(), "tilt"),
                (w.Roll?.ToString(), "roll"),
            }
        )
            if (value is not null)
                throw new InputException($"a figure has no {name}", name, "\"subject\": \"head\"");
        var pose = FigureCatalogue.Pose(
            w.Pose ?? throw new InputException("no pose", "pose", string.Join(" | ", FigureCatalogue.Poses.Select(p => p.Id)))
        );
        var model = new StudioFigure().Model(
            w.Body ?? "male",
            w.Mirrored == true ? pose.Mirrored() : pose,
            Drapery.For(w.Minors ?? false, w.Garment ?? false)
        );
        var view = StudioFigure.View(
            model,
            WantedSeat.Of(w.Seat),
            kind,
            w.Width ?? 480,
            w.Height ?? 720,
            w.Values ?? 0,
            lamp,
            part: w.Part is { } part ? CloseUp.Find(part) : null
        );
        return new
        {
            view.Width,
            view.Height,
            svg = Svg(view),
            png = Png(view, w.Out),
            model.Clothed,
            landmarks = Landmarks(view),
            foreshortening = view.Limbs.ToDictionary(l => l.Id, l => Math.Round(l.Ratio, 3)),
            stance = new
            {
                balanceMargin = model.Stance.BalanceMargin is { } m ? Math.Round(m, 2) : (double?)null,
                outOfReach = Math.Round(model.Stance.OutOfReach, 2),
            },
        };
    }

    private static object Head(Wanted w, FigureViewKind kind, Lamp? lamp)
    {
        foreach (
            var (value, name) in new[]
            {
                (w.Body, "body"),
                (w.Pose, "pose"),
                (w.Seat?.ToString(), "seat"),
                (w.Garment?.ToString(), "garment"),
                (w.Mirrored?.ToString(), "mirrored"),
                (w.Part, "part"),
            }
        )
            if (value is not null)
                throw new InputException($"a head has no {name}", name, "sitter, canon, turn, tilt, roll");
        var model = new StudioHead().Model(w.Sitter ?? "classical", w.Canon ?? "classical-head");
        var view = StudioHead.View(
            model,
            new(w.Turn ?? 0, w.Tilt ?? 0, w.Roll ?? 0),
            kind,
            w.Width ?? 480,
            w.Height ?? 600,
            w.Values ?? 0,
            lamp
        );
        return new
        {
            view.Width,
            view.Height,
            svg = Svg(view),
            png = Png(view, w.Out),
            landmarks = Landmarks(view),
            foreshortening = new Dictionary<string, double>(),
        };
    }

    private static string? Svg(FigureView view) => view.IsPixels ? null : FigurePicture.Svg(view);

    private static string? Png(FigureView view, string? file)
    {
        if (!view.IsPixels)
            return null;
        File.WriteAllBytes(file!, view.Tone is { } tone ? FigurePicture.Png(tone) : FigurePicture.Png(view.Colours!));
        return file;
    }

    private static object Landmarks(FigureView view) =>
        view.Landmarks.ToDictionary(
            l => l.Key,
            l => new
            {
                x = Math.Round(l.Value.At.X, 2),
                y = Math.Round(l.Value.At.Y, 2),
                visible = l.Value.Visible,
            }
        );
}
