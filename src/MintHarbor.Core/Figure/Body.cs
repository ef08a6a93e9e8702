using System.Numerics;
using System.Text.Json.Serialization;

namespace MintHarbor.Core.Figure;

/// <param name="On">Whether a form that a table leaves out is there.</param>
/// <param name="Girth">Factor on the form's thickness.</param>
/// <param name="Move">Shift of the form, in rest units.</param>
public sealed record FormChange(bool? On = null, float Girth = 1, Vector3? Move = null);

/// <summary>A proportion set: how a body departs from the tables. <paramref name="Like"/> inherits another body's changes and
/// multiplies its scales.</summary>
/// <param name="Stature">Height in centimetres.</param>
/// <param name="Heads">Height in heads that the head is scaled to; null keeps the measured head.</param>
/// <param name="Scale">Breadth, length and depth by region.</param>
public sealed record BodyRow(
    string Id,
    string Name,
    string Build,
    float Stature,
    string? Like = null,
    float? Heads = null,
    Dictionary<string, Vector3>? Scale = null,
    Dictionary<string, FormChange>? Forms = null
)
{
    /// <summary>Reads and checks a file of bodies against the tables.</summary>
    /// <exception cref="FigureFileException">Anything wrong, with the file and the line or key.</exception>
    public static IReadOnlyList<BodyRow> ReadAll(string file, string json, FigureTables tables)
    {
        var rows = FigureFile.Parse<BodyRow[]>(file, json);
        var regions = tables.Bones.Select(b => b.Region).ToHashSet(StringComparer.Ordinal);
        var forms = tables.Forms.Select(f => f.Id).ToHashSet(StringComparer.Ordinal);
        foreach (var b in rows)
        {
            if (b.Like is { } like && rows.All(r => r.Id != like))
                throw new FigureFileException(file, $"{b.Id}.like", $"there is no body '{like}'");
            if (b.Stature is < 130 or > 220)
                throw new FigureFileException(file, $"{b.Id}.stature", $"{b.Stature} cm; the studio has adults of 130 to 220 cm only");
            foreach (var (region, by) in b.Scale ?? [])
            {
                if (!regions.Contains(region))
                    throw new FigureFileException(
                        file,
                        $"{b.Id}.scale.{region}",
                        $"there is no such region; the regions are {string.Join(", ", regions)}"
                    );
                if (by.X is < 0.5f or > 2 || by.Y is < 0.5f or > 2 || by.Z is < 0.5f or > 2)
                    throw new FigureFileException(file, $"{b.Id}.scale.{region}", "every factor lies between 0.5 and 2");
            }
            foreach (var form in (b.Forms ?? []).Keys)
            {
                if (!forms.Contains(form))
                    throw new FigureFileException(file, $"{b.Id}.forms.{form}", "there is no such form in the tables");
            }
        }
        return rows;
    }
}

internal sealed class Bone
{
    public required string Id { get; init; }
    public required int Parent { get; init; }
    public required Vector3 Rest { get; init; }
    public required JointAngle[] Angles { get; init; }
    public required string Region { get; init; }
    public required int Side { get; init; }

    /// <summary>The bone whose angles this one takes, <see cref="Times"/> as large; its own id where it follows none.</summary>
    public required string Leader { get; init; }
    public required float Times { get; init; }

    /// <summary>Breadth, length and depth against the tables, stature included.</summary>
    public Vector3 Scale { get; set; }

    /// <summary>From the parent's joint, in its frame.</summary>
    public Vector3 Offset { get; set; }
}

internal enum FormShape
{
    Ellipsoid,
    Cone,
    Loft,
    Sweep,
}

/// <summary>A form with its places in the frames of its bones, scaled to one body.</summary>
internal sealed class Form
{
    public required string Id { get; init; }
    public required string GroupId { get; init; }
    public required int Group { get; init; }
    public required FormShape Shape { get; init; }
    public required bool Carve { get; init; }
    public required float Blend { get; init; }

    /// <summary>Small: the surface near it is cut into cells of half the size.</summary>
    public bool Fine { get; init; }
    public int A { get; init; }
    public int B { get; init; }
    public int SharedWith { get; init; } = -1;
    public int EndFrame { get; init; }
    public bool TwistOnly { get; init; }
    public bool Upright { get; init; }
    public Vector3 At { get; init; }
    public Vector3 To { get; init; }
    public Vector3 Radii { get; init; }
    public Vector3 Turn { get; init; }
    public float Radius { get; init; }
    public float ToRadius { get; init; }
    public float Power { get; init; } = 2;
    public float CapA { get; init; }
    public float CapB { get; init; }
    public float[][] Sections { get; init; } = [];
    public (int Bone, Vector3 At, float RestY)[] Path { get; init; } = [];
}

internal sealed record Group(
    string Id,
    int Source,
    int Target,
    bool Carve,
    float Blend,
    float BlendNear,
    int NearBone,
    Vector3 Near,
    float Radius
);

/// <summary>One proportion set made ready: bones, forms, landmarks, masses, all scaled so that the body stands 100 units tall.</summary>
public sealed class Body
{
    private readonly Dictionary<string, int> index = [];
    private readonly Dictionary<string, Vector3> scales;
    private readonly float unify;

    public BodyRow Row { get; }
    public FigureTables Tables { get; }
    public string Id => Row.Id;

    /// <summary>Centimetres in one unit.</summary>
    public float CentimetresPerUnit => Row.Stature / 100;

    internal List<Bone> Bones { get; } = [];
    internal List<Form> Forms { get; } = [];
    internal List<Group> Groups { get; } = [];
    internal Dictionary<string, int> Accumulators { get; } = [];
    internal List<(string Id, int Bone, Vector3 At, float Through)> Landmarks { get; } = [];
    internal List<(int Bone, Vector3 At, float Share)> Masses { get; } = [];

    internal Body(FigureTables tables, IReadOnlyList<BodyRow> rows, string id)
    {
        Tables = tables;
        Row = Worn(tables, rows, id);
        scales = Row.Scale ?? [];
        foreach (var b in tables.Bones)
        {
            foreach (var s in Sides.Of(b.Id))
            {
                index[Sides.Id(b.Id, s)] = Bones.Count;
                Bones.Add(
                    new()
                    {
                        Id = Sides.Id(b.Id, s),
                        Parent = b.Parent.Length == 0 ? -1 : index[Sides.Id(b.Parent, s)],
                        Rest = Sides.Place(b.At, s),
                        Angles = tables.Kinds[b.Kind],
                        Region = b.Region,
                        Side = s,
                        Leader = Sides.Id(b.Follows ?? b.Id, s),
                        Times = b.Times,
                    }
                );
            }
        }
        unify = ScaleBones();
        foreach (var g in tables.Groups)
        foreach (var s in Sides.Of(g.Id))
            AddGroup(g, s);
        foreach (var f in tables.Forms)
        {
            var change = Row.Forms?.GetValueOrDefault(f.Id);
            if (!(change?.On ?? f.On))
                continue;
            foreach (var s in Sides.Of(f.Id))
                Forms.Add(MakeForm(f, s, change));
        }
        foreach (var m in tables.Masses)
        foreach (var s in Sides.Of(m.Id))
        {
            var b = BoneIndex(Sides.Id(m.Bone, s));
            Masses.Add((b, Local(b, Sides.Place(m.At, s)), m.Share));
        }
        foreach (var m in tables.Landmarks)
        foreach (var s in Sides.Of(m.Id))
        {
            var b = BoneIndex(Sides.Id(m.Bone, s));
            Landmarks.Add((Sides.Id(m.Id, s), b, Local(b, Sides.Place(m.At, s)), m.Through));
        }
    }

    internal int BoneIndex(string id) => index[id];

    internal bool HasBone(string id) => index.ContainsKey(id);

    /// <summary>Whether a pose may give a bone this angle: not where the bone follows another.</summary>
    internal bool Turns(string bone, string angle) =>
        HasBone(bone) && Bones[BoneIndex(bone)] is var b && b.Leader == bone && b.Angles.Any(a => a.Angle == angle);

    /// <summary>A rest place in the frame of a bone, scaled.</summary>
    internal Vector3 Local(int bone, Vector3 rest) => (rest - Bones[bone].Rest) * Bones[bone].Scale;

    /// <summary>The body before a plus sign with the hair after it, "female+tied"; a body alone has the hair of its row.</summary>
    private static BodyRow Worn(FigureTables tables, IReadOnlyList<BodyRow> rows, string id)
    {
        var plus = id.IndexOf('+', StringComparison.Ordinal);
        if (plus < 0)
            return Resolve(rows, id);
        var (row, hair) = (Resolve(rows, id[..plus]), id[(plus + 1)..]);
        if (!tables.Hair.TryGetValue(hair, out var worn))
            throw new InputException($"there is no hair '{hair}'", "hair", string.Join(", ", tables.Hair.Keys));
        var forms = new Dictionary<string, FormChange>(row.Forms ?? []);
        foreach (var form in tables.Hair.Values.SelectMany(f => f).Distinct())
            forms[form] = (forms.GetValueOrDefault(form) ?? new()) with { On = worn.Contains(form) };
        return row with { Id = id, Forms = forms };
    }

    private static BodyRow Resolve(IReadOnlyList<BodyRow> rows, string id)
    {
        var row = rows.FirstOrDefault(r => r.Id == id)
            ?? throw new InputException($"there is no body '{id}'", "body", string.Join(", ", rows.Select(r => r.Id)));
        if (row.Like is null)
            return row;
        var basis = Resolve(rows, row.Like);
        var scale = new Dictionary<string, Vector3>(basis.Scale ?? []);
        foreach (var (region, by) in row.Scale ?? [])
            scale[region] = scale.GetValueOrDefault(region, Vector3.One) * by;
        var forms = new Dictionary<string, FormChange>(basis.Forms ?? []);
        foreach (var (form, change) in row.Forms ?? [])
            forms[form] = change with
            {
                On = change.On ?? forms.GetValueOrDefault(form)?.On,
                Move = change.Move ?? forms.GetValueOrDefault(form)?.Move,
            };
        return row with { Scale = scale, Forms = forms, Heads = row.Heads ?? basis.Heads };
    }

    /// <summary>Scales the bones; a body with a count of heads has its head solved by fixed point, as the head is part of the stature.</summary>
    private float ScaleBones()
    {
        int head = index["head"],
            foot = index["foot.L"];
        float headScale = 1,
            whole = 1;
        float Down()
        {
            float dn = 0;
            for (var i = foot; Bones[i].Parent >= 0; i = Bones[i].Parent)
                dn -= Bones[i].Offset.Y;
            return dn + (Bones[foot].Rest.Y * Bones[foot].Scale.Y);
        }
        for (var round = 0; round < 6; round++)
        {
            foreach (var b in Bones)
            {
                b.Scale = Scale(b.Region) * (b.Region == "head" ? headScale : 1);
                b.Offset = b.Parent < 0 ? b.Rest : (b.Rest - Bones[b.Parent].Rest) * Bones[b.Parent].Scale;
            }
            float up = 0;
            for (var i = head; Bones[i].Parent >= 0; i = Bones[i].Parent)
                up += Bones[i].Offset.Y;
            up += (100 - Bones[head].Rest.Y) * Bones[head].Scale.Y;
            whole = 100 / (up + Down());
            if (Row.Heads is not { } heads || round == 5)
                break;
            headScale *= 100 / heads / (13 * Bones[head].Scale.Y * whole);
        }
        foreach (var b in Bones)
        {
            b.Scale *= whole;
            b.Offset = b.Parent < 0 ? b.Rest : b.Offset * whole;
        }
        Bones[0].Offset = new(0, Down(), 0);
        return whole;
    }

    private Vector3 Scale(string region) => scales.GetValueOrDefault(region, Vector3.One);

    private void AddGroup(GroupRow g, int side)
    {
        int Slot(string id) => Accumulators.TryGetValue(id, out var i) ? i : Accumulators[id] = Accumulators.Count;
        var source = Slot(Sides.Id(g.From ?? g.Id, side));
        if (g.Join is null)
            return;
        var near = g.Near is { } n ? BoneIndex(Sides.Id(n.Bone, side)) : -1;
        Groups.Add(
            new(
                Sides.Id(g.Id, side),
                source,
                Slot(Sides.Id(g.Join, side)),
                g.Carve,
                g.Blend,
                g.BlendNear ?? g.Blend,
                near,
                near >= 0 ? Local(near, Sides.Place(g.Near!.At, side)) : default,
                g.Radius
            )
        );
    }

    private Form MakeForm(FormRow f, int side, FormChange? change)
    {
        var girth = change?.Girth ?? 1;
        var move = change?.Move is { } m ? Sides.Place(m, side) : default;
        var group = Accumulators[Sides.Id(f.Group, side)];
        var a = BoneIndex(Sides.Id(f.Bone, side));
        var b = f.ToBone is { } to ? BoneIndex(Sides.Id(to, side)) : a;
        Vector3 sa = Bones[a].Scale,
            sb = Bones[b].Scale;
        var thick = (sa.X + sa.Z) / 2;
        Vector3 At(int bone, Vector3 p) => Local(bone, Sides.Place(p, side) + move);
        switch (f.Shape)
        {
            case "sweep":
                return new()
                {
                    Id = Sides.Id(f.Id, side),
                    GroupId = Sides.Id(f.Group, side),
                    Group = group,
                    Shape = FormShape.Sweep,
                    Carve = f.Op == "carve",
                    Blend = f.Blend * unify,
                    A = a,
                    B = b,
                    Power = f.Power,
                    CapA = f.Caps![0] * unify,
                    CapB = f.Caps[1] * unify,
                    Path = [.. f.Path!.Select(p => (BoneIndex(p.Bone), Local(BoneIndex(p.Bone), p.At), p.At.Y))],
                    Sections =
                    [
                        .. f.Sections!.Select(s =>
                        {
                            var r = TrunkScale(s[0]);
                            return new[] { s[0], s[1] * r.X * girth, s[2] * r.X * girth, s[3] * r.Z * girth, s[4] * r.Z * girth };
                        }),
                    ],
                };
            case "ellipsoid":
                return new()
                {
                    Id = Sides.Id(f.Id, side),
                    GroupId = Sides.Id(f.Group, side),
                    Group = group,
                    Shape = FormShape.Ellipsoid,
                    Carve = f.Op == "carve",
                    Blend = f.Blend * thick,
                    Fine = f.Fine,
                    A = a,
                    B = a,
                    SharedWith = f.SharedWith is { } w ? BoneIndex(Sides.Id(w, side)) : -1,
                    At = At(a, f.At!.Value),
                    Radii = f.Radii!.Value * sa * girth,
                    Turn = f.Turn is { } e ? (side < 0 ? new(e.X, -e.Y, -e.Z) : e) : default,
                };
            case "cone":
                return new()
                {
                    Id = Sides.Id(f.Id, side),
                    GroupId = Sides.Id(f.Group, side),
                    Group = group,
                    Shape = FormShape.Cone,
                    Carve = f.Op == "carve",
                    Blend = f.Blend * thick,
                    Fine = f.Fine,
                    A = a,
                    B = b,
                    At = At(a, f.At!.Value),
                    To = At(b, f.To!.Value),
                    Radius = f.Radius * thick * girth,
                    ToRadius = f.ToRadius * (sb.X + sb.Z) / 2 * girth,
                };
            default:
                var end = f.EndFrame is { } ef ? BoneIndex(Sides.Id(ef, side)) : b;
                var se = Bones[end].Scale;
                return new()
                {
                    Id = Sides.Id(f.Id, side),
                    GroupId = Sides.Id(f.Group, side),
                    Group = group,
                    Shape = FormShape.Loft,
                    Carve = f.Op == "carve",
                    Blend = f.Blend * thick,
                    Fine = f.Fine,
                    A = a,
                    B = b,
                    EndFrame = end,
                    TwistOnly = f.TwistOnly,
                    Upright = f.Upright,
                    Power = f.Power,
                    At = At(a, f.At!.Value),
                    To = At(b, f.To!.Value),
                    CapA = f.Caps![0] * sa.Y,
                    CapB = f.Caps[1] * sb.Y,
                    Sections =
                    [
                        .. f.Sections!.Select(s =>
                        {
                            var r = Vector3.Lerp(sa, se, s[0]);
                            var depth = f.Upright ? r.Y : r.Z;
                            var (outer, inner) = side < 0 ? (s[2], s[1]) : (s[1], s[2]);
                            return new[] { s[0], outer * r.X * girth, inner * r.X * girth, s[3] * depth * girth, s[4] * depth * girth };
                        }),
                    ],
                };
        }
    }

    private static readonly (float Y, string Region)[] Trunk =
    [
        (47, "pelvis"),
        (55, "pelvis"),
        (61.5f, "waist"),
        (69, "thorax"),
        (80, "thorax"),
        (83, "neck"),
    ];

    /// <summary>The scale of the trunk at a rest height, eased from region to region.</summary>
    private Vector3 TrunkScale(float y)
    {
        if (y <= Trunk[0].Y)
            return Scale("pelvis") * unify;
        for (var i = 0; i + 1 < Trunk.Length; i++)
        {
            if (y > Trunk[i + 1].Y)
                continue;
            var t = (y - Trunk[i].Y) / (Trunk[i + 1].Y - Trunk[i].Y);
            return Vector3.Lerp(Scale(Trunk[i].Region), Scale(Trunk[i + 1].Region), t * t * (3 - (2 * t))) * unify;
        }
        return Scale("neck") * unify;
    }
}
