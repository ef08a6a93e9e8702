using System.Net;
using AngleSharp.Dom;
using AngleSharp.Html.Dom;
using AngleSharp.Html.Parser;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>What the server refuses comes back in its field: every form with words on every page, taken from the running application,
/// sent as a page without script sends it and as one with script does.</summary>
public sealed class RefusedTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private HarborApp App => fixture.App;
    private static readonly string TooLong = string.Concat(Enumerable.Repeat("too much to be kept ", 400)).Trim();

    private sealed record Sent(string Page, string To, bool ByScript, IReadOnlyList<(string Name, string Value)> Fields, string[] Words);

    [Theory]
    [InlineData(Doors.Instructor, 7), InlineData(Doors.Victim, 2)]
    public async Task Words_that_are_refused_stand_in_their_field_again(string mail, int least)
    {
        var ids = await Doors.VictimIds(App);
        var client = await App.As(mail);
        var (refused, problems) = (new List<string>(), new List<string>());
        foreach (var page in Pages(ids))
        foreach (var sent in await FormsWithWords(client, page))
        {
            var answer = await Send(client, sent);
            var (code, body) = ((int)answer.StatusCode, await answer.Content.ReadAsStringAsync());
            var what = $"{sent.Page} → {sent.To}{(sent.ByScript ? " by script" : "")}";
            if (code >= 500)
                problems.Add($"{what}: {code}");
            if (code < 400)
                continue;
            refused.Add(what);
            var lost = sent.Words.Where(w => !Shown(body, sent.To, w)).ToList();
            if (lost.Count > 0)
                problems.Add($"{what}: {code}, lost {string.Join(", ", lost)}");
        }
        Assert.True(problems.Count == 0, string.Join('\n', problems));
        Assert.True(refused.Distinct().Count() >= least, $"only {string.Join('\n', refused)}");
    }

    [Theory]
    [InlineData(Doors.Instructor), InlineData(Doors.Victim)]
    public async Task Every_form_with_words_keeps_them_in_the_browser_until_they_are_taken(string mail)
    {
        var ids = await Doors.VictimIds(App);
        var client = await App.As(mail);
        var (seen, loose) = (0, new List<string>());
        foreach (var page in Pages(ids).Where(p => p.StartsWith("/courses/", StringComparison.Ordinal)))
        {
            var answer = await client.GetAsync(page);
            if (answer.StatusCode != HttpStatusCode.OK || answer.Content.Headers.ContentType?.MediaType != "text/html")
                continue;
            foreach (var form in Parsed(await answer.Content.ReadAsStringAsync()).QuerySelectorAll<IHtmlFormElement>("form[method=post]"))
                if (Words(form).Any() && ++seen > 0 && !form.HasAttribute("data-keep"))
                    loose.Add($"{page}: {form.GetAttribute("action")}");
        }
        Assert.True(loose.Count == 0, string.Join('\n', loose));
        Assert.True(seen > 0, $"{seen} forms");
    }

    private IEnumerable<string> Pages(Dictionary<string, string> ids) =>
        Doors
            .All(App)
            .Where(d => d.Method.Equals("GET", StringComparison.OrdinalIgnoreCase) && d.Handler == "")
            .Where(d => d.Keys.All(k => k == "handler" || ids.ContainsKey(k)))
            .Select(d => Doors.Fill(d, ids))
            .Distinct();

    private static async Task<List<Sent>> FormsWithWords(HttpClient client, string page)
    {
        var answer = await client.GetAsync(page);
        if (answer.StatusCode != HttpStatusCode.OK || answer.Content.Headers.ContentType?.MediaType != "text/html")
            return [];
        var sent = new List<Sent>();
        foreach (var form in Parsed(await answer.Content.ReadAsStringAsync()).QuerySelectorAll<IHtmlFormElement>("form"))
        {
            var words = Words(form).Select(w => w.GetAttribute("name")!).Distinct().ToArray();
            if (words.Length == 0)
                continue;
            var fields = Fields(form).Where(f => !words.Contains(f.Name)).Concat(words.Select(w => (w, TooLong))).ToList();
            if (form.Method == "post")
                sent.Add(new(page, form.GetAttribute("action") is { Length: > 0 } a ? a : page, false, fields, words));
            if (form.GetAttribute("hx-post") is { } to)
                sent.Add(new(page, to, true, fields, words));
        }
        return sent;
    }

    private static IHtmlDocument Parsed(string html) => new HtmlParser().ParseDocument(html);

    private static IEnumerable<IElement> Words(IParentNode form) =>
        form.QuerySelectorAll("textarea[name], input[name]:not([type]), input[name][type=text]")
            .Where(e => e.GetAttribute("inputmode") is null);

    private static IEnumerable<(string Name, string Value)> Fields(IHtmlFormElement form)
    {
        foreach (var f in form.QuerySelectorAll("input[name], select[name]"))
            if (f is IHtmlSelectElement s)
                yield return (s.Name!, s.Value ?? "");
            else if (f is IHtmlInputElement { Type: not ("checkbox" or "radio" or "file" or "submit") } i)
                yield return (i.Name!, i.Value);
            else if (f is IHtmlInputElement { Type: "checkbox" or "radio", IsChecked: true } c)
                yield return (c.Name!, c.Value);
    }

    private static async Task<HttpResponseMessage> Send(HttpClient client, Sent sent)
    {
        var content = new MultipartFormDataContent();
        foreach (var (name, value) in sent.Fields)
            content.Add(new StringContent(value), name);
        var request = new HttpRequestMessage(HttpMethod.Post, sent.To) { Content = content };
        request.Headers.Add("RequestVerificationToken", await client.TokenFor());
        if (sent.ByScript)
            request.Headers.Add("HX-Request", "true");
        return await client.SendAsync(request);
    }

    private static bool Shown(string body, string to, string name) =>
        Parsed(body)
            .QuerySelectorAll("form")
            .Where(f => (f.GetAttribute("action") ?? to) == to || f.GetAttribute("hx-post") == to)
            .SelectMany(Words)
            .Any(w => w.GetAttribute("name") == name && (w is IHtmlTextAreaElement t ? t.Value : w.GetAttribute("value")) == TooLong);
}
