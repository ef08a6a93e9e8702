using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Five printed tones, each to be matched by hatching below it.</summary>
public sealed record ToneSteps(Vec2 At) : PaperItem(At)
{
    public const string Measure = "tone";

    /// <summary>How dark the five are printed.</summary>
    internal static readonly IReadOnlyList<double> Tones = [0.15, 0.3, 0.45, 0.6, 0.75];
    public const int Steps = 5;

    /// <summary>Edges of a patch are left out.</summary>
    private const double Inset = 1.5;

    /// <summary>Lighter than this share of the paper a patch is empty.</summary>
    private const double Empty = 0.965;

    /// <summary>Paper that changes more than this round a patch has a shadow's edge on it.</summary>
    private const double Shadow = 0.13;

    /// <summary>95 % of patches without a shadow were read within it (docs/study.md).</summary>
    private const double Doubt = 2;

    [JsonIgnore]
    public override bool Wide => true;

    [JsonIgnore]
    public override string Asks => "Match each printed tone in the field below it by hatching.";

    public Area Given(int n) => new(At.X + 5 + (20 * n), At.Y + 7, At.X + 21 + (20 * n), At.Y + 20);

    public Area Field(int n) => new(At.X + 5 + (20 * n), At.Y + 24, At.X + 21 + (20 * n), At.Y + 40);

    [JsonIgnore]
    internal override IEnumerable<Area> Patches => Enumerable.Range(0, Steps).SelectMany(n => (Area[])[Given(n), Field(n)]);

    public override IEnumerable<PrintShape> Print() =>
        [
            .. Tones.Select((t, n) => new PrintBox(new(Given(n).Left, Given(n).Top), 16, 13, t)),
            .. Enumerable.Range(0, Steps).SelectMany(n => Corners(Field(n))),
            new PrintBox(At + new Vec2(5, 43.5), 96, 3),
        ];

    public static Area Inside(Area a) => a.Grown(-Inset);

    internal override ItemReading Read(ItemInk ink)
    {
        var patches = Enumerable
            .Range(0, Steps)
            .Select(n => (Drawn: ink.Tone(Inside(Field(n))).Mean, Given: ink.Tone(Inside(Given(n))).Mean))
            .ToList();
        var empty = patches.Count(p => p.Drawn > Empty);
        if (empty == patches.Count)
            return ItemReading.Nothing;
        return new ItemReading(
            AnswerState.Answered,
            [.. patches.Select(p => new ItemScore(Measure, 100 * (p.Drawn - p.Given), Doubt))],
            [],
            []
        )
            .With(ReadingFlag.PatchEmpty, empty > 0)
            .With(ReadingFlag.ShadowAcross, Enumerable.Range(0, Steps).Max(n => Change(ink, Field(n))) > Shadow);
    }

    private static double Change(ItemInk ink, Area a)
    {
        double[] round =
        [
            ink.Paper(new(a.Left - 1.5, a.Middle.Y)),
            ink.Paper(new(a.Right + 1.5, a.Middle.Y)),
            ink.Paper(new(a.Middle.X, a.Top - 1.5)),
            ink.Paper(new(a.Middle.X, a.Foot + 1.5)),
        ];
        return (round.Max() - round.Min()) / round[0];
    }
}
