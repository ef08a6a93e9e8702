using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Actions;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;

namespace MintHarbor.Web.Pages.Shelf;

/// <summary>The pose library: every pose of the studio and of the course as a wall of small drawings.</summary>
public sealed class PosesModel(CourseScope scope, PoseActions poses) : CoursePage(scope)
{
    public sealed record Filter(string Name, string Key, string? Chosen, IReadOnlyList<(string Id, string Word)> Words);

    [FromQuery(Name = "purpose")]
    public string? Purpose { get; set; }

    [FromQuery(Name = "strain")]
    public string? Strain { get; set; }

    [FromQuery(Name = "level")]
    public string? Level { get; set; }

    [FromQuery(Name = "part")]
    public string? Part { get; set; }

    public IReadOnlyList<Pose> All { get; private set; } = [];
    public IReadOnlyList<Pose> Shown { get; private set; } = [];
    public IReadOnlyList<Filter> Filters { get; private set; } = [];

    public async Task OnGetAsync()
    {
        All = [.. (await poses.Own(Course.Id)).Select(PoseActions.Read), .. FigureCatalogue.Poses];
        Shown =
        [
            .. All.Where(p =>
                (Purpose is null || p.Purposes.Contains(Purpose))
                && (Strain is null || p.Strain == Strain)
                && (Level is null || p.Level == Level)
                && (Part is null || p.Parts.Contains(Part))
            ),
        ];
        static (string, string)[] Same(IEnumerable<string> ids) => [.. ids.Distinct().Order(StringComparer.Ordinal).Select(i => (i, i))];
        Filters =
        [
            new("good for", "purpose", Purpose, Same(All.SelectMany(p => p.Purposes))),
            new("to hold", "strain", Strain, [.. Strains.Words.Where(s => All.Any(p => p.Strain == s)).Select(s => (s, StrainName(s)))]),
            new("level", "level", Level, [.. Pose.Levels.Select(l => (l, l))]),
            new("to study", "part", Part, Same(All.SelectMany(p => p.Parts))),
        ];
    }

    /// <summary>This page with one filter changed, the others kept.</summary>
    public string With(string key, string? value)
    {
        var all = new[] { ("purpose", Purpose), ("strain", Strain), ("level", Level), ("part", Part) }
            .Select(f => f.Item1 == key ? (key, value) : f)
            .Where(f => f.Item2 is not null);
        return $"/courses/{Course.Id}/shelf/poses"
            + string.Concat(all.Select((f, n) => $"{(n == 0 ? '?' : '&')}{f.Item1}={Uri.EscapeDataString(f.Item2!)}"));
    }

    public string Picture(Pose p, int n) =>
        new FigureAddress
        {
            Pose = p.Id,
            Body = n % 2 == 0 ? "male" : "female",
            Seat = new(n % 2 == 0 ? 25 : -35, 3.6, 1.3),
            Width = 190,
            Height = 250,
            Preview = true,
            Garment = Course.Minors,
        }.For(Course.Id);

    public static string StrainName(string id) => TimingRules.Default.Limit(Strains.Read(id)).Name;
}
