using System.Globalization;
using System.Reflection;
using System.Security.Claims;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Access;

/// <summary>The one place where the right to see or change anything of a course is decided. Every page under /courses/{course}
/// passes here: the person must be a member, in a role that the page allows, and whatever else the address names must belong
/// to the course and, for a student, be the student's own. Anything else does not exist for them (404).</summary>
public sealed class CourseGate : IAsyncPageFilter, IOrderedFilter
{
    /// <summary>Before every other filter: nothing of a page may run, not even to show a problem, before the right to it is known.</summary>
    public int Order => -100;

    /// <summary>Route values this gate knows. An address with another one is refused, so that a new kind of thing can't be
    /// reached before its rule stands here.</summary>
    public static readonly IReadOnlySet<string> Known = new HashSet<string>
    {
        "course",
        "meeting",
        "sheet",
        "round",
        "assignment",
        "drillsheet",
        "project",
        "work",
        "plan",
        "student",
        "set",
        "sitter",
        "pose",
        "things",
        "page",
        "handler",
        "n",
        "area",
    };

    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    public async Task OnPageHandlerExecutionAsync(PageHandlerExecutingContext context, PageHandlerExecutionDelegate next)
    {
        var route = context.RouteData.Values;
        if (!route.TryGetValue("course", out var raw))
        {
            await next();
            return;
        }
        var http = context.HttpContext;
        var db = http.RequestServices.GetRequiredService<HarborContext>();
        var scope = http.RequestServices.GetRequiredService<CourseScope>();
        // A page that is only read changes nothing: what it reads need not be remembered for comparison.
        if (HttpMethods.IsGet(http.Request.Method))
            db.ChangeTracker.QueryTrackingBehavior = QueryTrackingBehavior.NoTracking;
        if (
            route.Keys.Any(k => !Known.Contains(k))
            || !Number(raw, out var courseId)
            || !Number(http.User.FindFirstValue(ClaimTypes.NameIdentifier), out var personId)
        )
        {
            context.Result = new NotFoundResult();
            return;
        }
        var member = await Member(db, courseId, personId);
        if (member is null)
        {
            context.Result = new NotFoundResult();
            return;
        }
        scope.Member = member;
        // The name as it is now: the cookie's may be older.
        if (Visit.Now is { } visit)
            (visit.CourseId, visit.Name) = (courseId, member.Person.Name);
        if (!Allowed(context, member.Role))
        {
            context.Result = new StatusCodeResult(StatusCodes.Status403Forbidden);
            return;
        }
        scope.Looks = context.HandlerInstance.GetType().IsDefined(typeof(LooksAttribute), false);
        if (!await Load(route, db, scope))
        {
            context.Result = new NotFoundResult();
            return;
        }
        if (scope is { IsStudent: false, Sheet.Student.Minor: true } && HttpMethods.IsGet(http.Request.Method))
            await http.RequestServices.GetRequiredService<Store.Actions.LogActions>().Viewed(scope.Course, scope.Sheet);
        // What belongs to a person is kept by no cache on the way.
        http.Response.OnStarting(() =>
        {
            if (!http.Response.Headers.ContainsKey("Cache-Control"))
                http.Response.Headers.CacheControl = "private, no-store";
            return Task.CompletedTask;
        });
        await next();
    }

    private static bool Allowed(PageHandlerExecutingContext context, CourseRole role)
    {
        // A page that names no handler for the request still answers its view: the page's own rule holds then.
        var rules = new[]
        {
            context.HandlerInstance.GetType().GetCustomAttribute<ForAttribute>(),
            context.HandlerMethod?.MethodInfo.GetCustomAttribute<ForAttribute>(),
        };
        return rules.All(r => r is null || r.Roles.Contains(role));
    }

    private static Task<Membership?> Member(HarborContext db, int course, int person) =>
        db
            .Memberships.Include(m => m.Course)
            .Include(m => m.Person)
            .SingleOrDefaultAsync(m => m.CourseId == course && m.PersonId == person);

    /// <summary>Loads anew what an address names, after somebody else changed it.</summary>
    /// <returns>False where it is gone.</returns>
    public static async Task<bool> Again(HttpContext http)
    {
        var db = http.RequestServices.GetRequiredService<HarborContext>();
        var scope = http.RequestServices.GetRequiredService<CourseScope>();
        var (course, person) = (scope.Member.CourseId, scope.Member.PersonId);
        if (await Member(db, course, person) is not { } member)
            return false;
        scope.Member = member;
        return await Load(http.Request.RouteValues, db, scope);
    }

    private static async Task<bool> Load(RouteValueDictionary route, HarborContext db, CourseScope scope)
    {
        var course = scope.Course.Id;
        var me = scope.Member.PersonId;
        var all = !scope.IsStudent;
        if (
            Names(route, "meeting", out var id)
            && (scope.Meeting = await db.Meetings.SingleOrDefaultAsync(m => m.Id == id && m.CourseId == course)) is null
        )
            return false;
        if (
            Names(route, "sheet", out id)
            && (
                scope.Sheet = await db
                    .Sheets.Include(s => s.Student)
                    .SingleOrDefaultAsync(s => s.Id == id && s.CourseId == course && (all || s.StudentId == me))
                    ?? (scope.Looks ? await Together(db, id, course, me) : null)
            )
                is null
        )
            return false;
        if (
            Names(route, "round", out id)
            && (scope.Round = await db.DrillRounds.SingleOrDefaultAsync(r => r.Id == id && r.CourseId == course && r.StudentId == me))
                is null
        )
            return false;
        if (
            Names(route, "assignment", out id)
            && (
                scope.Assignment = await db.Assignments.SingleOrDefaultAsync(a =>
                    a.Id == id && a.CourseId == course && (all || a.StudentId == me)
                )
            )
                is null
        )
            return false;
        if (
            Names(route, "drillsheet", out id)
            && (
                scope.DrillSheet = await db
                    .PaperSheets.Include(s => s.Student)
                    .SingleOrDefaultAsync(s => s.Id == id && s.CourseId == course && (all || s.StudentId == me))
            )
                is null
        )
            return false;
        if (
            Names(route, "project", out id)
            && (scope.Project = await db.Projects.SingleOrDefaultAsync(p => p.Id == id && p.CourseId == course)) is null
        )
            return false;
        // The book of models is the instructors' own.
        if (
            Names(route, "sitter", out id)
            && (
                scope.Sitter = await db.BookedModels.SingleOrDefaultAsync(m =>
                    m.Id == id && m.CourseId == course && m.LeftAt == null && scope.IsInstructor
                )
            )
                is null
        )
            return false;
        // A course's own project is a plan of the instructor's: pages that name one are for instructors.
        if (
            Names(route, "plan", out id)
            && (scope.Plan = await db.ProjectPlans.SingleOrDefaultAsync(p => p.Id == id && p.CourseId == course && all)) is null
        )
            return false;
        if (
            Names(route, "work", out id)
            && (
                scope.Work = await db
                    .ProjectWorks.Include(w => w.Project)
                    .Include(w => w.Student)
                    .SingleOrDefaultAsync(w => w.Id == id && w.Project.CourseId == course && (all || w.StudentId == me))
            )
                is null
        )
            return false;
        if (route.TryGetValue("set", out var set))
        {
            if (!Guid.TryParse(Convert.ToString(set, CultureInfo.InvariantCulture), out var setId))
                return false;
            scope.Set = await db
                .Sheets.Include(s => s.Student)
                .Where(s => s.SetId == setId && s.CourseId == course && (all || s.StudentId == me))
                .OrderBy(s => s.SetAt)
                .ToListAsync();
            if (scope.Set.Count == 0)
                return false;
        }
        if (
            Names(route, "student", out id)
            && (
                scope.Student = await db
                    .Memberships.Include(m => m.Person)
                    .SingleOrDefaultAsync(m =>
                        m.CourseId == course && m.PersonId == id && m.Role == CourseRole.Student && (all || m.PersonId == me)
                    )
            )
                is null
        )
            return false;
        return true;
    }

    /// <summary>The sheet of somebody whom a student draws a project together with: its picture is theirs too.</summary>
    private static async Task<Sheet?> Together(HarborContext db, int sheet, int course, int me)
    {
        if (
            await db
                .Sheets.AsNoTracking()
                .Include(s => s.Student)
                .SingleOrDefaultAsync(s => s.Id == sheet && s.CourseId == course && s.WorkId != null)
            is not { } found
        )
            return null;
        var groups = await db
            .ProjectWorks.Where(w => w.Id == found.WorkId && w.Project.Works.Any(o => o.StudentId == me))
            .Select(w => w.Project.Groups)
            .SingleOrDefaultAsync();
        return groups?.Any(g => g.Of(me) is not null && g.Of(found.StudentId) is not null) == true ? found : null;
    }

    private static bool Names(RouteValueDictionary route, string key, out int id)
    {
        id = -1;
        if (!route.TryGetValue(key, out var raw))
            return false;
        Number(raw, out id);
        return true;
    }

    private static bool Number(object? raw, out int value) =>
        int.TryParse(Convert.ToString(raw, CultureInfo.InvariantCulture), NumberStyles.None, CultureInfo.InvariantCulture, out value);
}
