using MintHarbor.Core.Figure;
using MintHarbor.Store.Actions;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;

namespace MintHarbor.Web.Pages.Shelf;

/// <summary>The arrangements of things that a course may draw: its own and the studio's.</summary>
public sealed class ThingsModel(CourseScope scope, ThingActions things) : CoursePage(scope)
{
    public IReadOnlyList<KeptArrangement> All { get; private set; } = [];

    public async Task OnGetAsync() => All = await things.All(Course.Id);

    public string Picture(KeptArrangement a) =>
        new ThingAddress
        {
            Things = a.Arrangement.Write(),
            Kind = FigureViewKind.Line,
            Seat = a.Seat,
            Lamp = a.Lamp,
            Width = 240,
            Height = 240,
        }.For(Course.Id);
}
