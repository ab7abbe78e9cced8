using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Load;
using Auxilium.Planning.Words;
using Auxilium.Storage.Rows;

namespace Auxilium.Storage.Tracking;

/// <summary>Somebody who has more to do than time, or a team.</summary>
/// <param name="Person">Their id; <c>null</c> for a team.</param>
/// <param name="First">The first such day.</param>
/// <param name="Days">How many such days there are.</param>
/// <param name="Over">Minutes too much, on all those days.</param>
/// <param name="Projects">Those that they have work in on such days.</param>
public sealed record Overbooked(string? Person, string Name, DateOnly First, int Days, decimal Over, IReadOnlySet<Guid> Projects)
{
    /// <summary>“3.5 h too much on 2 days, first Thu 13 May”</summary>
    public string Words =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{Over / 60:0.#} h too much {(Days == 1 ? "on" : $"on {Days} days, first")} {Dates.Day(PlanTime.On(First))}"
        );

    /// <summary>The last day of the week after this one.</summary>
    public static DateOnly EndOfNextWeek(DateOnly today) => today.AddDays(13 - ((int)today.DayOfWeek + 6) % 7);

    /// <summary>People first, then teams of several; each by how much it is.</summary>
    /// <param name="found">What they have to do.</param>
    /// <param name="from">The first day that was asked for.</param>
    /// <param name="to">The last.</param>
    /// <param name="only">Ids of those who are told of.</param>
    public static IReadOnlyList<Overbooked> Of(LoadFound found, DateOnly from, DateOnly to, Func<PersonRow, bool> only)
    {
        var work = found.Work.Where(w => !w.IsOpen).ToLookup(w => w.Person);
        var days = to.DayNumber - from.DayNumber + 1;
        var people = found.People.Where(only).ToList();
        return
        [
            .. people.Select(person => Told(person.Id, person.Name, [person])).OfType<Overbooked>().OrderByDescending(over => over.Over),
            .. people
                .Where(person => person.Team.Length > 0)
                .GroupBy(person => person.Team)
                .Where(team => team.Count() > 1)
                .Select(team => Told(null, team.Key, [.. team]))
                .OfType<Overbooked>()
                .OrderByDescending(over => over.Over),
        ];

        Overbooked? Told(string? id, string name, IReadOnlyList<PersonRow> members)
        {
            var load = new decimal[days];
            var projects = new HashSet<Guid>[days];
            foreach (var task in members.SelectMany(person => work[person.Id]))
            foreach (var (at, minutes) in task.Days)
            {
                load[at] += minutes;
                (projects[at] ??= []).Add(task.Project);
            }
            var over = Enumerable
                .Range(0, days)
                .Select(at => (At: at, Over: Capacities.Over(load[at], members.Sum(p => found.Capacities.Of(p.Id, from.AddDays(at))))))
                .Where(day => day.Over > 0)
                .ToList();
            return over.Count == 0
                ? null
                : new Overbooked(
                    id,
                    name,
                    from.AddDays(over[0].At),
                    over.Count,
                    over.Sum(day => day.Over),
                    over.SelectMany(day => projects[day.At] ?? []).ToHashSet()
                );
        }
    }
}
