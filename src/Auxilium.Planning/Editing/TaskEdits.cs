using System.Collections.Immutable;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.TaskEdits;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

public sealed record RenameTask(string Task, string Name) : PlanEdit, IEditKind
{
    public static string Wire => "renameTask";

    public override EditTraits Traits => new(Task, EditField.None, EditRight.Edit);

    public override string Many => "rows renamed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        var name = CheckName(Name, Task);
        return PlanEditor.Changed(
            plan,
            task with
            {
                Name = name,
            },
            this with
            {
                Name = name,
            },
            this with
            {
                Name = task.Name,
            },
            EditField.TaskName
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [Called(before, Task), new(" is now called "), Called(after, Task), new(".")];

    internal override bool IsLeft(Schedule before, Schedule after) =>
        before.Plan.Find(Task) is not null && after.Plan.Find(Task) is not null;

    public static PlanEdit Sample(EditSampler from) => new RenameTask(from.Any, "Renamed");
}

/// <param name="Length">Zero or more, at most ten years.</param>
public sealed record SetLength(string Task, TypedLength Length) : PlanEdit, IEditKind
{
    public static string Wire => "setLength";

    public override EditTraits Traits => new(Task, EditField.Length, EditRight.Edit);

    public override string Many => "lengths changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        RefusePhase(plan, task, EditField.Length, "length follows from the rows inside it: set theirs");
        var (length, tentative) = Length;
        if (task.Milestone && !length.IsZero)
            throw new EditRefusedException(
                "milestoneLength",
                $"“{LengthText.Shorten(task.Name)}” is a milestone and takes no time: turn it into a task first to give it a length.",
                task.Id,
                EditField.Length
            );
        if (LengthText.WhyUnusable(length, plan.Project.Units) is { } why)
            throw new EditRefusedException("length", why, task.Id, EditField.Length);
        if (SplitRules.WhyRefused(task.Splits, task.Milestone ? Plans.Length.Zero : length, plan.Project.Units) is not null)
            throw new EditRefusedException(
                "split",
                $"“{LengthText.Shorten(task.Name)}” pauses after {task.Splits[^1].After.InWords()} of work, so it takes longer than "
                    + "that: give a greater length, or take out the pause first.",
                task.Id,
                EditField.Length
            );
        var changed = task with { Length = length, Tentative = tentative };
        return PlanEditor.Changed(plan, changed, this, new SetLength(task.Id, new(task.Length, task.Tentative)), EditField.Length);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after)
    {
        var was = before.Plan.Find(Task);
        yield return Called(after, Task);
        var (length, tentative) = Length;
        if (was is null)
            yield return new($" takes {length.InWords()}{(tentative ? " (a guess)" : "")}.");
        else if (was.Length == length)
            yield return new(tentative ? $" still takes {length.InWords()}, as a guess." : $" takes {length.InWords()}, confirmed.");
        else
            yield return new($" now takes {length.InWords()}{(tentative ? " (a guess)" : "")} instead of {was.Length.InWords()}.");
    }

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is SetLength s && s.Length == Length) ? [new($" now take {Length.Length.InWords()} each.")] : null;

    public static PlanEdit Sample(EditSampler from) => new SetLength(from.Leaf, new(Plans.Length.Days(from.Random.Next(9)), from.Flip));
}

/// <summary>Makes a task a milestone, or a milestone a task.</summary>
/// <param name="Length">
/// Of a task: what it takes; left out, what it took before it was a milestone, or a guessed day. Of a milestone: what it took before;
/// nothing
/// where that is not known.
/// </param>
public sealed record SetMilestone(string Task, bool On, TypedLength? Length = null) : PlanEdit, IEditKind
{
    public static string Wire => "setMilestone";

    public override EditTraits Traits => new(Task, EditField.Length, EditRight.Edit);

    public override string Many => "milestones set or taken away";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        RefusePhase(plan, task, EditField.Length, "rows would have nowhere to go: take them out of it before making it a milestone");
        if (On && (!task.Splits.IsEmpty || task.Estimate is not null))
            throw new EditRefusedException(
                "milestoneLength",
                $"A milestone takes no time: take out the pauses and the range of “{LengthText.Shorten(task.Name)}” first.",
                task.Id,
                EditField.Length
            );
        var kept = new TypedLength(task.Length, task.Tentative);
        var (length, tentative) = On
            ? default
            : Length ?? (task.Milestone ? task.LengthBefore ?? new TypedLength(Plans.Length.OneDay, Tentative: true) : kept);
        TypedLength? was = !On ? null : Length ?? (task.Milestone ? task.LengthBefore : kept);
        if (was is { Length.IsZero: true })
            was = null;
        if (was is { } before && LengthText.WhyUnusable(before.Length, plan.Project.Units) is { } unusable)
            throw new EditRefusedException("length", unusable, task.Id, EditField.Length);
        if (LengthText.WhyUnusable(length, plan.Project.Units) is { } why)
            throw new EditRefusedException("length", why, task.Id, EditField.Length);
        var changed = task with { Milestone = On, Length = On ? Plans.Length.Zero : length, Tentative = tentative, LengthBefore = was };
        // Nothing says that what it took before is not known.
        var inverse = new SetMilestone(task.Id, task.Milestone, task.Milestone ? task.LengthBefore ?? new(Plans.Length.Zero) : kept);
        var decided = this with { Length = On ? was ?? new(Plans.Length.Zero) : new(length, tentative) };
        return PlanEditor.Changed(plan, changed, decided, inverse, EditField.Length);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { On: true } => [Called(after, Task), new(" is now a milestone.")],
            _ => [Called(after, Task), new($" is now a task of {after.Plan.Find(Task)!.Length.InWords()}.")],
        };

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is SetMilestone s && s.On == On) ? [new(On ? " are now milestones." : " are no longer milestones.")] : null;

    public static PlanEdit Sample(EditSampler from) => new SetMilestone(from.Leaf, from.Flip);
}

/// <summary>What there is to know about a task, in lines of text; empty for nothing.</summary>
public sealed record SetNote(string Task, string Note) : PlanEdit, IEditKind
{
    public static string Wire => "setNote";

    public override EditTraits Traits => new(Task, EditField.Note, EditRight.Edit);

    public override string Many => "notes changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        var note = Note.ReplaceLineEndings("\n").TrimEnd();
        if (note.Length > PlanTask.LongestNote)
            throw new EditRefusedException(
                "note",
                $"This note has {note.Length:N0} characters: shorten it to {PlanTask.LongestNote:N0} or fewer.",
                task.Id,
                EditField.Note
            );
        if (note.Any(c => char.IsControl(c) && c is not ('\n' or '\t')))
            throw new EditRefusedException("note", "A note is text: leave out control characters.", task.Id, EditField.Note);
        return PlanEditor.Changed(
            plan,
            task with
            {
                Note = note,
            },
            this with
            {
                Note = note,
            },
            this with
            {
                Note = task.Note,
            },
            EditField.Note
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { Note: "" } => [Called(after, Task), new(" has no note now.")],
            _ => [new("The note of "), Called(after, Task), new(" has changed.")],
        };

    public static PlanEdit Sample(EditSampler from) => new SetNote(from.Any, "Noted\nTwice");
}

/// <summary>Name, length and milestone of one task.</summary>
internal static class TaskEdits
{
    public static string CheckName(string name, string task)
    {
        var trimmed = name.Trim();
        if (trimmed.Length == 0)
            throw new EditRefusedException("name", "A task needs a name: type what has to be done.", task, EditField.TaskName);
        if (trimmed.Length > PlanTask.LongestName)
            throw new EditRefusedException(
                "name",
                $"This name has {trimmed.Length:N0} characters: shorten it to {PlanTask.LongestName} or fewer.",
                task,
                EditField.TaskName
            );
        if (trimmed.Any(char.IsControl))
            throw new EditRefusedException(
                "name",
                "A name is one line of text: leave out line breaks and control characters.",
                task,
                EditField.TaskName
            );
        return trimmed;
    }

    /// <summary>The row that makes a row inactive: itself or a phase it is in; -1 if it is active.</summary>
    public static int InactiveAt(Plan plan, int row)
    {
        while (row >= 0 && plan.Tasks[row].Active)
            row = plan.Index.ParentOf(row);
        return row;
    }

    /// <summary>Refuses what needs dates of an inactive row.</summary>
    public static void RefuseInactive(Plan plan, PlanTask task, EditField field)
    {
        if (InactiveAt(plan, plan.Index.RowOf(task.Id)) is var row and >= 0)
            throw new EditRefusedException(
                "inactive",
                $"“{LengthText.Shorten(plan.Tasks[row].Name)}” is inactive, so it has no dates: make it active first.",
                task.Id,
                field
            );
    }

    public static void RefusePhase(Plan plan, PlanTask task, EditField field, string itsWhat)
    {
        if (plan.Index.IsPhase(plan.Index.RowOf(task.Id)))
            throw new EditRefusedException("phase", $"“{LengthText.Shorten(task.Name)}” is a phase; its {itsWhat}.", task.Id, field);
    }
}
