using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;

namespace Auxilium.Web.Access;

/// <summary>
/// What a member of a project may change without asking, which is how far their own tasks are, and what they may ask for.
/// </summary>
internal static class OwnWork
{
    public static bool Allows(PlanEdit edit, Plan plan, string person) =>
        edit is Together together ? together.Edits.Length > 0 && together.Edits.All(e => Allows(e, plan, person))
        : edit is TakeTask take ? take.Person == person && IsOpen(plan, take.Task)
        : edit.Traits.Right == EditRight.Report && IsTheirs(plan, edit.Traits.Task, person);

    /// <summary>
    /// Whether somebody may propose an edit to those who decide. Who is on a plan, when they work and who coordinates it is decided by
    /// those who have the right to, and by nobody's click on something else.
    /// </summary>
    public static bool MayBeProposed(PlanEdit edit) => EditPipeline.PartsOf(edit).All(e => e.Traits.Right != EditRight.People);

    /// <summary>Whether a task is for a team or role, and nobody has taken it.</summary>
    private static bool IsOpen(Plan plan, string task) =>
        plan.Find(task) is { Assignments.IsEmpty: true } found && PlainFacts.Role.Of(found) is not null;

    public static bool IsTheirs(Plan plan, string? task, string person) =>
        task is not null && plan.Find(task) is { } found && found.Assignments.Any(a => a.Person == person);
}
