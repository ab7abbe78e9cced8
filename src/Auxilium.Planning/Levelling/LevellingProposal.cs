using System.Collections.Immutable;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Load;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Levelling;

/// <summary>A task that levelling would move.</summary>
/// <param name="Task">Id of the task.</param>
/// <param name="Before">Where it stands.</param>
/// <param name="After">Where it would stand.</param>
/// <param name="IsDelayed">It would be delayed itself; else what comes before it moves it.</param>
/// <param name="Reason">Why, in a sentence.</param>
public sealed record LevelledTask(string Task, Segment Before, Segment After, bool IsDelayed, string Reason);

/// <summary>By how much somebody is overbooked, in minutes, and on how many days.</summary>
public sealed record OverbookedPerson(string Person, decimal Before, decimal After, int DaysBefore, int DaysAfter);

/// <summary>What levelling proposes; nothing is changed by it.</summary>
/// <param name="Delays">What it delays, to be made with <see cref="DelayTasks"/>; empty where it finds nothing better.</param>
/// <param name="After">The plan as it would be.</param>
/// <param name="Moved">All tasks that it would move, in the order of the list.</param>
/// <param name="People">Those who were to be levelled, and are or would be overbooked.</param>
/// <param name="Ripple">What it would move, and what that would do to the finish.</param>
/// <param name="Unsolved">Days that would still be overbooked: moving tasks alone does not help there.</param>
/// <param name="Restarts">How often it began anew.</param>
public sealed record LevellingProposal(
    ImmutableArray<TaskDelay> Delays,
    Schedule After,
    ImmutableArray<LevelledTask> Moved,
    ImmutableArray<OverbookedPerson> People,
    Ripple Ripple,
    ImmutableArray<OverbookedDay> Unsolved,
    int Restarts
);
