using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>
/// Puts leaves as late as their successors, as these stand, allow: all of a plan that is worked out from its finish (rule R1), or,
/// worked out from its start, those that go as late as they can (rule F5).
/// </summary>
/// <param name="plan">The plan.</param>
/// <param name="network">Its links.</param>
/// <param name="schedule">Its starts and finishes are where fixed leaves, and those that are not put, stand.</param>
/// <param name="facts">What its tasks are.</param>
internal sealed class LatestPlacement(Plan plan, Network network, Schedule schedule, TaskInputs facts)
{
    private static readonly Limit Free = new(CountedTime.Never, CountedTime.Never);

    /// <summary>The backward pass, which comes after, sets them anew.</summary>
    private readonly Limits _limits = schedule.Limits.Late;

    /// <summary>The rows and inner phases that start each phase; where it is not known, early dates tell.</summary>
    private HashSet<(int Row, int Phase)>? _starters;

    private readonly WorkTime _project = plan.ProjectCalendar;

    /// <summary>R1: every leaf that nothing fixes, from the project's finish.</summary>
    /// <exception cref="UnsoundPlanException">A leaf would lie before 1990.</exception>
    public void FromFinish(PlanTime finish)
    {
        Begin();
        if (!network.GoesByPhaseStarts)
        {
            Run(finish, delaying: false);
            return;
        }
        // Which row starts a phase shows only when all stand: a link from its start then binds those that do.
        _starters = [];
        Run(finish, delaying: false);
        _starters = [.. Starters()];
        Run(finish, delaying: false);
    }

    /// <summary>F5: the leaves that go as late as they can, without moving anything else.</summary>
    public void Delay(PlanTime finish) => Run(finish, delaying: true);

    /// <summary>Where a leaf that nothing fixes starts, given its row and the latest start there is; <c>null</c> for there.</summary>
    public Func<int, PlanTime, PlanTime>? Earlier { get; init; }

    /// <summary>Comes before the first visit: fixed leaves stand where they are.</summary>
    public void Begin()
    {
        foreach (var row in Rows(TaskTraits.Fixed))
            (schedule.Starts[row], schedule.Finishes[row]) = FixedPlacement.Of(
                plan,
                plan.Tasks[row],
                facts.Calendars[row],
                facts.Lengths[row],
                facts.Spans[row]
            );
    }

    private IEnumerable<int> Rows(TaskTraits any)
    {
        for (var row = 0; row < facts.Traits.Length; row++)
            if (facts.IsLeaf(row) && (facts.Traits[row] & any) != 0)
                yield return row;
    }

    private void Run(PlanTime finish, bool delaying)
    {
        for (var i = network.Order.Length - 1; i >= 0; i--)
        {
            schedule.ThrowIfEnded();
            Visit(network.Order[i], finish, delaying);
        }
    }

    /// <summary>Places what a node is; all that it leads to was visited.</summary>
    public void Visit(int node, PlanTime finish, bool delaying = false)
    {
        var limit = Free;
        foreach (var edge in network.EdgesOf(node))
        {
            if (network.IsEnd(edge.Target))
                BoundInPhase(node, edge.Target, ref limit);
            else
                limit.Bound(edge, Lags.TakeBack(_project, _limits.Of(edge), edge));
        }
        if (delaying && network.IsEnd(node))
            Hold(node, ref limit);
        if (network.IsEnd(node))
            _limits.Set(node, limit);
        else if (!facts.IsLeaf(node))
            _limits.Set(node, limit.OfBoth);
        else
        {
            limit.BoundFinish(new(finish));
            if (delaying)
                Delay(node, limit);
            else if ((facts.Traits[node] & TaskTraits.Fixed) == 0)
                Put(node, limit);
            _limits.Set(node, Towards(node));
        }
    }

    private void BoundInPhase(int node, int end, ref Limit limit)
    {
        limit.BoundFinish(_limits.Finish(end));
        var (row, phase) = (network.IsEnd(node) ? network.RowOfEnd(node) : node, network.RowOfEnd(end));
        var starts = _starters?.Contains((row, phase)) ?? schedule.EarlyStarts[row] == schedule.EarlyStarts[phase];
        if (starts)
            limit.BoundStart(_limits.Start(end));
    }

    /// <summary>F5: the date of a phase that a link goes by does not move.</summary>
    private void Hold(int end, ref Limit limit)
    {
        var phase = network.RowOfEnd(end);
        foreach (var edge in network.EdgesOf(end))
            if (!network.IsEnd(edge.Target))
                limit.Bound(edge, new(edge.FromStart ? schedule.EarlyStarts[phase] : schedule.EarlyFinishes[phase]));
    }

    private void Delay(int row, Limit limit)
    {
        if ((facts.Traits[row] & (TaskTraits.Contrary | TaskTraits.Fixed)) != TaskTraits.Contrary)
            return;
        var latest = Latest(row, limit);
        if (latest.Start > schedule.Starts[row])
            (schedule.Starts[row], schedule.Finishes[row]) = latest;
    }

    private void Put(int row, Limit limit)
    {
        if ((facts.Traits[row] & TaskTraits.NotAfter) != 0)
            limit.NotAfter(plan.Tasks[row].Constraint!);
        var latest = Latest(row, limit);
        if (Earlier?.Invoke(row, latest.Start) is { } earlier && earlier < latest.Start)
        {
            var (calendar, span) = (facts.Calendars[row], facts.Spans[row]);
            var worked = calendar.Worked(earlier);
            latest = span == 0 ? new(earlier, earlier) : new(calendar.MinuteStart(worked), calendar.MinuteEnd(worked + span));
        }
        if (latest.Start < PlanTime.Earliest || latest.Finish > PlanTime.Latest)
            throw ForwardPass.OutOfRange(plan, row);
        (schedule.Starts[row], schedule.Finishes[row]) = latest;
    }

    private Segment Latest(int row, Limit limit)
    {
        var (calendar, span) = (facts.Calendars[row], facts.Spans[row]);
        if (span == 0)
            return CountedTime.Min(limit.Start, limit.Finish).Time is var at ? new(at, at) : default;
        var finish = calendar.Worked(limit.Finish.Time);
        if (limit.BindsStart)
            finish = Math.Min(finish, Limit.LatestStart(calendar, limit.Start, _project) + span);
        return new(calendar.MinuteStart(finish - span), calendar.MinuteEnd(finish));
    }

    /// <summary>Started work binds nothing before it (B1).</summary>
    private Limit Towards(int row)
    {
        if ((facts.Traits[row] & (TaskTraits.Started | TaskTraits.Finished)) != 0)
            return Free;
        var calendar = facts.Calendars[row];
        var (start, finish) = (schedule.Starts[row], schedule.Finishes[row]);
        return facts.Spans[row] == 0 ? new(new(start), new(finish)) : new(new(calendar.Next(start)), new(calendar.Next(finish)));
    }

    /// <summary>The rows and inner phases that start each phase as it stands.</summary>
    private IEnumerable<(int Row, int Phase)> Starters()
    {
        var first = new PlanTime[plan.Index.Count];
        for (var row = first.Length - 1; row >= 0; row--)
        {
            if (facts.IsOff(row))
                continue;
            if (facts.IsLeaf(row))
                first[row] = schedule.Starts[row];
            if (plan.Index.ParentOf(row) is var parent and >= 0 && (first[parent] == default || first[row] < first[parent]))
                first[parent] = first[row];
        }
        for (var row = 0; row < first.Length; row++)
            if (plan.Index.ParentOf(row) is var parent and >= 0 && !facts.IsOff(row) && first[row] == first[parent])
                yield return (row, parent);
    }
}
