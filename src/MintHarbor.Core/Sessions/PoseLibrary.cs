using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Sessions;

/// <summary>A pose as the planner knows it: how hard it is to hold and to draw, and what it is good for.</summary>
public sealed record StudioPose(string Id, string Name, Strain Strain)
{
    public Level Level { get; init; } = Level.Intermediate;
    public IReadOnlyList<string> Purposes { get; init; } = [];
    public IReadOnlyList<string> Parts { get; init; } = [];
    public IReadOnlyList<string> Shows { get; init; } = [];

    /// <summary>What is hard to draw in it.</summary>
    public string Trouble { get; init; } = "";

    /// <summary>standing, seated, kneeling or reclining.</summary>
    public string Family => Strain switch { Strain.Lying => "reclining", Strain.Seated => Shows.Contains("kneeling") ? "kneeling" : "seated", _ => "standing" };

    /// <summary>What a term should have shown of the figure, its family first.</summary>
    public IEnumerable<string> Traits => Shows.Where(s => s != "kneeling").Prepend(Family);

    public static StudioPose Of(Pose p) => new(p.Id, p.Name, Enum.Parse<Strain>(p.Strain.Replace("-", ""), ignoreCase: true))
    {
        Level = Enum.Parse<Level>(p.Level, ignoreCase: true), Purposes = p.Purposes, Parts = p.Parts, Shows = p.Shows ?? [], Trouble = p.Trouble,
    };
}

/// <summary>The studio's poses, as the planner chooses among them.</summary>
public static class PoseLibrary
{
    public static IReadOnlyList<StudioPose> Studio { get; } = [.. FigureCatalogue.Poses.Select(StudioPose.Of)];

    public static IReadOnlyList<string> Parts { get; } = [.. Studio.SelectMany(p => p.Parts).Distinct().Order(StringComparer.Ordinal)];

    /// <summary>Everything that a term should have shown: the four ways of resting on the ground, and what makes a pose teach.</summary>
    public static IReadOnlyList<string> Traits { get; } = ["standing", "seated", "kneeling", "reclining", "weight-shift", "twist", "arms-up", "foreshortened", "overlap"];

    private static readonly Dictionary<string, StudioPose> ById = Studio.ToDictionary(p => p.Id);

    public static StudioPose? Find(string? id, PlanRequest? request = null) =>
        id is null ? null : ById.GetValueOrDefault(id) ?? request?.OwnPoses.FirstOrDefault(p => p.Id == id);

    /// <summary>The pose's name; its id where a course has taken a pose of its own away since.</summary>
    public static string Name(string id, PlanRequest? request = null) => Find(id, request)?.Name ?? id;

    public static IEnumerable<StudioPose> Of(PlanRequest request) => Studio.Concat(request.OwnPoses);

    public static string Word(string trait) => trait switch { "weight-shift" => "weight on one leg", "arms-up" => "arms raised", "foreshortened" => "a foreshortened limb", "overlap" => "limbs before limbs", "twist" => "a twist", _ => trait };
}

/// <summary>What one earlier meeting held, as far as the next one's poses depend on it.</summary>
/// <param name="WeeksAgo">Meetings ago, 1 for the last.</param>
/// <param name="LongPose">The pose of its sittings; null where it had none.</param>
public sealed record PastMeeting(int WeeksAgo, IReadOnlyList<string> Poses, string? LongPose = null);

/// <summary>Chooses poses by points: for the purpose, the part in question, what the term has not yet shown and what the
/// class's sheets got wrong; against what is too hard for the level, was shown lately, or stands beside its like.</summary>
internal sealed class PoseChooser
{
    private const double Purpose = 3, Suits = 2, Part = 4, NewTrait = 1.5, Weakness = 2, TooHard = 5, TooHardShort = 1.5, LastWeek = 6, Lately = 0.8, Again = 4, SameFamily = 1.5, Jitter = 1.2;

    /// <summary>What a pose is worth whatever its slot, and what a slot may take off again.</summary>
    private sealed record Worth(StudioPose Pose, double Points, double LongAgain, double HardLong, double HardShort)
    {
        public int Tonight { get; set; }
    }

    private readonly List<Worth> all;
    private readonly Dictionary<string, Worth> byId;

    public PoseChooser(PlanRequest request)
    {
        var seen = request.History.SelectMany(h => h.Poses).Select(p => PoseLibrary.Find(p, request)).OfType<StudioPose>().SelectMany(p => p.Traits).ToHashSet();
        var purpose = request.Purpose.ToString().ToLowerInvariant();
        var recent = request.History.Where(h => h.WeeksAgo is >= 1 and <= 4).ToList();
        all = [.. PoseLibrary.Of(request).Select(p =>
        {
            var points = (p.Purposes.Contains(purpose) ? Purpose : 0) + (request.Part is { } part && p.Parts.Contains(part) ? Part : 0) + (NewTrait * Math.Min(2, p.Traits.Count(t => !seen.Contains(t))))
                + (request.Weak.Any(w => Serves(w, p)) ? Weakness : 0) - recent.Where(h => h.Poses.Contains(p.Id)).Sum(h => Lately / h.WeeksAgo) + (Jitter * Noise(request, p.Id));
            var gap = Math.Max(0, p.Level - request.Level);
            return new Worth(p, points, recent.Where(h => h.LongPose == p.Id).Sum(h => LastWeek / h.WeeksAgo), gap * TooHard, gap * TooHardShort);
        })];
        byId = all.DistinctBy(w => w.Pose.Id).ToDictionary(w => w.Pose.Id);
    }

    /// <summary>Points of all poses chosen so far, and the most that each slot could have had by itself: how far the greedy
    /// choice is from one that nothing bound.</summary>
    public double Points { get; private set; }
    public double Bound { get; private set; }

    private static double Alone(Worth w, double minutes, bool sitting, string? exercise) =>
        w.Points + (exercise is not null && w.Pose.Purposes.Contains(exercise) ? Suits : 0) - (minutes <= 2 ? w.HardShort : w.HardLong) - (sitting ? w.LongAgain : 0);

    /// <summary>Whether drawing this pose shows the measure that the class misses.</summary>
    private static bool Serves(string rule, StudioPose p) => rule switch
    {
        "F-tilt" or "F-balance" => p.Shows.Contains("weight-shift"),
        "F-pair" or "F-arm" => p.Parts.Contains("arms"),
        "F-hand" => p.Parts.Contains("hands"),
        "F-shoulder" => p.Parts.Contains("shoulders"),
        "F-foot" => p.Parts.Contains("legs"),
        _ => p.Purposes.Contains("proportion"),
    };

    /// <summary>0 to 1 by seed and pose (FNV-1a, from memory): the same request chooses the same poses on any machine.</summary>
    private static double Noise(PlanRequest request, string id)
    {
        var hash = 2166136261u;
        foreach (var c in $"{request.Seed}|{request.Shape}|{id}") hash = (hash ^ c) * 16777619u;
        hash ^= hash >> 15;
        return (hash * 2246822519u >> 8) / (double)(1 << 24);
    }

    /// <summary>The best pose that may be held there; null where none may.</summary>
    public StudioPose? Best(double minutes, bool sitting, StudioPose? before, Func<StudioPose, bool> may, string? exercise = null)
    {
        Worth? best = null;
        double most = double.NegativeInfinity, bound = double.NegativeInfinity;
        foreach (var w in all)
        {
            var alone = Alone(w, minutes, sitting, exercise);
            bound = Math.Max(bound, alone);
            if (!may(w.Pose)) continue;
            var score = alone - (Again * w.Tonight) - (before?.Family == w.Pose.Family ? SameFamily : 0) - (before?.Id == w.Pose.Id ? Again : 0);
            if (score > most) (most, best) = (score, w);
        }
        if (best is null) return null;
        best.Tonight++;
        (Points, Bound) = (Points + most, Bound + bound);
        return best.Pose;
    }

    public void Note(StudioPose p)
    {
        if (byId.TryGetValue(p.Id, out var w)) w.Tonight++;
    }
}
