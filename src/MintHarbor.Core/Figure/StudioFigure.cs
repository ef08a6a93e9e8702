using System.Numerics;
using System.Security.Cryptography;
using System.Text;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Figure;

/// <summary>Whether the figure wears the plain garment. It can't be made undraped for a course of minors: there is no other way to get
/// a view than through this value, and it decides.</summary>
public readonly record struct Drapery
{
    private readonly bool undraped;

    /// <summary>A value that nobody decided is clothed.</summary>
    public bool Clothed => !undraped;

    private Drapery(bool clothed) => undraped = !clothed;

    /// <param name="minors">The view is for a course with anyone under 18: always clothed.</param>
    /// <param name="wanted">Whether the course wants the garment.</param>
    public static Drapery For(bool minors, bool wanted) => new(minors || wanted);
}

public enum FigureViewKind
{
    Line,
    Tone,
    Mass,
    Construction,

    /// <summary>The bones in line, inside the outline.</summary>
    Bones,

    /// <summary>The muscles in line, with the run of their fibres.</summary>
    Muscles,

    /// <summary>The muscles in tone.</summary>
    Ecorche,
}

/// <summary>A limb from this seat: seen length over the length it would have square to the eye at its own distance.</summary>
/// <param name="Name">In plain words.</param>
public sealed record Foreshortening(string Id, string Name, double Ratio);

/// <summary>A projected landmark, picture pixels.</summary>
public readonly record struct SeenLandmark(Vec2 At, bool Visible);

/// <summary>A view of the figure: drawn lines, shape or values; every kind of one seat lies over the others to the pixel.</summary>
public sealed record FigureView
{
    public required int Width { get; init; }
    public required int Height { get; init; }
    public required FigureViewKind Kind { get; init; }
    public IReadOnlyList<LineStroke> Strokes { get; init; } = [];
    public IReadOnlyList<IReadOnlyList<Vector2>> Mass { get; init; } = [];
    public IReadOnlyList<ConstructionLine> Construction { get; init; } = [];
    public TonePicture? Tone { get; init; }

    /// <summary>Bones and muscles in line: what is drawn in which ink, the last on top.</summary>
    public IReadOnlyList<ViewLayer> Layers { get; init; } = [];

    /// <summary>The wash under those lines, or the whole picture where it is one in tone and colour.</summary>
    public ColourPicture? Colours { get; init; }
    public required IReadOnlyDictionary<string, SeenLandmark> Landmarks { get; init; }
    public required IReadOnlyList<Foreshortening> Limbs { get; init; }

    /// <summary>The line of action in picture pixels.</summary>
    public required IReadOnlyList<Vec2> Action { get; init; }

    /// <exception cref="InputException">A size or count of values that can't be drawn.</exception>
    internal static void CheckSize(int width, int height, int values)
    {
        if (width is < 40 or > 2000 || height is < 40 or > 2000)
            throw new InputException($"a picture of {width} × {height} pixels can't be drawn", "width", "40 to 2000 pixels a side");
        if (values is not (0 or 3 or 5 or 9))
            throw new InputException($"{values} values", "values", "0 (soft), 3, 5 or 9");
    }

    /// <summary>Values or colours, not lines: its pixels are encoded elsewhere.</summary>
    public bool IsPixels => Kind is FigureViewKind.Tone or FigureViewKind.Ecorche;

    public string MassPath => Curves.Loops(Mass);

    /// <summary>One filled path of every line.</summary>
    public string LinePath() => Curves.Ribbons(Strokes);

    /// <summary>A picture that stands alone. Tone has none: its pixels are encoded elsewhere.</summary>
    /// <param name="ink">Colour of lines and mass.</param>
    /// <param name="wash">Address of <see cref="Colours"/> where they lie under lines; null leaves them out.</param>
    public string ToSvg(string ink = "#22302E", string? wash = null)
    {
        var svg = new StringBuilder($"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {Width} {Height}\">");
        switch (Kind)
        {
            case FigureViewKind.Line:
                svg.Append($"<path fill=\"{ink}\" d=\"").Append(LinePath()).Append("\"/>");
                break;
            case FigureViewKind.Mass:
                svg.Append($"<path fill=\"{ink}\" fill-rule=\"evenodd\" d=\"").Append(MassPath).Append("\"/>");
                break;
            case FigureViewKind.Bones or FigureViewKind.Muscles:
                if (wash is not null)
                    svg.Append($"<image width=\"{Width}\" height=\"{Height}\" href=\"{wash}\"/>");
                foreach (var layer in Layers)
                    svg.Append(LayerSvg(layer));
                break;
            case FigureViewKind.Construction:
                svg.Append("<path fill=\"#E4DDCB\" fill-rule=\"evenodd\" d=\"")
                    .Append(MassPath)
                    .Append("\"/><g fill=\"none\" stroke-linecap=\"round\">");
                foreach (var c in Construction)
                    svg.Append(ConstructionSvg(c, Height / 720f));
                svg.Append("</g>");
                break;
            default:
                throw new InvalidOperationException("a view in tone is pixels");
        }
        return svg.Append("</svg>").ToString();
    }

    private static string LayerSvg(ViewLayer layer)
    {
        var opacity = layer.Opacity < 1 ? FormattableString.Invariant($" opacity=\"{layer.Opacity:0.##}\"") : "";
        return $"<path fill=\"{layer.Ink}\"{opacity} d=\"{layer.Path()}\"/>";
    }

    private static string ConstructionSvg(ConstructionLine c, float unit)
    {
        if (c.Role == "joint")
            return FormattableString.Invariant(
                $"<circle cx=\"{c.Places[0].X:0.#}\" cy=\"{c.Places[0].Y:0.#}\" r=\"{3.2f * unit:0.##}\" stroke=\"#12454A\" stroke-width=\"{1.4f * unit:0.##}\"/>"
            );
        var (colour, width, dash) = c.Role switch
        {
            "egg" or "box" or "axis" or "ball" or "jaw" => ("#12454A", 1.5f, ""),
            "cross" or "side" or "ear" => ("#12454A", 0.9f, ""),
            "cross-heavy" => ("#12454A", 1.5f, ""),
            "hair" or "neck" => ("#22302E", 1.1f, ""),
            "tilt" or "median" => ("#B0472F", 1.7f, ""),
            "action" => ("#2A7F68", 2.6f, ""),
            _ => ("#22302E", 0.9f, " stroke-dasharray=\"1 3\""),
        };
        return FormattableString.Invariant(
            $"<path stroke=\"{colour}\" stroke-width=\"{width * unit:0.##}\"{dash} d=\"{Curves.Polyline(c.Places)}{(c.Closed ? "Z" : "")}\"/>"
        );
    }
}

/// <summary>The studio's figure: makes models and draws views of them, keeping the models within a budget of memory.</summary>
/// <param name="budget">Bytes of models that are kept; the least recently used go first.</param>
public sealed class StudioFigure(long budget = 96L << 20)
{
    /// <summary>Grid step of a drawing, of a preview and of a picture no larger than a thumb, units.</summary>
    public const float Fine = 0.45f,
        Coarse = 0.6f,
        Thumb = 0.9f;

    private static readonly (string Id, string Name, string From, string To)[] LimbTable =
    [
        ("upper-arm", "upper arm", "arm", "fore"),
        ("forearm", "forearm", "fore", "hand"),
        ("hand", "hand", "hand", "tips"),
        ("thigh", "thigh", "hip", "knee"),
        ("shank", "lower leg", "knee", "foot"),
        ("foot", "foot", "foot", "toe"),
    ];

    private readonly Lock gate = new();
    private readonly Dictionary<string, LinkedListNode<(string Key, Lazy<FigureModel> Model)>> kept = [];
    private readonly LinkedList<(string Key, Lazy<FigureModel> Model)> byUse = new();

    /// <summary>The model of a body in a pose; made once, by one of those who ask at the same time.</summary>
    public FigureModel Model(string body, Pose pose, Drapery drapery, float step = Fine)
    {
        var made = FigureCatalogue.Body(body);
        var key = $"{body}|{drapery.Clothed}|{step}|{Key(pose)}";
        Lazy<FigureModel> model;
        lock (gate)
        {
            if (kept.TryGetValue(key, out var node))
                byUse.Remove(node);
            else
                node = kept[key] = new((key, new(() => new FigureModel(made, pose, drapery.Clothed, step))));
            byUse.AddFirst(node);
            model = node.Value.Model;
        }
        var result = model.Value;
        Trim();
        return result;
    }

    /// <summary>A name for a pose by its content: what caches and addresses go by.</summary>
    public static string Key(Pose pose) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(pose.ToJson())))[..20];

    public long BytesKept
    {
        get
        {
            lock (gate)
                return byUse.Where(m => m.Model.IsValueCreated).Sum(m => m.Model.Value.Bytes);
        }
    }

    private void Trim()
    {
        lock (gate)
        {
            long sum = 0;
            for (var node = byUse.First; node is not null; )
            {
                var next = node.Next;
                if (node.Value.Model.IsValueCreated && (sum += node.Value.Model.Value.Bytes) > budget && node != byUse.First)
                {
                    byUse.Remove(node);
                    kept.Remove(node.Value.Key);
                }
                node = next;
            }
        }
    }

    /// <summary>Draws a model from a seat.</summary>
    /// <param name="values">For tone: 0 soft, else 3, 5 or 9 steps.</param>
    /// <param name="part">Only this part of the body, large.</param>
    /// <exception cref="InputException">A seat, size or count of values that can't be drawn.</exception>
    public static FigureView View(
        FigureModel model,
        Seat seat,
        FigureViewKind kind,
        int width = 480,
        int height = 720,
        int values = 0,
        Lamp? lamp = null,
        int finer = 2,
        CloseUp? part = null
    )
    {
        seat.Checked();
        FigureView.CheckSize(width, height, values);
        CheckDressed(model, kind);
        var light = (lamp ?? Lamp.BesideEye(seat)).Checked().Direction;
        SeatCamera Finer(int times) => Camera(model, seat, width * times, height * times, part);
        var camera = Finer(1);
        Mesh[] meshes = [model.Mesh, .. model.Solids.Select(s => s.Mesh)];
        var depth = new DepthPicture(camera, meshes);
        IReadOnlyList<LineStroke> strokes = [];
        IReadOnlyList<IReadOnlyList<Vector2>> mass = [];
        IReadOnlyList<ConstructionLine> construction = [];
        TonePicture? tone = null;
        IReadOnlyList<ViewLayer> layers = [];
        ColourPicture? colours = null;
        AnatomyView.Setting Setting() => new(model, Finer(AnatomyView.Finer), light, depth);
        switch (kind)
        {
            case FigureViewKind.Bones:
                (layers, colours) = AnatomyView.Bones(Setting());
                break;
            case FigureViewKind.Muscles:
                (layers, colours) = AnatomyView.Muscles(Setting());
                break;
            case FigureViewKind.Ecorche:
                colours = EcorcheView.Draw(model, Finer(AnatomyView.Finer), light);
                break;
            case FigureViewKind.Line:
                strokes = LineView.Draw(depth, model, light, close: part is not null);
                break;
            case FigureViewKind.Mass:
                mass = MassView.Loops(depth);
                break;
            case FigureViewKind.Construction:
                (mass, construction) = (MassView.Loops(depth), ConstructionView.Draw(model, camera));
                break;
            default:
                var shadow = new ShadowMap(light, meshes, model.Low, model.High);
                var large = finer == 1 ? depth : new DepthPicture(Finer(finer), meshes);
                tone = ToneView.Draw(large, shadow, values, finer);
                break;
        }
        return new()
        {
            Width = width,
            Height = height,
            Kind = kind,
            Strokes = strokes,
            Mass = mass,
            Construction = construction,
            Tone = tone,
            Layers = layers,
            Colours = colours,
            Landmarks = model.Landmarks.ToDictionary(l => l.Id, l => Seen(l, depth, model.MetresPerUnit * 100)),
            Limbs = Limbs(model, camera),
            Action = [.. ConstructionView.ActionLine(model, camera).Select(p => new Vec2(p.X, p.Y))],
        };
    }

    /// <summary>Kinds that a figure in the garment isn't drawn in.</summary>
    public static bool IsUndraped(FigureViewKind kind) => kind is FigureViewKind.Muscles or FigureViewKind.Ecorche;

    /// <summary>The picture from a seat: of the whole figure with what it rests on, or of a part.</summary>
    internal static SeatCamera Camera(FigureModel model, Seat seat, int width, int height, CloseUp? part) =>
        part?.Camera(model, seat, width, height) ?? SeatCamera.Fit(seat, model.MetresPerUnit, width, height, model.Places);

    /// <exception cref="InputException">Muscles of a figure that wears the garment: inside its outline bones are drawn, and nothing else.</exception>
    internal static void CheckDressed(FigureModel model, FigureViewKind kind)
    {
        if (model.Clothed && IsUndraped(kind))
            throw new InputException("muscles are not drawn under the garment", "kind", "bones, or a view without it");
    }

    /// <summary>How far from the outline a landmark still lies on it, and how far behind what is seen there, units.</summary>
    private const float OnOutline = 0.6f,
        BehindOutline = 6;

    /// <summary>Cosine from which a surface faces the eye: what hides it then is something else.</summary>
    private const float Facing = 0.25f;

    /// <summary>A landmark is seen where somebody who draws would set it down: where its surface is seen, or lies under a turned-away one by less than a
    /// centimetre; on the outline; and, of crown, sole and the joints, where what is seen of the limb is no thicker than it is there.</summary>
    private static SeenLandmark Seen(FigureLandmark l, DepthPicture depth, float centimetresPerUnit)
    {
        var p = depth.Camera.Project(l.Place);
        var (near, facing) = (1 / centimetresPerUnit, Vector3.Dot(l.Normal, depth.Camera.ToEye(l.Place)) > Facing);
        var visible =
            !l.Buried
            && (
                depth.IsSeen(p, facing ? near : MathF.Max(l.Through, near))
                || (!facing && depth.IsOutline(p, OnOutline * depth.Camera.Focal / p.Z, BehindOutline))
            );
        return new(new(p.X, p.Y), visible);
    }

    private static List<Foreshortening> Limbs(FigureModel model, SeatCamera camera) => Limbs(model.Skeleton, camera);

    internal static IReadOnlyList<Foreshortening> LimbsOf(FigureModel model, SeatCamera camera) => Limbs(model, camera);

    /// <summary>Limbs of a pose from a side without drawing it, from 4.4 m and an eye at two thirds of the height, where the shipped
    /// views were drawn from.</summary>
    internal static IReadOnlyList<Foreshortening> LimbsFrom(string body, string pose, double azimuth)
    {
        var (s, camera) = Setting(body, pose, azimuth);
        return Limbs(s, camera);
    }

    /// <summary>Skeleton and camera of a shipped view, but for where its frame lies.</summary>
    internal static (Skeleton Skeleton, SeatCamera Camera) Setting(string body, string pose, double azimuth)
    {
        var s = Skeleton.Solve(FigureCatalogue.Body(body), FigureCatalogue.Pose(pose));
        var metres = s.Body.CentimetresPerUnit / 100;
        return (s, SeatCamera.Fit(new(azimuth, 250 * metres, 67 * metres), metres, 240, 360, [s.Joint]));
    }

    /// <summary>Seen over true length of every limb, those with the most foreshortening first.</summary>
    private static List<Foreshortening> Limbs(Skeleton s, SeatCamera camera)
    {
        return
        [
            .. from side in new[] { ".L", ".R" }
            from limb in LimbTable
            let a = s.Joint[s.Body.BoneIndex(limb.From + side)]
            let b = s.Joint[s.Body.BoneIndex(limb.To + side)]
            let pa = camera.Project(a)
            let pb = camera.Project(b)
            let seen = new Vector2(pa.X - pb.X, pa.Y - pb.Y).Length()
            let whole = camera.Focal * Vector3.Distance(a, b) / ((pa.Z + pb.Z) / 2)
            let ratio = Math.Min(1.0, seen / whole)
            orderby ratio
            select new Foreshortening(limb.Id + side, (side == ".L" ? "left " : "right ") + limb.Name, ratio),
        ];
    }
}

/// <summary>The bodies and poses that ship with the core, read and checked once.</summary>
public static class FigureCatalogue
{
    private static readonly Lazy<FigureTables> LazyTables = new(() =>
        FigureTables.Read("figure/body.json", FigureFile.Resource("figure/body"))
    );
    private static readonly Lazy<IReadOnlyList<BodyRow>> LazyBodies = new(() =>
        BodyRow.ReadAll("figure/bodies.json", FigureFile.Resource("figure/bodies"), Tables)
    );
    private static readonly Lazy<IReadOnlyList<Pose>> LazyPoses = new(() =>
        Figure.Pose.ReadAll("figure/poses.json", FigureFile.Resource("figure/poses"), Tables)
    );
    private static readonly Dictionary<string, Body> Made = [];

    public static FigureTables Tables => LazyTables.Value;
    public static IReadOnlyList<BodyRow> Bodies => LazyBodies.Value;
    public static IReadOnlyList<Pose> Poses => LazyPoses.Value;

    /// <exception cref="InputException">No pose of that id.</exception>
    public static Pose Pose(string id) =>
        Poses.FirstOrDefault(p => p.Id == id)
        ?? throw new InputException($"there is no pose '{id}'", "pose", string.Join(", ", Poses.Select(p => p.Id)));

    /// <exception cref="InputException">No body of that id.</exception>
    public static Body Body(string id)
    {
        lock (Made)
            return Made.TryGetValue(id, out var b) ? b : Made[id] = new(Tables, Bodies, id);
    }

    /// <summary>Reads everything, so that a damaged file stops the start and not the first page.</summary>
    /// <exception cref="FigureFileException">The first thing that is wrong.</exception>
    public static void Check()
    {
        foreach (var b in Bodies)
            Body(b.Id);
        _ = Poses.Count;
    }
}
