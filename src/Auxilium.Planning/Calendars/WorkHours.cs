namespace Auxilium.Planning.Calendars;

/// <summary>The hours between which a calendar works.</summary>
public static class WorkHours
{
    /// <summary>
    /// From the earliest start to the latest end of work in the four weeks from a date, in minutes of the day; all of it if there is none.
    /// </summary>
    public static (int Start, int End) Of(WorkTime calendar, PlanTime from)
    {
        var work = Enumerable.Range(0, 28).SelectMany(day => calendar.On(from.Date.AddDays(day))).ToList();
        return work.Count == 0 ? (0, PlanTime.MinutesPerDay) : (work.Min(hours => hours.Start), work.Max(hours => hours.End));
    }
}
