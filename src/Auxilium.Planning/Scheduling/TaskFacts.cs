using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>What a task has besides its links that its dates depend on.</summary>
[Flags]
internal enum TaskTraits : byte
{
    None = 0,
    Started = 1,
    Finished = 2,
    Pinned = 4,

    /// <summary>It must start or finish on a date, and is not pinned.</summary>
    Must = 8,

    /// <summary>It has a date it goes not before.</summary>
    NotBefore = 16,
    Progress = 32,

    /// <summary>Its links do not move it.</summary>
    Fixed = Started | Finished | Pinned | Must,
}

/// <summary>
/// What the passes ask of every leaf, by row, side by side in arrays, gathered in one walk over the tasks: most tasks have no traits,
/// and need not be fetched from memory again.
/// </summary>
internal sealed class TaskFacts
{
    private const int YearsToFindWork = 20;

    private TaskFacts(int rows)
    {
        Calendars = new WorkTime[rows];
        Traits = new TaskTraits[rows];
        Lengths = new int[rows];
    }

    /// <summary>Effective calendars (rule T5).</summary>
    public WorkTime[] Calendars { get; }

    public TaskTraits[] Traits { get; }

    /// <summary>Working minutes; 0 for milestones and phases.</summary>
    public int[] Lengths { get; }

    /// <exception cref="UnsoundPlanException">A task's calendar has no working minute in 20 years from the project start.</exception>
    public static TaskFacts Of(Plan plan)
    {
        var facts = new TaskFacts(plan.Index.Count);
        var project = plan.ProjectCalendar;
        var minutesPerDay = plan.Project.Units.MinutesPerDay;
        var peopleHaveCalendars = plan.People.Any(p => p.Calendar is not null);
        var usable = new HashSet<WorkTime>(ReferenceEqualityComparer.Instance);
        WorkTime? last = null;
        for (var row = 0; row < facts.Calendars.Length; row++)
        {
            if (plan.Index.IsPhase(row)) continue;
            var task = plan.Tasks[row];
            var plain = task is { AroundTheClock: false, Calendar: null } && (!peopleHaveCalendars || task.Owner is null);
            var calendar = plain ? project : plan.EffectiveCalendar(task);
            facts.Calendars[row] = calendar;
            facts.Traits[row] = TraitsOf(task);
            // Whole days, which most lengths are, need no exact reckoning.
            facts.Lengths[row] = task is { Milestone: false, Length: { Unit: LengthUnit.Days, Amount: { Scale: 0 } and <= 10_000 and var days } }
                ? (int)days * minutesPerDay
                : plan.LengthOf(task).Count;
            if (ReferenceEquals(calendar, last)) continue;
            last = calendar;
            if (usable.Add(calendar) && calendar.Between(plan.Project.Start, LookAheadFrom(plan.Project.Start)) == 0) throw NoWork(plan, row);
        }
        return facts;
    }

    private static TaskTraits TraitsOf(PlanTask task)
    {
        var traits = task.Progress == 0 ? TaskTraits.None : TaskTraits.Progress;
        if (task.IsStarted) traits |= TaskTraits.Started;
        if (task.IsFinished) traits |= TaskTraits.Finished;
        if (task.Pinned is not null) return traits | TaskTraits.Pinned;
        return traits | task.Constraint?.Kind switch
        {
            null => TaskTraits.None,
            ConstraintKind.MustStartOn or ConstraintKind.MustFinishOn => TaskTraits.Must,
            _ => TaskTraits.NotBefore,
        };
    }

    private static PlanTime LookAheadFrom(PlanTime start) => PlanTime.FromDateTime(start.ToDateTime().AddYears(YearsToFindWork));

    private static UnsoundPlanException NoWork(Plan plan, int row) =>
        new([PlanProblem.About(
            "noWorkingTime",
            $"{LinkRules.Named(plan, row)} has no working time in the {YearsToFindWork} years from the project start: give its calendar, or its owner's, some working days that meet.",
            plan.Tasks[row].Id)]);
}
