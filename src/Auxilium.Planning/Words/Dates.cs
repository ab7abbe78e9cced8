using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;

namespace Auxilium.Planning.Words;

/// <summary>Dates as sentences say them: with their year where it is not this one.</summary>
public static class Dates
{
    private static readonly AsyncLocal<int> ThisYear = new();

    /// <summary>
    /// Says which day it is to whatever is worked out from here on, in this and no other flow of work. Where nobody says it, years are
    /// left out.
    /// </summary>
    public static void SpeakOn(DateOnly today) => ThisYear.Value = today.Year;

    public static string Day(PlanTime time) => Day(time.Date);

    /// <summary>A finish at midnight belongs to the day it ends.</summary>
    public static string FinishDay(PlanTime time) => Day(time.LastDate);

    public static string Day(DateOnly date) => $"{date.ToString("ddd", CultureInfo.InvariantCulture)} {ShortDay(date)}";

    /// <summary>Without the day of the week, for where there is little room.</summary>
    public static string ShortDay(DateOnly date) =>
        date.ToString(ThisYear.Value == 0 || date.Year == ThisYear.Value ? "d MMM" : "d MMM yyyy", CultureInfo.InvariantCulture);
}
