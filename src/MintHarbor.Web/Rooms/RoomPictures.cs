using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Figure;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Web.Figures;
using NodaTime;

namespace MintHarbor.Web.Rooms;

/// <summary>Pictures of an evening's poses for whoever has one of its links: the room's display or the model's sheet. Poses of that
/// evening only, dressed as they are planned.</summary>
public static class RoomPictures
{
    private const string Chalk = "#ECE8DB",
        Graphite = "#22302E",
        Leaf = "#2F5F56",
        Mint = "#BFE3D3",
        BlueOnDark = "#A9CBF2",
        Blue = "#1E4F8F";

    /// <summary>GET /room/{secret}/pose/{pose} and /model/{secret}/pose/{pose}; facing is degrees that the model turns, with bones those inside its
    /// outline are drawn.</summary>
    public static async Task<IResult> Serve(
        string secret,
        string pose,
        double? facing,
        bool? light,
        bool? bones,
        HttpContext http,
        HarborContext db,
        PoseActions poses,
        FigureViews views,
        IClock clock
    )
    {
        var model = http.Request.Path.StartsWithSegments("/model");
        var meeting = await db
            .Meetings.AsNoTracking()
            .Include(m => m.Course)
            .SingleOrDefaultAsync(m => model ? m.ModelSecret == secret && secret != "" : m.RoomSecret == secret);
        if (meeting is null || meeting.RoomUntil(meeting.Course.Zone) < clock.GetCurrentInstant())
            return Results.NotFound();
        if (
            meeting.Plan.Items.FirstOrDefault(i => i.PoseIds.Contains(pose)) is not { } item
            || await poses.Find(meeting.CourseId, pose) is not { } found
        )
            return Results.NotFound();
        var turned = facing is { } f && double.IsFinite(f) ? Math.IEEERemainder(f, 360) : 0;
        var drapery = Drapery.For(meeting.Course.Minors, item.Draped);
        var ink = model || light == true ? Graphite : Chalk;
        return await views.Give(http, () =>
            new(("room", drapery.Clothed, StudioFigure.Key(found), turned, ink, bones), bones == true ? Skeleton : Draw)
        );

        FigureAddress Address(bool quick) =>
            new()
            {
                Pose = pose,
                Seat = new(-turned, 4, 1.2),
                Width = 360,
                Height = 480,
                Preview = quick,
            };

        FigureViews.Finished Draw()
        {
            var address = Address(quick: true);
            var (line, mass) = (
                views.View(address, found, drapery),
                views.View(address with { Kind = FigureViewKind.Mass }, found, drapery)
            );
            // Filled and drawn strongly: it is looked at from the back of the room.
            return FigureViews.Finish(
                $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {line.Width} {line.Height}\"><path fill=\"{(ink == Chalk ? Leaf : Mint)}\" fill-rule=\"evenodd\" d=\"{mass.MassPath}\"/><path fill=\"{ink}\" stroke=\"{ink}\" stroke-width=\"1.4\" d=\"{line.LinePath()}\"/></svg>"
            );
        }

        // Strongly too; the bones are the last layer, what lies under them is the outline.
        FigureViews.Finished Skeleton()
        {
            var address = Address(quick: false) with { Kind = FigureViewKind.Bones };
            var view = views.View(address, found, drapery);
            var mass = views.View(address with { Kind = FigureViewKind.Mass }, found, drapery);
            var blue = ink == Chalk ? BlueOnDark : Blue;
            var outline = string.Concat(view.Layers.SkipLast(1).Select(l => l.Path()));
            return FigureViews.Finish(
                $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {view.Width} {view.Height}\"><path fill=\"{(ink == Chalk ? Leaf : Mint)}\" fill-opacity=\"0.55\" fill-rule=\"evenodd\" d=\"{mass.MassPath}\"/><path fill=\"{ink}\" d=\"{outline}\"/><path fill=\"{blue}\" stroke=\"{blue}\" stroke-width=\"0.6\" d=\"{view.Layers[^1].Path()}\"/></svg>"
            );
        }
    }
}
