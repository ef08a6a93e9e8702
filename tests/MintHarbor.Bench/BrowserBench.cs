using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Browser.Tests;
using MintHarbor.Web.Tests;

namespace MintHarbor.Bench;

/// <summary>From a landmark let go to its new findings on the screen, in a real browser.</summary>
public sealed class BrowserBench(Report report, bool quick)
{
    public async Task Run()
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var b = new Browser.Tests.Browser("bench", address);
        b.Go("/sign-in").Click("button", "Edda Quill");
        b.At("/today");
        var id = await app.Read(db => db.Sheets.Where(s => s.Student.Name == "Maren Holt").Select(s => s.Id).FirstAsync());
        b.Go($"/courses/1/critique/{id}/bench");
        b.See("svg.over");
        // From a move under the finger to the frame that shows the mark with its lines; the page's own listener on the document comes first.
        b.Js<object?>(
            "window.moves = []; window.addEventListener('pointermove', e => { if (e.buttons) requestAnimationFrame(() => window.moves.push(performance.now() - e.timeStamp)); });"
        );
        // From the pointer's going up to the frame after the answer stands on the page.
        b.Js<object?>(
            """
            window.drops = [];
            let up = 0;
            document.addEventListener('pointerup', () => { up = performance.now(); }, true);
            document.body.addEventListener('htmx:afterSwap', () => requestAnimationFrame(() => { if (up) window.drops.push(performance.now() - up); up = 0; }));
            """
        );
        var runs = quick ? 12 : 50;
        var marks = b.Js<IReadOnlyCollection<object>>(
                "const k = Number(document.querySelector('svg.over').dataset.scale); return [...document.querySelectorAll('.landmark')].filter(l => ['pit', 'pubic', 'elbow.R', 'elbow.L', 'kneetop.L', 'kneetop.R'].includes(l.dataset.id)).map(l => { const m = l.getAttribute('transform').match(/translate\\(([-\\d.]+)[ ,]+([-\\d.]+)/); return `${l.dataset.id} ${m[1] / k} ${m[2] / k}`; })"
            )
            .Cast<string>()
            .Select(s => s.Split(' '))
            .ToList();
        for (var n = 0; n < runs; n++)
        {
            var m = marks[n % marks.Count];
            var (x, y) = (double.Parse(m[1], CultureInfo.InvariantCulture), double.Parse(m[2], CultureInfo.InvariantCulture));
            b.Swapped(() => b.DragLandmark(m[0], x + 3 + (n % 5), y + 2 + (n % 3)));
        }
        b.Until(() => b.Js<long>("return window.drops.length") >= runs, "the drops");
        List<double> Sorted(string script) =>
            [.. b.Js<IReadOnlyCollection<object>>(script).Select(v => Convert.ToDouble(v, CultureInfo.InvariantCulture)).Order()];
        var all = Sorted("return window.drops");
        var answers = Sorted(
            "return performance.getEntriesByType('resource').filter(r => r.name.endsWith('/place')).map(r => r.responseEnd - r.startTime)"
        );
        var moves = Sorted("return window.moves");
        report.Add(
            "browser",
            $"mark moved under the finger to its lines on screen, p95 of {moves.Count}",
            moves[moves.Count * 95 / 100],
            "ms",
            atMost: 40,
            note: $"median {moves[moves.Count / 2]:0.0} ms"
        );
        report.Add("browser", "of which until the server's answer was in", answers[answers.Count / 2], "ms");
        report.Add(
            "browser",
            $"landmark dropped to findings on screen, median of {all.Count}",
            all[all.Count / 2],
            "ms",
            atMost: 100,
            note: $"slowest {all[^1]:0} ms"
        );
    }
}
