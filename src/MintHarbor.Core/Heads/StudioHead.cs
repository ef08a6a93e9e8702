using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Heads;

/// <summary>How a head is turned towards the person drawing, degrees.</summary>
/// <param name="Turn">Above 0: the face looks to picture right.</param>
/// <param name="Tilt">Above 0: the face looks down.</param>
/// <param name="Roll">Above 0: the crown leans to picture left.</param>
public sealed record HeadPose(double Turn, double Tilt = 0, double Roll = 0)
{
    /// <exception cref="InputException">Not finite, or tilted or rolled past 45°, turned past 180°.</exception>
    public HeadPose Checked(string field = "head")
    {
        if (!double.IsFinite(Turn) || Math.Abs(Turn) > 180)
            throw new InputException($"a turn of {Turn}°", $"{field}.turn", "−180 to 180 degrees, above 0 to picture right");
        if (!double.IsFinite(Tilt) || Math.Abs(Tilt) > 45)
            throw new InputException($"a tilt of {Tilt}°", $"{field}.tilt", "−45 to 45 degrees, above 0 down");
        if (!double.IsFinite(Roll) || Math.Abs(Roll) > 45)
            throw new InputException($"a roll of {Roll}°", $"{field}.roll", "−45 to 45 degrees");
        return this;
    }

    /// <summary>Turned about the neck first, then tilted, then rolled in the picture.</summary>
    internal Matrix4x4 Rotation
    {
        get
        {
            const float deg = MathF.PI / 180;
            return Matrix4x4.CreateRotationY((float)Turn * deg)
                * Matrix4x4.CreateRotationX((float)Tilt * deg)
                * Matrix4x4.CreateRotationZ((float)Roll * deg);
        }
    }
}

/// <summary>A sitter's head on a canon's levels, made ready to be drawn from any side. Places in hundredths of a head's height, origin
/// in its middle.</summary>
public sealed class HeadModel
{
    /// <summary>Units of a model to one head.</summary>
    public const float PerHead = 100;

    private readonly Dictionary<string, FigureLandmark> landmarks;
    private readonly HeadWarp warp;

    internal Mesh Mesh { get; }
    internal HeadSculpt Sculpt { get; }
    internal IReadOnlyList<HeadCurve> Curves { get; }
    internal IReadOnlyList<Vector3> Section { get; }
    public string Sitter { get; }
    public string Canon { get; }
    public IEnumerable<FigureLandmark> Landmarks => landmarks.Values;

    public FigureLandmark Landmark(string id) => landmarks[id];

    public int TriangleCount => Mesh.TriangleCount;

    /// <summary>Memory of its own; the sculpt is shared.</summary>
    public long Bytes => (Mesh.Places.LongLength * 24) + 60_000;

    internal HeadModel(HeadSculpt sculpt, HeadCanonRow canon, SitterRow sitter)
    {
        (Sculpt, Sitter, Canon) = (sculpt, sitter.Id, canon.Id);
        var levels = HeadTables.LevelNames.ToDictionary(
            n => n,
            n => sitter.Levels?.TryGetValue(n, out var own) == true ? own : canon.Levels[n]
        );
        warp = new(sculpt.Levels, levels, sitter);
        var modelled = sculpt.Mesh;
        var n = modelled.Places.Length;
        Vector3[] places = new Vector3[n],
            normals = new Vector3[n];
        var own = warp.OneSided ? n : n / 2;
        Parallel.For(0, (own + 4095) / 4096, block =>
        {
            for (var i = block * 4096; i < Math.Min(own, (block + 1) * 4096); i++)
                (places[i], normals[i]) = (warp.Place(modelled.Places[i]) * PerHead, warp.Normal(modelled.Places[i], modelled.Normals[i]));
        });
        for (var i = own; i < n; i++)
            (places[i], normals[i]) = (Sides.Place(places[i - own], -1), Sides.Place(normals[i - own], -1));
        Mesh = modelled with { Places = places, Normals = normals };
        landmarks = sculpt
            .Landmarks.Values.Select(l => l with { Place = warp.Place(l.Place) * PerHead, Normal = warp.Normal(l.Place, l.Normal) })
            .ToDictionary(l => l.Id);
        Section = [.. sculpt.Section.Select(p => warp.Place(p) * PerHead)];
        Curves = [.. sculpt.Curves.Select(Warped)];
    }

    /// <summary>The same head, otherwise drawn: some of its curves left out, others added.</summary>
    internal HeadModel(HeadModel of, IReadOnlyCollection<string> without, IEnumerable<HeadCurve> more)
    {
        (Sculpt, Sitter, Canon, Mesh, Section, landmarks, warp) = (
            of.Sculpt,
            of.Sitter,
            of.Canon,
            of.Mesh,
            of.Section,
            of.landmarks,
            of.warp
        );
        Curves = [.. of.Curves.Where(c => !without.Contains(Figure.Sides.Stem(c.Id))), .. more.Select(Warped)];
    }

    /// <summary>A place of the sculpt's front, half heads from the middle and up, on this head.</summary>
    internal Vector3 FromFront(float x, float y) => warp.Place(Sculpt.Field.FromFront(x, y)) * PerHead;

    private HeadCurve Warped(HeadCurve c) => c with { Places = [.. c.Places.Select(p => warp.Place(p) * PerHead)] };
}

/// <summary>The studio's head: sitters on canons, drawn from any side. Sculpts and the models used last are kept.</summary>
/// <param name="coarser">Factor of the mesh's steps: 1 for drawings; lids fray a little at 1.6.</param>
/// <param name="kept">How many sitters are kept.</param>
public sealed class StudioHead(float coarser = 1, int kept = 8)
{
    /// <summary>Steps for previews and small pictures.</summary>
    public const float Coarse = 1.6f;

    private readonly Lock gate = new();
    private readonly Dictionary<string, Lazy<HeadSculpt>> sculpts = [];
    private readonly LinkedList<(string Key, Lazy<HeadModel> Model)> byUse = new();

    /// <param name="sitter">A sitter's id, or a named fault's.</param>
    /// <exception cref="InputException">No sitter or canon of that id.</exception>
    public HeadModel Model(string sitter = "classical", string canon = "classical-head")
    {
        var t = HeadCatalogue.Tables;
        var row = t.Sitters.Concat(t.Faults).FirstOrDefault(s => s.Id == sitter)
            ?? throw new InputException($"there is no sitter '{sitter}'", "sitter", string.Join(" | ", t.Sitters.Select(s => s.Id)));
        var levels = t.Canons.FirstOrDefault(c => c.Id == canon)
            ?? throw new InputException($"there is no canon '{canon}' of heads", "canon", string.Join(" | ", t.Canons.Select(c => c.Id)));
        return Model(row, levels);
    }

    /// <summary>A head on levels of its own.</summary>
    /// <exception cref="InputException">Levels that no head has.</exception>
    public HeadModel Model(HeadLevels levels) => Model(levels.Checked().Sitter, levels.Row);

    internal HeadModel Model(SitterRow row, HeadCanonRow levels)
    {
        var key = $"{row.Id}|{levels.Id}";
        Lazy<HeadModel> model;
        lock (gate)
        {
            var node = byUse.First;
            while (node is not null && node.Value.Key != key)
                node = node.Next;
            if (node is not null)
                byUse.Remove(node);
            else
                node = new((key, new(() => new HeadModel(Sculpt(row.Sculpt), levels, row))));
            byUse.AddFirst(node);
            while (byUse.Count > kept)
                byUse.RemoveLast();
            model = node.Value.Model;
        }
        return model.Value;
    }

    private HeadSculpt Sculpt(string id)
    {
        Lazy<HeadSculpt> sculpt;
        lock (gate)
        {
            if (!sculpts.TryGetValue(id, out sculpt!))
                sculpt = sculpts[id] = new(() => new(HeadCatalogue.Tables, HeadCatalogue.Tables.Sculpts.First(s => s.Id == id), coarser));
        }
        return sculpt.Value;
    }

    /// <summary>Draws a head in parallel view, its height 60 % of the picture's: every kind lies over the others to the pixel.</summary>
    /// <param name="values">For tone: 0 soft, else 3, 5 or 9 steps.</param>
    /// <param name="lamp">From the viewer's side: azimuth 0 from the eye, below 0 from picture left.</param>
    /// <exception cref="InputException">A pose, size or count of values that can't be drawn.</exception>
    public static FigureView View(
        HeadModel model,
        HeadPose pose,
        FigureViewKind kind,
        int width = 480,
        int height = 600,
        int values = 0,
        Lamp? lamp = null,
        int finer = 2
    )
    {
        pose.Checked();
        FigureView.CheckSize(width, height, values);
        if (kind is FigureViewKind.Bones or FigureViewKind.Muscles or FigureViewKind.Ecorche)
            throw new InputException("a head alone has no anatomy", "kind", "line, mass, construction, tone, tone3, tone5 or tone9");
        Matrix4x4.Invert(pose.Rotation, out var back);
        Vector3 Into(Vector3 v) => Vector3.TransformNormal(v, back);
        var light = Into((lamp ?? new Lamp(-42, 42)).Checked().Direction);
        SeatCamera Camera(int times) =>
            SeatCamera.Parallel(
                Into(Vector3.UnitX),
                Into(Vector3.UnitY),
                height * times * Filled / HeadModel.PerHead,
                width * times / 2f,
                height * times * FromTop,
                width * times,
                height * times
            );
        var depth = new DepthPicture(Camera(1), model.Mesh);
        IReadOnlyList<LineStroke> strokes = [];
        IReadOnlyList<IReadOnlyList<Vector2>> mass = [];
        IReadOnlyList<ConstructionLine> construction = [];
        TonePicture? tone = null;
        switch (kind)
        {
            case FigureViewKind.Line:
                strokes = Lines(model, depth, light);
                break;
            case FigureViewKind.Mass:
                mass = MassView.Loops(depth);
                break;
            case FigureViewKind.Construction:
                (mass, construction) = (MassView.Loops(depth), HeadConstruction.Draw(model, depth.Camera));
                break;
            default:
                var large = finer == 1 ? depth : new DepthPicture(Camera(finer), model.Mesh);
                var shadow = new ShadowMap(light, [model.Mesh], LitLow, LitHigh);
                tone = ToneView.Draw(large, shadow, values, finer, o =>
                    Iris(model.Sculpt.Field.Eye, large.Blend(o, model.Sculpt.Mesh.Places))
                );
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
            Landmarks = model.Landmarks.ToDictionary(l => l.Id, l => Seen(l, depth)),
            Limbs = [],
            Action = [],
        };
    }

    /// <summary>A part of a head seen large, in line over its tone, or in one of them.</summary>
    /// <param name="noShadows">Lit without what one form throws on the next.</param>
    internal static (IReadOnlyList<LineStroke> Strokes, ColourPicture? Tone) CloseUp(
        HeadModel model,
        HeadPose pose,
        HeadCloseUp part,
        bool line,
        bool tone,
        bool noShadows
    )
    {
        Matrix4x4.Invert(pose.Rotation, out var back);
        var light = Vector3.TransformNormal(new Lamp(-42, 42).Direction, back);
        var depth = new DepthPicture(part.Camera(pose, 1), model.Mesh);
        var strokes = line ? Lines(model, depth, light) : [];
        if (!tone)
            return (strokes, null);
        const int finer = 2;
        var large = new DepthPicture(part.Camera(pose, finer), model.Mesh);
        var shadow = new ShadowMap(light, noShadows ? [] : [model.Mesh], LitLow, LitHigh);
        var picture = ToneView.Draw(large, shadow, 0, finer, o => Iris(model.Sculpt.Field.Eye, large.Blend(o, model.Sculpt.Mesh.Places)));
        return (strokes, picture.Washed(line ? 0.5f : 0));
    }

    /// <summary>Where a place of a head lies in its view.</summary>
    internal static Vec2 OnPicture(Matrix4x4 rotation, Vector3 place, int width, int height)
    {
        var p = Vector3.TransformNormal(place, rotation);
        var scale = height * Filled / HeadModel.PerHead;
        return new((width / 2.0) + (p.X * scale), (height * FromTop) - (p.Y * scale));
    }

    /// <summary>Share of the picture's height that the head fills, and at which its middle lies.</summary>
    private const float Filled = 0.6f,
        FromTop = 0.42f;

    private static readonly Vector3 LitLow = new(-75, -106, -62),
        LitHigh = new(75, 62, 56);

    private static IReadOnlyList<LineStroke> Lines(HeadModel model, DepthPicture depth, Vector3 light) =>
        LineView.Draw(depth, [0], light, model.Curves.Select(c => (c.Places, c.Weight)), [], new(false, 1.4f, 0.9f, 0.32f));

    /// <summary>Where the skull's outline lies to either side at the level of the eyes, as the head is turned: the sides that a draughtsman
    /// marks, which are the skull's own only from the front. Picture x, left and right.</summary>
    public static (double Left, double Right) Sides(HeadModel model, HeadPose pose, int width = 480, int height = 600)
    {
        var right = Vector3.TransformNormal(
            Vector3.UnitX,
            Matrix4x4.Invert(pose.Checked().Rotation, out var back) ? back : Matrix4x4.Identity
        );
        var across = model.Section.Select(p => Vector3.Dot(p, right)).ToList();
        var scale = height * Filled / HeadModel.PerHead;
        return ((width / 2.0) + (across.Min() * scale), (width / 2.0) + (across.Max() * scale));
    }

    private static SeenLandmark Seen(FigureLandmark l, DepthPicture depth)
    {
        var row = HeadCatalogue.Landmark(l.Id);
        var p = depth.Camera.Project(l.Place);
        var facing = Vector3.Dot(l.Normal, depth.Camera.ToEye(l.Place));
        // In the corner of an eye or a mouth the normal says nothing: the surface folds there.
        var visible =
            row.UnderHair ? facing > -0.3f
            : row.Recessed ? depth.IsSeen(p, 3)
            : facing > -0.1f && depth.IsSeen(p, 1.2f);
        return new(new(p.X, p.Y), visible);
    }

    /// <summary>How light the eye is: iris, its rim and the pupil darker than the ball, and one light on the lamp's side. By the place on
    /// the sculpt, so that it stays round whatever the sitter.</summary>
    private static float Iris(EyeRow eye, Vector3 p)
    {
        var side = p.X;
        var r = p with { X = MathF.Abs(p.X) } - eye.At;
        if (r.Z <= 0 || MathF.Abs(r.Length() - eye.Radius) > 0.0022f)
            return 1;
        var up = r.Y - eye.PupilY;
        float gleamX = r.X + (side > 0 ? 0.010f : -0.010f),
            gleamY = up - 0.011f;
        if ((gleamX * gleamX) + (gleamY * gleamY) < 0.0055f * 0.0055f)
            return 1.12f;
        float away = MathF.Sqrt((r.X * r.X) + (up * up)),
            rim = (away - eye.Iris) / 0.0025f;
        float Inside(float radius) => 1 - HeadField.Step(radius - 0.0016f, radius + 0.0016f, away);
        return 1 - (0.26f * Inside(eye.Iris)) - (0.16f * MathF.Exp(-rim * rim)) - (0.42f * Inside(eye.Pupil));
    }
}

/// <summary>A square picture of a part of a head.</summary>
/// <param name="Middle">What lies in its middle, units.</param>
/// <param name="Half">Half its side, units.</param>
/// <param name="Size">Pixels a side.</param>
internal sealed record HeadCloseUp(Vector3 Middle, float Half, int Size)
{
    public SeatCamera Camera(HeadPose pose, int times)
    {
        Matrix4x4.Invert(pose.Rotation, out var back);
        Vector3 right = Vector3.TransformNormal(Vector3.UnitX, back),
            up = Vector3.TransformNormal(Vector3.UnitY, back);
        float side = Size * times,
            scale = side / (2 * Half);
        return SeatCamera.Parallel(
            right,
            up,
            scale,
            (side / 2) - (Vector3.Dot(Middle, right) * scale),
            (side / 2) + (Vector3.Dot(Middle, up) * scale),
            Size * times,
            Size * times
        );
    }

    public Vector2 Project(HeadPose pose, Vector3 place)
    {
        var p = Camera(pose, 1).Project(place);
        return new(p.X, p.Y);
    }
}

/// <summary>The heads that ship with the core, read and checked once.</summary>
public static class HeadCatalogue
{
    private static readonly Lazy<HeadTables> LazyTables = new(() => HeadTables.Read("heads/head.json", FigureFile.Resource("heads/head")));
    private static readonly Lazy<Dictionary<string, HeadLandmarkRow>> ById = new(() =>
        Tables.Landmarks.SelectMany(l => Sides.Of(l.Id).Select(s => (Id: Sides.Id(l.Id, s), l))).ToDictionary(l => l.Id, l => l.l)
    );

    public static HeadTables Tables => LazyTables.Value;
    public static IReadOnlyList<SitterRow> Sitters => Tables.Sitters;

    internal static HeadLandmarkRow Landmark(string id) => ById.Value[id];

    /// <summary>Reads everything, so that a damaged file stops the start and not the first page.</summary>
    /// <exception cref="FigureFileException">The first thing that is wrong.</exception>
    public static void Check() => _ = (Tables, HeadChecks.All);
}
