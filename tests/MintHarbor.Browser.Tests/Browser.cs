using System.Globalization;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Interactions;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>One person's browser: headless Chromium of a given size. It waits on conditions, never on time, and reports every
/// console error.</summary>
public sealed class Browser : IDisposable
{
    private static readonly TimeSpan Limit = TimeSpan.FromSeconds(30);
    private readonly string profile = Directory.CreateTempSubdirectory("harbor-chromium-").FullName;
    private readonly string name;

    public ChromeDriver Driver { get; }
    public string Base { get; set; }

    /// <summary>Console errors that a test has brought about on purpose.</summary>
    public List<string> Expected { get; } = [];

    public Browser(string name, string address, int width = 1280, int height = 800)
    {
        (this.name, Base) = (name, address.TrimEnd('/'));
        var o = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        o.AddArguments(
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-dev-shm-usage",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--disable-extensions",
            "--hide-scrollbars",
            "--force-device-scale-factor=1",
            "--lang=en",
            "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1",
            $"--user-data-dir={profile}"
        );
        o.SetLoggingPreference(LogType.Browser, LogLevel.All);
        Driver = new ChromeDriver(ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver"), o, TimeSpan.FromSeconds(90));
        Size(width, height);
    }

    public void Size(int width, int height) =>
        Driver.ExecuteCdpCommand(
            "Emulation.setDeviceMetricsOverride",
            new Dictionary<string, object?>
            {
                ["width"] = width,
                ["height"] = height,
                ["deviceScaleFactor"] = 1,
                ["mobile"] = false,
            }
        );

    public Browser Go(string path)
    {
        Driver.Navigate().GoToUrl(path.StartsWith("http", StringComparison.Ordinal) ? path : Base + path);
        return this;
    }

    public string Path => new Uri(Driver.Url).PathAndQuery;

    public T Until<T>(Func<T> condition, string what)
    {
        var end = DateTime.UtcNow + Limit;
        Exception? last = null;
        while (DateTime.UtcNow < end)
        {
            try
            {
                var value = condition();
                if (value is not null && value is not false)
                    return value;
            }
            catch (Exception e)
                when (e is WebDriverException or InvalidOperationException or FormatException or ArgumentOutOfRangeException)
            {
                last = e;
            }
            Thread.Yield();
        }
        throw new TimeoutException($"{name} waited in vain for {what} at {Driver.Url}. {last?.Message}");
    }

    public IWebElement See(string css) => Until(() => Driver.FindElements(By.CssSelector(css)).FirstOrDefault(e => e.Displayed), css)!;

    /// <summary>The element that holds this text, when it is there.</summary>
    public IWebElement Text(string text, string within = "body") =>
        Until(
            () => Driver.FindElements(By.CssSelector(within)).FirstOrDefault(e => e.Text.Contains(text, StringComparison.Ordinal)),
            $"the text “{text}” in {within}"
        )!;

    public IWebElement Named(string css, string text) =>
        Until(
            () =>
                Driver
                    .FindElements(By.CssSelector(css))
                    .FirstOrDefault(e => e.Displayed && e.Text.Contains(text, StringComparison.Ordinal)),
            $"{css} “{text}”"
        )!;

    public void Click(string css, string? text = null)
    {
        Until(
            () =>
            {
                var e = text is null ? See(css) : Named(css, text);
                Rest(e);
                e.Click();
                return true;
            },
            $"a click on {css} {text}"
        );
    }

    /// <summary>Brings an element into view and waits until the page has come to rest about it: a press and its release on a page that
    /// moves between them are no click.</summary>
    private void Rest(IWebElement e) =>
        Driver.ExecuteAsyncScript(
            """
            const [e, done] = arguments;
            e.scrollIntoView({ block: "center" });
            let before = "";
            (function look() {
              const r = e.getBoundingClientRect();
              const now = [r.left, r.top, r.width, r.height].join(" ");
              const settled = document.fonts.status === "loaded" && !document.querySelector(".htmx-swapping, .htmx-settling");
              if (now === before && settled) done();
              else if (!e.isConnected) done();
              else { before = now; requestAnimationFrame(look); }
            })();
            """,
            e
        );

    /// <summary>From here every answer takes so much longer.</summary>
    public void Slow(int milliseconds)
    {
        Driver.ExecuteCdpCommand("Network.enable", []);
        Driver.ExecuteCdpCommand(
            "Network.emulateNetworkConditions",
            new Dictionary<string, object?>
            {
                ["offline"] = false,
                ["latency"] = milliseconds,
                ["downloadThroughput"] = -1,
                ["uploadThroughput"] = -1,
            }
        );
    }

    public void Type(string css, string text)
    {
        var e = See(css);
        e.Clear();
        e.SendKeys(text);
    }

    public void Choose(string css, string value) => new OpenQA.Selenium.Support.UI.SelectElement(See(css)).SelectByValue(value);

    /// <summary>Sets a date or time field, whose keys depend on the browser's language.</summary>
    public void Set(string css, string value) =>
        Js<object>("arguments[0].value = arguments[1]; arguments[0].dispatchEvent(new Event('change', {bubbles: true}))", See(css), value);

    public void Keys(string keys) => new Actions(Driver).SendKeys(keys).Perform();

    public T Js<T>(string script, params object[] args) => (T)Driver.ExecuteScript(script, args)!;

    public void At(string path) => Until(() => System.Text.RegularExpressions.Regex.IsMatch(Path, path), $"the address {path}");

    /// <summary>Clicks a place of the sheet on the bench, given in millimetres.</summary>
    public void ClickSheet(double x, double y)
    {
        var (px, py) = OnScreen(x, y);
        new Actions(Driver).MoveToLocation(px, py).Click().Perform();
    }

    public void DragLandmark(string id, double x, double y)
    {
        var (px, py) = OnScreen(x, y);
        var from = Js<IReadOnlyCollection<object>>(
                "const r = document.querySelector(`.landmark[data-id=\"${arguments[0]}\"] circle`).getBoundingClientRect(); return [r.left + r.width / 2, r.top + r.height / 2]",
                id
            )
            .Select(v => Convert.ToDouble(v, CultureInfo.InvariantCulture))
            .ToList();
        new Actions(Driver)
            .MoveToLocation((int)Math.Round(from[0]), (int)Math.Round(from[1]))
            .ClickAndHold()
            .MoveToLocation(px - 4, py - 4)
            .MoveToLocation(px, py)
            .Release()
            .Perform();
    }

    /// <summary>Moves a mark by so many pixels of the screen.</summary>
    public void NudgeLandmark(string id, int x, int y)
    {
        var mark = See($".landmark[data-id=\"{id}\"] .hit");
        Rest(mark);
        new Actions(Driver).ClickAndHold(mark).MoveByOffset(x, y).Release().Perform();
    }

    /// <summary>Does something that the server answers with a new sheet, and waits until it stands on the page.</summary>
    public void Swapped(Action act)
    {
        Until(
            () => Js<bool>("const s = document.querySelector('#sheet'); if (!s) return false; s.dataset.old = '1'; return true"),
            "the sheet"
        );
        act();
        Until(
            () =>
                Js<bool>(
                    "const s = document.querySelector('#sheet'); return !!s && !s.dataset.old && !s.classList.contains('htmx-settling')"
                ),
            "the sheet to be answered"
        );
    }

    private (int X, int Y) OnScreen(double x, double y)
    {
        var p = Js<IReadOnlyCollection<object>>(
                "const s = document.querySelector('svg.over'); s.scrollIntoView({block: 'center'}); const m = s.getScreenCTM(), k = Number(s.dataset.scale); return [arguments[0] * k * m.a + m.e, arguments[1] * k * m.d + m.f]",
                x,
                y
            )
            .Select(v => Convert.ToDouble(v, CultureInfo.InvariantCulture))
            .ToList();
        return ((int)Math.Round(p[0]), (int)Math.Round(p[1]));
    }

    public void Save(string reason)
    {
        var file = System.IO.Path.Combine(System.IO.Path.GetTempPath(), $"harbor-{reason}-{name}-{DateTime.UtcNow:HHmmss}.png");
        Driver.GetScreenshot().SaveAsFile(file);
        TestContext.Current.SendDiagnosticMessage("picture saved: " + file);
    }

    /// <summary>Fails on anything the console calls an error.</summary>
    public void NoErrors()
    {
        var errors = Driver
            .Manage()
            .Logs.GetLog(LogType.Browser)
            .Where(l => l.Level >= LogLevel.Severe && !Expected.Any(e => l.Message.Contains(e, StringComparison.Ordinal)))
            .Select(l => l.Message)
            .ToList();
        Assert.True(errors.Count == 0, $"{name}'s console: {string.Join('\n', errors)}");
    }

    public void Dispose()
    {
        Driver.Quit();
        Driver.Dispose();
        try
        {
            Directory.Delete(profile, recursive: true);
        }
        catch (IOException)
        {
            // Chromium may still be writing its last file; the folder lies in the system's temporary place.
        }
    }
}
