using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Landmarks;

namespace MintHarbor.Core.Simulation;

/// <summary>The same for heads: every sitter, from the front and turned, drawn with known faults, held against the school and against the
/// view it was drawn from.</summary>
public static class HeadStudy
{
    private const double PaperWidth = 297,
        PaperHeight = 420;

    public static StudyResult Run(long seed, int sheets, StudioHead studio)
    {
        var random = new SeededRandom(seed);
        var tally = new StudyTally();
        for (var n = 0; n < sheets; n++)
        {
            var head = studio.Model(HeadCatalogue.Sitters[n % HeadCatalogue.Sitters.Count].Id);
            // Half of them from the front, where widths are judged, half turned, where the turn is.
            var turn = n % 2 == 0 ? 0 : random.Between(16, 42) * (random.Next(2) == 0 ? 1 : -1);
            var subject = DrawnSubject.Outlined(StudioHead.View(head, new(turn), FigureViewKind.Mass), StudioHead.Sides(head, new(turn)));
            var reference = subject.Landmarks.Where(l => LandmarkIds.HeadOrder.Contains(l.Key)).ToDictionary(l => l.Key, l => l.Value.At);
            var given = Faults(random, n / 2, turn != 0);
            var drawn = given.Aggregate((IReadOnlyDictionary<string, Vec2>)reference, (m, f) =>
                FigureFaults.Apply(m, f, new Dictionary<string, double>(), "R")
            );
            var scale = random.Between(150, 260) / (reference["chin"].Y - reference["crown"].Y);
            var exact = drawn.ToDictionary(
                l => l.Key,
                l => new Vec2(PaperWidth / 2, PaperHeight / 2) + ((l.Value - reference["nose-root"]) * scale)
            );
            var noisy = exact.ToDictionary(
                l => l.Key,
                l => l.Value + new Vec2(random.Normal(JudgeStudy.Placement), random.Normal(JudgeStudy.Placement))
            );
            foreach (var against in new[] { Against.Reference, Against.Canon })
            {
                // A turned head's one rule is its turn, which no view outranks.
                if (against == Against.Reference && turn != 0)
                    continue;
                Judgement Judged(Dictionary<string, Vec2> marks, double error) =>
                    Judge.Head(
                        new()
                        {
                            Subject = "head",
                            Canon = "classical-head",
                            View = turn == 0 ? "front" : "three-quarter",
                            Landmarks = new(marks),
                            PlacementErrorMm = error,
                            Reference = against == Against.Reference ? new LandmarkSet(reference) : null,
                        }
                    );
                var truth = Judged(exact, 0).Findings.ToDictionary(f => (f.Key, f.Against));
                var (alarm, due, found) = JudgeStudy.Count(
                    tally,
                    against,
                    [.. Judged(noisy, JudgeStudy.Placement).Findings.Where(f => f.Against == against)],
                    f => truth.GetValueOrDefault((f.Key, f.Against))?.Off,
                    given.Count > 0
                );
                if (given.Count == 0)
                    JudgeStudy.Clean(tally.Clean, against, alarm);
                else if (given.Count == 1 && (against == Against.Reference || turn != 0))
                    JudgeStudy.Tally(
                        tally.Faults,
                        (
                            given[0].Name + (turn == 0 ? "" : ", turned"),
                            JudgeStudy.Third(FigureFaults.OfHeads.First(f => f.Name == given[0].Name), given[0].Size)
                        ),
                        due,
                        found
                    );
            }
        }
        return tally.Result(sheets);
    }

    /// <summary>Every fourth sheet is clean. The axis can be in the middle only where it should not be.</summary>
    private static List<NamedFault> Faults(SeededRandom random, int n, bool turned)
    {
        var faults = new List<NamedFault>();
        if (n % 4 == 0)
            return faults;
        var possible = FigureFaults.OfHeads.Where(f => turned || f.Name != "axis in the middle").ToList();
        for (var k = 0; k < (n % 4 == 3 ? 2 : 1); k++)
        {
            var (name, _, least, most) =
                turned && k == 0 ? possible.First(f => f.Name == "axis in the middle") : possible[random.Next(possible.Count)];
            if (faults.All(f => f.Name != name))
                faults.Add(new(name, random.Between(least, most)));
        }
        return faults;
    }
}
