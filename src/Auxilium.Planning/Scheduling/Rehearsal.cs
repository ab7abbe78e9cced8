using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Scheduling;

/// <summary>
/// Calculates one plan again and again with other lengths, as the scheduler would, but in the same arrays: for trying thousands of
/// ways it may go. Dates go from the plan's start. Not for use by two threads at once.
/// </summary>
internal sealed class Rehearsal
{
    private readonly Plan _plan;
    private readonly Network _network;
    private readonly TaskInputs _facts;
    private readonly Schedule _schedule;

    /// <param name="plan">A sound plan that is worked out from its start.</param>
    public Rehearsal(Plan plan)
    {
        _plan = plan;
        var groundwork = plan.Groundwork.Copy();
        (_facts, _network) = (groundwork.Facts, groundwork.Network);
        _schedule = new Schedule(plan, groundwork) { Start = plan.Project.Anchor };
    }

    public PlanTime Finish => _schedule.Finish;

    /// <summary>Gives a leaf another length, in working minutes, for the runs to come.</summary>
    public void SetLength(int row, int minutes) => _facts.SetLength(_plan, row, minutes);

    public void Run()
    {
        Array.Clear(_schedule.EarlyStarts);
        using var forward = new ForwardPass(_plan, _network, _schedule, _facts, _schedule.Start);
        forward.Run();
        _schedule.Finish = Scheduler.LatestFinish(_schedule, _facts) ?? _schedule.Start;
        var backward = new BackwardPass(_plan, _network, _schedule, _facts, _schedule.Limits, forward.FinishCounts);
        backward.Run();
    }

    /// <summary>The finish of a leaf, or the latest of those in a phase.</summary>
    public PlanTime FinishOf(int row)
    {
        var latest = default(PlanTime);
        for (var leaf = row; leaf < _plan.Index.SubtreeEnd(row); leaf++)
            if (_facts.IsLeaf(leaf))
                latest = PlanTime.Max(latest, _schedule.EarlyFinishes[leaf]);
        return latest;
    }

    public bool IsCritical(int leaf) => _schedule.Criticals[leaf];
}
