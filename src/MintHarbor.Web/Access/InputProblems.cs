using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Store;
using Npgsql;

namespace MintHarbor.Web.Access;

/// <summary>What can't be read or is not accepted becomes a clear answer on the page it came from, with what was typed still there; a clash with somebody
/// else's change becomes a 409. Never a 500.</summary>
public sealed class InputProblems : IAsyncPageFilter
{
    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    public async Task OnPageHandlerExecutionAsync(PageHandlerExecutingContext context, PageHandlerExecutionDelegate next)
    {
        // A handler that does not exist is a page that does not exist; without this the page would be shown unprepared, or
        // another handler than the one named would answer.
        var named = context.RouteData.Values["handler"] as string ?? context.HttpContext.Request.Query["handler"].ToString();
        if (context.HandlerMethod is null || (named.Length > 0 && context.HandlerMethod.Name is null))
        {
            context.Result = new NotFoundResult();
            return;
        }
        var unread = context.ModelState.Values.SelectMany(v => v.Errors).Select(e => e.ErrorMessage).Where(m => m != "").ToList();
        var form = context.HandlerInstance as IShowsProblems;
        var nulls = await HoldsNull(context.HttpContext.Request);
        if (nulls)
            unread = ["The text holds a null character. Accepted: any other character."];
        if (nulls || (unread.Count > 0 && form is not null))
        {
            context.HttpContext.Response.StatusCode = StatusCodes.Status400BadRequest;
            context.Result = form is null ? Plain(StatusCodes.Status400BadRequest, unread[0]) : await form.Show(string.Join(" ", unread));
            return;
        }
        if (Ended(context))
        {
            context.HttpContext.Response.StatusCode = StatusCodes.Status409Conflict;
            const string says = "The course has ended. Everything in it can be read; its instructor can open it again.";
            context.Result = form is null ? Plain(StatusCodes.Status409Conflict, says) : await form.Show(says);
            return;
        }
        var done = await next();
        var problem = done.Exception is InputException input
            ? $"{Capital(input.Message)}. Accepted: {input.Accepted}."
            : Clash(done.Exception);
        if (done.Exception is null)
            Taken(context.HttpContext);
        if (problem is null || done.ExceptionHandled)
            return;
        done.ExceptionHandled = true;
        var status = done.Exception is InputException ? StatusCodes.Status400BadRequest : StatusCodes.Status409Conflict;
        context.HttpContext.Response.StatusCode = status;
        if (status == StatusCodes.Status409Conflict && !await Theirs(context.HttpContext))
        {
            done.Result = Plain(status, "Somebody else has taken this away in the meantime.");
            return;
        }
        if (context.HandlerInstance is PageModel page && page is IShowsProblems shows)
        {
            page.ModelState.AddModelError((done.Exception as InputException)?.Field ?? "", problem);
            done.Result = await shows.Show(problem);
        }
        else
            done.Result = Plain(status, problem);
    }

    /// <summary>What two people at one moment did to one another, by what the database says of it; null for any other fault.</summary>
    private static string? Clash(Exception? e) =>
        e switch
        {
            ClashException c => c.Message,
            DbUpdateConcurrencyException =>
                "Somebody else changed this in the meantime. What you typed stands in its fields; send it once more if it still holds.",
            DbUpdateException { InnerException: PostgresException p } => Clash(p),
            PostgresException p => Clash(p),
            _ => null,
        };

    private static string? Clash(PostgresException p) =>
        p.SqlState switch
        {
            PostgresErrorCodes.UniqueViolation => "Somebody else has just made the same. Theirs is shown, and nothing was made twice.",
            PostgresErrorCodes.ForeignKeyViolation => "Somebody else has just taken away what this belongs to. What is left is shown.",
            PostgresErrorCodes.DeadlockDetected or PostgresErrorCodes.SerializationFailure =>
                "Somebody else wrote at the same moment. Send it once more.",
            _ => null,
        };

    /// <summary>Forgets what was about to be written and reads what stands.</summary>
    /// <returns>False where it is gone.</returns>
    private static async Task<bool> Theirs(HttpContext http)
    {
        var db = http.RequestServices.GetRequiredService<HarborContext>();
        if (db.Database.CurrentTransaction is { } turn)
            await turn.RollbackAsync();
        db.ChangeTracker.Clear();
        return !http.Request.RouteValues.ContainsKey("course") || await CourseGate.Again(http);
    }

    /// <summary>Something is to be written in a course that has ended.</summary>
    private static bool Ended(PageHandlerExecutingContext context) =>
        HttpMethods.IsPost(context.HttpContext.Request.Method)
        && context.HttpContext.RequestServices.GetRequiredService<CourseScope>() is { Member.Course.EndedAt: not null }
        && context.HandlerMethod?.MethodInfo.IsDefined(typeof(WhileEndedAttribute), false) != true;

    /// <summary>Tells the browser which words were taken, so that it forgets them only then.</summary>
    private static void Taken(HttpContext http)
    {
        var (request, response) = (http.Request, http.Response);
        if (
            HttpMethods.IsPost(request.Method)
            && request.HasFormContentType
            && response.StatusCode < StatusCodes.Status400BadRequest
            && request.Form["kept"].ToString() is { Length: > 0 and <= 300 } kept
        )
            response.Cookies.Append(
                "kept",
                kept,
                new()
                {
                    SameSite = SameSiteMode.Lax,
                    Secure = request.IsHttps,
                    MaxAge = TimeSpan.FromMinutes(1),
                    IsEssential = true,
                }
            );
    }

    /// <summary>The database keeps no null character, and no keyboard makes one.</summary>
    private static async Task<bool> HoldsNull(HttpRequest request)
    {
        if (!request.HasFormContentType)
            return false;
        try
        {
            return (await request.ReadFormAsync()).Any(f => f.Value.Any(v => v?.Contains('\0') == true));
        }
        catch (InvalidDataException)
        {
            // How a plain form says the same.
            return true;
        }
    }

    private static ContentResult Plain(int status, string says) =>
        new()
        {
            StatusCode = status,
            Content = says,
            ContentType = "text/plain; charset=utf-8",
        };

    private static string Capital(string s) => s.Length == 0 ? s : char.ToUpperInvariant(s[0]) + s[1..];
}

/// <summary>A page that can be shown again with a problem.</summary>
public interface IShowsProblems
{
    Task<IActionResult> Show(string problem);
}

/// <summary>A handler that may write in a course that has ended.</summary>
[AttributeUsage(AttributeTargets.Method)]
public sealed class WhileEndedAttribute : Attribute;
