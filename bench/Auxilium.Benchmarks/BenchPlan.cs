using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Benchmarks;

/// <summary>A made-up plan: phases of ten tasks, one and a half links a task that lead down the list, a calendar with holidays.</summary>
internal static class BenchPlan
{
    public static Plan Of(int tasks)
    {
        var random = new Random(7);
        var rows = ImmutableArray.CreateBuilder<PlanTask>(tasks);
        string? phase = null;
        for (var i = 0; i < tasks; i++)
        {
            var id = $"t{i}";
            var isPhase = i % 11 == 0 && i + 1 < tasks;
            if (isPhase) phase = id;
            rows.Add(new PlanTask { Id = id, Name = $"Task {i}", Parent = isPhase ? null : phase, Length = Length.Days(random.Next(1, 4)) });
        }
        return new Plan
        {
            Project = new ProjectSettings { Name = "Bench", Start = PlanTime.At(2027, 5, 3, 9), Calendar = "holidays" },
            Calendars = [WithHolidays()],
            Tasks = rows.ToImmutable(),
            Links = Links(random, tasks),
        };
    }

    /// <summary>Each task waits for one or two shortly before it, but every thirtieth starts a new chain: plans are wide, not one line.</summary>
    private static ImmutableArray<PlanLink> Links(Random random, int tasks)
    {
        var links = new HashSet<(int From, int To)>();
        while (links.Count < tasks * 3 / 2)
        {
            var to = random.Next(1, tasks);
            var from = to - random.Next(1, Math.Min(to, 300) + 1);
            if (from % 11 != 0 && to % 11 != 0 && to / 400 == from / 400) links.Add((from, to));
        }
        return [.. links.OrderBy(l => l.To).ThenBy(l => l.From).Select(l => new PlanLink($"t{l.From}", $"t{l.To}"))];
    }

    private static WorkCalendar WithHolidays() => WorkCalendar.Weekdays with
    {
        Id = "holidays",
        Exceptions = [.. Enumerable.Range(2027, 20).SelectMany(year => new[] { (1, 1), (5, 1), (12, 25), (12, 26) }
            .Select(day => new CalendarOverride(new(year, day.Item1, day.Item2), new(year, day.Item1, day.Item2), "Holiday", [])))],
    };
}
