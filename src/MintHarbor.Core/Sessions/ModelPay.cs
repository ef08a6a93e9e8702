using System.Text.Json.Serialization;

namespace MintHarbor.Core.Sessions;

/// <summary>What a model is paid by.</summary>
/// <param name="RatePerHour">For one model, in <paramref name="Currency"/>.</param>
/// <param name="MinimumMinutes">The shortest booking that is paid.</param>
/// <param name="StepMinutes">A booking is rounded up to whole steps.</param>
/// <param name="RatePerPosedHour">Beside that, for each hour that is posed.</param>
public sealed record PayRules(
    double RatePerHour,
    double MinimumMinutes,
    double StepMinutes,
    string Currency,
    string Source,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)] double RatePerPosedHour = 0
);

/// <summary>What the models of one meeting are paid.</summary>
/// <param name="BookedMinutes">From the first pose to the end of the last, rests and break between them included.</param>
/// <param name="PaidMinutes">Those rounded up to whole steps, the minimum booking at least.</param>
/// <param name="Amount">For all models, to the hundredth.</param>
public sealed record ModelPay(
    int Models,
    double PosedMinutes,
    double BookedMinutes,
    double PaidMinutes,
    double Amount,
    string Currency,
    string Because
)
{
    /// <summary>Null where nobody poses.</summary>
    /// <exception cref="InputException">A rate or minimum that can't be paid.</exception>
    public static ModelPay? Of(IReadOnlyList<PlanItem> items, PlanWish wish, PayRules rules)
    {
        var posed = items.Where(i => i.Posed).ToList();
        if (posed.Count == 0)
            return null;
        if (
            rules
            is not {
                RatePerHour: >= 0 and <= 10_000,
                RatePerPosedHour: >= 0 and <= 10_000,
                MinimumMinutes: >= 0 and <= 480,
                StepMinutes: > 0 and <= 240
            }
        )
            throw new InputException(
                "a pay that can't be worked out",
                "pay",
                "ratePerHour 0 to 10000, minimumMinutes 0 to 480, stepMinutes over 0 to 240"
            );
        var models = wish.Model == ModelKind.Two ? 2 : 1;
        var booked = posed.Max(i => i.End) - posed.Min(i => i.At);
        var paid = Math.Max(rules.MinimumMinutes, Math.Ceiling((booked - 1e-9) / rules.StepMinutes) * rules.StepMinutes);
        var amount = (double)
            Math.Round(
                models
                    * (
                        ((decimal)paid * (decimal)rules.RatePerHour)
                        + ((decimal)posed.Sum(i => i.Minutes) * (decimal)rules.RatePerPosedHour)
                    )
                    / 60m,
                2,
                MidpointRounding.AwayFromZero
            );
        return new(
            models,
            posed.Sum(i => i.Minutes),
            booked,
            paid,
            amount,
            rules.Currency,
            $"first pose to last {Say.Minutes(booked)}, up to whole {Say.Number(rules.StepMinutes)} min, {Say.Number(rules.MinimumMinutes)} at least = {Say.Minutes(paid)}; × {Say.Number(rules.RatePerHour, 2)} {rules.Currency} an hour{(rules.RatePerPosedHour > 0 ? $", and {Say.Number(rules.RatePerPosedHour, 2)} for each hour posed" : "")} × {Say.Plural(models, "model")}; {rules.Source}"
        );
    }
}
