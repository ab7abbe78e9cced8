using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>Late dates, total and free float, and what is critical (rules B1–B3).</summary>
internal sealed class BackwardPass(Plan plan, Network network, Schedule schedule, WorkTime[] calendars)
{
    private static readonly PlanTime Unbound = WorkTime.Never;

    /// <summary>Towards its predecessors, by node: how late what it bounds may start (for a finish node: finish) with the finish kept …</summary>
    private readonly PlanTime[] _late = new PlanTime[network.Order.Length];

    /// <summary>… and with no early date of another task moving.</summary>
    private readonly PlanTime[] _still = new PlanTime[network.Order.Length];

    private readonly WorkTime _project = plan.ProjectCalendar;
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
                late = PlanTime.Min(late, TakeBack(_late[targets[edge]], lags[edge]));
                still = PlanTime.Min(still, TakeBack(_still[targets[edge]], lags[edge]));
            }
            (_late[node], _still[node]) = node < rows && plan.Index.IsLeaf(node) ? Leaf(node, late, still) : (late, still);
        }
    }

    private PlanTime TakeBack(PlanTime limit, int lag) => limit == Unbound || lag == 0 ? limit : _project.TakeBack(limit, lag);

    private (PlanTime Late, PlanTime Still) Leaf(int row, PlanTime late, PlanTime still)
    {
        var task = plan.Tasks[row];
        if (task.IsFinished) return (Unbound, Unbound);
        var calendar = calendars[row];
        var (start, finish, length) = (schedule.Starts[row], schedule.Finishes[row], schedule.Lengths[row]);
        var must = !task.IsStarted && task is { Pinned: null, Constraint.Kind: ConstraintKind.MustStartOn or ConstraintKind.MustFinishOn };
        late = PlanTime.Min(late, schedule.FloatTo);
        still = PlanTime.Min(still, schedule.Finish);
        // Counts of working minutes before each instant: differences of them are floats, and each is looked up once.
        var worked = calendar.Worked(finish);
        var workedLate = must ? worked : calendar.Worked(late);
        var workedStill = still == late && !must ? workedLate : calendar.Worked(still);
        var lateFinish = must ? finish : length == 0 ? late : calendar.MinuteEnd(workedLate);
        var span = Span(task, calendar, row);
        var lateStart = must || task.IsStarted ? start : span == 0 ? lateFinish : calendar.MinuteStart(workedLate - span);
        schedule.LateStarts[row] = lateStart;
        schedule.LateFinishes[row] = lateFinish;
        var total = workedLate - worked;
        var free = Math.Max(0, workedStill - worked);
        schedule.TotalFloats[row] = total;
        schedule.FreeFloats[row] = total >= 0 ? Math.Min(free, total) : free;
        schedule.Criticals[row] = total <= _criticalFloat;
        if (task.IsStarted) return (Unbound, Unbound);
        if (task.Pinned is not null || must) return (start, Unbound);
        return (lateStart, start);
    }

    /// <summary>Working minutes from start to finish: the length, but for a task pinned at both ends.</summary>
    private int Span(PlanTask task, WorkTime calendar, int row) =>
        task.Pinned?.Finish is null ? schedule.Lengths[row] : calendar.Between(schedule.Starts[row], schedule.Finishes[row]);
}
