using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;

namespace MintHarbor.Core.Rooms;

/// <summary>Somebody who is to be seated.</summary>
/// <param name="Needs">"low" (must sit low or see over nobody), "socket" (near a socket), "near" (sees badly).</param>
/// <param name="Had">How often each view was had this term: front, three-quarter, profile, back.</param>
/// <param name="Pin">A place that is theirs whatever the sums say; null for none.</param>
public sealed record Sitter(string Id, Hand Hand = Hand.Right)
{
    public IReadOnlyList<string> Needs { get; init; } = [];
    public IReadOnlyDictionary<string, int> Had { get; init; } = new Dictionary<string, int>();
    public string? Pin { get; init; }
}

/// <summary>A place with who sits there and what it sees.</summary>
/// <param name="Azimuth">From the front of the pose as it faces tonight, degrees.</param>
/// <param name="Glance">Null where nothing is posed.</param>
public sealed record PlannedSeat(
    Spot Spot,
    string? Student,
    double Azimuth,
    double Distance,
    double EyeHeight,
    string View,
    Glance? Glance,
    PageFit? Fit,
    IReadOnlyList<SeatCheck> Checks
)
{
    public Seat Seat => new(Azimuth, Distance, EyeHeight);
}

/// <param name="Cost">Sum of the assignment's costs, the least there is.</param>
/// <param name="Unmet">Needs that could not be kept, one sentence each.</param>
/// <param name="Cannot">Why not everybody has a place, with the nearest that would work.</param>
public sealed record SeatResult(IReadOnlyList<PlannedSeat> Seats, double Cost, IReadOnlyList<string> Unmet, IReadOnlyList<Cannot> Cannot);

/// <summary>A turn of the pose that shows the class sides which it has seen least.</summary>
/// <param name="Facing">Degrees from the front of the stand, positive to the model's left.</param>
/// <param name="Least">How many students would have a view that they have had least.</param>
/// <param name="LeastNow">How many have one as the pose faces now.</param>
public sealed record TurnOffer(double Facing, int Least, int LeastNow);

/// <summary>Seats a class: views even out over the term, needs are kept, pins stand.</summary>
public static class SeatPlanner
{
    public static readonly string[] Views = ["front", "three-quarter", "profile", "back"];
    public static readonly string[] Needs = ["low", "socket", "near"];

    private const double NeedWeight = 1e6,
        ViewWeight = 10,
        CheckWeight = 3;

    /// <summary>An azimuth's view, in the judge's words.</summary>
    public static string View(double azimuth) =>
        Math.Abs(Math.IEEERemainder(azimuth, 360)) switch
        {
            < 12 => "front",
            < 65 => "three-quarter",
            < 115 => "profile",
            _ => "back",
        };

    /// <param name="model">The pose as it is held; null for a cast or still life, which has no limbs to foreshorten.</param>
    /// <param name="facing">Degrees that it is turned from the stand's front.</param>
    /// <exception cref="InputException">A room or a need that can't be read.</exception>
    public static SeatResult Seat(
        RoomPlan room,
        IReadOnlyList<Sitter> sitters,
        FigureModel? model,
        double facing,
        double paperWidthMm,
        double paperHeightMm,
        double marginMm = 20,
        SeatRules? rules = null
    )
    {
        rules ??= SeatRules.Default;
        room.Checked();
        Check(sitters);
        var height = model is null ? 1.2 : Math.Max(0.6, Glance.HeightMetres(model));
        var spots =
            room.Spots.Count > 0
                ? room.Spots
                : RoomLayout.Lay(room, sitters.Count, Math.Max(1.5, height), sitters.Count(s => s.Needs.Contains("low")), rules);
        var most = room.Most > 0 ? Math.Min(room.Most, spots.Count) : spots.Count;
        if (sitters.Count > most)
            return new(
                [],
                0,
                [],
                [
                    new(
                        "room",
                        $"{sitters.Count} in a room that seats {most}: {(room.Most > 0 && room.Most < sitters.Count ? "by its own rules" : "no more places keep sight and ways out clear")}.",
                        new Dictionary<string, object?> { ["students"] = Seated(room, sitters, most, height, rules) }
                    ),
                ]
            );
        foreach (var s in sitters.Where(s => s.Pin is { } pin && spots.All(p => p.Id != pin)))
            throw new InputException($"there is no place '{s.Pin}'", "students.pin", string.Join(" | ", spots.Select(p => p.Id)));
        var (places, cost) = Assign(room, sitters, spots, facing, height, rules);
        var taken = Enumerable.Range(0, sitters.Count).ToDictionary(n => places[n], n => sitters[n]);
        List<(Spot Spot, Hand Hand)> used = [.. taken.Select(t => (spots[t.Key], t.Value.Hand))];
        var ways = rules.Ways(room, spots, [.. used.Select(u => u.Spot)]);
        var seats = spots
            .Select(
                (spot, n) =>
                {
                    var seen = room.Seen(spot, facing);
                    var glance = model is null ? null : Glance.Of(model, seen);
                    var sitter = taken.GetValueOrDefault(n);
                    return new PlannedSeat(
                        spot,
                        sitter?.Id,
                        seen.Azimuth,
                        seen.Distance,
                        seen.EyeHeight,
                        View(seen.Azimuth),
                        glance,
                        glance is null ? null : PageFit.Of(glance, paperWidthMm, paperHeightMm, marginMm),
                        [.. rules.Of(room, spot, sitter?.Hand ?? Hand.Right, used, height), ways[n]]
                    );
                }
            )
            .ToList();
        var unmet = Enumerable
            .Range(0, sitters.Count)
            .SelectMany(n =>
                sitters[n]
                    .Needs.Where(need => !Met(need, room, spots[places[n]], rules, height))
                    .Select(need => $"{sitters[n].Id}: no place {Word(need)} was left.")
            )
            .ToList();
        return new(seats, Math.Round(cost, 6), unmet, []);
    }

    /// <summary>Of the eight quarter and eighth turns the one whose seating is cheapest, found by seating the class for each; null where
    /// it would not give a view had least to two students more.</summary>
    /// <param name="height">Of the pose, metres.</param>
    public static TurnOffer? Turn(
        RoomPlan room,
        IReadOnlyList<Sitter> sitters,
        IReadOnlyList<Spot> spots,
        double facing,
        double height = SeatRules.StandingHeight,
        SeatRules? rules = null
    )
    {
        if (sitters.Count < 2 || sitters.Count > spots.Count)
            return null;
        (double Facing, double Cost, int Least) Tried(double f)
        {
            var (places, cost) = Assign(room, sitters, spots, f, height, rules ?? SeatRules.Default);
            return (
                f,
                cost,
                sitters
                    .Where(
                        (s, n) =>
                            s.Had.GetValueOrDefault(View(room.Azimuth(spots[places[n]].At) - f))
                            == Views.Min(v => s.Had.GetValueOrDefault(v))
                    )
                    .Count()
            );
        }
        var now = Tried(facing);
        // Of two that are equal the smaller turn, and to the left.
        var best = new[] { 45.0, -45, 90, -90, 135, -135, 180 }
            .Select(by => Tried(Math.IEEERemainder(facing + by, 360)))
            .MinBy(t => Math.Round(t.Cost));
        return best.Cost < now.Cost && best.Least >= now.Least + 2 ? new(best.Facing, best.Least, now.Least) : null;
    }

    /// <summary>The most that can be seated, tried: fewer are laid out otherwise, so that what holds for many need not hold for few.</summary>
    private static int Seated(RoomPlan room, IReadOnlyList<Sitter> sitters, int most, double height, SeatRules rules)
    {
        for (var n = most; n > 0; n--)
        {
            var low = sitters.Take(n).Count(s => s.Needs.Contains("low"));
            var spots = room.Spots.Count > 0 ? room.Spots.Count : RoomLayout.Lay(room, n, Math.Max(1.5, height), low, rules).Count;
            if (spots >= n && (room.Most == 0 || n <= room.Most))
                return n;
        }
        return 0;
    }

    private static void Check(IReadOnlyList<Sitter> sitters)
    {
        if (sitters.Count > 60)
            throw new InputException($"{sitters.Count} students", "students", "60 at most");
        if (sitters.GroupBy(s => s.Id).FirstOrDefault(g => g.Count() > 1) is { } twice)
            throw new InputException($"'{twice.Key}' is there twice", "students", "each student once");
        if (sitters.Where(s => s.Pin is not null).GroupBy(s => s.Pin).FirstOrDefault(g => g.Count() > 1) is { } both)
            throw new InputException(
                $"place '{both.Key}' is pinned for {Say.List([.. both.Select(s => s.Id)])}",
                "students.pin",
                "one student a place"
            );
        foreach (var s in sitters)
        {
            if (s.Needs.FirstOrDefault(n => !Needs.Contains(n)) is { } need)
                throw new InputException($"unknown need '{need}'", "students.needs", string.Join(" | ", Needs));
            if (s.Had.FirstOrDefault(h => !Views.Contains(h.Key) || h.Value < 0) is { Key: { } view })
                throw new InputException(
                    $"view '{view}' had {s.Had[view]} times",
                    "students.had",
                    string.Join(" | ", Views) + ", 0 or more times"
                );
        }
    }

    /// <summary>The cheapest seating. A view's cost is what it adds to the sum of squares of the views had, 2·had + 1, so that the
    /// least sum is the evenest term; a need that isn't kept outweighs everything but a pin.</summary>
    private static (int[] Places, double Cost) Assign(
        RoomPlan room,
        IReadOnlyList<Sitter> sitters,
        IReadOnlyList<Spot> spots,
        double facing,
        double height,
        SeatRules rules
    )
    {
        if (sitters.Count == 0)
            return ([], 0);
        // Who stands in whose way depends on who sits where: from all places taken, then from those that are, until that is the same.
        List<(Spot Spot, Hand Hand)> taken = [.. spots.Select(s => (s, Hand.Right))];
        (int[] Places, double Cost)? best = null;
        for (var round = 0; round < Rounds; round++)
        {
            var (places, _) = Assign(room, sitters, spots, taken, facing, height, rules);
            taken = [.. places.Select((p, n) => (spots[p], sitters[n].Hand))];
            var costs = Costs(room, sitters, spots, taken, facing, height, rules);
            var cost = Enumerable.Range(0, sitters.Count).Sum(i => costs[i, places[i]]);
            if (best is { } b && cost >= b.Cost - 1e-9)
                break;
            best = (places, cost);
        }
        return best!.Value;
    }

    /// <summary>How often the seating is tried again with the places that were left empty.</summary>
    private const int Rounds = 4;

    private static (int[] Places, double Cost) Assign(
        RoomPlan room,
        IReadOnlyList<Sitter> sitters,
        IReadOnlyList<Spot> spots,
        IReadOnlyList<(Spot Spot, Hand Hand)> taken,
        double facing,
        double height,
        SeatRules rules
    )
    {
        var cost = Costs(room, sitters, spots, taken, facing, height, rules);
        var places = HungarianMethod.Solve(cost);
        return (places, Enumerable.Range(0, sitters.Count).Sum(i => cost[i, places[i]]));
    }

    /// <summary>What each place costs each student, with these places taken.</summary>
    private static double[,] Costs(
        RoomPlan room,
        IReadOnlyList<Sitter> sitters,
        IReadOnlyList<Spot> spots,
        IReadOnlyList<(Spot Spot, Hand Hand)> taken,
        double facing,
        double height,
        SeatRules rules
    )
    {
        var faults = spots
            .Select(s => new[] { Hand.Right, Hand.Left }.Select(h => rules.Of(room, s, h, taken, height).Count(c => !c.Holds)).ToArray())
            .ToList();
        var cost = new double[sitters.Count, spots.Count];
        for (var i = 0; i < sitters.Count; i++)
        {
            var s = sitters[i];
            for (var j = 0; j < spots.Count; j++)
            {
                var view = View(room.Azimuth(spots[j].At) - facing);
                cost[i, j] =
                    (ViewWeight * ((2 * s.Had.GetValueOrDefault(view)) + 1))
                    + (CheckWeight * faults[j][(int)s.Hand])
                    + s.Needs.Sum(n => Met(n, room, spots[j], rules, height) ? 0 : NeedWeight)
                    + (s.Pin is { } pin && spots[j].Id != pin ? 1e9 : 0)
                    // Where all is equal, the nearer place goes to who comes first on the roster.
                    + (1e-3 * (spots[j].At - room.Stand).Length * (i + 1) / sitters.Count);
            }
        }
        return cost;
    }

    private static bool Met(string need, RoomPlan room, Spot spot, SeatRules rules, double height) =>
        need switch
        {
            "low" => spot.EyeHeight <= rules.LowEye,
            "socket" => room.Sockets.Any(s => (s - spot.At).Length <= rules.SocketReach),
            _ => (spot.At - room.Stand).Length <= 2.2 * Math.Max(SeatRules.StandingHeight, height),
        };

    public static string Word(string need) =>
        need switch
        {
            "low" => "to sit low",
            "socket" => "near a socket",
            _ => "near the stand",
        };
}
