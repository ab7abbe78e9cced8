using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;

namespace Auxilium.Web;

/// <summary>The working days of the organisation, which its new plans go by.</summary>
internal static class OrganisationCalendar
{
    /// <summary>A plan without calendars of its own, by the working days of the organisation.</summary>
    public static Plan Of(Plan plan, OrganisationRow? settings, DateOnly today)
    {
        if (settings is null || (settings.Calendar == WorkCalendar.Weekdays.Id && settings.Holidays is null))
            return plan;
        var calendar = WorkingDays.Of(settings, today) with { Id = "organisation" };
        return plan with { Calendars = [calendar], Project = plan.Project with { Calendar = calendar.Id } };
    }
}
