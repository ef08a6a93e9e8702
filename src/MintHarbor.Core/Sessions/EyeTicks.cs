using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Sessions;

/// <summary>Something that only the eye in the room sees.</summary>
/// <param name="Asked">It is looked for where a measure of the student stands in one of these stages; always, where none is named.</param>
public sealed record EyeTick(string Id, string Name, params IReadOnlyList<MeasuringStage> Asked);

/// <summary>What no photograph shows and only the eye in the room sees; common practice, kept by a tick.</summary>
public static class EyeTicks
{
    public static IReadOnlyList<EyeTick> All { get; } =
    [
        new("overhand", "overhand grip"),
        new("writing-grip", "writing grip"),
        new("arms-length", "arm's length from the board"),
        new("from-shoulder", "draws from the shoulder"),
        new("board-upright", "board upright"),
        new("stands-back", "steps back to look"),
        new("same-eye", "measures with one eye, elbow locked", MeasuringStage.ByTool, MeasuringStage.ByEyeThenCheck),
        new("measures-first", "measures before drawing", MeasuringStage.ByTool),
        new("eye-then-checks", "draws by eye, then checks", MeasuringStage.ByEyeThenCheck),
        new("tool-aside", "leaves the tool aside", MeasuringStage.ByEye),
    ];

    public static string Name(string id) => All.FirstOrDefault(t => t.Id == id)?.Name ?? id;

    /// <summary>What is looked for in somebody whose measures stand so.</summary>
    /// <param name="stands">By a measure's id; one that isn't named stands by tool.</param>
    public static IReadOnlyList<EyeTick> For(IReadOnlyDictionary<string, MeasuringStage> stands)
    {
        var stages = Stages.All.Select(m => stands.GetValueOrDefault(m.Id)).ToHashSet();
        return [.. All.Where(t => t.Asked.Count == 0 || t.Asked.Any(stages.Contains))];
    }
}

/// <summary>How a student sets up at home, before the first mark.</summary>
/// <param name="Subject">An object, not a picture.</param>
/// <param name="Light">One light, and from where.</param>
/// <param name="Comfort">Where one can sit for the whole of it.</param>
/// <param name="Looked">Minutes looked before the first mark.</param>
/// <param name="LeavesOut">What is left out.</param>
public sealed record SetUpCard(string Subject, string Light, string Comfort, double Looked, string LeavesOut)
{
    public const int Longest = 120;

    /// <exception cref="InputException">Too long a line, or minutes that can't be.</exception>
    public SetUpCard Checked()
    {
        foreach (var (text, field) in new[] { (Subject, "Subject"), (Light, "Light"), (Comfort, "Comfort"), (LeavesOut, "LeavesOut") })
            if (text.Length > Longest)
                throw new InputException($"a line of {text.Length} letters", field, $"up to {Longest} letters");
        if (Looked is not (>= 0 and <= 60))
            throw new InputException($"{Looked} minutes of looking", "Looked", "0 to 60 minutes");
        return this;
    }

    /// <summary>How many of the five are said.</summary>
    public int Said => new[] { Subject, Light, Comfort, LeavesOut }.Count(s => s.Trim() != "") + (Looked > 0 ? 1 : 0);
}

/// <summary>A caution of the studio: shown where it applies, put aside for an evening and not for ever.</summary>
/// <param name="When">"always"; "model": somebody poses; "lamp": it is lit by one; "outdoors", "museum", "moving": drawn there, or from what moves; "minors": in a course under 18; "dust": charcoal or chalk is used; "hour": an hour or more
/// is drawn.</param>
public sealed record Caution(string Id, string When, string Says, string Source);

/// <summary>Common practice; local rules, the employer's policy and licensed people come first.</summary>
public static class Cautions
{
    public static IReadOnlyList<Caution> All { get; } = CoreData.Read<List<Caution>>("cautions");

    /// <summary>Those that apply to an evening.</summary>
    /// <param name="shelf">The course's.</param>
    public static IReadOnlyList<Caution> For(IReadOnlyList<Caution> shelf, PlanRequest request, Proposal plan) =>
        [.. shelf.Where(c => Applies(c.When, request, plan))];

    private static bool Applies(string when, PlanRequest request, Proposal plan) =>
        when switch
        {
            "model" => request.Wish.HasLiveModel,
            "lamp" => Subject.Of(request.Wish.Model).Lamp,
            "outdoors" => request.Wish.Model == ModelKind.Outdoors,
            "museum" => request.Wish.Model == ModelKind.Museum,
            "moving" => request.Wish.Model == ModelKind.Moving,
            "minors" => request.Known.Minors,
            "dust" => plan.Kit.Any(Dusty),
            "hour" => request.Wish.Minutes >= 60,
            _ => true,
        };

    private static bool Dusty(string kit) =>
        kit.Contains("charcoal", StringComparison.Ordinal) || kit.Contains("chalk", StringComparison.Ordinal);
}
