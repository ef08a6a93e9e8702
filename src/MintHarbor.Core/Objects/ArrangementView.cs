using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Objects;

/// <summary>An arrangement from one seat: the camera, what every pixel shows, and the lamp. Lines, values and what is known of the view ask this.</summary>
internal sealed class ArrangementView
{
    /// <summary>Metres from the middle to where the floor meets the wall, square to the seat.</summary>
    public const double Wall = 1.5;

    private const double Air = 1.07,
        ShadowKept = 0.6;

    public ArrangementModel Model { get; }
    public SeatCamera Camera { get; }
    public DepthPicture Depth { get; }
    public Mesh Support { get; }

    /// <summary>Direction to the lamp.</summary>
    public Vector3 Lamp { get; }

    /// <summary>Pixels a side that make one of the picture.</summary>
    public int Finer { get; }

    public ArrangementView(ArrangementModel model, Seat seat, Lamp? lamp, int width, int height, int finer)
    {
        (Model, Finer) = (model, finer);
        Lamp = (lamp ?? Figure.Lamp.BesideEye(seat)).Checked().Direction;
        var metres = (float)(1 / model.Scale);
        Camera = SeatCamera.Fit(
            seat with
            {
                EyeHeight = seat.EyeHeight - model.Arrangement.GroundHeight,
            },
            metres,
            width * finer,
            height * finer,
            Framed()
        );
        Support = model.Arrangement.Ground == Ground.Floor ? BeforeEye(model.Support) : model.Support;
        Depth = new(Camera, model.Things, Support);
    }

    /// <summary>What the picture has room for: the things with a little air round them, and most of the shadow that they throw.</summary>
    private IEnumerable<Vector3[]> Framed()
    {
        var places = Model.Things.Places;
        var middle = (Model.Low + Model.High) / 2;
        IEnumerable<Vector3> Some(int step) => places.Where((_, i) => i % step == 0);
        yield return places;
        yield return [.. Some(3).Select(p => middle + ((p - middle) * (float)Air))];
        yield return [.. Some(7).Select(p => p - (Lamp * (p.Y / Lamp.Y) * (float)ShadowKept))];
    }

    /// <summary>The floor without what lies behind the eye.</summary>
    private Mesh BeforeEye(Mesh floor)
    {
        const float near = 40;
        var before = floor.Places.Select(p => Vector3.Dot(p - Camera.Eye, Camera.Forward) > near).ToArray();
        return floor with
        {
            Triangles = [.. floor.Triangles.Chunk(3).Where(t => before[t[0]] && before[t[1]] && before[t[2]]).SelectMany(t => t)],
        };
    }

    /// <summary>Whether the place that a pixel shows is wall: on the floor's far side of where they meet.</summary>
    public bool IsWall(Vector3 place) =>
        Model.Arrangement.Ground == Ground.Floor && Vector3.Dot(place, Camera.Forward) > Wall * Model.Scale;

    /// <summary>Which thing a pixel shows; −1 where none.</summary>
    public int ThingAt(int pixel) => LookAt(pixel) is { } look ? look.Thing : -1;

    public PartLook? LookAt(int pixel) => PartAt(pixel) is >= 0 and var part ? Model.Looks[part] : null;

    /// <summary>Which part a pixel shows; −1 where none.</summary>
    public int PartAt(int pixel) => Depth.IsFigure(pixel) ? Model.Things.Form[Model.Things.Triangles[Depth.Triangle[pixel] * 3]] : -1;
}

/// <summary>Draws arrangements of things.</summary>
public static class StillLife
{
    /// <summary>Pixels a side of a whole picture.</summary>
    public const int Size = 480;

    /// <summary>Draws an arrangement from a seat; every kind of one seat lies over the others to the pixel.</summary>
    /// <param name="seat">Its eye over the floor; from the middle of the arrangement.</param>
    /// <param name="values">For tone: 0 soft, else 3, 5 or 9 steps.</param>
    /// <exception cref="InputException">A seat, size, kind or count of values that can't be drawn.</exception>
    public static FigureView View(
        ArrangementModel model,
        Seat seat,
        FigureViewKind kind,
        int width = Size,
        int height = Size,
        int values = 0,
        Lamp? lamp = null,
        int finer = 2
    )
    {
        Checked(model.Arrangement, seat);
        FigureView.CheckSize(width, height, values);
        if (kind is not (FigureViewKind.Line or FigureViewKind.Mass or FigureViewKind.Tone))
            throw new InputException("things have no construction and no anatomy", "kind", "line, mass, tone, tone3, tone5 or tone9");
        var view = new ArrangementView(model, seat, lamp, width, height, finer);
        return new()
        {
            Width = width,
            Height = height,
            Kind = kind,
            Strokes = kind == FigureViewKind.Line ? Curves.Smaller(new ThingLines(view).Draw(), finer) : [],
            Mass = kind == FigureViewKind.Mass ? Smaller(MassView.Loops(view.Depth), finer) : [],
            Tone = kind == FigureViewKind.Tone ? new ThingTones(view).Draw(values) : null,
            Landmarks = new Dictionary<string, SeenLandmark>(),
            Limbs = [],
            Action = [],
        };
    }

    /// <summary>What is known of a view, in its pixels.</summary>
    /// <exception cref="InputException">As <see cref="View"/>.</exception>
    public static ThingTruth Truth(ArrangementModel model, Seat seat, int width = Size, int height = Size, Lamp? lamp = null)
    {
        Checked(model.Arrangement, seat);
        FigureView.CheckSize(width, height, 0);
        return new ViewTruth(new(model, seat, lamp, width, height, 2)).All();
    }

    /// <exception cref="InputException">A seat that nobody draws this from.</exception>
    public static Seat Checked(Arrangement arrangement, Seat seat)
    {
        seat.Checked();
        return seat.EyeHeight > arrangement.GroundHeight + 0.05
            ? seat
            : throw new InputException(
                $"an eye {Say.Number(seat.EyeHeight, 2)} m above the floor sees no top of a table",
                "seat.eyeHeight",
                $"more than {Say.Number(arrangement.GroundHeight + 0.05, 2)} m"
            );
    }

    private static List<IReadOnlyList<Vector2>> Smaller(IEnumerable<List<Vector2>> loops, int finer) =>
        [.. loops.Select(l => Curves.Simplify(l, 0.3f * finer).Select(p => p / finer).ToList())];
}
