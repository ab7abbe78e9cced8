using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>Where the work of a started, unfinished task stands (rule F4).</summary>
internal static class InProgressWork
{
    /// <summary>Whether what is left waits for the status date, and the point the done work reaches.</summary>
    public static bool IsMoved(ProjectSettings project, PlanTask task, WorkTime calendar, int length, out PlanTime reached)
    {
        reached = default;
        if (!project.MoveUnfinishedWork || project.StatusDate is not { } status) return false;
        reached = calendar.Add(task.ActualStart!.Value, length - Left(task, length));
        return status > reached;
    }

    public static PlanTime Finish(ProjectSettings project, PlanTask task, WorkTime calendar, int length) =>
        IsMoved(project, task, calendar, length, out _)
            ? calendar.Add(project.StatusDate!.Value, Left(task, length))
            : calendar.Add(task.ActualStart!.Value, length);

    /// <summary>Minutes left, to the minute half up.</summary>
    private static int Left(PlanTask task, int length) => (int)Math.Floor(length * (1 - task.Progress) + 0.5m);
}
