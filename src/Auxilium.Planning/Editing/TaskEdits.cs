using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>Name, length and milestone of one task.</summary>
internal static class TaskEdits
{
    public static AppliedEdit Rename(Plan plan, RenameTask edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        var name = CheckName(edit.Name, edit.Task);
        return PlanEditor.Changed(plan, task with { Name = name }, edit with { Name = name }, edit with { Name = task.Name }, EditField.Name);
    }

    public static AppliedEdit SetLength(Plan plan, SetLength edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        RefusePhase(plan, task, EditField.Length, "length follows from the rows inside it: set theirs");
        var (length, tentative) = edit.Length;
        if (task.Milestone && !length.IsZero)
            throw new EditRefusedException("milestoneLength", $"“{LengthText.Shorten(task.Name)}” is a milestone and takes no time: turn it into a task first to give it a length.", task.Id, EditField.Length);
        if (LengthText.WhyUnusable(length, plan.Project.Units) is { } why)
            throw new EditRefusedException("length", why, task.Id, EditField.Length);
        if (SplitRules.WhyRefused(task.Splits, task.Milestone ? Length.Zero : length, plan.Project.Units) is not null)
            throw new EditRefusedException("split", $"“{LengthText.Shorten(task.Name)}” pauses after {task.Splits[^1].After.InWords()} of work, so it takes longer than that: give a greater length, or take out the pause first.", task.Id, EditField.Length);
        var changed = task with { Length = length, Tentative = tentative };
        return PlanEditor.Changed(plan, changed, edit, new SetLength(task.Id, new(task.Length, task.Tentative)), EditField.Length);
    }

    public static AppliedEdit SetMilestone(Plan plan, SetMilestone edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        RefusePhase(plan, task, EditField.Length, "rows would have nowhere to go: take them out of it before making it a milestone");
        if (edit.On && (!task.Splits.IsEmpty || task.Estimate is not null))
            throw new EditRefusedException("milestoneLength", $"A milestone takes no time: take out the pauses and the range of “{LengthText.Shorten(task.Name)}” first.", task.Id, EditField.Length);
        var kept = new TypedLength(task.Length, task.Tentative);
        var (length, tentative) = edit.On ? default : edit.Length ?? (task.Milestone ? task.LengthBefore ?? new TypedLength(Length.OneDay, Tentative: true) : kept);
        TypedLength? was = !edit.On ? null : edit.Length ?? (task.Milestone ? task.LengthBefore : kept);
        if (was is { Length.IsZero: true }) was = null;
        if (was is { } before && LengthText.WhyUnusable(before.Length, plan.Project.Units) is { } unusable) throw new EditRefusedException("length", unusable, task.Id, EditField.Length);
        if (LengthText.WhyUnusable(length, plan.Project.Units) is { } why) throw new EditRefusedException("length", why, task.Id, EditField.Length);
        var changed = task with { Milestone = edit.On, Length = edit.On ? Length.Zero : length, Tentative = tentative, LengthBefore = was };
        // Nothing says that what it took before is not known.
        var inverse = new SetMilestone(task.Id, task.Milestone, task.Milestone ? task.LengthBefore ?? new(Length.Zero) : kept);
        var decided = edit with { Length = edit.On ? was ?? new(Length.Zero) : new(length, tentative) };
        return PlanEditor.Changed(plan, changed, decided, inverse, EditField.Length);
    }

    public static AppliedEdit SetNote(Plan plan, SetNote edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        var note = edit.Note.ReplaceLineEndings("\n").TrimEnd();
        if (note.Length > PlanTask.LongestNote)
            throw new EditRefusedException("note", $"This note has {note.Length:N0} characters: shorten it to {PlanTask.LongestNote:N0} or fewer.", task.Id, EditField.Note);
        if (note.Any(c => char.IsControl(c) && c is not ('\n' or '\t')))
            throw new EditRefusedException("note", "A note is text: leave out control characters.", task.Id, EditField.Note);
        return PlanEditor.Changed(plan, task with { Note = note }, edit with { Note = note }, edit with { Note = task.Note }, EditField.Note);
    }

    public static string CheckName(string name, string task)
    {
        var trimmed = name.Trim();
        if (trimmed.Length == 0)
            throw new EditRefusedException("name", "A task needs a name: type what has to be done.", task, EditField.Name);
        if (trimmed.Length > PlanTask.LongestName)
            throw new EditRefusedException("name", $"This name has {trimmed.Length:N0} characters: shorten it to {PlanTask.LongestName} or fewer.", task, EditField.Name);
        if (trimmed.Any(char.IsControl))
            throw new EditRefusedException("name", "A name is one line of text: leave out line breaks and control characters.", task, EditField.Name);
        return trimmed;
    }

    /// <summary>The row that keeps a row from taking part: itself or a phase it is in; -1 when it takes part.</summary>
    public static int InactiveAt(Plan plan, int row)
    {
        while (row >= 0 && plan.Tasks[row].Active) row = plan.Index.ParentOf(row);
        return row;
    }

    /// <summary>Refuses what needs dates of a row that takes no part.</summary>
    public static void RefuseInactive(Plan plan, PlanTask task, EditField field)
    {
        if (InactiveAt(plan, plan.Index.RowOf(task.Id)) is var row and >= 0)
            throw new EditRefusedException("inactive", $"“{LengthText.Shorten(plan.Tasks[row].Name)}” takes no part in the plan, so it has no dates: let it take part first.", task.Id, field);
    }

    public static void RefusePhase(Plan plan, PlanTask task, EditField field, string itsWhat)
    {
        if (plan.Index.IsPhase(plan.Index.RowOf(task.Id)))
            throw new EditRefusedException("phase", $"“{LengthText.Shorten(task.Name)}” is a phase; its {itsWhat}.", task.Id, field);
    }
}
