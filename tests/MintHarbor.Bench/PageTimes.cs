using System.Diagnostics;
using MintHarbor.Web.Tests;

namespace MintHarbor.Bench;

/// <summary>What one reader waits for a page, while something else goes on or nothing does.</summary>
internal static class PageTimes
{
    /// <summary>Somebody who is signed in over a real port, and the cookies that say so.</summary>
    public static async Task<(HttpClient Client, string Cookie)> Visitor(Uri address, string who)
    {
        var handler = new SocketsHttpHandler { AllowAutoRedirect = false, CookieContainer = new() };
        var client = new HttpClient(handler) { BaseAddress = address };
        await client.PostForm("/sign-in?handler=Demo", ("as", who));
        return (client, handler.CookieContainer.GetCookieHeader(address));
    }

    /// <summary>Milliseconds, in order, of a page that is asked for so many times, and on while something goes on; it is looked every tenth time.</summary>
    public static async Task<List<double>> Of(HttpClient by, string page, int least, Func<Task<bool>>? on = null)
    {
        var taken = new List<double>();
        while (taken.Count < least || (on is not null && (taken.Count % 10 != 0 || await on())))
        {
            var watch = Stopwatch.StartNew();
            using (var answer = await by.GetAsync(page))
                await answer.EnsureSuccessStatusCode().Content.ReadAsByteArrayAsync();
            taken.Add(watch.Elapsed.TotalMilliseconds);
            // Somebody reads in between.
            await Task.Delay(40);
        }
        taken.Sort();
        return taken;
    }

    public static double P95(List<double> of) => of[of.Count * 95 / 100];
}
