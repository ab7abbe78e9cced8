using Auxilium.Planning.Money;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>The money of a row. What compares it with the measure is <c>null</c> where there is no measure.</summary>
/// <param name="Ac">What was spent, as earned value calls it.</param>
public sealed record ScheduledRowMoney(
    decimal Planned,
    decimal Labour,
    decimal Items,
    decimal Spent,
    decimal Left,
    decimal? Budget,
    decimal? Bac,
    decimal? Pv,
    decimal? Ev,
    decimal Ac
)
{
    public static ScheduledRowMoney Of(PlanMoney money, EarnedValue? earned, int row)
    {
        var (sum, of) = (money.Of(row), earned?.Of(row));
        return new(
            ScheduledMoney.Plain(sum.Planned.Whole),
            ScheduledMoney.Plain(sum.Labour),
            ScheduledMoney.Plain(sum.Items),
            ScheduledMoney.Plain(sum.Spent),
            ScheduledMoney.Plain(sum.Left),
            ScheduledMoney.Plain(money.BudgetOf(row)),
            ScheduledMoney.Plain(of?.Bac),
            ScheduledMoney.Plain(of?.Pv),
            ScheduledMoney.Plain(of?.Ev),
            ScheduledMoney.Plain(sum.Spent)
        );
    }
}

/// <summary>The money of a project, with its earned value where it is measured by a baseline.</summary>
/// <param name="Actuals">How it is known what was spent: <c>entered</c> or <c>progress</c>.</param>
/// <param name="EacAsPlanned">Estimate at completion, if the rest costs what was planned.</param>
/// <param name="EacWithDelay">Estimate at completion, if being late costs as well.</param>
/// <param name="EarnedScheduleAt">When as much was to be done as is done.</param>
public sealed record ScheduledMoney(
    string? Currency,
    string Actuals,
    decimal Planned,
    decimal Labour,
    decimal Items,
    decimal Spent,
    decimal Left,
    decimal Expected,
    decimal? Budget,
    decimal? Free,
    decimal? Bac,
    decimal? Pv,
    decimal? Ev,
    decimal Ac,
    decimal? Sv,
    decimal? Cv,
    decimal? Spi,
    decimal? Cpi,
    decimal? Eac,
    decimal? EacAsPlanned,
    decimal? EacWithDelay,
    decimal? Etc,
    decimal? Vac,
    decimal? Tcpi,
    string? EarnedScheduleAt,
    decimal? SpiT
)
{
    /// <summary>Amounts are told to so many decimals.</summary>
    private const int Decimals = 4;

    public static ScheduledMoney Of(PlanMoney money, EarnedValue? earned, string? currency)
    {
        var whole = money.Whole;
        return new(
            currency,
            PlanDocumentNames.Camel(money.Actuals.ToString()),
            Plain(whole.Planned.Whole),
            Plain(whole.Labour),
            Plain(whole.Items),
            Plain(whole.Spent),
            Plain(whole.Left),
            Plain(whole.Expected),
            Plain(money.Budget),
            Plain(money.Free),
            Plain(earned?.Bac),
            Plain(earned?.Pv),
            Plain(earned?.Ev),
            Plain(whole.Spent),
            Plain(earned?.Sv),
            Plain(earned?.Cv),
            Plain(earned?.Spi),
            Plain(earned?.Cpi),
            Plain(earned?.Eac),
            Plain(earned?.EacAsPlanned),
            Plain(earned?.EacWithDelay),
            Plain(earned?.Etc),
            Plain(earned?.Vac),
            Plain(earned?.Tcpi),
            earned?.EarnedAt.ToString(),
            Plain(earned?.SpiT)
        );
    }

    public static decimal? Plain(decimal? amount) => amount is { } number ? Plain(number) : null;

    public static decimal Plain(decimal amount) => Math.Round(amount, Decimals) / 1.0000000000000000000000000000m;
}
