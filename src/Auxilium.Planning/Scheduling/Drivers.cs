using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>What may hold a date.</summary>
public enum DriverKind
{
    ProjectStart,
    Link,
    Constraint,
    Pinned,
    Actual,
    StatusDate,
}

/// <param name="From">For a link, the id of the task that comes before.</param>
public sealed record Driver(DriverKind Kind, string? From = null);

/// <summary>The inputs that bind the dates of a leaf with no room left (rule Y1).</summary>
public sealed class Drivers
{
    private readonly Schedule _schedule;
    private readonly ILookup<string, PlanLink> _linksTo;

    public Drivers(Schedule schedule)
    {
        _schedule = schedule;
        _linksTo = schedule.Plan.Links.ToLookup(l => l.To);
    }

    /// <summary>Empty for phases, which only roll up.</summary>
    public IReadOnlyList<Driver> Of(int row)
    {
        var plan = _schedule.Plan;
        var task = plan.Tasks[row];
        if (plan.Index.IsPhase(row)) return [];
        if (task.IsStarted || task.IsFinished) return [new Driver(DriverKind.Actual)];
        if (task.Pinned is not null) return [new Driver(DriverKind.Pinned)];
        if (task.Constraint?.Kind is ConstraintKind.MustStartOn or ConstraintKind.MustFinishOn) return [new Driver(DriverKind.Constraint)];
        return [.. Binding(row, task)];
    }

    /// <summary>Whether a link leaves its successor's early start no room.</summary>
    public bool IsTight(PlanLink link, int leaf) => Binds(leaf, Bound(link));

    private IEnumerable<Driver> Binding(int row, PlanTask task)
    {
        var plan = _schedule.Plan;
        for (var at = row; at >= 0; at = plan.Index.ParentOf(at))
            foreach (var link in _linksTo[plan.Tasks[at].Id])
                if (IsTight(link, row))
                    yield return new Driver(DriverKind.Link, link.From);
        var calendar = plan.EffectiveCalendar(task);
        if (task.Constraint is { } constraint && Binds(row, DateBounds.StartBound(constraint, calendar, _schedule.Lengths[row])))
            yield return new Driver(DriverKind.Constraint);
        if (DateBounds.StatusBound(plan.Project) is { } status && Binds(row, status)) yield return new Driver(DriverKind.StatusDate);
        if (Binds(row, plan.Project.Start)) yield return new Driver(DriverKind.ProjectStart);
    }

    private PlanTime Bound(PlanLink link) =>
        _schedule.Plan.ProjectCalendar.Add(_schedule.FinishOf(link.From), _schedule.Plan.Project.Units.Minutes(link.Lag).Count);

    private bool Binds(int row, PlanTime bound)
    {
        var start = _schedule.Starts[row];
        return _schedule.Lengths[row] == 0 ? bound == start : bound <= start && _schedule.Plan.EffectiveCalendar(_schedule.Plan.Tasks[row]).Next(bound) == start;
    }
}
