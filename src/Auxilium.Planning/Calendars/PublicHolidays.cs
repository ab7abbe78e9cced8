namespace Auxilium.Planning.Calendars;

/// <summary>The public holidays of a country, worked out by rule for any year.</summary>
public sealed class HolidaySet
{
    private readonly Func<int, IEnumerable<(DateOnly Day, string Name)>> _rule;

    internal HolidaySet(string id, string name, Func<int, IEnumerable<(DateOnly Day, string Name)>> rule) =>
        (Id, Name, _rule) = (id, name, rule);

    /// <summary>Such as <c>ireland</c>.</summary>
    public string Id { get; }

    /// <summary>Such as <c>Ireland</c>.</summary>
    public string Name { get; }

    /// <summary>Days off in the years from the first to the last, in order.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The years are not within 1990 to 2100, or the last is before the first.</exception>
    public IEnumerable<CalendarOverride> Between(int firstYear, int lastYear)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(firstYear, 1990);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(lastYear, 2100);
        ArgumentOutOfRangeException.ThrowIfLessThan(lastYear, firstYear);
        return Enumerable
            .Range(firstYear, lastYear - firstYear + 1)
            .SelectMany(_rule)
            .OrderBy(h => h.Day)
            .Select(h => new CalendarOverride(h.Day, h.Day, h.Name, []));
    }
}

/// <summary>The sets there are. National holidays only: regions have more of their own.</summary>
public static class PublicHolidays
{
    public static IReadOnlyList<HolidaySet> Sets { get; } =
    [
        new("england", "England and Wales", England),
        new("france", "France", France),
        new("germany", "Germany", Germany),
        new("ireland", "Ireland", Ireland),
        new("netherlands", "Netherlands", Netherlands),
        new("usa", "United States", UnitedStates),
    ];

    /// <summary>Easter Sunday by the Gregorian calendar (the anonymous algorithm of 1876).</summary>
    public static DateOnly Easter(int year)
    {
        var golden = year % 19;
        var (century, ofCentury) = Math.DivRem(year, 100);
        var epact = (19 * golden + century - century / 4 - (century - (century + 8) / 25 + 1) / 3 + 15) % 30;
        var weekday = (32 + 2 * (century % 4) + 2 * (ofCentury / 4) - epact - ofCentury % 4) % 7;
        var late = (golden + 11 * epact + 22 * weekday) / 451;
        var (month, day) = Math.DivRem(epact + weekday - 7 * late + 114, 31);
        return new DateOnly(year, month, day + 1);
    }

    private static IEnumerable<(DateOnly, string)> England(int year)
    {
        var christmas = new DateOnly(year, 12, 25);
        yield return (AfterWeekend(new(year, 1, 1)), "New Year’s Day");
        yield return (Easter(year).AddDays(-2), "Good Friday");
        yield return (Easter(year).AddDays(1), "Easter Monday");
        yield return (Nth(year, 5, DayOfWeek.Monday, 1), "Early May holiday");
        yield return (Last(year, 5, DayOfWeek.Monday), "Spring holiday");
        yield return (Last(year, 8, DayOfWeek.Monday), "Summer holiday");
        // One that falls on a weekend is made up for after the other.
        var (first, second) = christmas.DayOfWeek switch
        {
            DayOfWeek.Friday => (christmas, christmas.AddDays(3)),
            DayOfWeek.Saturday => (christmas.AddDays(2), christmas.AddDays(3)),
            DayOfWeek.Sunday => (christmas.AddDays(2), christmas.AddDays(1)),
            _ => (christmas, christmas.AddDays(1)),
        };
        yield return (first, "Christmas Day");
        yield return (second, "Boxing Day");
    }

    private static IEnumerable<(DateOnly, string)> France(int year)
    {
        yield return (new(year, 1, 1), "New Year’s Day");
        yield return (Easter(year).AddDays(1), "Easter Monday");
        yield return (new(year, 5, 1), "Labour Day");
        yield return (new(year, 5, 8), "Victory Day");
        yield return (Easter(year).AddDays(39), "Ascension Day");
        yield return (Easter(year).AddDays(50), "Whit Monday");
        yield return (new(year, 7, 14), "National Day");
        yield return (new(year, 8, 15), "Assumption");
        yield return (new(year, 11, 1), "All Saints’ Day");
        yield return (new(year, 11, 11), "Armistice Day");
        yield return (new(year, 12, 25), "Christmas Day");
    }

    private static IEnumerable<(DateOnly, string)> Germany(int year)
    {
        yield return (new(year, 1, 1), "New Year’s Day");
        yield return (Easter(year).AddDays(-2), "Good Friday");
        yield return (Easter(year).AddDays(1), "Easter Monday");
        yield return (new(year, 5, 1), "Labour Day");
        yield return (Easter(year).AddDays(39), "Ascension Day");
        yield return (Easter(year).AddDays(50), "Whit Monday");
        yield return (new(year, 10, 3), "Unity Day");
        yield return (new(year, 12, 25), "Christmas Day");
        yield return (new(year, 12, 26), "Second Christmas Day");
    }

    private static IEnumerable<(DateOnly, string)> Ireland(int year)
    {
        yield return (new(year, 1, 1), "New Year’s Day");
        var brigid = new DateOnly(year, 2, 1);
        yield return (brigid.DayOfWeek == DayOfWeek.Friday ? brigid : Nth(year, 2, DayOfWeek.Monday, 1), "St Brigid’s Day");
        yield return (new(year, 3, 17), "St Patrick’s Day");
        yield return (Easter(year).AddDays(1), "Easter Monday");
        yield return (Nth(year, 5, DayOfWeek.Monday, 1), "May holiday");
        yield return (Nth(year, 6, DayOfWeek.Monday, 1), "June holiday");
        yield return (Nth(year, 8, DayOfWeek.Monday, 1), "August holiday");
        yield return (Last(year, 10, DayOfWeek.Monday), "October holiday");
        yield return (new(year, 12, 25), "Christmas Day");
        yield return (new(year, 12, 26), "St Stephen’s Day");
    }

    private static IEnumerable<(DateOnly, string)> Netherlands(int year)
    {
        yield return (new(year, 1, 1), "New Year’s Day");
        yield return (Easter(year).AddDays(1), "Easter Monday");
        var king = new DateOnly(year, 4, 27);
        yield return (king.DayOfWeek == DayOfWeek.Sunday ? king.AddDays(-1) : king, "King’s Day");
        yield return (Easter(year).AddDays(39), "Ascension Day");
        yield return (Easter(year).AddDays(50), "Whit Monday");
        yield return (new(year, 12, 25), "Christmas Day");
        yield return (new(year, 12, 26), "Second Christmas Day");
    }

    private static IEnumerable<(DateOnly, string)> UnitedStates(int year)
    {
        yield return (Observed(new(year, 1, 1)), "New Year’s Day");
        yield return (Nth(year, 1, DayOfWeek.Monday, 3), "Martin Luther King Jr. Day");
        yield return (Nth(year, 2, DayOfWeek.Monday, 3), "Washington’s Birthday");
        yield return (Last(year, 5, DayOfWeek.Monday), "Memorial Day");
        yield return (Observed(new(year, 6, 19)), "Juneteenth");
        yield return (Observed(new(year, 7, 4)), "Independence Day");
        yield return (Nth(year, 9, DayOfWeek.Monday, 1), "Labor Day");
        yield return (Nth(year, 10, DayOfWeek.Monday, 2), "Columbus Day");
        yield return (Observed(new(year, 11, 11)), "Veterans Day");
        yield return (Nth(year, 11, DayOfWeek.Thursday, 4), "Thanksgiving Day");
        yield return (Observed(new(year, 12, 25)), "Christmas Day");
    }

    private static DateOnly AfterWeekend(DateOnly day) =>
        day.DayOfWeek switch
        {
            DayOfWeek.Saturday => day.AddDays(2),
            DayOfWeek.Sunday => day.AddDays(1),
            _ => day,
        };

    private static DateOnly Observed(DateOnly day) =>
        day.DayOfWeek switch
        {
            DayOfWeek.Saturday => day.AddDays(-1),
            DayOfWeek.Sunday => day.AddDays(1),
            _ => day,
        };

    private static DateOnly Nth(int year, int month, DayOfWeek weekday, int n)
    {
        var first = new DateOnly(year, month, 1);
        return first.AddDays(((int)weekday - (int)first.DayOfWeek + 7) % 7 + 7 * (n - 1));
    }

    private static DateOnly Last(int year, int month, DayOfWeek weekday)
    {
        var last = new DateOnly(year, month, 1).AddMonths(1).AddDays(-1);
        return last.AddDays(-(((int)last.DayOfWeek - (int)weekday + 7) % 7));
    }
}
