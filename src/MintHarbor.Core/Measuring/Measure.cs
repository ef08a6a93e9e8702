using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;

namespace MintHarbor.Core.Measuring;

public enum MeasureKind
{
    Ratio,
    Offset,
    Angle,
    Sign,
}

public enum Side
{
    Left,
    Right,
}

/// <summary>Which of a rule's measures: its id in the table of rules and in canons, and its name in plain words.</summary>
public sealed record Part(string Id, string Name)
{
    public static implicit operator Part(string name) => new(name, name);
}

/// <summary>A number taken from landmarks: its landmarks, unit and formula, and how far placement carries into it.</summary>
/// <param name="Part">Null where the rule has one measure only.</param>
/// <param name="Eval">The value from the landmarks' places in mm, in <paramref name="Unit"/>.</param>
/// <param name="Formula">In words, for "why".</param>
public sealed record Measure(
    Rule Rule,
    Part? Part,
    MeasureKind Kind,
    string Unit,
    IReadOnlyList<string> Needs,
    Func<Func<string, Vec2>, double> Eval,
    string Formula
)
{
    /// <summary>What an offset lies off from to its two sides, below and above nought: "above the brow". Null says the direction alone.</summary>
    public string? Less { get; init; }
    public string? More { get; init; }

    /// <summary>The reading of a pose card that the measure answers; null where a card has none.</summary>
    public string? CardKey { get; init; }

    /// <summary>Landmarks that the measure is spoken of at, among those it needs; the head apart where it is only the unit.</summary>
    public IReadOnlyList<string> At
    {
        get => field ?? [.. Needs.Where(n => n is not ("crown" or "chin")).Distinct()];
        init;
    }

    /// <summary>How it is drawn over the sheet when it is outside.</summary>
    public Mark Mark
    {
        get => mark ?? Rule.Mark;
        init => mark = value;
    }
    private readonly Mark? mark;

    /// <summary>Root of the sum of the squared derivatives, where it is known because the value is linear in the places.</summary>
    public double? Steepness { get; init; }

    /// <summary>Told by all landmarks together: that one of them was only proposed doesn't keep it from being judged.</summary>
    public bool OfAll { get; init; }

    /// <summary>What placement carries into, where the value itself stands still over a range: at its end a derivative would tell half.</summary>
    public Func<Func<string, Vec2>, double>? Carries { get; init; }

    /// <summary>90 % of a normal distribution lies within this many standard deviations.</summary>
    public const double Ninety = 1.645;

    /// <summary>Names the measure among all of a sheet, across drawings of the same pose.</summary>
    public string Key => Part is null ? Rule.Id : $"{Rule.Id}: {Part.Name}";

    /// <summary>How it is missed below and above, and the faults that this is.</summary>
    public Ways Ways => Rule.WaysOf(Part?.Id);

    public bool Seen(LandmarkSet l) => Needs.All(l.Has);

    public double Value(LandmarkSet l) => Eval(id => l[id]!.Value);

    /// <summary>Standard deviation of the value when every coordinate carries a normal error of its own: first-order propagation,
    /// σ² = Σ(∂f/∂x)²σ², derivatives by central differences.</summary>
    /// <param name="sigma">1 σ of each coordinate of a landmark, mm.</param>
    public double Sigma(LandmarkSet l, Func<string, double> sigma)
    {
        if (Steepness is { } known)
            return known * Math.Sqrt(Needs.Average(n => sigma(n) * sigma(n)));
        const double h = 1e-3;
        double sum = 0;
        // One function for all places, moved aside one landmark at a time.
        var (moved, by) = ("", new Vec2(0, 0));
        Vec2 At(string id) => id == moved ? l[id]!.Value + by : l[id]!.Value;
        Func<string, Vec2> at = At;
        var value = Carries ?? Eval;
        foreach (var id in Needs.Distinct())
        {
            moved = id;
            var placed = sigma(id);
            for (var axis = 0; placed > 0 && axis < 2; axis++)
            {
                by = axis == 0 ? new(h, 0) : new(0, h);
                var d = value(at);
                by *= -1;
                d -= value(at);
                if (Kind == MeasureKind.Angle)
                    d = ClockAngle.Wrap(d);
                sum += Math.Pow(d / (2 * h) * placed, 2);
            }
        }
        return Math.Sqrt(sum);
    }

    /// <summary>The same where every landmark is placed as exactly.</summary>
    public double Sigma(LandmarkSet l, double sigmaMm) => Sigma(l, _ => sigmaMm);
}
