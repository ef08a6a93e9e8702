using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Canons;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Rooms;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;
using MintHarbor.Web.Pages.Shared;
using MintHarbor.Web.Pages.Shelf;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>Tonight's long pose from a seat. A student sees and sets their own; staff see every seat round the stand.</summary>
public sealed class SeatModel(
    CourseScope scope,
    HarborContext db,
    PoseActions poses,
    RoomActions rooms,
    PlanActions plans,
    EveningActions evenings,
    FigureGate gate,
    FigureViews views
) : CoursePage(scope), IShowsProblems
{
    public sealed record Place(int Person, string Name, int? Number, Seat Seat)
    {
        public SeatedStudent? Who { get; init; }
        public PlannedSeat? Planned { get; init; }
    }

    public Meeting Meeting => Scope.Meeting!;
    public Pose Pose { get; private set; } = null!;
    public FigureAddress Address { get; private set; } = new();
    public FigureReadout? Readout { get; private set; }
    public IReadOnlyList<Place> Places { get; private set; } = [];
    public RoomPlan Plan { get; private set; } = RoomPlan.Usual;
    public IReadOnlyList<PlannedSeat> Spots { get; private set; } = [];
    public IReadOnlyList<Cannot> Cannot { get; private set; } = [];
    public IReadOnlyList<string> Unmet { get; private set; } = [];
    public PageFit? Fit { get; private set; }
    public SetUpCard? SetUp { get; private set; }
    public double Facing => Meeting.Plan.Facing;

    /// <summary>A turn of the pose that would even the views out; null where none would, or where the pose goes on as it stood.</summary>
    public TurnOffer? Turn { get; private set; }

    /// <summary>How many keep their places because the pose goes on.</summary>
    public int Stay { get; private set; }

    public string? Name(string spot) => Places.FirstOrDefault(p => p.Who?.Seating?.Spot == spot)?.Name.Split(' ')[0];

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
        if (!await db.Memberships.AnyAsync(m => m.CourseId == Course.Id && m.PersonId == who && m.Role == CourseRole.Student))
            return NotFound();
        var seat = state is null
            ? new Seat(azimuth ?? 0, distance ?? 3.2, eye ?? 1.25)
            : FigureAddress.Read("own", FigureAddress.State(state)).Seat;
        await poses.Sit(Meeting.Id, who, seat);
        return Redirect(Path);
    }

    /// <summary>Seats the whole class: needs kept, views evened out over the term, pins left where they are.</summary>
    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostClassAsync()
    {
        var drapery = Drapery.For(Course.Minors, Course.Minors);
        var posed = Meeting.Request.Wish.HasLiveModel ? await poses.Find(Course.Id, PoseActions.LongPoseOf(Meeting)) : null;
        var result = await rooms.SeatClass(
            Course,
            Meeting,
            posed is null
                ? null
                : views.Model(
                    new()
                    {
                        Preview = true,
                        Height = 200,
                        Body = Body,
                    },
                    posed,
                    drapery,
                    forDrawing: false
                )
        );
        if (result.Cannot.Count == 0 && result.Unmet.Count == 0)
            return Redirect(Path);
        await Load(plain: true);
        (Cannot, Unmet) = (result.Cannot, [.. result.Unmet.Select(Named)]);
        if (Cannot.Count > 0)
            Response.StatusCode = StatusCodes.Status400BadRequest;
        return Page();
    }

    /// <summary>Turns the long pose on the stand and seats the class for it.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostTurnAsync(double? facing)
    {
        // The pose that the seats are worked out for is the one that turns.
        if (Meeting.Plan.LongPose is not { Posed: true } pose)
            throw new InputException("nobody poses for long", "facing", "a meeting with a long pose");
        var index = Meeting.Plan.Items.ToList().IndexOf(pose);
        if ((await plans.Edit(Meeting, new(EditKind.Turn, index, Facing: facing))) is [var broken, ..])
            throw new InputException(broken.Says, "facing", "a timetable that holds");
        return await OnPostClassAsync();
    }

    private string Named(string unmet) =>
        Places.FirstOrDefault(p => unmet.StartsWith($"{p.Person}:", StringComparison.Ordinal)) is { } p
            ? Words.Apart(p.Name) + unmet[$"{p.Person}".Length..]
            : unmet;

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostPinAsync(int person, string? spot, bool pinned)
    {
        await rooms.Pin(Course, Meeting, person, spot ?? "", pinned);
        return Redirect(Path);
    }

    /// <summary>How a student has set up at home.</summary>
    public async Task<IActionResult> OnPostHomeAsync(string? subject, string? light, string? comfort, double looked, string? leavesOut)
    {
        if (!Scope.IsStudent)
            return NotFound();
        await evenings.SetUp(
            Meeting,
            Me.PersonId,
            new((subject ?? "").Trim(), (light ?? "").Trim(), (comfort ?? "").Trim(), looked, (leavesOut ?? "").Trim())
        );
        return Redirect(Path);
    }

    private async Task Load(bool plain = false)
    {
        if (Scope.IsStudent && Meeting.Online)
            SetUp = await db
                .Presences.AsNoTracking()
                .Where(p => p.MeetingId == Meeting.Id && p.PersonId == Me.PersonId)
                .Select(p => p.SetUp)
                .FirstOrDefaultAsync()
                ?? new("", "", "", 0, "");
        Pose = await poses.Find(Course.Id, PoseActions.LongPoseOf(Meeting)) ?? FigureCatalogue.Pose("contrapposto");
        if (await gate.Dress(User, Course.Id, Course.Minors) is not { } drapery)
            return;
        if (Scope.IsStudent)
        {
            var seat = await poses.SeatOf(Meeting.Id, Me.PersonId, Me.Seat);
            var asked = FigureAddress.Read(Pose.Id, plain ? FigureAddress.State("") : Request.Query);
            Address = asked with
            {
                Pose = Pose.Id,
                Body = Body,
                Seat = !plain && Request.Query.ContainsKey("az") ? asked.Seat : seat,
                Width = 480,
                Height = 720,
                Preview = false,
                Edit = "",
                Garment = Course.Minors,
            };
            if (Meeting.IsSeated)
                Fit = PageFit.Of(
                    Glance.Of(views.Model(Address with { Preview = true, Height = 200 }, Pose, drapery, forDrawing: false), Address.Seat),
                    PaperSize.Parse(Course.Paper).WidthMm,
                    PaperSize.Parse(Course.Paper).HeightMm
                );
            Readout = FigureReadout.Of(
                views.Model(Address, Pose, drapery, forDrawing: false),
                Pose,
                Address.Seat,
                false,
                Course.SchoolOf("figure").Rule(MintHarbor.Core.Measuring.Rules.Heads.Id)?.Expected,
                Course.Shelf.Timing
            );
            return;
        }
        var students = await rooms.Class(Course, Meeting);
        Plan = RoomActions.Of(Course);
        var model = views.Model(
            new()
            {
                Preview = true,
                Height = 200,
                Body = Body,
            },
            Pose,
            drapery,
            forDrawing: false
        );
        var paper = PaperSize.Parse(Course.Paper);
        var spots = Plan.Spots.Count > 0 ? Plan.Spots : RoomLayout.Lay(Plan, Math.Max(1, students.Count));
        var kept = await rooms.Kept(Meeting);
        Stay = students.Count(s => kept.ContainsKey(s.Id));
        if (Scope.IsInstructor && Stay == 0 && !Meeting.Begun && Meeting.IsSeated && Meeting.Plan.LongPose is { Posed: true })
            Turn = SeatPlanner.Turn(
                Plan,
                RoomActions.Sitters(Plan, students, kept),
                spots,
                Facing,
                Math.Max(0.6, Glance.HeightMetres(model))
            );
        var bySpot = students
            .Where(s => s.Seating?.Spot is not null)
            .GroupBy(s => s.Seating!.Spot!)
            .ToDictionary(g => g.Key, g => g.First());
        List<(Spot Spot, Hand Hand)> used = [.. spots.Where(s => bySpot.ContainsKey(s.Id)).Select(s => (s, bySpot[s.Id].Hand))];
        Spots =
        [
            .. spots.Select(spot =>
            {
                var seat = Plan.Seen(spot, Facing);
                var who = bySpot.GetValueOrDefault(spot.Id);
                var glance = who is null ? null : Glance.Of(model, seat);
                return new PlannedSeat(
                    spot,
                    who is null ? null : $"{who.Id}",
                    seat.Azimuth,
                    seat.Distance,
                    seat.EyeHeight,
                    SeatPlanner.View(seat.Azimuth),
                    glance,
                    glance is null ? null : PageFit.Of(glance, paper.WidthMm, paper.HeightMm),
                    SeatRules.Default.Of(Plan, spot, who?.Hand ?? Hand.Right, used, Glance.HeightMetres(model))
                );
            }),
        ];
        Places =
        [
            .. students.Select(
                (s, n) =>
                    new Place(
                        s.Id,
                        s.Name,
                        n + 1,
                        s.Seating is { } x ? new(x.Azimuth, x.Distance, x.EyeHeight) : PoseActions.Default(n + 1)
                    )
                    {
                        Who = s,
                        Planned = s.Seating?.Spot is { } id ? Spots.FirstOrDefault(p => p.Spot.Id == id) : null,
                    }
            ),
        ];
    }

    public string Picture(Seat seat) =>
        new FigureAddress
        {
            Pose = Pose.Id,
            Body = Body,
            Seat = seat,
            Width = 190,
            Height = 250,
            Preview = true,
            Garment = Course.Minors,
        }.For(Course.Id);

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        // The address itself may be what can't be read.
        await Load(plain: true);
        return Page();
    }
}
