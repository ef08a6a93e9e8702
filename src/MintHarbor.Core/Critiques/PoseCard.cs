namespace MintHarbor.Core.Critiques;

/// <param name="From">Landmark the plumb hangs from.</param>
/// <param name="To">Landmark it is compared with.</param>
/// <param name="OffsetHeads">How far <paramref name="To"/> stands to the right (as seen) of the plumb, in heads.</param>
public sealed record PlumbReading(string From, string To, double OffsetHeads);

/// <summary>Directions read as clock hands, 0 to 12.</summary>
public sealed record DirectionReadings(double? Shoulders = null, double? Pelvis = null, double? Action = null);

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

    /// <summary>The five pencil ratios with their names, in the order in which they are read.</summary>
    public IReadOnlyList<(string Key, string Name, double? Value)> Ratios =>
        [
            ("heads", "heads in the height", Heads),
            ("shoulders", "shoulders", Shoulders),
            ("pitToPubic", "pit to pubic bone", PitToPubic),
            ("pitToKneetop", "pit to kneecap", PitToKneetop),
            ("pitToSole", "pit to sole", PitToSole),
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
        foreach (var (key, name, value) in Ratios)
        {
            var (low, high) = key switch
            {
                "heads" => (2.0, 12.0),
                "shoulders" => (0.3, 4.0),
                "pitToPubic" => (0.5, 5.0),
                "pitToKneetop" => (0.5, 7.0),
                _ => (0.5, 10.0),
            };
            if (value is { } v && !(v >= low && v <= high))
                throw new InputException($"{name} of {v} heads", $"{field}.{key}", $"{low} to {high} heads");
        }
        foreach (
            var (key, value) in new[]
            {
                ("shoulders", DirectionsHours?.Shoulders),
                ("pelvis", DirectionsHours?.Pelvis),
                ("action", DirectionsHours?.Action),
            }
        )
            if (value is { } v && !(v >= 0 && v <= 13))
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
