using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Drawing;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>The pose card, read in the room on a phone. The instructor's judges; a student's own tells misread from misdrawn.</summary>
public sealed class CardModel(CourseScope scope, HarborContext db, SessionActions sessions) : CoursePage(scope), IShowsProblems
{
    private const string FromKey = "from";

    private static readonly (string Key, string To, string Name)[] PlumbTo =
    [
        ("plumb-r", "ankleout.R", "right outer ankle"),
        ("plumb-l", "ankleout.L", "left outer ankle"),
        ("plumb-p", "pubic", "pubic bone"),
    ];

    public Meeting Meeting => Scope.Meeting!;

    /// <summary>Which of the evening's poses the card is read from, by its letter; the first where none is said.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Pose { get; set; }
    public IReadOnlyList<PlanItem> Poses => Meeting.Plan.CardPoses;
    public PoseKey Key =>
        string.IsNullOrEmpty(Pose) ? Poses.Select(i => i.Pose).FirstOrDefault()
        : Poses.Any(i => i.Pose.Letters == Pose) ? new(Pose)
        : throw new InputException($"pose '{Pose}'", "pose", string.Join(" | ", Poses.Select(i => i.Pose)));
    public string Letter => Key.ToString();
    public string PoseName => NameOf(Poses.FirstOrDefault(i => i.Pose == Key));

    public string NameOf(PlanItem? i) =>
        i?.PoseIds is [var p, ..] ? PoseLibrary.Name(p, Meeting.Request).ToLowerInvariant() : "no live model";

    public IReadOnlyList<(string Key, string Name, string Value)> Ratios { get; private set; } = [];
    public IReadOnlyList<(string Key, string Name, string Value)> Hours { get; private set; } = [];
    public IReadOnlyList<(string Key, string Name, string Value)> PlumbRows { get; private set; } = [];

    /// <summary>Places to read from, as degrees round the stand and in words; for staff alone, a student reads from the own seat.</summary>
    public IReadOnlyList<(string Azimuth, string Name)> Places { get; private set; } = [];
    public string From { get; private set; } = "";
    public int Read => Ratios.Count(r => r.Value != "");
    public Note? Compared { get; private set; }

    /// <summary>What stands where the fields show what was typed.</summary>
    public string? StandsNow { get; private set; }

    /// <summary>The readings as the form shows them, for whoever reads the card on two devices.</summary>
    public IEnumerable<(string Name, object? Value)> Shown =>
        [
            .. Ratios.Select(r => (r.Name, (object?)r.Value)),
            .. Hours.Select(r => ($"the direction of the {r.Name}", (object?)r.Value)),
            .. PlumbRows.Select(r => ($"the plumb to the {r.Name}", (object?)r.Value)),
            ("where it was read from", From),
        ];

    public Task OnGetAsync() => Load();

    private async Task Load()
    {
        var letter = Letter;
        var readings = await db
            .PoseReadings.AsNoTracking()
            .Where(r =>
                r.MeetingId == Meeting.Id
                && r.Pose == letter
                && (
                    r.ReaderId == Me.PersonId
                    || db.Memberships.Any(m => m.CourseId == Course.Id && m.PersonId == r.ReaderId && m.Role != CourseRole.Student)
                )
            )
            .ToListAsync();
        var mine = readings.FirstOrDefault(r => r.ReaderId == Me.PersonId);
        // Staff go on with whatever card stands; a student begins with an empty one, so as to measure, not copy.
        var stands = mine ?? (Scope.IsStudent ? null : readings.MaxBy(r => r.ReadAt));
        Fill(stands?.Card ?? new());
        var own = mine?.Card;
        await LoadPlaces(stands?.ReadFrom);
        if (Scope.IsStudent && own is not null && readings.FirstOrDefault(r => r.ReaderId != Me.PersonId)?.Card is { } theirs)
            Compared = Compare(own, theirs);
    }

    private async Task LoadPlaces(double? from)
    {
        From = from is { } at ? Said(Whole(at)) : "";
        var seats = Scope.IsStudent
            ? []
            : await db
                .Seatings.AsNoTracking()
                .Where(s => s.MeetingId == Meeting.Id)
                .Join(db.Users, s => s.PersonId, p => p.Id, (s, p) => new { s.Azimuth, p.Name })
                .OrderBy(s => s.Azimuth)
                .ThenBy(s => s.Name)
                .ToListAsync();
        // Where it was read stays among them, though nobody sits there any more.
        var beside = seats
            .Select(s => (At: Whole(s.Azimuth), s.Name))
            .Concat(from is { } kept ? [(Whole(kept), "")] : [])
            .Where(s => s.At != 0)
            .GroupBy(s => s.At)
            .Select(g => (Said(g.Key), PlaceOf(g.Key, [.. g.Select(s => s.Name).Where(n => n != "")])));
        Places = [("", "not said"), (Said(0), "in front of the stand"), .. beside];
    }

    private static string PlaceOf(int degrees, IReadOnlyList<string> who)
    {
        var side = SeatDial.Side(degrees);
        return who.Count == 0 ? side : $"{side}: {Say.List(who)}";
    }

    private static int Whole(double azimuth) => (int)Math.Round(Math.IEEERemainder(azimuth, 360));

    private static string Said(int degrees) => degrees.ToString(CultureInfo.InvariantCulture);

    private void Fill(PoseCard card)
    {
        static string V(double? v) => v?.ToString("0.##", CultureInfo.InvariantCulture) ?? "";
        Ratios = [.. card.Ratios.Select(r => (r.Key, r.Name, V(r.Value)))];
        Hours =
        [
            ("hour-shoulders", "shoulders", V(card.DirectionsHours?.Shoulders)),
            ("hour-pelvis", "pelvis", V(card.DirectionsHours?.Pelvis)),
            ("hour-action", "line of action", V(card.DirectionsHours?.Action)),
        ];
        PlumbRows = [.. PlumbTo.Select(p => (p.Key, p.Name, V(card.Plumbs?.FirstOrDefault(x => x.To == p.To)?.OffsetHeads)))];
    }

    private static Note? Compare(PoseCard own, PoseCard theirs) =>
        theirs.Against(own) switch
        {
            null => null,
            { Same: true } a => new("holds", $"Your readings keep within *{a.Within} %* of the instructor's."),
            var a => new(
                "near",
                $"Your {a.Name} reads *{Say.Number(Math.Abs(a.OffPercent), 1)} %* {(a.OffPercent < 0 ? "short" : "long")} of the instructor's: measure it again."
            ),
        };

    public async Task<IActionResult> OnPostSaveAsync()
    {
        await Load();
        Stood.Check(Request, Shown);
        var typed = Request.Form;
        double? Of(string key)
        {
            var text = typed[key].ToString().Trim().Replace('−', '-').Replace(',', '.');
            if (text == "")
                return null;
            return double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var v) && double.IsFinite(v)
                ? v
                : throw new InputException($"'{text}' is not a number", key, "a number such as 7.4");
        }
        var plumbs = PlumbTo
            .Select(p => (p.To, Offset: Of(p.Key)))
            .Where(p => p.Offset is not null)
            .Select(p => new PlumbReading("pit", p.To, p.Offset!.Value))
            .ToList();
        var (s, pelvis, action) = (Of("hour-shoulders"), Of("hour-pelvis"), Of("hour-action"));
        var card = new PoseCard
        {
            Heads = Of("heads"),
            Shoulders = Of("shoulders"),
            PitToPubic = Of("pitToPubic"),
            PitToKneetop = Of("pitToKneetop"),
            PitToSole = Of("pitToSole"),
            DirectionsHours = s is null && pelvis is null && action is null ? null : new(s, pelvis, action),
            Plumbs = plumbs.Count == 0 ? null : plumbs,
        };
        await sessions.SaveCard(Meeting, Key, Me.Person, card, Scope.IsStudent ? null : Of(FromKey));
        return To($"sessions/{Meeting.Id}/card{(Poses.Count > 1 ? $"?pose={Letter}" : "")}");
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        if (Poses.All(i => i.Pose.Letters != Pose))
            Pose = null;
        await Load();
        StandsNow = Stood.Of(Shown);
        var typed = Request.HasFormContentType ? Request.Form : null;
        // What was typed stays.
        (string, string, string) Keep((string Key, string Name, string Value) r) => (r.Key, r.Name, typed?[r.Key].ToString() ?? "");
        From = typed?[FromKey].ToString() ?? From;
        (Ratios, Hours, PlumbRows) = ([.. Ratios.Select(Keep)], [.. Hours.Select(Keep)], [.. PlumbRows.Select(Keep)]);
        return Page();
    }
}
