namespace MintHarbor.Core.Sessions;

/// <summary>One thing that is drawn with or on.</summary>
/// <param name="Buys">"student" brings it; "studio" has it there.</param>
/// <param name="Lasts">How many meetings one serves a student; 0 where it doesn't wear out in a term. Paper counts by the sheet.</param>
/// <param name="Cost">Of one, or of one sheet; an invented default.</param>
public sealed record Material(string Id, string Name, string Buys, double Lasts, double Cost);

/// <summary>What a medium draws with in place of an exercise's own tool.</summary>
public sealed record MediumSwap(string Medium, IReadOnlyDictionary<string, string> Swaps);

/// <summary>Who brings what, and what it costs.</summary>
/// <param name="Source">Where quantities and prices come from.</param>
public sealed record MaterialList(
    string Source,
    string Currency,
    IReadOnlyList<Material> Items,
    IReadOnlyList<MediumSwap> Media,
    IReadOnlyList<string> Always
)
{
    public Material? Find(string id) => Items.FirstOrDefault(m => m.Id == id);
}

/// <param name="Count">Pieces or sheets to buy, whole.</param>
public sealed record Purchase(Material Material, int Count, double Cost, string Because);

public static class Materials
{
    public static MaterialList List { get; } = CoreData.Read<MaterialList>("materials");

    public static IReadOnlyList<string> Media { get; } = [.. List.Media.Select(m => m.Medium)];

    /// <summary>Kit of a timetable's exercises, paper left out, in the medium of the class and as the subject allows.</summary>
    public static IReadOnlyList<string> Kit(IEnumerable<PlanItem> work, string? medium, Subject subject)
    {
        var swaps = List.Media.FirstOrDefault(m => m.Medium == medium)?.Swaps;
        return
        [
            .. work.SelectMany(i => i.Catalogue!.Kit)
                .Where(k => k is not ("newsprint" or "drawing paper"))
                .Select(k => swaps is not null && swaps.TryGetValue(k, out var other) ? other : k)
                .Select(k => subject.Leave?.Contains(k) == true ? subject.Instead : k)
                .OfType<string>()
                .Concat(subject.Paper is null ? [] : ["sketchbook"])
                .Distinct(),
        ];
    }

    /// <summary>What a student brings: the kit that the studio hasn't got, and what is brought to every meeting.</summary>
    public static IReadOnlyList<string> Bring(MaterialList list, Proposal plan) =>
        [.. plan.Kit.Concat(list.Always).Distinct().Where(k => list.Find(k) is not { Buys: "studio" })];

    /// <summary>What the studio buys for some meetings: paper by the sheet with a tenth over for spoiled ones, tools by how many
    /// meetings one serves a student. Things that last are not bought again.</summary>
    /// <param name="meetings">Plan and number of students of each.</param>
    public static IReadOnlyList<Purchase> Buy(MaterialList list, IReadOnlyList<(Proposal Plan, int Students)> meetings)
    {
        var all = new List<Purchase>();
        foreach (var paper in meetings.SelectMany(m => m.Plan.Paper).GroupBy(p => p.Kind))
        {
            if (list.Find(paper.Key) is not { Buys: "studio" } m)
                continue;
            var sheets = paper.Sum(p => p.Sheets);
            var count = (int)Math.Ceiling(sheets * 1.1 - 1e-9);
            all.Add(new(m, count, Cents(count, m), $"{sheets} sheets in {Say.Plural(meetings.Count, "meeting")}, a tenth over"));
        }
        foreach (var m in list.Items.Where(m => m is { Buys: "studio", Lasts: > 0 }))
        {
            // Uses of all students over all meetings, and how many pieces these wear out.
            var uses = meetings.Where(x => x.Plan.Kit.Contains(m.Id)).Sum(x => x.Students);
            if (uses == 0 || all.Any(p => p.Material == m))
                continue;
            var count = (int)Math.Ceiling((uses / m.Lasts) - 1e-9);
            all.Add(new(m, count, Cents(count, m), $"{uses} uses, one serves {Say.Number(m.Lasts)}"));
        }
        return [.. all.OrderByDescending(p => p.Cost)];
    }

    private static double Cents(int count, Material m) => (double)Math.Round(count * (decimal)m.Cost, 2, MidpointRounding.AwayFromZero);
}
