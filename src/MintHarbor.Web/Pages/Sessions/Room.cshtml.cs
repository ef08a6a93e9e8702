using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Rooms;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>The studio to scale: measured once, laid out by rule or by hand, and every place checked.</summary>
[For(CourseRole.Instructor)]
public sealed class RoomModel(CourseScope scope, RoomActions rooms) : CoursePage(scope), IShowsProblems
{
    public sealed class RoomForm
    {
        public double Width { get; set; }
        public double Depth { get; set; }
        public double StandX { get; set; }
        public double StandY { get; set; }
        public double Front { get; set; }
        public double StandHeight { get; set; }
        public string? Lamp { get; set; }
        public string? Doors { get; set; }
        public string? Sockets { get; set; }
        public int Most { get; set; }
    }

    [BindProperty]
    public RoomForm Form { get; set; } = new();
    public RoomPlan Plan { get; private set; } = RoomPlan.Usual;
    public IReadOnlyList<PlannedSeat> Seats { get; private set; } = [];
    public IReadOnlyList<(string Place, SeatCheck Check)> Wrong =>
        [.. Seats.SelectMany(s => s.Checks.Where(c => !c.Holds).Select(c => (s.Spot.Id, c))).OrderByDescending(c => c.c.Hard)];

    public void OnGet() => Load(RoomActions.Of(Course), fill: true);

    /// <summary>The measures by the names that the page gives them.</summary>
    public static IEnumerable<(string Name, object? Value)> Named(RoomForm f) =>
        [
            ("the width", f.Width),
            ("the depth", f.Depth),
            ("the stand", $"{f.StandX} {f.StandY}"),
            ("the front", f.Front),
            ("the stand's height", f.StandHeight),
            ("how many it holds", f.Most),
            ("the lamp", f.Lamp),
            ("the doors", f.Doors),
            ("the sockets", f.Sockets),
        ];

    private void Load(RoomPlan plan, bool fill)
    {
        Plan = plan;
        Seats = SeatPlanner
            .Seat(plan with { Spots = plan.Spots.Count > 0 ? plan.Spots : RoomLayout.Lay(plan, 14) }, [], null, 0, 457.2, 609.6)
            .Seats;
        // Every place is checked as if all were in use.
        List<(Spot, Hand)> all = [.. Seats.Select(s => (s.Spot, Hand.Right))];
        var ways = SeatRules.Default.Ways(plan, Seats.Select(s => s.Spot), [.. all.Select(s => s.Item1)]);
        Seats = [.. Seats.Select((s, n) => s with { Checks = [.. SeatRules.Default.Of(plan, s.Spot, Hand.Right, all, 1.75), ways[n]] })];
        if (!fill)
            return;
        Form = Of(plan);
    }

    /// <summary>A plan as it is typed.</summary>
    public static RoomForm Of(RoomPlan plan)
    {
        static string Say(double v) => v.ToString("0.##", CultureInfo.InvariantCulture);
        return new()
        {
            Width = plan.Width,
            Depth = plan.Depth,
            StandX = plan.Stand.X,
            StandY = plan.Stand.Y,
            Front = plan.Front,
            StandHeight = plan.StandHeight,
            Most = plan.Most,
            Lamp = plan.Lamp is { } l ? $"{Say(l.X)} {Say(l.Y)}" : "",
            Doors = string.Join("; ", plan.Doors.Select(d => $"{Say(d.At.X)} {Say(d.At.Y)} {Say(d.Width)}")),
            Sockets = string.Join("; ", plan.Sockets.Select(s => $"{Say(s.X)} {Say(s.Y)}")),
        };
    }

    public async Task<IActionResult> OnPostAsync()
    {
        var kept = RoomActions.Of(Course);
        Stood.Check(Request, Named(Of(kept)));
        var plan = new RoomPlan(Form.Width, Form.Depth, new(Form.StandX, Form.StandY), Form.Front, Form.StandHeight)
        {
            StandRadius = kept.StandRadius,
            Spots = kept.Spots,
            Most = Form.Most,
            Lamp = Numbers(Form.Lamp, "Form.Lamp", 2, 2).Select(n => (Vec2?)new Vec2(n[0], n[1])).FirstOrDefault(),
            Doors = [.. Numbers(Form.Doors, "Form.Doors", 2, 3).Select(n => new Door(new(n[0], n[1]), n.Length > 2 ? n[2] : 0.9))],
            Sockets = [.. Numbers(Form.Sockets, "Form.Sockets", 2, 2).Select(n => new Vec2(n[0], n[1]))],
        };
        await rooms.Save(Course, plan);
        return To("sessions/room");
    }

    /// <summary>Lays the places out anew, as many as are wanted and keep the rules.</summary>
    public async Task<IActionResult> OnPostLayAsync(int count)
    {
        if (count is < 1 or > 60)
            throw new InputException($"{count} places", "count", "1 to 60");
        var plan = RoomActions.Of(Course);
        var spots = RoomLayout.Lay(plan, count, low: (count + 2) / 3);
        await rooms.Save(Course, plan with { Spots = spots });
        if (spots.Count < count)
        {
            Problem =
                $"{count} places are not to be had: {spots.Count} keep sight, elbows and ways out. The nearest that holds is {spots.Count}.";
            Load(RoomActions.Of(Course), fill: true);
            return Page();
        }
        return To("sessions/room");
    }

    /// <summary>Puts one place elsewhere, or changes what stands there.</summary>
    public async Task<IActionResult> OnPostPlaceAsync(string? spot, double x, double y, SpotKind? stands, bool remove)
    {
        var plan = RoomActions.Of(Course);
        var spots = (plan.Spots.Count > 0 ? plan.Spots : RoomLayout.Lay(plan, 14)).ToList();
        var at = spots.FindIndex(s => s.Id == spot);
        if (at < 0)
            throw new InputException($"there is no place '{spot}'", "spot", string.Join(" | ", spots.Select(s => s.Id)));
        if (remove)
            spots.RemoveAt(at);
        else
            spots[at] = spots[at] with { At = new(Math.Round(x, 2), Math.Round(y, 2)), Kind = stands ?? spots[at].Kind };
        await rooms.Save(Course, plan with { Spots = spots });
        if (!Fragment)
            return To("sessions/room");
        Load(RoomActions.Of(Course), fill: true);
        return Page();
    }

    /// <summary>"1.5 2; 3 4": places as they are typed, metres.</summary>
    private static IEnumerable<double[]> Numbers(string? text, string field, int least, int most)
    {
        foreach (var part in (text ?? "").Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            var n = part.Replace(',', '.')
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Select(v =>
                    double.TryParse(v, NumberStyles.Float, CultureInfo.InvariantCulture, out var d) && double.IsFinite(d) ? d : double.NaN
                )
                .ToArray();
            if (n.Length < least || n.Length > most || n.Any(double.IsNaN))
                throw new InputException(
                    $"'{part}' is no place",
                    field,
                    $"{least}{(most > least ? $" or {most}" : "")} numbers in metres, places parted by ;"
                );
            yield return n;
        }
    }

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        Load(RoomActions.Of(Course), fill: !Request.HasFormContentType || !Request.Form.ContainsKey("Form.Width"));
        return Task.FromResult<IActionResult>(Page());
    }
}
