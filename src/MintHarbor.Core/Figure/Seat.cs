using System.Numerics;

namespace MintHarbor.Core.Figure;

/// <summary>Where the drawing person sits.</summary>
/// <param name="Azimuth">Degrees round the stand, 0 in front of the figure, positive to the figure's left.</param>
/// <param name="Distance">Metres from the eye to the middle of the stand, along the floor.</param>
/// <param name="EyeHeight">Metres from the floor that the figure stands on to the eye.</param>
public sealed record Seat(double Azimuth, double Distance = 3.2, double EyeHeight = 1.5)
{
    /// <exception cref="InputException">Not finite, nearer than 1 m or farther than 20 m, or an eye outside 0.2 to 3 m.</exception>
    public Seat Checked(string field = "seat")
    {
        if (!double.IsFinite(Azimuth) || Math.Abs(Azimuth) > 3600)
            throw new InputException("the seat's azimuth is not an angle", $"{field}.azimuth", "degrees, 0 in front of the figure");
        if (Distance is not (>= 1 and <= 20))
            throw new InputException($"a seat {Distance} m from the stand can't be drawn from", $"{field}.distance", "1 to 20 metres");
        if (EyeHeight is not (>= 0.2 and <= 3))
            throw new InputException($"an eye {EyeHeight} m above the floor is out of the room", $"{field}.eyeHeight", "0.2 to 3 metres");
        return this;
    }
}

/// <summary>Perspective from a seat onto an upright picture plane, as a draughtsman measures: plumb lines stay plumb. Or a parallel
/// view along any direction. Places in figure units, pictures in pixels with y down.</summary>
internal sealed class SeatCamera
{
    private readonly bool parallel;

    public Vector3 Eye { get; }
    public Vector3 Right { get; }
    public Vector3 Up { get; }
    public Vector3 Forward { get; }
    public float Focal { get; private set; }
    public float CentreX { get; private set; }
    public float CentreY { get; private set; }
    public int Width { get; }
    public int Height { get; }

    private SeatCamera(Vector3 eye, Vector3 forward, int width, int height)
    {
        (Eye, Forward, Right, Up) = (eye, forward, Vector3.Cross(forward, Vector3.UnitY), Vector3.UnitY);
        (Focal, CentreX, CentreY, Width, Height) = (height, width / 2f, height / 2f, width, height);
    }

    private SeatCamera(Vector3 right, Vector3 up, float scale, float centreX, float centreY, int width, int height)
    {
        parallel = true;
        (Right, Up, Forward) = (right, up, -Vector3.Cross(right, up));
        Eye = -Forward * 1000;
        (Focal, CentreX, CentreY, Width, Height) = (scale, centreX, centreY, width, height);
    }

    /// <summary>A parallel view in which the origin lies at a picture place.</summary>
    /// <param name="scale">Pixels a unit.</param>
    public static SeatCamera Parallel(Vector3 right, Vector3 up, float scale, float centreX, float centreY, int width, int height) =>
        new(right, up, scale, centreX, centreY, width, height);

    /// <summary>The picture that holds every given place: 88 % of the width or 92 % of the height filled.</summary>
    public static SeatCamera Fit(Seat seat, float metresPerUnit, int width, int height, IEnumerable<Vector3[]> places)
    {
        var (sin, cos) = Math.SinCos(seat.Azimuth * Math.PI / 180);
        var away = new Vector3((float)sin, 0, (float)cos);
        var camera = new SeatCamera(
            (away * (float)(seat.Distance / metresPerUnit)) with
            {
                Y = (float)(seat.EyeHeight / metresPerUnit),
            },
            -away,
            width,
            height
        );
        float x0 = float.MaxValue,
            x1 = float.MinValue,
            y0 = x0,
            y1 = x1;
        foreach (var set in places)
        {
            foreach (var place in set)
            {
                var p = camera.Project(place);
                (x0, x1, y0, y1) = (MathF.Min(x0, p.X), MathF.Max(x1, p.X), MathF.Min(y0, p.Y), MathF.Max(y1, p.Y));
            }
        }
        var grow = MathF.Min(width * 0.88f / (x1 - x0), height * 0.92f / (y1 - y0));
        (float dx, float dy) = (camera.CentreX - ((x0 + x1) / 2), camera.CentreY - ((y0 + y1) / 2));
        camera.Focal *= grow;
        camera.CentreX += dx * grow;
        camera.CentreY += dy * grow;
        return camera;
    }

    /// <summary>Picture place and depth along the line of sight's axis.</summary>
    public Vector3 Project(Vector3 p)
    {
        var d = p - Eye;
        var z = Vector3.Dot(d, Forward);
        var scale = parallel ? Focal : Focal / z;
        return new(CentreX + (scale * Vector3.Dot(d, Right)), CentreY - (scale * Vector3.Dot(d, Up)), z);
    }

    /// <summary>The place that a pixel shows at a depth.</summary>
    public Vector3 At(float x, float y, float depth) =>
        parallel ? Eye + Aside(x, y) + (Forward * depth) : Eye + ((Forward + Aside(x, y)) * depth);

    /// <summary>Where a pixel's line of sight meets the floor; null where it doesn't.</summary>
    public Vector3? OnFloor(float x, float y)
    {
        var ray = Forward + Aside(x, y);
        return !parallel && ray.Y < -1e-4f ? Eye - (ray * (Eye.Y / ray.Y)) : null;
    }

    private Vector3 Aside(float x, float y) => (Right * ((x - CentreX) / Focal)) + (Up * ((CentreY - y) / Focal));

    /// <summary>Unit direction from a place to the eye.</summary>
    public Vector3 ToEye(Vector3 p) => parallel ? -Forward : Vector3.Normalize(Eye - p);
}
