using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>Early dates (rules L1, L2, F1, F2, F4).</summary>
internal sealed class ForwardPass(Plan plan, Network network, Schedule schedule, TaskFacts facts)
{
    /// <summary>By node: the latest bound that links put on it. Counts here are by the project calendar.</summary>
    private readonly CountedTime[] _bound = new CountedTime[network.Order.Length];

    private readonly WorkTime _project = plan.ProjectCalendar;
    private readonly CountedTime _start = new(plan.Project.Start, plan.ProjectCalendar.Worked(plan.Project.Start));
    private readonly CountedTime? _status = DateBounds.StatusBound(plan.Project) is { } status ? new(status) : null;

    /// <summary>By row: the working minutes of the project calendar before the early finish of a leaf; negative where they were not counted.</summary>
    public int[] FinishCounts { get; } = new int[plan.Index.Count];

    public void Run()
    {
        var rows = plan.Index.Count;
        foreach (var node in network.Order)
        {
            var finish = node < rows && plan.Index.IsLeaf(node) ? Place(node) : _bound[node];
            var targets = network.TargetsOf(node);
            var lags = network.LagsOf(node);
            for (var i = 0; i < targets.Length; i++)
                _bound[targets[i]] = CountedTime.Max(_bound[targets[i]], _project.Add(finish, lags[i]));
        }
    }

    private CountedTime Place(int row)
    {
        var (calendar, length) = (facts.Calendars[row], facts.Lengths[row]);
        var count = -1;
        var (start, finish) = (facts.Traits[row] & (TaskTraits.Fixed | TaskTraits.NotBefore)) == 0
            ? From(calendar, Earliest(row), length, out count)
            : Place(row, plan.Tasks[row], calendar, length, ref count);
        if (finish > PlanTime.Latest || start < PlanTime.Earliest) throw OutOfRange(row);
        schedule.Lengths[row] = length;
        schedule.Starts[row] = start;
        schedule.Finishes[row] = finish;
        FinishCounts[row] = count;
        return new CountedTime(finish, count);
    }

    private (PlanTime Start, PlanTime Finish) Place(int row, PlanTask task, WorkTime calendar, int length, ref int count) =>
        (task.ActualStart, task.ActualFinish, task.Pinned, task.Constraint) switch
        {
            ({ } began, { } ended, _, _) => (began, ended),
            (null, { } ended, _, _) => (PlanTime.Min(ended, calendar.Add(ended, -length)), ended),
            ({ } began, _, _, _) => (began, InProgressWork.Finish(plan.Project, task, calendar, length)),
            (_, _, { Start: var pinned, Finish: { } end }, _) => (pinned, end),
            (_, _, { Start: var pinned }, _) => From(calendar, new(pinned), length, out count),
            (_, _, _, { Kind: ConstraintKind.MustStartOn, Date: var date }) => From(calendar, new(date), length, out count),
            (_, _, _, { Kind: ConstraintKind.MustFinishOn, Date: var date }) => From(calendar, new(calendar.Add(date, -length)), length, out count),
            (_, _, _, { } notBefore) => From(calendar, CountedTime.Max(Earliest(row), new(DateBounds.StartBound(notBefore, calendar, length))), length, out count),
            _ => From(calendar, Earliest(row), length, out count),
        };

    /// <summary>F1: the largest of the project start, the links, and the status date where unfinished work moves.</summary>
    private CountedTime Earliest(int row)
    {
        var earliest = CountedTime.Max(_bound[row], _start);
        return _status is { } status ? CountedTime.Max(earliest, status) : earliest;
    }

    /// <summary>L1, L2: work begins at the next working minute; what has no length stays where it is.</summary>
    /// <param name="count">Working minutes before the finish, where they are those of the project calendar.</param>
    private (PlanTime Start, PlanTime Finish) From(WorkTime calendar, CountedTime bound, int length, out int count)
    {
        count = bound.Worked;
        if (length == 0) return (bound.Time, bound.Time);
        var worked = bound.WorkedBy(calendar, _project);
        count = ReferenceEquals(calendar, _project) ? worked + length : -1;
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
