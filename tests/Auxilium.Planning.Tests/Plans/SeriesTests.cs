using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests.Plans;

public class SeriesTests
{
    private static readonly DateOrTime Tuesday = new(new DateOnly(2027, 5, 4));

    private static readonly WorkTime Weekdays = new CalendarBook([]).WorkTimeOf(null);

    public static TheoryData<RepeatRule, string, string> Rules =>
        new()
        {
            { Rule(RepeatUnit.Day) with { Interval = 3 }, "every 3 days, 1 day each", "4 May, 7 May, 10 May, 13 May" },
            { Rule(RepeatUnit.Week), "every week on Tue, 1 day each", "4 May, 11 May, 18 May, 25 May" },
            {
                Rule(RepeatUnit.Week) with
                {
                    Interval = 2,
                    On = [DayOfWeek.Thursday, DayOfWeek.Monday],
                },
                "every 2 weeks on Mon and Thu, 1 day each",
                "6 May, 17 May, 20 May, 31 May"
            },
            { Rule(RepeatUnit.Month), "every month on the 4th, 1 day each", "4 May, 4 Jun, 4 Jul, 4 Aug" },
            {
                Rule(RepeatUnit.Month) with
                {
                    From = new(new DateOnly(2027, 10, 31)),
                },
                "every month on the 31st, 1 day each",
                "31 Oct, 30 Nov, 31 Dec, 31 Jan"
            },
            {
                Rule(RepeatUnit.Month) with
                {
                    Week = RepeatRule.LastWeek,
                    On = [DayOfWeek.Friday],
                },
                "every month on the last Friday, 1 day each",
                "28 May, 25 Jun, 30 Jul, 27 Aug"
            },
            {
                Rule(RepeatUnit.Month) with
                {
                    Week = 1,
                    On = [DayOfWeek.Monday],
                    Interval = 2,
                },
                "every 2 months on the first Monday, 1 day each",
                "5 Jul, 6 Sep, 1 Nov, 3 Jan"
            },
            {
                Rule(RepeatUnit.Year) with
                {
                    From = new(new DateOnly(2028, 2, 29)),
                },
                "every year on 29 February, 1 day each",
                "29 Feb, 28 Feb, 28 Feb, 28 Feb"
            },
            {
                Rule(RepeatUnit.Year) with
                {
                    Week = 3,
                    On = [DayOfWeek.Sunday],
                },
                "every year on the third Sunday of May, 1 day each",
                "16 May, 21 May, 20 May, 19 May"
            },
            {
                Rule(RepeatUnit.Week) with
                {
                    From = new(Tuesday.Date, 18 * 60 + 30),
                    Length = new(90, LengthUnit.Minutes),
                },
                "every week on Tue at 18:30, 90 minutes each",
                "4 May, 11 May, 18 May, 25 May"
            },
        };

    [Theory]
    [MemberData(nameof(Rules))]
    public void A_rule_is_said_in_plain_words_and_names_its_days(RepeatRule rule, string words, string days)
    {
        Assert.Null(rule.WhyUnusable(WorkUnits.Standard));
        Assert.Equal(words, RepeatText.Of(rule));
        Assert.Equal(
            days,
            string.Join(", ", rule.Days().Take(4).Select(d => d.ToString("d MMM", System.Globalization.CultureInfo.InvariantCulture)))
        );
    }

    [Theory]
    [InlineData(OnClosedDay.Next, "Mon 3, Tue 4, Wed 5, Thu 6, Fri 7, Mon 10")]
    [InlineData(OnClosedDay.Skip, "Mon 3, Tue 4, Wed 5, Thu 6, Fri 7, Mon 10")]
    [InlineData(OnClosedDay.Keep, "Mon 3, Tue 4, Wed 5, Thu 6, Fri 7, Sat 8")]
    public void A_day_without_work_is_moved_on_left_out_or_kept(OnClosedDay closed, string days)
    {
        var rule = Rule(RepeatUnit.Day) with { From = new(new DateOnly(2027, 5, 3)), Times = 6, Closed = closed };
        Assert.Equal(days, Text(Series.ToMake(rule, Weekdays, WorkUnits.Standard)));
    }

    [Fact]
    public void One_that_is_moved_keeps_the_day_of_its_rule_and_does_not_pass_the_last_day()
    {
        var rule = Rule(RepeatUnit.Month) with { From = new(new DateOnly(2027, 5, 1)), Until = new(new DateOnly(2027, 8, 1)) };
        var made = Series.ToMake(rule, Weekdays, WorkUnits.Standard);
        Assert.Equal("Mon 3, Tue 1, Thu 1", Text(made));
        Assert.Equal([true, false, false], made.Select(o => o.IsMoved));
        Assert.Equal(new DateOnly(2027, 5, 1), made[0].Day);
    }

    [Fact]
    public void Hours_outside_working_time_count_on_the_clock()
    {
        var evening = Rule(RepeatUnit.Week) with { From = new(Tuesday.Date, 18 * 60 + 30), Length = new(2, LengthUnit.Hours), Times = 1 };
        Assert.True(Series.ToMake(evening, Weekdays, WorkUnits.Standard)[0].OnTheClock);
        Assert.True(Series.ToMake(evening with { From = new(Tuesday.Date, 12 * 60) }, Weekdays, WorkUnits.Standard)[0].OnTheClock);
        Assert.False(Series.ToMake(evening with { From = new(Tuesday.Date, 9 * 60) }, Weekdays, WorkUnits.Standard)[0].OnTheClock);
        Assert.False(Series.ToMake(evening with { From = Tuesday, Length = Length.Days(2) }, Weekdays, WorkUnits.Standard)[0].OnTheClock);
        var saturday = Rule(RepeatUnit.Week) with { From = new(new DateOnly(2027, 5, 8)), Closed = OnClosedDay.Keep, Times = 1 };
        Assert.Equal(
            (PlanTime.At(2027, 5, 8, 9), true),
            (
                Series.ToMake(saturday, Weekdays, WorkUnits.Standard)[0].Start,
                Series.ToMake(saturday, Weekdays, WorkUnits.Standard)[0].OnTheClock
            )
        );
    }

    [Fact]
    public void What_is_made_already_is_not_made_again()
    {
        var rule = Rule(RepeatUnit.Week) with { Until = new(new DateOnly(2027, 6, 1)), Made = new DateOnly(2027, 5, 18), Count = 3 };
        Assert.Equal([4, 5], Series.ToMake(rule, Weekdays, WorkUnits.Standard).Select(o => o.Number));
        Assert.Empty(Series.ToMake(rule with { Times = 3 }, Weekdays, WorkUnits.Standard));
        Assert.Equal(RepeatRule.MostTimes, Series.ToMake(Rule(RepeatUnit.Day), Weekdays, WorkUnits.Standard).Count);
    }

    [Fact]
    public void A_rule_that_makes_no_sense_says_what_would()
    {
        RepeatRule[] bad =
        [
            Rule(RepeatUnit.Day) with
            {
                Interval = 0,
            },
            Rule(RepeatUnit.Day) with
            {
                Times = 501,
            },
            Rule(RepeatUnit.Day) with
            {
                Until = new(new DateOnly(2027, 5, 3)),
            },
            Rule(RepeatUnit.Day) with
            {
                On = [DayOfWeek.Monday],
            },
            Rule(RepeatUnit.Week) with
            {
                On = [DayOfWeek.Monday, DayOfWeek.Monday],
            },
            Rule(RepeatUnit.Week) with
            {
                On = [(DayOfWeek)9],
            },
            Rule(RepeatUnit.Month) with
            {
                Week = 5,
                On = [DayOfWeek.Monday],
            },
            Rule(RepeatUnit.Month) with
            {
                Week = 1,
            },
            Rule(RepeatUnit.Week) with
            {
                Length = Length.Days(-1),
            },
            Rule(RepeatUnit.Week) with
            {
                From = new(new DateOnly(1980, 1, 1)),
            },
        ];
        Assert.All(bad, rule => Assert.EndsWith(".", rule.WhyUnusable(WorkUnits.Standard), StringComparison.Ordinal));
    }

    private static RepeatRule Rule(RepeatUnit every) =>
        new()
        {
            Every = every,
            From = Tuesday,
            Length = Length.OneDay,
        };

    private static string Text(IEnumerable<Occurrence> occurrences) =>
        string.Join(", ", occurrences.Select(o => o.Start.Date.ToString("ddd d", System.Globalization.CultureInfo.InvariantCulture)));
}
