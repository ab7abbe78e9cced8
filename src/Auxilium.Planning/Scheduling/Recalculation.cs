using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>
/// Works a plan out from the schedule of the one that it came of: visits only the rows that an edit can have reached. Forward, a row
/// whose dates stay as they were passes nothing on; backward, one whose limits do.
/// </summary>
internal sealed class Recalculation
{
    private readonly Plan _plan;
    private readonly Network _network;
    private readonly TaskInputs _facts;
    private readonly Schedule _before;
    private readonly Schedule _schedule;

    private Recalculation(Plan plan, Schedule before, Groundwork groundwork)
    {
        _plan = plan;
        _before = before;
        (_facts, _network) = (groundwork.Facts, groundwork.Network);
        _schedule = new Schedule(plan, groundwork, before);
    }

    /// <summary>
    /// The schedule; <c>null</c> where more than the facts of some tasks changed, so that there is little to reuse.
    /// </summary>
    /// <exception cref="UnsoundPlanException">A task would lie outside the years that there are.</exception>
    public static Schedule? Of(Plan plan, Schedule before, Groundwork groundwork)
    {
        const TaskTraits Beyond = TaskTraits.Contrary | TaskTraits.Off;
        var known = before.Groundwork;
        var like =
            plan.Project.ScheduleFrom == ScheduleFrom.Start
            && ReferenceEquals(plan.Project, before.Plan.Project)
            && plan.People == before.Plan.People
            && plan.Calendars == before.Plan.Calendars
            && ReferenceEquals(groundwork.Network.Order, known.Network.Order)
            && !groundwork.Network.HasPhases
            && ((groundwork.Facts.Any | known.Facts.Any) & Beyond) == 0;
        return like ? new Recalculation(plan, before, groundwork).Run() : null;
    }

    private Schedule Run()
    {
        var forward = new Reached(_network);
        var backward = new Reached(_network);
        for (var row = 0; row < _plan.Tasks.Length; row++)
        {
            if (ReferenceEquals(_plan.Tasks[row], _before.Plan.Tasks[row]) || !_facts.IsLeaf(row))
                continue;
            forward.Add(row);
            backward.Add(row);
        }
        Forward(forward, backward);
        _schedule.Finish = Scheduler.LatestFinish(_schedule, _facts) ?? _schedule.Start;
        Backward(backward);
        RollUp.Fill(_schedule, _facts);
        _schedule.Warnings = Warnings.Of(_schedule, _facts);
        return _schedule;
    }

    private void Forward(Reached reached, Reached backward)
    {
        using var pass = new ForwardPass(_plan, _network, _schedule, _facts, _schedule.Start);
        for (var row = reached.First(); row >= 0; row = reached.Next())
        {
            pass.PlaceAlone(row);
            if (_schedule.EarlyStarts[row] == _before.EarlyStarts[row] && _schedule.EarlyFinishes[row] == _before.EarlyFinishes[row])
                continue;
            backward.Add(row);
            foreach (var edge in _network.EdgesOf(row))
                reached.Add(edge.Target);
        }
    }

    private void Backward(Reached reached)
    {
        using var uncounted = new Scratch<int>(_plan.Index.Count);
        uncounted.Array.AsSpan(0, _plan.Index.Count).Fill(-1);
        var (late, still) = (_schedule.Limits.Late, _schedule.Limits.Still);
        var pass = new BackwardPass(_plan, _network, _schedule, _facts, _schedule.Limits, uncounted.Array);
        if (_schedule.FloatTo != _before.FloatTo || _schedule.Finish != _before.Finish)
        {
            // Every late date goes by it.
            for (var row = 0; row < _plan.Index.Count; row++)
                _schedule.ForgetFloat(row);
            pass.Run();
            return;
        }
        var ends = _plan.LinkEnds;
        for (var row = reached.Last(); row >= 0; row = reached.Previous())
        {
            var (wasLate, wasStill) = (late[row], still[row]);
            _schedule.ForgetFloat(row);
            pass.Visit(row);
            if (late[row].IsAt(wasLate) && still[row].IsAt(wasStill))
                continue;
            foreach (var link in ends.LeadingTo(row).Span)
                reached.Add(ends.From[link]);
        }
    }

    /// <summary>The rows still to be visited, in the order of the network: those found on the way lie ahead.</summary>
    private sealed class Reached(Network network)
    {
        private const int Bits = 64;

        private readonly ulong[] _words = new ulong[(network.Order.Length + Bits - 1) / Bits];
        private readonly int[] _positions = network.Positions;
        private int _at;

        public void Add(int row) => _words[_positions[row] / Bits] |= 1UL << (_positions[row] % Bits);

        public int First() => Ahead(0);

        public int Next() => Ahead(_at + 1);

        public int Last() => Behind(network.Order.Length - 1);

        public int Previous() => Behind(_at - 1);

        private int Ahead(int from)
        {
            for (var word = from / Bits; word < _words.Length; word++, from = word * Bits)
                if (_words[word] >> (from % Bits) is var left and not 0)
                    return network.Order[_at = from + System.Numerics.BitOperations.TrailingZeroCount(left)];
            return -1;
        }

        private int Behind(int from)
        {
            for (; from >= 0; from = from / Bits * Bits - 1)
                if (_words[from / Bits] << (Bits - 1 - from % Bits) is var left and not 0)
                    return network.Order[_at = from - System.Numerics.BitOperations.LeadingZeroCount(left)];
            return -1;
        }
    }
}
