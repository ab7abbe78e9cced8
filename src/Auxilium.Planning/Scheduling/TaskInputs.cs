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

    /// <summary>It has an earliest date.</summary>
    NotBefore = 16,

    /// <summary>It has a latest date.</summary>
    NotAfter = 32,

    /// <summary>It goes as late as it can although others go as soon as they can, or the other way round (rules F5, R1).</summary>
    Contrary = 64,
    Progress = 128,

    /// <summary>It has dates of its own: a task or a milestone, in which there are no rows.</summary>
    Leaf = 256,

    /// <summary>It is inactive (rule K4): it is itself, a phase it is in is, or every row in it is.</summary>
    Off = 512,
    Deadline = 1024,

    /// <summary>A link binds its finish.</summary>
    FinishBound = 2048,

    /// <summary>Levelling keeps it from starting earlier, and nothing fixes it.</summary>
    Delayed = 4096,

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
        var (index, tasks) = (plan.Index, plan.Tasks);
        var facts = new TaskInputs(index.Count);
        var givens = new Givens(plan);
        for (var row = 0; row < tasks.Length; row++)
        {
            var task = tasks[row];
            if (!task.Active)
                return WithSomeOff(plan);
            if (index.IsLeaf(row))
                facts.Traits[row] = TaskTraits.Leaf;
            facts.Gather(givens, task, row);
        }
        return facts;
    }

    private static TaskInputs WithSomeOff(Plan plan)
    {
        var facts = new TaskInputs(plan.Index.Count);
        facts.FindLeaves(plan);
        var givens = new Givens(plan);
        for (var row = 0; row < facts.Calendars.Length; row++)
            if (!facts.IsOff(row))
                facts.Gather(givens, plan.Tasks[row], row);
        return facts;
    }

    /// <summary>
    /// The facts of a plan with the same outline and the same rows taking part, gathered again only for the rows that changed.
    /// </summary>
    public static TaskInputs Of(Plan plan, Plan before, TaskInputs known)
    {
        if (plan.Tasks == before.Tasks)
            return known;
        var facts = new TaskInputs(known);
        var givens = new Givens(plan);
        for (var row = 0; row < facts.Calendars.Length; row++)
        {
            if (ReferenceEquals(plan.Tasks[row], before.Tasks[row]))
                continue;
            facts.Traits[row] &= TaskTraits.Leaf | TaskTraits.FinishBound;
            facts.Gather(givens, plan.Tasks[row], row);
        }
        return facts;
    }

    private void Gather(Givens givens, PlanTask task, int row)
    {
        if (!IsLeaf(row))
        {
            // All that matters of a phase.
            if (task.Deadline is not null)
                Any |= Traits[row] |= TaskTraits.Deadline;
            return;
        }
        Calendars[row] = givens.CalendarOf(task, row);
        Any |= Traits[row] |= TraitsOf(task, givens.Contrary);
        Lengths[row] = givens.LengthOf(task);
        if (task.IsSplit || !ReferenceEquals(Spans, Lengths))
            SetSpan(givens.Plan, task, row);
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
        // A phase without an active row is inactive too; inner phases first.
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
        if (task.DelayedUntil is not null)
            traits |= TaskTraits.Delayed;
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

    /// <summary>What is the same for every task of a plan, found once and not for each.</summary>
    private sealed class Givens
    {
        private readonly Dictionary<string, WorkTime> _byOwn = [];
        private readonly Dictionary<(string? Own, string Owners), WorkTime> _byOwners = [];
        private readonly Dictionary<string, string>? _ofPeople;
        private readonly WorkTime _project;
        private readonly int _minutesPerDay;
        private bool _knowsProject;
        private bool _knowsClock;

        public Givens(Plan plan)
        {
            Plan = plan;
            Contrary = plan.Project.ScheduleFrom == ScheduleFrom.Start ? ConstraintKind.AsLateAsPossible : ConstraintKind.AsSoonAsPossible;
            _project = plan.ProjectCalendar;
            _minutesPerDay = plan.Project.Units.MinutesPerDay;
            foreach (var person in plan.People)
                if (person.Calendar is { } calendar)
                    (_ofPeople ??= []).TryAdd(person.Id, calendar);
        }

        public Plan Plan { get; }

        /// <summary>What makes a task go against the way of the others.</summary>
        public ConstraintKind Contrary { get; }

        /// <summary>Whole days, which most lengths are, need no exact reckoning.</summary>
        public int LengthOf(PlanTask task) =>
            task is { Milestone: false, Length: { Unit: LengthUnit.Days, Amount: { Scale: 0 } and <= 10_000 and var days } }
                ? (int)days * _minutesPerDay
                : Plan.LengthOf(task).Count;

        /// <summary>The effective calendar (rule T5).</summary>
        /// <exception cref="UnsoundPlanException">It has no working minute.</exception>
        public WorkTime CalendarOf(PlanTask task, int row)
        {
            if (task.AroundTheClock)
                return Checked(ref _knowsClock, WorkTime.AroundTheClock, row);
            var owners = _ofPeople is not null && task.Owner is { } owner ? _ofPeople.GetValueOrDefault(owner) : null;
            if (owners is not null)
                return _byOwners.TryGetValue((task.Calendar, owners), out var both)
                    ? both
                    : _byOwners[(task.Calendar, owners)] = WithWork(Plan.EffectiveCalendar(task, owners), row);
            if (task.Calendar is not { } own)
                return Checked(ref _knowsProject, _project, row);
            return _byOwn.TryGetValue(own, out var known) ? known : _byOwn[own] = WithWork(Plan.EffectiveCalendar(task, null), row);
        }

        private WorkTime Checked(ref bool known, WorkTime calendar, int row)
        {
            if (!known)
                WithWork(calendar, row);
            known = true;
            return calendar;
        }

        private WorkTime WithWork(WorkTime calendar, int row) => HasWork(Plan.Project, calendar) ? calendar : throw NoWork(Plan, row);
    }
}
