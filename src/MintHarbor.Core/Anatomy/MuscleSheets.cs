using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>One muscle made ready: the places of its rows on their bones, and the same half-way in, where its length is measured.</summary>
internal sealed record MuscleSheet(
    AnatomyPart Part,
    MuscleRow Row,
    int Side,
    (string Bone, Vector3 At)[][] Rows,
    (string Bone, Vector3 At)[][] Inner,
    float RestLength = 0
)
{
    /// <summary>Length of its middle line in a pose. On the skin a bent elbow would hide that a muscle shortens.</summary>
    public float Length(AnatomyFrames frames)
    {
        float sum = 0;
        Vector3? before = null;
        foreach (var row in Inner)
        {
            var middle = row.Aggregate(Vector3.Zero, (c, p) => c + frames.World(p.Bone, p.At)) / row.Length;
            sum += before is { } b ? Vector3.Distance(b, middle) : 0;
            before = middle;
        }
        return sum;
    }
}

/// <summary>The muscles of both sides, cast once on to the skin of the standing male figure.</summary>
internal static class MuscleSheets
{
    private static readonly Lazy<MuscleSheet[]> Cast = new(() => [.. Of(AnatomyCatalogue.Muscles.Muscles)]);

    public static IReadOnlyList<MuscleSheet> All => Cast.Value;

    /// <summary>Muscles of other rows than those that ship.</summary>
    public static IEnumerable<MuscleSheet> Of(IReadOnlyList<MuscleRow> rows)
    {
        var rest = Skeleton.AsWritten(FigureCatalogue.Body("male"), Rest);
        var skin = new RestSkin(rest);
        var frames = new AnatomyFrames(rest);
        foreach (var row in rows)
        {
            var places = row.Rows.Select(r => r.Select(p => (p.Bone, skin.Place(p))).ToArray()).ToArray();
            var inner = row.Rows.Select(r => r.Select(p => (p.Bone, skin.HalfWay(p))).ToArray()).ToArray();
            foreach (var side in Sides.Both)
            {
                (string, Vector3)[][] Sided((string Bone, Vector3 At)[][] of) =>
                    [.. of.Select(r => r.Select(p => (Sides.Id(p.Bone, side), Sides.Place(p.At, side))).ToArray())];
                var sheet = new MuscleSheet(
                    new(Sides.Id(row.Id + ".L", side), row.Name, row.Latin),
                    row,
                    side,
                    Sided(places),
                    Sided(inner)
                );
                yield return sheet with
                {
                    RestLength = sheet.Length(frames),
                };
            }
        }
    }

    /// <summary>Upright, limbs straight down, palms to the thighs.</summary>
    internal static Pose Rest { get; } =
        FigureCatalogue.Pose("stand") with
        {
            Id = "rest",
            Root = new(),
            Joints = [],
            Feet = null,
            Hands = null,
            Props = null,
            Balance = null,
            Weight = null,
        };

    /// <summary>The rest skin by part: a ray from a limb's axis meets that limb only.</summary>
    private sealed class RestSkin
    {
        private readonly SurfaceField field;
        private readonly int[] trunk,
            arm,
            leg;

        public RestSkin(Skeleton rest)
        {
            field = new(rest, false);
            var forms = rest.Body.Forms;
            int[] Of(Func<Form, bool> wanted) => [.. Enumerable.Range(0, forms.Count).Where(i => wanted(forms[i]))];
            trunk = Of(f =>
                f.GroupId is "torso" or "neck" or "glute.L" or "head"
                && f.Id is not ("delt.L" or "pecfold.L" or "shmass.L")
                && !f.Id.StartsWith("navel", StringComparison.Ordinal)
            );
            arm = Of(f => f.GroupId is "arm.L" or "fore.L" or "hand.L" || f.Id == "delt.L");
            leg = Of(f => f.GroupId is "thigh.L" or "shank.L" or "foot.L");
        }

        private (Vector3 Axis, int[] Forms) Limb(string bone) =>
            Sides.Stem(bone) switch
            {
                "arm" or "fore" or "hand" => (new(11, 0, -1.2f), arm),
                "hip" => (new(4.8f, 0, 0), leg),
                "knee" => (new(4.65f, 0, -0.4f), leg),
                "foot" => (new(4.6f, 0, -1), leg),
                _ => (new(0, 0, -1.4f), trunk),
            };

        public Vector3 Place(MusclePlace p)
        {
            if (p.Degrees is not { } degrees)
                return p.At;
            var (axis, forms) = Limb(p.Bone);
            var (sin, cos) = MathF.SinCos(degrees * MathF.PI / 180);
            Vector3 from = axis with { Y = p.At.Y },
                way = new(sin, 0, cos);
            var far = 0.2f;
            for (var i = 0; i < 60 && far <= 9; i++)
            {
                var d = field.Evaluate(from + (way * far), forms, out _);
                if (d > -0.01f)
                    break;
                far += MathF.Max(0.02f, -d * 0.7f);
            }
            return from + (way * far);
        }

        public Vector3 HalfWay(MusclePlace p)
        {
            var at = Place(p);
            return p.Degrees is null ? at : Vector3.Lerp(Limb(p.Bone).Axis with { Y = at.Y }, at, 0.5f);
        }
    }
}
