using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using Xunit;

namespace MintHarbor.Core.Tests.Figure;

/// <summary>Views, dress, foreshortening, and changing a pose.</summary>
public sealed class FigureViewTests
{
    private static readonly StudioFigure Studio = new(120L << 20);

    private static FigureModel Model(string pose, bool minors = false, bool garment = false, string body = "male") =>
        Studio.Model(body, FigureCatalogue.Pose(pose), Drapery.For(minors, garment), StudioFigure.Coarse);

    [Fact]
    public void Minors_never_get_the_figure_undraped()
    {
        Assert.True(Drapery.For(minors: true, wanted: false).Clothed);
        Assert.True(Drapery.For(minors: true, wanted: true).Clothed);
        Assert.False(Drapery.For(minors: false, wanted: false).Clothed);
        var m = Model("stand", minors: true);
        Assert.True(m.Clothed);
        // Cloth covers hip, chest and back, and leaves hands, feet and face bare.
        bool Cloth(string id) =>
            m.Mesh.Form[
                Enumerable.Range(0, m.Mesh.Places.Length).MinBy(i => Vector3.DistanceSquared(m.Mesh.Places[i], m.Landmark(id).Place))
            ] < 0;
        Assert.All(new[] { "pubic", "crotch", "nipple.L", "nipple.R", "buttock.L", "navel", "asis.R", "sternumend" }, id =>
            Assert.True(Cloth(id), id)
        );
        Assert.All(new[] { "chin", "nosetip", "wrist.L", "kneetop.R", "toe.L" }, id => Assert.False(Cloth(id), id));
        // The type offers no other way to make one, and what nobody decided is clothed.
        Assert.True(default(Drapery).Clothed);
        Assert.Empty(typeof(Drapery).GetConstructors());
    }

    [Fact]
    public void Kinds_of_view_lie_over_one_another()
    {
        var m = Model("handonhip");
        var seat = new Seat(30, 3, 1.4);
        var all = Enum.GetValues<FigureViewKind>().Select(k => StudioFigure.View(m, seat, k, 240, 360)).ToList();
        Assert.All(all, v => Assert.Equal(all[0].Landmarks, v.Landmarks));
        var line = all.First(v => v.Kind == FigureViewKind.Line);
        var mass = all.First(v => v.Kind == FigureViewKind.Mass);
        // Contours run along the edge of the mass or inside it.
        var places = mass.Mass.SelectMany(l => l).ToList();
        var (x0, x1, y0, y1) = (places.Min(p => p.X), places.Max(p => p.X), places.Min(p => p.Y), places.Max(p => p.Y));
        Assert.All(line.Strokes.SelectMany(s => s.Places), p => Assert.True(p.X > x0 - 2 && p.X < x1 + 2 && p.Y > y0 - 2 && p.Y < y1 + 2));
        var tone = all.First(v => v.Kind == FigureViewKind.Tone).Tone!;
        Assert.Equal(240 * 360, tone.Values.Length);
        Assert.Contains("</svg>", line.ToSvg());
        Assert.True(line.ToSvg().Length < 60_000);
    }

    /// <summary>No line of what the figure rests on runs through a limb that stands before it.</summary>
    [Theory]
    [InlineData("seated", 25), InlineData("seated", -20), InlineData("leanback", 40), InlineData("chinonhand", 10)]
    public void No_line_of_a_stool_runs_through_the_figure(string pose, double azimuth)
    {
        var m = Model(pose);
        var camera = SeatCamera.Fit(new(azimuth), m.MetresPerUnit, 480, 720, m.Places);
        var depth = new DepthPicture(camera, [m.Mesh, .. m.Solids.Select(s => s.Mesh)]);
        var view = StudioFigure.View(m, new(azimuth), FigureViewKind.Line);
        var props = view.Strokes.Where(s => s.Kind == LineKind.Prop).ToList();
        Assert.NotEmpty(props);
        foreach (var stroke in props)
        {
            // A place deep inside the figure: every pixel within three of it shows the figure.
            var along = Enumerable
                .Range(1, stroke.Places.Length - 1)
                .SelectMany(k =>
                    Enumerable
                        .Range(0, 1 + (int)Vector2.Distance(stroke.Places[k - 1], stroke.Places[k]))
                        .Select(s =>
                            Vector2.Lerp(
                                stroke.Places[k - 1],
                                stroke.Places[k],
                                s / (1 + Vector2.Distance(stroke.Places[k - 1], stroke.Places[k]))
                            )
                        )
                );
            var through = along.Count(p =>
                Enumerable
                    .Range(-3, 7)
                    .All(j =>
                        Enumerable
                            .Range(-3, 7)
                            .All(i =>
                            {
                                int x = (int)p.X + i,
                                    y = (int)p.Y + j;
                                return x >= 0 && y >= 0 && x < 480 && y < 720 && depth.IsFigure((y * 480) + x);
                            })
                    )
            );
            Assert.Equal(0, through);
        }
    }

    [Theory]
    [InlineData(3), InlineData(5), InlineData(9)]
    public void Values_are_as_many_as_asked_for(int values)
    {
        var v = StudioFigure.View(Model("contrapposto"), new(20), FigureViewKind.Tone, 160, 240, values, null, 1);
        var camera = SeatCamera.Fit(new(20), Model("contrapposto").MetresPerUnit, 160, 240, Model("contrapposto").Places);
        var depth = new DepthPicture(camera, Model("contrapposto").Mesh);
        var inside = Enumerable
            .Range(0, v.Tone!.Values.Length)
            .Where(depth.IsFigure)
            .Select(i => MathF.Round(v.Tone.Values[i], 3))
            .Distinct()
            .Count();
        Assert.InRange(inside, 2, values);
    }

    [Fact]
    public void The_lamp_lights_the_side_it_stands_on()
    {
        var m = Model("stand");
        double Left(double lamp)
        {
            var t = StudioFigure.View(m, new(0), FigureViewKind.Tone, 120, 180, 0, new(lamp), 1).Tone!;
            var v = StudioFigure.View(m, new(0), FigureViewKind.Mass, 120, 180);
            var a = v.Landmarks["deltoid.L"].At;
            return t.Values[((int)a.Y * 120) + (int)a.X - 3];
        }
        // The figure's left is the picture's right.
        Assert.True(Left(60) > Left(-60) + 0.2);
    }

    /// <summary>Seen over true length of a limb far away is the cosine of its angle to the picture plane (geometry).</summary>
    [Fact]
    public void Foreshortening_is_the_cosine_from_far_away()
    {
        var m = Model("reach");
        var s = m.Skeleton;
        Vector3 a = s.Joint[s.Body.BoneIndex("fore.L")],
            b = s.Joint[s.Body.BoneIndex("hand.L")],
            along = Vector3.Normalize(b - a);
        foreach (var azimuth in new[] { 0.0, 30, 75, 140 })
        {
            var (sin, cos) = Math.SinCos(azimuth * Math.PI / 180);
            var toEye = new Vector3((float)sin, 0, (float)cos);
            var expected = Math.Sqrt(1 - Math.Pow(Vector3.Dot(along, toEye), 2));
            var seen = StudioFigure
                .View(m, new(azimuth, 20, 1.4), FigureViewKind.Mass, 480, 720)
                .Limbs.First(l => l.Id == "forearm.L")
                .Ratio;
            Assert.Equal(expected, seen, 0.04);
        }
    }

    [Fact]
    public void Plumb_lines_stay_plumb_from_every_seat()
    {
        var m = Model("contrapposto");
        foreach (var seat in new[] { new Seat(0), new Seat(70, 1.6, 2.2), new Seat(-130, 5, 0.7) })
        {
            var camera = SeatCamera.Fit(seat, m.MetresPerUnit, 480, 720, m.Places);
            var pit = m.Landmark("pit").Place;
            Assert.Equal(camera.Project(pit).X, camera.Project(pit with { Y = 0 }).X, 0.01);
        }
    }

    [Theory]
    [
        InlineData("pelvis 8° down on the left", "pelvis.side", 8),
        InlineData("Pelvis 8 up on the left", "pelvis.side", -8),
        InlineData("head 15 turned right", "head.twist", -15),
        InlineData("ribcage 10° forward", "thorax.flex", 10),
        InlineData("shoulders 6 down on the right", "thorax.side", -6)
    ]
    public void Tilts_are_read_in_words(string words, string key, float value)
    {
        var change = Assert.Single(PoseEdit.FromWords(words, FigureCatalogue.Pose("stand")));
        Assert.Equal((key, value), change);
    }

    [Fact]
    public void Words_mean_the_level_not_the_part_below()
    {
        var pose = FigureCatalogue.Pose("contrapposto");
        var change = Assert.Single(PoseEdit.FromWords("shoulders 6 down on the right", pose));
        Assert.Equal(-6, change.Value + pose.Root.Side + pose.Joints["lumbar"]["side"], 3);
        Assert.Throws<InputException>(() => PoseEdit.FromWords("make it nicer", pose));
    }

    [Fact]
    public void A_pelvis_lowered_on_the_left_is_lower_on_the_left()
    {
        var m = Model("stand");
        var tilted = Studio.Model("male", PoseEdit.Apply(m, [("pelvis.side", 9)]), Drapery.For(false, false), StudioFigure.Coarse);
        Assert.True(tilted.Landmark("asis.L").Place.Y < tilted.Landmark("asis.R").Place.Y - 1.2);
        var v = StudioFigure.View(tilted, new(0, 12), FigureViewKind.Mass);
        Assert.Equal(
            9,
            Math.Atan2(v.Landmarks["asis.L"].At.Y - v.Landmarks["asis.R"].At.Y, v.Landmarks["asis.L"].At.X - v.Landmarks["asis.R"].At.X)
                * 180
                / Math.PI,
            1.5
        );
    }

    [Fact]
    public void A_placed_arm_is_let_go_from_where_it_was()
    {
        var m = Model("seated");
        var handles = PoseEdit.Handles(m).ToDictionary(h => h.Key);
        var freed = Studio.Model(
            "male",
            PoseEdit.Apply(m, [("arm.L.flex", (float)handles["arm.L.flex"].Value)]),
            Drapery.For(false, false),
            StudioFigure.Coarse
        );
        // Only what the joints' limits and whole degrees take away moves the hand.
        Assert.True(
            Vector3.Distance(m.Landmark("wrist.L").Place, freed.Landmark("wrist.L").Place) < 6,
            $"{m.Landmark("wrist.L").Place} {freed.Landmark("wrist.L").Place}"
        );
        Assert.False(freed.Pose.Hands!.ContainsKey("L"));
    }

    [Theory]
    [
        InlineData("thorax.twist:80", "-35 to 35"),
        InlineData("thorax.bend:8", "joint.angle"),
        InlineData("nonsense", "joint.angle:degrees"),
        InlineData("feet.L.y:3", "joint.angle")
    ]
    public void A_change_beyond_the_joint_is_refused(string edit, string accepted)
    {
        var e = Assert.Throws<InputException>(() => PoseEdit.Apply(Model("stand"), PoseEdit.Read(edit)));
        Assert.Contains(accepted, e.Accepted);
    }

    [Fact]
    public void Strain_is_read_off_the_figure()
    {
        var right = FigureCatalogue.Poses.Count(p => PoseEdit.StrainOf(Model(p.Id)).Strain.Word() == p.Strain);
        Assert.True(
            right >= FigureCatalogue.Poses.Count * 0.85,
            $"{right} of {FigureCatalogue.Poses.Count} as in the catalogue: "
                + string.Join(
                    ", ",
                    FigureCatalogue
                        .Poses.Where(p => PoseEdit.StrainOf(Model(p.Id)).Strain.Word() != p.Strain)
                        .Select(p => $"{p.Id} {PoseEdit.StrainOf(Model(p.Id)).Strain.Word()}")
                )
        );
    }

    [Fact]
    public void Models_are_kept_within_the_budget()
    {
        var studio = new StudioFigure(6 << 20);
        foreach (var p in FigureCatalogue.Poses.Take(9))
            studio.Model("male", p, Drapery.For(false, false), StudioFigure.Thumb);
        Assert.InRange(studio.BytesKept, 1, 6 << 20);
        Assert.Same(
            studio.Model("male", FigureCatalogue.Poses[8], Drapery.For(false, false), StudioFigure.Thumb),
            studio.Model("male", FigureCatalogue.Poses[8], Drapery.For(false, false), StudioFigure.Thumb)
        );
    }

    [Theory]
    [InlineData(0, 0.5, 1.5, "seat.distance"), InlineData(0, 3, 5, "seat.eyeHeight"), InlineData(double.NaN, 3, 1.5, "seat.azimuth")]
    public void An_impossible_seat_is_named(double azimuth, double distance, double eye, string field) =>
        Assert.Equal(
            field,
            Assert.Throws<InputException>(() => StudioFigure.View(Model("stand"), new(azimuth, distance, eye), FigureViewKind.Line)).Field
        );

    [Fact]
    public void The_line_of_action_ends_at_the_standing_foot()
    {
        var m = Model("contrapposto");
        var v = StudioFigure.View(m, new(0), FigureViewKind.Construction);
        Assert.True((v.Action[^1] - v.Landmarks["ankleout.R"].At).Length < 25);
        Assert.True((v.Action[0] - v.Landmarks["crown"].At).Length < 12);
    }
}
