using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Objects;

/// <summary>Plans of things on the ground that they stand on: convex, anticlockwise, x and z in metres.</summary>
public static class Plans
{
    /// <summary>Whether two plans share more than a touch: no side of either has all of the other beyond it (separating axes).</summary>
    /// <param name="touch">How far one may reach into the other and still only touch it, metres.</param>
    public static bool Meet(IReadOnlyList<Vec2> a, IReadOnlyList<Vec2> b, double touch = 0.0005) =>
        !Beyond(a, b, touch) && !Beyond(b, a, touch);

    private static bool Beyond(IReadOnlyList<Vec2> a, IReadOnlyList<Vec2> b, double touch) =>
        Sides(a).Any(s => b.Min(p => (p - s.From).Dot(s.Outward)) > -touch);

    /// <summary>Whether a place lies in a plan or on its rim.</summary>
    public static bool Holds(IReadOnlyList<Vec2> plan, Vec2 p) => Sides(plan).All(s => (p - s.From).Dot(s.Outward) <= 1e-9);

    private static IEnumerable<(Vec2 From, Vec2 Outward)> Sides(IReadOnlyList<Vec2> plan)
    {
        for (var i = 0; i < plan.Count; i++)
        {
            var d = plan[(i + 1) % plan.Count] - plan[i];
            if (d.Length > 1e-9)
                yield return (plan[i], new Vec2(d.Y, -d.X) * (1 / d.Length));
        }
    }
}
