using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using CsCheck;

namespace Auxilium.Planning.Tests.Calendars;

public class WorkTimeTests
{
    private static readonly PlanTime Monday9 = PlanTime.At(2027, 5, 3, 9);
    private static readonly WorkTime Weekdays = new CalendarBook([]).WorkTimeOf(null);

    [Fact]
    public void T1_days_have_1440_minutes_and_follow_the_Gregorian_calendar()
    {
        Assert.Equal(PlanTime.At(2027, 3, 29), PlanTime.On(new(2027, 3, 28), 1440));
        Assert.Equal(1440, PlanTime.At(2100, 3, 1).Minutes - PlanTime.At(2100, 2, 28).Minutes);
        Assert.Equal(2 * 1440, PlanTime.At(2096, 3, 1).Minutes - PlanTime.At(2096, 2, 28).Minutes);
        Assert.Equal(1440, WorkTime.AroundTheClock.Between(PlanTime.At(2027, 3, 28), PlanTime.At(2027, 3, 29)));
    }

    [Theory]
    [InlineData("2027-05-03T08:00", "2027-05-03T09:00")]
    [InlineData("2027-05-03T13:00", "2027-05-03T14:00")]
    [InlineData("2027-05-03T10:30", "2027-05-03T10:30")]
    [InlineData("2027-05-07T18:00", "2027-05-10T09:00")]
    public void T6_next_begins_a_working_minute(string from, string next) =>
        Assert.Equal(next, Weekdays.Next(PlanTime.Parse(from)).ToString());

    [Theory]
    [InlineData("2027-05-03T09:00", "2027-04-30T18:00")]
    [InlineData("2027-05-03T14:00", "2027-05-03T13:00")]
    [InlineData("2027-05-03T18:00", "2027-05-03T18:00")]
    public void T6_prev_ends_a_working_minute(string from, string prev) =>
        Assert.Equal(prev, Weekdays.Prev(PlanTime.Parse(from)).ToString());

    [Fact]
    public void T6_add_counts_to_the_end_of_the_last_minute_and_back_to_the_start_of_the_first()
    {
        Assert.Equal("2027-05-03T18:00", Weekdays.Add(Monday9, 480).ToString());
        Assert.Equal("2027-05-04T09:01", Weekdays.Add(Monday9, 481).ToString());
        Assert.Equal("2027-04-30T09:00", Weekdays.Add(Monday9, -480).ToString());
        Assert.Equal("2027-05-02T12:00", Weekdays.Add(PlanTime.At(2027, 5, 2, 12), 0).ToString());
    }

    [Fact]
    public void T6_between_is_negative_backwards() => Assert.Equal(-480, Weekdays.Between(PlanTime.At(2027, 5, 4, 9), Monday9));

    [Fact]
    public void T2_later_exceptions_win_and_a_day_may_end_at_midnight()
    {
        var late = new WorkInterval(18 * 60, 1440);
        var calendar = Calendar("c", WorkCalendar.Weekdays.Week) with
        {
            Exceptions =
            [
                new CalendarOverride(new(2027, 5, 3), new(2027, 5, 7), "Closed", []),
                new CalendarOverride(new(2027, 5, 5), new(2027, 5, 5), "Night shift", [late]),
            ],
        };
        var work = new CalendarBook([calendar]).WorkTimeOf("c");
        Assert.Equal("2027-05-05T18:00", work.Next(Monday9).ToString());
        Assert.Equal("2027-05-06T00:00", work.Add(Monday9, 360).ToString());
        Assert.Equal("2027-05-10T09:01", work.Add(Monday9, 361).ToString());
    }

    /// <summary>However far apart the days are that are asked for, and however many stretches they have.</summary>
    [Fact]
    public void T6_the_whole_span_of_years_counts_the_same_in_one_step_as_day_by_day()
    {
        WorkInterval[] stretches = [new(60, 120), new(300, 333), new(700, 800), new(1400, 1440)];
        var calendar = Calendar("c", WorkCalendar.Weekdays.Week) with
        {
            Exceptions =
            [
                .. Enumerable
                    .Range(0, 109)
                    .Select(i => new CalendarOverride(new(1991 + i, 3, 1), new(1991 + i, 3, 20), "X", i % 3 == 0 ? [] : [.. stretches])),
            ],
        };
        var work = new CalendarBook([calendar]).WorkTimeOf("c");
        var from = PlanTime.At(2027, 5, 3);
        foreach (
            var to in new[]
            {
                PlanTime.At(2028, 1, 1),
                PlanTime.At(1990, 1, 1),
                PlanTime.At(2100, 12, 31),
                PlanTime.At(1995, 6, 7),
                PlanTime.At(2040, 3, 5, 11, 50),
            }
        )
        {
            var sum = 0;
            for (var day = PlanTime.Min(from, to).Day; day < PlanTime.Max(from, to).Day; day++)
                sum += work.WorkedOn(DateOnly.FromDayNumber(day));
            var rest = work.Between(PlanTime.On(to.Date), to);
            Assert.Equal(to < from ? -sum : sum + rest, work.Between(from, to));
            Assert.Equal(work.Next(to), work.MinuteStart(work.Worked(to)));
            Assert.Equal(work.Worked(work.Next(to)), work.Worked(to));
        }
    }

    [Fact]
    public void T3_undefined_weekdays_and_earlier_exceptions_come_from_the_base()
    {
        var holiday = new CalendarOverride(new(2027, 5, 31), new(2027, 5, 31), "Holiday", []);
        var open = new CalendarOverride(new(2027, 5, 31), new(2027, 5, 31), "Open all the same", [new WorkInterval(600, 660)]);
        var standard = Calendar("standard", WorkCalendar.Weekdays.Week) with { Exceptions = [holiday] };
        var saturdays = Calendar("sat", [null, null, null, null, null, [new WorkInterval(600, 960)], null]) with { Base = "standard" };
        var book = new CalendarBook([standard, saturdays, saturdays with { Id = "open", Exceptions = [open] }]);
        Assert.Equal(0, book.WorkTimeOf("sat").WorkedOn(new(2027, 5, 31)));
        Assert.Equal(360, book.WorkTimeOf("sat").WorkedOn(new(2027, 5, 29)));
        Assert.Equal(480, book.WorkTimeOf("sat").WorkedOn(new(2027, 5, 28)));
        Assert.Equal(60, book.WorkTimeOf("open").WorkedOn(new(2027, 5, 31)));
    }

    [Fact]
    public void A_calendar_that_runs_out_of_work_never_gets_there()
    {
        var once = Calendar("c", [.. Enumerable.Repeat<ImmutableArray<WorkInterval>?>(null, 7)]) with
        {
            Exceptions = [new CalendarOverride(new(2027, 5, 3), new(2027, 5, 3), "The day", [new WorkInterval(540, 600)])],
        };
        var work = new CalendarBook([once]).WorkTimeOf("c");
        Assert.Equal("2027-05-03T10:00", work.Add(Monday9, 60).ToString());
        Assert.Equal(WorkTime.Never, work.Add(Monday9, 61));
    }

    /// <summary>Counts minute by minute, which is obviously right, against the compiled calendar.</summary>
    [Fact]
    public void T6_agrees_with_counting_minute_by_minute() =>
        Gen.Select(Gen.Int[0, 9_999], Gen.Int[0, 20 * 1440], Gen.Int[-2_000, 2_000])
            .Sample(
                (seed, offset, n) =>
                {
                    var book = RandomPlan.Calendars(new Random(seed));
                    var work = book.Intersection("a", "b");
                    bool Works(int minute) => IsWorking(book, "a", minute) && IsWorking(book, "b", minute);
                    var from = new PlanTime(Monday9.Minutes + offset);
                    var (at, left) = (from.Minutes, Math.Abs(n));
                    var horizon = 200 * 1440;
                    while (left > 0 && Math.Abs(at - from.Minutes) < horizon)
                    {
                        if (n < 0)
                            at--;
                        if (Works(at))
                            left--;
                        if (n > 0)
                            at++;
                    }
                    Assert.SkipOrEqual(left > 0, new PlanTime(at), work.Add(from, n));
                    var next = from.Minutes;
                    while (!Works(next) && next < from.Minutes + horizon)
                        next++;
                    Assert.SkipOrEqual(next >= from.Minutes + horizon, new PlanTime(next), work.Next(from));
                    var prev = from.Minutes;
                    while (!Works(prev - 1) && prev > from.Minutes - horizon)
                        prev--;
                    Assert.SkipOrEqual(prev <= from.Minutes - horizon, new PlanTime(prev), work.Prev(from));
                },
                iter: 300
            );

    [Fact]
    public void B1_taking_a_bound_back_finds_the_latest_instant_that_still_meets_it() =>
        Gen.Select(Gen.Int[0, 10 * 1440], Gen.Int[-900, 900])
            .Sample(
                (offset, lag) =>
                {
                    var limit = new PlanTime(Monday9.Minutes + offset);
                    var latest = Weekdays.TakeBack(new CountedTime(limit), lag).Time;
                    Assert.True(Weekdays.Add(latest, lag) <= limit);
                    Assert.True(Weekdays.Add(new PlanTime(latest.Minutes + 1), lag) > limit);
                }
            );

    [Fact]
    public void What_was_counted_on_the_way_is_what_counting_anew_gives() =>
        Gen.Select(Gen.Int[0, 10 * 1440], Gen.Int[-900, 900])
            .Sample(
                (offset, n) =>
                {
                    var time = new PlanTime(Monday9.Minutes + offset);
                    var counted = new CountedTime(time, Weekdays.Worked(time));
                    Assert.Equal(Weekdays.Add(time, n), Weekdays.Add(counted, n).Time);
                    Assert.Equal(Weekdays.Add(counted, n).Time, Weekdays.Add(new CountedTime(time), n).Time);
                    foreach (var after in new[] { Weekdays.Add(counted, n), Weekdays.TakeBack(counted, n) })
                        Assert.Equal(Weekdays.Worked(after.Time), after.Worked);
                }
            );

    private static bool IsWorking(CalendarBook book, string id, int minute)
    {
        var calendar = book.Find(id)!;
        var time = new PlanTime(minute);
        var dated = calendar.Exceptions.LastOrDefault(e => e.From <= time.Date && time.Date <= e.To);
        var work = dated?.Work ?? calendar.Week[time.Day % 7] ?? [];
        return work.Any(i => i.Start <= time.MinuteOfDay && time.MinuteOfDay < i.End);
    }

    private static WorkCalendar Calendar(string id, ImmutableArray<ImmutableArray<WorkInterval>?> week) =>
        new()
        {
            Id = id,
            Name = id,
            Week = week,
        };

    private static class Assert
    {
        /// <summary>Where the plain count found no work within its horizon, only "much later, earlier or never" can be said.</summary>
        public static void SkipOrEqual(bool unknown, PlanTime expected, PlanTime actual)
        {
            if (!unknown)
                Xunit.Assert.Equal(expected, actual);
        }

        public static void Equal<T>(T expected, T actual) => Xunit.Assert.Equal(expected, actual);

        public static void True(bool condition) => Xunit.Assert.True(condition);
    }
}
