using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Tracking;

/// <summary>The state of a task today: worked out, never typed.</summary>
public enum TaskState
{
    Waiting,
    Ready,
    UnderWay,
    LateToStart,
    Overdue,
    Done,
}

/// <summary>Works out the state of leaves on a given day.</summary>
public sealed class TaskStates(Schedule schedule, DateOnly today)
{
    private readonly ILookup<string, PlanLink> _linksTo = schedule.Plan.Links.ToLookup(l => l.To);
    private readonly PlanTime _dawn = PlanTime.On(today);

    /// <summary>
    /// Overdue: its finish has passed. Late to start: its start day has. Ready: all that must come first is finished.
    /// </summary>
    public TaskState Of(int row)
    {
        var task = schedule.Plan.Tasks[row];
        if (task.IsFinished)
            return TaskState.Done;
        if (schedule.FinishOf(row) < _dawn)
            return TaskState.Overdue;
        if (task.IsStarted || task.Progress > 0)
            return TaskState.UnderWay;
        if (WaitsFor(row).Any())
            return TaskState.Waiting;
        return schedule.StartOf(row) < _dawn ? TaskState.LateToStart : TaskState.Ready;
    }

    /// <summary>Rows that must be finished first and are not, or must be started first and are not; its phases' links included.</summary>
    public IEnumerable<int> WaitsFor(int row)
    {
        var plan = schedule.Plan;
        for (var at = row; at >= 0; at = plan.Index.ParentOf(at))
            foreach (var link in _linksTo[plan.Tasks[at].Id])
                if (plan.Index.RowOf(link.From) is var from && !schedule.IsOff(from) && HoldsUp(link, from, row))
                    yield return from;
    }

    /// <summary>
    /// Work that is bound to end with other work may begin before it. Work that goes with the start of other work, or overlaps it,
    /// may begin when that has begun.
    /// </summary>
    private bool HoldsUp(PlanLink link, int from, int row) =>
        link.ToFinish && schedule.LengthOf(row).Count > 0 ? false
        : link.FromStart || link.Lag.Amount < 0
            ? !Leaves(from).Any(leaf => schedule.Plan.Tasks[leaf] is { IsStarted: true } or { IsFinished: true })
        : !Leaves(from).All(leaf => schedule.Plan.Tasks[leaf].IsFinished);

    private IEnumerable<int> Leaves(int row)
    {
        for (var leaf = row; leaf < schedule.Plan.Index.SubtreeEnd(row); leaf++)
            if (schedule.IsLeaf(leaf))
                yield return leaf;
    }
}
