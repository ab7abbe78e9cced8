using Auxilium.Planning.Calendars;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Levelling;

/// <summary>
/// Places all tasks of a plan one after another, each where those who are levelled have time for it (rule N3): on from the start, or back
/// from a finish. It works in the same arrays again and again.
/// </summary>
internal sealed class Workbench
{
    private const int MostJumps = 400;

    /// <summary>After so many, work that is too much for somebody with nothing else to do is too much anywhere.</summary>
    private const int FewJumps = 60;

    private readonly LevellingModel _model;
    private readonly Plan _plan;
    private readonly Network _network;
    private readonly TaskInputs _facts;
    private readonly Schedule _schedule;
    private readonly double[][] _free;
    private readonly int[] _leading;
    private readonly int[] _following;
    private readonly int[] _waits;
    private readonly int[][] _before;
    private readonly PriorityQueue<int, (double, int)> _ready = new();
    private readonly List<DayMinutes> _days = [];
    private readonly List<DayMinutes> _ownDays = [];

    /// <summary>What the task that is being placed puts on somebody's day.</summary>
    private readonly List<(int Part, int Person, int At, double Minutes, double Rate)> _laid = [];

    public Workbench(LevellingModel model)
    {
        (_model, _plan) = (model, model.Plan);
        var groundwork = model.Plan.Groundwork.Copy();
        (_facts, _network) = (groundwork.Facts, groundwork.Network);
        _schedule = new Schedule(_plan, groundwork) { Start = _plan.Project.Anchor };
        _schedule.StandApart(copy: false);
        _free = [.. model.Free.Select(days => (double[])days.Clone())];
        var nodes = _network.Order.Length;
        (_leading, _following, _waits) = (new int[nodes], new int[nodes], new int[nodes]);
        var before = new List<int>[nodes];
        for (var node = 0; node < nodes; node++)
            foreach (var edge in _network.EdgesOf(node))
            {
                _leading[edge.Target]++;
                _following[node]++;
                (before[edge.Target] ??= []).Add(node);
            }
        _before = [.. before.Select(list => list?.ToArray() ?? [])];
        Delayed = new bool[_plan.Tasks.Length];
    }

    /// <summary>By row: whether it starts later than all but the load lets it.</summary>
    public bool[] Delayed { get; }

    /// <summary>By row: on which day somebody had no time for it earlier, and who.</summary>
    public Dictionary<int, (int Person, DateOnly Day)> Reasons { get; } = [];

    /// <summary>The finish of what was placed last, from the start on.</summary>
    public PlanTime Finish { get; private set; }

    public PlanTime StartOf(int row) => _schedule.EarlyStarts[row];

    public PlanTime FinishOf(int row) => _schedule.EarlyFinishes[row];

    /// <summary>Where the last way back put a row.</summary>
    public PlanTime BackStartOf(int row) => _schedule.Starts[row];

    /// <summary>Places everything from the start on.</summary>
    /// <param name="rank">By row: which of those that could be placed goes first, the least.</param>
    /// <param name="load">Whether load counts; else each goes where its links let it.</param>
    public void PlaceForward(double[] rank, bool load = true)
    {
        Reset();
        Array.Clear(_schedule.EarlyStarts);
        Array.Clear(Delayed);
        Reasons.Clear();
        using var pass = new ForwardPass(_plan, _network, _schedule, _facts, _schedule.Start)
        {
            Later = (row, earliest) => _model.Parts[row] is null ? earliest : PlaceLater(row, earliest, load),
        };
        pass.Begin();
        Array.Copy(_leading, _waits, _waits.Length);
        for (var node = 0; node < _waits.Length; node++)
            if (_waits[node] == 0)
                Enqueue(node, rank);
        while (_ready.TryDequeue(out var node, out _))
        {
            pass.Visit(node);
            foreach (var edge in _network.EdgesOf(node))
                if (--_waits[edge.Target] == 0)
                    Enqueue(edge.Target, rank);
        }
        Finish = Scheduler.LatestFinish(_schedule, _facts) ?? _schedule.Start;
    }

    /// <summary>Places everything back from a finish.</summary>
    /// <param name="rank">By row: the least goes first.</param>
    public void PlaceBack(double[] rank, PlanTime finish)
    {
        Reset();
        var placement = new LatestPlacement(_plan, _network, _schedule, _facts)
        {
            Earlier = (row, latest) => _model.Parts[row] is null ? latest : PlaceEarlier(row, latest),
        };
        placement.Begin();
        Array.Copy(_following, _waits, _waits.Length);
        for (var node = 0; node < _waits.Length; node++)
            if (_waits[node] == 0)
                Enqueue(node, rank);
        while (_ready.TryDequeue(out var node, out _))
        {
            placement.Visit(node, finish);
            foreach (var previous in _before[node])
                if (--_waits[previous] == 0)
                    Enqueue(previous, rank);
        }
    }

    /// <summary>Minutes of more work than time that those who are levelled have, as placed last.</summary>
    public double Overbooked()
    {
        var over = 0.0;
        foreach (var days in _free)
        foreach (var free in days)
            if (-free > _model.Tolerance)
                over -= free;
        return over;
    }

    private void Reset()
    {
        for (var who = 0; who < _free.Length; who++)
            Array.Copy(_model.Free[who], _free[who], _free[who].Length);
    }

    private void Enqueue(int node, double[] rank) =>
        _ready.Enqueue(node, node < rank.Length && _facts.IsLeaf(node) ? (rank[node], node) : (double.NegativeInfinity, node));

    /// <summary>The earliest start from which nobody becomes overbooked, or that which overbooks least.</summary>
    private PlanTime PlaceLater(int row, PlanTime earliest, bool load)
    {
        var calendar = _facts.Calendars[row];
        var latest = PlanTime.Max(_model.LatestStarts[row], earliest);
        var (at, best, least) = (earliest, earliest, double.MaxValue);
        for (var jump = 0; load && jump < MostJumps && at <= latest; jump++)
        {
            LayAt(row, at);
            var worse = Worse();
            if (worse < least)
                (best, least) = (at, worse);
            if (worse == 0)
                break;
            if (jump == 0)
                Note(row);
            if (jump > FewJumps && IsAlone())
                break;
            at = NextAfter(calendar, at);
            if (at == WorkTime.Never)
                break;
        }
        LayAt(row, best);
        Take();
        if (best > earliest)
            Delayed[row] = true;
        else
            Reasons.Remove(row);
        return best;
    }

    /// <summary>The latest start up to which nobody becomes overbooked.</summary>
    private PlanTime PlaceEarlier(int row, PlanTime latest)
    {
        var (calendar, span) = (_facts.Calendars[row], _facts.Spans[row]);
        var (at, best, least) = (latest, latest, double.MaxValue);
        for (var jump = 0; jump < MostJumps && at.Day >= _model.First.DayNumber; jump++)
        {
            LayAt(row, at);
            var worse = Worse();
            if (worse < least)
                (best, least) = (at, worse);
            if (worse == 0)
                break;
            at = NextBefore(calendar, span, at);
        }
        LayAt(row, best);
        Take();
        return best;
    }

    /// <summary>Whether nobody has anything else to do on its days.</summary>
    private bool IsAlone()
    {
        foreach (var (_, person, at, _, _) in _laid)
            if (_model.Capacity[person][at] - _free[person][at] > _model.Tolerance)
                return false;
        return true;
    }

    /// <summary>What somebody's first day without time was.</summary>
    private void Note(int row)
    {
        foreach (var (_, person, at, minutes, _) in _laid)
            if (Added(person, at, minutes) > 0)
            {
                Reasons[row] = (person, _model.First.AddDays(at));
                return;
            }
    }

    /// <summary>By how many minutes more people would be overbooked.</summary>
    private double Worse()
    {
        var worse = 0.0;
        foreach (var (_, person, at, minutes, _) in _laid)
            worse += Added(person, at, minutes);
        return worse;
    }

    private double Added(int person, int at, double minutes)
    {
        var free = _free[person][at];
        var after = minutes - free;
        return after <= _model.Tolerance ? 0
            : -free > _model.Tolerance ? minutes
            : after;
    }

    private void Take()
    {
        foreach (var (_, person, at, minutes, _) in _laid)
            _free[person][at] -= minutes;
    }

    /// <summary>The next start at which the last day that has no room is left, or has as little on it as there is room for.</summary>
    private PlanTime NextAfter(WorkTime calendar, PlanTime at)
    {
        var next = at;
        foreach (var (part, person, day, minutes, rate) in _laid)
        {
            if (Added(person, day, minutes) <= 0)
                continue;
            var ends = new PlanTime((_model.First.DayNumber + day + 1) * PlanTime.MinutesPerDay);
            var room =
                rate <= 0 || _model.WholeDays ? 0 : (int)Math.Floor(Math.Max(0, _free[person][day] + _model.Tolerance - 0.01) / rate);
            var clock = _parts[part].OnTask ? calendar : _parts[part].Own;
            var start = clock.MinuteStart(Math.Max(0, clock.Worked(ends) - room));
            if (start <= at || start > ends)
                start = ends;
            next = PlanTime.Max(next, start);
        }
        var worked = Math.Max(calendar.Worked(next), calendar.Worked(at) + 1);
        return calendar.MinuteStart(worked);
    }

    /// <summary>The same on the way back.</summary>
    private PlanTime NextBefore(WorkTime calendar, int span, PlanTime at)
    {
        var finish = calendar.Worked(at) + span;
        var next = finish;
        foreach (var (part, person, day, minutes, rate) in _laid)
        {
            if (Added(person, day, minutes) <= 0)
                continue;
            var begins = new PlanTime((_model.First.DayNumber + day) * PlanTime.MinutesPerDay);
            var room =
                rate <= 0 || _model.WholeDays ? 0 : (int)Math.Floor(Math.Max(0, _free[person][day] + _model.Tolerance - 0.01) / rate);
            var last = _parts[part].OnTask
                ? calendar.Worked(begins) + room
                : calendar.Worked(_parts[part].Own.MinuteStart(_parts[part].Own.Worked(begins) + room));
            next = Math.Min(next, last < finish ? last : calendar.Worked(begins));
        }
        return calendar.MinuteStart(Math.Max(0, Math.Min(next, finish - 1) - span));
    }

    private LevelledPart[] _parts = [];

    /// <summary>Works out what the row puts on whose days if it starts at an instant (rules A2, A3).</summary>
    private void LayAt(int row, PlanTime start)
    {
        _laid.Clear();
        _parts = _model.Parts[row];
        var (calendar, span) = (_facts.Calendars[row], _facts.Spans[row]);
        var worked = calendar.Worked(start);
        var finish = calendar.MinuteEnd(worked + span);
        start = calendar.MinuteStart(worked);
        var task = _plan.Tasks[row];
        _days.Clear();
        Cut(calendar, task, worked, span);
        for (var part = 0; part < _parts.Length; part++)
        {
            var of = _parts[part];
            if (finish.Day < _model.First.DayNumber || finish <= PlanTime.On(_model.First))
            {
                CatchUp(part, of);
                continue;
            }
            if (of.OnTask)
            {
                Spread(part, of, _days);
                continue;
            }
            _ownDays.Clear();
            Count(of.Own, start, finish, _ownDays);
            if (!Spread(part, of, _ownDays))
                Spread(part, of, _days);
        }
    }

    private bool Spread(int part, LevelledPart of, List<DayMinutes> days)
    {
        var whole = 0L;
        foreach (var (day, minutes) in days)
            if (day >= _model.First.DayNumber)
                whole += minutes;
        if (whole == 0)
            return false;
        var rate = of.Effort / whole;
        foreach (var (day, minutes) in days)
            if (day >= _model.First.DayNumber && day - _model.First.DayNumber < _model.Days)
                _laid.Add((part, of.Person, day - _model.First.DayNumber, minutes * rate, rate));
        return true;
    }

    private void CatchUp(int part, LevelledPart of)
    {
        var minutes = of.Effort / (double)of.Share;
        for (var at = 0; minutes > 0 && at < _model.Days; at++)
        {
            var today = Math.Min(minutes, of.Own.WorkedOn(_model.First.AddDays(at)));
            if (today > 0)
                _laid.Add((part, of.Person, at, today * (double)of.Share, 0));
            minutes -= today;
        }
    }

    /// <summary>The days of the task, without those it pauses on.</summary>
    private void Cut(WorkTime calendar, PlanTask task, int worked, int span)
    {
        var (at, done) = (worked, 0);
        if (task.IsSplit)
            foreach (var split in task.Splits)
            {
                var after = _plan.Project.Units.Minutes(split.After).Count;
                if (after <= done || after >= _facts.Lengths[Row(task)])
                    continue;
                Count(calendar, calendar.MinuteStart(at), calendar.MinuteEnd(at + after - done), _days);
                at += after - done + _plan.Project.Units.Minutes(split.For).Count;
                done = after;
            }
        Count(calendar, calendar.MinuteStart(at), calendar.MinuteEnd(worked + span), _days);
    }

    private int Row(PlanTask task) => _plan.Index.RowOf(task.Id);

    private static void Count(WorkTime calendar, PlanTime start, PlanTime finish, List<DayMinutes> days)
    {
        var before = calendar.Worked(start);
        for (var day = start.Day; day <= finish.Day; day++)
        {
            var ends = day < finish.Day ? new PlanTime((day + 1) * PlanTime.MinutesPerDay) : finish;
            var after = calendar.Worked(ends);
            if (after > before)
            {
                if (days.Count > 0 && days[^1].Day == day)
                    days[^1] = new DayMinutes(day, days[^1].Minutes + after - before);
                else
                    days.Add(new DayMinutes(day, after - before));
            }
            before = after;
        }
    }
}
