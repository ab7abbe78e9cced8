using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Editing;

/// <summary>Dates that a person fixes. See <see cref="PlaceTask"/> for the rule.</summary>
internal static class DateEdits
{
    private const int MostDays = 2_000;

    public static AppliedEdit Place(Plan plan, PlaceTask edit, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        TaskEdits.RefuseInactive(plan, task, EditField.Start);
        if (plan.Index.IsPhase(plan.Index.RowOf(task.Id))) return PlacePhase(plan, task, edit, context);
        PlanTime? start = edit.Start is { } day ? FixedDay.Start(plan, task, day, plan.Project.ScheduleFrom == ScheduleFrom.Finish && !edit.Pin) : null;
        if (start is { IsInRange: false })
            throw new EditRefusedException("outOfRange", "That is outside the years that can be planned: give a date from 1990 to 2100.", task.Id, EditField.Start);
        if (task.IsStarted)
        {
            if (start is null) throw new EditRefusedException("started", "This task has started, so it has a start date: type the day it began, or set its progress to 0.", task.Id, EditField.Start);
            return TrackingEdits.Set(plan, new SetTracking(task.Id, task.Progress, start, task.ActualFinish, task.Remaining, task.Before), context);
        }
        if (start is null) return Set(plan, new SetFixedDates(task.Id, null, null));
        if (edit.Pin) return Set(plan, new SetFixedDates(task.Id, new PinnedDates(start.Value), null));
        var free = Set(plan, new SetFixedDates(task.Id, null, null));
        var own = Scheduler.Calculate(free.Plan).StartOf(task.Id);
        var constraint = plan.Project.ScheduleFrom == ScheduleFrom.Start
            ? start > own ? new DateConstraint(ConstraintKind.StartNoEarlierThan, start) : null
            : start < own ? new DateConstraint(ConstraintKind.StartNoLaterThan, start) : null;
        return Set(plan, new SetFixedDates(task.Id, null, constraint));
    }

    /// <summary>Everything in a phase moves as far as its first day does.</summary>
    private static AppliedEdit PlacePhase(Plan plan, PlanTask phase, PlaceTask edit, EditContext context)
    {
        if (edit.Start is not { } day)
            throw new EditRefusedException("phase", $"“{LengthText.Shorten(phase.Name)}” is a phase; its dates follow from the rows inside it: type the day it is to start, or free those rows.", phase.Id, EditField.Start);
        var start = context.ScheduleWith(phase.Id, plan).StartOf(phase.Id);
        var to = day.AsStart(plan.ProjectCalendar);
        if (!to.IsInRange) throw new EditRefusedException("outOfRange", "That is outside the years that can be planned: give a date from 1990 to 2100.", phase.Id, EditField.Start);
        var minutes = plan.ProjectCalendar.Between(start, to);
        if (minutes == 0) throw new EditRefusedException("nothing", $"“{LengthText.Shorten(phase.Name)}” starts on {Dates.Day(start)} as it is: give another day.", phase.Id, EditField.Start);
        return ShiftBy(plan, [phase.Id], minutes, context);
    }

    public static AppliedEdit Shift(Plan plan, ShiftTasks edit, EditContext context)
    {
        if (edit.Days == 0 || Math.Abs((long)edit.Days) > MostDays) throw new EditRefusedException("days", $"Tasks move by 1 to {MostDays:N0} days, or by as many earlier: -2 is two days earlier.");
        if (edit.Tasks.IsDefaultOrEmpty) throw new EditRefusedException("nothing", "No row was named to move.");
        return ShiftBy(plan, edit.Tasks, edit.Days * plan.Project.Units.MinutesPerDay, context);
    }

    private static AppliedEdit ShiftBy(Plan plan, ImmutableArray<string> tasks, int minutes, EditContext context)
    {
        var schedule = context.ScheduleWith(tasks[0], plan);
        // Those that come first go first: what waits for them may then be where it should be.
        var rows = PlanEditor.WithInside(plan, tasks).Where(row => !plan.Index.IsPhase(row) && !plan.Tasks[row].IsStarted && TaskEdits.InactiveAt(plan, row) < 0);
        var places = rows.Select(row => (Task: plan.Tasks[row], Start: schedule.Plan.Index.TryFind(plan.Tasks[row].Id, out var was) && !schedule.IsOff(was) ? schedule.StartOf(was) : (PlanTime?)null))
            .Where(place => place.Start is not null).OrderBy(place => place.Start).ToList();
        if (places.Count == 0) throw new EditRefusedException("started", "None of these rows can move: what has started or takes no part stays where it is.", tasks[0], EditField.Start);
        return PlanEditor.ApplyAll(plan, [.. places.Select(place => Shifted(plan, place.Task, place.Start!.Value, minutes))], context);
    }

    private static PlanEdit Shifted(Plan plan, PlanTask task, PlanTime start, int minutes)
    {
        var calendar = plan.EffectiveCalendar(task);
        var to = calendar.MinuteStart(calendar.Worked(start) + minutes);
        if (!to.IsInRange) throw new EditRefusedException("outOfRange", $"“{LengthText.Shorten(task.Name)}” would lie outside the years that can be planned: 1990 to 2100.", task.Id, EditField.Start);
        if (task.Pinned is not { } pinned) return new PlaceTask(task.Id, to);
        var finish = pinned.Finish is { } f ? calendar.Add(f, minutes) : (PlanTime?)null;
        return new SetFixedDates(task.Id, new PinnedDates(to, finish < to ? to : finish), null);
    }

    public static AppliedEdit Set(Plan plan, SetFixedDates edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        if (edit.Pinned is { Finish: { } finish } pinned && finish < pinned.Start)
            throw new EditRefusedException("pinned", "A pinned task cannot finish before it starts: give a later finish.", task.Id, EditField.Finish);
        if (new[] { edit.Pinned?.Start, edit.Pinned?.Finish, edit.Pinned?.Finish, edit.Constraint?.Date }.Any(date => date is { IsInRange: false }))
            throw new EditRefusedException("outOfRange", "That is outside the years that can be planned: give a date from 1990 to 2100.", task.Id, EditField.Start);
        if (edit.Constraint is { } constraint && constraint.NeedsDate != constraint.Date is not null)
            throw new EditRefusedException("date", constraint.NeedsDate ? "This kind of fixed date needs its day." : "This kind of fixed date has no day of its own.", task.Id, EditField.Start);
        var changed = task with { Pinned = edit.Pinned, Constraint = edit.Constraint };
        return PlanEditor.Changed(plan, changed, edit, new SetFixedDates(task.Id, task.Pinned, task.Constraint), EditField.Start);
    }

    public static AppliedEdit Constrain(Plan plan, SetConstraint edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        TaskEdits.RefusePhase(plan, task, EditField.Start, "dates follow from the rows inside it: fix those");
        if (edit.Kind is not { } kind) return Set(plan, new SetFixedDates(task.Id, null, null));
        var constraint = new DateConstraint(kind);
        if (!constraint.NeedsDate) return Set(plan, new SetFixedDates(task.Id, null, constraint));
        if (edit.Date is not { } date)
            throw new EditRefusedException("date", "This kind of fixed date needs its day: type one, such as 12 May.", task.Id, EditField.Start);
        var at = constraint.IsOfFinish ? FixedDay.Finish(plan, task, date, constraint.IsNotAfter) : FixedDay.Start(plan, task, date, constraint.IsNotAfter);
        return Set(plan, new SetFixedDates(task.Id, null, constraint with { Date = at }));
    }

    public static AppliedEdit Pin(Plan plan, PinTask edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        TaskEdits.RefusePhase(plan, task, EditField.Start, "dates follow from the rows inside it: pin those");
        PlanTime? finish = edit.Finish is { } day ? FixedDay.Finish(plan, task, day) : null;
        return Set(plan, new SetFixedDates(task.Id, new PinnedDates(FixedDay.Start(plan, task, edit.Start), finish), null));
    }

    public static AppliedEdit SetDeadline(Plan plan, SetDeadline edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        var deadline = edit.Deadline?.AsFinish(plan.EffectiveCalendar(task));
        if (deadline is { IsInRange: false })
            throw new EditRefusedException("outOfRange", "That is outside the years that can be planned: give a date from 1990 to 2100.", task.Id, EditField.Deadline);
        DateOrTime? exact = deadline is { } d ? d : null;
        DateOrTime? was = task.Deadline is { } w ? w : null;
        return PlanEditor.Changed(plan, task with { Deadline = deadline }, edit with { Deadline = exact }, edit with { Deadline = was }, EditField.Deadline);
    }

    public static AppliedEdit SetFinish(Plan plan, SetFinish edit, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        TaskEdits.RefusePhase(plan, task, EditField.Finish, "dates follow from the rows inside it: move those");
        TaskEdits.RefuseInactive(plan, task, EditField.Finish);
        var calendar = plan.EffectiveCalendar(task);
        var finish = edit.Finish.AsFinish(calendar);
        if (task.IsFinished) return TrackingEdits.Set(plan, new SetTracking(task.Id, 1, task.ActualStart, finish, null, task.Before), context);
        if (task.Milestone)
            throw new EditRefusedException("milestoneLength", "A milestone takes no time: set its start date instead.", task.Id, EditField.Finish);
        var start = context.ScheduleWith(task.Id, plan).StartOf(task.Id);
        var minutes = new WorkMinutes(calendar.Between(start, finish) - task.Splits.Sum(split => plan.Project.Units.Minutes(split.For).Count));
        if (minutes <= WorkMinutes.Zero)
            throw new EditRefusedException("finish", $"This task starts on {Dates.Day(start)}, so it cannot be finished by then: give a working day from there on.", task.Id, EditField.Finish);
        return TaskEdits.SetLength(plan, new SetLength(task.Id, new(plan.Project.Units.ToLength(minutes))));
    }

    public static AppliedEdit Stretch(Plan plan, StretchTask edit, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        TaskEdits.RefusePhase(plan, task, EditField.Start, "dates follow from the rows inside it: stretch those");
        TaskEdits.RefuseInactive(plan, task, EditField.Start);
        if (task.Milestone) throw new EditRefusedException("milestoneLength", "A milestone takes no time, so it cannot be stretched: set its date instead.", task.Id, EditField.Start);
        if (task.IsFinished) return Place(plan, new PlaceTask(task.Id, edit.Start), context);
        var calendar = plan.EffectiveCalendar(task);
        var schedule = context.ScheduleWith(task.Id, plan);
        var (start, finish) = (edit.Start.AsStart(calendar), schedule.FinishOf(task.Id));
        var minutes = new WorkMinutes(calendar.Between(start, finish) - task.Splits.Sum(split => plan.Project.Units.Minutes(split.For).Count));
        if (minutes <= WorkMinutes.Zero)
            throw new EditRefusedException("start", $"This task finishes {Dates.FinishDay(finish)}, so it cannot start then: give a working day before.", task.Id, EditField.Start);
        return PlanEditor.ApplyAll(plan, [new SetLength(task.Id, new(plan.Project.Units.ToLength(minutes))), new PlaceTask(task.Id, start, task.Pinned is not null)], context);
    }
}
