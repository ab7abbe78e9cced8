using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Storage.Rows;

namespace Auxilium.Web;

/// <summary>The working days of the organisation, which its new plans go by.</summary>
internal static class OrganisationCalendar
{
    /// <summary>Public holidays are entered for this year and so many more.</summary>
    private const int HolidayYears = 3;

    /// <summary>A plan without calendars of its own, by the working days of the organisation.</summary>
    public static Plan Of(Plan plan, OrganisationRow? settings, DateOnly today)
    {
        if (settings is null || (settings.Calendar == WorkCalendar.Weekdays.Id && settings.Holidays is null))
            return plan;
        var week = ReadyMadeCalendars.All.FirstOrDefault(c => c.Id == settings.Calendar) ?? WorkCalendar.Weekdays;
        var holidays = PublicHolidays.Sets.FirstOrDefault(set => set.Id == settings.Holidays);
        var calendar = week with
        {
            Id = "organisation",
            Name = holidays is null ? week.Name : $"{week.Name}, holidays of {holidays.Name}",
            Exceptions = holidays is null ? [] : [.. holidays.Between(today.Year, Math.Min(today.Year + HolidayYears, 2100))],
        };
        return plan with { Calendars = [calendar], Project = plan.Project with { Calendar = calendar.Id } };
    }
}
