using System.Text.Json;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Hands;

/// <summary>What drew.</summary>
public enum PenTool
{
    Finger,
    Pen,
    Mouse,

    /// <summary>Places set one by one.</summary>
    Keys,
}

/// <summary>One place of a stroke.</summary>
/// <param name="X">In the field's units, to the right; <paramref name="Y"/> down.</param>
/// <param name="Ms">Since the first touch.</param>
/// <param name="Pressure">0 to 1; a device that can't tell says the same for every place.</param>
public readonly record struct PenPlace(double X, double Y, double Ms, double Pressure)
{
    public Vec2 At => new(X, Y);
}

/// <summary>What a hand drew in a field, stroke by stroke.</summary>
/// <param name="Mm">Millimetres a unit of the field. A browser's millimetre is the reference one, 96 pixels an inch: small screens are truly denser.</param>
/// <param name="Glances">How often a hidden trace was looked at.</param>
/// <param name="Tilt">Mean tilt of the pen, degrees from upright; null where the device doesn't tell.</param>
public sealed record PenTrace(PenTool Tool, double Mm, IReadOnlyList<IReadOnlyList<PenPlace>> Strokes, int Glances = 0, double? Tilt = null)
{
    /// <summary>Places that are read; of more, what was drawn can't be told from a fault of the device.</summary>
    public const int MostPlaces = 20_000;

    /// <summary>Places that are kept.</summary>
    public const int KeptPlaces = 4_000;
    private const int MostStrokes = 400;

    /// <summary>Millimetres within which 95 of 100 places lie of where the hand meant them: a finger's is the usual one, the others our own estimate.</summary>
    public double Doubt =>
        Tool switch
        {
            PenTool.Finger => 2,
            PenTool.Mouse => 0.8,
            _ => 0.5,
        };

    /// <summary>The same in the field's units.</summary>
    public double DoubtUnits => Doubt / Mm;

    public IReadOnlyList<IReadOnlyList<Vec2>> Lines => [.. Strokes.Select(s => (IReadOnlyList<Vec2>)[.. s.Select(p => p.At)])];

    public int Lifts => Strokes.Count - 1;

    /// <summary>Seconds with the point down.</summary>
    public double Seconds => Strokes.Sum(s => s[^1].Ms - s[0].Ms) / 1000;

    /// <summary>Whether the device told pressures apart.</summary>
    public bool TellsPressure =>
        Tool is PenTool.Pen or PenTool.Keys
        && Strokes.SelectMany(s => s).Select(p => p.Pressure).ToList() is var all
        && all.Max() - all.Min() > 0.03;

    private sealed record Wire(string? Tool, double? Mm, int? Glances, double? Tilt, IReadOnlyList<IReadOnlyList<double>>? Strokes);

    /// <summary>Reads a trace as the page sends it: {"tool":"pen","mm":0.3,"strokes":[[x,y,ms,pressure,…],…]}.</summary>
    /// <exception cref="InputException">No trace, nothing drawn, too much, or what is no number of a field.</exception>
    public static PenTrace Read(string? json)
    {
        Wire? wire;
        try
        {
            wire = string.IsNullOrWhiteSpace(json) ? null : JsonSerializer.Deserialize<Wire>(json, JsonSerializerOptions.Web);
        }
        catch (JsonException)
        {
            throw new InputException("what was sent is no drawing", "trace", "strokes of the field");
        }
        if (wire?.Strokes is not { Count: > 0 } strokes || strokes.All(s => s is not { Count: > 0 }))
            throw new InputException("nothing is drawn", "trace", "at least one stroke in the field");
        if (!Enum.TryParse<PenTool>(wire.Tool, ignoreCase: true, out var tool) || !Enum.IsDefined(tool))
            throw new InputException($"drawn by '{wire.Tool}'", "trace", "finger | pen | mouse | keys");
        if (!(wire.Mm is >= 0.02 and <= 5))
            throw new InputException($"a field of {wire.Mm} mm a unit", "trace", "0.02 to 5 mm");
        var places = strokes.Sum(s => s?.Count ?? 0) / 4;
        if (places > MostPlaces || strokes.Count > MostStrokes)
            throw new InputException(
                $"{Say.Plural(strokes.Count, "stroke")} of {places} places",
                "trace",
                $"{MostStrokes} strokes of {MostPlaces} places in all"
            );
        var trace = new PenTrace(
            tool,
            wire.Mm.Value,
            [.. strokes.Where(s => s is { Count: > 0 }).Select(Stroke)],
            Math.Clamp(wire.Glances ?? 0, 0, 999),
            wire.Tilt is >= 0 and <= 90 ? wire.Tilt : null
        );
        return trace.Thinned();
    }

    private static IReadOnlyList<PenPlace> Stroke(IReadOnlyList<double> flat)
    {
        if (flat.Count % 4 != 0 || flat.Any(v => !double.IsFinite(v) || Math.Abs(v) > 1e8))
            throw new InputException("a stroke with a place that is none", "trace", "x, y, milliseconds and pressure in turn");
        var places = new List<PenPlace>(flat.Count / 4);
        // A clock that was set back while drawing must not give a stroke a negative length of time.
        var latest = 0.0;
        for (var i = 0; i < flat.Count; i += 4)
        {
            latest = Math.Max(latest, flat[i + 2]);
            places.Add(new(Math.Clamp(flat[i], -2000, 4000), Math.Clamp(flat[i + 1], -2000, 4000), latest, Math.Clamp(flat[i + 3], 0, 1)));
        }
        return places;
    }

    /// <summary>Every so-manieth place of long strokes, their ends kept.</summary>
    private PenTrace Thinned()
    {
        var all = Strokes.Sum(s => s.Count);
        if (all <= KeptPlaces)
            return this;
        var step = (int)Math.Ceiling((double)all / KeptPlaces);
        return this with
        {
            Strokes = [.. Strokes.Select(s => (IReadOnlyList<PenPlace>)[.. s.Where((_, i) => i % step == 0 || i == s.Count - 1)])],
        };
    }

    /// <summary>As <see cref="Read"/> takes it, rounded to what a screen can tell.</summary>
    public string Write() =>
        JsonSerializer.Serialize(
            new Wire(
                Tool.ToString().ToLowerInvariant(),
                Math.Round(Mm, 4),
                Glances,
                Tilt,
                [
                    .. Strokes.Select(s =>
                        (IReadOnlyList<double>)
                            [
                                .. s.SelectMany(p =>
                                    (double[])[Math.Round(p.X, 1), Math.Round(p.Y, 1), Math.Round(p.Ms), Math.Round(p.Pressure, 3)]
                                ),
                            ]
                    ),
                ]
            ),
            JsonSerializerOptions.Web
        );
}
