using MintHarbor.Core.Courses;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using MintHarbor.Web.Tests;

namespace MintHarbor.Browser.Tests;

/// <summary>The application on a real port, and drawings to hand in.</summary>
public static class Studio
{
    public static (HarborApp App, string Address) Open(string connection, bool demo, NodaTime.IClock? clock = null)
    {
        var app = new HarborApp(connection, demo, kestrel: true, clock);
        app.StartServer();
        return (app, app.ClientOptions.BaseAddress.ToString().Replace("localhost", "127.0.0.1"));
    }

    /// <summary>The demo, for as long as a walk takes.</summary>
    public static async Task Demo(Func<HarborApp, string, Task> walk)
    {
        var (app, address) = Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        await walk(app, address);
    }

    /// <summary>Somebody of the demo signs in and walks; what goes wrong saves its picture.</summary>
    /// <param name="name">Of the picture.</param>
    public static async Task As(string name, string who, string address, Func<Browser, Task> walk, int width = 1280, int height = 800)
    {
        using var b = new Browser(name, address, width, height);
        try
        {
            b.Go("/sign-in").Click("button", who);
            b.At("/today");
            await walk(b);
            b.NoErrors();
        }
        catch
        {
            b.Save(name);
            throw;
        }
    }

    public static (string File, SimulatedDrawing Drawing) Photograph(DrawingFaults faults, long seed)
    {
        var drawing = SimulatedHand.Draw("stand-male-0", PaperSize.Find("18x24in")!, 500, faults, 0.6, seed);
        var file = Path.Combine(Path.GetTempPath(), $"harbor-sheet-{Guid.NewGuid():N}.jpg");
        File.WriteAllBytes(file, SheetCamera.Take(drawing, 1500, 2000, 0.8, seed).Jpeg);
        return (file, drawing);
    }
}
