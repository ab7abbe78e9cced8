using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>How long a task's work is interrupted (rule L3), in working minutes of its effective calendar.</summary>
internal static class Pauses
{
    /// <summary>All pauses that come before so much work is done.</summary>
    public static int Within(WorkUnits units, PlanTask task, int work) => Between(units, task, 0, work);

    /// <summary>
    /// The pauses that come after more than <paramref name="from"/> and less than <paramref name="to"/> minutes of work.
    /// </summary>
    public static int Between(WorkUnits units, PlanTask task, int from, int to)
    {
        if (!task.IsSplit)
            return 0;
        var minutes = 0;
        foreach (var split in task.Splits)
            if (units.Minutes(split.After).Count is var after && after > from && after < to)
                minutes += units.Minutes(split.For).Count;
        return minutes;
    }
}
