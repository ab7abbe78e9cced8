using Auxilium.Planning.Calendars;

namespace Auxilium.Planning.Tests.Calendars;

public class HolidayTests
{
    [Theory]
    [InlineData(1990, "1990-04-15")]
    [InlineData(2000, "2000-04-23")]
    [InlineData(2008, "2008-03-23")]
    [InlineData(2024, "2024-03-31")]
    [InlineData(2027, "2027-03-28")]
    [InlineData(2038, "2038-04-25")]
    [InlineData(2049, "2049-04-18")]
    [InlineData(2100, "2100-03-28")]
    public void Easter_falls_on_its_Sunday(int year, string day) => Assert.Equal(day, $"{PublicHolidays.Easter(year):yyyy-MM-dd}");

    [Theory]
    [InlineData("england", 2027, "01-01 03-26 03-29 05-03 05-31 08-30 12-27 12-28")]
    [InlineData("england", 2022, "01-03 04-15 04-18 05-02 05-30 08-29 12-26 12-27")]
    [InlineData("england", 2020, "01-01 04-10 04-13 05-04 05-25 08-31 12-25 12-28")]
    [InlineData("ireland", 2027, "01-01 02-01 03-17 03-29 05-03 06-07 08-02 10-25 12-25 12-26")]
    [InlineData("germany", 2027, "01-01 03-26 03-29 05-01 05-06 05-17 10-03 12-25 12-26")]
    [InlineData("france", 2024, "01-01 04-01 05-01 05-08 05-09 05-20 07-14 08-15 11-01 11-11 12-25")]
    [InlineData("netherlands", 2025, "01-01 04-21 04-26 05-29 06-09 12-25 12-26")]
    [InlineData("usa", 2026, "01-01 01-19 02-16 05-25 06-19 07-03 09-07 10-12 11-11 11-26 12-25")]
    public void A_year_has_the_days_off_that_it_really_has(string set, int year, string days) =>
        Assert.Equal(days, string.Join(' ', Set(set).Between(year, year).Select(h => $"{h.From:MM-dd}")));

    [Fact]
    public void A_calendar_with_them_does_not_work_on_them()
    {
        var calendar = WorkCalendar.Weekdays with { Exceptions = [.. Set("england").Between(2027, 2028)] };
        var work = new CalendarBook([calendar]).WorkTimeOf("weekdays");
        Assert.Equal((0, 480), (work.WorkedOn(new(2027, 3, 26)), work.WorkedOn(new(2027, 3, 25))));
    }

    [Fact]
    public void Ready_made_calendars_all_have_working_time_and_their_own_names()
    {
        var book = new CalendarBook([.. ReadyMadeCalendars.All]);
        Assert.All(ReadyMadeCalendars.All, c =>
            Assert.True(book.WorkTimeOf(c.Id).Between(PlanTime.At(2027, 5, 3), PlanTime.At(2027, 5, 10)) > 0)
        );
        Assert.Equal(ReadyMadeCalendars.All.Count, ReadyMadeCalendars.All.Select(c => c.Name).Distinct().Count());
    }

    private static HolidaySet Set(string id) => PublicHolidays.Sets.Single(s => s.Id == id);
}
