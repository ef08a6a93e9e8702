using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;

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
        var done = await next();
        var problem = done.Exception switch
        {
            InputException e => $"{Capital(e.Message)}. Accepted: {e.Accepted}.",
            DbUpdateConcurrencyException =>
                "Somebody else changed this in the meantime. Their version is shown; say yours again if it still holds.",
            _ => null,
        };
        if (done.Exception is null)
            Taken(context.HttpContext);
        if (problem is null || done.ExceptionHandled)
            return;
        done.ExceptionHandled = true;
        var status = done.Exception is InputException ? StatusCodes.Status400BadRequest : StatusCodes.Status409Conflict;
        context.HttpContext.Response.StatusCode = status;
        if (context.HandlerInstance is PageModel page && page is IShowsProblems shows)
        {
            page.ModelState.AddModelError((done.Exception as InputException)?.Field ?? "", problem);
            done.Result = await shows.Show(problem);
        }
        else
            done.Result = Plain(status, problem);
    }

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
