using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Sessions;

public enum EditKind { Longer, Shorter, Later, Earlier, Hold, Release, Replace, Pose }

/// <param name="Index">Which item of the timetable, from 0.</param>
/// <param name="Exercise">For a replacement: the exercise that takes its place.</param>
/// <param name="PoseId">For a pose: the studio pose the item gets.</param>
public sealed record PlanEdit(EditKind Kind, int Index, string? Exercise = null, string? PoseId = null);

/// <summary>One change to a timetable. The changed item is held; the rest is planned again round all that is held.</summary>
public static class PlanEdits
{
    /// <summary>Minutes by which a single item is lengthened, shortened or moved; a set grows by one pose.</summary>
    public const double Step = 5;

    /// <summary>The request that the edit amounts to, to be kept with the meeting if its plan holds.</summary>
    /// <exception cref="InputException">No such item, or a length or exercise that can't be.</exception>
    public static PlanRequest Apply(PlanRequest request, IReadOnlyList<PlanItem> items, PlanEdit edit, TimingRules? rules = null)
    {
        rules ??= TimingRules.Default;
        if (edit.Index < 0 || edit.Index >= items.Count) throw new InputException("that line is no longer in the timetable", "index", $"0 to {items.Count - 1}");
        var target = items[edit.Index];
        var held = items.Where((i, k) => i.Held && k != edit.Index).ToList();
        if (edit.Kind != EditKind.Release) held.Add(Change(target, edit, rules) with { Held = true });
        return request with { Locked = [.. held.OrderBy(i => i.At)] };
    }

    private static PlanItem Change(PlanItem i, PlanEdit edit, TimingRules rules) => edit.Kind switch
    {
        EditKind.Longer => Grow(i, +1),
        EditKind.Shorter => Grow(i, -1),
        EditKind.Later => i with { At = i.At + Step },
        EditKind.Earlier => i with { At = i.At - Step },
        EditKind.Replace => Replace(i, Exercises.Get(edit.Exercise ?? "")),
        EditKind.Pose => Pose(i, rules.Poses.FirstOrDefault(p => p.Id == edit.PoseId) ?? throw new InputException($"unknown pose '{edit.PoseId}'", "poseId", string.Join(" | ", rules.Poses.Select(p => p.Id)))),
        _ => i,
    };

    private static PlanItem Grow(PlanItem i, int by)
    {
        var step = i.Poses > 1 ? i.PoseMinutes : Step;
        var minutes = i.Minutes + (by * step);
        if (minutes < (i.Poses > 1 ? i.PoseMinutes : 5)) throw new InputException($"{i.Name} can't be shorter than {Say.Minutes(i.Minutes)}", "minutes", "5 min or one pose at least");
        var poses = i.Poses > 1 ? i.Poses + by : i.Poses;
        // A pose the planner chose may give way to an easier one; a pose the instructor held stays.
        return i.Held || i.Poses > 1
            ? i with { Minutes = minutes, Poses = poses, Strains = [.. i.Strains.Take(poses)], PoseIds = [.. i.PoseIds.Take(poses)] }
            : i with { Minutes = minutes, PoseMinutes = minutes, Strains = [], PoseIds = [] };
    }

    private static PlanItem Replace(PlanItem i, Exercise e)
    {
        if (i.Kind != ItemKind.Exercise) throw new InputException($"{i.Name} is not an exercise", "index", "a line with an exercise");
        var poses = Math.Max(1, (int)Math.Ceiling(i.Minutes / e.MaxMinutes));
        if (i.Minutes / poses < e.MinMinutes && e.Id != "sitting") throw new InputException($"{e.Name} wants {e.MinutesText}; this line has {Say.Minutes(i.Minutes)}", "exercise", $"an exercise that fits {Say.Minutes(i.Minutes)}");
        return i with { Exercise = e.Id, Poses = poses, PoseMinutes = i.Minutes / poses, Strains = [], PoseIds = [], Period = 0 };
    }

    private static PlanItem Pose(PlanItem i, StudioPose p) => i.Posed
        ? i with { Strains = [.. Enumerable.Repeat(p.Strain, i.Poses)], PoseIds = [.. Enumerable.Repeat(p.Id, i.Poses)] }
        : throw new InputException($"nobody poses during {i.Name}", "index", "a posed line");
}
