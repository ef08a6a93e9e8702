using System.Numerics;
using System.Text.Json;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;

namespace MintHarbor.Core.Anatomy;

/// <summary>A place that a drill asks to be put on the skin.</summary>
/// <param name="Bone">It is felt as bone, and is asked for under the garment too.</param>
public sealed record SkinPlace(string Id, string Name, MusclePlace At, bool Bone = false);

/// <summary>Something seen in a view, with a pixel of its own.</summary>
public sealed record SeenPart(string Id, int X, int Y);

/// <summary>What is seen of the figure from one seat.</summary>
/// <param name="Checks">Keys of the checks that are seen (<see cref="CheckOn.Key"/>).</param>
/// <param name="Under">Bones as they lie under the skin, whatever lies before them.</param>
/// <param name="Outline">The figure's outline, x, y, x, y …; <paramref name="Clothed"/> with the garment on.</param>
/// <param name="MmPerPixel">Millimetres of a figure as tall as life to one pixel.</param>
public sealed record AnatomySeat(
    string Pose,
    double Azimuth,
    string[] Checks,
    SeenPart[] Bones,
    SeenPart[] Muscles,
    SeenPart[] Places,
    double MmPerPixel,
    SeenBone[] Under,
    int[] Outline,
    int[] Clothed
);

/// <summary>Checks that are seen of the head, turned so.</summary>
public sealed record AnatomyTurn(double Turn, string[] Checks);

/// <summary>What drills of anatomy may ask, by pose and seat: found once on the figure and the head, and shipped.</summary>
public sealed record AnatomySeen(AnatomySeat[] Seats, AnatomyTurn[] Turns)
{
    /// <summary>Pixels of the view that places lie in.</summary>
    public const int Width = 480,
        Height = 720;

    public const string Body = "male";

    private const double Distance = 3.2,
        Eye = 1.3;

    /// <summary>Pixels of a view half as large that a part must show to be asked for.</summary>
    private const int LeastPixels = 24;

    private static readonly string[] Poses = ["stand", "contrapposto", "armraised", "handonhip", "seated"];

    private static readonly Lazy<AnatomySeen> Shipped = new(() => CoreData.Read<AnatomySeen>("anatomy/seen"));
    private static readonly Lazy<SkinPlace[]> AllPlaces = new(() =>
        FigureFile.Parse<PlaceFile>("anatomy/places.json", FigureFile.Resource("anatomy/places")).Places
    );

    private sealed record PlaceFile(string About, SkinPlace[] Places);

    public static AnatomySeen All => Shipped.Value;
    public static IReadOnlyList<SkinPlace> Places => AllPlaces.Value;

    public static Seat Seat(double azimuth) => new(azimuth, Distance, Eye);

    /// <summary>The name of a place with its side.</summary>
    /// <param name="id">With its side: "patella.R".</param>
    public static string NameOf(string id)
    {
        var place = Places.Single(p => p.Id == id || Sides.Id(p.Id, -1) == id);
        return Sides.Named(place.Name, id);
    }

    /// <summary>Finds what is seen, to be shipped.</summary>
    public static string Draw(StudioFigure studio, StudioHead heads)
    {
        var seats =
            from pose in Poses
            from azimuth in Enumerable.Range(0, 8).Select(n => (n * 45) - 135)
            select Of(
                clothed => studio.Model(Body, FigureCatalogue.Pose(pose), Drapery.For(false, clothed), StudioFigure.Coarse),
                pose,
                azimuth
            );
        var head = heads.Model();
        var turns = Enumerable
            .Range(-3, 7)
            .Select(n => n * 25)
            .Select(t => new AnatomyTurn(
                t,
                [.. HeadChecks.In(head, new(t)).Where(c => c.Visible).Select(c => new CheckOn(c.Check, c.Side).Key)]
            ));
        var options = new JsonSerializerOptions(JsonSerializerDefaults.Web);
        string Lines<T>(IEnumerable<T> rows) => string.Join(",\n", rows.Select(r => JsonSerializer.Serialize(r, options)));
        return $"{{\"seats\": [\n{Lines(seats)}\n], \"turns\": [\n{Lines(turns)}\n]}}\n";
    }

    private static AnatomySeat Of(Func<bool, FigureModel> made, string pose, double azimuth)
    {
        var seat = Seat(azimuth);
        var model = made(false);
        var camera = StudioFigure.Camera(model, seat, Width, Height, null);
        SeenPart[] Parts(FigureViewKind kind, Func<string, bool> asked)
        {
            var names = AnatomyNames.Of(model, seat, kind, Width / 2, Height / 2);
            var pixels = names.Runs.Chunk(2).Where(r => r[0] >= 0).GroupBy(r => r[0]).ToDictionary(g => g.Key, g => g.Sum(r => r[1]));
            return
            [
                .. names.Parts.Where((p, n) => asked(p.Id) && pixels[n] >= LeastPixels).Select(p => new SeenPart(p.Id, p.X * 2, p.Y * 2)),
            ];
        }
        return new(
            pose,
            azimuth,
            [.. BodyChecks.In(model, seat, Width, Height).Where(c => c.Visible).Select(c => new CheckOn(c.Check, c.Side).Key)],
            Parts(FigureViewKind.Bones, AnatomyParts.IsBone),
            Parts(FigureViewKind.Muscles, AnatomyParts.IsMuscle),
            [.. OnSkin(model, seat)],
            Math.Round(MmPerPixel(model, seat), 3),
            [.. SeenBones.Of(model, camera)],
            SeenBones.Outline(model, camera),
            SeenBones.Outline(made(true), camera)
        );
    }

    /// <summary>The places of the skin that are seen, where they lie.</summary>
    internal static IEnumerable<SeenPart> OnSkin(FigureModel model, Seat seat)
    {
        var depth = new DepthPicture(
            StudioFigure.Camera(model, seat, Width, Height, null),
            [model.Mesh, .. model.Solids.Select(s => s.Mesh)]
        );
        foreach (var place in Places)
        foreach (var side in Sides.Of(place.Id))
        {
            var from = model.UnderSkin.Frames.World(Sides.Id(place.At.Bone, side), Sides.Place(place.At.At, side));
            var mark = FigureModel.Settle(model.UnderSkin.Skin, model.UnderSkin.Skin.All, place.Id, from);
            var p = depth.Camera.Project(mark.Place);
            var faces = Vector3.Dot(mark.Normal, depth.Camera.ToEye(mark.Place)) > 0.15f;
            if (!mark.Buried && faces && depth.IsSeen(p, 0.6f))
                yield return new(Sides.Id(place.Id, side), (int)MathF.Round(p.X), (int)MathF.Round(p.Y));
        }
    }

    /// <summary>Millimetres of a figure as tall as life to one pixel of its view, at its own distance.</summary>
    internal static double MmPerPixel(FigureModel model, Seat seat)
    {
        var camera = StudioFigure.Camera(model, seat, Width, Height, null);
        Vector3 foot = new(0, 0, 0),
            head = new(0, 100, 0);
        Vector3 a = camera.Project(foot),
            b = camera.Project(head);
        return 100 * model.MetresPerUnit * 1000 / Math.Max(1, Math.Abs(a.Y - b.Y));
    }
}
