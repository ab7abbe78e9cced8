using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.TrackingEdits;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

/// <summary>The task has started: on that day, or as planned if that has passed, else today.</summary>
public sealed record StartTask(string Task, DateOrTime? On = null) : UndecidedEdit, IEditKind
{
    public static string Wire => "startTask";

    public override EditTraits Traits => new(Task, EditField.Progress, EditRight.Report);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        RefusePhase(plan, task);
        var start = On?.AsStart(plan.EffectiveCalendar(task)) ?? task.ActualStart ?? DefaultStart(plan, task, context);
        if (task.IsFinished)
            return Reported(plan, Reopened(task, start), context);
        return Reported(plan, new SetTracking(task.Id, task.Progress, start, null, task.Remaining), context);
    }

    public static PlanEdit Sample(EditSampler from) => new StartTask(from.Leaf, from.Flip ? null : from.Day(-12, 2));
}

/// <param name="Progress">0 to 1. Above 0 the task has started, at 1 it has finished, at 0 neither.</param>
public sealed record ReportProgress(string Task, decimal Progress) : UndecidedEdit, IEditKind
{
    public static string Wire => "reportProgress";

    public override EditTraits Traits => new(Task, EditField.Progress, EditRight.Report);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        RefusePhase(plan, task);
        if (Progress is < 0 or > 1)
            throw Refuse("progress", "Progress goes from 0 to 100%: type a number in between.", task.Id);
        if (Progress == 1)
            return new FinishTask(task.Id).Apply(plan, context);
        PlanTime? start = Progress == 0 ? null : task.ActualStart ?? DefaultStart(plan, task, context);
        return Reported(plan, new SetTracking(task.Id, Progress, start, null), context);
    }

    public static PlanEdit Sample(EditSampler from) => new ReportProgress(from.Leaf, from.Random.Next(11) / 10m);
}

/// <summary>The task is done: on that day, or as planned if that has passed, else today.</summary>
public sealed record FinishTask(string Task, DateOrTime? On = null) : UndecidedEdit, IEditKind
{
    public static string Wire => "finishTask";

    public override EditTraits Traits => new(Task, EditField.Progress, EditRight.Report);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        RefusePhase(plan, task);
        var calendar = plan.EffectiveCalendar(task);
        var start = task.ActualStart ?? DefaultStart(plan, task, context);
        var planned = context.ScheduleWith(task.Id, plan).FinishOf(task.Id);
        var passed = planned.LastDate <= context.Today;
        var finish = On?.AsFinish(calendar) ?? task.ActualFinish ?? (passed ? planned : new DateOrTime(context.Today).AsFinish(calendar));
        // A task that was only to start later has started, at the latest, when it finished.
        if (task.ActualStart is null)
            start = PlanTime.Min(start, plan.LengthOf(task).Count == 0 ? finish : new DateOrTime(finish.LastDate).AsStart(calendar));
        var before = task.IsFinished ? task.Before : new TrackedBefore(task.Progress, task.ActualStart, task.Remaining);
        return Reported(plan, new SetTracking(task.Id, 1, PlanTime.Min(start, finish), finish, null, before), context);
    }

    public static PlanEdit Sample(EditSampler from) => new FinishTask(from.Leaf, from.Flip ? null : from.Day(-9, 2));
}

/// <summary>The task is not done after all: it is as far as it was before it was done.</summary>
public sealed record ReopenTask(string Task) : UndecidedEdit, IEditKind
{
    public static string Wire => "reopenTask";

    public override EditTraits Traits => new(Task, EditField.Progress, EditRight.Report);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        RefusePhase(plan, task);
        if (!task.IsFinished)
            throw Refuse("notDone", $"“{LengthText.Shorten(task.Name)}” is not done, so there is nothing to take back.", task.Id);
        return Reopened(task, task.Before?.ActualStart).Apply(plan, context);
    }

    public static PlanEdit Sample(EditSampler from) => new ReopenTask(from.Done());
}

/// <summary>Work left of a task that has started; <c>null</c> for what its length and progress say.</summary>
public sealed record SetRemaining(string Task, Length? Remaining) : UndecidedEdit, IEditKind
{
    public static string Wire => "setRemaining";

    public override EditTraits Traits => new(Task, EditField.Remaining, EditRight.Report);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        TaskEdits.RefusePhase(plan, task, EditField.Remaining, "work left follows from the rows inside it: report on those");
        if (Remaining is { Amount: < 0 })
            throw new EditRefusedException(
                "length",
                "Work left cannot be negative: type a length from 0 up, such as 2d.",
                task.Id,
                EditField.Remaining
            );
        return new SetTracking(task.Id, task.Progress, task.ActualStart, task.ActualFinish, Remaining).Apply(plan, context);
    }

    public static PlanEdit Sample(EditSampler from) => new SetRemaining(from.Begun(), from.Random.Next(2) == 0 ? Length.Days(2) : null);
}

/// <summary>Sets progress, actual dates and work left exactly.</summary>
/// <param name="Before">Of what is done: how far it was before.</param>
public sealed record SetTracking(
    string Task,
    decimal Progress,
    PlanTime? ActualStart,
    PlanTime? ActualFinish,
    Length? Remaining = null,
    TrackedBefore? Before = null
) : PlanEdit, IEditKind
{
    public static string Wire => "setTracking";

    public override EditTraits Traits => new(Task, EditField.Progress, EditRight.Report);

    public override string Many => "reports of progress";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (Before is { } was && (ActualFinish is null || was.Progress is < 0 or >= 1))
            throw Refuse("progress", "Only what is done was less than done before.", task.Id);
        if (Progress is < 0 or > 1 || (ActualFinish is not null && Progress != 1))
            throw Refuse("progress", "Progress goes from 0 to 1, and is 1 exactly when the task has finished.", task.Id);
        if (this is { ActualStart: { } start, ActualFinish: { } finish } && start > finish)
            throw new EditRefusedException(
                "actualDates",
                $"A task cannot finish ({Dates.Day(finish)}) before it starts ({Dates.Day(start)}): give a later finish.",
                task.Id,
                EditField.Finish
            );
        if (ActualStart is { IsInRange: false } || ActualFinish is { IsInRange: false })
            throw Refuse("outOfRange", "Give dates from 1990 to 2100.", task.Id);
        if (Remaining is { } left)
        {
            if (ActualStart is null || ActualFinish is not null)
                throw new EditRefusedException(
                    "remaining",
                    "Only a task that has started and is not done has work left to report: give it a start first.",
                    task.Id,
                    EditField.Remaining
                );
            if (LengthText.WhyUnusable(left, plan.Project.Units) is { } why)
                throw new EditRefusedException("length", why, task.Id, EditField.Remaining);
        }
        var changed = task with
        {
            Progress = Progress,
            ActualStart = ActualStart,
            ActualFinish = ActualFinish,
            Remaining = Remaining,
            Before = Before,
        };
        var inverse = new SetTracking(task.Id, task.Progress, task.ActualStart, task.ActualFinish, task.Remaining, task.Before);
        return PlanEditor.Changed(plan, changed, this, inverse, EditField.Progress);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after)
    {
        var was = before.Plan.Find(Task);
        yield return Called(after, Task);
        yield return new(
            this switch
            {
                { ActualFinish: null } when was?.IsFinished is true =>
                    $" is not done after all: {(ActualStart is null ? "it has not started" : Percent(Progress))}.",
                { ActualFinish: { } done, ActualStart: { } began } when done == was?.ActualFinish && began != was.ActualStart =>
                    $" started {Dates.Day(began)}.",
                { ActualFinish: { } finish } => $" is done, finished {Dates.FinishDay(finish)}.",
                { Remaining: { } left } => $" has {left.InWords()} of work left.",
                { ActualStart: { } start, Progress: 0 } => $" started {Dates.Day(start)}.",
                { Progress: > 0 } => $" is {Percent(Progress)}.",
                _ => " has not started.",
            }
        );
    }

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is SetTracking s && s.Progress == Progress)
            ? [new(Progress >= 1 ? " are done." : $" are {Percent(Progress)}.")]
            : null;

    public static PlanEdit Sample(EditSampler from)
    {
        var (began, ended) = (PlanTime.At(2027, 5, 4, 9), PlanTime.At(2027, 5, 5, 17));
        return from.Random.Next(4) switch
        {
            0 => new SetTracking(from.Leaf, 0, null, null),
            1 => new SetTracking(from.Leaf, 0.4m, began, null),
            2 => new SetTracking(from.Leaf, 0.4m, began, null, Length.OneDay),
            _ => new SetTracking(from.Leaf, 1, began, ended, null, from.Flip ? null : new(0.4m, began, Length.OneDay)),
        };
    }
}

/// <summary>What has really happened. Left-out dates are the planned ones where those have passed, else today.</summary>
internal static class TrackingEdits
{
    /// <summary>What was done goes on from where it was.</summary>
    internal static SetTracking Reopened(PlanTask task, PlanTime? start) =>
        new(task.Id, task.Before?.Progress ?? 0, start, null, start is null ? null : task.Before?.Remaining);

    /// <summary>The same of what a person reports: nothing has happened on a day that is still to come.</summary>
    internal static AppliedEdit Reported(Plan plan, SetTracking edit, EditContext context)
    {
        var (start, finish) = (edit.ActualStart?.Date > context.Today, edit.ActualFinish?.LastDate > context.Today);
        if (!start && !finish)
            return edit.Apply(plan, context);
        var day = start ? edit.ActualStart!.Value.Date : edit.ActualFinish!.Value.LastDate;
        throw new EditRefusedException(
            "future",
            $"{Dates.Day(day)} is still to come, so nothing can have {(start ? "started" : "finished")} then: give a day up to today, "
                + "or move the planned date.",
            edit.Task,
            start ? EditField.Start : EditField.Finish
        );
    }

    internal static PlanTime DefaultStart(Plan plan, PlanTask task, EditContext context)
    {
        var planned = context.ScheduleWith(task.Id, plan).StartOf(task.Id);
        return planned.Date <= context.Today ? planned : new DateOrTime(context.Today).AsStart(plan.EffectiveCalendar(task));
    }

    internal static void RefusePhase(Plan plan, PlanTask task)
    {
        TaskEdits.RefusePhase(plan, task, EditField.Progress, "progress follows from the rows inside it: report on those");
        TaskEdits.RefuseInactive(plan, task, EditField.Progress);
    }

    internal static EditRefusedException Refuse(string code, string message, string task) => new(code, message, task, EditField.Progress);

    internal static string Percent(decimal progress) => string.Create(CultureInfo.InvariantCulture, $"{progress * 100:0.#}% done");
}
