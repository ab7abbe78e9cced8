using System.Runtime.CompilerServices;
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
    ProjectFinish,
    Calendar,
    AsLateAsPossible,
    AsSoonAsPossible,
    Levelling,
}

/// <param name="Kind">What it is.</param>
/// <param name="From">For a link, the id of the task that comes before.</param>
/// <param name="To">For a link that holds a task back from later, in a plan worked out from its finish: the id of the task that comes
/// after.</param>
public sealed record Driver(DriverKind Kind, string? From = null, string? To = null);

/// <summary>The inputs that bind the dates of every leaf with no room left (rule Y1).</summary>
public sealed class Drivers
{
    private const DriverKind NoKind = (DriverKind)(-1);

    private readonly Schedule _schedule;
    private readonly Plan _plan;
    private readonly TaskInputs _facts;
    private readonly WorkTime _project;
    private readonly bool _fromStart;

    /// <summary>By link: whether it leaves any leaf no room. Found for all links at once when one is asked about.</summary>
    private bool[]? _tight;

    internal Drivers(Schedule schedule, TaskInputs facts)
    {
        _schedule = schedule;
        _plan = schedule.Plan;
        _facts = facts;
        _project = _plan.ProjectCalendar;
        _fromStart = _plan.Project.ScheduleFrom == ScheduleFrom.Start;
    }

    /// <summary>Empty for phases, which only roll up, and for inactive tasks.</summary>
    public IReadOnlyList<Driver> Of(int row)
    {
        if (!_facts.IsLeaf(row))
            return [];
        if (Fixing(row) is var fixing && fixing != NoKind)
            return fixing == DriverKind.Actual && IsMoved(row) ? [new(fixing), new(DriverKind.StatusDate)] : [new(fixing)];
        if (IsContrary(row))
            return [new(_fromStart ? DriverKind.AsLateAsPossible : DriverKind.AsSoonAsPossible)];
        return [.. Binding(row)];
    }

    /// <summary>Whether links may hold a leaf: nothing fixes it, and it does not go against the way of the others.</summary>
    internal bool IsHeldByLinks(int row) => Fixing(row) == NoKind && !IsContrary(row);

    /// <summary>Whether a link, by its position in the plan, leaves a leaf no room.</summary>
    public bool IsTight(int link) => (_tight ??= FindTight())[link];

    /// <summary>The positions of the links that leave a leaf no room: its own and those of the phases it is in.</summary>
    internal IEnumerable<int> LinksHolding(int row)
    {
        var ends = _plan.LinkEnds;
        for (var at = row; at >= 0; at = _plan.Index.ParentOf(at))
        {
            // Links to a row, or, worked out from the finish, from it.
            var links = _fromStart ? ends.LeadingTo(at) : ends.LeadingFrom(at);
            for (var i = 0; i < links.Length; i++)
                if (links.Span[i] is var link && Takes(link) && Holds(ends.Edges[link], Bound(link), row))
                    yield return link;
        }
    }

    private IEnumerable<Driver> Binding(int row)
    {
        var latest = _fromStart ? default : WorkTime.Never;
        foreach (var position in LinksHolding(row))
        {
            var link = _plan.Links[position];
            latest = Nearer(latest, Bound(position));
            yield return _fromStart ? new Driver(DriverKind.Link, link.From) : new Driver(DriverKind.Link, link.From, link.To);
        }
        var task = _plan.Tasks[row];
        var (calendar, span) = (_facts.Calendars[row], _facts.Spans[row]);
        if (_fromStart)
        {
            if (
                (_facts.Traits[row] & TaskTraits.NotBefore) != 0
                && DateBounds.NotBefore(task.Constraint!, calendar, span) is var notBefore
                && BindsStart(row, notBefore)
            )
            {
                latest = Nearer(latest, notBefore);
                yield return new(DriverKind.Constraint);
            }
            if (task.DelayedUntil is { } delayed && BindsStart(row, delayed))
            {
                latest = Nearer(latest, delayed);
                yield return new(DriverKind.Levelling);
            }
            if (DateBounds.StatusBound(_plan.Project) is { } status && BindsStart(row, status))
            {
                latest = Nearer(latest, status);
                yield return new(DriverKind.StatusDate);
            }
            if (BindsStart(row, _schedule.Start))
            {
                latest = Nearer(latest, _schedule.Start);
                yield return new(DriverKind.ProjectStart);
            }
            if (latest != default && IsTimeOff(calendar, latest, _schedule.StartOf(row)))
                yield return new(DriverKind.Calendar);
        }
        else
        {
            if (
                (_facts.Traits[row] & TaskTraits.NotAfter) != 0
                && (
                    task.Constraint!.IsOfFinish
                        ? BindsFinish(row, task.Constraint.Date!.Value)
                        : BindsStart(row, task.Constraint.Date!.Value)
                )
            )
                yield return new(DriverKind.Constraint);
            if (BindsFinish(row, _schedule.Finish))
            {
                latest = Nearer(latest, _schedule.Finish);
                yield return new(DriverKind.ProjectFinish);
            }
            if (latest != WorkTime.Never && IsTimeOff(calendar, _schedule.FinishOf(row), latest))
                yield return new(DriverKind.Calendar);
        }
    }

    /// <summary>What fixes a leaf whatever its links say.</summary>
    private DriverKind Fixing(int row)
    {
        var traits = _facts.Traits[row];
        return (traits & (TaskTraits.Started | TaskTraits.Finished)) != 0 ? DriverKind.Actual
            : (traits & TaskTraits.Pinned) != 0 ? DriverKind.Pinned
            : (traits & TaskTraits.Must) != 0 ? DriverKind.Constraint
            : NoKind;
    }

    private bool IsMoved(int row) =>
        _plan.Tasks[row] is { IsFinished: false } task
        && InProgressWork.Of(_plan.Project, task, _facts.Calendars[row], _facts.Lengths[row]).Moved;

    /// <summary>Whether it really stands elsewhere for going as late, or as soon, as it can.</summary>
    private bool IsContrary(int row) =>
        (_facts.Traits[row] & TaskTraits.Contrary) != 0 && (!_fromStart || _schedule.StartOf(row) != _schedule.EarlyStarts[row]);

    private bool[] FindTight()
    {
        var tight = new bool[_plan.Links.Length];
        var (from, edges) = (_plan.LinkEnds.From, _plan.LinkEnds.Edges);
        for (var link = 0; link < edges.Length; link++)
        {
            var (row, edge) = (from[link], edges[link]);
            if (_facts.IsOff(row) || _facts.IsOff(edge.Target))
                continue;
            tight[link] =
                _fromStart && _facts.IsLeaf(edge.Target)
                    ? IsTight(row, edge)
                    : HoldsAny(edge, Bound(link), _fromStart ? edge.Target : row);
        }
        return tight;
    }

    /// <summary>As <see cref="HoldsAny"/>, without the detours: most links lead to tasks that stand as early as they can.</summary>
    [MethodImpl(MethodImplOptions.NoInlining)]
    private bool IsTight(int from, Edge edge)
    {
        var to = edge.Target;
        var bound = (edge.FromStart ? _schedule.Starts : _schedule.Finishes)[from];
        if (edge.Lag != 0)
            bound = Lags.Shift(_project, new(bound), edge).Time;
        var date = (edge.ToFinish ? _schedule.Finishes : _schedule.Starts)[to];
        return bound == date || (_facts.Spans[to] > 0 && _facts.Calendars[to].Between(bound, date) == 0);
    }

    /// <summary>Whether both ends of a link are active.</summary>
    private bool Takes(int link) => !_facts.IsOff(_plan.LinkEnds.From[link]) && !_facts.IsOff(_plan.LinkEnds.Edges[link].Target);

    private bool HoldsAny(Edge edge, PlanTime bound, int held)
    {
        var last = _facts.IsLeaf(held) ? held + 1 : _plan.Index.SubtreeEnd(held);
        for (var row = held; row < last; row++)
            if (_facts.IsLeaf(row) && Holds(edge, bound, row))
                return true;
        return false;
    }

    /// <summary>The bound a link puts on its successor, or, worked out from the finish, on its predecessor.</summary>
    private PlanTime Bound(int position)
    {
        var (from, edge) = (_plan.LinkEnds.From[position], _plan.LinkEnds.Edges[position]);
        if (_fromStart)
            return Lags.Shift(_project, new(edge.FromStart ? _schedule.Starts[from] : _schedule.Finishes[from]), edge).Time;
        var to = edge.Target;
        var limit = edge.ToFinish ? _schedule.Finishes[to] : _schedule.Starts[to];
        if (_facts.IsLeaf(to) && _facts.Spans[to] > 0)
            limit = _facts.Calendars[to].Next(limit);
        return Lags.TakeBack(_project, new(limit), edge).Time;
    }

    private bool Holds(Edge edge, PlanTime bound, int row) =>
        _fromStart
            ? edge.ToFinish
                ? BindsFinish(row, bound)
                : BindsStart(row, bound)
            : edge.FromStart
                ? BindsStart(row, bound)
                : BindsFinish(row, bound);

    /// <summary>Whether no working minute lies between a bound and the start.</summary>
    private bool BindsStart(int row, PlanTime bound)
    {
        if (_fromStart || bound == _schedule.Starts[row] || _facts.Spans[row] == 0)
            return Binds(row, bound, _schedule.Starts[row]);
        return Limit.LatestStart(_facts.Calendars[row], new(bound), _project) == _facts.Calendars[row].Worked(_schedule.Starts[row]);
    }

    private bool BindsFinish(int row, PlanTime bound) => Binds(row, bound, _schedule.Finishes[row]);

    private bool Binds(int row, PlanTime bound, PlanTime date)
    {
        if (bound == date)
            return true;
        return _facts.Spans[row] > 0 && _facts.Calendars[row].Worked(bound) == _facts.Calendars[row].Worked(date);
    }

    private PlanTime Nearer(PlanTime a, PlanTime b) => _fromStart ? PlanTime.Max(a, b) : PlanTime.Min(a, b);

    /// <summary>Whether a whole day without work lies between: a night is no time off.</summary>
    private static bool IsTimeOff(WorkTime calendar, PlanTime from, PlanTime to)
    {
        for (var day = from.Day; day < to.Day; day++)
            if (calendar.WorkedOn(DateOnly.FromDayNumber(day)) == 0)
                return true;
        return false;
    }
}
