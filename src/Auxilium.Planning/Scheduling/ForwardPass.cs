using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>Early dates (rules L1, L2, F1, F2, F4).</summary>
internal sealed class ForwardPass(Plan plan, Network network, Schedule schedule, WorkTime[] calendars)
{
    private readonly PlanTime[] _bound = new PlanTime[network.Order.Length];
    private readonly WorkTime _project = plan.ProjectCalendar;
    private readonly int _minutesPerDay = plan.Project.Units.MinutesPerDay;

    public void Run()
    {
        var rows = plan.Index.Count;
        foreach (var node in network.Order)
        {
            var finish = _bound[node];
            if (node < rows && plan.Index.IsLeaf(node))
            {
                Place(node);
                finish = schedule.Finishes[node];
            }
            var targets = network.TargetsOf(node);
            var lags = network.LagsOf(node);
            for (var i = 0; i < targets.Length; i++)
                _bound[targets[i]] = PlanTime.Max(_bound[targets[i]], lags[i] == 0 ? finish : _project.Add(finish, lags[i]));
        }
    }

    private void Place(int row)
    {
        var task = plan.Tasks[row];
        var calendar = calendars[row];
        var length = LengthOf(task);
        var (start, finish) = (task.ActualStart, task.ActualFinish, task.Pinned, task.Constraint) switch
        {
            ({ } began, { } ended, _, _) => (began, ended),
            (null, { } ended, _, _) => (PlanTime.Min(ended, calendar.Add(ended, -length)), ended),
            ({ } began, _, _, _) => (began, InProgressWork.Finish(plan.Project, task, calendar, length)),
            (_, _, { Start: var pinned, Finish: { } end }, _) => (pinned, end),
            (_, _, { Start: var pinned }, _) => From(calendar, pinned, length),
            (_, _, _, { Kind: ConstraintKind.MustStartOn, Date: var date }) => From(calendar, date, length),
            (_, _, _, { Kind: ConstraintKind.MustFinishOn, Date: var date }) => From(calendar, calendar.Add(date, -length), length),
            _ => From(calendar, Earliest(row, task, calendar, length), length),
        };
        if (finish > PlanTime.Latest || start < PlanTime.Earliest) throw OutOfRange(row);
        schedule.Lengths[row] = length;
        schedule.Starts[row] = start;
        schedule.Finishes[row] = finish;
    }

    private int LengthOf(PlanTask task)
    {
        if (task.Milestone) return 0;
        var (amount, unit) = task.Length;
        return unit == LengthUnit.Days && amount.Scale == 0 && amount <= 10_000
            ? (int)amount * _minutesPerDay
            : plan.Project.Units.Minutes(task.Length).Count;
    }

    /// <summary>F1: the largest of the project start, the links, a not-before date, and the status date where unfinished work moves.</summary>
    private PlanTime Earliest(int row, PlanTask task, WorkTime calendar, int length)
    {
        var earliest = PlanTime.Max(plan.Project.Start, _bound[row]);
        if (task.Constraint is { } constraint)
            earliest = PlanTime.Max(earliest, DateBounds.StartBound(constraint, calendar, length));
        return DateBounds.StatusBound(plan.Project) is { } status ? PlanTime.Max(earliest, status) : earliest;
    }

    /// <summary>L1, L2: work begins at the next working minute; what has no length stays where it is.</summary>
    private static (PlanTime Start, PlanTime Finish) From(WorkTime calendar, PlanTime bound, int length)
    {
        if (length == 0) return (bound, bound);
        var worked = calendar.Worked(bound);
        return (calendar.MinuteStart(worked), calendar.MinuteEnd(worked + length));
    }

    private UnsoundPlanException OutOfRange(int row) =>
        new([PlanProblem.About(
            "outOfRange",
            $"{LinkRules.Named(plan, row)} would lie outside the years 1990 to 2100: shorten it, or give its calendar more working days.",
            plan.Tasks[row].Id)]);
}

/// <summary>Bounds on a start that do not come from links (rules F1, K2).</summary>
internal static class DateBounds
{
    public static PlanTime StartBound(DateConstraint constraint, WorkTime calendar, int length) =>
        constraint.Kind == ConstraintKind.FinishNoEarlierThan && length > 0 ? calendar.Add(constraint.Date, -length) : constraint.Date;

    public static PlanTime? StatusBound(ProjectSettings project) => project.MoveUnfinishedWork ? project.StatusDate : null;
}
