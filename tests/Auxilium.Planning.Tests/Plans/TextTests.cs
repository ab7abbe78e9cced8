using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;

namespace Auxilium.Planning.Tests.Plans;

public class TextTests
{
    private static readonly DateOnly Today = new(2027, 5, 13);

    [Theory]
    [InlineData("3d", "3d")]
    [InlineData("0.5 d", "0.5d")]
    [InlineData("0,5d", "0.5d")]
    [InlineData(".5d", "0.5d")]
    [InlineData("2 hours", "2h")]
    [InlineData("45m", "45m")]
    [InlineData("90 min", "90m")]
    [InlineData("1 week", "1w")]
    [InlineData(" 3 ", "3d")]
    [InlineData("3D ?", "3d?")]
    [InlineData("0", "0d")]
    public void Lengths_are_read_in_a_persons_own_words(string text, string expected)
    {
        Assert.True(LengthText.TryParse(text, out var length, out var tentative, out _));
        Assert.Equal(expected, new TypedLength(length, tentative).ToString());
    }

    [Theory]
    [InlineData("", "A length is missing")]
    [InlineData("soon", "“soon” is not a length: type a number and a unit, such as 3d")]
    [InlineData("-3d", "cannot be negative")]
    [InlineData("3 fortnights", "is not a length")]
    [InlineData("1e9d", "is not a length")]
    public void Unreadable_lengths_get_a_sentence(string text, string part)
    {
        Assert.False(LengthText.TryParse(text, out _, out _, out var problem));
        Assert.Contains(part, problem, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("2600d", true)]
    [InlineData("2601d", false)]
    [InlineData("0.1h", true)]
    [InlineData("0.33h", false)]
    [InlineData("99999999999999999999999d", false)]
    public void T4_a_length_comes_to_whole_minutes_and_at_most_ten_years(string text, bool usable)
    {
        Assert.True(LengthText.TryParse(text, out var length, out _, out _));
        Assert.Equal(usable, LengthText.WhyUnusable(length, WorkUnits.Standard) is null);
    }

    [Theory]
    [InlineData("after 4", "4")]
    [InlineData("4", "4")]
    [InlineData("AFTER 4, 6", "4; 6")]
    [InlineData("2.1 + 2d; 3 - 1 week", "2.1 + 2d; 3 - 1w")]
    [InlineData("after 4−1d", "4 - 1d")]
    [InlineData("with 4, ends with 2.1 + 1d", "with 4; ends with 2.1 + 1d")]
    [InlineData("ends after 4 starts - 2h, 3 + 12h elapsed", "ends after 4 starts - 2h; 3 + 12h elapsed")]
    [InlineData("End With 4, with 4+1d", "ends with 4; with 4 + 1d")]
    [InlineData("", "")]
    public void Links_are_read_as_typed(string text, string expected)
    {
        Assert.True(LinkText.TryParse(text, out var links, out _));
        Assert.Equal(
            expected,
            string.Join("; ", links.Select(l => LinkText.Format(l.Number, new PlanLink("a", "b", l.Lag, l.Kind, l.Elapsed))))
        );
    }

    [Theory]
    [InlineData("soon", "is not a row to come after")]
    [InlineData("4,,6", "A row number is missing")]
    [InlineData("4 + soon", "“soon” is not a length")]
    [InlineData("without 4", "with 4 starts together")]
    [InlineData("ends after 4", "ends after 4 starts")]
    [InlineData("4 + 2x", "“2x” is not a length")]
    public void Unreadable_links_get_a_sentence(string text, string part)
    {
        Assert.False(LinkText.TryParse(text, out _, out var problem));
        Assert.Contains(part, problem, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("12 May", "2027-05-12")]
    [InlineData("May 12", "2027-05-12")]
    [InlineData("Wed 12 May", "2027-05-12")]
    [InlineData("12th may 2028", "2028-05-12")]
    [InlineData("3 January", "2027-01-03")]
    [InlineData("20 december", "2026-12-20")]
    [InlineData("29 Feb", "2028-02-29")]
    [InlineData("2027-06-05", "2027-06-05")]
    [InlineData("5 June 20:00", "2027-06-05T20:00")]
    [InlineData("2027-06-05T20:00", "2027-06-05T20:00")]
    [InlineData("31/12", "2026-12-31")]
    [InlineData("5/20/2027", "2027-05-20")]
    [InlineData("20.5.", "2027-05-20")]
    [InlineData("6-6", "2027-06-06")]
    [InlineData("today", "2027-05-13")]
    [InlineData("Tomorrow at 9:30", "2027-05-14T09:30")]
    public void Dates_are_read_as_typed_and_without_a_year_are_the_nearest(string text, string expected)
    {
        Assert.True(DateText.TryParse(text, Today, out var date, out _));
        Assert.Equal(expected, date.ToString());
    }

    [Fact]
    public void A_date_without_a_year_can_be_the_nearest_to_another_day()
    {
        Assert.True(DateText.TryParse("10 Sep", Today, out var date, out _, near: new DateOnly(2029, 8, 1)));
        Assert.Equal("2029-09-10", date.ToString());
        Assert.True(DateText.TryParse("tomorrow", Today, out date, out _, near: new DateOnly(2029, 8, 1)));
        Assert.Equal("2027-05-14", date.ToString());
    }

    [Theory]
    [InlineData("", "A date is missing")]
    [InlineData("3/4", "could be read two ways")]
    [InlineData("03.04.2027", "could be read two ways")]
    [InlineData("31 June", "There is no such day")]
    [InlineData("31/6", "There is no such day")]
    [InlineData("13/13", "There is no such day")]
    [InlineData("29 Feb 2027", "There is no such day")]
    [InlineData("12 May 1889", "outside the years")]
    [InlineData("12 May 25:00", "not a time of day")]
    [InlineData("whenever", "is not a date")]
    public void Unreadable_dates_get_a_sentence(string text, string part)
    {
        Assert.False(DateText.TryParse(text, Today, out _, out var problem));
        Assert.Contains(part, problem, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("Imke Varga", "IV")]
    [InlineData("Anna-Lena von Ober", "AO")]
    [InlineData("Prince", "P")]
    [InlineData("王 小明", "王小")]
    public void Initials_are_of_the_first_and_last_word(string name, string initials) => Assert.Equal(initials, PlanIds.InitialsOf(name));

    [Fact]
    public void A_plan_shifted_by_weeks_has_the_same_shape_later()
    {
        var plan = PlanText
            .Plan("A 3d\nB 1d after A")
            .With("A", t => t with { ActualStart = PlanTime.At(2027, 5, 4, 9), Progress = 0.5m });
        var shifted = PlanShift.ByWeeks(plan, 3).Calculate();
        Assert.Equal(plan.Calculate().Finish.Minutes + 21 * PlanTime.MinutesPerDay, shifted.Finish.Minutes);
    }

    [Theory]
    [InlineData("1h30", "90m")]
    [InlineData("1h 30m", "90m")]
    [InlineData("½ d", "0.5d")]
    [InlineData("1½ days", "1.5d")]
    [InlineData("half a day", "0.5d")]
    [InlineData("half an hour", "0.5h")]
    [InlineData("a week", "1w")]
    [InlineData("2 weeks 1 day", "11d")]
    [InlineData("2 weeks, 1 day and 2 hours", "90h")]
    [InlineData("1,5", "1.5d")]
    [InlineData("1,5 h", "1.5h")]
    public void Lengths_are_read_as_people_say_them(string text, string read)
    {
        Assert.True(LengthText.TryParse(text, out var length, out _, out var problem), problem);
        Assert.Equal(read, length.ToString());
    }

    [Theory]
    [InlineData("2-3 days", "is a range")]
    [InlineData("1h2h", "is not a length")]
    [InlineData("1d30", "is not a length")]
    [InlineData("half", "is not a length")]
    [InlineData("a", "is not a length")]
    [InlineData("1 day 2 weeks", "is not a length")]
    [InlineData("-3d", "cannot be negative")]
    public void What_is_no_length_says_why(string text, string why)
    {
        Assert.False(LengthText.TryParse(text, out _, out _, out var problem));
        Assert.Contains(why, problem, StringComparison.Ordinal);
    }

    [Fact]
    public void A_number_alone_is_hours_where_hours_are_asked_for_and_weeks_go_by_the_plan()
    {
        Assert.True(LengthText.TryParse("1,5", out var hours, out _, out _, null, LengthUnit.Hours));
        Assert.Equal("1.5h", hours.ToString());
        Assert.True(LengthText.TryParse("1w 1d", out var days, out _, out _, new WorkUnits(7, 4)));
        Assert.Equal("5d", days.ToString());
    }

    [Theory]
    [InlineData("9-13", "540-780")]
    [InlineData("9:30–13, 14 to 18h", "570-780 840-1080")]
    [InlineData("off", "")]
    [InlineData("18-24", "1080-1440")]
    public void Hours_of_a_day_are_read_as_people_type_them(string text, string read)
    {
        Assert.True(HoursText.TryParse(text, out var hours, out var problem), problem);
        Assert.Equal(read, string.Join(' ', hours.Select(h => $"{h.Start}-{h.End}")));
    }

    [Theory]
    [InlineData("ten to four", "is not a stretch of working time")]
    [InlineData("22-6", "ends before it starts")]
    [InlineData("9-13, 12-18", "overlaps")]
    [InlineData("9-25", "beyond the end of the day")]
    public void What_are_no_hours_says_why(string text, string why)
    {
        Assert.False(HoursText.TryParse(text, out _, out var problem));
        Assert.Contains(why, problem, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("9 Jun", "2027-06-09 2027-06-09  0")]
    [InlineData("31 May Founders’ day", "2027-05-31 2027-05-31 Founders’ day 0")]
    [InlineData("2 Aug to 13 Aug 2028 Summer closure", "2027-08-02 2028-08-13 Summer closure 0")]
    [InlineData("9–11 Jun Festival", "2027-06-09 2027-06-11 Festival 0")]
    [InlineData("2027-06-05 Regatta 10-22", "2027-06-05 2027-06-05 Regatta 720")]
    [InlineData("Sat 5 Jun 10-12, 13-14", "2027-06-05 2027-06-05  180")]
    public void Days_that_differ_are_read_as_people_type_them(string text, string read)
    {
        Assert.True(DayOffText.TryParse(text, new(2027, 5, 13), out var days, out var problem), problem);
        Assert.Equal(read, $"{days.From:yyyy-MM-dd} {days.To:yyyy-MM-dd} {days.Name} {days.Work.Sum(w => w.End - w.Start)}");
    }

    [Theory]
    [InlineData("Summer closure", "does not begin with a day")]
    [InlineData("5/6 Regatta", "could be read two ways")]
    [InlineData("5 Jun to 2 Jun 2027 Off", "The last day is before the first")]
    public void What_are_no_days_says_why(string text, string why)
    {
        Assert.False(DayOffText.TryParse(text, new(2027, 5, 13), out _, out var problem));
        Assert.Contains(why, problem, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("Mon 03/05", "2027-05-03")]
    [InlineData("Fri 03/05", "2027-03-05")]
    [InlineData("Wed 12 May", "2027-05-12")]
    [InlineData("Fri 12 May", "2028-05-12")]
    public void A_day_of_the_week_settles_a_date(string text, string read)
    {
        Assert.True(DateText.TryParse(text, new(2027, 5, 13), out var date, out var problem), problem);
        Assert.Equal(read, date.ToString());
        Assert.False(DateText.TryParse("Tue 12 May 2027", new(2027, 5, 13), out _, out problem));
        Assert.Contains("12 May 2027 is a Wednesday", problem, StringComparison.Ordinal);
    }
}
