using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Simulation;
using Xunit;

namespace MintHarbor.Core.Tests.Simulation;

/// <summary>The judge on simulated sheets (a short form of ./harbor study, by another seed), and the faults that are put into them.</summary>
public sealed class JudgeStudyTests
{
    private static readonly StudioFigure Studio = new(96L << 20);

    [Fact]
    public void The_judge_finds_what_is_due_and_its_intervals_hold_the_truth()
    {
        var study = JudgeStudy.Run(seed: 77, sheets: 112, Studio);
        foreach (var kind in study.Rows.GroupBy(r => r.Against))
        {
            var (due, found) = (kind.Sum(r => r.Due), kind.Sum(r => r.Found));
            Assert.True(due >= 15, $"{kind.Key}: only {due} measures were due");
            Assert.True(found >= 0.95 * due - 1, $"{kind.Key}: {found} of {due} due were found");
            var covered = (double)kind.Sum(r => r.Covered) / kind.Sum(r => r.Judged);
            Assert.True(covered is >= 0.85 and <= 0.95, $"{kind.Key}: the 90 % interval holds the truth in {100 * covered:0.0} %");
        }
        Assert.All(study.Clean, c =>
            Assert.True(c.Alarms <= Math.Max(2, c.Sheets / 20), $"{c.Against}: {c.Alarms} of {c.Sheets} clean sheets with a false alarm")
        );
        // A fault elsewhere on the sheet must not make an interval lie.
        // Nine in ten are asked for; a group of 150 may lie 2.5 standard errors below by chance.
        Assert.All(study.Covers, c =>
            Assert.True(
                c.Covered >= Math.Min(0.86, 0.9 - (2.5 * Math.Sqrt(0.9 * 0.1 / c.Judged))) * c.Judged,
                $"{c.Against}, faulty {c.Faulty}: {c.Covered} of {c.Judged}"
            )
        );
        var (all, named) = (study.Causes.Sum(c => c.Due), study.Causes.Sum(c => c.Named));
        Assert.True(all >= 15 && named >= 0.85 * all, $"{named} of {all} causes named: {string.Join(", ", study.Causes)}");
    }

    [Fact]
    public void A_heads_faults_are_found_and_its_clean_sheets_left_alone()
    {
        var study = HeadStudy.Run(seed: 78, sheets: 104, new Core.Heads.StudioHead(Core.Heads.StudioHead.Coarse, 13));
        foreach (var kind in study.Rows.GroupBy(r => r.Against))
        {
            var (due, found) = (kind.Sum(r => r.Due), kind.Sum(r => r.Found));
            Assert.True(due >= 15, $"{kind.Key}: only {due} measures were due");
            Assert.True(found >= (0.95 * due) - 1, $"{kind.Key}: {found} of {due} due were found");
            Assert.True(kind.Sum(r => r.Covered) >= 0.85 * kind.Sum(r => r.Judged), $"{kind.Key}");
        }
        Assert.All(study.Clean, c => Assert.True(c.Alarms <= Math.Max(2, c.Sheets / 20), $"{c.Against}: {c.Alarms} of {c.Sheets}"));
        Assert.Contains(study.Faults, f => f.Fault == "axis in the middle, turned" && f.Due > 0);
    }

    [Fact]
    public void The_same_seed_gives_the_same_study()
    {
        Assert.Equal(JudgeStudy.Run(5, 8, Studio).Rows, JudgeStudy.Run(5, 8, Studio).Rows);
        Assert.NotEqual(JudgeStudy.Run(5, 8, Studio).Rows, JudgeStudy.Run(6, 8, Studio).Rows);
    }

    private static (Dictionary<string, Vec2> Marks, Dictionary<string, double> Seen) View(string pose, double azimuth)
    {
        var v = StudioFigure.View(
            Studio.Model("male", FigureCatalogue.Pose(pose), Drapery.For(false, false), StudioFigure.Thumb),
            new(azimuth),
            FigureViewKind.Mass
        );
        return (v.Landmarks.ToDictionary(l => l.Key, l => l.Value.At), v.Limbs.ToDictionary(l => l.Id, l => l.Ratio));
    }

    public static TheoryData<string> Names => [.. FigureFaults.All.Select(f => f.Name)];

    [Theory]
    [MemberData(nameof(Names))]
    public void A_fault_is_found_by_name_and_moves_only_its_own_part(string name)
    {
        var pose = name is "forearm at full length" ? "seated" : "contrapposto";
        var (marks, seen) = View(pose, 20);
        var (_, unit, _, most) = FigureFaults.All.First(f => f.Name == name);
        var drawn = FigureFaults.Apply(marks, new(name, most), seen, "R");
        Assert.Equal(marks.Keys.Order(), drawn.Keys.Order());
        var moved = marks.Keys.Where(k => (marks[k] - drawn[k]).Length > 1e-9).ToHashSet();
        Assert.NotEmpty(moved);
        string[] still = name switch
        {
            "head large" => ["chin", "pit", "wrist.R", "sole.L"],
            "legs short" => ["crown", "pit", "asis.R", "wrist.R"],
            "shoulders level" => ["pit", "pubic", "sole.R"],
            "forearm at full length" => ["elbow.R", "wrist.L", "pit"],
            "feet small" => ["ankleout.R", "kneetop.R"],
            "hand small" => ["wrist.R", "fingertip.L"],
            "figure leaning" => [],
            "squeezed at the end" or FigureFaults.HipsShifted => ["crown", "pit"],
            FigureFaults.ThighTurned => ["asis.R", "kneetop.L", "pit"],
            FigureFaults.ArmTurned => ["acromion.R", "elbow.L", "pit"],
            FigureFaults.ShankTurned => ["kneetop.R", "ankleout.L", "pit"],
            FigureFaults.WholeStretched => [],
            _ => ["kneetop.R", "sole.L", "pit"],
        };
        Assert.All(still, id => Assert.DoesNotContain(id, moved));
        // And the judge names it, held against the view it departs from, on a drawing of half a metre placed without error.
        var scale = 480.0 / (marks.Values.Max(p => p.Y) - marks.Values.Min(p => p.Y));
        var judged = Judge.Figure(
            new()
            {
                Pose = "contrapposto",
                StandingLeg = "R",
                Landmarks = new(drawn.Select(p => KeyValuePair.Create(p.Key, p.Value * scale))),
                Reference = new(marks),
                Foreshortening = seen,
                PlacementErrorMm = 0.3,
            }
        );
        var outside = judged.Findings.Where(f => f.Against == Against.Reference && f.Verdict == Verdict.Outside).ToList();
        var says = string.Join(" | ", outside.Select(f => f.Says));
        Assert.Contains(outside, f => name switch
            {
                "head large" => f.Part == "head" || f.Rule.Id == "F-heads",
                "legs short" or "squeezed at the end" => f.Part is { } p
                    && (p.Contains("thigh") || p.Contains("lower leg") || p.Contains("sole")),
                "shoulders level" => f.Part == "shoulders",
                "forearm at full length" => f.Part == "right forearm",
                "feet small" => f.Part!.Contains("foot"),
                "hand small" => f.Part == "right hand",
                "figure leaning" => f.Rule.Id == "R-lean",
                FigureFaults.ThighTurned => (f.Rule.Id, f.Part) == ("R-direction", "right thigh"),
                FigureFaults.ArmTurned => (f.Rule.Id, f.Part) == ("R-direction", "right upper arm"),
                FigureFaults.ShankTurned => (f.Rule.Id, f.Part) == ("R-direction", "right lower leg"),
                FigureFaults.HipsShifted => f.Rule.Id == "R-hips",
                FigureFaults.WholeStretched => f.Rule.Id == "R-stretch",
                _ => f.Part == "right lower leg",
            });
        if (name == "forearm at full length")
            Assert.Contains("known, not seen, length?", says);
    }

    [Fact]
    public void What_the_seat_shortens_is_explained_and_not_blamed()
    {
        var (marks, seen) = View("seated", 5);
        var scale = 480.0 / (marks.Values.Max(p => p.Y) - marks.Values.Min(p => p.Y));
        var judged = Judge.Figure(
            new()
            {
                Pose = "seated",
                Landmarks = new(marks.Select(p => KeyValuePair.Create(p.Key, p.Value * scale))),
                Reference = new(marks),
                Foreshortening = seen,
                PlacementErrorMm = 0.3,
            }
        );
        Assert.DoesNotContain(judged.Findings, f => f.Against == Against.Reference && f.Verdict == Verdict.Outside);
        Assert.Contains(judged.Findings, f => f.Rule.Id == "R-length" && f.Says.Contains("from this seat it is"));
        Assert.Equal(scale, judged.Alignment!.Scale, 6);
        Assert.Equal(0, judged.Alignment.Residual, 6);
    }
}
