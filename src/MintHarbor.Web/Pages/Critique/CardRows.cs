using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using MintHarbor.Store.Actions;

namespace MintHarbor.Web.Pages.Critique;

/// <param name="Shape">holds, outside or unknown.</param>
public sealed record CardRow(string Name, string Card, string Drawn, string Shape, string Off);

/// <summary>How a drawing stands to the card that judges it, line by line.</summary>
public static class CardRows
{
    public static IReadOnlyList<CardRow> Of(SheetContext context)
    {
        if (context.Card is not { } card)
            return [];
        var findings = context.Findings.Where(f => f.Against == Against.PoseCard).ToList();
        var rows = new List<CardRow>();
        foreach (var read in card.Ratios.Where(r => r.Value is not null))
        {
            var f = findings.FirstOrDefault(f => f.Measure.CardKey == read.Key);
            rows.Add(
                new(
                    read.Key == PoseCardKeys.Heads ? "height" : read.Name,
                    Say.Fixed(read.Value!.Value, 2),
                    f?.Measured is { } m ? Say.Fixed(m, 2) : "–",
                    Shape(f),
                    f?.OffPercent is { } off ? Say.Signed(off) : ""
                )
            );
        }
        foreach (var f in findings.Where(f => f.Measure.Kind == MeasureKind.Angle && f.Expected is not null))
            rows.Add(
                new(
                    $"{f.Part}, hour",
                    ClockAngle.Say(ClockAngle.Hour(f.Expected!.Value)),
                    f.Measured is { } m ? Hour(ClockAngle.HourNear(m, f.Expected.Value)) : "–",
                    Shape(f),
                    f.Off is { } off ? Say.Signed(off) + "°" : ""
                )
            );
        foreach (var f in findings.Where(f => f.Measure.Part?.Id == Parts.Plumb))
            rows.Add(
                new(
                    "plumb, heads",
                    Say.Fixed(f.Expected ?? 0, 2),
                    f.Measured is { } m ? Say.Fixed(m, 2) : "–",
                    Shape(f),
                    f.Off is { } v ? Say.Signed(v, 2) : ""
                )
            );
        return rows;
    }

    /// <summary>To a tenth of an hour, as a hand is read.</summary>
    private static string Hour(double hours) => Say.Number(Math.Round(hours, 1) is var h && h < 1 ? h + 12 : h, 1);

    private static string Shape(Finding? f) =>
        f?.Verdict switch
        {
            Verdict.Inside => "holds",
            Verdict.Outside => "outside",
            Verdict.TooClose or Verdict.Pushed => "near",
            _ => "unknown",
        };
}
