using Auxilium.Planning.Money;

namespace Auxilium.Web.Pages.Sharing;

/// <summary>What a phase, or a task that stands alone, costs. Amounts as people read them; empty where there is none.</summary>
public sealed record ReportCost(string Name, string Budget, string Planned, string Spent, string Expected, string Free);

/// <summary>The money of a project on its report, for those who may have it and ask for it.</summary>
/// <param name="Said">Where it stands, in sentences.</param>
/// <param name="Rows">What the parts of the plan cost, and the whole as the last.</param>
public sealed record ReportMoney(IReadOnlyList<string> Said, IReadOnlyList<ReportCost> Rows)
{
    public static ReportMoney Of(PlanMoney money, MoneyText text)
    {
        var (whole, plan) = (money.Whole, money.Schedule.Plan);
        var free = money.Free;
        List<string> said =
        [
            $"It is expected to cost {text.Of(whole.Expected)}"
                + free switch
                {
                    null => "; nobody has set a budget.",
                    < 0 => $", {text.Of(-free.Value)} over the budget of {text.Of(money.Budget!.Value)}.",
                    _ => $"; {text.Of(free.Value)} of the budget of {text.Of(money.Budget!.Value)} stay free.",
                },
            $"{text.Of(whole.Spent)} are spent, and {text.Of(whole.Left)} are left to spend.",
        ];
        if (plan.Measure is { } measure && new EarnedValue(money, measure) is { Cpi: { } cpi })
            said.Add($"For each 100 {text.Sign} spent, {Math.Round(cpi * 100):N0} {text.Sign} of planned work is done.");
        var parts = Enumerable
            .Range(0, plan.Tasks.Length)
            .Where(row => plan.Tasks[row].Parent is null)
            .Select(row => (plan.Tasks[row].Name, Budget: money.BudgetOf(row), Sum: money.Of(row), Free: money.FreeOf(row)))
            .Where(part => part.Sum.Expected != 0 || part.Sum.Planned.Whole != 0 || part.Budget is not null)
            .Append(("The whole project", money.Budget, whole, free));
        return new ReportMoney(
            said,
            [
                .. parts.Select(part => new ReportCost(
                    part.Item1,
                    Or(part.Item2),
                    text.Of(part.Item3.Planned.Whole),
                    text.Of(part.Item3.Spent),
                    text.Of(part.Item3.Expected),
                    Or(part.Item4)
                )),
            ]
        );

        string Or(decimal? amount) => amount is { } known ? text.Of(known) : "";
    }
}
