using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>The effective calendar of every leaf by row (rule T5), looked up once.</summary>
internal static class TaskCalendars
{
    private const int YearsToFindWork = 20;

    /// <exception cref="UnsoundPlanException">A task's calendar has no working minute in 20 years from the project start.</exception>
    public static WorkTime[] Of(Plan plan)
    {
        var project = plan.ProjectCalendar;
        var peopleHaveCalendars = plan.People.Any(p => p.Calendar is not null);
        var calendars = new WorkTime[plan.Index.Count];
        var usable = new HashSet<WorkTime>(ReferenceEqualityComparer.Instance);
        for (var row = 0; row < calendars.Length; row++)
        {
            var task = plan.Tasks[row];
            var plain = task is { AroundTheClock: false, Calendar: null } && (!peopleHaveCalendars || task.Owner is null);
            var calendar = plain ? project : plan.EffectiveCalendar(task);
            calendars[row] = calendar;
            if (plan.Index.IsPhase(row) || (row > 0 && ReferenceEquals(calendar, calendars[row - 1])) || !usable.Add(calendar)) continue;
            if (calendar.Between(plan.Project.Start, LookAheadFrom(plan.Project.Start)) == 0) throw NoWork(plan, row);
        }
        return calendars;
    }

    private static PlanTime LookAheadFrom(PlanTime start) => PlanTime.FromDateTime(start.ToDateTime().AddYears(YearsToFindWork));

    private static UnsoundPlanException NoWork(Plan plan, int row) =>
        new([PlanProblem.About(
            "noWorkingTime",
            $"{LinkRules.Named(plan, row)} has no working time in the {YearsToFindWork} years from the project start: give its calendar, or its owner's, some working days that meet.",
            plan.Tasks[row].Id)]);
}
