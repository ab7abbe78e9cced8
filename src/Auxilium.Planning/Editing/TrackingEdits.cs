using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>What has really happened. Left-out dates are the planned ones where those have passed, else today.</summary>
internal static class TrackingEdits
{
    public static AppliedEdit Start(Plan plan, StartTask edit, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        RefusePhase(plan, task);
        var start = edit.On?.AsStart(plan.EffectiveCalendar(task)) ?? task.ActualStart ?? DefaultStart(plan, task, context);
        if (task.IsFinished) return Set(plan, Reopened(task, start), context);
        return Set(plan, new SetTracking(task.Id, task.Progress, start, null, task.Remaining), context);
    }

    public static AppliedEdit Reopen(Plan plan, ReopenTask edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        RefusePhase(plan, task);
        if (!task.IsFinished) throw Refuse("notDone", $"“{LengthText.Shorten(task.Name)}” is not done, so there is nothing to take back.", task.Id);
        return Set(plan, Reopened(task, task.Before?.ActualStart));
    }

    /// <summary>What was done goes on from where it was.</summary>
    private static SetTracking Reopened(PlanTask task, PlanTime? start) =>
        new(task.Id, task.Before?.Progress ?? 0, start, null, start is null ? null : task.Before?.Remaining);

    public static AppliedEdit Report(Plan plan, ReportProgress edit, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        RefusePhase(plan, task);
        if (edit.Progress is < 0 or > 1) throw Refuse("progress", "Progress goes from 0 to 100 %: type a number in between.", task.Id);
        if (edit.Progress == 1) return Finish(plan, new FinishTask(task.Id), context);
        PlanTime? start = edit.Progress == 0 ? null : task.ActualStart ?? DefaultStart(plan, task, context);
        return Set(plan, new SetTracking(task.Id, edit.Progress, start, null), context);
    }

    public static AppliedEdit Finish(Plan plan, FinishTask edit, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        RefusePhase(plan, task);
        var calendar = plan.EffectiveCalendar(task);
        var start = task.ActualStart ?? DefaultStart(plan, task, context);
        var planned = context.ScheduleWith(task.Id, plan).FinishOf(task.Id);
        var passed = planned.LastDate <= context.Today;
        var finish = edit.On?.AsFinish(calendar) ?? task.ActualFinish ?? (passed ? planned : new DateOrTime(context.Today).AsFinish(calendar));
        // A task that was only to start later has started, at the latest, when it finished.
        if (task.ActualStart is null) start = PlanTime.Min(start, plan.LengthOf(task).Count == 0 ? finish : new DateOrTime(finish.LastDate).AsStart(calendar));
        var before = task.IsFinished ? task.Before : new TrackedBefore(task.Progress, task.ActualStart, task.Remaining);
        return Set(plan, new SetTracking(task.Id, 1, PlanTime.Min(start, finish), finish, null, before), context);
    }

    public static AppliedEdit SetRemaining(Plan plan, SetRemaining edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        TaskEdits.RefusePhase(plan, task, EditField.Remaining, "work left follows from the rows inside it: report on those");
        if (edit.Remaining is { Amount: < 0 }) throw new EditRefusedException("length", "Work left cannot be negative: type a length from 0 up, such as 2d.", task.Id, EditField.Remaining);
        return Set(plan, new SetTracking(task.Id, task.Progress, task.ActualStart, task.ActualFinish, edit.Remaining));
    }

    /// <summary>The same of what a person reports: nothing has happened on a day that is still to come.</summary>
    internal static AppliedEdit Set(Plan plan, SetTracking edit, EditContext context)
    {
        var (start, finish) = (edit.ActualStart?.Date > context.Today, edit.ActualFinish?.LastDate > context.Today);
        if (!start && !finish) return Set(plan, edit);
        var day = start ? edit.ActualStart!.Value.Date : edit.ActualFinish!.Value.LastDate;
        throw new EditRefusedException(
            "future",
            $"{Dates.Day(day)} is still to come, so nothing can have {(start ? "started" : "finished")} then: give a day up to today, or move the planned date.",
            edit.Task,
            start ? EditField.Start : EditField.Finish);
    }

    public static AppliedEdit Set(Plan plan, SetTracking edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        if (edit.Before is { } was && (edit.ActualFinish is null || was.Progress is < 0 or >= 1))
            throw Refuse("progress", "Only what is done was less than done before.", task.Id);
        if (edit.Progress is < 0 or > 1 || (edit.ActualFinish is not null && edit.Progress != 1))
            throw Refuse("progress", "Progress goes from 0 to 1, and is 1 exactly when the task has finished.", task.Id);
        if (edit is { ActualStart: { } start, ActualFinish: { } finish } && start > finish)
            throw new EditRefusedException("actualDates", $"A task cannot finish ({Dates.Day(finish)}) before it starts ({Dates.Day(start)}): give a later finish.", task.Id, EditField.Finish);
        if (edit.ActualStart is { IsInRange: false } || edit.ActualFinish is { IsInRange: false })
            throw Refuse("outOfRange", "Give dates from 1990 to 2100.", task.Id);
        if (edit.Remaining is { } left)
        {
            if (edit.ActualStart is null || edit.ActualFinish is not null)
                throw new EditRefusedException("remaining", "Only a task that has started and is not done has work left to report: give it a start first.", task.Id, EditField.Remaining);
            if (LengthText.WhyUnusable(left, plan.Project.Units) is { } why) throw new EditRefusedException("length", why, task.Id, EditField.Remaining);
        }
        var changed = task with { Progress = edit.Progress, ActualStart = edit.ActualStart, ActualFinish = edit.ActualFinish, Remaining = edit.Remaining, Before = edit.Before };
        var inverse = new SetTracking(task.Id, task.Progress, task.ActualStart, task.ActualFinish, task.Remaining, task.Before);
        return PlanEditor.Changed(plan, changed, edit, inverse, EditField.Progress);
    }

    private static PlanTime DefaultStart(Plan plan, PlanTask task, EditContext context)
    {
        var planned = context.ScheduleWith(task.Id, plan).StartOf(task.Id);
        return planned.Date <= context.Today ? planned : new DateOrTime(context.Today).AsStart(plan.EffectiveCalendar(task));
    }

    private static void RefusePhase(Plan plan, PlanTask task)
    {
        TaskEdits.RefusePhase(plan, task, EditField.Progress, "progress follows from the rows inside it: report on those");
        TaskEdits.RefuseInactive(plan, task, EditField.Progress);
    }

    private static EditRefusedException Refuse(string code, string message, string task) => new(code, message, task, EditField.Progress);
}
