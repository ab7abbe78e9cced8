using System.Runtime.InteropServices;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>What a task has besides its links that its dates depend on.</summary>
[Flags]
internal enum TaskTraits : ushort
{
    None = 0,
    Started = 1,
    Finished = 2,
    Pinned = 4,

    /// <summary>It must start or finish on a date, and is not pinned.</summary>
    Must = 8,

    /// <summary>It has a date it goes not before.</summary>
    NotBefore = 16,

    /// <summary>It has a date it goes not after.</summary>
    NotAfter = 32,

    /// <summary>It goes as late as it can where others go as soon, or the other way round (rules F5, R1).</summary>
    Contrary = 64,
    Progress = 128,

    /// <summary>It has dates of its own: a task or a milestone, in which there are no rows.</summary>
    Leaf = 256,

    /// <summary>It takes no part (rule K4): it, a phase it is in, or every row in it is inactive.</summary>
    Off = 512,
    Deadline = 1024,

    /// <summary>A link binds its finish.</summary>
    FinishBound = 2048,

    /// <summary>Its links do not move it.</summary>
    Fixed = Started | Finished | Pinned | Must,
}

/// <summary>
/// What the passes ask of every leaf, by row, side by side in arrays, gathered in one walk over the tasks: most tasks have no traits,
/// and need not be fetched from memory again.
/// </summary>
internal sealed class TaskInputs
{
    private const int YearsToFindWork = 20;

    private TaskInputs(int rows)
    {
        Calendars = new WorkTime[rows];
        Traits = new TaskTraits[rows];
        Lengths = new int[rows];
        Spans = Lengths;
    }

    private TaskInputs(TaskInputs known)
    {
        Calendars = [.. known.Calendars];
        Traits = [.. known.Traits];
        Lengths = [.. known.Lengths];
        Spans = ReferenceEquals(known.Spans, known.Lengths) ? Lengths : [.. known.Spans];
        Any = known.Any;
    }

    /// <summary>Effective calendars (rule T5).</summary>
    public WorkTime[] Calendars { get; }

    public TaskTraits[] Traits { get; }

    /// <summary>Working minutes; 0 for milestones and phases.</summary>
    public int[] Lengths { get; }

    /// <summary>Working minutes with pauses: from start to finish. The same array as the lengths where no task pauses.</summary>
    public int[] Spans { get; private set; }

    /// <summary>Traits that any task has.</summary>
    public TaskTraits Any { get; private set; }

    public bool IsLeaf(int row) => (Traits[row] & TaskTraits.Leaf) != 0;

    public bool IsOff(int row) => (Traits[row] & TaskTraits.Off) != 0;

    /// <summary>It rolls up active rows.</summary>
    public bool IsPhase(int row) => (Traits[row] & (TaskTraits.Leaf | TaskTraits.Off)) == 0;

    /// <exception cref="UnsoundPlanException">A task's calendar has no working minute in 20 years from the project start.</exception>
    public static TaskInputs Of(Plan plan)
    {
        var facts = new TaskInputs(plan.Index.Count);
        var people = new Owners(plan);
        for (var row = 0; row < facts.Calendars.Length; row++)
        {
            if (!plan.Tasks[row].Active)
                return WithSomeOff(plan);
            if (plan.Index.IsLeaf(row))
                facts.Traits[row] = TaskTraits.Leaf;
            facts.Gather(plan, people, row);
        }
        return facts;
    }

    private static TaskInputs WithSomeOff(Plan plan)
    {
        var facts = new TaskInputs(plan.Index.Count);
        facts.FindLeaves(plan);
        var people = new Owners(plan);
        for (var row = 0; row < facts.Calendars.Length; row++)
            if (!facts.IsOff(row))
                facts.Gather(plan, people, row);
        return facts;
    }

    /// <summary>
    /// The facts of a plan with the same outline and the same rows taking part, gathered anew only for the rows that are other.
    /// </summary>
    public static TaskInputs Of(Plan plan, Plan before, TaskInputs known)
    {
        if (plan.Tasks == before.Tasks)
            return known;
        var facts = new TaskInputs(known);
        var people = new Owners(plan);
        for (var row = 0; row < facts.Calendars.Length; row++)
        {
            if (ReferenceEquals(plan.Tasks[row], before.Tasks[row]))
                continue;
            facts.Traits[row] &= TaskTraits.Leaf | TaskTraits.FinishBound;
            facts.Gather(plan, people, row);
        }
        return facts;
    }

    private void Gather(Plan plan, Owners people, int row)
    {
        var task = plan.Tasks[row];
        if (!IsLeaf(row))
        {
            // All that matters of a phase.
            if (task.Deadline is not null)
                Any |= Traits[row] |= TaskTraits.Deadline;
            return;
        }
        var project = plan.ProjectCalendar;
        var contrary = plan.Project.ScheduleFrom == ScheduleFrom.Start ? ConstraintKind.AsLateAsPossible : ConstraintKind.AsSoonAsPossible;
        var owners = people.CalendarOf(task);
        var calendar =
            task is { AroundTheClock: false, Calendar: null } && owners is null ? project : people.EffectiveCalendar(task, owners);
        Calendars[row] = calendar;
        var traits = Traits[row] |= TraitsOf(task, contrary);
        Any |= traits;
        // Whole days, which most lengths are, need no exact reckoning.
        Lengths[row] = task is { Milestone: false, Length: { Unit: LengthUnit.Days, Amount: { Scale: 0 } and <= 10_000 and var days } }
            ? (int)days * plan.Project.Units.MinutesPerDay
            : plan.LengthOf(task).Count;
        if (task.IsSplit || !ReferenceEquals(Spans, Lengths))
            SetSpan(plan, task, row);
        if (people.IsSeen(calendar))
            return;
        if (!HasWork(plan.Project, calendar))
            throw NoWork(plan, row);
    }

    private void FindLeaves(Plan plan)
    {
        var index = plan.Index;
        var off = 0;
        for (var row = 0; row < Traits.Length; row++)
        {
            if (row < off || !plan.Tasks[row].Active)
            {
                off = Math.Max(off, index.SubtreeEnd(row));
                Traits[row] = TaskTraits.Off;
            }
            else if (index.IsLeaf(row))
            {
                Traits[row] = TaskTraits.Leaf;
            }
        }
        if (off == 0)
            return;
        Any |= TaskTraits.Off;
        // Nor does a phase take part that has rows but no active one; those inside first.
        for (var row = Traits.Length - 1; row >= 0; row--)
            if (IsPhase(row) && index.ChildrenOf(row).All(IsOff))
                Traits[row] = TaskTraits.Off;
    }

    /// <summary>The same facts, to be changed apart from these.</summary>
    public TaskInputs Copy() => new(this);

    /// <summary>Gives a leaf another length, and the pauses that still fall into it.</summary>
    public void SetLength(Plan plan, int row, int minutes)
    {
        Lengths[row] = minutes;
        if (!ReferenceEquals(Spans, Lengths))
            Spans[row] = minutes + Pauses.Within(plan.Project.Units, plan.Tasks[row], minutes);
    }

    private void SetSpan(Plan plan, PlanTask task, int row)
    {
        if (ReferenceEquals(Spans, Lengths))
            Spans = [.. Lengths];
        Spans[row] = Lengths[row] + Pauses.Within(plan.Project.Units, task, Lengths[row]);
    }

    private static TaskTraits TraitsOf(PlanTask task, ConstraintKind contrary)
    {
        var traits = task.Progress == 0 ? TaskTraits.None : TaskTraits.Progress;
        if (task.Deadline is not null)
            traits |= TaskTraits.Deadline;
        if (task.IsStarted)
            traits |= TaskTraits.Started;
        if (task.IsFinished)
            traits |= TaskTraits.Finished;
        if (task.Pinned is not null)
            return traits | TaskTraits.Pinned;
        return traits
            | task.Constraint switch
            {
                null => TaskTraits.None,
                { IsMust: true } => TaskTraits.Must,
                { IsNotBefore: true } => TaskTraits.NotBefore,
                { IsNotAfter: true } => TaskTraits.NotAfter,
                { Kind: var kind } => kind == contrary ? TaskTraits.Contrary : TaskTraits.None,
            };
    }

    private static bool HasWork(ProjectSettings project, WorkTime calendar)
    {
        var far = PlanTime.FromDateTime(
            project.Anchor.ToDateTime().AddYears(project.ScheduleFrom == ScheduleFrom.Start ? YearsToFindWork : -YearsToFindWork)
        );
        return calendar.HasWorkBetween(PlanTime.Min(project.Anchor, far), PlanTime.Max(project.Anchor, far));
    }

    private static UnsoundPlanException NoWork(Plan plan, int row)
    {
        var (when, end) =
            plan.Project.ScheduleFrom == ScheduleFrom.Start ? ("from the project start", "from") : ("before the project finish", "before");
        return new UnsoundPlanException([
            PlanProblem.About(
                "noWorkingTime",
                $"{LinkRules.Named(plan, row)} has no working time in the {YearsToFindWork} years {when}: give its calendar, or its "
                    + $"owner's, some working days {end} then that meet.",
                plan.Tasks[row].Id
            ),
        ]);
    }

    /// <summary>People's calendars by id: a plan's people are looked through once and not for every task.</summary>
    private sealed class Owners
    {
        private const int MostFound = 32;

        private readonly List<(string? Own, string? Owners, WorkTime Calendar)> _found = [];
        private readonly List<WorkTime> _seen = [];
        private WorkTime? _last;
        private readonly Plan _plan;
        private readonly Dictionary<string, string>? _calendars;

        public Owners(Plan plan)
        {
            _plan = plan;
            foreach (var person in plan.People)
                if (person.Calendar is { } calendar)
                    (_calendars ??= []).TryAdd(person.Id, calendar);
        }

        /// <summary>Whether a calendar was asked about before.</summary>
        public bool IsSeen(WorkTime calendar)
        {
            if (ReferenceEquals(calendar, _last))
                return true;
            _last = calendar;
            foreach (var seen in _seen)
                if (ReferenceEquals(seen, calendar))
                    return true;
            _seen.Add(calendar);
            return false;
        }

        public string? CalendarOf(PlanTask task) =>
            _calendars is not null && task.Owner is { } owner ? _calendars.GetValueOrDefault(owner) : null;

        /// <summary>Looks among the calendars found so far first, a plan has few.</summary>
        public WorkTime EffectiveCalendar(PlanTask task, string? owners)
        {
            if (task.AroundTheClock)
                return WorkTime.AroundTheClock;
            foreach (var (own, theirs, known) in CollectionsMarshal.AsSpan(_found))
                if (own == task.Calendar && theirs == owners)
                    return known;
            var calendar = _plan.EffectiveCalendar(task, owners);
            if (_found.Count < MostFound)
                _found.Add((task.Calendar, owners, calendar));
            return calendar;
        }
    }
}
