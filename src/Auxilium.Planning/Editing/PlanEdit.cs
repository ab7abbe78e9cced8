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

/// <summary>
/// Copies rows, with all that is inside them and the links among them, to stand one after another after a sibling (first in the phase
/// when <c>null</c>). A copy has everything of its row but progress.
/// </summary>
/// <param name="Ids">Of the copies, row by row in the order of the plan; made up when left out.</param>
public sealed record CopyTasks(
    ImmutableArray<string> Tasks,
    string? Parent = null,
    string? After = null,
    ImmutableArray<string>? Ids = null
) : PlanEdit;

public sealed record RenameTask(string Task, string Name) : PlanEdit;

/// <param name="Length">Zero or more, at most ten years.</param>
public sealed record SetLength(string Task, TypedLength Length) : PlanEdit;

/// <summary>
/// Names the owner as typed: the name, initials or id of a known person, or the name of a new one; empty for nobody. Of several, with
/// commas between them, the first owns the task and the others help.
/// </summary>
public sealed record SetOwner(string Task, string? Owner) : PlanEdit;

/// <summary>
/// Exactly these people, the owner first. Where more hands make the work shorter, the length follows from how many they are; with a
/// length it is that, and <paramref name="Hands"/> is exactly what is given.
/// </summary>
/// <param name="Hands">What more hands do from now on; as it was when left out.</param>
public sealed record SetAssignments(string Task, ImmutableArray<Assignment> Assignments, MoreHands? Hands = null, Length? Length = null)
    : PlanEdit;

/// <summary>Somebody helps, named as an owner is; the first of all becomes the owner.</summary>
/// <param name="Share">Part of their time: above 0, at most 1.</param>
/// <param name="Hands">What more hands do from now on; as it was when left out.</param>
public sealed record AddHelper(string Task, string Helper, decimal Share = 1, MoreHands? Hands = null) : PlanEdit;

/// <summary>
/// A person's own week and days off, on top of the calendar they work by; none when <paramref name="Time"/> is left out.
/// </summary>
/// <param name="Time">Its id, name and base are of no account.</param>
public sealed record SetOwnTime(string Person, WorkCalendar? Time = null) : PlanEdit;

/// <param name="Person">Somebody on the plan; <c>null</c> for nobody.</param>
public sealed record SetCoordinator(string? Person) : PlanEdit;

/// <param name="Position">Where the person stands among those on the plan; at the end when left out.</param>
/// <param name="New">Whether the organisation did not know them before; decided when it is applied.</param>
/// <param name="Like">Who of the organisation has nearly the same name, of somebody new; decided when it is applied.</param>
public sealed record JoinPlan(Person Person, int? Position = null, bool New = false, string? Like = null) : PlanEdit;

/// <summary>Takes a person off the plan, unless something is still assigned to them.</summary>
public sealed record LeavePlan(string Person) : PlanEdit;

/// <summary>Sets what comes before a task from text such as <c>after 4, 2.1 + 2d</c>.</summary>
/// <param name="Rows">Which task each row number meant to the person who typed it; without it, the numbers of the plan as it is.</param>
public sealed record TypePredecessors(string Task, string After, ImmutableDictionary<string, string>? Rows = null) : PlanEdit;

/// <summary>Sets exactly which tasks come before a task.</summary>
public sealed record SetPredecessors(string Task, ImmutableArray<Predecessor> Links) : PlanEdit;

/// <param name="Position">Where the link stands among all links of the plan; at the end when left out.</param>
public sealed record Predecessor(
    string From,
    Length Lag,
    int? Position = null,
    LinkKind Kind = LinkKind.FinishToStart,
    bool Elapsed = false
);

/// <summary>Links two tasks, or changes the link between them: what is left out stays as it is.</summary>
/// <param name="Kind">Finish to start when left out of a new link.</param>
/// <param name="Lag">None when left out of a new link; negative is a lead.</param>
/// <param name="Elapsed">Whether the lag is counted by the clock; not when left out of a new link.</param>
/// <param name="Position">Where a new link stands among all links of the plan; at the end when left out.</param>
public sealed record LinkTasks(
    string From,
    string To,
    LinkKind? Kind = null,
    Length? Lag = null,
    bool? Elapsed = null,
    int? Position = null
) : PlanEdit;

/// <summary>Takes the link between two tasks away.</summary>
public sealed record UnlinkTasks(string From, string To) : PlanEdit;

/// <summary>The row goes into the row above it at its level, with all that is inside it.</summary>
public sealed record IndentTask(string Task) : PlanEdit;

/// <summary>The row goes one level up where it stands; the rows after it in its phase become its own.</summary>
public sealed record OutdentTask(string Task) : PlanEdit;

/// <summary>Moves a row, with all that is inside it, after a sibling (first in its phase when <c>null</c>).</summary>
public sealed record MoveTask(string Task, string? Parent, string? After) : PlanEdit;

/// <summary>Makes a task a milestone, or a milestone a task.</summary>
/// <param name="Length">
/// Of a task: what it takes; left out, what it took before it was a milestone, or a guessed day. Of a milestone: what it took before;
/// nothing
/// where that is not known.
/// </param>
public sealed record SetMilestone(string Task, bool On, TypedLength? Length = null) : PlanEdit;

/// <summary>The task has started: on that day, or as planned if that has passed, else today.</summary>
public sealed record StartTask(string Task, DateOrTime? On = null) : PlanEdit;

/// <param name="Progress">0 to 1. Above 0 the task has started, at 1 it has finished, at 0 neither.</param>
public sealed record ReportProgress(string Task, decimal Progress) : PlanEdit;

/// <summary>The task is done: on that day, or as planned if that has passed, else today.</summary>
public sealed record FinishTask(string Task, DateOrTime? On = null) : PlanEdit;

/// <summary>The task is not done after all: it is as far as it was before it was done.</summary>
public sealed record ReopenTask(string Task) : PlanEdit;

/// <summary>Work left of a task that has started; <c>null</c> for what its length and progress say.</summary>
public sealed record SetRemaining(string Task, Length? Remaining) : PlanEdit;

/// <summary>Sets progress, actual dates and work left exactly.</summary>
/// <param name="Before">Of what is done: how far it was before.</param>
public sealed record SetTracking(
    string Task,
    decimal Progress,
    PlanTime? ActualStart,
    PlanTime? ActualFinish,
    Length? Remaining = null,
    TrackedBefore? Before = null
) : PlanEdit;

/// <summary>
/// Puts a task on a day, by hand or by dragging its bar. Not pinned: it goes <em>not before</em> that day and still follows its
/// links; on a day its links do not reach back to, they alone decide. (Worked out from the finish: <em>not after</em>, the same way.)
/// Pinned: it stays there whatever its links say. A task that
/// has started gets the day as its actual start. Without a day the task is free again.
/// </summary>
public sealed record PlaceTask(string Task, DateOrTime? Start, bool Pin = false) : PlanEdit;

/// <summary>
/// Moves tasks, of phases those inside, by days of work: pinned ones stay pinned, others are placed as by <see cref="PlaceTask"/>. What
/// has started stays.
/// </summary>
/// <param name="Days">Other than 0, at most 2,000; negative for earlier.</param>
public sealed record ShiftTasks(ImmutableArray<string> Tasks, int Days) : PlanEdit;

/// <summary>Gives a task a fixed date of a kind, instead of any it had; without a kind it is free.</summary>
/// <param name="Date">Left out for the kinds that have none.</param>
public sealed record SetConstraint(string Task, ConstraintKind? Kind, DateOrTime? Date = null) : PlanEdit;

/// <summary>Pins a task to a start, and to a finish if given, whatever its links say.</summary>
public sealed record PinTask(string Task, DateOrTime Start, DateOrTime? Finish = null) : PlanEdit;

/// <summary>The day a task should be finished by; missing it moves nothing.</summary>
public sealed record SetDeadline(string Task, DateOrTime? Deadline) : PlanEdit;

/// <summary>The pauses in a task's work, in order.</summary>
public sealed record SetSplits(string Task, ImmutableArray<Split> Splits) : PlanEdit;

/// <summary>What is left of a task that has started goes on on a later day: until then it pauses where it is.</summary>
public sealed record ResumeTask(string Task, DateOrTime On) : PlanEdit;

/// <summary>The calendar a task works by, besides its owner's; <c>null</c> for none of its own.</summary>
public sealed record SetTaskCalendar(string Task, string? Calendar) : PlanEdit;

/// <summary>Whether a task's length counts every minute of the clock.</summary>
public sealed record SetAroundTheClock(string Task, bool On) : PlanEdit;

/// <summary>What a task takes at best, most likely and at worst, in that order; <c>null</c> for no range.</summary>
public sealed record SetEstimate(string Task, LengthEstimate? Estimate) : PlanEdit;

/// <summary>Whether a row, with all that is inside it, takes part in the plan.</summary>
public sealed record SetActive(string Task, bool On) : PlanEdit;

/// <summary>Sets a task's fixed dates exactly.</summary>
public sealed record SetFixedDates(string Task, PinnedDates? Pinned, DateConstraint? Constraint) : PlanEdit;

/// <summary>The day a task finishes: its length follows from it; of a finished task, its actual finish.</summary>
public sealed record SetFinish(string Task, DateOrTime Finish) : PlanEdit;

/// <summary>What there is to know about a task, in lines of text; empty for nothing.</summary>
public sealed record SetNote(string Task, string Note) : PlanEdit;

/// <summary>Whether a task is one of those that matter most.</summary>
public sealed record SetKey(string Task, bool On) : PlanEdit;

/// <param name="Colour">One of <see cref="TaskMarks.Colours"/>; <c>null</c> for none.</param>
public sealed record SetColour(string Task, string? Colour) : PlanEdit;

/// <summary>A word of one's own to gather tasks by; <c>null</c> or empty for none.</summary>
public sealed record SetLabel(string Task, string? Label) : PlanEdit;

/// <summary>The small steps of a task, in order.</summary>
public sealed record SetChecklist(string Task, ImmutableArray<ChecklistStep> Steps) : PlanEdit;

/// <summary>The pages and addresses that belong to a task, in order.</summary>
public sealed record SetReferences(string Task, ImmutableArray<Reference> References) : PlanEdit;

/// <param name="Priority">0 to 1000; 500 is usual.</param>
public sealed record SetPriority(string Task, int Priority) : PlanEdit;

/// <summary>
/// A task comes again by a rule: its row becomes a phase that holds an occurrence for each time, pinned to its day. Of a task that
/// repeats already only what differs changes: occurrences of the same day stay, others move to the day that takes its place, and what
/// a person did to one of them stays as it is.
/// </summary>
/// <param name="Rule">Without an end it goes to the finish of the project.</param>
/// <param name="Ids">Of the new occurrences; made up when left out.</param>
/// <param name="Drop">The occurrences that go; worked out when left out.</param>
public sealed record RepeatTask(string Task, RepeatRule Rule, ImmutableArray<string>? Ids = null, ImmutableArray<string>? Drop = null)
    : PlanEdit;

/// <summary>A repeating task goes on by its rule, up to a day, or to the finish of the project.</summary>
/// <param name="Ids">Of the new occurrences; made up when left out.</param>
public sealed record ExtendSeries(string Task, DateOrTime? Until = null, ImmutableArray<string>? Ids = null) : PlanEdit;

/// <summary>A repeating task ends where it does, though the project goes on.</summary>
public sealed record KeepSeries(string Task) : PlanEdit;

/// <summary>Sets the rule that a phase keeps exactly; without one its rows are rows like any others.</summary>
public sealed record SetRepeat(string Task, RepeatRule? Rule) : PlanEdit;

/// <summary>A task starts on another day and finishes when it did: its length follows.</summary>
public sealed record StretchTask(string Task, DateOrTime Start) : PlanEdit;

public sealed record RenameProject(string Name) : PlanEdit;

/// <summary>The day the project starts; dates go from there.</summary>
public sealed record SetProjectStart(DateOrTime Start) : PlanEdit;

/// <summary>The day the project must be finished; dates go back from there, and the latest start follows.</summary>
public sealed record SetProjectFinish(DateOrTime Finish) : PlanEdit;

/// <summary>Sets which end of the project dates are worked out from, exactly.</summary>
public sealed record SetAnchor(ScheduleFrom From, PlanTime? Start, PlanTime? Finish) : PlanEdit;

/// <summary>The day up to which progress is reported, and whether unfinished work before it is planned after it.</summary>
public sealed record SetStatusDate(DateOrTime? StatusDate, bool MoveUnfinishedWork = false) : PlanEdit;

/// <param name="HoursPerDay">What a day of work comes to: above 0, at most 24, in whole minutes.</param>
/// <param name="DaysPerWeek">What a week comes to: above 0, at most 7.</param>
public sealed record SetWorkUnits(decimal HoursPerDay, decimal DaysPerWeek) : PlanEdit;

/// <param name="Calendar">Id of one of the plan's calendars; <c>null</c> for plain weekdays.</param>
public sealed record SetProjectCalendar(string? Calendar) : PlanEdit;

/// <summary>What counts as setting the finish, and what float is measured to.</summary>
public sealed record SetCriticality(Length CriticalFloat, FloatTarget FloatTo) : PlanEdit;

/// <summary>Adds a calendar, or changes the one with its id.</summary>
/// <param name="Position">Where a new one stands among the plan's calendars; at the end when left out.</param>
public sealed record SaveCalendar(WorkCalendar Calendar, int? Position = null) : PlanEdit;

/// <summary>Removes a calendar that nothing goes by.</summary>
public sealed record RemoveCalendar(string Calendar) : PlanEdit;

/// <summary>The calendar a person works by on this plan; <c>null</c> for the project's.</summary>
public sealed record SetPersonCalendar(string Person, string? Calendar) : PlanEdit;

/// <summary>The stretches of days that are good to know of.</summary>
public sealed record SetPeriods(ImmutableArray<NamedPeriod> Periods) : PlanEdit;

public sealed record SetFinishBy(DateOrTime? FinishBy) : PlanEdit;

/// <summary>Several edits as one: all are applied, or none.</summary>
public sealed record Together(ImmutableArray<PlanEdit> Edits) : PlanEdit;
