using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Editing;

/// <summary>What an edit needs to be understood, besides the plan itself.</summary>
/// <param name="Schedule">The dates of the plan as the edit finds it.</param>
/// <param name="Today">Today.</param>
/// <param name="Directory">The people of the organisation, whether on this plan or not.</param>
/// <param name="Left">Those who have left it: nothing new is given to them.</param>
public sealed record EditContext(Schedule Schedule, DateOnly Today, IReadOnlyList<Person> Directory, IReadOnlyList<Person>? Left = null)
{
    /// <summary>The most rows that one edit may go through.</summary>
    private const long MostRows = 250_000_000;

    /// <summary>Calculating the dates of a row costs about as much as going through this many.</summary>
    private const int RowsADate = 20;

    private readonly Spent _spent = new();

    /// <summary>Rows that people have written comments on, or brought files to.</summary>
    public IReadOnlySet<string> Spoken { get; init; } = new HashSet<string>();

    /// <summary>Gives the plan as it was at a version, and the day it became so; <c>null</c> for a version that it never had.</summary>
    public Func<int, (Schedule Schedule, DateOnly Day)?>? Past { get; init; }

    /// <summary>Gives what a plan costs; <c>null</c> where nobody has said anything of money.</summary>
    public Func<Schedule, PlanMoney>? Costs { get; init; }

    /// <summary>Whether the edit takes another back, and so brings back people whose names may have changed since.</summary>
    public bool IsTakenBack { get; init; }

    /// <summary>Whether the plan is an earlier one than <see cref="Schedule"/> is of, which then says nothing about it.</summary>
    internal bool IsPast { get; init; }

    /// <summary>Cancels the edit.</summary>
    public CancellationToken Cancel { get; init; }

    /// <summary>Says what the next step costs, before it is made.</summary>
    /// <param name="rows">How many rows it goes through.</param>
    /// <exception cref="EditRefusedException">All steps together cost more than one edit may.</exception>
    /// <exception cref="OperationCanceledException">The edit was cancelled.</exception>
    internal void Spend(long rows)
    {
        Cancel.ThrowIfCancellationRequested();
        if ((_spent.Rows += rows) > MostRows)
            throw new EditRefusedException("tooMuch", "This is more than can be worked out in one edit: make it in several.");
    }

    /// <summary>The dates of a plan that may have gone on from the one that the edit was made on.</summary>
    /// <exception cref="UnsoundPlanException">The plan, as it has become, cannot be worked out.</exception>
    internal Schedule ScheduleOf(Plan plan)
    {
        if (ReferenceEquals(Schedule.Plan, plan))
            return Schedule;
        Spend((long)RowsADate * plan.Tasks.Length);
        return Scheduler.Calculate(plan, Schedule, Cancel);
    }

    private sealed class Spent
    {
        public long Rows;
    }

    /// <summary>
    /// A schedule that has a task of a plan: of several edits made together, one may add it and the next go by its dates.
    /// </summary>
    /// <exception cref="UnsoundPlanException">The plan, as it has become, cannot be worked out.</exception>
    internal Schedule ScheduleWith(string task, Plan plan)
    {
        if (!IsPast && Schedule.Plan.Find(task) is not null)
            return Schedule;
        Spend((long)RowsADate * plan.Tasks.Length);
        return Scheduler.Calculate(plan, Cancel);
    }
}

/// <summary>An edit that was applied.</summary>
/// <param name="Plan">The plan afterwards.</param>
/// <param name="Edit">The edit with everything that was left open decided, so that applying it again has the same effect.</param>
/// <param name="Inverse">The edit that takes it back.</param>
/// <param name="Touched">What it changed.</param>
public sealed record AppliedEdit(Plan Plan, PlanEdit Edit, PlanEdit Inverse, IReadOnlyList<Touch> Touched);
