using System.Runtime.CompilerServices;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>Late dates, total and free float, and what is critical (rules B1–B3).</summary>
/// <param name="plan">The plan.</param>
/// <param name="network">Its links.</param>
/// <param name="schedule">Has the early dates, gets the late ones and the floats.</param>
/// <param name="facts">What its tasks are.</param>
/// <param name="limits">Gets the limits of its nodes; counts in them are by the project calendar.</param>
/// <param name="finishCounts">See <see cref="ForwardPass.FinishCounts"/>.</param>
internal sealed class BackwardPass(Plan plan, Network network, Schedule schedule, TaskInputs facts, BothLimits limits, int[] finishCounts)
{
    private static CountedTime Unbound => CountedTime.Never;

    private readonly Limits _late = limits.Late;
    private readonly Limits _still = limits.Still;
    private readonly WorkTime _project = plan.ProjectCalendar;
    private readonly CountedTime _floatTo = new(schedule.FloatTo, plan.ProjectCalendar.Worked(schedule.FloatTo));
    private readonly CountedTime _finish = new(schedule.Finish, plan.ProjectCalendar.Worked(schedule.Finish));
    private readonly int _criticalFloat = plan.Project.Units.Minutes(plan.Project.CriticalFloat).Count;

    public void Run()
    {
        var order = network.Order;
        for (var i = order.Length - 1; i >= 0; i--)
        {
            schedule.ThrowIfEnded();
            Visit(order[i]);
        }
    }

    /// <summary>Late dates and limits of a node; those of all it binds are known.</summary>
    public void Visit(int node)
    {
        var late = new Limit(Unbound, Unbound);
        var still = late;
        foreach (var edge in network.EdgesOf(node))
            if (network.HasPhases && network.IsEnd(edge.Target))
                InPhase(node, edge.Target, ref late, ref still);
            else
                Bind(edge, ref late, ref still);
        if (network.IsEnd(node))
            Settle(network.RowOfEnd(node), node, ref late, ref still);
        else if (facts.IsLeaf(node))
            Leaf(node, ref late, ref still);
        else
        {
            _late.Set(node, late.OfBoth);
            _still.Set(node, still.OfBoth);
        }
    }

    /// <summary>A method of its own, because the JIT compiles choices without branches only outside loops.</summary>
    [MethodImpl(MethodImplOptions.NoInlining)]
    private void Bind(Edge edge, ref Limit late, ref Limit still)
    {
        var (lateLimit, stillLimit) = (_late.Of(edge), _still.Of(edge));
        if (edge.Lag != 0)
        {
            lateLimit = Lags.TakeBack(_project, lateLimit, edge);
            stillLimit = Lags.TakeBack(_project, stillLimit, edge);
        }
        late.Bound(edge, lateLimit);
        still.Bound(edge, stillLimit);
    }

    /// <summary>What a phase's links ask of a row in it: all must finish, those that start it must start (B1).</summary>
    private void InPhase(int node, int end, ref Limit late, ref Limit still)
    {
        late.BoundFinish(_late.Finish(end));
        still.BoundFinish(_still.Finish(end));
        if (!network.GoesByPhaseStarts)
            return;
        var row = network.IsEnd(node) ? network.RowOfEnd(node) : node;
        if (schedule.EarlyStarts[row] != schedule.EarlyStarts[network.RowOfEnd(end)])
            return;
        late.BoundStart(_late.Start(end));
        still.BoundStart(_still.Start(end));
    }

    /// <summary>An end passes its limits on to the rows of its phase. A start that another row gives as well holds nobody still.</summary>
    private void Settle(int phase, int node, ref Limit late, ref Limit still)
    {
        if (still.BindsStart && SecondStart(phase) <= still.Start.Time)
            still = new Limit(Unbound, still.Finish);
        _late.Set(node, late);
        _still.Set(node, still);
    }

    private PlanTime SecondStart(int phase)
    {
        var (first, second) = (WorkTime.Never, WorkTime.Never);
        for (var row = phase + 1; row < plan.Index.SubtreeEnd(phase); row++)
        {
            if (!facts.IsLeaf(row))
                continue;
            var start = schedule.EarlyStarts[row];
            if (start < first)
                (first, second) = (start, first);
            else if (start < second)
                second = start;
        }
        return second;
    }

    private void Leaf(int row, ref Limit late, ref Limit still)
    {
        if ((facts.Traits[row] & (TaskTraits.Fixed | TaskTraits.NotAfter)) != 0)
        {
            Dated(row, ref late, ref still);
            return;
        }
        late.BoundFinish(_floatTo);
        still.BoundFinish(_finish);
        var (calendar, span) = (facts.Calendars[row], facts.Spans[row]);
        // Counts of working minutes before each instant: differences of them are floats, and each is looked up once.
        var worked = finishCounts[row] >= 0 ? finishCounts[row] : calendar.Worked(schedule.EarlyFinishes[row]);
        var workedLate = LatestFinish(calendar, late, span);
        var workedStill = LatestFinish(calendar, still, span);
        var lateFinish = span == 0 ? late.OfBoth.Finish.Time : calendar.MinuteEnd(workedLate);
        var lateStart = span == 0 ? lateFinish : calendar.MinuteStart(workedLate - span);
        SetFloat(row, lateStart, lateFinish, workedLate - worked, workedStill - worked);
        SetLimits(row, lateStart, lateFinish, workedLate, worked);
    }

    /// <summary>A leaf that is started, or has a date that its links do not move.</summary>
    private void Dated(int row, ref Limit late, ref Limit still)
    {
        var traits = facts.Traits[row];
        if ((traits & TaskTraits.Finished) != 0)
        {
            SetFree(row);
            return;
        }
        var calendar = facts.Calendars[row];
        var (start, finish, span) = (schedule.EarlyStarts[row], schedule.EarlyFinishes[row], facts.Spans[row]);
        // From start to finish: the length with its pauses; where dates are given, what lies between.
        var own = (traits & (TaskTraits.Started | TaskTraits.Pinned)) == 0 ? span : calendar.Between(start, finish);
        var started = (traits & TaskTraits.Started) != 0;
        if ((traits & TaskTraits.NotAfter) != 0)
            late.NotAfter(plan.Tasks[row].Constraint!);
        if (started)
            (late, still) = (new Limit(Unbound, late.Finish), new Limit(Unbound, still.Finish));
        late.BoundFinish(_floatTo);
        still.BoundFinish(_finish);
        var worked = finishCounts[row] >= 0 ? finishCounts[row] : calendar.Worked(finish);
        var must = !started && (traits & TaskTraits.Must) != 0;
        var workedLate = must ? worked : LatestFinish(calendar, late, own);
        var workedStill = LatestFinish(calendar, still, own);
        var lateFinish =
            must ? finish
            : span == 0 && own == 0 ? late.OfBoth.Finish.Time
            : calendar.MinuteEnd(workedLate);
        var lateStart =
            must || started ? start
            : own == 0 ? lateFinish
            : calendar.MinuteStart(workedLate - own);
        SetFloat(row, lateStart, lateFinish, workedLate - worked, workedStill - worked);
        if (started)
            SetFree(row);
        else if ((traits & (TaskTraits.Pinned | TaskTraits.Must)) == 0)
            SetLimits(row, lateStart, lateFinish, workedLate, worked);
        else
        {
            // It stands where it is, and moves for nobody.
            var bindsFinish = (traits & TaskTraits.FinishBound) != 0;
            _late.Set(
                row,
                new(span == 0 ? start : calendar.Next(start)),
                bindsFinish ? FinishLimit(calendar, worked, finish, span) : Unbound
            );
            _still.Set(row, Unbound, Unbound);
        }
    }

    private void SetFloat(int row, PlanTime lateStart, PlanTime lateFinish, int total, int free)
    {
        schedule.LateStarts[row] = lateStart;
        schedule.LateFinishes[row] = lateFinish;
        schedule.TotalFloats[row] = total;
        free = Math.Max(0, free);
        schedule.FreeFloats[row] = total >= 0 ? Math.Min(free, total) : free;
        schedule.Criticals[row] = total <= _criticalFloat;
    }

    /// <summary>What it puts on those before it: to let it stand as late as it may, and where it stands.</summary>
    private void SetLimits(int row, PlanTime lateStart, PlanTime lateFinish, int workedLate, int worked)
    {
        var (calendar, span) = (facts.Calendars[row], facts.Spans[row]);
        var counted = ReferenceEquals(calendar, _project);
        _late.Set(row, new(lateStart, counted ? workedLate - span : -1), Unbound);
        _still.Set(row, new(schedule.EarlyStarts[row], counted ? worked - span : -1), Unbound);
        if ((facts.Traits[row] & TaskTraits.FinishBound) == 0)
            return;
        _late.SetFinish(row, FinishLimit(calendar, workedLate, lateFinish, span));
        _still.SetFinish(row, FinishLimit(calendar, worked, schedule.EarlyFinishes[row], span));
    }

    /// <summary>Nothing before it is bound.</summary>
    private void SetFree(int row)
    {
        _late.Set(row, Unbound, Unbound);
        _still.Set(row, Unbound, Unbound);
    }

    private int LatestFinish(WorkTime calendar, in Limit limit, int span)
    {
        var finish = limit.Finish.WorkedBy(calendar, _project);
        if (!limit.BindsStart)
            return finish;
        return Math.Min(
            finish,
            span == 0 ? limit.Start.WorkedBy(calendar, _project) : Limit.LatestStart(calendar, limit.Start, _project) + span
        );
    }

    /// <summary>How late a bound on the finish may be: up to the next working minute (K2).</summary>
    private static CountedTime FinishLimit(WorkTime calendar, int worked, PlanTime finish, int span) =>
        new(span == 0 ? finish : calendar.MinuteStart(worked));
}
