using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Landmarks;

/// <summary>Proposes a standing figure's landmarks once crown and sole are placed: the studio figure laid over them, its head
/// drawn to the canon's count. They are starting points to be corrected, never measurements.</summary>
public static class LandmarkProposal
{
    /// <param name="crown">Crown, in mm on the sheet.</param>
    /// <param name="soles">One or both soles by id.</param>
    /// <param name="heads">Heads in the height by the canon in use.</param>
    /// <param name="pose">"standing" or "contrapposto"; others give nothing.</param>
    public static IReadOnlyDictionary<string, Vec2> From(Vec2 crown, IReadOnlyDictionary<string, Vec2> soles, double heads, string pose)
    {
        var result = new Dictionary<string, Vec2>();
        if (soles.Count == 0 || pose is not ("standing" or "contrapposto")) return result;
        var view = StudioViews.Get(pose == "standing" ? "stand-male-0" : "contrapposto-male-0");
        var foot = soles.Count == 1 ? soles.First().Value : Vec2.Mid(soles.First().Value, soles.Last().Value);
        var from = soles.Count == 1 ? view.At(soles.First().Key)!.Value : Vec2.Mid(view.At("sole.L")!.Value, view.At("sole.R")!.Value);
        var top = view.At("crown")!.Value;
        var scale = (foot.Y - crown.Y) / (from.Y - top.Y);
        if (!(scale > 0)) return result;
        // Leaning is kept: x goes along the line from crown to sole as drawn.
        double lean = ((foot.X - crown.X) - ((from.X - top.X) * scale)) / (foot.Y - crown.Y);
        var head = (view.At("chin")!.Value.Y - top.Y) * scale;
        var wanted = (foot.Y - crown.Y) / heads / head;
        foreach (var id in LandmarkIds.BenchOrder.Concat(["ribarch.L", "iliac.L"]))
        {
            if (id == "crown" || soles.ContainsKey(id) || view.At(id) is not { } p) continue;
            var d = (p - top) * scale;
            if (d.Y <= head) d *= wanted;
            result[id] = new(Math.Round(crown.X + d.X + (lean * d.Y), 1), Math.Round(crown.Y + d.Y, 1));
        }
        return result;
    }
}
