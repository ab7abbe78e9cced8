using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>Works out every date of a plan. Pure: the same plan gives the same minutes.</summary>
public static class Scheduler
{
    /// <summary>Forward pass, backward pass, floats and roll-up; from the finish, the other way round.</summary>
    /// <exception cref="UnsoundPlanException">The links go round in a circle, or a task has no time to be worked in.</exception>
    /// <exception cref="OperationCanceledException">It was cancelled.</exception>
    public static Schedule Calculate(Plan plan, CancellationToken cancel = default) => Calculate(plan, plan.Groundwork, cancel);

    /// <summary>The same with nothing taken over from a plan that this one came of.</summary>
    internal static Schedule CalculateAnew(Plan plan) => Calculate(plan, Groundwork.Of(plan, null));

    /// <summary>The same as <see cref="Calculate(Plan)"/>, sooner where the plan came of one whose schedule is known.</summary>
    /// <exception cref="UnsoundPlanException">The links go round in a circle, or a task has no time to be worked in.</exception>
    /// <exception cref="OperationCanceledException">It was cancelled.</exception>
    public static Schedule Calculate(Plan plan, Schedule before, CancellationToken cancel = default) =>
        Recalculation.Of(plan, before, plan.Groundwork) ?? Calculate(plan, plan.Groundwork, cancel);

    private static Schedule Calculate(Plan plan, Groundwork groundwork, CancellationToken cancel = default)
    {
        cancel.ThrowIfCancellationRequested();
        var (facts, network) = (groundwork.Facts, groundwork.Network);
        var schedule = new Schedule(plan, groundwork);
        schedule.EndWith(cancel);
        if (plan.Project.ScheduleFrom == ScheduleFrom.Start)
            FromStart(plan, network, schedule, facts);
        else
            FromFinish(plan, network, schedule, facts);
        RollUp.Fill(schedule, facts);
        schedule.ThrowIfEnded();
        schedule.Warnings = Warnings.Of(schedule, facts);
        schedule.EndWith(default);
        return schedule;
    }

    private static void FromStart(Plan plan, Network network, Schedule schedule, TaskInputs facts)
    {
        schedule.Start = plan.Project.Anchor;
        using var forward = new ForwardPass(plan, network, schedule, facts, schedule.Start);
        forward.Run();
        schedule.Finish = LatestFinish(schedule, facts) ?? schedule.Start;
        if ((facts.Any & TaskTraits.Contrary) != 0)
        {
            schedule.StandApart(copy: true);
            var placement = new LatestPlacement(plan, network, schedule, facts);
            placement.Delay(schedule.Finish);
        }
        var backward = new BackwardPass(plan, network, schedule, facts, schedule.Limits, forward.FinishCounts);
        backward.Run();
    }

    private static void FromFinish(Plan plan, Network network, Schedule schedule, TaskInputs facts)
    {
        schedule.Finish = plan.Project.Anchor;
        schedule.StandApart(copy: false);
        var placement = new LatestPlacement(plan, network, schedule, facts);
        placement.FromFinish(schedule.Finish);
        schedule.Start = EarliestStart(schedule, facts) ?? schedule.Finish;
        if ((facts.Any & TaskTraits.Contrary) != 0)
            new Advance(plan, network, schedule, facts).Run(schedule.Start);
        using var forward = new ForwardPass(plan, network, schedule, facts, schedule.Start);
        forward.Run();
        var backward = new BackwardPass(plan, network, schedule, facts, schedule.Limits, forward.FinishCounts);
        backward.Run();
    }

    internal static PlanTime? LatestFinish(Schedule schedule, TaskInputs facts)
    {
        PlanTime? latest = null;
        for (var row = 0; row < facts.Traits.Length; row++)
            if (facts.IsLeaf(row) && !(schedule.EarlyFinishes[row] <= latest))
                latest = schedule.EarlyFinishes[row];
        return latest;
    }

    private static PlanTime? EarliestStart(Schedule schedule, TaskInputs facts)
    {
        PlanTime? earliest = null;
        for (var row = 0; row < facts.Traits.Length; row++)
            if (facts.IsLeaf(row) && !(schedule.Starts[row] >= earliest))
                earliest = schedule.Starts[row];
        return earliest;
    }
}
