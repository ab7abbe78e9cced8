using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>
/// In a plan worked out from its finish: the leaves that go as soon as they can are put as early as what comes before them allows,
/// without moving anything else (rule R1, F5 mirrored).
/// </summary>
internal sealed class Advance(Plan plan, Network network, Schedule schedule, TaskInputs facts)
{
    private readonly PlanTime[] _bound = new PlanTime[network.Order.Length];
    private readonly PlanTime[] _finishBound = new PlanTime[network.Order.Length];
    private readonly (PlanTime Start, PlanTime Finish)[] _phases = new (PlanTime, PlanTime)[plan.Index.Count];
    private readonly bool[] _startHeld = new bool[plan.Index.Count];
    private readonly bool[] _finishHeld = new bool[plan.Index.Count];

    public void Run(PlanTime start)
    {
        FindPhases();
        foreach (var node in network.Order)
        {
            PlanTime began,
                ended;
            if (network.IsEnd(node))
                (began, ended) = _phases[network.RowOfEnd(node)];
            else if (facts.IsLeaf(node))
            {
                if ((facts.Traits[node] & (TaskTraits.Contrary | TaskTraits.Fixed)) == TaskTraits.Contrary)
                    Put(node, start);
                (began, ended) = (schedule.Starts[node], schedule.Finishes[node]);
            }
            else
                began = ended = _bound[node];
            foreach (var edge in network.EdgesOf(node))
                Bind(edge, began, ended);
        }
    }

    private void Bind(Edge edge, PlanTime began, PlanTime ended)
    {
        if (network.IsEnd(edge.Target))
            return;
        var bound = Lags.Shift(plan.ProjectCalendar, new(edge.FromStart ? began : ended), edge).Time;
        var bounds = edge.ToFinish ? _finishBound : _bound;
        bounds[edge.Target] = PlanTime.Max(bounds[edge.Target], bound);
    }

    private void Put(int row, PlanTime start)
    {
        var (calendar, span) = (facts.Calendars[row], facts.Spans[row]);
        var bound = PlanTime.Max(_bound[row], start);
        if (DateBounds.StatusBound(plan.Project) is { } status)
            bound = PlanTime.Max(bound, status);
        for (var phase = plan.Index.ParentOf(row); phase >= 0; phase = plan.Index.ParentOf(phase))
        {
            if (_startHeld[phase])
                bound = PlanTime.Max(bound, _phases[phase].Start);
            if (_finishHeld[phase] && schedule.Finishes[row] == _phases[phase].Finish)
                return;
        }
        if (span == 0)
            bound = PlanTime.Max(bound, _finishBound[row]);
        else
        {
            var worked = Math.Max(calendar.Worked(bound), calendar.Worked(_finishBound[row]) - span);
            bound = calendar.MinuteStart(worked);
        }
        if (bound >= schedule.Starts[row])
            return;
        schedule.Starts[row] = bound;
        schedule.Finishes[row] = calendar.Add(bound, span);
    }

    /// <summary>The dates of linked phases, and which of them links go by.</summary>
    private void FindPhases()
    {
        if (!network.HasPhases)
            return;
        for (var row = plan.Index.Count - 1; row >= 0; row--)
        {
            if (facts.IsOff(row))
                continue;
            if (facts.IsLeaf(row))
                _phases[row] = (schedule.Starts[row], schedule.Finishes[row]);
            else
                foreach (var edge in network.EdgesOf(row + plan.Index.Count))
                    if (!network.IsEnd(edge.Target))
                        (edge.FromStart ? _startHeld : _finishHeld)[row] = true;
            if (plan.Index.ParentOf(row) is not (var parent and >= 0))
                continue;
            var (first, last) = _phases[parent];
            _phases[parent] = (
                first == default ? _phases[row].Start : PlanTime.Min(first, _phases[row].Start),
                PlanTime.Max(last, _phases[row].Finish)
            );
        }
    }
}
