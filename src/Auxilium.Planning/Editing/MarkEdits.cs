using System.Collections.Immutable;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.MarkEdits;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

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

/// <summary>What a task is marked with: nothing of it moves a date.</summary>
internal static class MarkEdits
{
    internal static string StepsOf(PlanTask task) =>
        task.Checklist.IsEmpty ? " has no checklist now."
        : task.Checklist.All(step => step.Done) ? " has all steps of its checklist done."
        : $" has {task.Checklist.Count(step => step.Done)} of {task.Checklist.Length} steps done.";
}
