using MintHarbor.Core.Hands;
using Xunit;

namespace MintHarbor.Core.Tests.Hands;

/// <summary>What a page may send as a drawing, and what it may not.</summary>
public sealed class PenTraceTests
{
    [Fact]
    public void A_trace_comes_back_as_it_was_written()
    {
        var trace = PenTrace.Read("""{"tool":"pen","mm":0.31,"glances":2,"tilt":35,"strokes":[[1,2,0,0.4,3,4,16,0.5],[9,9,400,0.1]]}""");
        Assert.Equal((PenTool.Pen, 0.31, 2, 35.0, 1), (trace.Tool, trace.Mm, trace.Glances, trace.Tilt!.Value, trace.Lifts));
        Assert.Equal(new PenPlace(3, 4, 16, 0.5), trace.Strokes[0][1]);
        Assert.Equal(0.016, trace.Seconds, 6);
        var again = PenTrace.Read(trace.Write());
        Assert.Equal(trace.Strokes.SelectMany(s => s), again.Strokes.SelectMany(s => s));
    }

    [Theory]
    [InlineData(null, "nothing is drawn")]
    [InlineData("", "nothing is drawn")]
    [InlineData("{}", "nothing is drawn")]
    [InlineData("""{"tool":"pen","mm":0.3,"strokes":[]}""", "nothing is drawn")]
    [InlineData("""{"tool":"pen","mm":0.3,"strokes":[[]]}""", "nothing is drawn")]
    [InlineData("""{"tool":"pen","mm":0.3,"strokes":[null]}""", "nothing is drawn")]
    [InlineData("[1,2", "no drawing")]
    [InlineData("""{"tool":"brush","mm":0.3,"strokes":[[1,2,0,0]]}""", "brush")]
    [InlineData("""{"tool":"7","mm":0.3,"strokes":[[1,2,0,0]]}""", "7")]
    [InlineData("""{"tool":"pen","mm":0,"strokes":[[1,2,0,0]]}""", "0 mm")]
    [InlineData("""{"tool":"pen","mm":1e99,"strokes":[[1,2,0,0]]}""", "mm a unit")]
    [InlineData("""{"tool":"pen","mm":0.3,"strokes":[[1,2,0]]}""", "a place that is none")]
    [InlineData("""{"tool":"pen","mm":0.3,"strokes":[[1e300,2,0,0]]}""", "a place that is none")]
    public void What_is_no_drawing_is_refused_by_what_is_wrong(string? json, string names)
    {
        var e = Assert.Throws<InputException>(() => PenTrace.Read(json));
        Assert.Contains(names, e.Message);
        Assert.NotEmpty(e.Accepted);
    }

    [Fact]
    public void Strokes_outside_the_field_and_clocks_set_back_are_survived()
    {
        var trace = PenTrace.Read("""{"tool":"finger","mm":0.3,"strokes":[[-90000,5,100,2,99999,5,40,-1]]}""");
        Assert.All(trace.Strokes[0], p => Assert.InRange(p.X, -2000, 4000));
        Assert.Equal(0, trace.Seconds);
        Assert.Equal([1, 0], trace.Strokes[0].Select(p => p.Pressure));
    }

    [Fact]
    public void Very_many_places_are_thinned_and_too_many_refused_by_number()
    {
        string Of(int places) =>
            $$"""{"tool":"pen","mm":0.3,"strokes":[[{{string.Join(",", Enumerable.Range(0, places).Select(i => $"{i % 300},{i / 300},{i},0.5"))}}]]}""";
        var kept = PenTrace.Read(Of(19_000));
        Assert.InRange(kept.Strokes[0].Count, 2_000, PenTrace.KeptPlaces + 1);
        Assert.Equal(18_999, kept.Strokes[0][^1].Ms);
        Assert.Contains("50000 places", Assert.Throws<InputException>(() => PenTrace.Read(Of(50_000))).Message);
    }
}
