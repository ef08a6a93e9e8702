using MintHarbor.Core.Figure;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Sessions;

/// <summary>What a pose is worth in a slot of a timetable, by points: for the purpose, the part in question, what the term has not yet
/// shown and what the class's sheets got wrong; against what is too hard for the level, was shown lately, or stands beside its like.</summary>
internal sealed class PoseChooser
{
    private const double Purpose = 3,
        Suits = 2,
        Part = 4,
        NewTrait = 1.5,
        Weakness = 2,
        TooHard = 5,
        TooHardShort = 1.5,
        LastWeek = 6,
        NoSitter = 20,
        Lately = 0.8,
        Jitter = 1.2,
        Gladly = 2,
        Paired = 4;

    /// <summary>What every earlier showing of the same pose tonight costs, and standing beside its own kind.</summary>
    public const double Again = 4,
        SameFamily = 1.5;

    /// <summary>What a pose is worth whatever its slot, and what a slot may take off again.</summary>
    private sealed record Worth(StudioPose Pose, double Points, double LongAgain, double HardLong, double HardShort);

    private readonly List<Worth> all;
    private readonly int[] tonight;

    public PoseChooser(PlanRequest request)
    {
        var seen = request
            .Known.History.SelectMany(h => h.Poses)
            .Select(p => PoseLibrary.Find(p, request))
            .OfType<StudioPose>()
            .SelectMany(p => p.Traits)
            .ToHashSet();
        var purpose = request.Wish.Purpose.ToString().ToLowerInvariant();
        var recent = request.Known.History.Where(h => h.WeeksAgo is >= 1 and <= 4).ToList();
        all =
        [
            .. PoseLibrary
                .Of(request)
                .DistinctBy(p => p.Id)
                .Where(p => !Subject.Of(request.Wish.Model).Seated || p.IsSat)
                .Where(p => request.Known.Who?.Spares(p) != true)
                .Select(p =>
                {
                    var points =
                        (p.Purposes.Contains(purpose) ? Purpose : 0)
                        + (request.Wish.Part is { } part && p.Parts.Contains(part) ? Part : 0)
                        + (NewTrait * Math.Min(2, p.Traits.Count(t => !seen.Contains(t))))
                        + (request.Known.Weak.Any(w => Serves(w, p)) ? Weakness : 0)
                        + (request.Wish.Model == ModelKind.Two && PosePair.With(p.Id) is not null ? Paired : 0)
                        + (request.Known.Who?.Likes(p) == true ? Gladly : 0)
                        - (request.Wish.Purpose == Sessions.Purpose.Portrait && p.Strain != Strain.Seated ? NoSitter : 0)
                        - recent.Where(h => h.Poses.Contains(p.Id)).Sum(h => Lately / h.WeeksAgo)
                        + (Jitter * Noise(request, p.Id));
                    var gap = Math.Max(0, p.Level - request.Wish.Level);
                    return new Worth(
                        p,
                        points,
                        recent.Where(h => h.LongPose == p.Id).Sum(h => LastWeek / h.WeeksAgo),
                        gap * TooHard,
                        gap * TooHardShort
                    );
                }),
        ];
        tonight = new int[all.Count];
    }

    public int Count => all.Count;

    public StudioPose this[int n] => all[n].Pose;

    public int IndexOf(string id) => all.FindIndex(w => w.Pose.Id == id);

    /// <summary>Points of a pose in a slot, whatever stands in the others.</summary>
    public double Alone(int n, double minutes, bool sitting, string? exercise)
    {
        var w = all[n];
        return w.Points
            + (exercise is not null && w.Pose.Purposes.Contains(exercise) ? Suits : 0)
            - (minutes <= 2 ? w.HardShort : w.HardLong)
            - (sitting ? w.LongAgain : 0);
    }

    /// <summary>Whether drawing this pose shows the measure that the class misses.</summary>
    private static bool Serves(string rule, StudioPose p) =>
        Rules.Find(rule)?.ShownBy is { } by && (p.Shows.Contains(by) || p.Parts.Contains(by) || p.Purposes.Contains(by));

    /// <summary>0 to 1 by seed and pose (FNV-1a, from memory): the same request chooses the same poses on any machine.</summary>
    private static double Noise(PlanRequest request, string id)
    {
        var hash = 2166136261u;
        foreach (var c in $"{request.Wish.Seed}|{request.Wish.Shape}|{id}")
            hash = (hash ^ c) * 16777619u;
        hash ^= hash >> 15;
        return (hash * 2246822519u >> 8) / (double)(1 << 24);
    }

    /// <summary>The best pose that may be held there, after those chosen before; null where none may.</summary>
    public StudioPose? Best(double minutes, bool sitting, StudioPose? before, Func<StudioPose, bool> may, string? exercise = null)
    {
        var best = -1;
        var most = double.NegativeInfinity;
        for (var n = 0; n < all.Count; n++)
        {
            var pose = all[n].Pose;
            if (!may(pose))
                continue;
            var score =
                Alone(n, minutes, sitting, exercise)
                - (Again * tonight[n])
                - (before?.Family == pose.Family ? SameFamily : 0)
                - (before?.Id == pose.Id ? Again : 0);
            if (score > most)
                (most, best) = (score, n);
        }
        if (best < 0)
            return null;
        tonight[best]++;
        return all[best].Pose;
    }

    public void Note(StudioPose p)
    {
        if (IndexOf(p.Id) is >= 0 and var n)
            tonight[n]++;
    }
}
