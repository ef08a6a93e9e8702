using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Objects;

namespace MintHarbor.Core.Simulation;

/// <summary>The files that are drawn from the studio figure and head and committed, so that a start need not draw them: views that drills are made
/// of, and the silhouettes. Made again whenever figure, head or poses change (./harbor data); a test holds them against both.</summary>
public static class ShippedData
{
    /// <summary>Far off and at the middle of the body, as a drawing is looked at on paper.</summary>
    private const double Distance = 8,
        EyeHeight = 1.1;

    private static readonly JsonSerializerOptions Plain = new(JsonSerializerDefaults.Web)
    {
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <param name="Id">As drills and sheets name it.</param>
    /// <param name="Stroked">Kept stroke by stroke, to be drawn again as a hand would.</param>
    public sealed record FigureViewPlan(string Id, string Pose, string Body, bool Clothed, double Azimuth, bool Stroked)
    {
        public Seat Seat => new(Azimuth, Distance, EyeHeight);

        // What is drawn again stroke by stroke is drawn larger than what is only looked at.
        public int Width => Stroked ? 480 : 240;
        public int Height => Stroked ? 720 : 360;
    }

    public sealed record HeadViewPlan(string Sitter, double Turn, double Tilt)
    {
        public string Id => $"head-{Sitter}-{Turn.ToString(CultureInfo.InvariantCulture)}";
        public HeadPose Pose => new(Turn, Tilt);
    }

    public static IReadOnlyList<FigureViewPlan> FigureViews { get; } =
    [
        .. from pose in new[]
        {
            "armraised",
            "bowed",
            "contrapposto",
            "crouch",
            "deeplunge",
            "elbowknee",
            "handonhip",
            "kneeover",
            "longsit",
            "lunge",
            "oneknee",
            "recline",
            "seatarm",
            "seated",
            "sidelie",
            "spiral",
            "stand",
            "stretch",
            "twist",
        }
        from side in new[] { ("male", 25.0, "25"), ("female", -35.0, "m35") }
        from clothed in new[] { false, true }
        select new FigureViewPlan(
            $"{pose}-{side.Item1}{(clothed ? "-clothed" : "")}-{side.Item3}",
            pose,
            side.Item1,
            clothed,
            side.Item2,
            false
        ),
        .. from view in new[]
        {
            ("contrapposto", "female", false),
            ("contrapposto", "male", false),
            ("stand", "female", false),
            ("stand", "female", true),
            ("stand", "male", false),
        }
        select new FigureViewPlan(
            $"{view.Item1}-{view.Item2}{(view.Item3 ? "-clothed" : "")}-0",
            view.Item1,
            view.Item2,
            view.Item3,
            0,
            true
        ),
    ];

    public static IReadOnlyList<HeadViewPlan> HeadViews { get; } =
    [
        .. from sitter in new[] { "classical", "long-nose", "wide-jaw", "close-eyes", "broad-nose", "high-forehead" }
        from view in new[] { (10.0, 0.0), (17.0, 8.0), (24.0, -6.0), (31.0, 0.0), (38.0, 10.0), (45.0, -4.0), (52.0, 4.0) }
        select new HeadViewPlan(sitter, view.Item1, view.Item2),
    ];

    /// <summary>A still life from a seat: whether it is drawn sitting at the table or from an easel.</summary>
    public sealed record ThingViewPlan(string Arrangement, double Azimuth, double Distance, double EyeHeight)
    {
        public string Id =>
            string.Create(CultureInfo.InvariantCulture, $"things-{Arrangement}-{(Azimuth < 0 ? "m" : "")}{Math.Abs(Azimuth)}");
        public Seat Seat => new(Azimuth, Distance, EyeHeight);
    }

    public static IReadOnlyList<ThingViewPlan> ThingViews { get; } =
    [
        new("first", 10, 1.2, 1.2),
        new("first", -40, 1.4, 1.15),
        new("first", 60, 1.2, 1.3),
        new("kitchen", 18, 1.2, 1.2),
        new("kitchen", -34, 3.2, 1.5),
        new("kitchen", 70, 1.4, 1.25),
        new("shelf", -20, 1.4, 1.3),
        new("shelf", 35, 1.3, 1.2),
        new("shelf", 80, 1.6, 1.35),
        new("evening", 8, 1.2, 1.2),
        new("evening", 48, 3.2, 1.2),
        new("studio", -12, 3.2, 1.2),
        new("studio", 40, 3.2, 1.5),
        new("studio", 75, 2.8, 1.2),
        new("ladder", -15, 3.2, 1.2),
        new("ladder", 40, 3.2, 1.5),
        new("boat", -36, 3.2, 1.5),
        // Near enough for edges to close visibly with distance.
        new("first", 30, 1.0, 1.35),
        new("kitchen", 46, 1.0, 1.4),
        new("shelf", 6, 1.0, 1.45),
        new("shelf", -62, 1.0, 1.15),
        new("evening", -42, 1.0, 1.35),
        new("studio", 18, 1.4, 1.6),
        new("studio", -60, 1.3, 1.2),
        new("ladder", 14, 1.3, 1.5),
        new("ladder", -52, 1.2, 1.2),
        new("ladder", 72, 1.4, 1.6),
        new("ladder", 104, 1.1, 1.5),
        new("ladder", 132, 1.1, 1.75),
        new("studio", 100, 1.1, 1.7),
        new("studio", 152, 1.2, 1.5),
        new("boat", 30, 1.2, 1.2),
        new("boat", 76, 1.1, 1.6),
    ];

    /// <summary>Every file with its bytes, made when it is asked for; paths in the checkout.</summary>
    public static IEnumerable<(string Path, byte[] Bytes)> Files(StudioFigure studio, StudioHead heads) =>
        Texts(studio, heads)
            .Select(f => (f.Path, Encoding.UTF8.GetBytes(f.Text)))
            .Append(("src/MintHarbor.Core/Data/figure/seen.bin", Fitting.PoseFinder.Draw(studio)));

    private static IEnumerable<(string Path, string Text)> Texts(StudioFigure studio, StudioHead heads)
    {
        const string data = "src/MintHarbor.Core/Data";
        foreach (var v in FigureViews)
            yield return ($"{data}/views/{v.Id}.json", Of(v, studio));
        foreach (var v in HeadViews)
            yield return ($"{data}/views/{v.Id}.json", Of(v, StudioHead.View(heads.Model(v.Sitter), v.Pose, FigureViewKind.Line)));
        yield return (
            $"{data}/objects/cloth.json",
            $"[\n{string.Join(",\n", ClothFall.Rest().Select(r => $"[{string.Join(',', r)}]"))}\n]\n"
        );
        var models = ThingShelf.Arrangements.ToDictionary(a => a.Id, a => new Lazy<ArrangementModel>(() => new(a)));
        foreach (var v in ThingViews)
            yield return ($"{data}/views/{v.Id}.json", Of(v, models[v.Arrangement].Value));
        yield return ($"{data}/anatomy/seen.json", AnatomySeen.Draw(studio, heads));
        var lines = Silhouettes(studio).Select(s => JsonSerializer.Serialize(s, Plain));
        yield return ($"{data}/silhouettes.json", $"[\n{string.Join(",\n", lines)}\n]\n");
        foreach (var (name, text) in Schemas())
            yield return ($"docs/formats/{name}.schema.json", text);
    }

    /// <summary>The schemas of the figure's, its anatomy's and the head's tables and of a project, as their types are read.</summary>
    public static IEnumerable<(string Name, string Text)> Schemas() =>
        new[]
        {
            ("figure-body", FigureFile.Schema<FigureTables>("Tables of the studio figure")),
            ("figure-bodies", FigureFile.Schema<BodyRow[]>("Bodies of the studio figure")),
            ("figure-poses", FigureFile.Schema<Pose[]>("Poses of the studio figure")),
            ("anatomy-bones", FigureFile.Schema<BoneTables>("Bones of the studio figure")),
            ("anatomy-muscles", FigureFile.Schema<MuscleTables>("Muscles of the studio figure")),
            ("head", FigureFile.Schema<HeadTables>("Table of the studio head")),
            ("project", FigureFile.Schema<Projects.ProjectTemplate>("A graded project", CoreData.Json)),
        }.Select(s => (s.Item1, s.Item2.ToJsonString(new() { WriteIndented = true }).ReplaceLineEndings("\n") + "\n"));

    public static FigureView Draw(FigureViewPlan v, StudioFigure studio, FigureViewKind kind, float step = StudioFigure.Fine) =>
        StudioFigure.View(
            studio.Model(v.Body, FigureCatalogue.Pose(v.Pose), Drapery.For(v.Clothed, v.Clothed), step),
            v.Seat,
            kind,
            v.Width,
            v.Height
        );

    public static IEnumerable<Silhouette> Silhouettes(StudioFigure studio) =>
        from pose in FigureCatalogue.Poses
        from look in new[] { (false, false), (false, true), (true, false), (true, true) }
        select Silhouette.Of(
            studio.Model(Silhouette.Seen(look.Item2).Body, pose, Drapery.For(look.Item1, look.Item1), StudioFigure.Coarse),
            look.Item2
        );

    private static string Of(FigureViewPlan v, StudioFigure studio)
    {
        var line = Draw(v, studio, FigureViewKind.Line);
        var head = Head(v.Id, v.Pose, v.Body, v.Clothed, v.Azimuth, line);
        var strokes = v.Stroked ? $"  \"strokes\": [\n{string.Join(",\n", line.Strokes.Select(Of))}\n  ],\n" : "";
        return $"{head}{strokes}{Paths(Outline(Draw(v, studio, FigureViewKind.Mass)), v.Stroked ? "" : line.LinePath())}";
    }

    private static string Of(HeadViewPlan v, FigureView line) =>
        Head(v.Id, StudioView.HeadAlone, v.Sitter, false, v.Turn, line) + Paths("", line.LinePath());

    private static string Of(ThingViewPlan v, ArrangementModel model)
    {
        var line = StillLife.View(model, v.Seat, FigureViewKind.Line);
        var from = JsonSerializer.Serialize(new ThingSeat(v.Azimuth, v.Distance, v.EyeHeight), Plain);
        var known = JsonSerializer.Serialize(StillLife.Truth(model, v.Seat).Askable(), Plain);
        return Head(v.Id, StudioView.ThingsAlone, v.Arrangement, false, v.Azimuth, line)
            + $"  \"from\": {from},\n  \"known\": {known},\n"
            + Paths(Outline(StillLife.View(model, v.Seat, FigureViewKind.Mass)), line.LinePath());
    }

    private static string Of(LineStroke s) =>
        $"    {{\"kind\": {(int)s.Kind}, \"closed\": {(s.Closed ? "true" : "false")}, \"at\": [{string.Join(", ", s.Places.Zip(s.Widths).Select(p => string.Create(CultureInfo.InvariantCulture, $"{p.First.X:0.#}, {p.First.Y:0.#}, {p.Second:0.#}")))}]}}";

    private static string Head(string id, string pose, string body, bool clothed, double turn, FigureView line)
    {
        var places = line.Landmarks.Select(l =>
            string.Create(
                CultureInfo.InvariantCulture,
                $"    \"{l.Key}\": [{l.Value.At.X:0.00}, {l.Value.At.Y:0.00}, {(l.Value.Visible ? 1 : 0)}]"
            )
        );
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{{\n  \"id\": \"{id}\", \"pose\": \"{pose}\", \"body\": \"{body}\", \"clothed\": {(clothed ? "true" : "false")}, \"azimuth\": {turn}, \"width\": {line.Width}, \"height\": {line.Height},\n  \"landmarks\": {{\n{string.Join(",\n", places)}\n  }},\n"
        );
    }

    /// <summary>The mass as closed outlines of absolute places, which are read back.</summary>
    private static string Outline(FigureView mass) =>
        string.Concat(
            mass.Mass.Select(loop =>
                string.Concat(
                    loop.Select((p, n) => string.Create(CultureInfo.InvariantCulture, $"{(n == 0 ? 'M' : 'L')}{p.X:0.#} {p.Y:0.#}"))
                ) + "Z"
            )
        );

    private static string Paths(string mass, string line) =>
        $"  \"mass\": {JsonSerializer.Serialize(mass)},\n  \"line\": {JsonSerializer.Serialize(line)}\n}}\n";
}
