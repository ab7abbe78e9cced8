using System.Globalization;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>What somebody has to do, by day.</summary>
public sealed record ScheduledLoad(string Person, IReadOnlyList<LoadedDay> Days)
{
    public static IReadOnlyList<ScheduledLoad> Of(Plan plan, PlanLoad load)
    {
        var parts = load.Parts.ToLookup(part => part.Person);
        return [.. plan.People.Select(person => new ScheduledLoad(person.Id, DaysOf(person.Id, load, parts[person.Id])))];
    }

    private static IReadOnlyList<LoadedDay> DaysOf(string person, PlanLoad load, IEnumerable<LoadPart> parts) =>
        [
            .. parts
                .GroupBy(part => part.Day)
                .OrderBy(day => day.Key)
                .Select(day => new LoadedDay(
                    day.Key.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                    TrackedValues.Plain(load.Capacities.Of(person, day.Key)),
                    TrackedValues.Plain(day.Sum(part => part.Minutes)),
                    [.. day.GroupBy(part => part.Task).Select(of => new LoadedPart(of.Key, TrackedValues.Plain(of.Sum(p => p.Minutes))))]
                )),
        ];
}

/// <summary>A day of somebody, in minutes.</summary>
/// <param name="CapacityMinutes">What they have.</param>
/// <param name="LoadMinutes">What they have to do, or did.</param>
public sealed record LoadedDay(string Day, decimal CapacityMinutes, decimal LoadMinutes, IReadOnlyList<LoadedPart> Parts);

/// <summary>What of it is of one task.</summary>
public sealed record LoadedPart(string Task, decimal Minutes);
