using MintHarbor.Core.Figure;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Sessions;

public enum EditKind
{
    Longer,
    Shorter,
    Length,
    Later,
    Earlier,
    Move,
    Swap,
    Split,
    Merge,
    Rest,
    Remove,
    Hold,
    Release,
    Replace,
    Pose,
    Turn,
}

/// <param name="Index">Which item of the timetable, from 0.</param>
/// <param name="Exercise">For a replacement: the exercise that takes its place.</param>
/// <param name="PoseId">For a pose: the pose the item gets; every period of a long pose gets it.</param>
/// <param name="Minutes">For a length: the item's new one. For a split: minutes of its first part, null for the middle.</param>
/// <param name="Facing">For a turn: degrees from the front of the stand, positive to the model's left; every period of a long pose turns.</param>
/// <param name="To">For a move: the place it goes to. For a swap: the item it changes places with.</param>
public sealed record PlanEdit(
    EditKind Kind,
    int Index,
    string? Exercise = null,
    string? PoseId = null,
    double? Minutes = null,
    int? To = null,
    double? Facing = null
);

/// <summary>Changes to a timetable by hand. The minutes go on adding up: what one line gets another gives, the next ones first, rests
/// and held lines never. Whether the rest rules still hold is proved afterwards, not here.</summary>
public static class PlanEdits
{
    /// <summary>Minutes by which a single item is lengthened, shortened or moved; a set grows by one pose.</summary>
    public const double Step = 5;
    private const double Tiny = 1e-6;

    /// <summary>The request with the timetable laid as the edit leaves it.</summary>
    /// <exception cref="InputException">No such item, or a length, place or exercise that can't be.</exception>
    public static PlanRequest Apply(PlanRequest request, IReadOnlyList<PlanItem> items, PlanEdit edit) =>
        request.With(Changed(request, items, edit).Laid);

    /// <summary>The timetable as an edit leaves it, and the line that was changed; none where the line went.</summary>
    private static (IReadOnlyList<PlanItem> Laid, LineId Line) Changed(PlanRequest request, IReadOnlyList<PlanItem> items, PlanEdit edit)
    {
        var k = Item(items, edit.Index, "index");
        var all = Identities.Assign(items);
        var line = edit.Kind == EditKind.Remove ? default : all[k].Line;
        switch (edit.Kind)
        {
            case EditKind.Longer or EditKind.Shorter:
                var i = all[k];
                Resize(all, k, i.Minutes + ((edit.Kind == EditKind.Longer ? 1 : -1) * (i.Poses > 1 ? i.PoseMinutes : Step)));
                break;
            case EditKind.Length:
                Resize(all, k, edit.Minutes ?? throw new InputException("no length", "minutes", "minutes of the line"));
                break;
            case EditKind.Earlier:
                Shift(all, k, -Step);
                break;
            case EditKind.Later:
                Shift(all, k, Step);
                break;
            case EditKind.Move:
                Move(all, k, Item(items, edit.To ?? -1, "to"));
                break;
            case EditKind.Swap:
                var to = Item(items, edit.To ?? -1, "to");
                (all[k], all[to]) = (Loose(all[to]), Loose(all[k]));
                break;
            case EditKind.Split:
                Split(all, k, edit.Minutes);
                break;
            case EditKind.Merge:
                Merge(all, k);
                break;
            case EditKind.Rest:
                AddRest(all, k);
                break;
            case EditKind.Remove:
                Remove(all, k);
                break;
            case EditKind.Hold:
                all[k] = all[k] with { Held = true };
                break;
            case EditKind.Release:
                all[k] = all[k] with { Held = false };
                break;
            case EditKind.Replace:
                all[k] = Replace(all[k], request.Known.GetExercise(edit.Exercise ?? ""), request.Known);
                break;
            case EditKind.Turn:
                Turn(all, k, edit.Facing);
                break;
            default:
                Pose(request, all, k, edit.PoseId);
                break;
        }
        all = Identities.Assign(all);
        if (edit.Kind == EditKind.Rest)
            line = all[k + 1].Line;
        return (Laid(all), line);
    }

    /// <summary>The request that keeps the changed line, and all that is held, and plans the rest anew.</summary>
    public static PlanRequest Mend(PlanRequest request, IReadOnlyList<PlanItem> items, PlanEdit edit)
    {
        var (laid, changed) = Changed(request, items, edit);
        var locked = laid.Where(i => i.Held || i.Line == changed).OrderBy(i => i.At).Select(i => i with { Held = true, Period = 0 });
        return request.Wishing(w => w with { Shape = w.Shape is null or Shapes.Laid ? Shapes.Of(w.Approach)[0].Id : w.Shape }) with
        {
            Laid = [],
            Held = [.. locked],
        };
    }

    private static int Item(IReadOnlyList<PlanItem> items, int index, string field) =>
        index >= 0 && index < items.Count
            ? index
            : throw new InputException("that line is no longer in the timetable", field, $"0 to {items.Count - 1}");

    private static IReadOnlyList<PlanItem> Laid(IEnumerable<PlanItem> items)
    {
        double at = 0;
        var laid = new List<PlanItem>();
        foreach (var i in items.Where(i => i.Minutes > Tiny))
        {
            laid.Add(i with { At = at });
            at += i.Minutes;
        }
        return laid;
    }

    /// <summary>An item that has moved: whether it begins another long pose is found anew.</summary>
    private static PlanItem Loose(PlanItem i) => i.IsLong && i.PoseIds.Count > 0 ? i with { Period = 0 } : i;

    /// <summary>The least that a line can be cut to when another takes its minutes.</summary>
    private static double Least(PlanItem i) =>
        i.Kind switch
        {
            ItemKind.Exercise => i.Poses > 1 ? i.PoseMinutes : Math.Min(i.Minutes, 5),
            ItemKind.StandBack => 0,
            _ => Math.Min(i.Minutes, 5),
        };

    private static bool Gives(PlanItem i) => !i.Held && i.Kind is not (ItemKind.Rest or ItemKind.Break);

    /// <summary>A line at another length. A set keeps the length of its poses; the last one fills what is over.</summary>
    private static PlanItem Fitted(PlanItem i, double minutes)
    {
        if (i.Kind != ItemKind.Exercise || i.Poses <= 1)
            return i with { Minutes = minutes, PoseMinutes = i.Kind == ItemKind.Exercise ? minutes : 0 };
        var poses = Math.Max(1, (int)Math.Floor((minutes + Tiny) / i.PoseMinutes));
        return i with
        {
            Minutes = minutes,
            Poses = poses,
            Strains = [.. i.Strains.Take(poses)],
            PoseIds = [.. i.PoseIds.Take(poses)],
            Facings = [.. i.Facings.Take(poses)],
        };
    }

    private static void Resize(List<PlanItem> all, int k, double minutes)
    {
        var i = all[k];
        var least =
            i.Kind == ItemKind.Exercise && i.Poses > 1 ? i.PoseMinutes
            : i.Kind == ItemKind.Exercise ? 0.5
            : 1;
        if (!double.IsFinite(minutes) || minutes < least - Tiny || minutes > Planner.MostMinutes)
            throw new InputException(
                $"{i.Name} can't be {(double.IsFinite(minutes) ? Say.Minutes(minutes) : "that long")}",
                "minutes",
                i.Poses > 1 ? $"{Say.Minutes(least)} at least, one pose" : $"{Say.Minutes(least)} at least"
            );
        var wanted = minutes - i.Minutes;
        all[k] = Fitted(i, minutes) with { Held = true };
        int[] near = [.. Enumerable.Range(k + 1, all.Count - k - 1), .. Enumerable.Range(0, k).Reverse()];
        Take(all, wanted, wanted < 0 ? Freed(all, near) : near);
    }

    /// <summary>Who gets what a line has given up: the review on the wall, which nothing forbids to be longer, then the nearest.</summary>
    private static int[] Freed(List<PlanItem> all, IReadOnlyList<int> near) =>
        [.. near.OrderBy(g => all[g].Kind == ItemKind.Review ? 0 : 1)];

    /// <summary>Takes minutes from lines in the given order, or gives what was gained to the first that can have it.</summary>
    private static void Take(List<PlanItem> all, double wanted, IReadOnlyList<int> order)
    {
        foreach (var g in order.Where(g => Gives(all[g])))
        {
            if (Math.Abs(wanted) <= Tiny)
                return;
            var take = wanted < 0 ? wanted : Math.Min(wanted, Math.Max(0, all[g].Minutes - Least(all[g])));
            if (Math.Abs(take) <= Tiny)
                continue;
            all[g] = Fitted(all[g], all[g].Minutes - take);
            wanted -= take;
        }
        if (wanted > Tiny)
            throw new InputException($"nothing is left to give {Say.Minutes(wanted)}", "minutes", "a length that the other lines can give");
        if (wanted < -Tiny)
            throw new InputException("every other line is held", "minutes", "let one go first");
    }

    private static void Shift(List<PlanItem> all, int k, double by)
    {
        var before = Enumerable.Range(0, k).Reverse().Where(g => Gives(all[g])).ToList();
        var after = Enumerable.Range(k + 1, all.Count - k - 1).Where(g => Gives(all[g])).ToList();
        if (before.Count == 0 || after.Count == 0)
            throw new InputException($"{all[k].Name} has nothing to move into", "at", "a line between two others");
        Take(all, Math.Abs(by), by < 0 ? before : after);
        Take(all, -Math.Abs(by), by < 0 ? after : before);
        all[k] = all[k] with { Held = true };
    }

    private static void Move(List<PlanItem> all, int k, int to)
    {
        var i = Loose(all[k]) with { Held = true };
        all.RemoveAt(k);
        all.Insert(to, i);
    }

    private static void Split(List<PlanItem> all, int k, double? minutes)
    {
        var i = all[k];
        var half = i.Poses > 1 ? Math.Floor(i.Poses / 2.0) * i.PoseMinutes : Math.Floor(i.Minutes / 2);
        var first = minutes ?? half;
        if (i.Poses > 1)
            first = Math.Round(first / i.PoseMinutes) * i.PoseMinutes;
        if (!double.IsFinite(first) || first < 0.5 || i.Minutes - first < 0.5)
            throw new InputException(
                $"{i.Name} of {Say.Minutes(i.Minutes)} can't be split there",
                "minutes",
                $"more than 0 and less than {Say.Number(i.Minutes, 1)}"
            );
        // Two lines of their own: what goes on is no set that was broken into.
        var (held, left) = i.Split(first);
        all[k] = held;
        all.Insert(k + 1, Loose(left) with { Before = 0, Into = 0, PoseMinutes = left.Poses == 1 ? left.Minutes : left.PoseMinutes });
    }

    private static void Merge(List<PlanItem> all, int k)
    {
        if (k + 1 >= all.Count)
            throw new InputException($"nothing follows {all[k].Name}", "index", "a line with another after it");
        var (i, next) = (all[k], all[k + 1]);
        var alike =
            i.Kind == next.Kind
            && i.Exercise == next.Exercise
            && i.Kind == ItemKind.Exercise
            && i.Poses >= 1
            && next.Poses >= 1
            && !i.IsLong
            && Math.Abs(i.PoseMinutes - next.PoseMinutes) < Tiny;
        all[k] = alike
            ? i with
            {
                Minutes = i.Minutes + next.Minutes,
                Poses = i.Poses + next.Poses,
                Strains = [.. i.Strains, .. next.Strains],
                PoseIds = [.. i.PoseIds, .. next.PoseIds],
                Facings = [.. i.Facings, .. next.Facings],
                Held = true,
            }
            : Fitted(i, i.Minutes + next.Minutes) with
            {
                Held = true,
            };
        all.RemoveAt(k + 1);
    }

    private static void AddRest(List<PlanItem> all, int k)
    {
        all.Insert(k + 1, new(0, Step, ItemKind.Rest));
        Take(all, Step, [.. Enumerable.Range(0, k + 1).Reverse(), .. Enumerable.Range(k + 2, all.Count - k - 2)]);
    }

    private static void Remove(List<PlanItem> all, int k)
    {
        if (all.Count < 2)
            throw new InputException("it is the only line", "index", "a timetable of two lines or more");
        var gone = all[k];
        all.RemoveAt(k);
        Take(all, -gone.Minutes, Freed(all, [.. Enumerable.Range(0, k).Reverse(), .. Enumerable.Range(k, all.Count - k)]));
    }

    private static PlanItem Replace(PlanItem i, Exercise e, PlanKnown known)
    {
        if (i.Kind != ItemKind.Exercise)
            throw new InputException($"{i.Name} is not an exercise", "index", "a line with an exercise");
        var poses = Math.Max(1, (int)Math.Ceiling(i.Minutes / e.MaxMinutes));
        if (i.Minutes / poses < e.MinMinutes && e.Id != "sitting")
            throw new InputException(
                $"{e.Name} wants {e.MinutesText}; this line has {Say.Minutes(i.Minutes)}",
                "exercise",
                $"an exercise that fits {Say.Minutes(i.Minutes)}"
            );
        return i.Doing(e.Id, known) with
        {
            Poses = poses,
            PoseMinutes = i.Minutes / poses,
            Strains = [],
            PoseIds = [],
            Facings = [],
            Period = 0,
            Held = true,
        };
    }

    private static void Pose(PlanRequest request, List<PlanItem> all, int k, string? id)
    {
        var p = PoseLibrary.Find(id, request)
            ?? throw new InputException($"unknown pose '{id}'", "poseId", string.Join(" | ", PoseLibrary.Of(request).Select(p => p.Id)));
        Posed(all, k, i => i with { Strains = [.. Enumerable.Repeat(p.Strain, i.Poses)], PoseIds = [.. Enumerable.Repeat(p.Id, i.Poses)] });
    }

    private static void Turn(List<PlanItem> all, int k, double? facing)
    {
        if (facing is not { } f || !double.IsFinite(f) || Math.Abs(f) > 180)
            throw new InputException("that is no turn of the stand", "facing", "-180 to 180 degrees");
        Posed(all, k, i => i with { Facings = [.. Enumerable.Repeat(f, i.Poses)] });
    }

    /// <summary>Changes a posed line and holds it; of a long pose every period is changed.</summary>
    private static void Posed(List<PlanItem> all, int k, Func<PlanItem, PlanItem> change)
    {
        if (!all[k].Posed)
            throw new InputException($"nobody poses during {all[k].Name}", "index", "a posed line");
        if (all[k].IsLong)
        {
            int from = k,
                to = k;
            while (all[from].Period != 1 && all.FindLastIndex(from - 1, i => i.IsLong) is var b and >= 0)
                from = b;
            for (var n = all.FindIndex(k + 1, i => i.IsLong); n >= 0 && all[n].Period != 1; n = all.FindIndex(n + 1, i => i.IsLong))
                to = n;
            for (var n = from; n <= to; n++)
                if (all[n].IsLong)
                    all[n] = change(all[n]);
        }
        else
            all[k] = change(all[k]);
        all[k] = all[k] with { Held = true };
    }
}
