using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Objects;

/// <summary>A straight edge as it is seen, in picture pixels.</summary>
/// <param name="Metres">Its true length.</param>
/// <param name="Shortening">Seen length over the length it would have square to the eye at its own distance; a leaning edge may pass 1 a little.</param>
/// <param name="Seen">Share of it that is seen.</param>
public sealed record SeenEdge(string Thing, string Name, Vec2 From, Vec2 To, double Metres, double Shortening, double Seen)
{
    [JsonIgnore]
    public double Length => (To - From).Length;

    /// <summary>Long enough and seen enough to be asked for: 40 pixels, six tenths.</summary>
    [JsonIgnore]
    public bool Askable => Length >= 40 && Seen >= 0.6;
}

/// <summary>Edges of one thing that run the same way.</summary>
/// <param name="Edges">Which of the view's edges.</param>
/// <param name="Vanishing">The place they run together at; null where they run level with the picture and stay parallel, as uprights do.</param>
/// <param name="Deep">How much the direction goes into the picture: cosine of its angle with the line of sight.</param>
public sealed record EdgeFamily(string Thing, IReadOnlyList<int> Edges, Vec2? Vanishing, double Deep)
{
    /// <summary>Level in space: they run together at the level of the eye.</summary>
    [JsonIgnore]
    public bool Level { get; init; }
}

/// <summary>A circle as it is seen: an ellipse, known in closed form.</summary>
/// <param name="Turn">Degrees of the long axis, clockwise from level.</param>
/// <param name="Middle">Where the circle's own middle is seen: a little behind the ellipse's.</param>
/// <param name="Seen">Share of it that is seen.</param>
public sealed record SeenEllipse(string Thing, string Name, Vec2 Centre, double Major, double Minor, double Turn, Vec2 Middle, double Seen)
{
    /// <summary>How open it is: its short half over its long one.</summary>
    [JsonIgnore]
    public double Openness => Minor / Major;

    /// <summary>Its long and its short axis, end to end.</summary>
    [JsonIgnore]
    internal Marked Breadth => Axis(Turn, Major);

    [JsonIgnore]
    internal Marked Depth => Axis(Turn + 90, Minor);

    private Marked Axis(double degrees, double half) => Vec2.Towards(degrees) * half is var d ? new(Centre - d, Centre + d) : default!;
}

/// <summary>A piece of ground or wall that things leave.</summary>
/// <param name="Enclosed">Shut in by things all round; otherwise by things and the straight line laid against the whole.</param>
/// <param name="Between">The things round it.</param>
public sealed record NegativeGap(bool Enclosed, IReadOnlyList<string> Between, double Area, IReadOnlyList<Vec2> Outline);

/// <summary>A flat face as it is seen.</summary>
/// <param name="Facing">Tone by where it faces alone, 0 black to 1 white.</param>
/// <param name="Mean">Mean of the tone that is seen, with shadows: what is drawn.</param>
/// <param name="Steady">How much its tone scatters over what is seen, standard deviation.</param>
/// <param name="At">The place of it that lies deepest inside what is seen.</param>
/// <param name="Room">How far that place is from the rim of what is seen, pixels.</param>
public sealed record SeenPlane(string Thing, string Name, double Facing, double Mean, double Steady, double Area, Vec2 At, double Room);

/// <summary>A thing as it is seen: the upright rectangle round all of it, what others hide included.</summary>
/// <param name="Seen">Share of it that nothing hides.</param>
public sealed record SeenThing(string Name, Area Round, double Seen);

/// <summary>All that is known of a view of an arrangement, in its pixels.</summary>
public sealed record ThingTruth(
    IReadOnlyList<SeenEdge> Edges,
    IReadOnlyList<EdgeFamily> Families,
    IReadOnlyList<SeenEllipse> Ellipses,
    IReadOnlyList<NegativeGap> Gaps,
    IReadOnlyList<SeenPlane> Planes
)
{
    [JsonIgnore]
    public IReadOnlyList<SeenThing> Things { get; init; } = [];

    /// <summary>The rectangle round everything.</summary>
    [JsonIgnore]
    public Area Whole =>
        Area.Round(Things.SelectMany(t => new Vec2[] { new(t.Round.Left, t.Round.Top), new(t.Round.Right, t.Round.Foot) }));

    private const double LeastGap = 400,
        LeastRing = 20,
        LeastRoom = 7;

    /// <summary>Only what may be asked of an eye: edges and circles long enough and seen enough, families of which two edges are left, gaps and faces
    /// with room in them. Places to the hundredth.</summary>
    public ThingTruth Askable()
    {
        var kept = Edges.Select((e, i) => (Edge: e, I: i)).Where(e => e.Edge.Askable).Select((e, to) => (e.Edge, e.I, To: to)).ToList();
        var moved = kept.ToDictionary(e => e.I, e => e.To);
        return new(
            [
                .. kept.Select(e =>
                    e.Edge with
                    {
                        From = Short(e.Edge.From),
                        To = Short(e.Edge.To),
                        Metres = Math.Round(e.Edge.Metres, 4),
                        Shortening = Math.Round(e.Edge.Shortening, 4),
                        Seen = Math.Round(e.Edge.Seen, 2),
                    }
                ),
            ],
            [
                .. Families
                    .Select(f =>
                        f with
                        {
                            Edges = [.. f.Edges.Where(moved.ContainsKey).Select(i => moved[i])],
                            Vanishing = f.Vanishing is { } v ? Short(v) : null,
                            Deep = Math.Round(f.Deep, 4),
                        }
                    )
                    .Where(f => f.Edges.Count > 1),
            ],
            [
                .. Ellipses
                    .Where(e => e.Major >= LeastRing && e.Seen >= 0.6)
                    .Select(e =>
                        e with
                        {
                            Centre = Short(e.Centre),
                            Middle = Short(e.Middle),
                            Major = Math.Round(e.Major, 2),
                            Minor = Math.Round(e.Minor, 2),
                            Turn = Math.Round(e.Turn, 2),
                            Seen = Math.Round(e.Seen, 2),
                        }
                    ),
            ],
            [
                .. Gaps.Where(g => g.Area >= LeastGap)
                    .Select(g =>
                        g with
                        {
                            Area = Math.Round(g.Area),
                            Outline = [.. g.Outline.Select(p => new Vec2(Math.Round(p.X, 1), Math.Round(p.Y, 1)))],
                        }
                    ),
            ],
            [
                .. Planes
                    .Where(p => p.Room >= LeastRoom)
                    .Select(p =>
                        p with
                        {
                            Facing = Math.Round(p.Facing, 3),
                            Mean = Math.Round(p.Mean, 3),
                            Steady = Math.Round(p.Steady, 3),
                            Area = Math.Round(p.Area),
                        }
                    ),
            ]
        );
    }

    private static Vec2 Short(Vec2 p) => new(Math.Round(p.X, 2), Math.Round(p.Y, 2));
}
