using System.Collections.Immutable;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>What a task is marked with: nothing of it moves a date.</summary>
internal static class MarkEdits
{
    public static AppliedEdit SetKey(Plan plan, SetKey edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        return PlanEditor.Changed(plan, task with { Key = edit.On }, edit, edit with { On = task.Key }, EditField.Key);
    }

    public static AppliedEdit SetColour(Plan plan, SetColour edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        if (edit.Colour is { } colour && !TaskMarks.Colours.Contains(colour))
            throw new EditRefusedException("colour", $"“{LengthText.Shorten(colour)}” is not a colour that rows can have: use {string.Join(", ", TaskMarks.Colours)}, or none.", task.Id, EditField.Colour);
        return PlanEditor.Changed(plan, task with { Colour = edit.Colour }, edit, edit with { Colour = task.Colour }, EditField.Colour);
    }

    public static AppliedEdit SetLabel(Plan plan, SetLabel edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        var label = edit.Label?.Trim() is { Length: > 0 } typed ? typed : null;
        if (label is not null && TaskMarks.WhyRefusedLabel(label) is { } why) throw new EditRefusedException("label", why, task.Id, EditField.Label);
        return PlanEditor.Changed(plan, task with { Label = label }, edit with { Label = label }, edit with { Label = task.Label }, EditField.Label);
    }

    public static AppliedEdit SetChecklist(Plan plan, SetChecklist edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        ImmutableArray<ChecklistStep> steps = edit.Steps.IsDefaultOrEmpty ? [] : [.. edit.Steps.Select(step => step with { Text = step.Text.Trim() })];
        if (steps.Length > TaskMarks.MostSteps)
            throw new EditRefusedException("checklist", $"A checklist has at most {TaskMarks.MostSteps} steps: make tasks of some.", task.Id, EditField.Checklist);
        if (steps.Select(TaskMarks.WhyRefused).FirstOrDefault(why => why is not null) is { } refused)
            throw new EditRefusedException("checklist", refused, task.Id, EditField.Checklist);
        return PlanEditor.Changed(plan, task with { Checklist = steps }, edit with { Steps = steps }, edit with { Steps = task.Checklist }, EditField.Checklist);
    }

    public static AppliedEdit SetReferences(Plan plan, SetReferences edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        ImmutableArray<Reference> references = edit.References.IsDefaultOrEmpty ? [] : [.. edit.References.Select(r => new Reference(r.Address.Trim(), (r.Title ?? "").Trim()))];
        if (references.Length > TaskMarks.MostReferences)
            throw new EditRefusedException("references", $"A task has at most {TaskMarks.MostReferences} links to pages.", task.Id, EditField.References);
        if (references.Select(TaskMarks.WhyRefused).FirstOrDefault(why => why is not null) is { } refused)
            throw new EditRefusedException("references", refused, task.Id, EditField.References);
        return PlanEditor.Changed(plan, task with { References = references }, edit with { References = references }, edit with { References = task.References }, EditField.References);
    }

    public static AppliedEdit SetPriority(Plan plan, SetPriority edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        if (edit.Priority is < 0 or > 1000) throw new EditRefusedException("priority", "Priority is a whole number from 0 to 1000; 500 is usual.", task.Id, EditField.Priority);
        return PlanEditor.Changed(plan, task with { Priority = edit.Priority }, edit, edit with { Priority = task.Priority }, EditField.Priority);
    }
}
