using System.Collections.Immutable;
using Auxilium.Planning.Plans;

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
