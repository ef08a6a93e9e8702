using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Rooms;
using Xunit;

namespace MintHarbor.Core.Tests.Rooms;

public class SeatPlannerTests
{
    private static readonly StudioFigure Studio = new();

    private static FigureModel Model(string pose) =>
        Studio.Model("male", FigureCatalogue.Pose(pose), Drapery.For(false, false), StudioFigure.Thumb);

    /// <summary>Every way of giving rows their columns, on 600 random matrices up to 6 × 7, equal costs among them.</summary>
    [Fact]
    public void The_assignment_is_the_cheapest_of_all_by_trying_them()
    {
        var random = new SeededRandom(11);
        for (var n = 0; n < 600; n++)
        {
            int rows = 1 + random.Next(6),
                columns = rows + random.Next(8 - rows);
            var cost = new double[rows, columns];
            for (var i = 0; i < rows; i++)
            for (var j = 0; j < columns; j++)
                cost[i, j] = n % 2 == 0 ? random.Next(5) - 1 : random.Between(-50, 100);
            var solved = HungarianMethod.Solve(cost);
            Assert.Equal(rows, solved.Distinct().Count());
            Assert.Equal(Cheapest(cost, 0, new bool[columns]), Enumerable.Range(0, rows).Sum(i => cost[i, solved[i]]), 9);
        }
        Assert.Throws<ArgumentException>(() => HungarianMethod.Solve(new double[3, 2]));
        Assert.Throws<ArgumentException>(() =>
            HungarianMethod.Solve(
                new[,]
                {
                    { double.NaN },
                }
            )
        );
        Assert.Empty(HungarianMethod.Solve(new double[0, 4]));
    }

    /// <summary>The turn against all eight: none gives an evener term, and none is offered where it would help fewer than two more.</summary>
    [Fact]
    public void The_pose_is_turned_where_that_evens_the_views_out()
    {
        var room = RoomPlan.Usual with { Spots = RoomLayout.Lay(RoomPlan.Usual, 12) };
        var random = new SeededRandom(5);
        var offers = 0;
        for (var n = 0; n < 60; n++)
        {
            var sitters = Enumerable
                .Range(0, 12)
                .Select(k => new Sitter($"s{k}")
                {
                    Had = SeatPlanner.Views.ToDictionary(v => v, v => v == "back" ? 0 : random.Next(n % 3 == 0 ? 1 : 5)),
                })
                .ToList();
            double Cost(double f) => SeatPlanner.Seat(room, sitters, null, f, 457.2, 609.6).Cost;
            int Least(double f) =>
                SeatPlanner
                    .Seat(room, sitters, null, f, 457.2, 609.6)
                    .Seats.Count(s =>
                        s.Student is { } id && sitters.Single(x => x.Id == id) is var x && x.Had[s.View] == x.Had.Values.Min()
                    );
            if (SeatPlanner.Turn(room, sitters, room.Spots, 0, 1.2) is not { } turn)
            {
                Assert.DoesNotContain(new[] { 45.0, 90, 135, 180, -45, -90, -135 }, f =>
                    Math.Round(Cost(f)) < Math.Round(new[] { 0.0, 45, 90, 135, 180, -45, -90, -135 }.Where(g => g != f).Min(Cost))
                    && Least(f) >= Least(0) + 2
                );
                continue;
            }
            offers++;
            Assert.Equal((Least(turn.Facing), Least(0)), (turn.Least, turn.LeastNow));
            Assert.Equal(Math.Round(new[] { 45.0, 90, 135, 180, -45, -90, -135 }.Min(Cost)), Math.Round(Cost(turn.Facing)));
        }
        Assert.InRange(offers, 20, 59);
        // A class that has seen nothing yet has nothing to even out, and one alone is no class.
        Assert.Null(SeatPlanner.Turn(room, [.. Enumerable.Range(0, 12).Select(k => new Sitter($"s{k}"))], room.Spots, 0));
        Assert.Null(SeatPlanner.Turn(room, [new("s0")], room.Spots, 0));
    }

    private static double Cheapest(double[,] cost, int row, bool[] used)
    {
        if (row == cost.GetLength(0))
            return 0;
        var best = double.PositiveInfinity;
        for (var j = 0; j < used.Length; j++)
        {
            if (used[j])
                continue;
            used[j] = true;
            best = Math.Min(best, cost[row, j] + Cheapest(cost, row + 1, used));
            used[j] = false;
        }
        return best;
    }

    /// <summary>A whole small room against every seating there is: needs first, then the evenest term of views.</summary>
    [Fact]
    public void A_small_room_is_seated_as_well_as_any_seating_could()
    {
        var random = new SeededRandom(3);
        for (var n = 0; n < 40; n++)
        {
            var room = RoomPlan.Usual with
            {
                Spots =
                [
                    .. new[] { 0, 40, 90, -90, 170 }.Select(
                        (a, k) => new Spot($"{k + 1}", RoomPlan.Usual.At(a, 2.6 + (0.1 * k)), k % 2 == 0 ? SpotKind.Bench : SpotKind.Easel)
                    ),
                ],
            };
            var sitters = Enumerable
                .Range(0, 4)
                .Select(k => new Sitter($"s{k}")
                {
                    Had = SeatPlanner.Views.ToDictionary(v => v, _ => random.Next(4)),
                    Needs = random.Next(3) == 0 ? ["low"] : [],
                })
                .ToList();
            var result = SeatPlanner.Seat(room, sitters, null, 0, 457.2, 609.6);
            var places = sitters.Select(s => room.Spots.Select((p, k) => (p, k)).First(x => result.Seats[x.k].Student == s.Id).p).ToList();
            var best = Permutations(5, 4).Min(p => Score(p.Select(k => room.Spots[k]).ToList()));
            Assert.Equal(best, Score(places), 6);

            double Score(List<Spot> at) =>
                at.Select(
                        (p, k) =>
                            (sitters[k].Needs.Contains("low") && p.Kind == SpotKind.Easel ? 1e6 : 0)
                            + (10 * ((2 * sitters[k].Had[SeatPlanner.View(room.Azimuth(p.At))]) + 1))
                            + (
                                3
                                * SeatRules.Default.Of(room, p, Hand.Right, [.. at.Select(s => (s, Hand.Right))], 1.2).Count(c => !c.Holds)
                            )
                            + (1e-3 * (p.At - room.Stand).Length * (k + 1) / 4)
                    )
                    .Sum();
        }
    }

    private static IEnumerable<int[]> Permutations(int of, int count) =>
        count == 0
            ?
            [
                [],
            ]
            : Permutations(of, count - 1)
                .SelectMany(p => Enumerable.Range(0, of).Where(k => !p.Contains(k)).Select(k => p.Append(k).ToArray()));

    [Fact]
    public void Over_a_term_everybody_has_had_every_view_about_as_often()
    {
        var room = RoomPlan.Usual with { Spots = RoomLayout.Lay(RoomPlan.Usual, 12) };
        var had = Enumerable.Range(0, 12).Select(_ => new Dictionary<string, int>()).ToList();
        for (var week = 0; week < 12; week++)
        {
            var seats = SeatPlanner
                .Seat(room, [.. had.Select((h, k) => new Sitter($"{k}") { Had = new Dictionary<string, int>(h) })], null, 0, 457.2, 609.6)
                .Seats;
            foreach (var s in seats.Where(s => s.Student is not null))
                had[int.Parse(s.Student!)][s.View] = had[int.Parse(s.Student!)].GetValueOrDefault(s.View) + 1;
        }
        foreach (var view in SeatPlanner.Views)
        {
            var counts = had.Select(h => h.GetValueOrDefault(view)).ToList();
            Assert.True(counts.Max() - counts.Min() <= 2, $"{view}: {string.Join(" ", counts)}");
        }
    }

    [Fact]
    public void Needs_and_pins_are_kept_and_what_cannot_be_is_said()
    {
        var room = RoomPlan.Usual with { Spots = RoomLayout.Lay(RoomPlan.Usual, 8, low: 3) };
        var easel = room.Spots.First(s => s.Kind == SpotKind.Easel).Id;
        Sitter[] class8 =
        [
            new("low") { Needs = ["low"] },
            new("lefty", Hand.Left),
            new("pinned") { Pin = easel },
            .. Enumerable.Range(0, 5).Select(k => new Sitter($"s{k}")),
        ];
        var seats = SeatPlanner.Seat(room, class8, null, 0, 457.2, 609.6);
        Assert.Equal(SpotKind.Bench, seats.Seats.Single(s => s.Student == "low").Spot.Kind);
        Assert.Equal(easel, seats.Seats.Single(s => s.Student == "pinned").Spot.Id);
        Assert.Empty(seats.Unmet);
        var none = SeatPlanner.Seat(room with { Sockets = [] }, [new("cable") { Needs = ["socket"] }], null, 0, 457.2, 609.6);
        Assert.Contains("near a socket", Assert.Single(none.Unmet));
        Assert.Equal(
            "students.pin",
            Assert
                .Throws<InputException>(() =>
                    SeatPlanner.Seat(room, [new("a") { Pin = "1" }, new("b") { Pin = "1" }], null, 0, 457.2, 609.6)
                )
                .Field
        );
        Assert.Equal(
            "students.needs",
            Assert.Throws<InputException>(() => SeatPlanner.Seat(room, [new("a") { Needs = ["throne"] }], null, 0, 457.2, 609.6)).Field
        );
    }

    [Fact]
    public void Thirty_one_in_a_room_for_twelve_is_refused_with_the_twelve()
    {
        var class31 = Enumerable.Range(0, 31).Select(k => new Sitter($"{k}")).ToList();
        var cannot = Assert.Single(SeatPlanner.Seat(RoomPlan.Usual with { Most = 12 }, class31, null, 0, 457.2, 609.6).Cannot);
        Assert.Equal(12, cannot.Nearest["students"]);
        Assert.Contains("31", cannot.Says);
        Assert.NotEmpty(
            SeatPlanner
                .Seat(
                    RoomPlan.Usual with
                    {
                        Width = 7,
                        Depth = 6,
                        Stand = new(3.5, 2),
                        Lamp = null,
                        Doors = [],
                        Sockets = [],
                    },
                    class31,
                    null,
                    0,
                    457.2,
                    609.6
                )
                .Cannot
        );
    }

    [Theory]
    [InlineData(6), InlineData(12), InlineData(16)]
    public void Places_laid_out_keep_sight_exits_and_elbows(int count)
    {
        var spots = RoomLayout.Lay(RoomPlan.Usual, count);
        Assert.Equal(count, spots.Count);
        List<(Spot, Hand)> all = [.. spots.Select(s => (s, Hand.Right))];
        foreach (var spot in spots)
            Assert.All(SeatRules.Default.Of(RoomPlan.Usual, spot, Hand.Right, all, 1.75).Where(c => c.Hard), c =>
                Assert.True(c.Holds, $"{spot}: {c.Says}")
            );
    }

    /// <summary>By hand: an eye at 1.1 m, 4 m from the stand; a board 1.75 m high 2 m away cuts the figure at
    /// 1.1 + 0.65·4/2 = 2.4 m over the floor, so a figure from 0.4 to 2.15 m is hidden whole.</summary>
    [Fact]
    public void A_board_in_the_line_of_sight_hides_what_lies_under_it()
    {
        var room = new RoomPlan(10, 10, new(5, 2));
        var eye = new Spot("eye", new(5, 6), SpotKind.Bench);
        // The board of a right-hander stands 0.45 m before and 0.4 m to the right: put the person so that it stands in the middle.
        var tall = new Spot("tall", new(4.6, 4.45), SpotKind.Easel);
        Assert.InRange((room.Board(tall, Hand.Right) - new Vec2(5, 4)).Length, 0, 0.12);
        var (hidden, by) = SeatRules.Hides(room, eye, [(eye, Hand.Right), (tall, Hand.Right)], 1.75);
        Assert.Equal((100.0, "tall"), (hidden, by));
        // A bench's board, 1.15 m: cut at 1.1 + 0.05·2 = 1.2 m, 0.8 of 1.75 m.
        var low = tall with { Id = "low", Kind = SpotKind.Bench };
        Assert.InRange(SeatRules.Hides(room, eye, [(low, Hand.Right)], 1.75).Hidden, 45.0, 46.5);
        Assert.Equal(0, SeatRules.Hides(room, eye, [(tall with { At = new(3, 4.5) }, Hand.Right)], 1.75).Hidden);
    }

    /// <summary>A neighbour half a metre ahead hides more than one two metres ahead, and whoever stands there hides as a board does. By hand: an eye at 1.1 m
    /// astride a bench; the head of somebody who stands reaches 1.55 + 0.12 m, 0.5 m ahead of 4: cut at 1.1 + 0.57·4/0.5 = 5.7 m, over any figure.</summary>
    [Fact]
    public void A_neighbour_half_a_metre_off_hides_the_model()
    {
        var room = new RoomPlan(10, 10, new(5, 2));
        var eye = new Spot("eye", new(5, 6), SpotKind.Bench);
        var neighbour = new Spot("by", new(5, 5.5), SpotKind.Easel);
        foreach (var hand in new[] { Hand.Left, Hand.Right })
            Assert.Equal((100.0, "by"), SeatRules.Hides(room, eye, [(eye, Hand.Right), (neighbour, hand)], 1.75));
        Assert.False(SeatRules.Default.Of(room, eye, Hand.Right, [(neighbour, Hand.Left)], 1.75).Single(c => c.Id == "sight").Holds);
        // Beside one another, at the same distance, neither is in the other's way.
        Assert.Equal(0, SeatRules.Hides(room, eye, [(neighbour with { At = new(6, 6) }, Hand.Right)], 1.75).Hidden);
    }

    /// <summary>What is said to be the nearest that can be seated is seated.</summary>
    [Fact]
    public void The_nearest_that_can_is_true()
    {
        var random = new SeededRandom(17);
        var refused = 0;
        for (var n = 0; n < 60; n++)
        {
            var room = RoomPlan.Usual with
            {
                Width = random.Between(5, 11),
                Depth = random.Between(5, 9),
                Stand = new(2.5, 2),
                Doors = [new(new(0, 4))],
                Sockets = [],
                Lamp = null,
                Most = random.Next(3) == 0 ? 6 + random.Next(8) : 0,
            };
            var sitters = Enumerable
                .Range(0, 6 + random.Next(24))
                .Select(k => new Sitter($"s{k}") { Needs = random.Next(4) == 0 ? ["low"] : [] })
                .ToList();
            if (SeatPlanner.Seat(room, sitters, null, 0, 457.2, 609.6).Cannot is not [var cannot])
                continue;
            refused++;
            var nearest = (int)cannot.Nearest["students"]!;
            Assert.True(nearest > 0 && nearest < sitters.Count);
            Assert.Empty(SeatPlanner.Seat(room, [.. sitters.Take(nearest)], null, 0, 457.2, 609.6).Cannot);
        }
        Assert.True(refused > 20, $"only {refused} rooms were too small");
    }

    /// <summary>A place that nobody has taken stands in nobody's way: a room with twice the places costs no more than the same one without.</summary>
    [Fact]
    public void Empty_places_cost_nothing()
    {
        var few = RoomPlan.Usual with
        {
            Spots = [new("1", RoomPlan.Usual.At(0, 4.6), SpotKind.Easel), new("2", RoomPlan.Usual.At(40, 4.6), SpotKind.Easel)],
        };
        var many = few with
        {
            Spots =
            [
                .. few.Spots,
                new("3", RoomPlan.Usual.At(4, 3.2), SpotKind.Easel),
                new("4", RoomPlan.Usual.At(36, 3.2), SpotKind.Easel),
            ],
        };
        Sitter[] two = [new("a") { Pin = "1" }, new("b") { Pin = "2" }];
        var (alone, beside) = (SeatPlanner.Seat(few, two, null, 0, 457.2, 609.6), SeatPlanner.Seat(many, two, null, 0, 457.2, 609.6));
        Assert.Equal(alone.Cost, beside.Cost, 6);
        Assert.All(beside.Seats.Where(s => s.Student is not null), s => Assert.True(s.Checks.Single(c => c.Id == "sight").Holds));
    }

    /// <summary>By hand: a row of places 1.1 m apart across a room leaves 1.1 − 0.7 = 0.4 m between them, and half that at the walls.</summary>
    [Fact]
    public void The_walk_to_the_door_is_as_wide_as_what_stands_there_leaves()
    {
        var room = new RoomPlan(6, 8, new(3, 1.5)) { Doors = [new(new(3, 8))] };
        var inside = new Spot("in", new(3, 4), SpotKind.Easel);
        Spot[] row = [.. Enumerable.Range(0, 6).Select(k => new Spot($"r{k}", new(0.25 + (1.1 * k), 6), SpotKind.Easel))];
        var clear = SeatRules.Default.Ways(room, [inside], [inside])[0];
        Assert.True(clear.Holds, clear.Says);
        var shut = SeatRules.Default.Ways(room, [inside], [inside, .. row])[0];
        Assert.False(shut.Holds);
        Assert.InRange(shut.Value, 0.2, 0.45);
        Assert.Contains("narrows to", shut.Says);
        // One of them left out, and the way is as wide as the door.
        Assert.Equal(0.9, SeatRules.Default.Ways(room, [inside], [inside, .. row.Where(r => r.Id is not "r2" and not "r3")])[0].Value, 1);
    }

    [Fact]
    public void The_board_stands_on_the_drawing_hands_side()
    {
        var room = new RoomPlan(10, 10, new(5, 2));
        var spot = new Spot("1", new(5, 6), SpotKind.Easel);
        // Looking up the plan, the right hand is at larger x: the model is seen to the left of the board.
        Assert.True(room.Board(spot, Hand.Right).X > 5.3 && room.Board(spot, Hand.Left).X < 4.7);
        var cornered = SeatRules.Default.Of(room, new("2", new(9.6, 2), SpotKind.Easel), Hand.Left, [], 1.75);
        Assert.Equal(0, room.Azimuth(new(5, 5)), 9);
        Assert.Equal(90, room.Azimuth(new(8, 2)), 9);
        Assert.Contains(cornered, c => c.Id == "hand");
    }

    /// <summary>A known segment: the forearm reaching at the viewer. Seen over true length against the cosine of its angle to the picture
    /// plane, from 20 m: a limb lies up to 3° off the line of sight there, which is worth up to 0.05.</summary>
    [Theory]
    [InlineData("reach"), InlineData("seated"), InlineData("supine")]
    public void Foreshortening_is_the_cosine_when_far(string pose)
    {
        var model = Model(pose);
        foreach (var azimuth in new[] { 0.0, 35, 90, 140 })
        {
            var far = Glance.Of(model, new(azimuth, 20, 1.2));
            var (sin, cos) = Math.SinCos(azimuth * Math.PI / 180);
            foreach (var (limb, from, to) in new[] { ("thigh.L", "hip.L", "knee.L"), ("forearm.R", "fore.R", "hand.R") })
            {
                var a = model.Skeleton.Joint[model.Skeleton.Body.BoneIndex(from)];
                var b = model.Skeleton.Joint[model.Skeleton.Body.BoneIndex(to)];
                var along = System.Numerics.Vector3.Normalize(b - a);
                var towards = (along.X * sin) + (along.Z * cos);
                Assert.Equal(Math.Sqrt(1 - (towards * towards)), far.Limbs.Single(l => l.Id == limb).Ratio, 0.05);
            }
        }
    }

    /// <summary>By hand: an envelope of 2 × 7.5 heads on 457.2 × 609.6 with 20 mm: min(417.2/2, 569.6/7.5) = 75.95 mm.</summary>
    [Fact]
    public void A_view_fits_the_sheet_with_the_largest_head()
    {
        var fit = PageFit.Of(new(2, 7.5, 0, 7.5, []), 457.2, 609.6);
        Assert.Equal((false, 75.947), (fit.Landscape, Math.Round(fit.HeadMm, 3)));
        Assert.Equal((20.0, 589.6), (Math.Round(fit.CrownMm, 3), Math.Round(fit.SoleMm, 3)));
        var lying = PageFit.Of(new(7, 2.5, 0.2, 2.5, []), 457.2, 609.6);
        Assert.True(lying.Landscape);
        Assert.Equal(569.6 / 7, lying.HeadMm, 6);
        Assert.Equal("margin", Assert.Throws<InputException>(() => PageFit.Of(new(2, 7.5, 0, 7.5, []), 100, 100, 48)).Field);
        // The standing figure's own view: 7½ heads and a little for perspective, and the page's height decides.
        var stand = Glance.Of(Model("stand"), new(0, 4.5, 1.2));
        Assert.InRange(stand.HeightHeads, 7.1, 8.1);
        Assert.InRange(stand.CrownHeads, 0, 0.1);
    }
}
