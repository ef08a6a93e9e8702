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

    public static (string File, SimulatedDrawing Drawing) Photograph(DrawingFaults faults, long seed)
    {
        var drawing = SimulatedHand.Draw("stand-male-0", PaperSize.Find("18x24in")!, 500, faults, 0.6, seed);
        var file = Path.Combine(Path.GetTempPath(), $"harbor-sheet-{Guid.NewGuid():N}.jpg");
        File.WriteAllBytes(file, SheetCamera.Take(drawing, 1500, 2000, 0.8, seed).Jpeg);
        return (file, drawing);
    }
}
