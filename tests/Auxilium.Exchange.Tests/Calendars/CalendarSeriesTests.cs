using System.Globalization;
using Auxilium.Exchange.Calendars;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.Tests.Calendars;

public class CalendarSeriesTests
{
    private static readonly DateTime Now = new(2027, 5, 13, 8, 30, 0, DateTimeKind.Utc);
    private static readonly TimeZoneInfo Berlin = TimeZoneInfo.FindSystemTimeZoneById("Europe/Berlin");
    private static readonly DateOnly Monday = new(2027, 5, 17);

    [Fact]
    public void Times_that_follow_the_rule_are_one_event_without_the_days_that_were_taken_out()
    {
        var told = Read(Weekly(6).Where(task => task.From != Monday.AddDays(14)));
        var series = Assert.Single(told);
        Assert.Equal(("lesson.p@auxilium", "Rowing lesson"), (series["UID"], series["SUMMARY"]));
        Assert.Equal("FREQ=WEEKLY;UNTIL=20270621", series["RRULE"]);
        Assert.Equal("20270531", series["EXDATE"]);
        Assert.Equal(("20270517", "20270518"), (series["DTSTART"], series["DTEND"]));
    }

    [Fact]
    public void What_was_moved_made_longer_or_is_done_is_told_for_itself()
    {
        var told = Read(
            Weekly(8)
                .Select(
                    (task, i) =>
                        i switch
                        {
                            0 => task with { IsDone = true },
                            3 => task with { From = task.From.AddDays(1), To = task.To.AddDays(1) },
                            5 => task with { To = task.To.AddDays(2) },
                            _ => task,
                        }
                )
        );
        var series = Assert.Single(told, part => part["RRULE"] is not null);
        Assert.Equal("20270524", series["DTSTART"]);
        Assert.Equal(
            ["20270607", "20270621"],
            series.Properties.Where(p => p.Name == "EXDATE").SelectMany(p => p.Value.Split(',')).Order()
        );
        Assert.Equal(
            ["Rowing lesson 1 (done)", "Rowing lesson 4", "Rowing lesson 6"],
            told.Where(part => part["RRULE"] is null).Select(part => part["SUMMARY"]!).Order()
        );
    }

    [Fact]
    public void Hours_stay_the_same_by_the_clock_when_summer_time_ends()
    {
        var tasks = Weekly(30)
            .Select(task =>
            {
                var begins = TimeZoneInfo.ConvertTimeToUtc(task.From.ToDateTime(new TimeOnly(18, 30)), Berlin);
                return task with { Hours = (begins, begins.AddHours(2)) };
            });
        var series = Assert.Single(Read(tasks, new CalendarWishes(Berlin)));
        Assert.Equal("20270517T183000", series["DTSTART"]);
        Assert.Equal("FREQ=WEEKLY;UNTIL=20271206T173000Z", series["RRULE"]);
    }

    [Theory]
    [InlineData(RepeatUnit.Month, null, "FREQ=MONTHLY;UNTIL=20270817")]
    [InlineData(RepeatUnit.Month, 3, "FREQ=MONTHLY;UNTIL=20270816;BYDAY=3MO")]
    [InlineData(RepeatUnit.Day, null, "FREQ=DAILY;UNTIL=20270520")]
    public void Rules_of_months_and_days_are_told_as_they_are(RepeatUnit every, int? week, string rule)
    {
        var repeats = Rule() with { Every = every, Week = week, On = week is null ? [] : [DayOfWeek.Monday] };
        DateOnly[] days =
            every == RepeatUnit.Day
                ? [.. Enumerable.Range(0, 4).Select(Monday.AddDays)]
                : [.. Enumerable.Range(0, 4).Select(n => week is null ? Monday.AddMonths(n) : ThirdMonday(n))];
        var series = Assert.Single(Read(days.Select((day, i) => Time(i, day, repeats))));
        Assert.Equal(rule.Split(';').Order(), series["RRULE"]!.Split(';').Order());
    }

    [Fact]
    public void What_follows_no_rule_is_told_one_by_one()
    {
        var random = new Random(3);
        var tasks = Enumerable.Range(0, 10).Select(i => Time(i, Monday.AddDays(10 * i + random.Next(1, 6)), Rule()));
        Assert.Equal(10, Read(tasks).Count(part => part["RRULE"] is null));
    }

    [Fact]
    public void To_dos_say_how_far_they_are_and_alarms_come_days_before()
    {
        var tasks = Weekly(3).Select((task, i) => task with { Progress = i / 2m, IsDone = i == 2 });
        var told = Read(tasks, new CalendarWishes(AsToDos: true, AlarmDays: 2));
        Assert.All(told, part => Assert.Equal("VTODO", part.Name));
        Assert.Equal(
            [("NEEDS-ACTION", "0", "20270517"), ("IN-PROCESS", "50", "20270524"), ("COMPLETED", "100", "20270531")],
            told.Select(part => (part["STATUS"]!, part["PERCENT-COMPLETE"]!, part["DUE"]!))
        );
        Assert.Equal(["-P2D", "-P2D"], told.SelectMany(part => part.Parts).Select(alarm => alarm["TRIGGER"]!));
    }

    /// <summary>Of random series: every time is told once, on its day, whether as one of a series or for itself.</summary>
    [Fact]
    public void No_time_of_a_series_is_lost_or_made_up()
    {
        var random = new Random(8);
        for (var i = 0; i < 300; i++)
        {
            var rule = Rule() with { Every = RepeatUnit.Week, Interval = random.Next(1, 3) };
            var tasks = Enumerable
                .Range(0, random.Next(1, 20))
                .Select(n => Monday.AddDays(7 * n * rule.Interval + (random.Next(5) == 0 ? random.Next(7) : 0)))
                .Where(_ => random.Next(6) > 0)
                .Distinct()
                .Select((day, n) => Time(n, day, rule) with { IsDone = random.Next(8) == 0 })
                .ToList();
            var days = Read(tasks).SelectMany(part => DaysOf(part, rule.Interval)).Order();
            Assert.Equal(tasks.Select(task => task.From).Order(), days);
        }
    }

    private static IEnumerable<DateOnly> DaysOf(StrictCalendar.Part part, int interval)
    {
        var start = Day(part["DTSTART"]!);
        if (part["RRULE"] is not { } rule)
            return [start];
        var last = Day(rule.Split(';').Single(p => p.StartsWith("UNTIL=", StringComparison.Ordinal))[6..]);
        var without = part.Properties.Where(p => p.Name == "EXDATE").SelectMany(p => p.Value.Split(',')).Select(Day).ToHashSet();
        return Enumerable
            .Range(0, 100)
            .Select(n => start.AddDays(7 * n * interval))
            .TakeWhile(day => day <= last)
            .Where(day => !without.Contains(day));
    }

    private static DateOnly Day(string text) => DateOnly.ParseExact(text, "yyyyMMdd", CultureInfo.InvariantCulture);

    private static DateOnly ThirdMonday(int months)
    {
        var first = new DateOnly(2027, 5, 1).AddMonths(months);
        return first.AddDays((8 - (int)first.DayOfWeek) % 7 + 14);
    }

    private static RepeatRule Rule() =>
        new()
        {
            Every = RepeatUnit.Week,
            From = PlanTime.On(Monday),
            Length = Length.OneDay,
        };

    private static IEnumerable<CalendarTask> Weekly(int times) =>
        Enumerable.Range(0, times).Select(n => Time(n, Monday.AddDays(7 * n), Rule()));

    private static CalendarTask Time(int number, DateOnly day, RepeatRule rule) =>
        new(
            $"t{number}.p@auxilium",
            $"Rowing lesson {number + 1}",
            "Season",
            day,
            day,
            null,
            false,
            true,
            $"http://127.0.0.1/projects/p#t{number}"
        )
        {
            Series = new CalendarSeries("lesson.p@auxilium", "Rowing lesson", rule),
        };

    private static IReadOnlyList<StrictCalendar.Part> Read(IEnumerable<CalendarTask> tasks, CalendarWishes? wishes = null) =>
        StrictCalendar.Read(TaskCalendar.Write("Season", tasks, Now, wishes));
}
