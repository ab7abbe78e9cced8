using System.Globalization;
using Auxilium.Planning.Calendars;

namespace Auxilium.Planning.Editing;

/// <summary>Dates as sentences say them.</summary>
public static class Dates
{
    public static string Day(PlanTime time) => Day(time.Date);

    /// <summary>A finish at midnight belongs to the day it ends.</summary>
    public static string FinishDay(PlanTime time) => Day(time.LastDate);

    public static string Day(DateOnly date) => date.ToString("ddd d MMM", CultureInfo.InvariantCulture);
}
