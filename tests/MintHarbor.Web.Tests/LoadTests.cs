using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Many at once, in a short form; HARBOR_SOAK=1 takes the whole room.</summary>
[Trait("form", "long")]
public sealed class LoadTests(ITestOutputHelper output)
{
    [Fact]
    public async Task A_room_sends_its_photographs_while_the_clock_runs_on_every_display()
    {
        var whole = Environment.GetEnvironmentVariable("HARBOR_SOAK") == "1";
        var r = await Load.Run(await TestDatabase.Demo(), whole ? 30 : 8, whole ? 100 : 30);
        output.WriteLine(
            $"{r.Students} photographs of 12 MP in {r.Seconds:0.0} s, the slowest {r.Uploads[^1]:0.0} s; {r.Displays} displays heard {r.Delays.Count} times, median {r.Delays[r.Delays.Count / 2]:0} ms, the latest {r.Delays[^1]:0} ms; memory {r.BeforeMegabytes:0} MB before, {r.PeakMegabytes:0} MB at most"
        );
        Assert.Equal(0, r.Failed);
        Assert.All(r.Delays, d => Assert.True(d < double.PositiveInfinity, "a display never heard of an act"));
        // Two photographs at a time are in memory; the rest wait on the line.
        Assert.True(r.PeakMegabytes - r.BeforeMegabytes < 1200, $"{r.PeakMegabytes:0} MB held, {r.BeforeMegabytes:0} MB before");
    }
}
