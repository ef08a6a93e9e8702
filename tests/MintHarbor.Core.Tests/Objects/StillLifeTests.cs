using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;
using OpenCvSharp;
using Xunit;

namespace MintHarbor.Core.Tests.Objects;

/// <summary>Views of arrangements: what is known of them against rays, closed forms and counted pixels.</summary>
public class StillLifeTests
{
    private static readonly Dictionary<string, ArrangementModel> Models = ThingShelf
        .Arrangements.Where(a => a.Id is not "boat")
        .ToDictionary(a => a.Id, a => new ArrangementModel(a));

    private static readonly Seat Sitting = new(18, 1.2, 1.2);

    private static ViewTruth Truth(ArrangementModel model, Seat seat) =>
        new(new ArrangementView(model, seat, null, StillLife.Size, StillLife.Size, 2));

    /// <summary>A table of three to five things that nobody set up, none in another.</summary>
    private static ArrangementModel Random(SeededRandom random)
    {
        string[] things = ["bottle", "bowl", "cup", "box", "block", "book", "lantern", "jug", "vase"];
        while (true)
        {
            PlacedThing[] places =
            [
                .. Enumerable
                    .Range(0, 3 + random.Next(3))
                    .Select(_ => new PlacedThing(
                        things[random.Next(things.Length)],
                        random.Between(-0.3, 0.3),
                        random.Between(-0.25, 0.25),
                        random.Between(0, 360)
                    )),
            ];
            var a = new Arrangement("", "", Ground.Table, places);
            if (a.Overlaps().Count == 0)
                return new(a);
        }
    }

    /// <summary>Outside check: brute force. A ray from the eye to a place of an edge against every triangle there is, on 200 random arrangements.</summary>
    [Fact]
    public void Hidden_lines_are_those_that_rays_do_not_reach()
    {
        var random = new SeededRandom(2024);
        int asked = 0,
            alike = 0,
            hidden = 0,
            far = 0;
        for (var n = 0; n < 200; n++)
        {
            var model = Random(random);
            var view = new ArrangementView(
                model,
                new(random.Between(0, 360), random.Between(1.1, 3), random.Between(1.1, 1.6)),
                null,
                480,
                480,
                2
            );
            var truth = new ViewTruth(view);
            var straight = model.Edges.Where(e => e.Edge.Straight).ToList();
            for (var k = 0; k < 12 && straight.Count > 0; k++)
            {
                var e = straight[random.Next(straight.Count)].Edge;
                var p = Point3.Lerp(e.Places[0], e.Places[1], random.Next());
                var shown = truth.Sees(p, e.First[0], e.Second[0]);
                var reached = Reached(view, p, e, default);
                asked++;
                hidden += reached ? 0 : 1;
                if (shown == reached)
                {
                    alike++;
                    continue;
                }
                // Where they differ an outline runs within a pixel of the picture.
                var pixel = (float)(2 * (p.Single - view.Camera.Eye).Length() / view.Camera.Focal);
                if (
                    !Enumerable
                        .Range(0, 8)
                        .Select(i => MathF.SinCos(i * MathF.Tau / 8))
                        .Any(t => Reached(view, p, e, ((view.Camera.Right * t.Cos) + (view.Camera.Up * t.Sin)) * pixel) == shown)
                )
                    far++;
            }
        }
        Assert.True(hidden > asked / 5, $"{hidden} of {asked} are hidden");
        Assert.True(alike >= 0.97 * asked, $"{alike} of {asked} alike");
        Assert.True(far <= 0.004 * asked, $"{far} of {asked} differ where no outline is near");
    }

    private static bool Reached(ArrangementView view, Point3 p, SharpEdge e, Vector3 aside)
    {
        var eye = view.Camera.Eye;
        var toEye = Point3.Of(eye) - p;
        if (e.First[0].Dot(toEye) <= 0 && e.Second[0].Dot(toEye) <= 0)
            return false;
        var target = p.Single + aside;
        var length = Vector3.Distance(eye, target);
        var way = (target - eye) / length;
        return new[] { view.Model.Things, view.Support }.All(m => !Hits(m, eye, way, length - 0.5f));
    }

    /// <summary>Möller and Trumbore's intersection, of triangles turned to the eye.</summary>
    private static bool Hits(Mesh m, Vector3 eye, Vector3 way, float before)
    {
        for (var i = 0; i < m.Triangles.Length; i += 3)
        {
            Vector3 a = m.Places[m.Triangles[i]],
                u = m.Places[m.Triangles[i + 1]] - a,
                v = m.Places[m.Triangles[i + 2]] - a,
                p = Vector3.Cross(way, v);
            var det = Vector3.Dot(u, p);
            if (MathF.Abs(det) < 1e-9f)
                continue;
            var s = eye - a;
            var x = Vector3.Dot(s, p) / det;
            if (x is < 0 or > 1)
                continue;
            var q = Vector3.Cross(s, u);
            var y = Vector3.Dot(way, q) / det;
            if (y >= 0 && x + y <= 1 && Vector3.Dot(v, q) / det is var t && t > 1e-3f && t < before)
                return true;
        }
        return false;
    }

    /// <summary>Outside checks: 720 places of the circle, each projected by similar triangles here, lie on the ellipse to 1e-6 px; and OpenCV's fit to them
    /// has its centre and halves.</summary>
    [Fact]
    public void A_circle_is_seen_as_the_ellipse_that_its_conic_says()
    {
        var count = 0;
        foreach (var model in Models.Values)
        {
            for (var turn = 0; turn < 360; turn += 30)
            {
                var view = new ArrangementView(model, new(turn, 1.8, 1.25), null, 240, 240, 2);
                var truth = new ViewTruth(view);
                foreach (var (thing, ring) in model.Rings)
                {
                    if (truth.Ellipse(thing, ring) is not { } e)
                        continue;
                    count++;
                    var places = Round(view, ring);
                    Assert.All(places, p => Assert.True(Math.Abs(Off(e, p)) < 1e-6, $"{ring.Name} from {turn}°: {Off(e, p)}"));
                    Assert.True(e.Major >= e.Minor && e.Minor > 0);
                    if (turn % 90 != 0 || e.Minor < 4)
                        continue;
                    var fit = Cv2.FitEllipseDirect(places.Select(p => new Point2f((float)p.X, (float)p.Y)).ToArray());
                    Assert.Equal(e.Centre.X, fit.Center.X, 0.02);
                    Assert.Equal(e.Centre.Y, fit.Center.Y, 0.02);
                    Assert.Equal(e.Major, Math.Max(fit.Size.Width, fit.Size.Height) / 2, 0.05);
                    Assert.Equal(e.Minor, Math.Min(fit.Size.Width, fit.Size.Height) / 2, 0.05);
                }
            }
        }
        Assert.True(count > 400);
    }

    private static Vec2[] Round(ArrangementView view, Ring ring)
    {
        var c = view.Camera;
        var across = ring.Axis.Cross(new(0.3, 0.2, 0.9)).Unit;
        var other = ring.Axis.Cross(across);
        return
        [
            .. Enumerable
                .Range(0, 720)
                .Select(i => Math.SinCos(i * Math.Tau / 720))
                .Select(t => ring.Centre + (((across * t.Cos) + (other * t.Sin)) * ring.Radius) - Point3.Of(c.Eye))
                .Select(d => new Vec2(
                    (c.CentreX + (c.Focal * d.Dot(Point3.Of(c.Right)) / d.Dot(Point3.Of(c.Forward)))) / view.Finer,
                    (c.CentreY - (c.Focal * d.Dot(Point3.Of(c.Up)) / d.Dot(Point3.Of(c.Forward)))) / view.Finer
                )),
        ];
    }

    /// <summary>How far off the ellipse a place lies, to first order, pixels.</summary>
    private static double Off(SeenEllipse e, Vec2 p)
    {
        var along = Vec2.Towards(e.Turn);
        var d = p - e.Centre;
        double u = d.Dot(along) / e.Major,
            v = along.Cross(d) / e.Minor;
        return ((u * u) + (v * v) - 1) / (2 * Math.Sqrt((u * u / (e.Major * e.Major)) + (v * v / (e.Minor * e.Minor))));
    }

    /// <summary>The nearer a rim lies to the level of the eye, the flatter it is seen; the circle's own middle lies behind the ellipse's.</summary>
    [Fact]
    public void Rims_close_towards_the_level_of_the_eye()
    {
        var truth = Truth(Models["kitchen"], Sitting);
        var seen = Models["kitchen"].Rings.Select(r => truth.Ellipse(r.Thing, r.Ring)).OfType<SeenEllipse>().ToList();
        SeenEllipse Of(string name) => seen.First(e => e.Thing == "bottle" && e.Name == name);
        Assert.True(Of("foot").Openness > Of("shoulder").Openness && Of("shoulder").Openness > Of("mouth").Openness);
        Assert.All(seen, e => Assert.True(e.Middle.Y <= e.Centre.Y + 1e-9, $"{e.Name}: the far half is the smaller"));
    }

    [Fact]
    public void Edges_that_run_the_same_way_meet_in_their_vanishing_place_and_close_with_distance()
    {
        var families = 0;
        foreach (var (id, model) in Models)
        {
            var view = new ArrangementView(model, new(30, 2, 1.3), null, 480, 480, 2);
            var truth = new ViewTruth(view);
            var all = truth.All();
            foreach (var f in all.Families)
            {
                var edges = f.Edges.Select(i => all.Edges[i]).ToList();
                if (f.Vanishing is not { } at)
                {
                    // Level with the picture: parallel in it, as uprights are.
                    Assert.True(edges.Max(e => Math.Abs(ClockAngle.Wrap(Angle(e) - Angle(edges[0])))) < 4, $"{id}: {f.Thing}");
                    continue;
                }
                families++;
                var straight = edges.Where(e => e.Length > 30).ToList();
                // Made within half a degree of one another, they meet within as much.
                Assert.All(straight, e =>
                    Assert.True(Math.Abs(ClockAngle.Wrap(Angle(e) - ClockAngle.OfEdge(e.From, at))) < 0.8, $"{id}: {e.Name}")
                );
            }
        }
        Assert.True(families > 20);
        static double Angle(SeenEdge e) => ClockAngle.OfEdge(e.From, e.To);
    }

    /// <summary>A block's edges, all known by hand: three families, no upright among those that converge.</summary>
    [Fact]
    public void Uprights_do_not_converge()
    {
        var all = Truth(new(new("", "", Ground.Table, [new("block", 0, 0, 30)])), Sitting).All();
        Assert.Equal(12, all.Edges.Count);
        Assert.Equal(3, all.Families.Count);
        var upright = Assert.Single(all.Families, f => f.Vanishing is null);
        Assert.All(upright.Edges, i => Assert.Equal(0.12, all.Edges[i].Metres, 6));
        // What lies level runs together at the level of the eye: both places are as high in the picture.
        var level = all.Families.Where(f => f.Level).ToList();
        Assert.Equal(2, level.Count);
        Assert.Equal(level[0].Vanishing!.Value.Y, level[1].Vanishing!.Value.Y, 1e-6);
        // Three faces are seen, of nine edges.
        Assert.Equal(9, all.Edges.Count(e => e.Seen > 0.9));
        Assert.Equal(3, all.Planes.Count);
        Assert.All(all.Edges, e => Assert.InRange(e.Shortening, 0.05, 1.03));
    }

    [Fact]
    public void A_gap_is_as_large_as_its_pixels()
    {
        var large = 0;
        foreach (var (id, model) in Models)
        {
            foreach (var gap in Truth(model, new(-12, 2.6, 1.3)).All().Gaps.Where(g => g.Area > 150))
            {
                large++;
                Assert.InRange(Polygons.Area(gap.Outline) / gap.Area, 0.94, 1.06);
                Assert.NotEmpty(gap.Between);
            }
        }
        Assert.True(large > 10);
        // A crate's slats shut ground in; nothing stands round a bottle alone.
        Assert.Contains(Truth(Models["studio"], new(-12, 3.2, 1.2)).All().Gaps, g => g.Enclosed && g.Between.SequenceEqual(["crate"]));
        Assert.DoesNotContain(Truth(new(new("", "", Ground.Table, [new("bottle", 0, 0, 0)])), Sitting).All().Gaps, g => g.Enclosed);
    }

    [Theory]
    [InlineData(-60, "left")]
    [InlineData(60, "right")]
    public void The_side_towards_the_lamp_is_the_lighter_and_the_shadow_falls_away(double lamp, string lit)
    {
        // A block with an edge towards the eye: one face to either side.
        var model = new ArrangementModel(new("", "", Ground.Table, [new("block", 0, 0, 45)]));
        var seat = new Seat(0, 1.4, 1.25);
        var known = StillLife.Truth(model, seat, lamp: new(lamp, 40));
        var sides = known.Planes.Where(p => p.Name is not "top").OrderBy(p => p.At.X).ToList();
        Assert.Equal(2, sides.Count);
        var lighter = sides.MaxBy(p => p.Mean)!;
        Assert.Equal(lit, lighter == sides[0] ? "left" : "right");
        Assert.Equal(lighter, sides.MaxBy(p => p.Facing));
        var tone = StillLife.View(model, seat, FigureViewKind.Tone, lamp: new(lamp, 40)).Tone!;
        var darker = Enumerable.Range(0, tone.Height / 2).Select(y => tone.Height - 1 - y);
        double Dark(bool left) =>
            darker
                .SelectMany(y =>
                    Enumerable.Range(left ? 2 : (tone.Width * 3 / 4), (tone.Width / 4) - 4).Select(x => tone.Values[(y * tone.Width) + x])
                )
                .Count(v => v < 0.35);
        Assert.True(lit == "left" ? Dark(false) > Dark(true) + 50 : Dark(true) > Dark(false) + 50);
    }

    [Theory]
    [InlineData(3)]
    [InlineData(5)]
    [InlineData(9)]
    public void Few_values_are_no_more_than_were_asked_for(int values)
    {
        var tone = StillLife.View(Models["kitchen"], Sitting, FigureViewKind.Tone, values: values, finer: 1).Tone!;
        Assert.Equal(values, tone.Values.Select(v => MathF.Round(v, 4)).Distinct().Count());
    }

    /// <summary>Of a block turned to the lamp with two clearly different faces, five values keep all three apart.</summary>
    [Fact]
    public void Five_values_keep_lit_and_shadowed_faces_apart()
    {
        var model = Models["first"];
        var seat = new Seat(10, 1.2, 1.2);
        var known = StillLife.Truth(model, seat);
        var tone = StillLife.View(model, seat, FigureViewKind.Tone, values: 5).Tone!;
        var faces = known.Planes.Where(p => p.Thing == "plaster block").ToList();
        foreach (var a in faces)
        foreach (var b in faces.Where(b => b.Mean > a.Mean + 0.15))
            Assert.True(At(tone, a.At) < At(tone, b.At) - 0.1, $"{a.Name} {a.Mean:0.00} and {b.Name} {b.Mean:0.00}");
    }

    internal static float At(TonePicture tone, Vec2 p) => tone.Values[((int)p.Y * tone.Width) + (int)p.X];

    [Fact]
    public void Strokes_are_finite_and_lie_within_the_picture()
    {
        foreach (var model in Models.Values)
        {
            var view = StillLife.View(model, new(40, 1.8, 1.3), FigureViewKind.Line);
            Assert.True(view.Strokes.Count > 10);
            foreach (var s in view.Strokes)
            {
                Assert.All(s.Places, p => Assert.True(p.X is > -6 and < 486 && p.Y is > -6 and < 486, $"{p}"));
                Assert.All(s.Widths, w => Assert.InRange(w, 0.05f, 4f));
            }
            Assert.Contains("<path", view.ToSvg());
        }
    }

    [Theory]
    [InlineData(0.5, 1.2, "metres")]
    [InlineData(2, 0.76, "sees no top")]
    [InlineData(2, 3.4, "out of the room")]
    public void A_seat_that_sees_nothing_of_a_table_is_refused(double distance, double eye, string said)
    {
        var e = Assert.Throws<InputException>(() => StillLife.View(Models["first"], new(0, distance, eye), FigureViewKind.Line));
        Assert.Contains(said, $"{e.Message} {e.Accepted}");
        Assert.Throws<InputException>(() => StillLife.View(Models["first"], Sitting, FigureViewKind.Construction));
        Assert.Throws<InputException>(() => StillLife.View(Models["first"], Sitting, FigureViewKind.Tone, values: 4));
    }

    [Fact]
    public void Two_cups_are_told_apart()
    {
        var model = new ArrangementModel(
            new("", "", Ground.Table, [new("cup", -0.1, 0, 0), new("bowl", 0.15, 0, 0), new("cup", -0.1, 0.2, 0)])
        );
        Assert.Equal(["cup 1", "bowl", "cup 2"], model.Names);
    }
}
