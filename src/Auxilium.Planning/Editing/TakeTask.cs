using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>Somebody takes a task that nobody does yet. Of one that is for a team or role, members of the project may do that.</summary>
/// <param name="Person">Id of somebody on the plan.</param>
public sealed record TakeTask(string Task, string Person) : UndecidedEdit, IEditKind
{
    public static string Wire => "takeTask";

    public override EditTraits Traits => new(Task, EditField.Owner, EditRight.Report, EditNeeds.Left);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (task.Owner is { } owner)
            throw new EditRefusedException(
                "taken",
                $"{plan.FindPerson(owner)?.Name ?? owner} has taken this task already.",
                task.Id,
                EditField.Owner
            );
        if (plan.FindPerson(Person) is null)
            throw new EditRefusedException(
                "unknownPerson",
                "Whoever takes a task is on its plan: ask who coordinates the project to add them.",
                task.Id,
                EditField.Owner
            );
        return new SetAssignments(task.Id, [new Assignment(Person)]).Apply(plan, context);
    }

    public static PlanEdit Sample(EditSampler from) => new TakeTask(from.Untaken(), from.Flip ? "ann" : "bo");
}
