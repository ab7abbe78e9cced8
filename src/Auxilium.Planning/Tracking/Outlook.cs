using System.Runtime.CompilerServices;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Tracking;

/// <summary>
/// When a plan finishes if the remaining work starts today. Unfinished work that lies in the past counts as done in the dates of a plan,
/// until somebody moves it: this says what that hides.
/// </summary>
/// <param name="Finish">When the project finishes then.</param>
/// <param name="Spare">Working minutes from there to its deadline, negative when late; <c>null</c> without a deadline.</param>
public sealed record Outlook(PlanTime Finish, WorkMinutes? Spare)
{
    private static readonly ConditionalWeakTable<Schedule, Known> Worked = [];

    private sealed record Known(DateOnly Today, Outlook? Outlook);

    /// <summary>The outlook on a day; <c>null</c> where no unfinished work lies before it.</summary>
    public static Outlook? Of(Schedule schedule, DateOnly today)
    {
        if (Worked.TryGetValue(schedule, out var known) && known.Today == today)
            return known.Outlook;
        var outlook = LiesBehind(schedule, PlanTime.On(today)) ? WorkOut(schedule, today) : null;
        Worked.AddOrUpdate(schedule, new Known(today, outlook));
        return outlook;
    }

    private static bool LiesBehind(Schedule schedule, PlanTime dawn)
    {
        if (schedule.Plan.Project is { MoveUnfinishedWork: true, StatusDate: { } status } && status >= dawn)
            return false;
        for (var row = 0; row < schedule.Plan.Index.Count; row++)
        {
            if (!schedule.IsLeaf(row) || schedule.StartOf(row) >= dawn)
                continue;
            var task = schedule.Plan.Tasks[row];
            if (!task.IsFinished && (!task.IsStarted || schedule.ReachedOf(row) < dawn))
                return true;
        }
        return false;
    }

    private static Outlook? WorkOut(Schedule schedule, DateOnly today)
    {
        var project = schedule.Plan.Project;
        try
        {
            // Worked out from its finish, a plan goes forward from the start that results.
            var moved = Scheduler.Calculate(
                schedule.Plan with
                {
                    Project = project with
                    {
                        ScheduleFrom = ScheduleFrom.Start,
                        Start = schedule.Start,
                        StatusDate = PlanTime.On(today),
                        MoveUnfinishedWork = true,
                    },
                }
            );
            return moved.Finish > schedule.Finish ? new Outlook(moved.Finish, Ripple.Spare(moved)) : null;
        }
        catch (UnsoundPlanException)
        {
            return null;
        }
    }
}
