using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Load;

/// <summary>Work of somebody on a day.</summary>
/// <param name="Task">Id of the task, which may have left the plan since hours were entered.</param>
/// <param name="Minutes">Parts of minutes are kept.</param>
public readonly record struct LoadPart(string Task, string Person, DateOnly Day, decimal Minutes);

/// <summary>
/// How much the people of a plan have to do, day by day (rules A1–A3): before today, or the status date, the hours they worked; from then
/// on the effort that is left.
/// </summary>
public sealed class PlanLoad
{
    private readonly Schedule _schedule;
    private readonly Plan _plan;
    private readonly PlanTime _from;
    private readonly List<LoadPart> _parts = [];
    private readonly Dictionary<(string Person, DateOnly Day), decimal> _byDay = [];

    /// <param name="today">Today; a status date counts instead.</param>
    /// <param name="hours">Hours that people worked.</param>
    public PlanLoad(Schedule schedule, DateOnly today, IReadOnlyList<WorkedHours> hours)
    {
        (_schedule, _plan) = (schedule, schedule.Plan);
        var first = _plan.Project.StatusDate?.Date ?? today;
        _from = PlanTime.On(first);
        foreach (var worked in hours.Where(worked => worked.Day < first))
            Add(worked.Task, worked.Person, worked.Day, worked.Minutes);
        for (var row = 0; row < _plan.Tasks.Length; row++)
            if (schedule.IsLeaf(row) && !schedule.IsOff(row) && !_plan.Tasks[row].IsFinished)
                foreach (var assignment in _plan.Tasks[row].Assignments)
                    Spread(row, assignment);
    }

    public IReadOnlyList<LoadPart> Parts => _parts;

    /// <summary>Minutes that somebody has to work on a day, or has worked.</summary>
    public decimal Of(string person, DateOnly day) => _byDay.GetValueOrDefault((person, day));

    /// <summary>Minutes that somebody can work on a day (rule A1).</summary>
    public static int CapacityOf(Plan plan, string person, DateOnly day) => CalendarOf(plan, person).WorkedOn(day);

    private static WorkTime CalendarOf(Plan plan, string person) =>
        plan.FindPerson(person)?.Calendar is { } own ? plan.CalendarBook.WorkTimeOf(own) : plan.ProjectCalendar;

    /// <summary>Puts the effort that is left on days (rules A2, A3).</summary>
    private void Spread(int row, Assignment assignment)
    {
        var task = _plan.Tasks[row];
        var left = Effort.Of(_plan, task, assignment, _schedule.LengthOf(row).Count) * (1 - task.Progress);
        if (left <= 0)
            return;
        var own = CalendarOf(_plan, assignment.Person);
        var days = DaysOf(row, assignment, own);
        var whole = days.Sum(day => (long)day.Minutes);
        if (whole == 0)
            CatchUp(task, assignment, own, left);
        foreach (var (day, minutes) in days)
            Add(task.Id, assignment.Person, day, left * minutes / whole);
    }

    /// <summary>The minutes that the effort lies on, by day, from today on; none of a task that should be over.</summary>
    private List<(DateOnly Day, int Minutes)> DaysOf(int row, Assignment assignment, WorkTime own)
    {
        var task = _plan.Tasks[row];
        var (start, finish) = (_schedule.StartOf(row), _schedule.FinishOf(row));
        if (finish <= _from)
            return [];
        List<Segment> whole = [new(start, finish)];
        var worked = task.AroundTheClock ? whole : _schedule.SegmentsOf(row);
        var isOwner = assignment.Person == task.Owner;
        if (!task.AroundTheClock && isOwner)
            return Counted(_schedule.CalendarOf(row), worked);
        // Helpers, and whoever watches something that runs day and night, work when they are there.
        var there = Counted(own, whole);
        return there.Count > 0 ? there : Counted(_schedule.CalendarOf(row), worked);
    }

    private List<(DateOnly Day, int Minutes)> Counted(WorkTime calendar, IEnumerable<Segment> stretches)
    {
        var days = new List<(DateOnly, int)>();
        foreach (var (begins, ends) in stretches)
            for (var from = PlanTime.Max(begins, _from); from < ends; from = PlanTime.On(from.Date.AddDays(1)))
                if (calendar.Between(from, PlanTime.Min(ends, PlanTime.On(from.Date.AddDays(1)))) is > 0 and var minutes)
                    days.Add((from.Date, minutes));
        return days;
    }

    /// <summary>What is left of a task that should be over is done as soon as whoever does it can.</summary>
    private void CatchUp(PlanTask task, Assignment assignment, WorkTime own, decimal left)
    {
        var minutes = left / assignment.Share;
        for (var at = own.Next(_from); minutes > 0 && at.IsInRange; at = own.Next(PlanTime.On(at.Date.AddDays(1))))
        {
            var today = Math.Min(minutes, own.WorkedOn(at.Date));
            Add(task.Id, assignment.Person, at.Date, today * assignment.Share);
            minutes -= today;
        }
    }

    private void Add(string task, string person, DateOnly day, decimal minutes)
    {
        _parts.Add(new LoadPart(task, person, day, minutes));
        _byDay[(person, day)] = _byDay.GetValueOrDefault((person, day)) + minutes;
    }
}
