using System.Collections.Immutable;
using Auxilium.Planning.Calendars;

namespace Auxilium.Planning.Plans;

/// <summary>One of the two ends of a task.</summary>
public enum TaskEnd
{
    Start,
    Finish,
}

/// <summary>Reminds people of a task.</summary>
/// <param name="Days">So many days before, 0 to 365; 0 for the day itself.</param>
/// <param name="Before">Before which end of the task.</param>
/// <param name="People">Ids of whom; empty for whoever works on the task.</param>
public readonly record struct Reminder(int Days, TaskEnd Before, ImmutableArray<string> People = default)
{
    /// <summary>A task has at most this many.</summary>
    public const int Most = 10;

    /// <summary>It comes at most this many days before.</summary>
    public const int MostDays = 365;

    /// <summary>The day it is due, for a task with these dates.</summary>
    public DateOnly DayFor(PlanTime start, PlanTime finish) =>
        (Before == TaskEnd.Start ? start.Date : finish.LastDateFrom(start)).AddDays(-Days);

    /// <summary>“2 days before the start”</summary>
    public string InWords() =>
        Days switch
        {
            0 => $"on the day of the {End}",
            1 => $"1 day before the {End}",
            _ => $"{Days} days before the {End}",
        };

    private string End => Before == TaskEnd.Start ? "start" : "finish";
}
