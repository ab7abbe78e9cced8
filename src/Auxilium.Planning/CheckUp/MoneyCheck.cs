using Auxilium.Planning.Money;
using Auxilium.Planning.Typing;

namespace Auxilium.Planning.CheckUp;

/// <summary>Weak spots of a plan's money. Told only to those who may have it.</summary>
public static class MoneyCheck
{
    /// <param name="money">What the plan costs; nothing is found where nobody said anything of money.</param>
    /// <param name="text">Says amounts.</param>
    public static IEnumerable<Finding> Of(PlanMoney money, MoneyText text)
    {
        if (money.Ledger.IsEmpty)
            yield break;
        var (plan, schedule) = (money.Schedule.Plan, money.Schedule);
        var rows = Enumerable.Range(0, plan.Index.Count).Where(row => !schedule.IsOff(row)).ToList();
        if (money.Free is < 0 and var over)
            yield return new Finding(
                FindingKind.BudgetPassed,
                [],
                $"The project is expected to cost {text.Of(-over)} more than its budget.",
                "Somebody has to find the money, or something has to cost less."
            );
        foreach (var row in rows.Where(row => money.FreeOf(row) is < 0))
            yield return new Finding(
                FindingKind.BudgetPassed,
                [plan.Tasks[row].Id],
                $"“{LengthText.Shorten(plan.Tasks[row].Name)}” will cost {text.Of(-money.FreeOf(row)!.Value)} more than its budget.",
                "Move money here from another row, or let it cost less."
            );
        var unpriced = money.Lines.Where(line => line.Item is { Price: null, PerUse: 0 }).Select(line => line.Row).Distinct().ToList();
        if (unpriced.Count > 0)
            yield return new Finding(
                FindingKind.ItemWithoutPrice,
                [.. unpriced.Select(row => plan.Tasks[row].Id)],
                unpriced.Count == 1 ? "An item has no price." : $"Items of {unpriced.Count} rows have no price.",
                "What has no price counts as nothing: the project costs more than it seems."
            );
        // Only where people's work costs anything here, and of those whose work is not given.
        if (!money.Ledger.Rates.IsEmpty)
        {
            var unpaid = rows.Where(row =>
                    schedule.IsLeaf(row)
                    && plan.Tasks[row].Assignments.Any(a => money.RatesOf(a.Person).IsEmpty && !money.Ledger.Volunteers.Contains(a.Person))
                )
                .ToList();
            if (unpaid.Count > 0)
                yield return new Finding(
                    FindingKind.WorkWithoutRate,
                    [.. unpaid.Select(row => plan.Tasks[row].Id)],
                    unpaid.Count == 1
                        ? "A task is done by somebody who has no rate and is no volunteer."
                        : $"{unpaid.Count} tasks are done by people who have no rate and are no volunteers.",
                    "Their work counts as free: an organiser enters rates on people’s pages."
                );
            var nobody = rows.Where(row =>
                    schedule.IsLeaf(row)
                    && plan.Tasks[row] is { IsFinished: false, Assignments.IsEmpty: true }
                    && schedule.LengthOf(row).Count > 0
                )
                .ToList();
            if (nobody.Count > 0)
                yield return new Finding(
                    FindingKind.CostWithoutOwner,
                    [.. nobody.Select(row => plan.Tasks[row].Id)],
                    nobody.Count == 1
                        ? "A task has no owner, so its work costs nothing yet."
                        : $"{nobody.Count} tasks have no owner, so their work costs nothing yet.",
                    "What that costs is known once somebody is to do it."
                );
        }
        var early = money
            .Lines.Where(line =>
                line.Item is { Accrues: Accrual.Finish } item && item.Paid(money.AsOf) > 0 && money.ProgressOf(line.Row) < 1
            )
            .Select(line => line.Row)
            .Distinct()
            .ToList();
        if (early.Count > 0)
            yield return new Finding(
                FindingKind.PaidEarly,
                [.. early.Select(row => plan.Tasks[row].Id)],
                early.Count == 1
                    ? "Something is paid that is due when its task is finished."
                    : $"On {early.Count} rows something is paid that is due when they are finished.",
                "Check whether that was meant: the work is not finished yet."
            );
    }
}
