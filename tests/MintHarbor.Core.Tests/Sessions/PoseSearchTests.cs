using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sessions;
using Xunit;

namespace MintHarbor.Core.Tests.Sessions;

/// <summary>The choice of poses against every choice there is, on evenings small enough to try them all.</summary>
public class PoseSearchTests
{
    private static readonly TimingRules Rules = TimingRules.Default;

    /// <summary>Four poses, one of them given, with a rest somewhere; the lengths from half a minute to twelve.</summary>
    private static List<PoseSlot> Slots(SeededRandom random, PoseChooser chooser)
    {
        var rest = random.Next(4);
        var given = random.Next(5);
        return
        [
            .. Enumerable
                .Range(0, 4)
                .Select(n =>
                {
                    var pose = PoseLibrary.Studio.First(p => p.Strain == Strain.Seated);
                    if (n == given)
                        pose = chooser[random.Next(chooser.Count)] is { } p && Rules.Limit(p.Strain).LimitMinutes >= 12 ? p : pose;
                    return new PoseSlot(
                        n,
                        0,
                        new[] { 0.5, 1, 2, 5, 12 }[random.Next(5)],
                        random.Next(2) == 0 ? "gesture" : null,
                        n == 0 || n == rest,
                        null,
                        n != given,
                        false,
                        pose,
                        pose.Strain
                    );
                }),
        ];
    }

    private static bool Keeps(IReadOnlyList<PoseSlot> slots, IReadOnlyList<StudioPose> poses)
    {
        // Minutes on end at a strain or harder, for each strain by itself.
        foreach (var limit in Rules.Strains)
        {
            double run = 0;
            for (var n = 0; n < slots.Count; n++)
            {
                run = (slots[n].Fresh ? 0 : run) is var before && poses[n].Strain >= limit.Id ? before + slots[n].Minutes : 0;
                if (run > limit.LimitMinutes + 1e-9)
                    return false;
            }
        }
        return true;
    }

    /// <summary>Alone, less 4 for every pair of the same pose and 1.5 for every two of a kind side by side, the given ones' own pairs left out.</summary>
    private static double Worth(PoseChooser chooser, IReadOnlyList<PoseSlot> slots, IReadOnlyList<StudioPose> poses)
    {
        double sum = 0;
        for (var n = 0; n < slots.Count; n++)
        {
            if (slots[n].Free)
                sum += chooser.Alone(chooser.IndexOf(poses[n].Id), slots[n].Minutes, false, slots[n].Exercise);
            for (var m = 0; m < n; m++)
                if ((slots[n].Free || slots[m].Free) && poses[n].Id == poses[m].Id)
                    sum -= 4;
            if (n > 0 && (slots[n].Free || slots[n - 1].Free))
                sum -= (poses[n].Family == poses[n - 1].Family ? 1.5 : 0) + (poses[n].Id == poses[n - 1].Id ? 4 : 0);
        }
        return sum;
    }

    [Fact]
    public void The_search_comes_within_a_twentieth_of_the_best_of_all_and_the_bound_lies_above_it()
    {
        var random = new SeededRandom(17);
        double worst = 1;
        var exact = 0;
        const int tried = 40;
        for (var round = 0; round < tried; round++)
        {
            var request = new PlanRequest(
                new()
                {
                    Minutes = 60,
                    Seed = round,
                    Purpose = (Purpose)random.Next(6),
                    Level = (Level)random.Next(3),
                    Part = random.Next(2) == 0 ? PoseLibrary.Parts[random.Next(PoseLibrary.Parts.Count)] : null,
                }
            )
            {
                Known = new() { History = [new(1, [PoseLibrary.Studio[random.Next(28)].Id])] },
            };
            var chooser = new PoseChooser(request);
            var slots = Slots(random, chooser);
            // What the given poses leave no room for is no case.
            if (!Keeps(slots, [.. slots.Select(s => s.Pose)]))
                continue;
            var search = new PoseSearch(chooser, Rules, slots);
            var found = search.Run().Select(s => s.Pose).ToList();
            Assert.True(Keeps(slots, found));
            Assert.All(slots.Zip(found), p => Assert.True(p.First.Free || p.First.Pose.Id == p.Second.Id));
            Assert.Equal(Worth(chooser, slots, found), search.Points(), 9);
            double best = double.NegativeInfinity;
            Try([]);
            Assert.True(best <= search.Bound() + 1e-9, $"{best} over the bound {search.Bound()}");
            Assert.True(search.Points() <= best + 1e-9);
            if (search.Points() > best - 1e-9)
                exact++;
            worst = Math.Min(worst, search.Points() / best);

            void Try(List<StudioPose> poses)
            {
                if (poses.Count == slots.Count)
                {
                    if (Keeps(slots, poses))
                        best = Math.Max(best, Worth(chooser, slots, poses));
                    return;
                }
                for (var p = 0; p < (slots[poses.Count].Free ? chooser.Count : 1); p++)
                {
                    var pose = slots[poses.Count].Free ? chooser[p] : slots[poses.Count].Pose;
                    if (Rules.Limit(pose.Strain).LimitMinutes < slots[poses.Count].Minutes)
                        continue;
                    Try([.. poses, pose]);
                }
            }
        }
        TestContext.Current.SendDiagnosticMessage($"best of all in {exact} of {tried}, the worst at {worst:0.000} of it");
        Assert.True(exact >= 30, $"{exact}");
        Assert.True(worst >= 0.95, $"{worst}");
    }
}
