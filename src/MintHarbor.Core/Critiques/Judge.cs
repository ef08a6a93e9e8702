using MintHarbor.Core.Canons;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Critiques;

/// <summary>A drawn figure and what it is judged by.</summary>
public sealed record JudgeRequest
{
    public string Canon { get; init; } = "academic";

    /// <summary>A course's own school in the place of that canon; null for the canon of the table.</summary>
    public Canon? School { get; init; }

    /// <summary>The exercise as the course has made it its own; null for the catalogue's.</summary>
    public Exercise? Own { get; init; }

    /// <summary>"figure" or "head".</summary>
    public string Subject { get; init; } = "figure";
    public string View { get; init; } = "front";
    public string Pose { get; init; } = "standing";

    /// <summary>"L" or "R", the figure's own; null where both feet carry.</summary>
    public string? StandingLeg { get; init; }
    public string? Exercise { get; init; }

    /// <summary>Standard deviation of each landmark coordinate, in mm on the sheet.</summary>
    public double PlacementErrorMm { get; init; } = 1.0;

    /// <summary>The same for single landmarks that are known less or more exactly, by id.</summary>
    public IReadOnlyDictionary<string, double> Errors { get; init; } = new Dictionary<string, double>();

    /// <summary>Landmarks that nobody placed and that aren't known exactly enough: what needs them isn't judged.</summary>
    public IReadOnlySet<string> NotLookedAt { get; init; } = new HashSet<string>();
    public required LandmarkSet Landmarks { get; init; }
    public PoseCard? PoseCard { get; init; }
    public LandmarkSet? Reference { get; init; }

    /// <summary>Seen over true length of limbs from the reference's seat, by limb id ("forearm.L").</summary>
    public IReadOnlyDictionary<string, double> Foreshortening { get; init; } = new Dictionary<string, double>();

    /// <summary>Keys of findings that the instructor has marked as the sitter's own: a departure from the canon that was seen.</summary>
    public IReadOnlySet<string> Observed { get; init; } = new HashSet<string>();

    /// <summary>1 σ of a landmark's coordinates, mm.</summary>
    public double ErrorOf(string id) => Errors.GetValueOrDefault(id, PlacementErrorMm);

    public static readonly string[] Views = ["front", "three-quarter", "profile", "back"];
    public static readonly string[] Poses = ["standing", "contrapposto", "seated", "reclining", "other"];
}

public sealed record Judgement(IReadOnlyList<Finding> Findings, Similarity? Alignment);

/// <summary>Judges a figure's landmarks against pose card, reference view and canon, in this order of trust. Every rule that
/// the canon holds is answered: judged, or with the reason why not.</summary>
public static class Judge
{
    /// <summary>Judges a figure or a head, as the request's subject says.</summary>
    public static Judgement Of(JudgeRequest r) =>
        r.Subject switch
        {
            "figure" => Figure(r),
            "head" => Head(r),
            _ => throw new InputException($"unknown subject '{r.Subject}'", "subject", "figure | head"),
        };

    /// <exception cref="InputException">A field outside what is accepted, or landmarks that lie on one another.</exception>
    public static Judgement Figure(JudgeRequest r) => new FigureJudging(Checked(r, "figure")).Run();

    /// <summary>A head by its school: levels where it is seen level, widths from the front, one turn angle where it is turned.</summary>
    /// <exception cref="InputException">A field outside what is accepted, or landmarks that lie on one another.</exception>
    public static Judgement Head(JudgeRequest r) => new HeadJudging(Checked(r, "head")).Run();

    private static JudgeRequest Checked(JudgeRequest r, string subject)
    {
        if ((r.School ?? CanonTable.Get(r.Canon)).Subject != subject)
            throw new InputException(
                $"'{r.Canon}' is no canon of a {subject}",
                "canon",
                string.Join(" | ", CanonTable.All.Where(c => c.Subject == subject).Select(c => c.Id))
            );
        if (!JudgeRequest.Views.Contains(r.View))
            throw new InputException($"unknown view '{r.View}'", "view", string.Join(" | ", JudgeRequest.Views));
        if (!JudgeRequest.Poses.Contains(r.Pose))
            throw new InputException($"unknown pose '{r.Pose}'", "pose", string.Join(" | ", JudgeRequest.Poses));
        if (r.StandingLeg is not (null or "L" or "R"))
            throw new InputException($"unknown leg '{r.StandingLeg}'", "standingLeg", "L | R");
        if (!(r.PlacementErrorMm >= 0 && r.PlacementErrorMm <= 100))
            throw new InputException("an impossible placement error", "placementErrorMm", "0 to 100 mm");
        foreach (var (id, error) in r.Errors)
            if (!(error >= 0 && error <= 1000))
                throw new InputException("an impossible placement error", $"errors.{id}", "0 to 1000 mm");
        r.PoseCard?.Checked();
        return r;
    }
}
