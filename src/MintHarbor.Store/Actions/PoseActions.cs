using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>Poses of a course: the studio's and its own; and who sits where.</summary>
public sealed class PoseActions(HarborContext db, IClock clock)
{
    public const string OwnPrefix = "own-";
    public const int MostOwn = 200;

    public Task<List<CoursePose>> Own(int course) =>
        db.CoursePoses.AsNoTracking().Where(p => p.CourseId == course).OrderBy(p => p.Name).Take(MostOwn).ToListAsync();

    /// <summary>A pose by its address: of the catalogue, or one of this course's own. Null for neither.</summary>
    public async Task<Pose?> Find(int course, string? id)
    {
        if (id is null || !id.StartsWith(OwnPrefix, StringComparison.Ordinal))
            return FigureCatalogue.Poses.FirstOrDefault(p => p.Id == id);
        if (!int.TryParse(id[OwnPrefix.Length..], NumberStyles.None, CultureInfo.InvariantCulture, out var n))
            return null;
        return await db.CoursePoses.AsNoTracking().SingleOrDefaultAsync(p => p.Id == n && p.CourseId == course) is { } own
            ? Read(own)
            : null;
    }

    public static Pose Read(CoursePose own) =>
        Pose.Read(own.Json, FigureCatalogue.Tables) with
        {
            Id = $"{OwnPrefix}{own.Id}",
            Name = own.Name,
        };

    /// <summary>Keeps a changed pose as the course's own.</summary>
    /// <exception cref="InputException">No name, too long a one, a name in use, or a pose that doesn't stand.</exception>
    public async Task<CoursePose> Save(Course course, Pose pose, FigureModel model, string name, string basedOn, string by)
    {
        name = Names.Checked(name, "Name", 60);
        if (await db.CoursePoses.AnyAsync(p => p.CourseId == course.Id && p.Name == name))
            throw new InputException($"the course has a pose called {name}", "Name", "another name");
        if (await db.CoursePoses.CountAsync(p => p.CourseId == course.Id) >= MostOwn)
            throw new InputException($"the course has {MostOwn} poses of its own", "Name", "take one away first");
        if (!model.Stance.Stands)
            throw new InputException(
                model.Stance.OutOfReach > 0.3f
                    ? "a hand or foot doesn't reach its place: lower the pelvis or lift the heel"
                    : "the figure would fall: its weight lies outside its feet",
                "Name",
                "a pose that stands"
            );
        var own = new CoursePose
        {
            CourseId = course.Id,
            Name = name,
            Json = (pose with { Id = "own", Name = name, Strain = PoseEdit.StrainOf(model).Strain.Word() }).ToJson(),
            BasedOn = basedOn,
            By = by,
            At = clock.GetCurrentInstant(),
        };
        db.CoursePoses.Add(own);
        await db.SaveChangesAsync();
        return own;
    }

    public async Task Remove(Course course, string id)
    {
        if (!int.TryParse(id.Replace(OwnPrefix, "", StringComparison.Ordinal), NumberStyles.None, CultureInfo.InvariantCulture, out var n))
            throw new InputException("no pose of the course", "pose", "one of the course's own");
        await db.CoursePoses.Where(p => p.Id == n && p.CourseId == course.Id).ExecuteDeleteAsync();
    }

    /// <summary>The pose of a meeting's long sitting; contrapposto where it has none with a model.</summary>
    public static string LongPoseOf(Meeting? meeting) => meeting?.Plan.LongPose?.PoseIds is [var p, ..] ? p : "contrapposto";

    /// <summary>A seat by its number where none was set: the first in front, the others to both sides in turn, 18° apart, never
    /// straight behind; a second row stands a metre back.</summary>
    public static Seat Default(int? number)
    {
        var n = Math.Max(0, (number ?? 1) - 1);
        var (row, place) = (n / 15, n % 15);
        var azimuth = 18.0 * ((place + 1) / 2) * (place % 2 == 1 ? 1 : -1);
        return new(azimuth + (row * 9), 3.2 + row, 1.25 + (0.25 * row));
    }

    public async Task<Seat> SeatOf(int meeting, int person, int? number) =>
        await db.Seatings.AsNoTracking().SingleOrDefaultAsync(s => s.MeetingId == meeting && s.PersonId == person) is { } s
            ? new(s.Azimuth, s.Distance, s.EyeHeight)
            : Default(number);

    public async Task Sit(int meeting, int person, Seat seat)
    {
        seat.Checked();
        var azimuth = Math.IEEERemainder(seat.Azimuth, 360);
        await db.Database.ExecuteSqlAsync(
            $"insert into seatings (meeting_id, person_id, azimuth, distance, eye_height, pinned) values ({meeting}, {person}, {azimuth}, {seat.Distance}, {seat.EyeHeight}, false) on conflict (meeting_id, person_id) do update set azimuth = excluded.azimuth, distance = excluded.distance, eye_height = excluded.eye_height, spot = null, pinned = false"
        );
    }
}
