using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Load;

/// <summary>How much time people have, day by day (rule A1).</summary>
public sealed class Capacities
{
    private readonly Dictionary<string, (WorkTime Calendar, ImmutableArray<Availability> Available)> _people = [];
    private readonly WorkTime _others;
    private Capacities? _measure;

    /// <param name="others">The time of whoever is not said.</param>
    public Capacities(WorkTime others) => _others = others;

    /// <summary>The people of a plan by their calendars there, or that of the project.</summary>
    public static Capacities Of(Plan plan)
    {
        var all = new Capacities(plan.ProjectCalendar);
        foreach (var person in plan.People)
            all.Add(person.Id, plan.CalendarBook.WorkTimeOf(person.Calendar ?? plan.Project.Calendar), person.Available);
        return all;
    }

    /// <summary>The same calendars to lay work by, with the time that people have measured by others: across projects (rule A1).</summary>
    public Capacities MeasuredBy(Capacities across)
    {
        var same = new Capacities(_others) { _measure = across };
        foreach (var (person, known) in _people)
            same._people[person] = known;
        return same;
    }

    public void Add(string person, WorkTime calendar, ImmutableArray<Availability> available) => _people[person] = (calendar, available);

    public WorkTime CalendarOf(string person) => _people.TryGetValue(person, out var known) ? known.Calendar : _others;

    /// <summary>Minutes that somebody has on a day: those they work, by how much of them they give.</summary>
    public decimal Of(string person, DateOnly day)
    {
        if (_measure is { } measure)
            return measure.Of(person, day);
        if (!_people.TryGetValue(person, out var known))
            return _others.WorkedOn(day);
        var worked = known.Calendar.WorkedOn(day);
        // Of stretches that overlap, the later in the list counts.
        for (var at = known.Available.Length - 1; at >= 0; at--)
            if (known.Available[at].IsOn(day))
                return worked * known.Available[at].Share;
        return worked;
    }

    /// <summary>By how many minutes a day is overbooked (rule A4); 0 where it is not.</summary>
    /// <param name="tolerance">So many minutes more than there are, nobody minds.</param>
    public static decimal Over(decimal load, decimal capacity, decimal tolerance = 0) =>
        load - capacity - tolerance > HalfAMinute ? load - capacity : 0;

    private const decimal HalfAMinute = 0.5m;
}
