using System.IO.Compression;
using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Fitting;

/// <summary>A pose of the library from one side.</summary>
/// <param name="Apart">How far the drawing lies from it, in cells: the less the better.</param>
public sealed record FoundPose(string Pose, double Azimuth, bool Mirrored, double Apart);

/// <summary>Tells which pose of the library a drawing shows, and from which of sixteen sides, by its lines and its form: an oriented chamfer
/// match. The poses' views ship with the core.</summary>
public static class PoseFinder
{
    /// <summary>Where the first two poses lie closer together, a person is asked.</summary>
    public const double TooClose = 0.5;

    /// <summary>How far the drawing as a whole may lean, degrees clockwise.</summary>
    private static readonly float[] Leans = [-6, 0, 6];

    private const int Sides = 16,
        Candidates = 64,
        /// <summary>Lines of a shipped view that are kept.</summary>
        MostPoints = 300;
    private const float Fine = 4;
    private const string File = "figure/seen";

    private static readonly Lazy<IReadOnlyList<(string Pose, double Azimuth, bool Mirrored, Shape Shape)>> Views = new(Read);

    /// <summary>Best first, each pose once, from its best side; none where nothing is drawn.</summary>
    public static IReadOnlyList<FoundPose> Find(InkForm form)
    {
        var drawings = Leans.Select(lean => Shape.Of(form, -lean)).OfType<Shape>().Select(s => (Shape: s, Far: s.Distances())).ToArray();
        if (drawings.Length == 0)
            return [];
        var nearest = Views
            .Value.SelectMany(v => drawings.Select(d => (View: v, Drawing: d)))
            .OrderBy(p => ShapeMatch.Best(p.Drawing.Shape, p.Drawing.Far, p.View.Shape, null).Apart)
            .Take(Candidates)
            .ToArray();
        var found = new FoundPose[nearest.Length];
        Alone.For(0, nearest.Length, i =>
        {
            var ((pose, azimuth, mirrored, shape), drawing) = nearest[i];
            found[i] = new(pose, azimuth, mirrored, ShapeMatch.Best(drawing.Shape, drawing.Far, shape, shape.Distances()).Apart);
        });
        return [.. found.OrderBy(f => f.Apart).DistinctBy(f => f.Pose)];
    }

    /// <summary>Every pose from sixteen sides, to be shipped: deflated, all numbers little-endian.</summary>
    public static byte[] Draw(StudioFigure studio)
    {
        using var stream = new MemoryStream();
        using (var deflate = new DeflateStream(stream, CompressionLevel.SmallestSize))
        using (var to = new BinaryWriter(deflate))
        {
            to.Write(FigureCatalogue.Poses.Count * Sides);
            foreach (var pose in FigureCatalogue.Poses)
            {
                var model = studio.Model("male", pose, Drapery.For(false, false), StudioFigure.Thumb);
                for (var side = 0; side < Sides; side++)
                    Write(to, pose.Id, side * 360f / Sides, Seen(model, side * 360f / Sides));
            }
        }
        return stream.ToArray();
    }

    private static Shape Seen(FigureModel model, float azimuth)
    {
        var seat = new Seat(azimuth > 180 ? azimuth - 360 : azimuth);
        return Shape.Of(
            StudioFigure.View(model, seat, FigureViewKind.Line, 320, 480),
            StudioFigure.View(model, seat, FigureViewKind.Mass, 320, 480)
        );
    }

    private static void Write(BinaryWriter to, string pose, float azimuth, Shape shape)
    {
        to.Write(pose);
        to.Write(azimuth > 180 ? azimuth - 360 : azimuth);
        var every = Math.Max(1, (shape.Points.Length + MostPoints - 1) / MostPoints);
        var points = shape.Points.Where((_, i) => i % every == 0).ToList();
        to.Write((short)points.Count);
        foreach (var p in points)
        {
            to.Write((short)MathF.Round(p.Cell.X * Fine));
            to.Write((short)MathF.Round(p.Cell.Y * Fine));
            to.Write(p.Direction);
        }
        for (var i = 0; i < shape.Form.Length; i += 8)
        {
            byte eight = 0;
            for (var k = 0; k < 8 && i + k < shape.Form.Length; k++)
                eight |= (byte)(shape.Form[i + k] ? 1 << k : 0);
            to.Write(eight);
        }
    }

    private static IReadOnlyList<(string, double, bool, Shape)> Read()
    {
        using var stream = typeof(PoseFinder).Assembly.GetManifestResourceStream(File)
            ?? throw new InvalidOperationException($"no {File} in the core");
        using var inflate = new DeflateStream(stream, CompressionMode.Decompress);
        using var from = new BinaryReader(inflate);
        var views = new List<(string, double, bool, Shape)>();
        for (var n = from.ReadInt32(); n > 0; n--)
        {
            var pose = from.ReadString();
            double azimuth = from.ReadSingle();
            var points = new ShapePoint[from.ReadInt16()];
            for (var i = 0; i < points.Length; i++)
                points[i] = new(new Vector2(from.ReadInt16(), from.ReadInt16()) / Fine, from.ReadByte());
            var form = new bool[Shape.Columns * Shape.Rows];
            for (var i = 0; i < form.Length; i += 8)
            {
                var eight = from.ReadByte();
                for (var k = 0; k < 8 && i + k < form.Length; k++)
                    form[i + k] = (eight >> k & 1) == 1;
            }
            views.Add((pose, azimuth, false, new(default, 1, points, form)));
        }
        return views;
    }
}
