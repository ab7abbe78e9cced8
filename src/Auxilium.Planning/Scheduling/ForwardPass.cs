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
    private readonly Scratch<CountedTime> _bounds = new(network.Order.Length);
    private readonly Scratch<CountedTime> _finishBounds = new(network.BindsFinishes ? plan.Index.Count : 0);
    private readonly Scratch<int> _counts = new(plan.Index.Count);

    /// <summary>By node: the latest bound that links put on the start of a leaf. Counts here are by the project calendar.</summary>
    private CountedTime[] _bound = [];

    /// <summary>The same on its finish, where links bind finishes.</summary>
    private CountedTime[] _finishBound = [];

    private readonly WorkTime _project = plan.ProjectCalendar;
    private readonly CountedTime _start = new(start, plan.ProjectCalendar.Worked(start));
    private readonly CountedTime? _status = DateBounds.StatusBound(plan.Project) is { } status ? new(status) : null;

    /// <summary>
    /// By row: the working minutes of the project calendar before the early finish of a leaf; negative where they were not counted.
    /// </summary>
    public int[] FinishCounts => _counts.Array;

    public void Dispose()
    {
        _bounds.Dispose();
        _finishBounds.Dispose();
        _counts.Dispose();
    }

    public void Run()
    {
        (_bound, _finishBound) = (_bounds.Array, _finishBounds.Array);
        foreach (var node in network.Order)
        {
            schedule.ThrowIfEnded();
            CountedTime began,
                ended;
            if (network.IsEnd(node))
            {
                var row = network.RowOfEnd(node);
                if (!facts.IsPhase(row))
                    continue;
                (began, ended) = (new(schedule.EarlyStarts[row]), _bound[node]);
                schedule.EarlyFinishes[row] = ended.Time;
            }
            else if (facts.IsLeaf(node))
            {
                ended = Place(node);
                began = StartOf(node, ended);
            }
            else
            {
                began = ended = _bound[node];
            }
            foreach (var edge in network.EdgesOf(node))
                Bind(edge, began, ended);
        }
    }

    /// <summary>Places one leaf anew, by what the leaves before it have: in a plan without linked phases.</summary>
    public void PlaceAlone(int row)
    {
        (_bound, _finishBound) = (_bounds.Array, _finishBounds.Array);
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
        var target = edge.Target;
        if (edge.IsPlain)
        {
            _bound[target] = CountedTime.Max(_bound[target], ended);
            if (network.IsEnd(target))
                Begin(network.RowOfEnd(target), began.Time);
            return;
        }
        var bound = Lags.Shift(_project, edge.FromStart ? began : ended, edge);
        if (edge.ToFinish)
            _finishBound[target] = CountedTime.Max(_finishBound[target], bound);
        else
            _bound[target] = CountedTime.Max(_bound[target], bound);
    }

    /// <summary>A phase starts with the first row in it.</summary>
    private void Begin(int phase, PlanTime began)
    {
        var first = schedule.EarlyStarts[phase];
        if (first == default || began < first)
            schedule.EarlyStarts[phase] = began;
    }

    private CountedTime StartOf(int row, CountedTime ended) =>
        new(
            schedule.EarlyStarts[row],
            ended.Worked >= 0 && (facts.Traits[row] & TaskTraits.Fixed) == 0 ? ended.Worked - facts.Spans[row] : -1
        );

    private CountedTime Place(int row)
    {
        var (calendar, span) = (facts.Calendars[row], facts.Spans[row]);
        var count = -1;
        var (began, ended) =
            (facts.Traits[row] & TaskTraits.Fixed) == 0
                ? From(row, calendar, Earliest(row, calendar, span), span, out count)
                : FixedPlacement.Of(plan, plan.Tasks[row], calendar, facts.Lengths[row], span);
        if (ended > PlanTime.Latest || began < PlanTime.Earliest)
            throw OutOfRange(plan, row);
        schedule.EarlyStarts[row] = began;
        schedule.EarlyFinishes[row] = ended;
        FinishCounts[row] = count;
        return new CountedTime(ended, count);
    }

    /// <summary>F1: the largest of the start, the links, not before, and the status date where unfinished work moves.</summary>
    private CountedTime Earliest(int row, WorkTime calendar, int span)
    {
        var earliest = CountedTime.Max(_bound[row], _start);
        if (_status is { } status)
            earliest = CountedTime.Max(earliest, status);
        if ((facts.Traits[row] & TaskTraits.NotBefore) == 0)
            return earliest;
        return CountedTime.Max(earliest, new(DateBounds.NotBefore(plan.Tasks[row].Constraint!, calendar, span)));
    }

    /// <summary>L1, L2, K2: work begins at the next working minute; what has no length stays where it is.</summary>
    /// <param name="count">Working minutes before the finish, where they are those of the project calendar.</param>
    private Segment From(int row, WorkTime calendar, CountedTime bound, int span, out int count)
    {
        var finishBound = !network.BindsFinishes || (facts.Traits[row] & TaskTraits.FinishBound) == 0 ? default : _finishBound[row];
        if (span == 0)
        {
            bound = CountedTime.Max(bound, finishBound);
            count = bound.Worked;
            return new(bound.Time, bound.Time);
        }
        var worked = bound.WorkedBy(calendar, _project);
        if (finishBound.Time > bound.Time)
            worked = Math.Max(worked, finishBound.WorkedBy(calendar, _project) - span);
        count = ReferenceEquals(calendar, _project) ? worked + span : -1;
        return new(calendar.MinuteStart(worked), calendar.MinuteEnd(worked + span));
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
