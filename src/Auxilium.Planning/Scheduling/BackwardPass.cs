using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>Late dates, total and free float, and what is critical (rules B1–B3).</summary>
/// <param name="finishCounts">See <see cref="ForwardPass.FinishCounts"/>.</param>
internal sealed class BackwardPass(Plan plan, Network network, Schedule schedule, TaskFacts facts, int[] finishCounts)
{
    private static readonly CountedTime Unbound = new(WorkTime.Never);

    /// <summary>Towards its predecessors, by node: how late what it bounds may start (for a finish node: finish) with the finish kept …</summary>
    private readonly CountedTime[] _late = new CountedTime[network.Order.Length];

    /// <summary>… and with no early date of another task moving. Counts here are by the project calendar.</summary>
    private readonly CountedTime[] _still = new CountedTime[network.Order.Length];

    private readonly WorkTime _project = plan.ProjectCalendar;
    private readonly CountedTime _floatTo = new(schedule.FloatTo, plan.ProjectCalendar.Worked(schedule.FloatTo));
    private readonly CountedTime _finish = new(schedule.Finish, plan.ProjectCalendar.Worked(schedule.Finish));
    private readonly int _criticalFloat = plan.Project.Units.Minutes(plan.Project.CriticalFloat).Count;

    public void Run()
    {
        var rows = plan.Index.Count;
        var order = network.Order;
        for (var i = order.Length - 1; i >= 0; i--)
        {
            var node = order[i];
            var (late, still) = (Unbound, Unbound);
            var targets = network.TargetsOf(node);
            var lags = network.LagsOf(node);
            for (var edge = 0; edge < targets.Length; edge++)
            {
                late = CountedTime.Min(late, TakeBack(_late[targets[edge]], lags[edge]));
                still = CountedTime.Min(still, TakeBack(_still[targets[edge]], lags[edge]));
            }
            (_late[node], _still[node]) = node < rows && plan.Index.IsLeaf(node) ? Leaf(node, late, still) : (late, still);
        }
    }

    private CountedTime TakeBack(CountedTime limit, int lag) => limit.Time == WorkTime.Never ? limit : _project.TakeBack(limit, lag);

    private (CountedTime Late, CountedTime Still) Leaf(int row, CountedTime late, CountedTime still)
    {
        var traits = facts.Traits[row];
        if ((traits & TaskTraits.Finished) != 0) return (Unbound, Unbound);
        var started = (traits & TaskTraits.Started) != 0;
        var must = !started && (traits & TaskTraits.Must) != 0;
        var pinned = (traits & TaskTraits.Pinned) != 0;
        var calendar = facts.Calendars[row];
        var (start, finish, length) = (schedule.Starts[row], schedule.Finishes[row], schedule.Lengths[row]);
        late = CountedTime.Min(late, _floatTo);
        still = CountedTime.Min(still, _finish);
        // Counts of working minutes before each instant: differences of them are floats, and each is looked up once.
        var worked = new CountedTime(finish, finishCounts[row]).WorkedBy(calendar, _project);
        var workedLate = must ? worked : late.WorkedBy(calendar, _project);
        var workedStill = still.Time == late.Time && !must ? workedLate : still.WorkedBy(calendar, _project);
        var lateFinish = must ? finish : length == 0 ? late.Time : calendar.MinuteEnd(workedLate);
        var span = pinned ? PinnedSpan(plan.Tasks[row], calendar, row) : length;
        var lateStart = must || started ? start : span == 0 ? lateFinish : calendar.MinuteStart(workedLate - span);
        schedule.LateStarts[row] = lateStart;
        schedule.LateFinishes[row] = lateFinish;
        var total = workedLate - worked;
        var free = Math.Max(0, workedStill - worked);
        schedule.TotalFloats[row] = total;
        schedule.FreeFloats[row] = total >= 0 ? Math.Min(free, total) : free;
        schedule.Criticals[row] = total <= _criticalFloat;
        if (started) return (Unbound, Unbound);
        if (pinned || must) return (new(start), Unbound);
        return ReferenceEquals(calendar, _project) ? (new(lateStart, workedLate - span), new(start, worked - length)) : (new(lateStart), new(start));
    }

    /// <summary>Working minutes from start to finish: the length, or, pinned at both ends, what lies between.</summary>
    private int PinnedSpan(PlanTask task, WorkTime calendar, int row) =>
        task.Pinned?.Finish is null ? schedule.Lengths[row] : calendar.Between(schedule.Starts[row], schedule.Finishes[row]);
}
