using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Store.Model;

namespace MintHarbor.Store.Actions;

/// <summary>A reference view as the judge needs it: where its visible landmarks are (picture pixels) and what the seat shortens.</summary>
public sealed record SeenReference(Core.Landmarks.LandmarkSet Landmarks, IReadOnlyDictionary<string, double> Foreshortening);

/// <summary>Judges a stored sheet: landmarks against the instructor's pose card and the course's canon.</summary>
public static class SheetJudging
{
    /// <summary>How exactly a landmark is placed by hand on the bench, 1 σ per coordinate in mm: about the width of a
    /// charcoal line; our default.</summary>
    public const double PlacementErrorMm = 0.7;

    public static JudgeRequest Request(Sheet sheet, Course course, PoseCard? card, SeenReference? reference = null) =>
        new()
        {
            Subject = sheet.Subject,
            Canon = sheet.Subject == "head" ? course.HeadCanon : course.Canon,
            View = sheet.View,
            Pose = sheet.Pose,
            StandingLeg = sheet.StandingLeg,
            Exercise = sheet.Exercise,
            PlacementErrorMm = PlacementErrorMm,
            Landmarks = new(sheet.Landmarks),
            PoseCard = sheet.Subject == "head" ? null : card,
            Reference = sheet.Subject == "head" ? null : reference?.Landmarks,
            Foreshortening = reference?.Foreshortening ?? new Dictionary<string, double>(),
            Observed = sheet.Observed.ToHashSet(),
        };

    /// <summary>Findings, the outside ones first; none without landmarks. Landmarks that coincide are reported, not thrown.</summary>
    public static (IReadOnlyList<Finding> Findings, string? Problem) Of(
        Sheet sheet,
        Course course,
        PoseCard? card,
        SeenReference? reference = null
    )
    {
        if (sheet.Landmarks.Count < 2)
            return ([], null);
        try
        {
            var found = Judge.Of(Request(sheet, course, card, reference)).Findings;
            return ([.. found.OrderBy(Rank).ThenBy(f => f.FollowsFrom is null ? 0 : 1).ThenBy(f => Order(f.Rule))], null);
        }
        catch (Core.InputException e)
        {
            return ([], e.Message);
        }
    }

    private static int Rank(Finding f) =>
        f.Verdict switch
        {
            Verdict.Outside => f.FollowsFrom is null ? 0 : 1,
            Verdict.Pushed => 2,
            Verdict.TooClose => 3,
            Verdict.Inside => 4,
            Verdict.TooSmall => 5,
            _ => 6,
        };

    private static int Order(string rule) =>
        rule switch
        {
            "F-balance" => 0,
            "F-tilt" => 1,
            "F-heads" => 2,
            "F-spans" => 3,
            "F-shoulder" => 4,
            "H-turn" => 0,
            "H-eye" => 1,
            "H-thirds" => 2,
            "R-lean" => 0,
            "R-length" => 3,
            "R-direction" => 4,
            _ => 5,
        };

    /// <summary>Where on the sheet a finding is spoken of: the middle of what it measures, the head apart where it is only the
    /// unit.</summary>
    public static Vec2? Place(Sheet sheet, Finding f) =>
        Place(
            sheet,
            f.Rule switch
            {
                "F-heads" => ["crown", "chin"],
                _ when f.Rule[0] == 'H' && f.Landmarks.Count > 0 => f.Rule is "H-eye" ? [.. f.Landmarks.Skip(2)]
                : f.Rule is "H-mouth" or "H-nostril" or "H-corner" ? [f.Landmarks[1]]
                : f.Rule is "H-ear" ? [f.Landmarks[0]]
                : f.Landmarks,
                "F-balance" => [.. f.Landmarks.Where(l => l.StartsWith("sole", StringComparison.Ordinal))],
                _ when f.Part?.StartsWith("plumb", StringComparison.Ordinal) == true => [f.Landmarks[1]],
                _ => [.. f.Landmarks.Where(l => l is not ("crown" or "chin"))],
            }
        );

    /// <summary>The middle of some landmarks; null when none of them is placed.</summary>
    public static Vec2? Place(Sheet sheet, IReadOnlyList<string> landmarks)
    {
        var p = landmarks.Where(sheet.Landmarks.ContainsKey).Select(l => sheet.Landmarks[l]).ToList();
        return p.Count == 0 ? null : new(p.Average(v => v.X), p.Average(v => v.Y));
    }
}
