using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Editing;

/// <summary>When and how a task is worked on: its calendar, its pauses, what it may take, whether it takes part.</summary>
internal static class WorkEdits
{
    public static AppliedEdit SetSplits(Plan plan, SetSplits edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        if (!edit.Splits.IsDefaultOrEmpty) TaskEdits.RefusePhase(plan, task, EditField.Splits, "pauses are those of the rows inside it: set theirs");
        var splits = edit.Splits.IsDefault ? [] : edit.Splits;
        if (SplitRules.WhyRefused(splits, task.Milestone ? Length.Zero : task.Length, plan.Project.Units) is var (_, why))
            throw new EditRefusedException("split", why, task.Id, EditField.Splits);
        return PlanEditor.Changed(plan, task with { Splits = splits }, edit with { Splits = splits }, edit with { Splits = task.Splits }, EditField.Splits);
    }

    public static AppliedEdit Resume(Plan plan, ResumeTask edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        TaskEdits.RefusePhase(plan, task, EditField.Splits, "work is that of the rows inside it: let those go on later");
        TaskEdits.RefuseInactive(plan, task, EditField.Splits);
        if (task is not { IsStarted: true, IsFinished: false })
            throw new EditRefusedException("notBegun", $"“{LengthText.Shorten(task.Name)}” is not under way, so there is no rest of it: give it another start instead.", task.Id, EditField.Splits);
        var (calendar, units, length) = (plan.EffectiveCalendar(task), plan.Project.Units, plan.LengthOf(task).Count);
        // A pause comes after some work: of what has only begun, after its first minute.
        var done = Math.Max(1, InProgressWork.Of(plan.Project with { MoveUnfinishedWork = false }, task, calendar, length).Done);
        var before = task.Splits.Where(s => units.Minutes(s.After).Count < done).ToImmutableArray();
        var reached = calendar.Add(task.ActualStart!.Value, done + before.Sum(s => units.Minutes(s.For).Count));
        var pause = calendar.Between(reached, edit.On.AsStart(calendar));
        if (pause <= 0)
            throw new EditRefusedException("resume", $"The rest of “{LengthText.Shorten(task.Name)}” goes on on {Dates.Day(calendar.Next(reached))} as it is: give a later working day.", task.Id, EditField.Splits);
        var split = new Split(units.ToLength(new WorkMinutes(done)), units.ToLength(new WorkMinutes(pause)));
        var after = task.Splits.Where(s => units.Minutes(s.After).Count > done);
        return SetSplits(plan, new SetSplits(task.Id, [.. before, split, .. after]));
    }

    public static AppliedEdit SetCalendar(Plan plan, SetTaskCalendar edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        CalendarEdits.CheckKnown(plan, edit.Calendar, task.Id, EditField.Calendar);
        return PlanEditor.Changed(plan, task with { Calendar = edit.Calendar }, edit, edit with { Calendar = task.Calendar }, EditField.Calendar);
    }

    public static AppliedEdit SetAroundTheClock(Plan plan, SetAroundTheClock edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        return PlanEditor.Changed(plan, task with { AroundTheClock = edit.On }, edit, edit with { On = task.AroundTheClock }, EditField.Calendar);
    }

    public static AppliedEdit SetEstimate(Plan plan, SetEstimate edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        if (edit.Estimate is not null) TaskEdits.RefusePhase(plan, task, EditField.Estimate, "range follows from the rows inside it: estimate those");
        if (edit.Estimate is { } estimate && SplitRules.WhyRefused(estimate, task.Milestone, plan.Project.Units) is { } why)
            throw new EditRefusedException("estimate", why, task.Id, EditField.Estimate);
        return PlanEditor.Changed(plan, task with { Estimate = edit.Estimate }, edit, edit with { Estimate = task.Estimate }, EditField.Estimate);
    }

    public static AppliedEdit SetActive(Plan plan, SetActive edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        return PlanEditor.Changed(plan, task with { Active = edit.On }, edit, edit with { On = task.Active }, EditField.Active);
    }
}
