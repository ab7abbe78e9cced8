using System.Collections.Immutable;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using static Auxilium.Planning.Editing.EditText;
using static Auxilium.Planning.Editing.MarkEdits;

namespace Auxilium.Planning.Editing;

/// <summary>Whether a task is one of those that matter most.</summary>
public sealed record SetKey(string Task, bool On) : PlanEdit, IEditKind
{
    public static string Wire => "setKey";

    public override EditTraits Traits => new(Task, EditField.Key, EditRight.Edit);

    public override string Many => "marks changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        return PlanEditor.Changed(plan, task with { Key = On }, this, this with { On = task.Key }, EditField.Key);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [Called(after, Task), new(On ? " is a key task." : " is no longer a key task.")];

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is SetKey s && s.On == On) ? [new(On ? " are key tasks." : " are no longer key tasks.")] : null;

    public static PlanEdit Sample(EditSampler from) => new SetKey(from.Any, from.Flip);
}

/// <param name="Colour">One of <see cref="TaskMarks.Colours"/>; <c>null</c> for none.</param>
public sealed record SetColour(string Task, string? Colour) : PlanEdit, IEditKind
{
    public static string Wire => "setColour";

    public override EditTraits Traits => new(Task, EditField.Colour, EditRight.Edit);

    public override string Many => "marks changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (Colour is { } colour && !TaskMarks.Colours.Contains(colour))
            throw new EditRefusedException(
                "colour",
                $"“{LengthText.Shorten(colour)}” is not a colour that rows can have: use {string.Join(", ", TaskMarks.Colours)}, or none.",
                task.Id,
                EditField.Colour
            );
        return PlanEditor.Changed(plan, task with { Colour = Colour }, this, this with { Colour = task.Colour }, EditField.Colour);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { Colour: { } colour } => [Called(after, Task), new($" is marked in {colour}.")],
            _ => [Called(after, Task), new(" has no colour of its own now.")],
        };

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is SetColour s && s.Colour == Colour)
            ? [new(Colour is { } colour ? $" are marked in {colour}." : " have no colour of their own now.")]
            : null;

    public static PlanEdit Sample(EditSampler from) => new SetColour(from.Any, from.Flip ? null : TaskMarks.Colours[from.Random.Next(5)]);
}

/// <summary>A word of one's own to gather tasks by; <c>null</c> or empty for none.</summary>
public sealed record SetLabel(string Task, string? Label) : PlanEdit, IEditKind
{
    public static string Wire => "setLabel";

    public override EditTraits Traits => new(Task, EditField.Label, EditRight.Edit);

    public override string Many => "marks changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        var label = Label?.Trim() is { Length: > 0 } typed ? typed : null;
        if (label is not null && TaskMarks.WhyRefusedLabel(label) is { } why)
            throw new EditRefusedException("label", why, task.Id, EditField.Label);
        return PlanEditor.Changed(
            plan,
            task with
            {
                Label = label,
            },
            this with
            {
                Label = label,
            },
            this with
            {
                Label = task.Label,
            },
            EditField.Label
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { Label: { Length: > 0 } label } => [Called(after, Task), new(" is labelled "), new(label, true), new(".")],
            _ => [Called(after, Task), new(" has no label now.")],
        };

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is SetLabel s && s.Label == Label)
            ? Label is { } label
                ? [new(" are labelled "), new(label, true), new(".")]
                : [new(" have no label now.")]
            : null;

    public static PlanEdit Sample(EditSampler from) => new SetLabel(from.Any, from.Flip ? "print" : null);
}

/// <summary>The small steps of a task, in order.</summary>
public sealed record SetChecklist(string Task, ImmutableArray<ChecklistStep> Steps) : PlanEdit, IEditKind
{
    public static string Wire => "setChecklist";

    public override EditTraits Traits => new(Task, EditField.Checklist, EditRight.Report);

    public override string Many => "checklists changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        ImmutableArray<ChecklistStep> steps = Steps.IsDefaultOrEmpty
            ? []
            : [.. Steps.Select(step => step with { Text = step.Text.Trim() })];
        if (steps.Length > TaskMarks.MostSteps)
            throw new EditRefusedException(
                "checklist",
                $"A checklist has at most {TaskMarks.MostSteps} steps: make tasks of some.",
                task.Id,
                EditField.Checklist
            );
        if (steps.Select(TaskMarks.WhyRefused).FirstOrDefault(why => why is not null) is { } refused)
            throw new EditRefusedException("checklist", refused, task.Id, EditField.Checklist);
        return PlanEditor.Changed(
            plan,
            task with
            {
                Checklist = steps,
            },
            this with
            {
                Steps = steps,
            },
            this with
            {
                Steps = task.Checklist,
            },
            EditField.Checklist
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [Called(after, Task), new(StepsOf(after.Plan.Find(Task)!))];

    public static PlanEdit Sample(EditSampler from) => new SetChecklist(from.Any, from.Flip ? [] : [new("Call", true), new("Pay")]);
}

/// <summary>The pages and addresses that belong to a task, in order.</summary>
public sealed record SetReferences(string Task, ImmutableArray<Reference> References) : PlanEdit, IEditKind
{
    public static string Wire => "setReferences";

    public override EditTraits Traits => new(Task, EditField.References, EditRight.Edit);

    public override string Many => "links to pages changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        ImmutableArray<Reference> references = References.IsDefaultOrEmpty
            ? []
            : [.. References.Select(r => new Reference(r.Address.Trim(), (r.Title ?? "").Trim()))];
        if (references.Length > TaskMarks.MostReferences)
            throw new EditRefusedException(
                "references",
                $"A task has at most {TaskMarks.MostReferences} links to pages.",
                task.Id,
                EditField.References
            );
        if (references.Select(TaskMarks.WhyRefused).FirstOrDefault(why => why is not null) is { } refused)
            throw new EditRefusedException("references", refused, task.Id, EditField.References);
        return PlanEditor.Changed(
            plan,
            task with
            {
                References = references,
            },
            this with
            {
                References = references,
            },
            this with
            {
                References = task.References,
            },
            EditField.References
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [
            Called(after, Task),
            new(
                References.IsEmpty ? " has no links to pages now."
                : References.Length == 1 ? " has a link to a page."
                : $" has {References.Length} links to pages."
            ),
        ];

    public static PlanEdit Sample(EditSampler from) => new SetReferences(from.Any, from.Flip ? [] : [new("https://tidewell.example")]);
}

/// <param name="Priority">0 to 1000; 500 is usual.</param>
public sealed record SetPriority(string Task, int Priority) : PlanEdit, IEditKind
{
    public static string Wire => "setPriority";

    public override EditTraits Traits => new(Task, EditField.Priority, EditRight.Edit);

    public override string Many => "marks changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (Priority is < 0 or > 1000)
            throw new EditRefusedException(
                "priority",
                "Priority is a whole number from 0 to 1000; 500 is usual.",
                task.Id,
                EditField.Priority
            );
        return PlanEditor.Changed(
            plan,
            task with
            {
                Priority = Priority,
            },
            this,
            this with
            {
                Priority = task.Priority,
            },
            EditField.Priority
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [Called(after, Task), new($" has priority {Priority}.")];

    public static PlanEdit Sample(EditSampler from) => new SetPriority(from.Any, from.Random.Next(1001));
}

/// <summary>What a task is marked with: nothing of it moves a date.</summary>
internal static class MarkEdits
{
    internal static string StepsOf(PlanTask task) =>
        task.Checklist.IsEmpty ? " has no checklist now."
        : task.Checklist.All(step => step.Done) ? " has all steps of its checklist done."
        : $" has {task.Checklist.Count(step => step.Done)} of {task.Checklist.Length} steps done.";
}
