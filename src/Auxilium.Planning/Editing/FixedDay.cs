using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>
/// The instant of a day that a person fixes without a time. On a day off, what takes no time stands on that day at the hours of the next
/// working day; work that goes not after it is done by the end of the working day before.
/// </summary>
internal static class FixedDay
{
    /// <summary>The instant at which a task is to start, or, where it is not to start after the day, is to start at the latest.</summary>
    public static PlanTime Start(Plan plan, PlanTask task, DateOrTime day, bool isLatest = false)
    {
        var calendar = plan.EffectiveCalendar(task);
        if (!IsOff(day, calendar))
            return day.AsStart(calendar);
        if (TakesNoTime(plan, task))
            return On(day, NextWorkingDay(day, calendar).AsStart(calendar));
        return isLatest ? new DateOrTime(calendar.Prev(PlanTime.On(day.Date)).LastDate).AsStart(calendar) : day.AsStart(calendar);
    }

    /// <summary>
    /// The instant by which a task is to finish, or, where it is not to finish after the day, is to finish at the latest.
    /// </summary>
    public static PlanTime Finish(Plan plan, PlanTask task, DateOrTime day, bool isLatest = false)
    {
        var calendar = plan.EffectiveCalendar(task);
        if (!IsOff(day, calendar))
            return day.AsFinish(calendar);
        if (TakesNoTime(plan, task))
            return On(day, NextWorkingDay(day, calendar).AsFinish(calendar));
        return isLatest ? calendar.Prev(PlanTime.On(day.Date)) : day.AsFinish(calendar);
    }

    private static bool IsOff(DateOrTime day, WorkTime calendar) => day.Minute is null && calendar.On(day.Date).Count == 0;

    private static bool TakesNoTime(Plan plan, PlanTask task) => plan.LengthOf(task).Count == 0;

    private static DateOrTime NextWorkingDay(DateOrTime day, WorkTime calendar) => new(calendar.Next(PlanTime.On(day.Date)).Date);

    private static PlanTime On(DateOrTime day, PlanTime like) => PlanTime.On(day.Date, (like.Minutes - 1) % PlanTime.MinutesPerDay + 1);
}
