using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>
/// A change to a plan as somebody means it. Every change there is, from a keystroke to an import, is one of these; each is
/// applied by <see cref="PlanEditor"/> and can be taken back by the inverse that gives.
/// </summary>
public abstract record PlanEdit;

/// <summary>A new row after the sibling <paramref name="After"/> (first in its phase when <c>null</c>).</summary>
public sealed record AddTask(string Id, string Name, string? Parent = null, string? After = null) : PlanEdit;

/// <summary>Takes rows out, with all rows inside them and every link of theirs.</summary>
public sealed record RemoveTasks(ImmutableArray<string> Tasks) : PlanEdit;

/// <summary>Puts removed rows back where they were: each task with the sibling it stood after, and their links.</summary>
public sealed record RestoreTasks(ImmutableArray<RestoredTask> Tasks, ImmutableArray<RestoredLink> Links) : PlanEdit;

public sealed record RestoredTask(PlanTask Task, string? After);

/// <param name="Position">Where it stood among all links of the plan.</param>
public sealed record RestoredLink(PlanLink Link, int Position);

public sealed record RenameTask(string Task, string Name) : PlanEdit;

/// <param name="Length">Zero or more, at most ten years.</param>
public sealed record SetLength(string Task, TypedLength Length) : PlanEdit;

/// <summary>Names the owner as typed: the name, initials or id of a known person, or the name of a new one; empty for nobody.</summary>
public sealed record SetOwner(string Task, string? Owner) : PlanEdit;

/// <summary>Exactly these people, the owner first.</summary>
public sealed record SetAssignments(string Task, ImmutableArray<Assignment> Assignments) : PlanEdit;

public sealed record JoinPlan(Person Person) : PlanEdit;

/// <summary>Takes a person off the plan, unless something is still assigned to them.</summary>
public sealed record LeavePlan(string Person) : PlanEdit;

/// <summary>Sets what comes before a task from text such as <c>after 4, 2.1 + 2d</c>.</summary>
/// <param name="Rows">Which task each row number meant to the person who typed it; without it, the numbers of the plan as it is.</param>
public sealed record TypePredecessors(string Task, string After, ImmutableDictionary<string, string>? Rows = null) : PlanEdit;

/// <summary>Sets exactly which tasks come before a task.</summary>
public sealed record SetPredecessors(string Task, ImmutableArray<Predecessor> Links) : PlanEdit;

/// <param name="Position">Where the link stands among all links of the plan; at the end when left out.</param>
public sealed record Predecessor(string From, Length Lag, int? Position = null);

/// <summary>The row goes into the row above it at its level, with all that is inside it.</summary>
public sealed record IndentTask(string Task) : PlanEdit;

/// <summary>The row goes one level up where it stands; the rows after it in its phase become its own.</summary>
public sealed record OutdentTask(string Task) : PlanEdit;

/// <summary>Moves a row, with all that is inside it, after a sibling (first in its phase when <c>null</c>).</summary>
public sealed record MoveTask(string Task, string? Parent, string? After) : PlanEdit;

/// <summary>Makes a task a milestone, or a milestone a task of the given length (a guessed day when left out).</summary>
public sealed record SetMilestone(string Task, bool On, TypedLength? Length = null) : PlanEdit;

/// <summary>The task has started: on that day, or as planned if that has passed, else today.</summary>
public sealed record StartTask(string Task, DateOrTime? On = null) : PlanEdit;

/// <param name="Progress">0 to 1. Above 0 the task has started, at 1 it has finished, at 0 neither.</param>
public sealed record ReportProgress(string Task, decimal Progress) : PlanEdit;

/// <summary>The task is done: on that day, or as planned if that has passed, else today.</summary>
public sealed record FinishTask(string Task, DateOrTime? On = null) : PlanEdit;

/// <summary>Sets progress and actual dates exactly.</summary>
public sealed record SetTracking(string Task, decimal Progress, PlanTime? ActualStart, PlanTime? ActualFinish) : PlanEdit;

/// <summary>
/// Puts a task on a day, by hand or by dragging its bar. Not pinned: it goes <em>not before</em> that day and still follows its
/// links; on a day its links do not reach back to, they alone decide. Pinned: it stays there whatever its links say. A task that
/// has started gets the day as its actual start. Without a day the task is free again.
/// </summary>
public sealed record PlaceTask(string Task, DateOrTime? Start, bool Pin = false) : PlanEdit;

/// <summary>Sets a task's fixed dates exactly.</summary>
public sealed record SetFixedDates(string Task, PinnedDates? Pinned, DateConstraint? Constraint) : PlanEdit;

/// <summary>The day a task finishes: its length follows from it; of a finished task, its actual finish.</summary>
public sealed record SetFinish(string Task, DateOrTime Finish) : PlanEdit;

public sealed record RenameProject(string Name) : PlanEdit;

public sealed record SetProjectStart(DateOrTime Start) : PlanEdit;

public sealed record SetFinishBy(DateOrTime? FinishBy) : PlanEdit;

/// <summary>Several edits as one: all are applied, or none.</summary>
public sealed record Together(ImmutableArray<PlanEdit> Edits) : PlanEdit;
