using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;

namespace MintHarbor.Core.Fitting;

/// <summary>Makes the views that drawings are laid over, of the studio figure and head.</summary>
public static class FitReferences
{
    private const int Width = 600,
        Height = 900;

    /// <summary>Lines are cut this fine, pixels of the view.</summary>
    private const float Step = 2;

    /// <summary>What a line of a kind counts; what the figure rests on is none of its.</summary>
    private static float WeightOf(LineKind kind) =>
        kind switch
        {
            LineKind.Contour => 1,
            LineKind.Crease => 0.8f,
            LineKind.Feature => 0.6f,
            LineKind.Soft => 0.35f,
            _ => 0,
        };

    /// <summary>A figure in its pose, seen from a seat.</summary>
    public static FitReference Of(FigureModel model, Seat seat)
    {
        var tree = PartTree.Figure;
        var view = StudioFigure.View(model, seat, FigureViewKind.Line, Width, Height);
        var camera = SeatCamera.Fit(seat, model.MetresPerUnit, Width, Height, model.Places);
        var depth = new DepthPicture(camera, [model.Mesh, .. model.Solids.Select(s => s.Mesh)]);
        var parts = FigureParts.OfPlaces(model);
        var strokes = Strokes(view, p => PartAt(depth, model.Mesh, parts, p));
        var (joint, end) = FigureParts.Axes(model, p => Flat(camera.Project(p)));
        var marks = model
            .Landmarks.Select(l => new FitMark(
                l.Id,
                Single(view.Landmarks[l.Id].At),
                FigureParts.OfLandmark(model, l.Id),
                view.Landmarks[l.Id].Visible
                    || IsUnderItsOwn(depth, model.Mesh, parts, camera.Project(l.Place), FigureParts.OfLandmark(model, l.Id))
            ))
            .ToList();
        var mass = StudioFigure.View(model, seat, FigureViewKind.Mass, Width, Height);
        return new(tree, strokes, joint, end, marks, Feet(tree, strokes, marks)) { Shape = Shape.Of(view, mass) };
    }

    /// <summary>A head as it is turned.</summary>
    public static FitReference Of(HeadModel model, HeadPose pose)
    {
        var view = DrawnHead(model, pose);
        var tree = PartTree.Features;
        var marks = view
            .Landmarks.Select(l => new FitMark(
                l.Key,
                Single(l.Value.At),
                HeadParts.OfLandmark(l.Key),
                l.Value.Visible || l.Key is "crown" or "chin",
                HeadParts.BesideLandmark(l.Key)
            ))
            .ToList();
        var (joint, end) = HeadParts.Axes(marks);
        var guides = marks.Where(m => m.Seen || !HeadParts.IsFeature(m.Part)).ToList();
        var strokes = new List<FitStroke>();
        foreach (var s in view.Strokes.Where(s => WeightOf(s.Kind) > 0))
        {
            var places = Even(s.Places);
            // A feature's line is the feature's as a whole; an outline is whose landmark is nearest.
            var own = s.Kind == LineKind.Feature ? HeadParts.OfLine(places, guides) : -1;
            strokes.Add(new(WeightOf(s.Kind), places, [.. places.Select(p => own >= 0 ? own : HeadParts.OfOutline(p, guides))]));
        }
        var mass = StudioHead.View(model, pose, FigureViewKind.Mass, Width, Height);
        return new(tree, strokes, joint, end, marks, [marks.First(m => m.Id == "chin")]) { Shape = Shape.Of(view, mass) };
    }

    /// <summary>The head's lines with its sides where the outline is, as they are marked on a sheet.</summary>
    private static FigureView DrawnHead(HeadModel model, HeadPose pose) =>
        Simulation.DrawnSubject.Outlined(
            StudioHead.View(model, pose, FigureViewKind.Line, Width, Height),
            StudioHead.Sides(model, pose, Width, Height)
        );

    private static Vector2 Single(Geometry.Vec2 p) => new((float)p.X, (float)p.Y);

    private static Vector2 Flat(Vector3 p) => new(p.X, p.Y);

    private static List<FitStroke> Strokes(FigureView view, Func<Vector2, int> part)
    {
        var strokes = new List<FitStroke>();
        foreach (var s in view.Strokes.Where(s => WeightOf(s.Kind) > 0))
        {
            var places = Even(s.Places);
            var parts = new int[places.Length];
            for (var i = 0; i < places.Length; i++)
                parts[i] =
                    part(places[i]) is var p && p >= 0 ? p
                    : i > 0 ? parts[i - 1]
                    : 0;
            strokes.Add(new(WeightOf(s.Kind), places, parts));
        }
        return strokes;
    }

    private static Vector2[] Even(Vector2[] line) => [.. Curves.Resample([.. line], Step)];

    /// <summary>What the nearest pixel of the figure, and of those the nearest to the eye, shows; −1 beside it.</summary>
    private static int PartAt(DepthPicture depth, Mesh mesh, int[] parts, Vector2 p)
    {
        for (var reach = 1; reach <= 4; reach++)
        {
            var (nearest, found) = (DepthPicture.Nothing, -1);
            for (var y = (int)p.Y - reach; y <= (int)p.Y + reach; y++)
            {
                for (var x = (int)p.X - reach; x <= (int)p.X + reach; x++)
                {
                    var o = (y * depth.Width) + x;
                    if ((uint)x < depth.Width && (uint)y < depth.Height && depth.IsFigure(o) && depth.Depth[o] < nearest)
                        (nearest, found) = (depth.Depth[o], o);
                }
            }
            if (found >= 0)
                return parts[mesh.Triangles[depth.Triangle[found] * 3]];
        }
        return -1;
    }

    /// <summary>A limb is as thick as this at most, units.</summary>
    private const float Thick = 6;

    /// <summary>Whether a place on a limb's far side is hidden by nothing but the limb: a draughtsman knows where it is, as the wrist's knob.</summary>
    private static bool IsUnderItsOwn(DepthPicture depth, Mesh mesh, int[] parts, Vector3 projected, int part)
    {
        if (PartTree.Figure.Parts[part].Id is PartTree.Pelvis or PartTree.Thorax or PartTree.Neck or PartTree.Head)
            return false;
        var seen = PartAt(depth, mesh, parts, Flat(projected));
        var near = part == seen || PartTree.Figure.Parts[part].Parent == seen || (seen >= 0 && PartTree.Figure.Parts[seen].Parent == part);
        return near && projected.Z - depth.DepthAt(projected.X, projected.Y) <= Thick;
    }

    /// <summary>The lowest drawn place of each foot, the lower one first; a lowest landmark where no foot is drawn.</summary>
    private static IReadOnlyList<FitMark> Feet(PartTree tree, IReadOnlyList<FitStroke> strokes, IReadOnlyList<FitMark> marks)
    {
        var feet = new[] { ".L", ".R" }
            .Select(s => tree.Index(PartTree.Foot + s))
            .Select(foot =>
                strokes.SelectMany(s => s.Places.Where((_, i) => s.Parts[i] == foot)).Select(p => new FitMark("sole", p, foot, true))
            )
            .Where(f => f.Any())
            .Select(f => f.MaxBy(m => m.At.Y)!)
            .OrderByDescending(f => f.At.Y)
            .ToList();
        return feet.Count > 0 ? feet : [marks.MaxBy(m => m.At.Y)! with { Id = "sole" }];
    }
}
