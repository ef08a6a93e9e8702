using System.Text.Json;
using System.Text.Json.Nodes;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Media;

namespace MintHarbor.Cli;

/// <summary>Landmarks of a known pose, or head, fitted to the ink of a flat sheet; the pose told from the ink where it isn't known.</summary>
internal static class FitVerb
{
    private sealed record Clicks(double[]? Crown, double[]? Sole);

    private sealed record Wanted(
        string? Subject,
        string? Body,
        string? Pose,
        bool? Mirrored,
        WantedSeat? Seat,
        string? Sitter,
        double? Turn,
        double? Tilt,
        Clicks? Clicks,
        Dictionary<string, double[]>? Pins,
        bool? UnknownPose,
        bool? Garment
    );

    public static object Run(string sheet, PaperSize paper, JsonObject request)
    {
        var w = request.Deserialize<Wanted>(Wire.Json)!;
        if (w.Subject is not (null or "figure" or "head"))
            throw new InputException($"unknown subject '{w.Subject}'", "subject", "figure | head");
        using var photo = Photo.Read(File.ReadAllBytes(sheet));
        var ink = InkReading.Of(photo.Grey(), paper.WidthMm / photo.Width);
        if (w.UnknownPose != true)
            return Answer(Fitted(ink, Reference(w, null), w), null, null);
        if (w.Subject == "head")
            throw new InputException("a head has no pose to be told", "unknownPose", "a figure, or a head with turn and tilt");
        var poses = ink.Nothing == NoFit.None ? PoseFinder.Find(ink.Form) : [];
        return poses.Count == 0
            ? Answer(FitResult.Nothing(ink.Nothing), poses, null)
            : Answer(Fitted(ink, Reference(w, poses[0]), w), poses, FitWords.Says(poses));
    }

    private static FitResult Fitted(InkReading ink, FitReference reference, Wanted w)
    {
        var pins = (w.Pins ?? []).ToDictionary(p => p.Key, p => Place(p.Value, $"pins.{p.Key}"));
        foreach (var id in pins.Keys)
            if (reference.Marks.All(m => m.Id != id))
                throw new InputException($"unknown landmark '{id}'", $"pins.{id}", "an id of the landmark table");
        return new MarkFit(
            ink,
            reference,
            w.Clicks?.Crown is { } crown ? Place(crown, "clicks.crown") : null,
            w.Clicks?.Sole is { } sole ? Place(sole, "clicks.sole") : null
        ).Run(pins);
    }

    private static Vec2 Place(double[] pair, string field) =>
        pair is [var x, var y] && double.IsFinite(x) && double.IsFinite(y)
            ? new(x, y)
            : throw new InputException("not a pair of numbers", field, "[x, y] in mm");

    private static FitReference Reference(Wanted w, FoundPose? found)
    {
        if (w.Subject == "head")
            return FitReferences.Of(
                new StudioHead(StudioHead.Coarse).Model(w.Sitter ?? "classical"),
                new HeadPose(w.Turn ?? 0, w.Tilt ?? 0).Checked()
            );
        var pose = FigureCatalogue.Pose(
            found?.Pose
                ?? w.Pose
                ?? throw new InputException(
                    "no pose",
                    "pose",
                    string.Join(" | ", FigureCatalogue.Poses.Select(p => p.Id)) + ", or unknownPose"
                )
        );
        var model = new StudioFigure().Model(
            w.Body ?? "male",
            found?.Mirrored ?? w.Mirrored ?? false ? pose.Mirrored() : pose,
            Drapery.For(false, w.Garment ?? false),
            StudioFigure.Coarse
        );
        var seat = WantedSeat.Of(w.Seat);
        return FitReferences.Of(model, (found is null ? seat : seat with { Azimuth = found.Azimuth }).Checked());
    }

    /// <summary>How many poses are named.</summary>
    private const int MostPoses = 5;

    private static object Answer(FitResult fit, IReadOnlyList<FoundPose>? poses, string? posed) =>
        new
        {
            landmarks = fit.Marks.ToDictionary(
                m => m.Key,
                m => new
                {
                    x = Math.Round(m.Value.At.X, 2),
                    y = Math.Round(m.Value.At.Y, 2),
                    r90 = Math.Round(m.Value.R90, 2),
                    m.Value.Seen,
                }
            ),
            fit.Ask,
            pose = poses
                ?.Take(MostPoses)
                .Select(p => new
                {
                    p.Pose,
                    p.Azimuth,
                    p.Mirrored,
                    cost = Math.Round(p.Apart, 2),
                }),
            support = Math.Round(fit.Support, 3),
            cost = Math.Round(fit.Cost, 3),
            says = posed is null ? FitWords.Says(fit) : $"{posed} {FitWords.Says(fit)}",
        };
}
