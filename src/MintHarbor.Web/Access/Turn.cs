using System.Globalization;
using System.Reflection;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.Infrastructure;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Web.Access;

/// <summary>Two writers of one thing come one after the other, and each sees what the one before did: whatever a page posts runs in one
/// transaction that holds the thing its address names. What is refused leaves nothing behind. The same form sent twice, by a double click or
/// a line that broke off, is done once: the second is led to where the first went.</summary>
public sealed class Turn : IAsyncPageFilter, IOrderedFilter
{
    /// <summary>Before the gate: what it loads must be what the writer before has left.</summary>
    public int Order => -200;

    /// <summary>What an address may name, the narrowest first.</summary>
    private static readonly string[] Things =
    [
        "round",
        "drillsheet",
        "sheet",
        "set",
        "work",
        "plan",
        "assignment",
        "project",
        "student",
        "meeting",
        "course",
    ];

    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    public async Task OnPageHandlerExecutionAsync(PageHandlerExecutingContext context, PageHandlerExecutionDelegate next)
    {
        var http = context.HttpContext;
        if (!HttpMethods.IsPost(http.Request.Method) || Entry.Of(http.User) is not var (_, person) || WaitsItself(context))
        {
            await next();
            return;
        }
        var db = http.RequestServices.GetRequiredService<HarborContext>();
        await using var turn = await db.Database.BeginTransactionAsync();
        await Turns.Hold(db, Thing(context, person));
        var once = await Once.Of(http.Request, person);
        if (once is not null && await db.OnceKeys.AsNoTracking().SingleOrDefaultAsync(o => o.Key == once.Key) is { } before)
        {
            // The same key with other words is another form: somebody went back and wrote it anew.
            if (before.Sent == once.Sent)
            {
                context.Result = new RedirectResult(before.Went);
                return;
            }
            once = null;
        }
        var done = await next();
        // A clash has ended the transaction already.
        if (db.Database.CurrentTransaction is null || !Kept(done))
            return;
        if (once is not null)
        {
            once.Went = Went(done, http.Request);
            once.At = http.RequestServices.GetRequiredService<IClock>().GetCurrentInstant();
            db.OnceKeys.Add(once);
            await db.SaveChangesAsync();
        }
        await turn.CommitAsync();
    }

    private static bool WaitsItself(PageHandlerExecutingContext context) =>
        context.HandlerMethod?.MethodInfo.GetCustomAttribute<WaitsItselfAttribute>() is not null;

    private static bool Kept(PageHandlerExecutedContext done) =>
        done.Exception is null
        && done.Result is not IStatusCodeActionResult { StatusCode: >= StatusCodes.Status400BadRequest }
        && done.HttpContext.Response.StatusCode < StatusCodes.Status400BadRequest;

    /// <summary>Where somebody is led who sends it again: where the first was led, or the page whose form it was.</summary>
    private static string Went(PageHandlerExecutedContext done, HttpRequest request) =>
        done.Result switch
        {
            RedirectResult r => r.Url,
            LocalRedirectResult r => r.Url,
            _ => Entry.PageOf(request),
        };

    private static string Thing(PageHandlerExecutingContext context, int person)
    {
        var route = context.RouteData.Values;
        // What only its person writes needs wait for nobody else.
        var name = context.HandlerInstance.GetType().GetCustomAttribute<OnesOwnAttribute>() is null
            ? Things.FirstOrDefault(route.ContainsKey)
            : null;
        return name is null
            ? $"person {person}"
            : $"{name} {Convert.ToString(route[name], CultureInfo.InvariantCulture)?.ToLowerInvariant()}";
    }
}

/// <summary>A handler that works long before it writes (a photograph is read and laid flat) and holds nothing meanwhile; it has a key and a
/// transaction of its own.</summary>
[AttributeUsage(AttributeTargets.Method)]
public sealed class WaitsItselfAttribute : Attribute;

/// <summary>A page on which everybody writes what is theirs alone.</summary>
[AttributeUsage(AttributeTargets.Class)]
public sealed class OnesOwnAttribute : Attribute;

/// <summary>The key that every form of a page carries, and a print of what was sent with it.</summary>
public static class Once
{
    public const string Field = "once";

    private static readonly string[] Unlike = [Field, Stood.Field, "kept", "__RequestVerificationToken"];

    /// <summary>Null for a form without one, as a script's own.</summary>
    public static async Task<OnceKey?> Of(HttpRequest request, int person)
    {
        if (!request.HasFormContentType)
            return null;
        IFormCollection form;
        try
        {
            form = await request.ReadFormAsync();
        }
        catch (InvalidDataException)
        {
            // What can't be read is refused where the page is known.
            return null;
        }
        if (!Guid.TryParse(form[Field].ToString(), out var key))
            return null;
        var sent = new StringBuilder().Append(CultureInfo.InvariantCulture, $"{person} {request.Path}{request.QueryString}\n");
        foreach (var f in form.Where(f => !Unlike.Contains(f.Key)).OrderBy(f => f.Key, StringComparer.Ordinal))
            sent.Append(CultureInfo.InvariantCulture, $"{f.Key}={f.Value}\n");
        foreach (var f in form.Files)
            sent.Append(CultureInfo.InvariantCulture, $"{f.Name} {f.FileName} {f.Length}\n");
        return new()
        {
            Key = key,
            PersonId = person,
            Sent = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(sent.ToString()))),
        };
    }
}
