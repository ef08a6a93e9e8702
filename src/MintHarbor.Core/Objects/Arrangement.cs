using System.Globalization;
using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Objects;

/// <summary>What an arrangement stands on: a table of 1.3 × 0.8 m, 0.74 m high, or the floor before a wall.</summary>
public enum Ground
{
    Table,
    Floor,
}

/// <summary>Where a thing stands: metres from the middle, x to the right and z towards the front, turned so many degrees about its upright axis.</summary>
public sealed record PlacedThing(string Thing, double X, double Z, double Turn)
{
    [JsonIgnore]
    internal Vec2 At => new(X, Z);
}

/// <summary>Things set up to be drawn. How high each stands follows: whatever has its middle over a thing that holds others stands on it.</summary>
public sealed record Arrangement(string Id, string Name, Ground Ground, IReadOnlyList<PlacedThing> Places)
{
    public const int Most = 5;

    public const double TableBreadth = 1.3,
        TableDepth = 0.8,
        TableHeight = 0.74;

    /// <summary>Metres from the middle that the floor is used to.</summary>
    public const double FloorReach = 1.5;

    /// <summary>Heights shared up to this are a touch, metres.</summary>
    private const double Touch = 0.0015;

    /// <summary>Height of the ground over the floor, metres.</summary>
    [JsonIgnore]
    public double GroundHeight => Ground == Ground.Table ? TableHeight : 0;

    /// <summary>Whether it can be drawn at all: while things are moved they may stand in one another or over the edge.</summary>
    /// <exception cref="InputException">No things or more than five, one that isn't on the shelf, or one that stands nowhere.</exception>
    public Arrangement Drawable(string field = "things")
    {
        if (Places.Count is < 1 or > Most)
            throw new InputException(Places.Count == 0 ? "nothing is set up" : $"{Places.Count} things", field, $"one to {Most} things");
        foreach (var p in Places)
        {
            var name = Named(p, field);
            if (!double.IsFinite(p.At.Length) || !double.IsFinite(p.Turn) || p.At.Length > 2 * FloorReach || Math.Abs(p.Turn) > 3600)
                throw new InputException($"the {name} stands nowhere", field, $"up to {2 * FloorReach} m from the middle, degrees of turn");
        }
        return this;
    }

    /// <summary>Whether it can stand.</summary>
    /// <exception cref="InputException">It can't be drawn, a thing reaches off the ground, or two stand in one another.</exception>
    public Arrangement Checked(string field = "things")
    {
        Drawable(field);
        foreach (var p in Places)
        {
            if (Ground == Ground.Table && PlanOf(p).Any(q => Math.Abs(q.X) > TableBreadth / 2 || Math.Abs(q.Y) > TableDepth / 2))
                throw new InputException(
                    $"the {Named(p)} reaches over the table's edge",
                    field,
                    $"a table of {Say.Number(TableBreadth, 1)} × {Say.Number(TableDepth, 1)} m"
                );
            if (Ground == Ground.Floor && p.At.Length > FloorReach)
                throw new InputException($"the {Named(p)} stands too far off", field, $"{FloorReach} m from the middle at most");
        }
        if (Overlaps() is [var first, ..])
            throw new InputException(
                $"the {Named(Places[first.A])} and the {Named(Places[first.B])} stand in one another",
                field,
                "things with air between them, or one on top of another that is flat"
            );
        return this;
    }

    private static string Named(PlacedThing p, string field = "things") => ThingShelf.Model(p.Thing, field).Thing.Name;

    /// <summary>How high over the ground each thing stands, metres, and on which (−1 on the ground).</summary>
    public IReadOnlyList<(double Height, int On)> Stands()
    {
        // What holds others comes first; among those, what was set up earlier is below.
        var order = Enumerable.Range(0, Places.Count).OrderBy(i => Holds(i) is null).ToList();
        var stands = new (double Height, int On)[Places.Count];
        for (var n = 0; n < order.Count; n++)
        {
            stands[order[n]] = (0, -1);
            foreach (var k in order.Take(n))
            {
                if (Holds(k) is { } top && stands[k].Height + top is var height && height > stands[order[n]].Height)
                    if (Plans.Holds(PlanOf(Places[k]), Places[order[n]].At))
                        stands[order[n]] = (height, k);
            }
        }
        return stands;
    }

    private double? Holds(int i) => ThingShelf.Model(Places[i].Thing).Thing.Holds;

    /// <summary>The hull of what a thing covers, where it stands.</summary>
    public static IReadOnlyList<Vec2> PlanOf(PlacedThing p)
    {
        var frame = Frame.Of(new(p.X, 0, p.Z), new(0, p.Turn, 0));
        return [.. ThingShelf.Model(p.Thing).Plan.Select(q => frame.Place(new(q.X, 0, q.Y))).Select(q => new Vec2(q.X, q.Z))];
    }

    /// <summary>Pairs of things that stand in one another: their plans meet where they share height. Strict: a chair counts as its hull.</summary>
    public IReadOnlyList<(int A, int B)> Overlaps()
    {
        var stands = Stands();
        var plans = Places.Select(PlanOf).ToList();
        (double Low, double High) Reach(int i) =>
            ThingShelf.Model(Places[i].Thing) is var m ? (stands[i].Height + m.Low, stands[i].Height + m.High) : default;
        return
        [
            .. from a in Enumerable.Range(0, Places.Count)
            from b in Enumerable.Range(a + 1, Places.Count - a - 1)
            where Math.Min(Reach(a).High, Reach(b).High) - Math.Max(Reach(a).Low, Reach(b).Low) > Touch && Plans.Meet(plans[a], plans[b])
            select (a, b),
        ];
    }

    /// <summary>"table;jug,0.1,-0.05,30;cup,…": what an address carries.</summary>
    public string Write() =>
        string.Join(
            ';',
            Places
                .Select(p => string.Create(CultureInfo.InvariantCulture, $"{p.Thing},{p.X:0.###},{p.Z:0.###},{p.Turn:0.#}"))
                .Prepend(Ground == Ground.Table ? "table" : "floor")
        );

    /// <summary>Reads what <see cref="Write"/> wrote; not yet checked for what stands in one another.</summary>
    /// <exception cref="InputException">Another ground, or a thing that can't be read.</exception>
    public static Arrangement Read(string text, string field = "things")
    {
        var rows = text.Length > 400 ? [] : text.Split(';', StringSplitOptions.RemoveEmptyEntries);
        Ground ground = rows.FirstOrDefault() switch
        {
            "table" => Ground.Table,
            "floor" => Ground.Floor,
            var other => throw new InputException($"things on '{other}'", field, "table or floor, then thing,x,z,turn for each"),
        };
        return new("", "", ground, [.. rows.Skip(1).Select(r => Placed(r, field))]);
    }

    private static PlacedThing Placed(string row, string field)
    {
        static bool Number(string text, out double v) =>
            double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out v) && double.IsFinite(v);
        return
            row.Split(',') is [var thing, var x, var z, var turn] && Number(x, out var a) && Number(z, out var b) && Number(turn, out var c)
            ? new(thing, a, b, c)
            : throw new InputException($"'{row}' is no place of a thing", field, "thing,x,z,turn");
    }
}
