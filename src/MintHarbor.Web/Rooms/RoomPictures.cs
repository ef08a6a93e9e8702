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

        // Filled and drawn strongly: it is looked at from the back of the room.
        FigureViews.Finished Draw()
        {
            var line = View(FigureViewKind.Line, quick: true);
            return Filled(line, quick: true, 1, Line(ink, 1.4, line.LinePath()));
        }

        // The bones are the last layer; what lies under them is the outline.
        FigureViews.Finished Skeleton()
        {
            var view = View(FigureViewKind.Bones, quick: false);
            var outline = string.Concat(view.Layers.SkipLast(1).Select(l => l.Path()));
            var lines = Line(ink, 0, outline) + Line(ink == Chalk ? BlueOnDark : Blue, 0.6, view.Layers[^1].Path());
            return Filled(view, quick: false, 0.55, lines);
        }

        FigureView View(FigureViewKind kind, bool quick) => views.View(Address(quick) with { Kind = kind }, found, drapery);

        FigureViews.Finished Filled(FigureView view, bool quick, double strength, string lines)
        {
            var fill = ink == Chalk ? Leaf : Mint;
            var mass = View(FigureViewKind.Mass, quick).MassPath;
            return FigureViews.Finish(
                FormattableString.Invariant($"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {view.Width} {view.Height}\">")
                    + FormattableString.Invariant($"<path fill=\"{fill}\" fill-opacity=\"{strength}\" fill-rule=\"evenodd\" d=\"{mass}\"/>")
                    + $"{lines}</svg>"
            );
        }

        static string Line(string colour, double width, string path) =>
            FormattableString.Invariant($"<path fill=\"{colour}\" stroke=\"{colour}\" stroke-width=\"{width}\" d=\"{path}\"/>");
    }
}
