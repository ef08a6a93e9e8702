using System.Text.Json.Serialization;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Rooms;
using MintHarbor.Core.Technique;
using NodaTime;

namespace MintHarbor.Store.Model;

/// <summary>A landmark as somebody placed it.</summary>
/// <param name="By">Their name; empty for one of before names were kept.</param>
public sealed record Placement(Vec2 At, string By, Instant? When);

/// <summary>What the ink told of a sheet's landmarks, and what that was worked out from.</summary>
/// <param name="Of">Names everything that went into it: another flat sheet, view or placed mark makes another.</param>
/// <param name="Marks">Those of the bench that the view shows.</param>
/// <param name="View">Of a figure: pose, side and body that it was laid over.</param>
/// <param name="Poses">The pose was told from the ink: the nearest, best first; empty where it was known.</param>
public sealed record FitState(
    string Of,
    NoFit Why,
    IReadOnlyDictionary<string, FittedMark> Marks,
    ReferenceChoice? View,
    IReadOnlyList<FoundPose> Poses
)
{
    /// <summary>Whether the ink told a pose: of a sheet on which no one drawing can be made out it tells none.</summary>
    [JsonIgnore]
    public bool TellsPose => Poses.Count > 0 && Why is not (NoFit.Blank or NoFit.Black or NoFit.Several);

    /// <summary>Two poses lie equally near: which it is must be said by a person.</summary>
    [JsonIgnore]
    public bool AsksPose => Poses is [var first, var second, ..] && second.Apart - first.Apart < PoseFinder.TooClose;
}

/// <summary>What the ink of a sheet says of technique.</summary>
/// <param name="Of">Hash of the flat sheet that it was read from.</param>
/// <param name="Lamp">Where the light fell from, as the student saw it from their seat.</param>
public sealed record TechniqueState(string Of, TechniqueReading Reading, LampSide Lamp)
{
    /// <summary>What is said of a sheet, by what its exercise is inspected for; nothing while its flat sheet is another than the one that was read.</summary>
    public static IReadOnlyList<TechniqueFinding> Findings(Sheet sheet, Course course) =>
        sheet.Technique is { } t && t.Of == sheet.FlatHash
            ? TechniqueFindings.Of(t.Reading, course.Shelf.Exercise(sheet.Exercise), t.Lamp, sheet.PaperHeightMm)
            : [];
}

/// <summary>Whose word counts for a mark.</summary>
public enum MarkSource
{
    /// <summary>Told by the ink, and by nobody looked at.</summary>
    Ink,
    Student,
    Staff,
}

/// <summary>A sheet's marks from three hands: staff's word counts before the student's, and theirs before the ink's.</summary>
public static class SheetMarks
{
    /// <summary>Whether landmarks are asked for: of a thing, and in an exercise that no rule of the figure is open in, there are none.</summary>
    public static bool AreAsked(Sheet s, Course course) =>
        s.Subject != Sheet.Thing && course.Shelf.Exercise(s.Exercise)?.ReadsMarks != false;

    public static MarkSource SourceOf(Sheet s, string id) =>
        s.ByStaff.ContainsKey(id) ? MarkSource.Staff
        : s.ByStudent.ContainsKey(id) ? MarkSource.Student
        : MarkSource.Ink;

    public static bool IsPlaced(Sheet s, string id) => s.ByStaff.ContainsKey(id) || s.ByStudent.ContainsKey(id);

    /// <summary>Where every mark lies that anybody, or the ink, has told.</summary>
    public static Dictionary<string, Vec2> Merged(Sheet s)
    {
        var marks = s.Fit?.Marks.ToDictionary(m => m.Key, m => m.Value.At) ?? [];
        foreach (var (id, p) in s.ByStudent.Concat(s.ByStaff))
            marks[id] = p.At;
        return marks;
    }

    /// <summary>What was placed, staff's before the student's.</summary>
    public static Dictionary<string, Vec2> Placed(Sheet s)
    {
        var placed = s.ByStudent.ToDictionary(p => p.Key, p => p.Value.At);
        foreach (var (id, p) in s.ByStaff)
            placed[id] = p.At;
        return placed;
    }

    /// <summary>Marks that only the ink told, and not exactly enough to judge by.</summary>
    public static HashSet<string> NotLookedAt(Sheet s) =>
        s.Fit is null ? [] : [.. s.Fit.Marks.Values.Where(m => !m.Sure && !IsPlaced(s, m.Id)).Select(m => m.Id)];

    /// <summary>1 σ of each coordinate of the marks that only the ink told, mm.</summary>
    public static Dictionary<string, double> Errors(Sheet s) =>
        s.Fit?.Marks.Values.Where(m => !IsPlaced(s, m.Id)).ToDictionary(m => m.Id, m => m.Sigma) ?? [];

    /// <summary>The mark that matters most of those that nobody has placed; null when all are known well enough.</summary>
    /// <param name="findings">What the sheet is judged to be as its marks lie.</param>
    public static string? Wanted(Sheet s, IEnumerable<Finding> findings) =>
        s.Fit is { Why: NoFit.None } fit ? Asking.Next(findings, [.. fit.Marks.Values], Placed(s).Keys) : null;

    /// <summary>A sheet laid anew knows nothing any more.</summary>
    public static void Forget(Sheet s)
    {
        (s.ByStudent, s.ByStaff, s.Fit) = ([], [], null);
        (s.Landmarks, s.LandmarkUndo) = ([], []);
    }
}
