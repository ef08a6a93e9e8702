using Microsoft.Extensions.Caching.Memory;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Objects;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Figures;

/// <summary>Draws views of things; the arrangements made last are kept, with how open they lie to the light.</summary>
public sealed class ThingViews : IDisposable
{
    /// <summary>Bytes of arrangements that are kept: some fifteen.</summary>
    public const long Budget = 64L << 20;

    private readonly MemoryCache made = new(new MemoryCacheOptions { SizeLimit = Budget, CompactionPercentage = 0.3 });

    /// <exception cref="Core.InputException">Things that can't be drawn.</exception>
    public ArrangementModel Model(string things)
    {
        if (made.TryGetValue(things, out ArrangementModel? kept))
            return kept!;
        var model = new ArrangementModel(Arrangement.Read(things));
        return made.Set(things, model, new MemoryCacheEntryOptions { Size = model.Bytes });
    }

    public FigureView View(ThingAddress a) =>
        StillLife.View(Model(a.Things), a.Seat, a.Kind, a.Width, a.Height, a.Values, a.Lamp, a.Preview ? 1 : 2);

    /// <summary>What is known of the view of an address, at its whole size.</summary>
    /// <exception cref="Core.InputException">Things that can't be drawn, or a seat that sees none of them.</exception>
    public ThingTruth Truth(ThingAddress a) => StillLife.Truth(Model(a.Things), a.Seat, a.Width, a.Height, a.Lamp);

    /// <summary>GET /courses/{course}/things: a view of an arrangement. It is nobody's work: members see it.</summary>
    public static async Task<IResult> Serve(int course, HttpContext http, FigureGate gate, FigureViews pictures, ThingViews views) =>
        await gate.Dress(http.User, course, true) is null ? Results.NotFound() : await pictures.Give(http, () =>
            {
                var address = ThingAddress.Read(http.Request.Query);
                return new(address, () => FigureViews.Finish(views.View(address), address.Preview, address.Blue));
            });

    public void Dispose() => made.Dispose();
}
