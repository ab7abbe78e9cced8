using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Tests.Scheduling;

/// <summary>
/// A slow scheduler that is obviously right. It lists the working minutes of each calendar from its definition, looks dates up in the
/// list, and finds every latest date by trying minute after minute until all rules hold. Its dates are whole minutes.
/// </summary>
internal sealed class SlowScheduler
{
    private const int DaysAround = 400;

    private readonly Plan _plan;
    private readonly int _from;
    private readonly int _to;
    private readonly Dictionary<string, List<int>> _minutes = [];
    private readonly Dictionary<string, (int Start, int Finish)> _early = [];
    private readonly Dictionary<string, (int Start, int Finish)> _standing = [];
    private readonly Dictionary<string, (int Start, int Finish)> _late = [];
    private HashSet<(string, string)>? _starters;

    public SlowScheduler(Plan plan)
    {
        _plan = plan;
        _from = plan.Project.Anchor.Minutes - DaysAround * 1440;
        _to = plan.Project.Anchor.Minutes + DaysAround * 1440;
        Leaves = [.. plan.Tasks.Where(IsLeaf)];
        if (FromFinish)
        {
            Finish = plan.Project.Anchor.Minutes;
            _starters = [];
            foreach (var leaf in Leaves)
                Standing(leaf);
            _starters = [.. StartersAsTheyStand()];
            _standing.Clear();
            foreach (var leaf in Leaves)
                Standing(leaf);
            Start = Leaves.Count == 0 ? Finish : Leaves.Min(l => Standing(l).Start);
            AdvanceAll();
        }
        else
        {
            Start = plan.Project.Anchor.Minutes;
            Finish = Leaves.Count == 0 ? Start : Leaves.Max(l => Early(l).Finish);
        }
    }

    public List<PlanTask> Leaves { get; }

    public int Start { get; }

    public int Finish { get; }

    private bool FromFinish => _plan.Project.ScheduleFrom == ScheduleFrom.Finish;

    /// <summary>F1, F2, F4, L1, L2.</summary>
    public (int Start, int Finish) Early(PlanTask task)
    {
        if (_early.TryGetValue(task.Id, out var known))
            return known;
        return _early[task.Id] = Fixed(task) ?? From(task, Bound(task, Early, Start));
    }

    /// <summary>Where the task really stands: F5, R1.</summary>
    public (int Start, int Finish) Standing(PlanTask task)
    {
        if (_standing.TryGetValue(task.Id, out var known))
            return known;
        if (Fixed(task) is { } fix)
            return _standing[task.Id] = fix;
        if (FromFinish)
            return _standing[task.Id] = Latest(task, Finish, Standing, (t, s, f) => NotAfter(t, s, f));
        var early = Early(task);
        if (task.Constraint?.Kind != ConstraintKind.AsLateAsPossible)
            return _standing[task.Id] = early;
        var latest = Latest(task, Finish, Standing, (t, s, f) =>
            PhasesOf(t)
                .All(phase =>
                    _plan
                        .Links.Where(l => l.From == phase.Id && IsOn(l))
                        .All(l =>
                            l.FromStart ? early.Start != Span(phase, Early).Start || s <= early.Start : f <= Span(phase, Early).Finish
                        )
                )
        );
        return _standing[task.Id] = latest.Start > early.Start ? latest : early;
    }

    /// <summary>B1.</summary>
    public (int Start, int Finish) Late(PlanTask task)
    {
        if (_late.TryGetValue(task.Id, out var known))
            return known;
        if (!task.IsStarted && task is { Pinned: null, Constraint.IsMust: true })
            return _late[task.Id] = Early(task);
        var to = _plan.Project is { FloatTo: FloatTarget.FinishBy, FinishBy: { } by } ? by.Minutes : Finish;
        return _late[task.Id] = Latest(
            task,
            to,
            t => t.Pinned is null ? Late(t) : Early(t),
            (t, s, f) => t.Pinned is not null || NotAfter(t, s, f)
        );
    }

    private static bool NotAfter(PlanTask task, int start, int finish) =>
        task.Constraint?.Kind switch
        {
            ConstraintKind.StartNoLaterThan => task.IsStarted || start <= task.Constraint.Date!.Value.Minutes,
            ConstraintKind.FinishNoLaterThan => finish <= task.Constraint.Date!.Value.Minutes,
            _ => true,
        };

    /// <summary>The latest dates of a task with which every link from it, to tasks that stand as given, holds (K1, K2).</summary>
    private (int Start, int Finish) Latest(
        PlanTask task,
        int cap,
        Func<PlanTask, (int Start, int Finish)> dates,
        Func<PlanTask, int, int, bool> also
    )
    {
        var minutes = Minutes(task);
        var early = task.IsStarted || task.Pinned is not null ? Early(task) : default;
        var span = task.IsStarted || task.Pinned?.Finish is not null ? Count(minutes, early.Start, early.Finish) : SpanOf(task);
        if (SpanOf(task) == 0 && span == 0)
        {
            for (var at = cap; ; at--)
                if (Holds(task, task.IsStarted ? early.Start : at, at, dates) && also(task, at, at))
                    return (task.IsStarted ? early.Start : at, at);
        }
        for (var last = CountBefore(minutes, cap) - 1; ; last--)
        {
            var finish = minutes[last] + 1;
            var start =
                task.IsStarted ? early.Start
                : span == 0 ? finish
                : minutes[last - span + 1];
            if (Holds(task, start, finish, dates) && also(task, start, finish))
                return (start, finish);
        }
    }

    private bool Holds(PlanTask task, int start, int finish, Func<PlanTask, (int Start, int Finish)> dates)
    {
        foreach (var link in _plan.Links.Where(IsOn))
        {
            if (link.From != task.Id)
            {
                if (PhasesOf(task).FirstOrDefault(p => p.Id == link.From) is not { } phase)
                    continue;
                if (link.FromStart && (task.IsStarted || !StartsPhase(task, phase)))
                    continue;
            }
            else if (link.FromStart && task.IsStarted)
                continue;
            var bound = Shift(link.FromStart ? start : finish, link);
            foreach (var next in Leaves.Where(l => IsIn(l, link.To) && l is { IsStarted: false, IsFinished: false }))
            {
                var (s, f) = dates(next);
                if (SpanOf(next) == 0 ? bound > (link.ToFinish ? f : s) : Count(Minutes(next), link.ToFinish ? f : s, bound) > 0)
                    return false;
            }
        }
        return true;
    }

    /// <summary>B1: a start of a phase binds the leaves that start it.</summary>
    private bool StartsPhase(PlanTask task, PlanTask phase) =>
        FromFinish && _early.Count == 0 ? _starters!.Contains((task.Id, phase.Id)) : Early(task).Start == Span(phase, Early).Start;

    private IEnumerable<(string, string)> StartersAsTheyStand() =>
        from leaf in Leaves
        from phase in PhasesOf(leaf)
        where Standing(leaf).Start == Span(phase, Standing).Start
        select (leaf.Id, phase.Id);

    /// <summary>R1: in link order, the tasks that go as soon as they can.</summary>
    private void AdvanceAll()
    {
        var before = new Dictionary<string, (int Start, int Finish)>(_standing);
        var done = new HashSet<string>();
        foreach (var leaf in Leaves)
            Advance(leaf);

        void Advance(PlanTask task)
        {
            if (!done.Add(task.Id) || task.Constraint?.Kind != ConstraintKind.AsSoonAsPossible || Fixed(task) is not null)
                return;
            foreach (var link in _plan.Links.Where(l => IsOn(l) && IsIn(task, l.To)))
            foreach (var previous in Leaves.Where(l => IsIn(l, link.From)))
                Advance(previous);
            var was = _standing[task.Id];
            var bound = Bound(task, Standing, Start, notBefore: false);
            foreach (var phase in PhasesOf(task))
            {
                var (start, finish) = Span(phase, t => before[t.Id]);
                foreach (var link in _plan.Links.Where(l => l.From == phase.Id && IsOn(l)))
                {
                    if (link.FromStart)
                        bound = Math.Max(bound, start);
                    else if (was.Finish == finish)
                        return;
                }
            }
            var soonest = From(task, bound);
            if (soonest.Start < was.Start)
                _standing[task.Id] = soonest;
        }
    }

    private int Bound(PlanTask task, Func<PlanTask, (int Start, int Finish)> dates, int start, bool notBefore = true)
    {
        var (minutes, span) = (Minutes(task), SpanOf(task));
        var bound = start;
        foreach (var link in _plan.Links.Where(l => IsOn(l) && IsIn(task, l.To)))
        {
            var (began, ended) = Span(_plan.Find(link.From)!, dates);
            var date = Shift(link.FromStart ? began : ended, link);
            bound = Math.Max(bound, link.ToFinish ? Add(minutes, date, -span) : date);
        }
        if (notBefore && task.Constraint is { Kind: ConstraintKind.StartNoEarlierThan, Date: { } after })
            bound = Math.Max(bound, after.Minutes);
        if (notBefore && task.DelayedUntil is { } delayed)
            bound = Math.Max(bound, delayed.Minutes);
        if (notBefore && task.Constraint is { Kind: ConstraintKind.FinishNoEarlierThan, Date: { } until })
            bound = Math.Max(bound, Add(minutes, until.Minutes, -span));
        if (_plan.Project is { MoveUnfinishedWork: true, StatusDate: { } status })
            bound = Math.Max(bound, status.Minutes);
        return bound;
    }

    private (int Start, int Finish)? Fixed(PlanTask task)
    {
        var (minutes, span) = (Minutes(task), SpanOf(task));
        if (task is { ActualStart: { } began, ActualFinish: { } ended })
            return (began.Minutes, ended.Minutes);
        if (task.ActualFinish is { } end)
            return (Math.Min(end.Minutes, Add(minutes, end.Minutes, -span)), end.Minutes);
        if (task.ActualStart is { } start)
            return (start.Minutes, InProgress(task, start.Minutes));
        if (task.Pinned is { Finish: { } finish } both)
            return (both.Start.Minutes, finish.Minutes);
        if (task.Pinned is { } pinned)
            return From(task, pinned.Start.Minutes);
        if (task.Constraint is { Kind: ConstraintKind.MustStartOn, Date: { } on })
            return From(task, on.Minutes);
        if (task.Constraint is { Kind: ConstraintKind.MustFinishOn, Date: { } by })
            return From(task, Add(minutes, by.Minutes, -span));
        return null;
    }

    /// <summary>F4, with pauses that are still to come.</summary>
    private int InProgress(PlanTask task, int start)
    {
        var (minutes, length) = (Minutes(task), LengthOf(task));
        var left = (int)Math.Floor(length * (1 - task.Progress) + 0.5m);
        var done = length - left;
        if (task.Remaining is { } remaining)
            left = Of(remaining);
        var reached = Add(minutes, start, done + task.Splits.Where(s => Of(s.After) < done).Sum(s => Of(s.For)));
        if (_plan.Project is { MoveUnfinishedWork: true, StatusDate: { } status } && status.Minutes > reached)
            return Add(
                minutes,
                status.Minutes,
                left + task.Splits.Where(s => Of(s.After) > done && Of(s.After) < done + left).Sum(s => Of(s.For))
            );
        return Add(minutes, start, done + left + task.Splits.Where(s => Of(s.After) < done + left).Sum(s => Of(s.For)));
    }

    private (int Start, int Finish) From(PlanTask task, int bound)
    {
        var span = SpanOf(task);
        return span == 0 ? (bound, bound) : (Minutes(task)[CountBefore(Minutes(task), bound)], Add(Minutes(task), bound, span));
    }

    private (int Start, int Finish) Span(PlanTask row, Func<PlanTask, (int Start, int Finish)> dates)
    {
        var inside = Leaves.Where(l => IsIn(l, row.Id)).Select(dates).ToList();
        return (inside.Min(d => d.Start), inside.Max(d => d.Finish));
    }

    private int Shift(int time, PlanLink link) =>
        link.Elapsed ? time + Of(link.Lag) : Add(MinutesOf(_plan.Project.Calendar, null, false), time, Of(link.Lag));

    private int LengthOf(PlanTask task) => task.Milestone ? 0 : Of(task.Length);

    private int SpanOf(PlanTask task) => LengthOf(task) + (task.Milestone ? 0 : task.Splits.Sum(s => Of(s.For)));

    private int Of(Length length) => _plan.Project.Units.Minutes(length).Count;

    private bool IsOn(PlanLink link) => IsActive(_plan.Find(link.From)!) && IsActive(_plan.Find(link.To)!);

    /// <summary>K4.</summary>
    private bool IsActive(PlanTask task) =>
        task.Active && PhasesOf(task).All(p => p.Active) && (!HasRows(task) || _plan.Tasks.Any(t => t.Parent == task.Id && IsActive(t)));

    private bool HasRows(PlanTask task) => _plan.Tasks.Any(t => t.Parent == task.Id);

    private bool IsLeaf(PlanTask task) => IsActive(task) && !HasRows(task);

    private IEnumerable<PlanTask> PhasesOf(PlanTask task)
    {
        for (var phase = task.Parent; phase is not null; phase = _plan.Find(phase)!.Parent)
            yield return _plan.Find(phase)!;
    }

    private bool IsIn(PlanTask leaf, string row) => leaf.Id == row || PhasesOf(leaf).Any(p => p.Id == row);

    private List<int> Minutes(PlanTask task) => MinutesOf(task.Calendar, _plan.FindPerson(task.Owner)?.Calendar, task.AroundTheClock);

    private List<int> MinutesOf(string? own, string? owners, bool clock)
    {
        var key = $"{own}/{owners}/{clock}";
        if (_minutes.TryGetValue(key, out var known))
            return known;
        var list = new List<int>();
        for (var day = _from / 1440; day < _to / 1440; day++)
        {
            var (project, mine, theirs) = (
                Work(_plan.Project.Calendar, day),
                own is null ? null : Work(own, day),
                owners is null ? null : Work(owners, day)
            );
            for (var minute = 0; minute < 1440; minute++)
                if (
                    clock
                    || (
                        own is null && owners is null
                            ? Works(project, minute)
                            : (mine is null || Works(mine, minute)) && (theirs is null || Works(theirs, minute))
                    )
                )
                    list.Add(day * 1440 + minute);
        }
        return _minutes[key] = list;
    }

    /// <summary>T2, T3.</summary>
    private WorkInterval[] Work(string? id, int day)
    {
        var date = DateOnly.FromDayNumber(day);
        var chain = new List<WorkCalendar>();
        for (
            var at = id is null ? WorkCalendar.Weekdays : _plan.Calendars.First(c => c.Id == id);
            at is not null;
            at = _plan.Calendars.FirstOrDefault(c => c.Id == at.Base)
        )
            chain.Add(at);
        var dated = chain.SelectMany(c => c.Exceptions.Reverse()).FirstOrDefault(e => e.From <= date && date <= e.To);
        return [.. dated?.Work ?? chain.Select(c => c.Week[day % 7]).FirstOrDefault(d => d is not null) ?? []];
    }

    private static bool Works(WorkInterval[] work, int minute)
    {
        foreach (var (start, end) in work)
            if (start <= minute && minute < end)
                return true;
        return false;
    }

    /// <summary>T6.</summary>
    private static int Add(List<int> minutes, int time, int n) =>
        n switch
        {
            0 => time,
            > 0 => minutes[CountBefore(minutes, time) + n - 1] + 1,
            _ => minutes[CountBefore(minutes, time) + n],
        };

    private static int Count(List<int> minutes, int from, int to) => CountBefore(minutes, to) - CountBefore(minutes, from);

    private static int CountBefore(List<int> minutes, int time) => minutes.BinarySearch(time) is var at && at >= 0 ? at : ~at;
}
