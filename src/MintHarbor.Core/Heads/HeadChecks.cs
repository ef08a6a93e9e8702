using System.Numerics;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Heads;

/// <summary>A line drawn on the left half of a face and mirrored.</summary>
/// <param name="At">x and y as seen from the front, heads from the middle.</param>
public sealed record FaceLine(float Weight, float[][] At);

/// <summary>A check of the head, and what makes its wrong drawing.</summary>
/// <param name="Anchor">The landmark where it is looked for.</param>
/// <param name="Centre">Middle of its two small drawings on the left side, heads.</param>
/// <param name="Half">Half their height, heads.</param>
/// <param name="Key">Places that tell: landmarks, or "x y" on the face as seen from the front.</param>
/// <param name="WrongKey">The same in the wrong drawing, where they are others.</param>
/// <param name="Levels">Levels shifted from the canon's, heads, up positive.</param>
/// <param name="Without">Drawn curves that are left out.</param>
/// <param name="Line">In line alone, where the modelled form would belie it.</param>
/// <param name="Tone">In tone alone.</param>
/// <param name="From">Degrees that the head may be turned, for its left side to be judged; mirrored for the right.</param>
public sealed record HeadCheck(
    string Id,
    string Name,
    string Right,
    string Wrong,
    string Fault,
    string Anchor,
    Vector3 Centre,
    float Half,
    string[] Key,
    string[]? WrongKey = null,
    bool Middle = false,
    Dictionary<string, float>? Levels = null,
    float[][]? Widths = null,
    MoveRow[]? Moves = null,
    string Sculpt = "plain",
    string[]? Without = null,
    FaceLine[]? Lines = null,
    bool Line = false,
    bool Tone = false,
    bool NoShadows = false,
    double From = -180,
    double To = 180,
    string? Measure = null
) : IAnatomyCheck
{
    /// <summary>Whether its wrong drawing differs in anything.</summary>
    internal bool Changes =>
        Levels is not null || Widths is not null || Moves is not null || Lines is not null || Sculpt != "plain" || NoShadows;

    /// <summary>Whether its mistake can be made smaller: levels, breadths and moves can, lines and shapes can't.</summary>
    public bool Scales => Lines is null && Sculpt == "plain" && !NoShadows;

    /// <summary>The same with its mistake made by less.</summary>
    internal HeadCheck By(float share) =>
        this with
        {
            Levels = Levels?.ToDictionary(l => l.Key, l => l.Value * share),
            Widths = Widths?.Select(w => new[] { w[0], 1 + ((w[1] - 1) * share) }).ToArray(),
            Moves = Moves?.Select(m => m with { By = m.By * share, Grow = 1 + ((m.Grow - 1) * share) }).ToArray(),
        };

    internal bool Shows(HeadPose pose, int side) => pose.Turn * side >= From && pose.Turn * side <= To;
}

/// <summary>A check of the head in a view, in its pixels.</summary>
public readonly record struct SeenHeadCheck(HeadCheck Check, int Side, Vector2 At, bool Visible);

/// <summary>The checks of the head, and their pairs of small drawings made from the studio head as it is turned.</summary>
public static class HeadChecks
{
    private sealed record CheckFile(string About, HeadCheck[] Checks);

    private static readonly Lazy<HeadCheck[]> Rows = new(() => Read("heads/checks.json", FigureFile.Resource("heads/checks")));

    public static IReadOnlyList<HeadCheck> All => Rows.Value;

    /// <exception cref="InputException">No such check.</exception>
    public static HeadCheck Find(string id) =>
        All.FirstOrDefault(c => c.Id == id)
        ?? throw new InputException($"there is no check '{id}'", "check", string.Join(", ", All.Select(c => c.Id)));

    /// <summary>Reads and checks a file of checks.</summary>
    /// <exception cref="FigureFileException">Anything wrong, with the file and the line or key.</exception>
    internal static HeadCheck[] Read(string file, string json)
    {
        var checks = FigureFile.Parse<CheckFile>(file, json).Checks;
        var t = HeadCatalogue.Tables;
        var marks = t.Landmarks.SelectMany(l => Sides.Of(l.Id).Select(s => Sides.Id(l.Id, s))).ToHashSet();
        foreach (var c in checks)
        {
            FigureFileException At(string key, string problem) => new(file, $"checks.{c.Id}.{key}", problem);
            if (Faults.Find(c.Fault) is null)
                throw At("fault", $"there is no fault '{c.Fault}'");
            if (!marks.Contains(c.Anchor))
                throw At("anchor", $"there is no landmark '{c.Anchor}'");
            foreach (var k in c.Key.Concat(c.WrongKey ?? []).Where(k => !marks.Contains(k) && OnFace(k) is null))
                throw At("key", $"'{k}' is neither a landmark nor a place such as '0.12 -0.3'");
            if (!c.Changes)
                throw At("levels", "what makes the wrong drawing is missing");
            foreach (var n in c.Levels?.Keys.Where(n => !HeadTables.LevelNames.Contains(n)) ?? [])
                throw At($"levels.{n}", $"no such level; one of {string.Join(", ", HeadTables.LevelNames)}");
            if (t.Sculpts.All(s => s.Id != c.Sculpt))
                throw At("sculpt", $"there is no sculpt '{c.Sculpt}'; the sculpts are {string.Join(", ", t.Sculpts.Select(s => s.Id))}");
            if (c.Lines?.Any(l => l.At.Length < 2 || l.At.Any(p => p.Length != 2)) == true)
                throw At("lines", "two or more rows of [x, y]");
            if (c.Widths?.Any(w => w.Length != 2) == true)
                throw At("widths", "every row is [height, factor]");
        }
        return checks;
    }

    private static (float X, float Y)? OnFace(string key)
    {
        var parts = key.Split(' ');
        var plain = System.Globalization.CultureInfo.InvariantCulture;
        return
            parts.Length == 2
            && float.TryParse(parts[0], System.Globalization.NumberStyles.Float, plain, out var x)
            && float.TryParse(parts[1], System.Globalization.NumberStyles.Float, plain, out var y)
            ? (x, y)
            : null;
    }

    /// <summary>Where every check lies in a view of the head, in its pixels; of the two sides the one that is seen.</summary>
    /// <exception cref="InputException">A pose or size that can't be drawn.</exception>
    public static IReadOnlyList<SeenHeadCheck> In(HeadModel model, HeadPose pose, int width = 480, int height = 600)
    {
        var marks = StudioHead.View(model, pose, FigureViewKind.Mass, width, height).Landmarks;
        SeenHeadCheck Seen(HeadCheck c, int side)
        {
            var mark = marks[Sides.Id(c.Anchor, side)];
            return new(c, side, new((float)mark.At.X, (float)mark.At.Y), mark.Visible && c.Shows(pose, side));
        }
        return [.. All.Select(c => Sides.Both.Select(s => Seen(c, s)).OrderByDescending(s => s.Visible).First())];
    }

    /// <summary>A small drawing has lines as strong as a picture of this height: else they would fade.</summary>
    private const float LinesOf = 420;

    private const string Ink = "#2C2F33";

    /// <summary>One of a check's two drawings: its part of the head as it is turned.</summary>
    /// <param name="levels">Those that the right one is drawn on.</param>
    /// <param name="side">1 its left, −1 its right.</param>
    /// <param name="size">Pixels a side.</param>
    /// <param name="by">How much of the mistake is made, where it can be made smaller.</param>
    /// <exception cref="InputException">A pose or size that can't be drawn.</exception>
    public static CheckDrawing Draw(
        StudioHead studio,
        HeadLevels levels,
        HeadCheck check,
        int side,
        HeadPose pose,
        bool wrong,
        int size = 160,
        double by = 1
    )
    {
        pose.Checked();
        FigureView.CheckSize(size, size, 0);
        var model = wrong
            ? Wrong(studio, levels.Checked().Row, by < 1 && check.Scales ? check.By((float)by) : check, by)
            : studio.Model(levels);
        // Where the change is in the lines, the modelled form under them is the true one, and both drawings leave it out.
        var close = new HeadCloseUp(Sides.Place(check.Centre, side) * HeadModel.PerHead, check.Half * HeadModel.PerHead, size);
        var (strokes, tone) = StudioHead.CloseUp(model, pose, close, !check.Tone, !check.Line, wrong && check.NoShadows);
        Vector2 Place(string key)
        {
            var at = OnFace(key) is var (x, y)
                ? Sides.Place(model.FromFront(MathF.Abs(x), y), (x < 0 ? -1 : 1) * side)
                : model.Landmark(Sides.Id(key, side * (key.EndsWith(".R", StringComparison.Ordinal) ? -1 : 1))).Place;
            return close.Project(pose, at);
        }
        var layer = new ViewLayer(Ink, strokes).Heavier(LinesOf / size);
        var key = wrong ? check.WrongKey ?? check.Key : check.Key;
        return new(size, [layer], tone, [.. key.Select(Place)], false, wrong);
    }

    private static HeadModel Wrong(StudioHead studio, HeadCanonRow canon, HeadCheck check, double by)
    {
        var levels = canon.Levels.ToDictionary(l => l.Key, l => l.Value + (check.Levels?.GetValueOrDefault(l.Key) ?? 0));
        var model = studio.Model(
            new SitterRow($"check {check.Id} {Say.Number(by, 3)}", check.Wrong, check.Sculpt, null, check.Widths, check.Moves),
            new($"{canon.Id} {check.Id} {Say.Number(by, 3)}", levels)
        );
        if (check.Lines is null && check.Without is null)
            return model;
        var drawn = (check.Lines ?? []).SelectMany(l =>
        {
            var places = l.At.Select(p => model.Sculpt.Field.FromFront(p[0], p[1])).ToArray();
            return Sides.Both.Select(s => new HeadCurve(check.Id, [.. places.Select(p => Sides.Place(p, s))], l.Weight));
        });
        return new(model, check.Without ?? [], drawn);
    }
}
