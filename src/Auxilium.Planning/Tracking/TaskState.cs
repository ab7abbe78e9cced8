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
        var (plan, ends) = (schedule.Plan, schedule.Plan.LinkEnds);
        for (var at = row; at >= 0; at = plan.Index.ParentOf(at))
        {
            var links = ends.LeadingTo(at);
            for (var i = 0; i < links.Length; i++)
                if (ends.From[links.Span[i]] is var from && !schedule.IsOff(from) && HoldsUp(plan.Links[links.Span[i]], from, row))
                    yield return from;
        }
    }

    /// <summary>
    /// Work that is bound to end with other work may begin before it. Work that goes with the start of other work, or overlaps it,
    /// may begin when that has begun.
    /// </summary>
    private bool HoldsUp(PlanLink link, int from, int row) =>
        link.ToFinish && schedule.LengthOf(row).Count > 0 ? false
        : link.FromStart || link.Lag.Amount < 0 ? !IsOfLeaves(from, any: true, task => task is { IsStarted: true } or { IsFinished: true })
        : !IsOfLeaves(from, any: false, task => task.IsFinished);

    /// <summary>Whether something is so of any leaf of a row, or of all of them.</summary>
    private bool IsOfLeaves(int row, bool any, Func<PlanTask, bool> isSo)
    {
        for (var leaf = row; leaf < schedule.Plan.Index.SubtreeEnd(row); leaf++)
            if (schedule.IsLeaf(leaf) && isSo(schedule.Plan.Tasks[leaf]) == any)
                return any;
        return !any;
    }
}
