using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Tests.Scheduling;

/// <summary>
/// A slow scheduler that is plainly right: it walks minute by minute, asks each calendar's definition, and goes over all tasks until
/// nothing changes. It knows the forward pass only (T5, L1, L2, K1 for finish-to-start, K3, F1, F2, F4).
/// </summary>
internal sealed class MinuteByMinute(Plan plan)
{
    private readonly Dictionary<string, (int Start, int Finish)> _dates = [];

    public IReadOnlyDictionary<string, (int Start, int Finish)> Dates => _dates;

    public MinuteByMinute Run()
    {
        foreach (var task in Leaves()) _dates[task.Id] = (plan.Project.Start.Minutes, plan.Project.Start.Minutes);
        for (var changed = true; changed;)
        {
            changed = false;
            foreach (var task in Leaves())
            {
                var dates = Place(task);
                changed |= dates != _dates[task.Id];
                _dates[task.Id] = dates;
            }
        }
        return this;
    }

    private (int Start, int Finish) Place(PlanTask task)
    {
        var works = Calendar(task);
        var length = task.Milestone ? 0 : (int)(task.Length.Amount * (task.Length.Unit == LengthUnit.Hours ? 60 : 480));
        if (task is { ActualStart: { } began, ActualFinish: { } ended }) return (began.Minutes, ended.Minutes);
        if (task.ActualStart is { } started) return (started.Minutes, Add(works, started.Minutes, length));
        if (task.Pinned is { } pinned) return From(works, pinned.Start.Minutes, length);
        if (task.Constraint is { Kind: ConstraintKind.MustFinishOn } must) return From(works, Add(works, must.Date.Minutes, -length), length);
        var bound = plan.Project.Start.Minutes;
        foreach (var link in plan.Links.Where(l => Holds(l.To, task)))
        {
            var finish = Leaves().Where(t => Holds(link.From, t)).Max(t => _dates[t.Id].Finish);
            bound = Math.Max(bound, Add(Works(null), finish, (int)(link.Lag.Amount * 60)));
        }
        if (task.Constraint is { Kind: ConstraintKind.StartNoEarlierThan } after) bound = Math.Max(bound, after.Date.Minutes);
        if (task.Constraint is { Kind: ConstraintKind.FinishNoEarlierThan } until) bound = Math.Max(bound, Add(works, until.Date.Minutes, -length));
        return From(works, bound, length);
    }

    private IEnumerable<PlanTask> Leaves() => plan.Tasks.Where(t => plan.Tasks.All(other => other.Parent != t.Id));

    /// <summary>Whether a row is the task or a phase it is in.</summary>
    private bool Holds(string row, PlanTask? task)
    {
        for (; task is not null; task = plan.Tasks.FirstOrDefault(t => t.Id == task.Parent))
            if (task.Id == row)
                return true;
        return false;
    }

    private static (int Start, int Finish) From(Func<int, bool> works, int bound, int length)
    {
        if (length == 0) return (bound, bound);
        while (!works(bound)) bound++;
        return (bound, Add(works, bound, length));
    }

    private static int Add(Func<int, bool> works, int at, int n)
    {
        while (n != 0)
        {
            if (n < 0) at--;
            var counts = works(at);
            if (n > 0) at++;
            if (counts) n -= Math.Sign(n);
        }
        return at;
    }

    private Func<int, bool> Calendar(PlanTask task)
    {
        if (task.AroundTheClock) return _ => true;
        var owner = plan.People.FirstOrDefault(p => p.Id == task.Owner)?.Calendar;
        if (task.Calendar is null) return Works(owner);
        var (own, theirs) = (Works(task.Calendar), owner is null ? _ => true : Works(owner));
        return minute => own(minute) && theirs(minute);
    }

    private Func<int, bool> Works(string? id)
    {
        var calendar = plan.Calendars.FirstOrDefault(c => c.Id == id) ?? WorkCalendar.Weekdays;
        return minute =>
        {
            var time = new PlanTime(minute);
            var dated = calendar.Exceptions.LastOrDefault(e => e.From <= time.Date && time.Date <= e.To);
            var work = dated?.Work ?? calendar.Week[time.Day % 7] ?? [];
            return work.Any(i => i.Start <= time.MinuteOfDay && time.MinuteOfDay < i.End);
        };
    }
}
