namespace MintHarbor.Core.Sessions;

/// <summary>What no photograph shows and only the eye in the room sees; common practice, kept by a tick.</summary>
public static class EyeTicks
{
    public static IReadOnlyList<(string Id, string Name)> All { get; } =
    [
        ("overhand", "overhand grip"),
        ("writing-grip", "writing grip"),
        ("arms-length", "arm's length from the board"),
        ("from-shoulder", "draws from the shoulder"),
        ("board-upright", "board upright"),
        ("stands-back", "steps back to look"),
        ("same-eye", "measures with one eye, elbow locked"),
    ];

    public static string Name(string id) => All.FirstOrDefault(t => t.Id == id).Name ?? id;
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
public sealed record Caution(string Id, string Says);

public static class Cautions
{
    /// <summary>Common practice; local rules, the employer's policy and licensed people come first.</summary>
    public static IReadOnlyList<Caution> For(PlanRequest request, Proposal plan)
    {
        var all = new List<Caution>();
        if (request.Wish.HasLiveModel)
            all.Add(
                new(
                    "model",
                    "The model has a warm room and a private place to change, agreed every pose before, rests as planned and may stop at any time. Nobody touches, nobody photographs. Faint or pain: stop and call the first-aider."
                )
            );
        if (request.Known.Minors)
            all.Add(
                new(
                    "minors",
                    "Under 18: clothed model, cast or still life only; images of students need their guardians' consent as local law asks; blunt needles, no loose blades."
                )
            );
        all.Add(
            new(
                "lamp",
                "The lamp is hot: a metre clear of drapery, paper and heads; cables taped, easel legs and ways out clear. No flame in a prop."
            )
        );
        if (plan.Kit.Any(k => k.Contains("charcoal", StringComparison.Ordinal) || k.Contains("chalk", StringComparison.Ordinal)))
            all.Add(
                new("dust", "Dust is wiped damp, not blown; fixative only outdoors or under extraction; blades cut away from the body.")
            );
        if (request.Wish.Minutes >= 60)
            all.Add(new("body", "Change hands, straighten the wrist and step back every 20 to 30 minutes."));
        return all;
    }
}
