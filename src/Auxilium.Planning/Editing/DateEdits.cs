using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.DateEdits;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

/// <summary>
/// Puts a task on a day, by hand or by dragging its bar. Not pinned: it goes <em>not before</em> that day and still follows its
/// links; on a day its links do not reach back to, they alone decide. (Worked out from the finish: <em>not after</em>, the same way.)
/// Pinned: it stays there whatever its links say. A task that
/// has started gets the day as its actual start. Without a day the task is free again.
/// </summary>
public sealed record PlaceTask(string Task, DateOrTime? Start, bool Pin = false) : UndecidedEdit, IEditKind
{
    public static string Wire => "placeTask";

    public override EditTraits Traits => new(Task, EditField.Start, EditRight.Edit);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        TaskEdits.RefuseInactive(plan, task, EditField.Start);
        if (plan.Index.IsPhase(plan.Index.RowOf(task.Id)))
            return PlacePhase(plan, task, this, context);
        PlanTime? start = Start is { } day
            ? FixedDay.Start(plan, task, day, plan.Project.ScheduleFrom == ScheduleFrom.Finish && !Pin)
            : null;
        if (start is { IsInRange: false })
            throw new EditRefusedException(
                "outOfRange",
                "That is outside the years that can be planned: give a date from 1990 to 2100.",
                task.Id,
                EditField.Start
            );
        if (task.IsStarted)
        {
            if (start is null)
                throw new EditRefusedException(
                    "started",
                    "This task has started, so it has a start date: type the day it began, or set its progress to 0.",
                    task.Id,
                    EditField.Start
                );
            return TrackingEdits.Reported(
                plan,
                new SetTracking(task.Id, task.Progress, start, task.ActualFinish, task.Remaining, task.Before),
                context
            );
        }
        // Whoever places a task by hand knows better than levelling did.
        if (task.DelayedUntil is not null)
            return PlanEditor.ApplyAll(plan, [DelayTasks.Release(task.Id), this], context);
        if (start is null)
            return new SetFixedDates(task.Id, null, null).Apply(plan, context);
        if (Pin)
            return new SetFixedDates(task.Id, new PinnedDates(start.Value), null).Apply(plan, context);
        var free = new SetFixedDates(task.Id, null, null).Apply(plan, context);
        var own = Scheduler.Calculate(free.Plan).StartOf(task.Id);
        var constraint =
            plan.Project.ScheduleFrom == ScheduleFrom.Start
                ? start > own
                    ? new DateConstraint(ConstraintKind.StartNoEarlierThan, start)
                    : null
                : start < own
                    ? new DateConstraint(ConstraintKind.StartNoLaterThan, start)
                    : null;
        return new SetFixedDates(task.Id, null, constraint).Apply(plan, context);
    }

    public static PlanEdit Sample(EditSampler from) => new PlaceTask(from.Any, from.Random.Next(4) == 0 ? null : from.Day(), from.Flip);
}

/// <summary>
/// Moves tasks, of phases those inside, by days of work: pinned ones stay pinned, others are placed as by <see cref="PlaceTask"/>. What
/// has started stays.
/// </summary>
/// <param name="Days">Other than 0, at most 2,000; negative for earlier.</param>
public sealed record ShiftTasks(ImmutableArray<string> Tasks, int Days) : UndecidedEdit, IEditKind
{
    public static string Wire => "shiftTasks";

    public override EditTraits Traits => new(null, EditField.None, EditRight.Edit);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (Days == 0 || Math.Abs((long)Days) > MostDays)
            throw new EditRefusedException(
                "days",
                $"Tasks move by 1 to {MostDays:N0} days, or by as many earlier: -2 is two days earlier."
            );
        if (Tasks.IsDefaultOrEmpty)
            throw new EditRefusedException("nothing", "No row was named to move.");
        return ShiftBy(plan, Tasks, Days * plan.Project.Units.MinutesPerDay, context);
    }

    public static PlanEdit Sample(EditSampler from) => new ShiftTasks([from.Any, from.Leaf], from.Flip ? 3 : -2);
}

/// <summary>Gives a task a fixed date of a kind, instead of any it had; without a kind it is free.</summary>
/// <param name="Date">Left out for the kinds that have none.</param>
public sealed record SetConstraint(string Task, ConstraintKind? Kind, DateOrTime? Date = null) : UndecidedEdit, IEditKind
{
    public static string Wire => "setConstraint";

    public override EditTraits Traits => new(Task, EditField.Start, EditRight.Edit);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        TaskEdits.RefusePhase(plan, task, EditField.Start, "dates follow from the rows inside it: fix those");
        if (Kind is not { } kind)
            return new SetFixedDates(task.Id, null, null).Apply(plan, context);
        var constraint = new DateConstraint(kind);
        if (!constraint.NeedsDate)
            return new SetFixedDates(task.Id, null, constraint).Apply(plan, context);
        if (Date is not { } date)
            throw new EditRefusedException(
                "date",
                "This kind of fixed date needs its day: type one, such as 12 May.",
                task.Id,
                EditField.Start
            );
        var at = constraint.IsOfFinish
            ? FixedDay.Finish(plan, task, date, constraint.IsNotAfter)
            : FixedDay.Start(plan, task, date, constraint.IsNotAfter);
        return new SetFixedDates(task.Id, null, constraint with { Date = at }).Apply(plan, context);
    }

    public static PlanEdit Sample(EditSampler from) =>
        new SetConstraint(from.Leaf, from.Random.Next(9) is var of and < 8 ? (ConstraintKind)of : null, from.Day());
}

/// <summary>Pins a task to a start, and to a finish if given, whatever its links say.</summary>
public sealed record PinTask(string Task, DateOrTime Start, DateOrTime? Finish = null) : UndecidedEdit, IEditKind
{
    public static string Wire => "pinTask";

    public override EditTraits Traits => new(Task, EditField.Start, EditRight.Edit);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        TaskEdits.RefusePhase(plan, task, EditField.Start, "dates follow from the rows inside it: pin those");
        PlanTime? finish = Finish is { } day ? FixedDay.Finish(plan, task, day) : null;
        return new SetFixedDates(task.Id, new PinnedDates(FixedDay.Start(plan, task, Start), finish), null).Apply(plan, context);
    }

    public static PlanEdit Sample(EditSampler from) => new PinTask(from.Leaf, from.Day(), from.Flip ? null : from.Day());
}

/// <summary>The day a task should be finished by; missing it moves nothing.</summary>
public sealed record SetDeadline(string Task, DateOrTime? Deadline) : PlanEdit, IEditKind
{
    public static string Wire => "setDeadline";

    public override EditTraits Traits => new(Task, EditField.Deadline, EditRight.Edit);

    public override string Many => "deadlines changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        var deadline = Deadline?.AsFinish(plan.EffectiveCalendar(task));
        if (deadline is { IsInRange: false })
            throw new EditRefusedException(
                "outOfRange",
                "That is outside the years that can be planned: give a date from 1990 to 2100.",
                task.Id,
                EditField.Deadline
            );
        DateOrTime? exact = deadline is { } d ? d : null;
        DateOrTime? was = task.Deadline is { } w ? w : null;
        return PlanEditor.Changed(
            plan,
            task with
            {
                Deadline = deadline,
            },
            this with
            {
                Deadline = exact,
            },
            this with
            {
                Deadline = was,
            },
            EditField.Deadline
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { Deadline: { } day } =>
            [
                Called(after, Task),
                new($" should be finished by {Dates.FinishDay(day.AsFinish(after.Plan.ProjectCalendar))}."),
            ],
            _ => [Called(after, Task), new(" has no deadline now.")],
        };

    public static PlanEdit Sample(EditSampler from) => new SetDeadline(from.Any, from.Random.Next(3) == 0 ? null : from.Day());
}

/// <summary>Sets a task's fixed dates exactly.</summary>
public sealed record SetFixedDates(string Task, PinnedDates? Pinned, DateConstraint? Constraint) : PlanEdit, IEditKind
{
    public static string Wire => "setFixedDates";

    public override EditTraits Traits => new(Task, EditField.Start, EditRight.Edit);

    public override string Many => "fixed dates changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (Pinned is { Finish: { } finish } pinned && finish < pinned.Start)
            throw new EditRefusedException(
                "pinned",
                "A pinned task cannot finish before it starts: give a later finish.",
                task.Id,
                EditField.Finish
            );
        if (new[] { Pinned?.Start, Pinned?.Finish, Pinned?.Finish, Constraint?.Date }.Any(date => date is { IsInRange: false }))
            throw new EditRefusedException(
                "outOfRange",
                "That is outside the years that can be planned: give a date from 1990 to 2100.",
                task.Id,
                EditField.Start
            );
        if (Constraint is { } constraint && constraint.NeedsDate != constraint.Date is not null)
            throw new EditRefusedException(
                "date",
                constraint.NeedsDate ? "This kind of fixed date needs its day." : "This kind of fixed date has no day of its own.",
                task.Id,
                EditField.Start
            );
        var changed = task with { Pinned = Pinned, Constraint = Constraint };
        return PlanEditor.Changed(plan, changed, this, new SetFixedDates(task.Id, task.Pinned, task.Constraint), EditField.Start);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after)
    {
        yield return Called(after, Task);
        yield return new(
            this switch
            {
                { Pinned: { } pinned } => $" is pinned to {Dates.Day(pinned.Start)}.",
                { Constraint: { } constraint } => $" {FixedDateText.Does(constraint)}.",
                _ => $" goes as early as its links allow: {Dates.Day(after.StartOf(Task))}.",
            }
        );
    }

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is SetFixedDates) ? [new(" have another place.")] : null;

    public static PlanEdit Sample(EditSampler from) =>
        new SetFixedDates(
            from.Leaf,
            from.Flip ? new(PlanTime.At(2027, 5, 12, 9)) : null,
            from.Random.Next(2) == 0 ? new(ConstraintKind.AsLateAsPossible) : null
        );
}

/// <summary>The day a task finishes: its length follows from it; of a finished task, its actual finish.</summary>
public sealed record SetFinish(string Task, DateOrTime Finish) : UndecidedEdit, IEditKind
{
    public static string Wire => "setFinish";

    public override EditTraits Traits => new(Task, EditField.Finish, EditRight.Edit);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        TaskEdits.RefusePhase(plan, task, EditField.Finish, "dates follow from the rows inside it: move those");
        TaskEdits.RefuseInactive(plan, task, EditField.Finish);
        var calendar = plan.EffectiveCalendar(task);
        var finish = Finish.AsFinish(calendar);
        if (task.IsFinished)
            return TrackingEdits.Reported(plan, new SetTracking(task.Id, 1, task.ActualStart, finish, null, task.Before), context);
        if (task.Milestone)
            throw new EditRefusedException(
                "milestoneLength",
                "A milestone takes no time: set its start date instead.",
                task.Id,
                EditField.Finish
            );
        var start = context.ScheduleWith(task.Id, plan).StartOf(task.Id);
        var minutes = new WorkMinutes(
            calendar.Between(start, finish) - task.Splits.Sum(split => plan.Project.Units.Minutes(split.For).Count)
        );
        if (minutes <= WorkMinutes.Zero)
            throw new EditRefusedException(
                "finish",
                $"This task starts on {Dates.Day(start)}, so it cannot be finished by then: give a working day from there on.",
                task.Id,
                EditField.Finish
            );
        return new SetLength(task.Id, new(plan.Project.Units.ToLength(minutes))).Apply(plan, context);
    }

    public static PlanEdit Sample(EditSampler from) => new SetFinish(from.Leaf, from.Day(10, 70));
}

/// <summary>A task starts on another day and finishes when it did: its length follows.</summary>
public sealed record StretchTask(string Task, DateOrTime Start) : UndecidedEdit, IEditKind
{
    public static string Wire => "stretchTask";

    public override EditTraits Traits => new(Task, EditField.Start, EditRight.Edit);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        TaskEdits.RefusePhase(plan, task, EditField.Start, "dates follow from the rows inside it: stretch those");
        TaskEdits.RefuseInactive(plan, task, EditField.Start);
        if (task.Milestone)
            throw new EditRefusedException(
                "milestoneLength",
                "A milestone takes no time, so it cannot be stretched: set its date instead.",
                task.Id,
                EditField.Start
            );
        if (task.IsFinished)
            return new PlaceTask(task.Id, Start).Apply(plan, context);
        var calendar = plan.EffectiveCalendar(task);
        var schedule = context.ScheduleWith(task.Id, plan);
        var (start, finish) = (Start.AsStart(calendar), schedule.FinishOf(task.Id));
        var minutes = new WorkMinutes(
            calendar.Between(start, finish) - task.Splits.Sum(split => plan.Project.Units.Minutes(split.For).Count)
        );
        if (minutes <= WorkMinutes.Zero)
            throw new EditRefusedException(
                "start",
                $"This task finishes {Dates.FinishDay(finish)}, so it cannot start then: give a working day before.",
                task.Id,
                EditField.Start
            );
        return PlanEditor.ApplyAll(
            plan,
            [new SetLength(task.Id, new(plan.Project.Units.ToLength(minutes))), new PlaceTask(task.Id, start, task.Pinned is not null)],
            context
        );
    }

    public static PlanEdit Sample(EditSampler from) => new StretchTask(from.Leaf, from.Day(-9, 9));
}

/// <summary>Dates that a person fixes. See <see cref="PlaceTask"/> for the rule.</summary>
internal static class DateEdits
{
    internal const int MostDays = 2_000;

    /// <summary>Everything in a phase moves as far as its first day does.</summary>
    internal static AppliedEdit PlacePhase(Plan plan, PlanTask phase, PlaceTask edit, EditContext context)
    {
        if (edit.Start is not { } day)
            throw new EditRefusedException(
                "phase",
                $"“{LengthText.Shorten(phase.Name)}” is a phase; its dates follow from the rows inside it: type the day it is to "
                    + "start, or free those rows.",
                phase.Id,
                EditField.Start
            );
        var start = context.ScheduleWith(phase.Id, plan).StartOf(phase.Id);
        var to = day.AsStart(plan.ProjectCalendar);
        if (!to.IsInRange)
            throw new EditRefusedException(
                "outOfRange",
                "That is outside the years that can be planned: give a date from 1990 to 2100.",
                phase.Id,
                EditField.Start
            );
        var minutes = plan.ProjectCalendar.Between(start, to);
        if (minutes == 0)
            throw new EditRefusedException(
                "nothing",
                $"“{LengthText.Shorten(phase.Name)}” starts on {Dates.Day(start)} as it is: give another day.",
                phase.Id,
                EditField.Start
            );
        return ShiftBy(plan, [phase.Id], minutes, context);
    }

    internal static AppliedEdit ShiftBy(Plan plan, ImmutableArray<string> tasks, int minutes, EditContext context)
    {
        var schedule = context.ScheduleWith(tasks[0], plan);
        // Those that come first go first: what waits for them may then be where it should be.
        var rows = PlanEditor
            .WithInside(plan, tasks)
            .Where(row => !plan.Index.IsPhase(row) && !plan.Tasks[row].IsStarted && TaskEdits.InactiveAt(plan, row) < 0);
        var places = rows.Select(row =>
                (
                    Task: plan.Tasks[row],
                    Start: schedule.Plan.Index.TryFind(plan.Tasks[row].Id, out var was) && !schedule.IsOff(was)
                        ? schedule.StartOf(was)
                        : (PlanTime?)null
                )
            )
            .Where(place => place.Start is not null)
            .OrderBy(place => place.Start)
            .ToList();
        if (places.Count == 0)
            throw new EditRefusedException(
                "started",
                "None of these rows can move: what has started or is inactive stays where it is.",
                tasks[0],
                EditField.Start
            );
        return PlanEditor.ApplyAll(plan, [.. places.Select(place => Shifted(plan, place.Task, place.Start!.Value, minutes))], context);
    }

    private static PlanEdit Shifted(Plan plan, PlanTask task, PlanTime start, int minutes)
    {
        var calendar = plan.EffectiveCalendar(task);
        var to = calendar.MinuteStart(calendar.Worked(start) + minutes);
        if (!to.IsInRange)
            throw new EditRefusedException(
                "outOfRange",
                $"“{LengthText.Shorten(task.Name)}” would lie outside the years that can be planned: 1990 to 2100.",
                task.Id,
                EditField.Start
            );
        if (task.Pinned is not { } pinned)
            return new PlaceTask(task.Id, to);
        var finish = pinned.Finish is { } f ? calendar.Add(f, minutes) : (PlanTime?)null;
        return new SetFixedDates(task.Id, new PinnedDates(to, finish < to ? to : finish), null);
    }
}
