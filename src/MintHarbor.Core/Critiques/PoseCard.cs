using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <param name="From">Landmark the plumb hangs from.</param>
/// <param name="To">Landmark it is compared with.</param>
/// <param name="OffsetHeads">How far <paramref name="To"/> stands to the right (as seen) of the plumb, in heads.</param>
public sealed record PlumbReading(string From, string To, double OffsetHeads);

/// <summary>Directions read as clock hands, 0 to 12.</summary>
public sealed record DirectionReadings(double? Shoulders = null, double? Pelvis = null, double? Action = null);

/// <summary>One pencil ratio of a card, in heads.</summary>
/// <param name="Key">As the card's JSON names it.</param>
/// <param name="Value">Null where it was not read.</param>
/// <param name="Least">The least that a pencil can read on a person; <paramref name="Most"/> the most.</param>
public sealed record CardRatio(string Key, string Name, double? Value, double Least, double Most)
{
    /// <summary>Lies along the upright, so that it serves from a far seat too.</summary>
    public bool Vertical { get; init; } = true;
}

/// <param name="Name">The ratio that is furthest off.</param>
/// <param name="OffPercent">By how much, signed, in per cent of the card's reading.</param>
public sealed record ReadingsApart(string Name, double OffPercent)
{
    /// <summary>Read alike: within the card's own tolerance.</summary>
    public bool Same => Math.Abs(OffPercent) <= 100 * PoseCard.RatioTolerance + 1e-9;

    /// <summary>The whole per cent that all ratios keep within, rounded up so that it stays true; 1 at least.</summary>
    public int Within => Math.Max(1, (int)Math.Ceiling(Math.Abs(OffPercent) - 1e-9));
}

/// <summary>What the pencil read in the room, in heads and clock hours: the reference for a live model. Every reading may be
/// missing; an incomplete card judges what it holds.</summary>
public sealed record PoseCard
{
    public double? Heads { get; init; }
    public double? Shoulders { get; init; }
    public double? PitToPubic { get; init; }
    public double? PitToKneetop { get; init; }
    public double? PitToSole { get; init; }
    public DirectionReadings? DirectionsHours { get; init; }
    public IReadOnlyList<PlumbReading>? Plumbs { get; init; }

    /// <summary>Degrees between the seat the card was read from and the seat of the drawing; beyond 20 only the vertical
    /// ratios serve.</summary>
    public double? SeatAzimuth { get; init; }

    public const double MaxSeatDegrees = 20;
    public const double RatioTolerance = 0.03,
        DirectionTolerance = 4,
        PlumbTolerance = 0.06;
    public const double RatioSigma = 0.01,
        DirectionSigma = 2,
        PlumbSigma = 0.03;

    public bool FarSeat => Math.Abs(SeatAzimuth ?? 0) > MaxSeatDegrees;

    /// <summary>The five pencil ratios, in the order in which they are read.</summary>
    public IReadOnlyList<CardRatio> Ratios =>
        [
            new(PoseCardKeys.Heads, "heads in the height", Heads, 2, 12),
            new(PoseCardKeys.Shoulders, "shoulders", Shoulders, 0.3, 4) { Vertical = false },
            new(Parts.PitToPubic, "pit to pubic bone", PitToPubic, 0.5, 5),
            new(Parts.PitToKneetop, "pit to kneecap", PitToKneetop, 0.5, 7),
            new(Parts.PitToSole, "pit to sole", PitToSole, 0.5, 10),
        ];

    /// <summary>How a reader's own ratios stand to this card: the one that is furthest off; null where no ratio is read on
    /// both. It tells misread from misdrawn.</summary>
    public ReadingsApart? Against(PoseCard own)
    {
        var apart = Ratios
            .Zip(own.Ratios)
            .Where(p => p.First.Value is not null && p.Second.Value is not null)
            .Select(p => new ReadingsApart(p.First.Name, 100 * ((p.Second.Value!.Value / p.First.Value!.Value) - 1)))
            .ToList();
        return apart.MaxBy(a => Math.Abs(a.OffPercent));
    }

    public int RatiosRead => Ratios.Count(r => r.Value is not null);

    /// <exception cref="InputException">A reading outside what a pencil can read on a person.</exception>
    public PoseCard Checked(string field = "poseCard")
    {
        foreach (var r in Ratios)
            if (r.Value is { } v && !(v >= r.Least && v <= r.Most))
                throw new InputException($"{r.Name} of {v} heads", $"{field}.{r.Key}", $"{r.Least} to {r.Most} heads");
        foreach (
            var (key, value) in new[]
            {
                ("shoulders", DirectionsHours?.Shoulders),
                ("pelvis", DirectionsHours?.Pelvis),
                ("action", DirectionsHours?.Action),
            }
        )
            if (value is { } v && !(v >= 0 && v <= 12))
                throw new InputException($"{key} at {v} o'clock", $"{field}.directionsHours.{key}", "0 to 12 hours");
        foreach (var p in Plumbs ?? [])
        {
            if (!Landmarks.LandmarkIds.Exists(p.From) || !Landmarks.LandmarkIds.Exists(p.To))
                throw new InputException("a plumb between unknown landmarks", $"{field}.plumbs", "landmark ids");
            if (!(Math.Abs(p.OffsetHeads) <= 8))
                throw new InputException($"a plumb {p.OffsetHeads} heads off", $"{field}.plumbs", "−8 to 8 heads");
        }
        return this;
    }
}
