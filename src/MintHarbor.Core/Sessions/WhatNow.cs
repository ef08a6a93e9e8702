namespace MintHarbor.Core.Sessions;

/// <summary>One way to go on when the clock and the plan have parted: rests and end kept, and what it costs.</summary>
/// <param name="Id">"long", "short" or "room": who gives the minutes, or gets them.</param>
/// <param name="Idea">In one sentence.</param>
/// <param name="Drops">What is dropped or shortened, or what grows; in the order of the evening.</param>
/// <param name="Rest">The timeline from the current item on, the current one with its whole length.</param>
public sealed record Offer(string Id, string Idea, IReadOnlyList<string> Drops, IReadOnlyList<RunItem> Rest);

/// <summary>What breaks into an evening: the model unwell, the fire bell, the lamp out.</summary>
public enum Interruption
{
    Unwell,
    Fire,
    Lamp,
}

/// <summary>Plans what remains of a running meeting again. Late, early or interrupted come to the same: the minutes left to
/// the end differ from those still planned, and somebody must give or get the difference. A rest is never among the
/// givers; where two rests would meet because all between them was dropped, they become one.</summary>
public static class WhatNow
{
    /// <summary>Differences under this many minutes are not worth asking about.</summary>
    public const double Worth = 1;
    private const double Tiny = 1e-6,
        ShortestSitting = 5,
        LongestReview = 45;

    /// <summary>How the evening stands, "80 min ahead".</summary>
    public static string Stands(double behind) => $"{Minutes(behind)} {(behind > 0 ? "behind" : "ahead")}";

    /// <summary>What is left to say where no way keeps the rests and the end.</summary>
    public static string GoOn(double behind) =>
        Math.Abs(behind) < 0.5 ? "Go on as planned." : $"Go on, and say that it ends {Minutes(behind)} {(behind > 0 ? "late" : "early")}.";

    private static string Minutes(double behind) => $"{Say.Number(Math.Abs(behind))} min";

    /// <summary>Minutes that the plan is behind the clock; negative when it is ahead. Zero before the start and after the end.</summary>
    public static double Behind(ClockReading reading, double minutesLeft) => reading.Current is null ? 0 : Remaining(reading) - minutesLeft;

    private static double Remaining(ClockReading r) => r.Timeline.Skip(r.Index).Sum(t => t.Minutes) - (r.SecondsIntoItem / 60);

    /// <summary>Up to three ways to go on, each proved against the rest rules over the whole meeting as it was really held;
    /// none when nothing need be asked, or when no way keeps the rests and the end.</summary>
    /// <param name="minutesLeft">Minutes from now to the end that is kept.</param>
    public static IReadOnlyList<Offer> Offers(PlanRequest request, ClockReading reading, double minutesLeft, TimingRules? rules = null)
    {
        rules ??= request.Known.Rules;
        var behind = Behind(reading, minutesLeft);
        if (reading.Current is null || Math.Abs(behind) < Worth || minutesLeft < 1)
            return [];
        var offers = new List<Offer>();
        foreach (
            var (id, late, early) in new[]
            {
                ("long", "The long pose gives the minutes.", "The long pose gets the minutes."),
                ("short", "The short poses give the minutes.", "More short poses."),
                ("room", "Review and packing up give the minutes.", "A longer review on the wall."),
            }
        )
        {
            var draft = new Draft(request, reading, minutesLeft, rules);
            if (behind > 0 ? !draft.Give(behind, id) : !draft.Get(-behind, id))
                continue;
            var says = draft.Says();
            if (says.Count > 0 && offers.All(o => !o.Drops.SequenceEqual(says)))
                offers.Add(new(id, behind > 0 ? late : early, says, draft.Rest()));
        }
        return offers;
    }

    /// <summary>Ways to go on when the evening is broken into, each proved like the others: a pause that somebody pays for, going on
    /// without what is gone, or the wall at once. The line that runs ends here.</summary>
    public static IReadOnlyList<Offer> Interrupted(
        Interruption what,
        PlanRequest request,
        ClockReading reading,
        double minutesLeft,
        TimingRules? rules = null
    )
    {
        rules ??= request.Known.Rules;
        if (reading.Current is not { } current || minutesLeft < 1)
            return [];
        var into = reading.SecondsIntoItem / 60;
        var left = current.Minutes - into;
        var (begun, undone) =
            into > 0.01 && left > 0.01 ? (current.Item with { Minutes = current.Minutes }).Split(into) : (current.Item, current.Item);
        List<RunItem> ended = into > 0.01 ? [new(begun, into)] : [];
        List<RunItem> rest = [.. left > 0.01 ? [new(undone, left)] : Array.Empty<RunItem>(), .. reading.Timeline.Skip(reading.Index + 1)];
        var held = reading.Timeline.Take(reading.Index).Concat(ended).ToList();
        var offers = new List<Offer>();
        void Add(string id, string idea, IReadOnlyList<RunItem> lines, IReadOnlyList<string> orders)
        {
            var from = reading with { Timeline = [.. held, .. lines], Index = held.Count, SecondsIntoItem = 0 };
            var behind = Behind(from, minutesLeft);
            foreach (var order in orders)
            {
                var draft = new Draft(request, from, minutesLeft, rules);
                if (!(behind > Tiny ? draft.Give(behind, order) : draft.Get(Math.Max(0, -behind), order)))
                    continue;
                offers.Add(new(id, idea, draft.Says() is { Count: > 0 } says ? says : ["nothing is dropped"], [.. ended, .. draft.Rest()]));
                return;
            }
        }
        RunItem Pause(double minutes) => new(new PlanItem(0, minutes, ItemKind.Rest), minutes);
        switch (what)
        {
            case Interruption.Unwell:
                Add(
                    "pause",
                    "The model rests 10 min, then the evening goes on; the model's word decides.",
                    [Pause(10), .. rest],
                    ["room", "long", "short"]
                );
                Add(
                    "without",
                    "The model goes home; what is left is drawn from memory.",
                    [.. rest.Select(r => Unposed(r, request.Known))],
                    ["room", "short", "long"]
                );
                break;
            case Interruption.Fire:
                Add(
                    "pause",
                    "Everybody out; 15 min are counted, then the evening goes on.",
                    [Pause(15), .. rest],
                    ["room", "long", "short"]
                );
                break;
            default:
                Add("pause", "5 min while the lamp is changed.", [Pause(5), .. rest], ["room", "long", "short"]);
                Add(
                    "without",
                    "On in the room's light: contour, no tone.",
                    [
                        .. rest.Select(r =>
                            r.Item is { Kind: ItemKind.Exercise, IsLong: false, Poses: <= 1, Minutes: >= 5 }
                                ? r with
                                {
                                    Item = r.Item.Doing("contour", request.Known),
                                }
                                : r
                        ),
                    ],
                    ["room", "short", "long"]
                );
                break;
        }
        // Straight to the wall: the review takes what it can, and the evening ends early by the rest.
        var ends = rest.Where(r => r.Item.Kind == ItemKind.PackUp).ToList();
        var packing = ends.Sum(r => r.Minutes);
        var review = Math.Min(LongestReview, minutesLeft - packing);
        if (review >= rules.ReviewMin && rest.Any(r => r.Item.Kind == ItemKind.Exercise))
        {
            var early = minutesLeft - packing - review;
            var wall = rest.FirstOrDefault(r => r.Item.Kind == ItemKind.Review) ?? new(new PlanItem(0, review, ItemKind.Review), review);
            offers.Add(
                new(
                    "wall",
                    early >= 1 ? $"Straight to the wall; it ends {Say.Minutes(Math.Round(early))} early." : "Straight to the wall.",
                    [$"{Say.Plural(rest.Count(r => r.Item.Kind == ItemKind.Exercise), "line")} dropped", $"review {Say.Minutes(review)}"],
                    [.. ended, wall with { Minutes = review, Item = wall.Item with { Minutes = review } }, .. ends]
                )
            );
        }
        return offers;
    }

    private static RunItem Unposed(RunItem r, PlanKnown known) =>
        !r.Item.Posed
            ? r
            : r with
            {
                Item = r.Item.Doing("without-reference", known) with
                {
                    Posed = false,
                    Draped = false,
                    Period = 0,
                    Poses = 1,
                    PoseMinutes = r.Minutes,
                    Strains = [],
                    PoseIds = [],
                    Facings = [],
                },
            };

    private sealed class Line(RunItem from, double least)
    {
        public RunItem From { get; } = from;
        public double Minutes { get; set; } = from.Minutes;

        /// <summary>What has run of it already, or what the pose being held needs.</summary>
        public double Least { get; } = least;
        public PlanItem Item => From.Item;
        public bool IsSet => Item is { Kind: ItemKind.Exercise, Poses: > 1 };
        public bool IsSitting => Item is { Kind: ItemKind.Exercise, Poses: <= 1 };
        public bool IsRest => Item.Kind is ItemKind.Rest or ItemKind.Break;
    }

    private sealed class Draft
    {
        private readonly PlanRequest request;
        private readonly ClockReading reading;
        private readonly double minutesLeft;
        private readonly TimingRules rules;
        private List<Line> lines;

        public Draft(PlanRequest request, ClockReading reading, double minutesLeft, TimingRules rules)
        {
            (this.request, this.reading, this.minutesLeft, this.rules) = (request, reading, minutesLeft, rules);
            lines = [.. reading.Timeline.Skip(reading.Index).Select((t, k) => new Line(t, k > 0 ? 0 : Begun(t)))];
        }

        /// <summary>The pose being held is held to its end; a single pose may end now.</summary>
        private double Begun(RunItem t)
        {
            var into = reading.SecondsIntoItem / 60;
            return t.Item is { Poses: > 1, PoseMinutes: > 0 } i
                ? Math.Min(t.Minutes, i.PoseStart(i.PoseAt(into) + 1))
                : Math.Min(t.Minutes, into);
        }

        private double Least(Line l) =>
            l.Item.Kind switch
            {
                ItemKind.Rest or ItemKind.Break => l.Minutes,
                ItemKind.Review => Math.Max(l.Least, Math.Min(l.Minutes, rules.ReviewMin)),
                ItemKind.PackUp => Math.Max(l.Least, Math.Min(l.Minutes, rules.PackUpMin)),
                ItemKind.SetUp => Math.Max(l.Least, Math.Min(l.Minutes, rules.SetUpMin)),
                ItemKind.Exercise when l.IsSitting => Math.Max(l.Least, Math.Min(l.Minutes, ShortestSitting)),
                _ => l.Least,
            };

        public bool Give(double minutes, string first)
        {
            var sittings = lines.Where(l => l.IsSitting).Reverse().ToList();
            var sets = lines.Where(l => l.IsSet).Reverse().ToList();
            var room = lines.Where(l => l.Item.Kind is ItemKind.StandBack or ItemKind.Review or ItemKind.PackUp or ItemKind.SetUp).ToList();
            var order = first switch
            {
                "long" => new[] { sittings, sets, room },
                "short" => [sets, sittings, room],
                _ => [room, sittings, sets],
            };
            var asked = minutes;
            foreach (var line in order[0])
                minutes -= Take(line, minutes, whole: true);
            // A way that is named after somebody who has nothing to give is not offered.
            if (minutes == asked && asked >= Worth)
                return false;
            foreach (var line in order.Skip(1).SelectMany(o => o))
                minutes -= Take(line, minutes, whole: true);
            // What is left is less than a pose, or everything has shrunk to its least: then whole lines go, single poses first.
            foreach (var line in order.SelectMany(o => o).Where(l => !l.IsSet))
                minutes -= Take(line, minutes, whole: false);
            foreach (var line in sets.Concat(sittings).Where(l => l.Minutes > Tiny))
            {
                if (minutes <= Tiny)
                    break;
                var give = Math.Min(
                    line.Minutes - line.Least,
                    line.IsSet ? Math.Ceiling((minutes - Tiny) / line.Item.PoseMinutes) * line.Item.PoseMinutes : line.Minutes
                );
                (line.Minutes, minutes) = (line.Minutes - give, minutes - give);
            }
            if (minutes > Tiny)
                return false;
            return Settle(-minutes);
        }

        /// <summary>Takes what a line can give; a set only in whole poses, everything else in whole minutes at first.</summary>
        private double Take(Line l, double wanted, bool whole)
        {
            if (wanted <= Tiny)
                return 0;
            var can = Math.Max(0, l.Minutes - Least(l));
            var step = l.IsSet ? l.Item.PoseMinutes : 1;
            var give = Math.Min(can, wanted);
            if (whole)
                give = Math.Floor((give + Tiny) / step) * step;
            l.Minutes -= give;
            return give;
        }

        public bool Get(double minutes, string first)
        {
            var asked = minutes;
            var wish = first switch
            {
                "long" => lines.Where(l => l.IsSitting),
                "short" => lines.Where(l => l.IsSet),
                _ => [],
            };
            foreach (var line in wish)
            {
                var step = line.IsSet ? line.Item.PoseMinutes : 1;
                while (minutes >= step - Tiny)
                {
                    line.Minutes += step;
                    if (!Holds())
                    {
                        line.Minutes -= step;
                        break;
                    }
                    minutes -= step;
                }
            }
            if (first != "room" && minutes == asked)
                return false;
            return Settle(minutes);
        }

        /// <summary>Lays merged rests and left-over minutes to rest: the review takes them, then the last line that may grow.</summary>
        private bool Settle(double spare)
        {
            var kept = new List<Line>();
            foreach (var l in lines.Where(l => l.Minutes > Tiny || ReferenceEquals(l, lines[0])))
            {
                if (l.IsRest && kept.Count > 0 && kept[^1] is { IsRest: true } before && kept[^1] != lines[0])
                {
                    spare += Math.Min(before.Minutes, l.Minutes);
                    if (l.Minutes > before.Minutes)
                        kept[^1] = l;
                    continue;
                }
                kept.Add(l);
            }
            lines = kept;
            foreach (
                var line in lines
                    .Where(l => l.Item.Kind == ItemKind.Review)
                    .Concat(lines.Where(l => l.Item.Kind is ItemKind.PackUp or ItemKind.StandBack))
                    .Concat(lines.Where(l => l.IsSitting))
            )
            {
                if (spare <= Tiny)
                    break;
                var most = line.Item.Kind switch
                {
                    ItemKind.Review => LongestReview,
                    ItemKind.PackUp => 15,
                    _ => double.PositiveInfinity,
                };
                var take = Math.Min(spare, Math.Max(0, most - line.Minutes));
                (line.Minutes, spare) = (line.Minutes + take, spare - take);
            }
            return spare <= Tiny && Math.Abs(lines.Sum(l => l.Minutes) - (reading.SecondsIntoItem / 60) - minutesLeft) < 0.01 && Holds();
        }

        private static PlanItem Fitted(Line l, double at)
        {
            var i = l.Item with { At = at, Minutes = l.Minutes };
            if (!l.IsSet)
                return i with { PoseMinutes = i.Poses == 1 ? l.Minutes : i.PoseMinutes };
            var poses = Math.Max(1, (int)Math.Round((l.Minutes + l.Item.Into) / l.Item.PoseMinutes));
            return i with { Poses = poses, Strains = [.. Fill(i.Strains, poses)], PoseIds = [.. Fill(i.PoseIds, poses)] };

            static IEnumerable<T> Fill<T>(IReadOnlyList<T> of, int n) =>
                of.Count == 0 ? [] : Enumerable.Range(0, n).Select(k => of[k % of.Count]);
        }

        public IReadOnlyList<RunItem> Rest()
        {
            var at = reading.Timeline.Take(reading.Index).Sum(t => t.Minutes);
            var rest = new List<RunItem>();
            foreach (var l in lines)
            {
                rest.Add(new(Fitted(l, at), l.Minutes));
                at += l.Minutes;
            }
            return rest;
        }

        /// <summary>Whether the meeting, as it was held and as it would go on, keeps the limits of rest and strain and its break.</summary>
        private bool Holds()
        {
            double at = 0;
            var all = new List<PlanItem>();
            foreach (var t in reading.Timeline.Take(reading.Index).Where(t => t.Minutes > 0.01).Concat(Rest()))
            {
                all.Add(t.Item with { At = at, Minutes = t.Minutes });
                at += t.Minutes;
            }
            var facts = RestRules.Prove(all, request.Wishing(w => w with { Minutes = Math.Max(1, (int)Math.Round(at)) }), rules);
            return facts.Where(f => f.Id is "rest-stretch" or "rest-strain" or "rest-hour" or "minors" or "rung").All(f => f.Holds)
                && (
                    at <= rules.BreakOverMinutes
                    || all.Any(i => i.Kind == ItemKind.Break)
                    || reading.Timeline.All(t => t.Item.Kind != ItemKind.Break)
                );
        }

        public IReadOnlyList<string> Says()
        {
            var says = new List<string>();
            foreach (var t in reading.Timeline.Skip(reading.Index))
            {
                var now = lines.Find(l => ReferenceEquals(l.From, t))?.Minutes ?? 0;
                if (Math.Abs(now - t.Minutes) < 0.5)
                    continue;
                var name = t.Item.Name.ToLowerInvariant();
                if (now < Tiny)
                    says.Add($"{name} of {Say.Minutes(t.Minutes)} dropped");
                else if (t.Item is { Kind: ItemKind.Exercise, Poses: > 1 } i)
                    says.Add(
                        $"{name} {Say.Number(Math.Round(t.Minutes / i.PoseMinutes))} → {Say.Plural((int)Math.Round(now / i.PoseMinutes), "pose")}"
                    );
                else
                    says.Add($"{name} {Say.Number(t.Minutes)} → {Say.Number(now)} min");
            }
            return says;
        }
    }
}
