using MintHarbor.Core;
using MintHarbor.Core.Projects;

namespace MintHarbor.Web.Pages.Projects;

/// <summary>A project as it is written in the form: lists are lines, choices are boxes.</summary>
public sealed class PlanForm
{
    public sealed class StageForm
    {
        public string? Id { get; set; }
        public string? Name { get; set; }
        public int Share { get; set; }
        public string? About { get; set; }

        /// <summary>Points of the checklist, one a line.</summary>
        public string? Gate { get; set; }
        public List<string> Measured { get; set; } = [];
        public bool Word { get; set; }
        public GateMix Mix { get; set; }
        public string? HandIn { get; set; }
        public string? Inspects { get; set; }
        public int LeastMinutes { get; set; }
        public MeasuringBy? By { get; set; }
        public List<string> Exercises { get; set; } = [];
        public List<string> Drills { get; set; } = [];

        public static StageForm Of(StageTemplate s) =>
            new()
            {
                Id = s.Id,
                Name = s.Name,
                Share = s.Share,
                About = s.About,
                Gate = Lines(s.Gate),
                Measured = [.. s.Measured ?? []],
                Word = s.Word,
                Mix = s.Mix,
                HandIn = s.HandIn,
                Inspects = Lines(s.Inspects),
                LeastMinutes = s.LeastMinutes,
                By = s.By,
                Exercises = [.. s.Exercises],
                Drills = [.. s.Drills],
            };
    }

    public sealed class RowForm
    {
        public string? Id { get; set; }
        public string? Name { get; set; }
        public int Weight { get; set; }
        public List<string?> Levels { get; set; } = [];

        public static RowForm Of(RubricRow r) =>
            new()
            {
                Id = r.Id,
                Name = r.Name,
                Weight = r.Weight,
                Levels = [.. r.Levels],
            };
    }

    public string? Name { get; set; }
    public string? About { get; set; }
    public string? Subject { get; set; }
    public string? Medium { get; set; }
    public List<string> Kit { get; set; } = [];
    public ReferenceKind Reference { get; set; }
    public bool FollowsLongPose { get; set; }
    public List<StageForm> Stages { get; set; } = [];
    public List<RowForm> Rubric { get; set; } = [];

    /// <summary>What a new one begins with: two stages and one row, to be written over.</summary>
    public static PlanForm New() =>
        new()
        {
            Stages = [new() { Name = "Block-in", Share = 40 }, new() { Name = "Finish", Share = 60 }],
            Rubric = [NewRow("Proportion")],
        };

    public static RowForm NewRow(string name = "") =>
        new()
        {
            Name = name,
            Weight = 20,
            Levels = ["not begun", "main parts off", "holds in the large", "holds but for one thing", "holds throughout"],
        };

    public static PlanForm Of(ProjectTemplate t) =>
        new()
        {
            Name = t.Name,
            About = t.About,
            Subject = t.Subject,
            Medium = t.Medium,
            Kit = [.. t.Kit],
            Reference = t.Reference,
            FollowsLongPose = t.FollowsLongPose,
            Stages = [.. t.Stages.Select(StageForm.Of)],
            Rubric = [.. t.Rubric.Select(RowForm.Of)],
        };

    /// <summary>What the form says, unchecked. Parts that had no id get one made of their name; one that has keeps it, so that what is done
    /// in a project opened from it keeps its place.</summary>
    public ProjectTemplate Plan()
    {
        var stages = new List<StageTemplate>();
        foreach (var s in Stages)
            stages.Add(
                new(
                    Id(s.Id, s.Name, stages.Select(x => x.Id)),
                    (s.Name ?? "").Trim(),
                    s.Share,
                    (s.About ?? "").Trim(),
                    Points(s.Gate),
                    s.Measured.Count == 0 ? null : [.. s.Measured]
                )
                {
                    Word = s.Word,
                    Mix = s.Mix,
                    HandIn = (s.HandIn ?? "").Trim(),
                    Inspects = Points(s.Inspects),
                    LeastMinutes = s.LeastMinutes,
                    By = s.By,
                    Exercises = [.. s.Exercises],
                    Drills = [.. s.Drills],
                }
            );
        var rows = new List<RubricRow>();
        foreach (var r in Rubric)
            rows.Add(
                new(Id(r.Id, r.Name, rows.Select(x => x.Id)), (r.Name ?? "").Trim(), r.Weight, [.. r.Levels.Select(l => (l ?? "").Trim())])
            );
        return new(
            TemplateCheck.IdOf(Name ?? "", []),
            (Name ?? "").Trim(),
            (About ?? "").Trim(),
            stages,
            rows,
            string.IsNullOrEmpty(Subject) ? null : Subject
        )
        {
            Medium = string.IsNullOrEmpty(Medium) ? null : Medium,
            Kit = [.. Kit],
            Reference = Reference,
            FollowsLongPose = FollowsLongPose,
        };
    }

    /// <summary>Adds, moves or takes away a part: "stage", "row"; "up-2", "down-2", "drop-2" for stages, "rowdrop-1" for rows.</summary>
    public void Do(string? what)
    {
        var parts = (what ?? "").Split('-');
        var n = parts.Length == 2 && int.TryParse(parts[1], out var at) ? at : -1;
        switch (parts[0])
        {
            case "stage" when Stages.Count < TemplateCheck.MostStages:
                Stages.Add(new() { Share = Math.Max(0, 100 - Stages.Sum(s => s.Share)) });
                break;
            case "row" when Rubric.Count < TemplateCheck.MostRows:
                Rubric.Add(NewRow());
                break;
            case "up" when n > 0 && n < Stages.Count:
                (Stages[n - 1], Stages[n]) = (Stages[n], Stages[n - 1]);
                break;
            case "down" when n >= 0 && n < Stages.Count - 1:
                (Stages[n + 1], Stages[n]) = (Stages[n], Stages[n + 1]);
                break;
            case "drop" when n >= 0 && n < Stages.Count && Stages.Count > 1:
                Stages.RemoveAt(n);
                break;
            case "rowdrop" when n >= 0 && n < Rubric.Count && Rubric.Count > 1:
                Rubric.RemoveAt(n);
                break;
            default:
                throw new InputException($"'{what}' can't be done here", "do", "a stage or row more or less, up or down");
        }
    }

    private static string Id(string? id, string? name, IEnumerable<string> taken)
    {
        var others = taken.ToList();
        return string.IsNullOrEmpty(id) || others.Contains(id) ? TemplateCheck.IdOf(name ?? "", others) : id;
    }

    private static string Lines(IEnumerable<string> points) => string.Join('\n', points);

    private static List<string> Points(string? lines) =>
        [.. (lines ?? "").Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)];
}
