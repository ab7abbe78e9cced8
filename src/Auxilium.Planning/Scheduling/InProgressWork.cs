using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>Where the work of a started, unfinished task stands (rules F4, L3).</summary>
/// <param name="Done">Working minutes done.</param>
/// <param name="Left">Working minutes left.</param>
/// <param name="Reached">The point the done work reaches.</param>
/// <param name="Moved">Whether what is left waits for the status date.</param>
/// <param name="Finish">When all is done.</param>
internal readonly record struct InProgressWork(int Done, int Left, PlanTime Reached, bool Moved, PlanTime Finish)
{
    /// <param name="project">The settings of its project.</param>
    /// <param name="task">A task with an actual start and no actual finish.</param>
    /// <param name="calendar">Its effective calendar.</param>
    /// <param name="length">Its length in working minutes.</param>
    public static InProgressWork Of(ProjectSettings project, PlanTask task, WorkTime calendar, int length)
    {
        var units = project.Units;
        var start = task.ActualStart!.Value;
        // To the minute, half up; what is left of the length by its progress unless somebody said what is.
        var byProgress = (int)Math.Floor(length * (1 - task.Progress) + 0.5m);
        var done = length - byProgress;
        var left = task.Remaining is { } remaining ? units.Minutes(remaining).Count : byProgress;
        var reached = calendar.Add(start, done + Pauses.Within(units, task, done));
        if (project is { MoveUnfinishedWork: true, StatusDate: { } status } && status > reached)
            return new(done, left, reached, true, calendar.Add(status, left + Pauses.Between(units, task, done, done + left)));
        return new(done, left, reached, false, calendar.Add(start, done + left + Pauses.Within(units, task, done + left)));
    }
}
