using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Editing;

/// <summary>Leads a plan back to what it was (rule S5).</summary>
public static class Rewind
{
    /// <summary>Takes back edits without working out dates on the way: what takes an edit back has decided everything.</summary>
    /// <param name="now">The plan as the newest of the edits left it.</param>
    /// <param name="inverses">What takes each of them back, the newest first.</param>
    /// <param name="cancel">Cancels the way back.</param>
    /// <returns>The plan before the oldest of them.</returns>
    /// <exception cref="EditRefusedException">One of them does not belong to this plan.</exception>
    public static Plan Back(Schedule now, IEnumerable<PlanEdit> inverses, CancellationToken cancel = default)
    {
        var plan = now.Plan;
        foreach (var inverse in inverses)
        {
            var context = new EditContext(now, default, [])
            {
                IsTakenBack = true,
                IsPast = true,
                Cancel = cancel,
            };
            plan = inverse.Apply(plan, context).Plan;
        }
        return plan;
    }
}
