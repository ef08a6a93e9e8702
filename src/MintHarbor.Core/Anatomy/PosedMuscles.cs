using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>The muscles of a figure in its pose, one mesh of a grid a muscle: the form of a place is the number of its muscle. Each lies under the skin by
/// construction, and keeps its volume: what it loses in length it gains in width and thickness.</summary>
internal sealed class PosedMuscles
{
    /// <summary>Places of a grid along and across.</summary>
    public const int Along = 34,
        Across = 13;
    private const int Grid = Along * Across;

    /// <summary>How much a muscle may thin or thicken.</summary>
    public const float LeastGirth = 0.75f,
        MostGirth = 1.3f;

    private readonly AnatomyFrames frames;
    private readonly SurfaceField field;
    private readonly IReadOnlyList<MuscleSheet> sheets;

    public Mesh Mesh { get; }

    /// <summary>At every place: its share of the length, its place across (−1 to 1), and how much of a tendinous band it is.</summary>
    public Vector3[] Fibre { get; }
    public float[] Length { get; }

    /// <summary>√(rest length / length), within the limits: what width and thickness share.</summary>
    public float[] Girth { get; }

    public IReadOnlyList<MuscleSheet> Sheets => sheets;

    public PosedMuscles(AnatomyFrames frames, SurfaceField field)
    {
        (this.frames, this.field, sheets) = (frames, field, frames.Set.Muscles);
        var n = sheets.Count;
        (Length, Girth, Fibre) = (new float[n], new float[n], new Vector3[n * Grid]);
        Mesh = new(
            new Vector3[n * Grid],
            new Vector3[n * Grid],
            [.. Enumerable.Repeat(1f, n * Grid)],
            new short[n * Grid],
            new int[n * (Along - 1) * (Across - 1) * 6]
        );
        Parallel.For(0, n, Lay);
    }

    /// <summary>A place of a muscle.</summary>
    /// <param name="u">Share of its length, 0 at the origin.</param>
    /// <param name="v">Across, −1 to 1.</param>
    public Vector3 At(int muscle, float u, float v)
    {
        float along = Math.Clamp(u, 0, 1) * (Along - 1),
            across = (Math.Clamp(v, -1, 1) + 1) / 2 * (Across - 1);
        int i = Math.Min((int)along, Along - 2),
            j = Math.Min((int)across, Across - 2),
            o = (muscle * Grid) + (i * Across) + j;
        var p = Mesh.Places;
        return Vector3.Lerp(
            Vector3.Lerp(p[o], p[o + 1], across - j),
            Vector3.Lerp(p[o + Across], p[o + Across + 1], across - j),
            along - i
        );
    }

    private void Lay(int muscle)
    {
        var sheet = sheets[muscle];
        var first = muscle * Grid;
        Length[muscle] = sheet.Length(frames);
        Girth[muscle] = Math.Clamp(MathF.Sqrt(sheet.RestLength * frames.Unit / Length[muscle]), LeastGirth, MostGirth);
        Snap(sheet, Girth[muscle], first);
        var places = Mesh.Places.AsSpan(first, Grid);
        var normals = Mesh.Normals.AsSpan(first, Grid);
        Even(places);
        // The rim sinks as a skirt, so that no light shows between a muscle and what lies under it.
        for (var i = 0; i < Along; i++)
        for (var j = 0; j < Across; j++)
            if (i is 0 or Along - 1 || j is 0 or Across - 1)
                places[(i * Across) + j] -= normals[(i * Across) + j] * (0.45f * frames.Unit);
        CallBack(places);
        // What was evened out over a hollow of the skin may stand out of it.
        InsideSkin.Draw(field, places, 0.03f);
        Outwards(places, normals);
        Mesh.Form.AsSpan(first, Grid).Fill((short)muscle);
        Faces(muscle, places, normals);
    }

    /// <summary>Rows in the room. One that a joint folds back on itself gives way to the mean of its neighbours.</summary>
    private Vector3[][] Rows(MuscleSheet sheet)
    {
        var rows = sheet.Rows.Select(r => r.Select(p => frames.World(p.Bone, p.At)).ToArray()).ToArray();
        static Vector3 Middle(Vector3[] r) => r.Aggregate(Vector3.Zero, (a, b) => a + b) / r.Length;
        for (var pass = 0; pass < 2; pass++)
        for (var i = 1; i < rows.Length - 1; i++)
        {
            Vector3 into = Middle(rows[i]) - Middle(rows[i - 1]),
                on = Middle(rows[i + 1]) - Middle(rows[i]);
            if (Vector3.Dot(into, on) > -0.5f * into.Length() * on.Length())
                continue;
            var last = rows[i].Length - 1;
            for (var j = 0; j <= last; j++)
            {
                Vector3 Level(Vector3[] r) => r[Math.Min(r.Length - 1, j * (r.Length - 1) / last)];
                rows[i][j] = (Level(rows[i - 1]) + Level(rows[i + 1])) / 2;
            }
        }
        return rows;
    }

    private void Snap(MuscleSheet sheet, float girth, int first)
    {
        var (row, rows) = (sheet.Row, Rows(sheet));
        var rails = rows.Max(r => r.Length);
        var rail = Enumerable
            .Range(0, rails)
            .Select(j => rows.Select(r => r.Length == rails ? r[j] : Vector3.Lerp(r[0], r[^1], j / (rails - 1f))).ToArray())
            .ToArray();
        var centre = rows.Aggregate(Vector3.Zero, (c, r) => c + r[0] + r[^1]) / (2 * rows.Length);
        var reach = rows.Max(r => r.Max(p => Vector3.Distance(p, centre))) + 1;
        var own = new int[field.Count];
        own = own[..field.Cull(centre, reach, Skin(sheet), own)];
        var list = new int[own.Length];
        // Of a change in girth 0.6 shows in the width, of a sheet less.
        var widened = (row.Flat ? 1.08f : 1.16f) * (1 + ((girth - 1) * (row.Flat ? 0.18f : 0.6f)));
        Span<Vector3> q = stackalloc Vector3[rails],
            line = stackalloc Vector3[Across + 1];
        Span<float> depth = stackalloc float[Across + 1];
        for (var i = 0; i < Along; i++)
        {
            var u = i / (Along - 1f);
            for (var k = 0; k < rails; k++)
                q[k] = Splines.At(rail[k], u * (rows.Length - 1));
            var middle = rails == 3 ? q[1] : (q[0] + q[1]) / 2;
            var near = list.AsSpan(0, field.Cull(middle, Vector3.Distance(q[0], q[^1]) + 1.5f, own, list));
            var tapered = row.Flat ? 1 : 0.6f + (0.4f * MathF.Min(Splines.Eased(-0.02f, 0.16f, u), Splines.Eased(1.02f, 0.84f, u)));
            var band = (row.Bands ?? []).Select(b => 1 - Splines.Eased(0.006f, 0.03f, MathF.Abs(u - b))).DefaultIfEmpty(0).Max();
            for (var j = 0; j < Across; j++)
            {
                var v = (2f * j / (Across - 1)) - 1;
                var p = rails == 3 ? Splines.At(q, v + 1) : Vector3.Lerp(q[0], q[1], (v + 1) / 2);
                line[j] = middle + ((p - middle) * (widened * tapered));
                var hollow = row.Thick * (1 - (Belly(row, u, v) * (1 - (0.5f * band)))) * MathF.Min(1.15f, girth);
                depth[j] = (row.Cover + hollow) * frames.Unit;
                Fibre[first + (i * Across) + j] = new(u, v, band);
            }
            (line[Across], depth[Across]) = (line[Across - 1], depth[Across - 1]);
            for (var j = 0; j < Across; j += 2)
            {
                var to = first + (i * Across) + j;
                var two = Math.Min(2, Across - j);
                ToLevel(line.Slice(j, 2), depth.Slice(j, 2), near, Mesh.Places.AsSpan(to, two), Mesh.Normals.AsSpan(to, two));
            }
        }
    }

    /// <summary>How far a place rises from the edge's depth to the belly's, 0 to 1.</summary>
    private static float Belly(MuscleRow row, float u, float v)
    {
        var ends = MathF.Min(Splines.Eased(-0.06f, row.Tendon[0] + 0.12f, u), Splines.Eased(1.06f, 1 - row.Tendon[1] - 0.12f, u));
        var across = row.Flat ? MathF.Sqrt(MathF.Max(0, 1 - MathF.Pow(MathF.Abs(v), 5))) : MathF.Pow(MathF.Max(0, 1 - (v * v)), 0.62f);
        return across * (0.55f + (0.45f * ends));
    }

    /// <summary>A muscle keeps to the skin of its own parts: else a hip's would climb on to a hand that rests there. Breast and navel are no
    /// part of any.</summary>
    private int[] Skin(MuscleSheet sheet)
    {
        bool On(params string[] stems) => sheet.Rows.Any(r => r.Any(p => stems.Contains(Sides.Stem(p.Bone))));
        bool onArm = On("arm", "fore", "hand"),
            onForearm = On("fore", "hand");
        var forms = frames.Skeleton.Body.Forms;
        var otherSide = sheet.Side > 0 ? ".R" : ".L";
        bool Usable(Form f)
        {
            if (f.Id.StartsWith("breast", StringComparison.Ordinal) || f.Id.StartsWith("navel", StringComparison.Ordinal))
                return false;
            var other = f.GroupId.EndsWith(otherSide, StringComparison.Ordinal);
            return Sides.Stem(f.GroupId) switch
            {
                "fore" or "hand" => onForearm && !other,
                "arm" => onArm && !other,
                "thigh" or "shank" or "foot" => !onArm && !other,
                _ => !onForearm,
            };
        }
        return [.. Enumerable.Range(0, forms.Count).Where(i => Usable(forms[i]))];
    }

    /// <summary>Newton steps of two places to a depth under the skin, at most five of at most 1.2 units, and no farther away than
    /// <see cref="Farthest"/>.</summary>
    private void ToLevel(
        ReadOnlySpan<Vector3> from,
        ReadOnlySpan<float> depth,
        ReadOnlySpan<int> near,
        Span<Vector3> places,
        Span<Vector3> normals
    )
    {
        const float e = 0.08f;
        Span<Vector3> p = [from[0], from[1]],
            normal = [Vector3.UnitY, Vector3.UnitY],
            feel = stackalloc Vector3[8];
        Span<bool> done = [false, false];
        for (var round = 0; round < 5 && !(done[0] && done[1]); round++)
        {
            for (var k = 0; k < 2; k++)
            {
                feel[k * 4] = p[k] + new Vector3(e, -e, -e);
                feel[(k * 4) + 1] = p[k] + new Vector3(-e, -e, e);
                feel[(k * 4) + 2] = p[k] + new Vector3(-e, e, -e);
                feel[(k * 4) + 3] = p[k] + new Vector3(e, e, e);
            }
            var d = field.Evaluate(feel, near);
            for (var k = 0; k < 2; k++)
            {
                if (done[k])
                    continue;
                float a = d[k * 4],
                    b = d[(k * 4) + 1],
                    c = d[(k * 4) + 2],
                    f = d[(k * 4) + 3];
                var g = SurfaceField.Tetrahedron(a, b, c, f, e);
                var length = g.Length();
                if (length < 0.2f)
                {
                    done[k] = true;
                    continue;
                }
                normal[k] = g / length;
                var step = (((a + b + c + f) / 4) + depth[k]) / MathF.Max(length, 0.6f);
                p[k] -= normal[k] * Math.Clamp(step, -1.2f, 1.2f);
                done[k] = MathF.Abs(step) < 0.02f;
            }
        }
        for (var k = 0; k < places.Length; k++)
        {
            var away = p[k] - from[k];
            places[k] = away.Length() > Farthest ? from[k] + (away * (Farthest / away.Length())) : p[k];
            normals[k] = normal[k];
        }
    }

    private const float Farthest = 2.6f;

    private static void Even(Span<Vector3> places)
    {
        Span<Vector3> old = stackalloc Vector3[Grid];
        for (var round = 0; round < 2; round++)
        {
            places.CopyTo(old);
            for (var i = 1; i < Along - 1; i++)
            for (var j = 1; j < Across - 1; j++)
            {
                var o = (i * Across) + j;
                places[o] = (old[o] * 0.5f) + ((old[o - 1] + old[o + 1]) * 0.1f) + ((old[o - Across] + old[o + Across]) * 0.15f);
            }
        }
    }

    /// <summary>A fold of the skin leads a place astray: what lies far from its neighbours is pulled back to them.</summary>
    private static void CallBack(Span<Vector3> places)
    {
        for (var round = 0; round < 2; round++)
        for (var i = 1; i < Along - 1; i++)
        for (var j = 1; j < Across - 1; j++)
        {
            var o = (i * Across) + j;
            var mean = (places[o - Across] + places[o + Across]) / 2;
            var span = Vector3.Distance(places[o - Across], places[o + Across]);
            if (Vector3.Distance(mean, places[o]) > (0.35f * span) + 0.05f)
                places[o] = Vector3.Lerp(places[o], mean, 0.7f);
        }
    }

    /// <summary>Normals of the grid itself, on the skin's side.</summary>
    private static void Outwards(ReadOnlySpan<Vector3> places, Span<Vector3> normals)
    {
        for (var i = 0; i < Along; i++)
        for (var j = 0; j < Across; j++)
        {
            int up = Math.Max(0, i - 1) * Across,
                down = Math.Min(Along - 1, i + 1) * Across,
                left = Math.Max(0, j - 1),
                right = Math.Min(Across - 1, j + 1),
                row = i * Across;
            var n = Vector3.Cross(places[down + j] - places[up + j], places[row + right] - places[row + left]);
            if (n.Length() < 1e-6f)
                continue;
            n = Vector3.Normalize(n);
            normals[row + j] = Vector3.Dot(n, normals[row + j]) < 0 ? -n : n;
        }
    }

    /// <summary>Every triangle faces outwards: a picture shows one side only.</summary>
    private void Faces(int muscle, ReadOnlySpan<Vector3> places, ReadOnlySpan<Vector3> normals)
    {
        var first = muscle * Grid;
        var o = muscle * (Along - 1) * (Across - 1) * 6;
        for (var i = 0; i < Along - 1; i++)
        for (var j = 0; j < Across - 1; j++)
        {
            var a = (i * Across) + j;
            foreach (var (p, q, r) in ((int, int, int)[])[(a, a + 1, a + Across), (a + 1, a + Across + 1, a + Across)])
            {
                var outward = Vector3.Dot(
                    Vector3.Cross(places[q] - places[p], places[r] - places[p]),
                    normals[p] + normals[q] + normals[r]
                );
                (Mesh.Triangles[o], Mesh.Triangles[o + 1], Mesh.Triangles[o + 2]) =
                    outward < 0 ? (first + p, first + r, first + q) : (first + p, first + q, first + r);
                o += 3;
            }
        }
    }
}
