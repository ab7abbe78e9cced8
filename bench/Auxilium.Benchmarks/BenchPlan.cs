using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Benchmarks;

/// <summary>
/// A made-up plan: phases of ten tasks, one and a half links a task of all kinds that lead down the list, every third with a lag, and
/// ten calendars with holidays, one of which each task goes by.
/// </summary>
internal static class BenchPlan
{
    private const int Calendars = 10;

    public static Plan Of(int tasks)
    {
        var random = new Random(7);
        var rows = ImmutableArray.CreateBuilder<PlanTask>(tasks);
        string? phase = null;
        for (var i = 0; i < tasks; i++)
        {
            var id = $"t{i}";
            var isPhase = i % 11 == 0 && i + 1 < tasks;
            if (isPhase)
                phase = id;
            rows.Add(
                new PlanTask
                {
                    Id = id,
                    Name = $"Task {i}",
                    Parent = isPhase ? null : phase,
                    Length = Length.Days(random.Next(1, 4)),
                    Calendar = isPhase ? null : $"c{random.Next(Calendars)}",
                }
            );
        }
        return new Plan
        {
            Project = new ProjectSettings
            {
                Name = "Bench",
                Start = PlanTime.At(2027, 5, 3, 9),
                Calendar = "c0",
            },
            Calendars = [.. Enumerable.Range(0, Calendars).Select(WithHolidays)],
            Tasks = rows.ToImmutable(),
            Links = Links(random, tasks),
        };
    }

    /// <summary>
    /// Each task waits for one or two shortly before it, but every thirtieth starts a new chain: plans are wide, not one line.
    /// </summary>
    private static ImmutableArray<PlanLink> Links(Random random, int tasks)
    {
        var links = new HashSet<(int From, int To)>();
        while (links.Count < tasks * 3 / 2)
        {
            var to = random.Next(1, tasks);
            var from = to - random.Next(1, Math.Min(to, 300) + 1);
            if (from % 11 != 0 && to % 11 != 0 && to / 400 == from / 400)
                links.Add((from, to));
        }
        return
        [
            .. links
                .OrderBy(l => l.To)
                .ThenBy(l => l.From)
                .Select((l, i) => new PlanLink($"t{l.From}", $"t{l.To}", Lag(i), KindOf(i), i % 12 == 0)),
        ];
    }

    private static Length Lag(int link) => link % 3 == 0 ? new Length(link % 5 - 1, LengthUnit.Hours) : Length.Zero;

    /// <summary>Seven of ten finish-to-start, the other three of each other kind.</summary>
    private static LinkKind KindOf(int link) =>
        (link % 10) switch
        {
            3 => LinkKind.StartToStart,
            6 => LinkKind.FinishToFinish,
            9 => LinkKind.StartToFinish,
            _ => LinkKind.FinishToStart,
        };

    /// <summary>Calendars begin their day at different hours; every other one works on Saturdays.</summary>
    private static WorkCalendar WithHolidays(int number)
    {
        var morning = new WorkInterval((7 + number % 4) * 60, 13 * 60);
        var afternoon = new WorkInterval(14 * 60, (17 + number % 5) * 60);
        var days = number % 2 == 0 ? 5 : 6;
        return new WorkCalendar
        {
            Id = $"c{number}",
            Name = $"Calendar {number}",
            Week = [.. Enumerable.Range(0, 7).Select(day => (ImmutableArray<WorkInterval>?)(day < days ? [morning, afternoon] : []))],
            Exceptions =
            [
                .. Enumerable
                    .Range(2027, 20)
                    .SelectMany(year =>
                        new[] { (1, 1), (5, 1 + number), (12, 25), (12, 26) }.Select(day => new CalendarOverride(
                            new(year, day.Item1, day.Item2),
                            new(year, day.Item1, day.Item2),
                            "Holiday",
                            []
                        ))
                    ),
            ],
        };
    }
}
