namespace MintHarbor.Core.Technique;

public enum PatchMethod
{
    Hatch,
    CrossHatch,
    Stipple,
    Smooth,
}

public enum PatchStep
{
    Light,
    Middle,
    Dark,
}

/// <summary>One patch of value as it was read.</summary>
public sealed record Patch(PatchMethod Method, PatchStep Step, AreaMeasures Read)
{
    /// <summary>Dots in a row are no hatching, nor is smooth tone: no spacing is read of them.</summary>
    public static AreaMeasures As(PatchMethod method, AreaMeasures read) =>
        method is PatchMethod.Hatch or PatchMethod.CrossHatch
            ? read
            : read with
            {
                HatchLength = 0,
                Spacing = null,
                Evenness = null,
                Direction = null,
                Crossed = false,
            };
}

/// <summary>What a row of patches says, and what to change in the next.</summary>
/// <param name="Next">What to do: spacing first, then pressure. Null where it holds.</param>
/// <param name="Spacing">The spacing that it names, mm; null where it names none.</param>
public sealed record PatchWord(PatchMethod Method, TechniqueVerdict Verdict, string Says, string? Next = null, double? Spacing = null);

/// <summary>Reads patches of value as a set: light, middle and dark of each method in their order, far enough apart, in even steps (common practice, no
/// source). What is off is mended by spacing first, then by pressure.</summary>
public static class PatchSet
{
    /// <summary>Steps of L* nearer than this are one value to the eye; the middle may lie this share of the whole step off; a dark lighter than
    /// this is none. Our defaults.</summary>
    public const double Apart = 6,
        OffMiddle = 0.17,
        LightestDark = 58;

    public static string Name(PatchMethod method) =>
        method == PatchMethod.CrossHatch ? "cross-hatch" : method.ToString().ToLowerInvariant();

    public static IReadOnlyList<PatchWord> Of(IReadOnlyList<Patch> patches) =>
        [.. patches.GroupBy(p => p.Method).OrderBy(g => g.Key).Select(g => Row(g.Key, [.. g]))];

    private static PatchWord Row(PatchMethod method, List<Patch> patches)
    {
        var name = Name(method);
        AreaMeasures? At(PatchStep step) => patches.LastOrDefault(p => p.Step == step)?.Read;
        if (At(PatchStep.Light) is not { } light || At(PatchStep.Middle) is not { } middle || At(PatchStep.Dark) is not { } dark)
        {
            var missing = Enum.GetValues<PatchStep>().Where(s => At(s) is null).Select(s => s.ToString().ToLowerInvariant());
            return new(method, TechniqueVerdict.CantTell, $"{name}: mark its {Say.List([.. missing])} too.");
        }
        double l = light.Lightness,
            m = middle.Lightness,
            d = dark.Lightness;
        var read = $"L* {Say.Number(l)}, {Say.Number(m)}, {Say.Number(d)}";
        if (l <= d)
            return new(
                method,
                TechniqueVerdict.CantTell,
                $"{name}: its light is no lighter than its dark ({read}): is each marked as what it is?"
            );
        if (!(l > m && m > d))
        {
            var (one, other) = l <= m ? ("light", "middle") : ("middle", "dark");
            return Mended(method, $"{name}: the {one} is no lighter than the {other} ({read}).", middle, (l + d) / 2, "middle");
        }
        if (d > LightestDark)
            return Mended(method, $"{name}: the dark isn't dark yet ({read}).", dark, LightestDark - 8, "dark");
        if (l - m < Apart || m - d < Apart)
        {
            var near = l - m < Apart ? "light and middle" : "middle and dark";
            return Mended(method, $"{name}: {near} are one value to the eye ({read}).", middle, (l + d) / 2, "middle");
        }
        var off = (m - ((l + d) / 2)) / (l - d);
        return Math.Abs(off) <= OffMiddle
            ? new(method, TechniqueVerdict.Holds, $"{name}: three values in even steps ({read}).")
            : Mended(method, $"{name}: the middle lies nearer the {(off > 0 ? "light" : "dark")} ({read}).", middle, (l + d) / 2, "middle");
    }

    /// <summary>Spacing first, then pressure: dots and smooth tone have no spacing that is read.</summary>
    private static PatchWord Mended(PatchMethod method, string says, AreaMeasures patch, double lightness, string step)
    {
        var darker = lightness < patch.Lightness;
        if (patch.Spacing is not { } has)
        {
            var next = darker
                ? $"Lay more into the {step}, closer first, then with more pressure."
                : $"Leave more paper in the {step}, wider first, then with less pressure.";
            return new(method, TechniqueVerdict.Off, says, next);
        }
        return patch.SpacingFor(lightness) is { } wanted && Math.Abs(wanted - has) >= 0.1
            ? new(
                method,
                TechniqueVerdict.Off,
                says,
                $"Draw the {step} at {Say.Number(wanted, 1)} mm from line to line instead of {Say.Number(has, 1)}, with the same pressure.",
                wanted
            )
            : new(
                method,
                TechniqueVerdict.Off,
                says,
                $"The lines lie as close as they can: {(darker ? "press harder" : "press more lightly")} in the {step}."
            );
    }
}
