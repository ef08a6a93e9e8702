using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Canons;
using MintHarbor.Core.Figure;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>Tonight's long pose from a seat. A student sees and sets their own; staff see every seat round the stand.</summary>
public sealed class SeatModel(CourseScope scope, HarborContext db, PoseActions poses, FigureGate gate, FigureViews views) : CoursePage(scope), IShowsProblems
{
    public sealed record Place(int Person, string Name, int? Number, Seat Seat);

    public Meeting Meeting => Scope.Meeting!;
    public Pose Pose { get; private set; } = null!;
    public FigureAddress Address { get; private set; } = new();
    public FigureReadout? Readout { get; private set; }
    public IReadOnlyList<Place> Places { get; private set; } = [];
    public string Path => $"/courses/{Course.Id}/sessions/{Meeting.Id}/seat";
    public string Body => "male";

    public async Task<IActionResult> OnGetAsync()
    {
        await Load();
        return Page();
    }

    public async Task<IActionResult> OnGetReadoutAsync()
    {
        await Load();
        return Readout is null ? NotFound() : Partial("Shelf/_Readout", Readout);
    }

    /// <summary>Keeps a seat: a student's own, whoever else is named.</summary>
    public async Task<IActionResult> OnPostSitAsync(string? state, int? person, double? azimuth, double? distance, double? eye)
    {
        var who = Scope.IsStudent ? Me.PersonId : person ?? 0;
        if (!await db.Memberships.AnyAsync(m => m.CourseId == Course.Id && m.PersonId == who && m.Role == CourseRole.Student)) return NotFound();
        var seat = state is null
            ? new Seat(azimuth ?? 0, distance ?? 3.2, eye ?? 1.25)
            : FigureAddress.Read("own", FigureAddress.State(state)).Seat;
        await poses.Sit(Meeting.Id, who, seat);
        return Redirect(Path);
    }

    private async Task Load(bool plain = false)
    {
        Pose = await poses.Find(Course.Id, PoseActions.LongPoseOf(Meeting)) ?? FigureCatalogue.Pose("contrapposto");
        if (await gate.Dress(User, Course.Id, Course.Minors) is not { } drapery) return;
        if (Scope.IsStudent)
        {
            var seat = await poses.SeatOf(Meeting.Id, Me.PersonId, Me.Seat);
            var asked = FigureAddress.Read(Pose.Id, plain ? FigureAddress.State("") : Request.Query);
            Address = asked with { Pose = Pose.Id, Body = Body, Seat = !plain && Request.Query.ContainsKey("az") ? asked.Seat : seat, Width = 480, Height = 720, Preview = false, Edit = "", Garment = Course.Minors };
            Readout = FigureReadout.Of(views.Model(Address, Pose, drapery, forDrawing: false), Pose, Address.Seat, false, CanonTable.Get(Course.Canon).Rule("F-heads")?.Expected);
            return;
        }
        var seats = await db.Seatings.AsNoTracking().Where(s => s.MeetingId == Meeting.Id).ToDictionaryAsync(s => s.PersonId, s => new Seat(s.Azimuth, s.Distance, s.EyeHeight));
        var students = await db.Memberships.AsNoTracking().Where(m => m.CourseId == Course.Id && m.Role == CourseRole.Student).OrderBy(m => m.Seat).ThenBy(m => m.Person.Name).Select(m => new { m.PersonId, m.Person.Name, m.Seat }).ToListAsync();
        Places = [.. students.Select((s, n) => new Place(s.PersonId, s.Name, s.Seat, seats.GetValueOrDefault(s.PersonId) ?? PoseActions.Default(s.Seat ?? n + 1)))];
    }

    /// <summary>Pairs that would sit in one another's place: less than 6° and 0.6 m apart.</summary>
    public IReadOnlyList<(int A, int B)> Crowded =>
    [.. from a in Enumerable.Range(0, Places.Count)
        from b in Enumerable.Range(a + 1, Places.Count - a - 1)
        where Math.Abs(Math.IEEERemainder(Places[a].Seat.Azimuth - Places[b].Seat.Azimuth, 360)) < 6 && Math.Abs(Places[a].Seat.Distance - Places[b].Seat.Distance) < 0.6
        select (a + 1, b + 1)];

    public string Picture(Seat seat) => new FigureAddress { Pose = Pose.Id, Body = Body, Seat = seat, Width = 190, Height = 250, Preview = true, Garment = Course.Minors }.For(Course.Id);

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        // The address itself may be what can't be read.
        await Load(plain: true);
        return Page();
    }
}
