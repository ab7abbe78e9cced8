using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Editing;

/// <summary>An edit with everything that follows from it.</summary>
/// <param name="Today">The day it was made.</param>
public sealed record EditedPlan(AppliedEdit Applied, Schedule Before, Schedule After, Ripple Ripple, DateOnly Today);

/// <summary>The one way a plan changes: apply the edit, work out the dates, say what moved.</summary>
public static class EditPipeline
{
    /// <summary>What may make a plan more than can be worked out.</summary>
    private static readonly HashSet<EditField> Costly =
    [
        EditField.None,
        EditField.Owner,
        EditField.Calendar,
        EditField.Calendars,
        EditField.People,
        EditField.ProjectCalendar,
    ];

    /// <inheritdoc cref="Run(PlanEdit, EditContext)"/>
    public static EditedPlan Run(Schedule before, PlanEdit edit, DateOnly today, IReadOnlyList<Person> directory) =>
        Run(edit, new EditContext(before, today, directory));

    /// <param name="edit">What is to change.</param>
    /// <param name="context">The plan with its dates, and what else the edit is understood by; made anew for each edit.</param>
    /// <exception cref="EditRefusedException">
    /// The edit makes no sense on this plan, costs too much, or no schedule can honour what it asks.
    /// </exception>
    /// <exception cref="OperationCanceledException">It was cancelled.</exception>
    public static EditedPlan Run(PlanEdit edit, EditContext context)
    {
        var before = context.Schedule;
        try
        {
            var applied = edit.Apply(before.Plan, context);
            var now = applied.Plan;
            if (applied.Touched.Any(t => Costly.Contains(t.Field)) && PlanCost.WhyTooMuch(now) is { } why)
                throw new EditRefusedException("tooMuch", why, edit.Traits.Task, EditField.Calendars);
            var after = Scheduler.Calculate(now, before, context.Cancel);
            return new EditedPlan(applied, before, after, Ripple.Between(before, after), context.Today);
        }
        catch (UnsoundPlanException unsound)
        {
            var problem = unsound.Problems[0];
            throw new EditRefusedException(problem.Code, problem.Message, edit.Traits.Task, edit.Traits.Field);
        }
    }

    /// <summary>An edit with all that it is made of, however it is put together.</summary>
    public static IEnumerable<PlanEdit> PartsOf(PlanEdit edit) => edit is Together together ? together.Edits.SelectMany(PartsOf) : [edit];
}
