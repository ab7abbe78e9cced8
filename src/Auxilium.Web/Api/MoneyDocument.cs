using System.Globalization;
using System.Text.Json.Nodes;
using Auxilium.Exchange.Money;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Storage.Money;

namespace Auxilium.Web.Api;

/// <summary>The money of a project. Amounts are numbers in the organisation's currency, with at most four decimals.</summary>
/// <param name="Version">Of the money: changes are made on one.</param>
/// <param name="AsOf">The day that is looked at.</param>
/// <param name="Sign">How the currency is written behind amounts.</param>
/// <param name="Decimals">How many decimals it has.</param>
/// <param name="ActualsSet">How it is to be known what was spent, where that was chosen.</param>
/// <param name="Gone">Of what was spent, on rows that have left the plan.</param>
/// <param name="ToBePaid">What is to be paid of items, by week: the first day of each.</param>
/// <param name="Volunteered">Work of volunteers, which costs nothing.</param>
public sealed record MoneyDocument(
    int Version,
    string AsOf,
    string Sign,
    int Decimals,
    string? ActualsSet,
    ScheduledMoney Project,
    decimal Gone,
    IReadOnlyList<MoneyRowDocument> Rows,
    IReadOnlyList<MoneyGroupDocument> Categories,
    IReadOnlyList<MoneyGroupDocument> People,
    IReadOnlyList<MoneyGroupDocument> Suppliers,
    IReadOnlyList<MoneyInDocument> Months,
    IReadOnlyList<MoneyInDocument> ToBePaid,
    VolunteeredDocument Volunteered
)
{
    public bool CanUndo { get; init; }

    public bool CanRedo { get; init; }

    /// <summary>The newest changes to the money, the last first.</summary>
    public IReadOnlyList<MoneyEntryDocument> Changes { get; init; } = [];

    internal static MoneyDocument Of(CountedMoney counted, MoneyText text, Dictionary<string, string> names, DayOfWeek? weekStart)
    {
        var money = counted.Money;
        var (schedule, earned, time) = (money.Schedule, counted.Earned, new MoneyInTime(money));
        var volunteered = money.Volunteered(counted.Hours);
        return new MoneyDocument(
            counted.Version,
            Day(money.AsOf),
            text.Sign,
            text.Decimals,
            money.Ledger.Actuals is { } actuals ? JsonNames.Camel(actuals) : null,
            ScheduledMoney.Of(money, earned, text.Currency),
            ScheduledMoney.Plain(money.Gone),
            [.. Enumerable.Range(0, schedule.Plan.Index.Count).Select(row => MoneyRowDocument.Of(money, earned, row))],
            Groups(CostBy.Category, name => name),
            Groups(CostBy.Person, name => names.GetValueOrDefault(name, name)),
            Groups(CostBy.Supplier, name => names.GetValueOrDefault(name, name)),
            In(time.Planned(day => new DateOnly(day.Year, day.Month, 1))),
            In(time.ToBePaid(day => day.AddDays(-(((int)day.DayOfWeek - (int)(weekStart ?? DayOfWeek.Monday) + 7) % 7)))),
            new VolunteeredDocument(
                Math.Round(volunteered.PlannedMinutes / 60, 2),
                Math.Round(volunteered.WorkedMinutes / 60, 2),
                money.Ledger.VolunteerHour
            )
        );

        IReadOnlyList<MoneyGroupDocument> Groups(CostBy by, Func<string, string> called) =>
            [
                .. CostGroups
                    .Of(money, by)
                    .Select(group => new MoneyGroupDocument(
                        called(group.Name),
                        ScheduledMoney.Plain(group.Sum.Planned.Whole),
                        ScheduledMoney.Plain(group.Sum.Spent),
                        ScheduledMoney.Plain(group.Sum.Left)
                    )),
            ];
    }

    internal static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static IReadOnlyList<MoneyInDocument> In(IReadOnlyList<AmountIn> amounts) =>
        [.. amounts.Select(amount => new MoneyInDocument(Day(amount.Key), ScheduledMoney.Plain(amount.Amount)))];
}

/// <param name="Own">What of the planned cost is of the row itself, and not of those inside it.</param>
public sealed record MoneyRowDocument(
    string Id,
    string Outline,
    string Name,
    int Level,
    bool Phase,
    decimal Own,
    decimal Expected,
    decimal? Free,
    ScheduledRowMoney Money
)
{
    internal static MoneyRowDocument Of(PlanMoney money, EarnedValue? earned, int row)
    {
        var (plan, task) = (money.Schedule.Plan, money.Schedule.Plan.Tasks[row]);
        return new(
            task.Id,
            plan.Index.NumberOf(row),
            task.Name,
            plan.Index.LevelOf(row),
            plan.Index.IsPhase(row),
            ScheduledMoney.Plain(money.OwnOf(row).Planned.Whole),
            ScheduledMoney.Plain(money.Of(row).Expected),
            ScheduledMoney.Plain(money.FreeOf(row)),
            ScheduledRowMoney.Of(money, earned, row)
        );
    }
}

/// <param name="Name">Empty for what has none.</param>
public sealed record MoneyGroupDocument(string Name, decimal Planned, decimal Spent, decimal Left);

/// <param name="From">The first day.</param>
public sealed record MoneyInDocument(string From, decimal Amount);

/// <param name="HourWorth">What an hour is worth, where the organisation says so.</param>
public sealed record VolunteeredDocument(decimal PlannedHours, decimal WorkedHours, decimal? HourWorth);

/// <param name="At">In UTC.</param>
public sealed record MoneyEntryDocument(DateTime At, string Person, string Sentence);

/// <summary>What a row costs, item by item and person by person.</summary>
public sealed record RowCostsDocument(
    int Version,
    string Sign,
    int Decimals,
    decimal? Budget,
    decimal? Free,
    ScheduledRowMoney Money,
    IReadOnlyList<CostItemDocument> Items,
    IReadOnlyList<MoneyGroupDocument> Labour
)
{
    /// <summary>Files of the receipts that its payments name.</summary>
    public IReadOnlyList<ReceiptDocument> Receipts { get; init; } = [];

    internal static RowCostsDocument Of(CountedMoney counted, int row, MoneyText text, Dictionary<string, string> names)
    {
        var money = counted.Money;
        var lines = money.LinesOf(row);
        return new(
            counted.Version,
            text.Sign,
            text.Decimals,
            money.BudgetOf(row),
            ScheduledMoney.Plain(money.FreeOf(row)),
            ScheduledRowMoney.Of(money, counted.Earned, row),
            [
                .. lines
                    .Where(line => line.Item is not null)
                    .Select(line => new CostItemDocument(
                        JsonNode.Parse(MoneyJson.Write(line.Item!))!,
                        ScheduledMoney.Plain(line.Planned.Whole),
                        line.Item!.Paid(money.AsOf),
                        names.GetValueOrDefault(line.Item.Supplier, line.Item.Supplier)
                    )),
            ],
            [
                .. lines
                    .Where(line => line.Person is not null)
                    .Select(line => new MoneyGroupDocument(
                        names.GetValueOrDefault(line.Person!, line.Person!),
                        ScheduledMoney.Plain(line.Planned.Whole),
                        ScheduledMoney.Plain(line.Spent),
                        ScheduledMoney.Plain(line.Left)
                    )),
            ]
        );
    }
}

/// <param name="Item">As it was typed.</param>
/// <param name="Planned">What it is to cost.</param>
/// <param name="Paid">What of it is paid.</param>
/// <param name="SupplierName">Who delivers it.</param>
public sealed record CostItemDocument(JsonNode Item, decimal Planned, decimal Paid, string SupplierName);

/// <param name="Sentence">What the change did, with what that means for the budget.</param>
public sealed record MoneyAnswer(int Version, string Sentence, MoneyRippleDocument Ripple);

/// <summary>What an edit did to the expected cost and to what is free of the budget.</summary>
/// <param name="Sentence">In words; empty where nothing changed.</param>
public sealed record MoneyRippleDocument(
    string Sentence,
    decimal ExpectedBefore,
    decimal ExpectedAfter,
    decimal? FreeBefore,
    decimal? FreeAfter
)
{
    internal static MoneyRippleDocument Of(MoneyRipple ripple, MoneyText text) =>
        new(
            ripple.Say(text),
            ScheduledMoney.Plain(ripple.ExpectedBefore),
            ScheduledMoney.Plain(ripple.ExpectedAfter),
            ScheduledMoney.Plain(ripple.FreeBefore),
            ScheduledMoney.Plain(ripple.FreeAfter)
        );
}

/// <param name="Points">Week by week.</param>
/// <param name="Baseline">What it is measured by; <c>null</c> without one.</param>
public sealed record MoneyCurveDocument(string? Baseline, IReadOnlyList<CurvePointDocument> Points)
{
    internal static MoneyCurveDocument Of(MoneyCurve curve) =>
        new(
            curve.Baseline,
            [
                .. curve.Points.Select(point => new CurvePointDocument(
                    MoneyDocument.Day(point.Day),
                    ScheduledMoney.Plain(point.Pv),
                    ScheduledMoney.Plain(point.Ev),
                    ScheduledMoney.Plain(point.Ac),
                    point.IsReckoned
                )),
            ]
        );
}

/// <param name="Day">The last day that counts.</param>
/// <param name="Ev">Left out of what lies ahead, as the actual cost.</param>
/// <param name="IsReckoned">Whether the plan was not kept yet then, so that dates of the work say how far it was.</param>
public sealed record CurvePointDocument(string Day, decimal Pv, decimal? Ev, decimal? Ac, bool IsReckoned);
