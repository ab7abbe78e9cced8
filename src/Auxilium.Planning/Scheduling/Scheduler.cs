using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>Works out every date of a plan. Pure: the same plan gives the same minutes.</summary>
public static class Scheduler
{
    /// <summary>Forward pass, backward pass, floats and roll-up.</summary>
    /// <exception cref="UnsoundPlanException">The links go round in a circle, or a task has no time to be worked in.</exception>
    public static Schedule Calculate(Plan plan)
    {
        var network = Network.Of(plan);
        var schedule = new Schedule(plan);
        var facts = TaskFacts.Of(plan);
        var forward = new ForwardPass(plan, network, schedule, facts);
        forward.Run();
        schedule.Finish = LatestFinish(plan, schedule);
        new BackwardPass(plan, network, schedule, facts, forward.FinishCounts).Run();
        RollUp.Fill(schedule, facts);
        schedule.Warnings = LinkWarnings.Of(schedule, facts);
        return schedule;
    }

    private static PlanTime LatestFinish(Plan plan, Schedule schedule)
    {
        PlanTime? latest = null;
        for (var row = 0; row < plan.Index.Count; row++)
            if (plan.Index.IsLeaf(row))
                latest = latest is { } l ? PlanTime.Max(l, schedule.Finishes[row]) : schedule.Finishes[row];
        return latest ?? plan.Project.Start;
    }
}
