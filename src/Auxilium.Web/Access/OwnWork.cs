using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;

namespace Auxilium.Web.Access;

/// <summary>What a member of a project may change without asking: how far their own tasks are.</summary>
internal static class OwnWork
{
    public static bool Allows(PlanEdit edit, Plan plan, string person) => edit switch
    {
        StartTask or ReportProgress or FinishTask or SetRemaining or SetTracking or SetChecklist => IsTheirs(plan, EditPipeline.TaskOf(edit), person),
        Together together => together.Edits.Length > 0 && together.Edits.All(e => Allows(e, plan, person)),
        _ => false,
    };

    public static bool IsTheirs(Plan plan, string? task, string person) =>
        task is not null && plan.Find(task) is { } found && found.Assignments.Any(a => a.Person == person);
}
