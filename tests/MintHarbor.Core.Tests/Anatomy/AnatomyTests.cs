using System.Numerics;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using Xunit;

namespace MintHarbor.Core.Tests.Anatomy;

/// <summary>Bones and muscles under the skin of posed figures. Proportions of bones are from memory of general textbooks; what lies outside their ranges is
/// listed with its reason.</summary>
public class AnatomyTests
{
    private static readonly string[] Poses = ["contrapposto", "armraised", "twist", "crouch", "seated", "recline"];

    private static Skeleton Solved(string pose, string body = "male") =>
        pose == "rest"
            ? Skeleton.AsWritten(FigureCatalogue.Body(body), MuscleSheets.Rest)
            : Skeleton.Solve(FigureCatalogue.Body(body), FigureCatalogue.Pose(pose));

    private static Skeleton Bent(string bone, string angle, float degrees) =>
        Skeleton.AsWritten(
            FigureCatalogue.Body("male"),
            MuscleSheets.Rest with
            {
                Joints = new() { [bone] = new() { [angle] = degrees } },
            }
        );

    private static PosedBones Bones(Skeleton s) => new(new(s), new SurfaceField(s, false));

    private static PosedMuscles Muscles(Skeleton s) => new(new(s), new SurfaceField(s, false));

    private static float Span(PosedBones bones, string id)
    {
        var p = bones.Of(id).ToArray().Where((_, i) => i % 7 == 0).ToArray();
        return p.Max(a => p.Max(b => Vector3.Distance(a, b)));
    }

    public static TheoryData<string, string> BodiesInPoses()
    {
        var data = new TheoryData<string, string>();
        var bodies = FigureCatalogue.Bodies.Select(b => b.Id).ToArray();
        // Every body in two poses, so that every pose has several.
        for (var i = 0; i < bodies.Length; i++)
        {
            data.Add(bodies[i], Poses[i % Poses.Length]);
            data.Add(bodies[i], Poses[(i + 3) % Poses.Length]);
        }
        return data;
    }

    [Theory]
    [MemberData(nameof(BodiesInPoses))]
    public void No_bone_leaves_the_skin_and_hardly_a_muscle(string body, string pose)
    {
        var s = Solved(pose, body);
        var field = new SurfaceField(s, false);
        var everything = field.All;
        var bones = Bones(s);
        Assert.InRange(bones.Outside.Share, 0, 0.01);
        double Out(Vector3[] places, int every, out float farthest)
        {
            var d = places.Where((_, i) => i % every == 0).Select(p => field.Evaluate(p, everything, out _)).ToArray();
            farthest = d.Max();
            return d.Count(x => x > 0.02f) / (double)d.Length;
        }
        Assert.InRange(Out(bones.Mesh.Places, 11, out var bone), 0, 0.0005);
        Assert.InRange(bone, -1, 0.1f);
        Assert.InRange(Out(Muscles(s).Mesh.Places, 5, out var muscle), 0, 0.001);
        Assert.InRange(muscle, -1, 0.1f);
    }

    /// <summary>Ratios and shares of stature of the male figure's bones; ranges from memory of general anatomy.</summary>
    [Fact]
    public void Bones_have_the_proportions_of_a_skeleton()
    {
        var bones = Bones(Solved("rest"));
        float humerus = Span(bones, "humerus.L"),
            radius = Span(bones, "radius.L"),
            ulna = Span(bones, "ulna.L"),
            femur = Span(bones, "femur.L"),
            tibia = Span(bones, "tibia.L");
        Assert.InRange(radius / humerus, 0.73f, 0.79f);
        Assert.InRange(ulna / radius, 1.04f, 1.12f);
        Assert.InRange(humerus / femur, 0.67f, 0.75f);
        Assert.InRange(femur, 25.5f, 28);
        Assert.InRange(humerus, 17.5f, 20);
        // Outside the usual 0.81 to 0.86: knee and ankle are those of the segment table.
        Assert.InRange(tibia / femur, 0.84f, 0.89f);
        float[] across = [.. bones.Of("hipbone.L").ToArray().Concat(bones.Of("hipbone.R").ToArray()).Select(p => p.X)];
        Assert.InRange((across.Max() - across.Min()) * FigureCatalogue.Body("male").CentimetresPerUnit, 26, 30);
    }

    [Fact]
    public void Inner_ankle_stands_higher_inner_calf_hangs_lower_and_the_shoulder_muscle_ends_half_way()
    {
        var s = Solved("rest");
        var bones = Bones(s);
        // The knobs of the ankle: of the shin bone the innermost place, of the outer bone the outermost, below the shaft.
        Vector3 Knob(string id, float sign) => bones.Of(id).ToArray().Where(p => p.Y < 7).MaxBy(p => p.X * sign);
        Assert.InRange(Knob("tibia.L", -1).Y - Knob("fibula.L", 1).Y, 0.4f, 2.5f);
        var muscles = Muscles(s);
        int Of(string id) => muscles.Sheets.ToList().FindIndex(m => m.Part.Id == id);
        float Lowest(string id) => Enumerable.Range(0, 9).Min(k => muscles.At(Of(id), 1, (k / 4f) - 1).Y);
        Assert.InRange(Lowest("gastout.L") - Lowest("gastin.L"), 2, 6);
        float shoulder = s.Joint[s.Body.BoneIndex("arm.L")].Y,
            elbow = s.Joint[s.Body.BoneIndex("fore.L")].Y;
        Assert.InRange((shoulder - Lowest("deltmid.L")) / (shoulder - elbow), 0.44f, 0.58f);
    }

    [Fact]
    public void The_blade_s_lower_corner_swings_out_as_the_arm_rises_and_the_blade_stays_on_the_ribs()
    {
        float before = 0;
        foreach (var degrees in (float[])[0, 40, 80, 120, 150])
        {
            var s = Bent("arm.L", "abd", degrees);
            var blade = ShoulderGirdle.Of(s, BoneShapes.Cage)[ShoulderGirdle.Blade];
            var thorax = s.Body.BoneIndex("thorax");
            Vector3 Rest(Vector3 at) => ShoulderGirdle.ToRest(s, thorax, blade.World(at));
            var lower = Rest(ShoulderGirdle.LowerCorner);
            Assert.True(lower.X >= before - 0.02f, $"the lower corner went inwards at {degrees}°: {before} to {lower.X}");
            before = lower.X;
            foreach (var corner in (Vector3[])[ShoulderGirdle.LowerCorner, ShoulderGirdle.UpperCorner])
                Assert.InRange(BoneShapes.Cage.Off(Rest(corner)), 0.7f, 1.9f);
        }
        Assert.InRange(before, 6, 9);
    }

    /// <summary>Palm forward the two bones of the forearm lie side by side, palm back they cross; they never run through each other.</summary>
    [Theory]
    [InlineData(-85, false)]
    [InlineData(0, false)]
    [InlineData(85, true)]
    public void The_bones_of_the_forearm_cross_with_the_palm_turned_back(float pronation, bool crossed)
    {
        var s = Bent("hand.L", "pron", pronation);
        var bones = Bones(s);
        Vector3 Middle(string id, bool high)
        {
            var p = bones.Of(id).ToArray();
            float top = p.Max(x => x.Y),
                bottom = p.Min(x => x.Y);
            var near = p.Where(x => high ? x.Y > top - 1.5f : x.Y < bottom + 1.5f).ToArray();
            return near.Aggregate(Vector3.Zero, (a, b) => a + b) / near.Length;
        }
        Vector3 u0 = Middle("ulna.L", true),
            u1 = Middle("ulna.L", false),
            r0 = Middle("radius.L", true),
            r1 = Middle("radius.L", false);
        // Seen along the line from one bone's head to the other's, at the elbow and at the wrist.
        Vector3 across = Vector3.Normalize((r0 - u0) with { Y = 0 });
        var side = Vector3.Dot(r1 - u1, across);
        Assert.Equal(crossed, side < 0);
        for (var t = 0f; t <= 1; t += 0.1f)
            Assert.True(Vector3.Distance(Vector3.Lerp(u0, u1, t), Vector3.Lerp(r0, r1, t)) >= 0.5f);
    }

    [Fact]
    public void A_muscle_that_shortens_thickens_and_its_opposite_thins()
    {
        var bent = Muscles(Bent("fore.L", "flex", 120));
        var rest = Muscles(Solved("rest"));
        int Of(string id) => bent.Sheets.ToList().FindIndex(m => m.Part.Id == id);
        Assert.True(bent.Girth[Of("biceps.L")] > 1.05f);
        Assert.True(bent.Girth[Of("trilong.L")] < 1);
        Assert.Equal(1, bent.Girth[Of("biceps.R")], 2);
        // Length times girth squared stays, within the limits of what skin can show.
        for (var m = 0; m < bent.Sheets.Count; m++)
            if (bent.Girth[m] is > PosedMuscles.LeastGirth + 0.001f and < PosedMuscles.MostGirth - 0.001f)
                Assert.InRange(
                    bent.Length[m] * bent.Girth[m] * bent.Girth[m] / (rest.Length[m] * rest.Girth[m] * rest.Girth[m]),
                    0.95f,
                    1.05f
                );
    }

    [Fact]
    public void A_mirrored_pose_has_mirrored_bones_and_muscles()
    {
        var pose = FigureCatalogue.Pose("archer");
        var body = FigureCatalogue.Body("female");
        Skeleton one = Skeleton.AsWritten(body, pose),
            other = Skeleton.AsWritten(body, pose.Mirrored());
        foreach (var id in (string[])["clavicle", "scapula", "radius", "femur", "hipbone", "rib7"])
        {
            var left = Bones(one).Of(id + ".L").ToArray();
            var right = Bones(other).Of(id + ".R").ToArray();
            for (var i = 0; i < left.Length; i++)
                Assert.True(Vector3.Distance(left[i], right[i] with { X = -right[i].X }) < 0.06f, $"{id} {i}");
        }
    }

    [Theory]
    [InlineData("acromion.L", 14, "scapula.L", "clavicle.L")]
    [InlineData("asis.L", 28, "hipbone.L")]
    [InlineData("trochanter.L", 22, "femur.L")]
    [InlineData("anklein.L", 17, "tibia.L")]
    [InlineData("ankleout.L", 12, "fibula.L")]
    [InlineData("elbow.L", 15, "ulna.L")]
    [InlineData("wrist.L", 15, "ulna.L", "carpus.L")]
    [InlineData("heel.L", 15, "heelbone.L")]
    [InlineData("chin", 15, "jaw")]
    [InlineData("crown", 15, "cranium")]
    [InlineData("pit", 26, "manubrium")]
    public void A_landmark_lies_on_its_bone(string landmark, double most, params string[] ids)
    {
        foreach (var pose in (string[])["contrapposto", "armraised", "walk"])
        {
            var model = new FigureModel(FigureCatalogue.Body("male"), FigureCatalogue.Pose(pose), false, StudioFigure.Thumb);
            var mark = model.Landmark(landmark);
            if (mark.Buried)
                continue;
            var bones = model.UnderSkin.Bones;
            var nearest = ids.Min(id => bones.Of(id).ToArray().Min(p => Vector3.Distance(p, mark.Place)));
            Assert.InRange(nearest * model.MetresPerUnit * 1000, 0, most);
        }
    }
}
