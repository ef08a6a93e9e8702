using System.Text.Json;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;
using NodaTime;

namespace MintHarbor.Core.Tests.Sessions;

/// <summary>One worked example of the room clock, worked out by hand; the browser's counting is held to the same (tests/vectors/clock.json).</summary>
public sealed record ClockVector(string Says, JsonElement[][] Events, double At, int Index, int Pose, double Left, int Before = 0)
{
    private static readonly Instant Begun = Instant.FromUtc(2026, 3, 3, 19, 0);

    public static IReadOnlyList<ClockVector> All { get; } =
        JsonSerializer.Deserialize<List<ClockVector>>(
            File.ReadAllText(Checkout.Path("tests/vectors/clock.json")),
            JsonSerializerOptions.Web
        )!;

    /// <summary>Set-up of 5 min, ten poses of a minute, a rest, a sitting of 20 min, review and packing up.</summary>
    public static IReadOnlyList<PlanItem> Plan { get; } =
        Identities.Assign([
            new(0, 5, ItemKind.SetUp),
            new(5, 10, ItemKind.Exercise)
            {
                Exercise = "gesture",
                Posed = true,
                Poses = 10,
                PoseMinutes = 1,
                Strains = [.. Enumerable.Range(0, 10).Select(n => n < 7 ? Strain.Seated : Strain.Standing)],
                PoseIds = ["seated", "chinonhand", "floorseat", "sidesit", "heels", "seated", "sidesit", "stand", "behind", "stand"],
                Facings = [0, 90, 180, -90, 0, 90, 180, -90, 0, 90],
            },
            new(15, 5, ItemKind.Rest),
            new(20, 20, ItemKind.Exercise)
            {
                Exercise = "sitting",
                Posed = true,
                Poses = 1,
                PoseMinutes = 20,
                Strains = [Strain.Seated],
                PoseIds = ["seated"],
                Period = 1,
            },
            new(40, 10, ItemKind.Review),
            new(50, 10, ItemKind.PackUp),
        ]);

    public IReadOnlyList<ClockEvent> Log =>
        [
            .. Events.Select(e => new ClockEvent(
                After(e[0].GetDouble()),
                Enum.Parse<ClockAct>(e[1].GetString()!.Replace("-", ""), ignoreCase: true)
            )),
        ];

    public static Instant After(double seconds) => Begun + Duration.FromSeconds(seconds);
}
