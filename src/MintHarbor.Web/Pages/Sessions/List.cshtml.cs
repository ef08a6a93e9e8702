using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;
using NodaTime;

namespace MintHarbor.Web.Pages.Sessions;

public sealed class ListModel(CourseScope scope, HarborContext db, IClock clock) : CoursePage(scope)
{
    public LocalDate Day => Words.Today(Course, clock.GetCurrentInstant());
    public IReadOnlyList<Meeting> Meetings { get; private set; } = [];
    public List<Note> Notes { get; } = [];

    public async Task OnGetAsync()
    {
        Meetings = await db.Meetings.AsNoTracking().Where(m => m.CourseId == Course.Id).OrderByDescending(m => m.Date).Take(40).ToListAsync();
        if (Meetings.Count == 0) return;
        var posed = Meetings.Sum(m => m.Plan.PosedMinutes);
        Notes.Add(new("holds", $"*{Say.Number(posed / 60, 1)} h* posed in {Say.Plural(Meetings.Count, "meeting")}."));
        var shown = Meetings.SelectMany(m => m.Plan.Items).SelectMany(i => i.PoseIds).ToHashSet();
        var missing = PoseLibrary.Traits.Where(t => !shown.Select(p => PoseLibrary.Find(p)).OfType<StudioPose>().Any(p => p.Traits.Contains(t))).Select(PoseLibrary.Word).ToList();
        if (missing.Count > 0) Notes.Add(new("near", $"Not shown yet: {Say.List(missing)}."));
        var again = Meetings.Zip(Meetings.Skip(1)).FirstOrDefault(p => p.First.Plan.LongPose?.PoseIds is [var a] && p.Second.Plan.LongPose?.PoseIds is [var b] && a == b);
        if (again.First is not null) Notes.Add(new("near", $"Meetings {again.Second.Number} and {again.First.Number} have the same long pose.", $"m{again.First.Id}"));
    }
}
