using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Editing;

/// <summary>What an edit is understood by, besides the plan itself.</summary>
/// <param name="Schedule">The dates of the plan as the edit finds it.</param>
/// <param name="Today">The day it is.</param>
/// <param name="Directory">The people of the organisation, whether on this plan or not.</param>
/// <param name="Left">Those who have left it: nothing new is given to them.</param>
public sealed record EditContext(Schedule Schedule, DateOnly Today, IReadOnlyList<Person> Directory, IReadOnlyList<Person>? Left = null)
{
    /// <summary>A schedule that has a task of a plan: of several edits made together, one may add it and the next go by its dates.</summary>
    /// <exception cref="UnsoundPlanException">The plan, as it has become, cannot be worked out.</exception>
    internal Schedule ScheduleWith(string task, Plan plan) => Schedule.Plan.Find(task) is null ? Scheduler.Calculate(plan) : Schedule;
}

/// <summary>An edit that was applied.</summary>
/// <param name="Plan">The plan afterwards.</param>
/// <param name="Edit">The edit with everything that was left open decided, so that applying it again does the same.</param>
/// <param name="Inverse">The edit that takes it back.</param>
/// <param name="Touched">What it changed.</param>
public sealed record AppliedEdit(Plan Plan, PlanEdit Edit, PlanEdit Inverse, IReadOnlyList<Touch> Touched);
