using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Tests.Critiques;

/// <summary>The judge asked as these tests ask it: landmarks in, findings out.</summary>
internal static class Judging
{
    public static IReadOnlyList<Finding> Figure(
        Dictionary<string, Vec2> marks,
        string pose = "standing",
        string view = "front",
        PoseCard? card = null,
        Dictionary<string, Vec2>? reference = null,
        string canon = "academic",
        IReadOnlyDictionary<string, double>? shortened = null,
        double placedTo = 0.2
    ) =>
        Judge
            .Figure(
                new()
                {
                    Canon = canon,
                    Pose = pose,
                    View = view,
                    StandingLeg = pose == "contrapposto" ? "R" : null,
                    Landmarks = new(marks),
                    PlacementErrorMm = placedTo,
                    PoseCard = card,
                    Reference = reference is null ? null : new LandmarkSet(reference),
                    Foreshortening = shortened ?? new Dictionary<string, double>(),
                }
            )
            .Findings;

    public static IReadOnlyList<Finding> Head(Dictionary<string, Vec2> marks) =>
        Judge
            .Head(
                new()
                {
                    Subject = "head",
                    Canon = "classical-head",
                    Landmarks = new(marks),
                    PlacementErrorMm = 0.1,
                }
            )
            .Findings;
}
