using System.Numerics;
using System.Text;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>What must be so in a pose for a check's difference to show.</summary>
public enum CheckNeed
{
    Nothing,
    RaisedArm,
    TurnedPalm,
}

/// <summary>A check of anatomy: where to look, the right sign and the wrong one, and what makes the wrong drawing.</summary>
/// <param name="Fault">The named fault of the library: why it matters, what to do, which drill and exercise train it, its source.</param>
/// <param name="Anchor">Where it is looked for, settled on the skin.</param>
/// <param name="Half">Half the height of its two small drawings, units.</param>
/// <param name="Bones">How the ids of the bones that are drawn begin.</param>
/// <param name="Key">Places that tell, in the right drawing and in the wrong one; joined, <paramref name="Closed"/> in a ring.</param>
public sealed record BodyCheck(
    string Id,
    string Name,
    string Right,
    string Wrong,
    string Fault,
    MusclePlace Anchor,
    MusclePlace Centre,
    float Half,
    string[] Muscles,
    string[] Bones,
    MusclePlace[] Key,
    MusclePlace[] WrongKey,
    AnatomyChange[] Change,
    bool Closed = false,
    CheckNeed Needs = CheckNeed.Nothing,
    string? Measure = null
) : IAnatomyCheck
{
    /// <summary>Nearer to the middle line than this both sides are one, units.</summary>
    private const float OnMiddle = 0.5f;

    public bool Middle => MathF.Abs(Anchor.At.X) < OnMiddle;

    /// <summary>Whether it shows muscles, which no dressed figure does.</summary>
    public bool OfMuscles => Muscles.Length > 0;

    /// <summary>Whether its mistake can be made smaller.</summary>
    public bool Scales => Change.All(c => c.Scales);
}

/// <summary>A check in a view: where it lies, on which side of the body, whether it is seen from there.</summary>
public readonly record struct SeenCheck(BodyCheck Check, int Side, Vector2 At, bool Visible);

/// <summary>The checks of the body, and their pairs of small drawings made from the figure in the view that is asked for.</summary>
public static class BodyChecks
{
    private sealed record CheckFile(string About, BodyCheck[] Checks);

    private static readonly Lazy<BodyCheck[]> Rows = new(() => Read("anatomy/checks.json", FigureFile.Resource("anatomy/checks")));

    public static IReadOnlyList<BodyCheck> All => Rows.Value;

    /// <exception cref="InputException">No such check.</exception>
    public static BodyCheck Find(string id) =>
        All.FirstOrDefault(c => c.Id == id)
        ?? throw new InputException($"there is no check '{id}'", "check", string.Join(", ", All.Select(c => c.Id)));

    /// <summary>Reads and checks a file of checks.</summary>
    /// <exception cref="FigureFileException">Anything wrong, with the file and the line or key.</exception>
    internal static BodyCheck[] Read(string file, string json)
    {
        var checks = FigureFile.Parse<CheckFile>(file, json).Checks;
        var frames = AnatomyFile.Frames(FigureCatalogue.Tables);
        var muscles = AnatomyCatalogue.Muscles.Muscles.Select(m => m.Id).ToHashSet();
        var forms = FigureCatalogue.Tables.Forms.Select(f => f.Id).ToHashSet();
        foreach (var c in checks)
        {
            var key = $"checks.{c.Id}";
            foreach (var p in c.Key.Concat(c.WrongKey).Append(c.Anchor).Append(c.Centre))
                AnatomyFile.CheckBone(file, key, p.Bone, frames);
            if (Faults.Find(c.Fault) is null)
                throw new FigureFileException(file, $"{key}.fault", $"there is no fault '{c.Fault}'");
            if (c.Key.Length != c.WrongKey.Length)
                throw new FigureFileException(file, $"{key}.wrongKey", "as many places as in key: each where the mistake puts it");
            if (c.Change.Length == 0)
                throw new FigureFileException(file, $"{key}.change", "what makes the wrong drawing is missing");
            foreach (var m in c.Muscles.Concat(c.Change.Select(x => x.Muscle).OfType<string>()).Where(m => !muscles.Contains(m)))
                throw new FigureFileException(file, key, $"there is no muscle '{m}'");
            foreach (var x in c.Change)
            {
                if (x.Form is { } form && !forms.Contains(form))
                    throw new FigureFileException(file, $"{key}.change", $"there is no form '{form}'");
                if (x.Form is not null && x.Move is null)
                    throw new FigureFileException(file, $"{key}.change", "a form is moved: where to is missing");
                if (x.Still is not (null or "blade" or "forearm"))
                    throw new FigureFileException(file, $"{key}.change.still", $"'{x.Still}'; blade or forearm");
            }
        }
        return checks;
    }

    /// <summary>Where every check lies in a view, in its pixels; of the two sides the one that is seen. Of a dressed figure those of bones alone.</summary>
    /// <exception cref="InputException">A seat or size that can't be drawn.</exception>
    public static IReadOnlyList<SeenCheck> In(FigureModel model, Seat seat, int width, int height)
    {
        seat.Checked();
        FigureView.CheckSize(width, height, 0);
        var depth = new DepthPicture(
            StudioFigure.Camera(model, seat, width, height, null),
            [model.Mesh, .. model.Solids.Select(s => s.Mesh)]
        );
        return
        [
            .. All.Where(c => !model.Clothed || !c.OfMuscles)
                .Select(c => Sides.Both.Select(s => Seen(model, c, s, depth)).OrderByDescending(s => s.Visible).First()),
        ];
    }

    private static SeenCheck Seen(FigureModel model, BodyCheck check, int side, DepthPicture depth)
    {
        var frames = model.UnderSkin.Frames;
        var from = frames.World(Sides.Id(check.Anchor.Bone, side), Sides.Place(check.Anchor.At, side));
        var mark = FigureModel.Settle(model.UnderSkin.Skin, model.UnderSkin.Skin.All, check.Id, from);
        var p = depth.Camera.Project(mark.Place);
        var faces = Vector3.Dot(mark.Normal, depth.Camera.ToEye(mark.Place)) > -0.1f;
        return new(check, side, new(p.X, p.Y), !mark.Buried && faces && depth.IsSeen(p, 0.9f) && Shows(check.Needs, frames.Skeleton, side));
    }

    /// <summary>Degrees from which a raised arm takes the blade along, and a turned palm crosses the bones.</summary>
    private const double Raised = 60,
        Turned = 40;

    private static bool Shows(CheckNeed need, Skeleton s, int side)
    {
        if (need == CheckNeed.RaisedArm)
            return ShoulderGirdle.Elevation(s, side) >= Raised;
        if (need == CheckNeed.Nothing)
            return true;
        var hand = s.Body.BoneIndex(Sides.Id("hand.L", side));
        return s.Angle(hand, s.Body.Bones[hand].Angles.Single(a => a.Angle == "pron")) >= Turned;
    }

    /// <summary>A small drawing has lines as strong as a picture of this height: else they would fade.</summary>
    private const float LinesOf = 480;

    /// <summary>One of a check's two drawings: its part of the figure in this pose, from this seat.</summary>
    /// <param name="model">The true figure; undressed, as muscles may be drawn.</param>
    /// <param name="side">1 its left, −1 its right.</param>
    /// <param name="size">Pixels a side.</param>
    /// <param name="by">How much of the mistake is made.</param>
    /// <exception cref="InputException">A seat or size that can't be drawn; a check of muscles on a dressed figure.</exception>
    public static CheckDrawing Draw(FigureModel model, BodyCheck check, int side, Seat seat, bool wrong, int size = 160, double by = 1)
    {
        seat.Checked();
        FigureView.CheckSize(size, size, 0);
        StudioFigure.CheckDressed(model, check.OfMuscles ? FigureViewKind.Muscles : FigureViewKind.Bones);
        var drawn = wrong ? Mistaken(model, check, side, by: by) : model;
        var close = new CloseUp(
            check.Id,
            check.Name,
            new(Sides.Id(check.Centre.Bone, side), Sides.Place(check.Centre.At, side)),
            check.Half
        );
        var camera = close.Camera(model, seat, size, size);
        var setting = new AnatomyView.Setting(
            drawn,
            close.Camera(model, seat, size * AnatomyView.Finer, size * AnatomyView.Finer),
            Lamp.BesideEye(seat).Direction,
            new(camera, [drawn.Mesh, .. drawn.Solids.Select(s => s.Mesh)]),
            new(check.Muscles, check.Bones)
        );
        var (layers, wash) = check.OfMuscles ? AnatomyView.Muscles(setting) : AnatomyView.Bones(setting);
        var frames = drawn.UnderSkin.Frames;
        Vector2 Place(MusclePlace p)
        {
            var at = camera.Project(frames.World(Sides.Id(p.Bone, side), Sides.Place(p.At, side)));
            return new(at.X, at.Y);
        }
        // A mistake made by less has its marks by as much less from the true ones.
        var key = wrong ? check.Key.Zip(check.WrongKey, (r, w) => Vector2.Lerp(Place(r), Place(w), (float)by)) : check.Key.Select(Place);
        return new(size, [.. layers.Select(l => l.Heavier(LinesOf / size))], wash, [.. key], check.Closed, wrong);
    }

    /// <summary>The figure with a check's mistake made, in its skin and under it.</summary>
    /// <param name="side">Where it is looked at, for what slips on one side alone.</param>
    /// <param name="step">Size of a cell of its mesh.</param>
    /// <param name="by">How much of it, 1 all.</param>
    public static FigureModel Mistaken(FigureModel model, BodyCheck check, int side, float step = StudioFigure.Fine, double by = 1)
    {
        AnatomyChange[] change = [.. check.Change.Select(c => c.By((float)by).On(side))];
        var body = change.Any(c => c.Form is not null)
            ? new Body(AnatomySet.WrongForms(FigureCatalogue.Tables, change), FigureCatalogue.Bodies, model.BodyId)
            : model.Skeleton.Body;
        return new(body, model.Pose, model.Clothed, step, AnatomySet.Wrong(change));
    }
}

/// <summary>A small drawing of a check: the truth with dots, the mistake with full triangles.</summary>
/// <param name="Wash">What lies under its lines; null where nothing does.</param>
public sealed record CheckDrawing(
    int Size,
    IReadOnlyList<ViewLayer> Layers,
    ColourPicture? Wash,
    IReadOnlyList<Vector2> Key,
    bool Closed,
    bool Wrong
)
{
    private const string Holds = "#2A7F68",
        Outside = "#B0472F";

    /// <summary>The same without the marks that tell which it is.</summary>
    public CheckDrawing Unmarked => this with { Key = [] };

    /// <param name="wash">Address of the wash; null leaves it out.</param>
    public string ToSvg(string? wash)
    {
        var svg = new StringBuilder($"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {Size} {Size}\">");
        if (wash is not null)
            svg.Append($"<image width=\"{Size}\" height=\"{Size}\" href=\"{wash}\"/>");
        foreach (var layer in Layers)
            svg.Append($"<path fill=\"{layer.Ink}\" d=\"{layer.Path()}\"/>");
        var ink = Wrong ? Outside : Holds;
        if (Key.Count > 1)
            svg.Append(
                $"<path fill=\"none\" stroke=\"{ink}\" stroke-width=\"1.6\" stroke-dasharray=\"5 3\" d=\"{Curves.Polyline(Key)}{(Closed ? "Z" : "")}\"/>"
            );
        foreach (var p in Key)
            svg.Append(
                Wrong
                    ? FormattableString.Invariant($"<path fill=\"{ink}\" d=\"M{p.X:0.#} {p.Y - 5:0.#}l5 8.6h-10z\"/>")
                    : FormattableString.Invariant($"<circle fill=\"{ink}\" cx=\"{p.X:0.#}\" cy=\"{p.Y:0.#}\" r=\"4\"/>")
            );
        return svg.Append("</svg>").ToString();
    }
}
