using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>Early dates (rules L1–L3, K1, K2, F1, F2, F4).</summary>
/// <param name="plan">The plan.</param>
/// <param name="network">Its links.</param>
/// <param name="schedule">Gets the early dates of leaves, and of phases where they are linked.</param>
/// <param name="facts">What its tasks are.</param>
/// <param name="start">Nothing starts before this that can help it.</param>
internal sealed class ForwardPass(Plan plan, Network network, Schedule schedule, TaskInputs facts, PlanTime start) : IDisposable
{
    private readonly Scratch<CountedTime> _bounds = new(2 * network.Order.Length);
    private readonly Scratch<int> _counts = new(plan.Index.Count);

    /// <summary>
    /// By node: the latest bounds that links put on its start and on its finish, in turn. Counts here are by the project calendar.
    /// </summary>
    private CountedTime[] _bound = [];

    private readonly WorkTime _project = plan.ProjectCalendar;
    private readonly CountedTime _start = new(start, plan.ProjectCalendar.Worked(start));
    private readonly CountedTime? _status = DateBounds.StatusBound(plan.Project) is { } status ? new(status) : null;

    /// <summary>
    /// By row: the working minutes of a leaf's own calendar before its early finish; negative where they were not counted.
    /// </summary>
    public int[] FinishCounts => _counts.Array;

    public void Dispose()
    {
        _bounds.Dispose();
        _counts.Dispose();
    }

    /// <summary>Where a leaf that nothing fixes starts, given its row and the earliest start there is; <c>null</c> for there.</summary>
    public Func<int, PlanTime, PlanTime>? Later { get; init; }

    public void Run()
    {
        Begin();
        foreach (var node in network.Order)
        {
            schedule.ThrowIfEnded();
            Visit(node);
        }
    }

    /// <summary>Comes before the first visit.</summary>
    public void Begin() => _bound = _bounds.Array;

    /// <summary>Places what a node is; all that leads to it was visited.</summary>
    public void Visit(int node)
    {
        CountedTime began,
            ended;
        if (network.IsEnd(node))
        {
            var row = network.RowOfEnd(node);
            if (!facts.IsPhase(row))
                return;
            (began, ended) = (new(schedule.EarlyStarts[row]), _bound[2 * node]);
            schedule.EarlyFinishes[row] = ended.Time;
        }
        else if (facts.IsLeaf(node))
        {
            ended = Place(node);
            began = StartOf(node, ended);
        }
        else
        {
            began = ended = _bound[2 * node];
        }
        foreach (var edge in network.EdgesOf(node))
            Bind(edge, began, ended);
    }

    /// <summary>Places one leaf anew, by what the leaves before it have: in a plan without linked phases.</summary>
    public void PlaceAlone(int row)
    {
        _bound = _bounds.Array;
        var ends = plan.LinkEnds;
        foreach (var link in ends.LeadingTo(row).Span)
        {
            var from = ends.From[link];
            Bind(ends.Edges[link], new(schedule.EarlyStarts[from]), new(schedule.EarlyFinishes[from]));
        }
        Place(row);
    }

    private void Bind(Edge edge, CountedTime began, CountedTime ended)
    {
        var bound = CountedTime.Either(edge.FromStart, began, ended);
        if (edge.Lag != 0)
            bound = Lags.Shift(_project, bound, edge);
        _bound[edge.End] = CountedTime.Max(_bound[edge.End], bound);
        if (network.HasPhases && network.IsEnd(edge.Target))
            Begin(network.RowOfEnd(edge.Target), began.Time);
    }

    /// <summary>A phase starts with the first row in it.</summary>
    private void Begin(int phase, PlanTime began)
    {
        var first = schedule.EarlyStarts[phase];
        if (first == default || began < first)
            schedule.EarlyStarts[phase] = began;
    }

    /// <summary>Its early start, counted where its finish was.</summary>
    private CountedTime StartOf(int row, CountedTime ended) =>
        new(
            schedule.EarlyStarts[row],
            ended.Worked >= 0 && (facts.Traits[row] & TaskTraits.Fixed) == 0 ? ended.Worked - facts.Spans[row] : -1
        );

    /// <returns>The early finish, counted where that was by the project calendar.</returns>
    private CountedTime Place(int row)
    {
        if ((facts.Traits[row] & TaskTraits.Fixed) != 0)
            return Put(row, FixedPlacement.Of(plan, plan.Tasks[row], facts.Calendars[row], facts.Lengths[row], facts.Spans[row]), -1);
        var dates = From(row, out var count);
        if (Later?.Invoke(row, dates.Start) is { } later && later > dates.Start)
            dates = From(row, later, out count);
        return Put(row, dates, count);
    }

    private CountedTime Put(int row, Segment dates, int count)
    {
        if (dates.Finish > PlanTime.Latest || dates.Start < PlanTime.Earliest)
            throw OutOfRange(plan, row);
        schedule.EarlyStarts[row] = dates.Start;
        schedule.EarlyFinishes[row] = dates.Finish;
        FinishCounts[row] = count;
        return new CountedTime(dates.Finish, ReferenceEquals(facts.Calendars[row], _project) ? count : -1);
    }

    /// <summary>F1: the largest of the start, the links, not before, levelling, and the status date where unfinished work moves.</summary>
    private CountedTime Earliest(int row, WorkTime calendar, int span)
    {
        var earliest = CountedTime.Max(_bound[2 * row], _start);
        if (_status is { } status)
            earliest = CountedTime.Max(earliest, status);
        if ((facts.Traits[row] & (TaskTraits.NotBefore | TaskTraits.Delayed)) == 0)
            return earliest;
        if (plan.Tasks[row].DelayedUntil is { } delayed)
            earliest = CountedTime.Max(earliest, new(delayed));
        if ((facts.Traits[row] & TaskTraits.NotBefore) == 0)
            return earliest;
        return CountedTime.Max(earliest, new(DateBounds.NotBefore(plan.Tasks[row].Constraint!, calendar, span)));
    }

    /// <summary>L1, L2, K2: work begins at the next working minute; what has no length stays where it is.</summary>
    /// <param name="row">A leaf that nothing fixes.</param>
    /// <param name="count">See <see cref="FinishCounts"/>.</param>
    private Segment From(int row, out int count)
    {
        var (calendar, span) = (facts.Calendars[row], facts.Spans[row]);
        var (bound, finishBound) = (Earliest(row, calendar, span), _bound[2 * row + 1]);
        if (span == 0)
        {
            bound = CountedTime.Max(bound, finishBound);
            count = ReferenceEquals(calendar, _project) ? bound.Worked : -1;
            return new(bound.Time, bound.Time);
        }
        var worked = bound.WorkedBy(calendar, _project);
        if (finishBound.Time > bound.Time)
            worked = Math.Max(worked, finishBound.WorkedBy(calendar, _project) - span);
        count = worked + span;
        return new(calendar.MinuteStart(worked), calendar.MinuteEnd(count));
    }

    private Segment From(int row, PlanTime start, out int count)
    {
        var (calendar, span) = (facts.Calendars[row], facts.Spans[row]);
        count = calendar.Worked(start) + span;
        return span == 0 ? new(start, start) : new(calendar.MinuteStart(count - span), calendar.MinuteEnd(count));
    }

    public static UnsoundPlanException OutOfRange(Plan plan, int row) =>
        new([
            PlanProblem.About(
                "outOfRange",
                $"{LinkRules.Named(plan, row)} would lie outside the years 1990 to 2100: shorten it, or give its calendar more "
                    + "working days.",
                plan.Tasks[row].Id
            ),
        ]);
}
