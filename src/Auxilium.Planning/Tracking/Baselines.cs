using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Tracking;

/// <summary>Records plans as they are.</summary>
public static class Baselines
{
    /// <summary>Parts of a minute of effort, and of money, are kept to so many decimals.</summary>
    private const int Decimals = 4;

    /// <summary>What a baseline keeps of a plan (rules S1, S3).</summary>
    /// <param name="schedule">The plan with its dates.</param>
    /// <param name="id">Its id in the plan.</param>
    /// <param name="name">What it is called.</param>
    /// <param name="taken">The day the plan was like this.</param>
    /// <param name="only">Only these rows; all when left out.</param>
    /// <param name="costs">What it costs, where that is known.</param>
    public static Baseline Take(
        Schedule schedule,
        string id,
        string name,
        DateOnly taken,
        IReadOnlySet<int>? only = null,
        PlanMoney? costs = null
    )
    {
        var effort = new Effort(schedule);
        var rows = Enumerable
            .Range(0, schedule.Plan.Index.Count)
            .Where(row => !schedule.IsOff(row) && only?.Contains(row) != false)
            .Select(row => RowOf(schedule, effort, row, costs?.Of(row).Planned ?? PlannedCost.None));
        return new Baseline(id, name, taken, only is null, schedule.Start, schedule.Finish, [.. rows]);
    }

    private static BaselineRow RowOf(Schedule schedule, Effort effort, int row, PlannedCost cost)
    {
        var task = schedule.Plan.Tasks[row];
        return new BaselineRow(
            task.Id,
            task.Name,
            schedule.StartOf(row),
            schedule.FinishOf(row),
            schedule.LengthOf(row).Count,
            Math.Round(effort.Of(row), Decimals),
            (decimal)Math.Round(schedule.ProgressOf(row), Decimals),
            task.Milestone,
            schedule.IsPhase(row),
            new PlannedCost(Math.Round(cost.AtStart, Decimals), Math.Round(cost.Evenly, Decimals), Math.Round(cost.AtFinish, Decimals))
        );
    }
}
