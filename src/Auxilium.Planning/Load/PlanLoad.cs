using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Load;

/// <summary>Work of somebody on a day.</summary>
/// <param name="Task">Id of the task, which may have left the plan since hours were entered.</param>
/// <param name="Person">Who does it; of what nobody has taken, the team or role that it is for.</param>
/// <param name="Minutes">Parts of minutes are kept.</param>
public readonly record struct LoadPart(string Task, string Person, DateOnly Day, decimal Minutes);

/// <summary>A day on which somebody has more to do than time (rule A4).</summary>
/// <param name="Load">Minutes of work.</param>
/// <param name="Capacity">Minutes that they have.</param>
public readonly record struct OverbookedDay(string Person, DateOnly Day, decimal Load, decimal Capacity)
{
    public decimal Over => Load - Capacity;
}

/// <summary>
/// How much the people of a plan have to do, day by day (rules A1–A4): before today, or the status date, the hours they worked; from then
/// on the effort that is left.
/// </summary>
public sealed class PlanLoad
{
    private readonly List<LoadPart> _parts = [];
    private readonly List<LoadPart> _open = [];
    private readonly Dictionary<string, SortedDictionary<DateOnly, decimal>> _people = [];

    /// <param name="schedule">The plan with its dates.</param>
    /// <param name="from">The day from which on effort counts: see <see cref="FirstDay"/>.</param>
    /// <param name="hours">Hours that people worked.</param>
    /// <param name="capacities">What is known of people's time; else what the plan says.</param>
    public PlanLoad(Schedule schedule, DateOnly from, IReadOnlyList<WorkedHours> hours, Capacities? capacities = null)
    {
        var plan = schedule.Plan;
        Capacities = capacities ?? Capacities.Of(plan);
        From = from;
        foreach (var worked in hours)
            if (worked.Day < From)
                Add(worked.Task, worked.Person, worked.Day, worked.Minutes);
        for (var row = 0; row < plan.Tasks.Length; row++)
            foreach (var work in AssignedWork.Of(schedule, Capacities, row))
                Add(work);
    }

    public Capacities Capacities { get; }

    /// <summary>The day from which on effort counts, and no longer hours.</summary>
    public DateOnly From { get; }

    /// <summary>In the order of people's first work, tasks and days; what nobody has taken is not among them.</summary>
    public IReadOnlyList<LoadPart> Parts => _parts;

    /// <summary>What teams and roles have to do of tasks that nobody has taken.</summary>
    public IReadOnlyList<LoadPart> Open => _open;

    /// <summary>Minutes that somebody has to work on a day, or has worked.</summary>
    public decimal Of(string person, DateOnly day) => _people.TryGetValue(person, out var days) ? days.GetValueOrDefault(day) : 0;

    /// <summary>The days from <see cref="From"/> on that people have too much on, by person and day.</summary>
    /// <param name="tolerance">So many minutes more than there are, nobody minds.</param>
    public IEnumerable<OverbookedDay> Overbooked(decimal tolerance = 0) =>
        from person in _people
        from day in person.Value
        where day.Key >= From
        let capacity = Capacities.Of(person.Key, day.Key)
        where Capacities.Over(day.Value, capacity, tolerance) > 0
        select new OverbookedDay(person.Key, day.Key, day.Value, capacity);

    /// <summary>The day that <see cref="From"/> usually is: that of the status date, or today.</summary>
    public static DateOnly FirstDay(Plan plan, DateOnly today) => plan.Project.StatusDate?.Date ?? today;

    private void Add(AssignedWork work) =>
        work.Lay(From, work.IsOpen ? Capacities.CalendarOf("") : Capacities.CalendarOf(work.Person), (day, minutes) =>
        {
            if (work.IsOpen)
                _open.Add(new LoadPart(work.Task, work.Person, day, minutes));
            else
                Add(work.Task, work.Person, day, minutes);
        });

    private void Add(string task, string person, DateOnly day, decimal minutes)
    {
        _parts.Add(new LoadPart(task, person, day, minutes));
        if (!_people.TryGetValue(person, out var days))
            _people[person] = days = [];
        days[day] = days.GetValueOrDefault(day) + minutes;
    }
}
