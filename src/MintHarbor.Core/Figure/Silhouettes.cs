using System.Globalization;
using System.Numerics;
using System.Text;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Figure;

/// <summary>The small dark shape of a pose, all at one scale so that they can stand in a row.</summary>
/// <param name="Path">Closed outlines, SVG, from the upper left corner of the box.</param>
public sealed record Silhouette(string Pose, bool Clothed, bool Second, double Width, double Height, string Path)
{
    /// <summary>Pixels a metre: a figure of 1.75 m stands 43 high.</summary>
    public const double Scale = 43 / 1.75;

    /// <summary>The two bodies and sides that alternate in a row.</summary>
    public static (string Body, double Azimuth) Seen(bool second) => second ? ("female", -35) : ("male", 25);

    /// <param name="tolerance">Pixels by which the outline may be off: a tenth, which no eye sees.</param>
    public static Silhouette Of(FigureModel model, bool second, double tolerance = 0.1)
    {
        const int w = 480,
            h = 720;
        const double distance = 5;
        var seat = new Seat(Seen(second).Azimuth, distance, 1.1);
        var view = StudioFigure.View(model, seat, FigureViewKind.Mass, w, h);
        var focal = SeatCamera.Fit(seat, model.MetresPerUnit, w, h, model.Places).Focal;
        // Half a step more than the picture's scale at the middle of the stand.
        var k = Scale * distance / focal;
        var loops = view
            .Mass.Select(l => Thin.Path([.. l.Select(p => new Vec2(p.X * k, p.Y * k))], tolerance))
            .Where(l => l.Count > 2)
            .ToList();
        double x0 = loops.Min(l => l.Min(p => p.X)),
            y0 = loops.Min(l => l.Min(p => p.Y));
        var path = new StringBuilder();
        foreach (var loop in loops)
        {
            for (var i = 0; i < loop.Count; i++)
                path.Append(CultureInfo.InvariantCulture, $"{(i == 0 ? 'M' : 'L')}{loop[i].X - x0:0.#} {loop[i].Y - y0:0.#}");
            path.Append('Z');
        }
        return new(
            model.Pose.Id,
            model.Clothed,
            second,
            Math.Round(loops.Max(l => l.Max(p => p.X)) - x0, 1),
            Math.Round(loops.Max(l => l.Max(p => p.Y)) - y0, 1),
            path.ToString()
        );
    }
}

/// <summary>The silhouettes of the catalogue's poses, drawn once and shipped.</summary>
public static class Silhouettes
{
    private static readonly Lazy<Dictionary<(string, bool, bool), Silhouette>> ByKey = new(() =>
        CoreData.Read<List<Silhouette>>("silhouettes").ToDictionary(s => (s.Pose, s.Clothed, s.Second))
    );

    public static IReadOnlyCollection<Silhouette> All => ByKey.Value.Values;

    public static Silhouette? Find(string pose, bool clothed, bool second) => ByKey.Value.GetValueOrDefault((pose, clothed, second));
}
