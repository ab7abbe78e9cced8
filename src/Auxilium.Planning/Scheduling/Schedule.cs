using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>A stretch in which a task is worked on.</summary>
public readonly record struct Segment(PlanTime Start, PlanTime Finish);

/// <summary>
/// The dates that follow from a plan. Rows are those of the plan's index; values of a phase roll up its leaves (P1–P3).
/// </summary>
public sealed class Schedule
{
    private const int NoFloat = int.MinValue;

    private Drivers? _drivers;
    private IReadOnlyList<string>? _finishPath;

    /// <summary>Cancels the calculation of these dates while it runs.</summary>
    internal void EndWith(CancellationToken cancel) => _cancel = cancel;

    /// <exception cref="OperationCanceledException">The calculation was cancelled.</exception>
    internal void ThrowIfEnded() => _cancel.ThrowIfCancellationRequested();

    private CancellationToken _cancel;

    internal Schedule(Plan plan, Groundwork groundwork)
    {
        var count = plan.Index.Count;
        Plan = plan;
        Groundwork = groundwork;
        Limits = BothLimits.Of(groundwork.Network);
        EarlyStarts = Starts = new PlanTime[count];
        EarlyFinishes = Finishes = new PlanTime[count];
        LateStarts = new PlanTime[count];
        LateFinishes = new PlanTime[count];
        TotalFloats = new int[count];
        FreeFloats = new int[count];
        Progresses = new float[count];
        Criticals = new bool[count];
        Array.Fill(TotalFloats, NoFloat);
        Array.Fill(FreeFloats, NoFloat);
    }

    /// <summary>A schedule to go on from, of a plan with the same rows and links, whose tasks all stand at their early dates.</summary>
    internal Schedule(Plan plan, Groundwork groundwork, Schedule before)
    {
        Plan = plan;
        Groundwork = groundwork;
        Limits = before.Limits.Copy();
        (Start, Finish) = (before.Start, before.Finish);
        EarlyStarts = Starts = [.. before.EarlyStarts];
        EarlyFinishes = Finishes = [.. before.EarlyFinishes];
        LateStarts = [.. before.LateStarts];
        LateFinishes = [.. before.LateFinishes];
        TotalFloats = [.. before.TotalFloats];
        FreeFloats = [.. before.FreeFloats];
        Progresses = new float[before.Progresses.Length];
        Criticals = [.. before.Criticals];
    }

    public Plan Plan { get; }

    internal Groundwork Groundwork { get; }

    private TaskInputs Facts => Groundwork.Facts;

    /// <summary>What the backward pass put on what comes before each node.</summary>
    internal BothLimits Limits { get; }

    /// <summary>The project's start; of one worked out from its finish, the earliest start that results (rule R1).</summary>
    public PlanTime Start { get; internal set; }

    /// <summary>
    /// The latest finish of all leaves, the start of a plan without any (rule F6); of one worked out from its finish, that.
    /// </summary>
    public PlanTime Finish { get; internal set; }

    /// <summary>What float is measured to: the finish, or the date to finish by (rule B1).</summary>
    public PlanTime FloatTo => Plan.Project is { FloatTo: FloatTarget.FinishBy, FinishBy: { } by } ? by : Finish;

    /// <summary>Working minutes of the project calendar from start to finish.</summary>
    public WorkMinutes Length => new(Plan.ProjectCalendar.Between(Start, Finish));

    /// <summary>Progress of all leaves by their length, 0 to 1 (rule P2).</summary>
    public double Progress { get; internal set; }

    public IReadOnlyList<ScheduleWarning> Warnings { get; internal set; } = [];

    /// <summary>What holds every date; worked out when first asked for.</summary>
    public Drivers Drivers => _drivers ??= new Drivers(this, Facts);

    /// <summary>Ids of the tasks that set the finish, one holding the next, from the first to the last.</summary>
    public IReadOnlyList<string> FinishPath => _finishPath ??= Reasons.FinishPath(this);

    internal PlanTime[] Starts { get; private set; }
    internal PlanTime[] Finishes { get; private set; }
    internal PlanTime[] EarlyStarts { get; }
    internal PlanTime[] EarlyFinishes { get; }
    internal PlanTime[] LateStarts { get; }
    internal PlanTime[] LateFinishes { get; }
    internal int[] TotalFloats { get; }
    internal int[] FreeFloats { get; }
    internal float[] Progresses { get; }
    internal bool[] Criticals { get; }

    /// <summary>Whether a row has no dates because it is inactive (rule K4). Its dates then mean nothing.</summary>
    public bool IsOff(int row) => Facts.IsOff(row);

    /// <summary>The day that people say a row finishes on.</summary>
    public DateOnly LastDayOf(int row) => Finishes[row].LastDateFrom(Starts[row]);

    /// <summary>Whether a row has dates of its own: a task or a milestone, with no rows inside it.</summary>
    public bool IsLeaf(int row) => Facts.IsLeaf(row);

    /// <summary>Whether a row rolls up active rows inside it.</summary>
    public bool IsPhase(int row) => Facts.IsPhase(row);

    public PlanTime StartOf(int row) => Starts[row];

    public PlanTime FinishOf(int row) => Finishes[row];

    public PlanTime StartOf(string task) => Starts[Plan.Index.RowOf(task)];

    public PlanTime FinishOf(string task) => Finishes[Plan.Index.RowOf(task)];

    /// <summary>
    /// The earliest start and finish (rules F1, R1), where the task itself may stand later; <c>null</c> for phases and inactive tasks.
    /// </summary>
    public (PlanTime Start, PlanTime Finish)? EarlyDatesOf(int row) => IsLeaf(row) ? (EarlyStarts[row], EarlyFinishes[row]) : null;

    /// <summary>
    /// The latest start and finish that keep the project's finish (rule B1); <c>null</c> for finished leaves and phases.
    /// </summary>
    public (PlanTime Start, PlanTime Finish)? LateDatesOf(int row) =>
        TotalFloats[row] == NoFloat ? null : (LateStarts[row], LateFinishes[row]);

    /// <summary>Total float in minutes of the task's effective calendar (rule B2); <c>null</c> for finished leaves and phases.</summary>
    public WorkMinutes? TotalFloatOf(int row) => TotalFloats[row] == NoFloat ? null : new(TotalFloats[row]);

    /// <summary>Free float in minutes of the task's effective calendar (rule B3); <c>null</c> for finished leaves and phases.</summary>
    public WorkMinutes? FreeFloatOf(int row) => FreeFloats[row] == NoFloat ? null : new(FreeFloats[row]);

    /// <summary>Working minutes: of a leaf its work, of a phase those of the project calendar from start to finish.</summary>
    public WorkMinutes LengthOf(int row) =>
        new(Facts.IsPhase(row) ? Plan.ProjectCalendar.Between(Starts[row], Finishes[row]) : Facts.Lengths[row]);

    /// <summary>The working time that a leaf moves by (rule T5).</summary>
    public WorkTime CalendarOf(int row) => Facts.Calendars[row] ?? Plan.ProjectCalendar;

    /// <summary>0 to 1; of a phase weighed by length (rule P2).</summary>
    public double ProgressOf(int row) => Progresses[row];

    /// <summary>Sets the finish: total float within the plan's <see cref="ProjectSettings.CriticalFloat"/> (rules B2, P3).</summary>
    public bool IsCritical(int row) => Criticals[row];

    /// <summary>
    /// The stretches a leaf is worked on, in order. More than one where it pauses, or what is left waits for the status date.
    /// </summary>
    public IReadOnlyList<Segment> SegmentsOf(int row) =>
        IsLeaf(row) ? WorkStretches.Of(this, row)
        : IsPhase(row) ? [new Segment(Starts[row], Finishes[row])]
        : [];

    /// <summary>The point that the done work of a leaf reaches.</summary>
    public PlanTime ReachedOf(int row)
    {
        var task = Plan.Tasks[row];
        if (task.IsFinished)
            return Finishes[row];
        var (calendar, length) = (Facts.Calendars[row], Facts.Lengths[row]);
        if (task.IsStarted)
            return InProgressWork.Of(Plan.Project, task, calendar, length).Reached;
        var done = (int)(length * task.Progress);
        return calendar.Add(Starts[row], done + Pauses.Within(Plan.Project.Units, task, done));
    }

    /// <summary>Whether a row has the same dates and the same float as in a schedule of the same rows.</summary>
    internal bool StandsAs(Schedule other, int row) =>
        Starts[row] == other.Starts[row] && Finishes[row] == other.Finishes[row] && TotalFloats[row] == other.TotalFloats[row];

    /// <summary>Whether a row has the same dates as in a schedule of the same rows.</summary>
    internal bool StandsAt(Schedule other, int row) => Starts[row] == other.Starts[row] && Finishes[row] == other.Finishes[row];

    /// <summary>The row has no float until it is worked out again.</summary>
    internal void ForgetFloat(int row)
    {
        (LateStarts[row], LateFinishes[row]) = (default, default);
        TotalFloats[row] = FreeFloats[row] = NoFloat;
        Criticals[row] = false;
    }

    /// <summary>From here on leaves may stand elsewhere than at their early dates.</summary>
    internal void StandApart(bool copy)
    {
        Starts = copy ? [.. EarlyStarts] : new PlanTime[EarlyStarts.Length];
        Finishes = copy ? [.. EarlyFinishes] : new PlanTime[EarlyFinishes.Length];
    }
}

/// <summary>Rule names of what a schedule warns about.</summary>
public enum WarningCode
{
    /// <summary>A link is broken by a fixed date or by what really happened.</summary>
    W1,

    /// <summary>A latest date (or, when scheduled from the finish, an earliest date) is missed.</summary>
    W2,

    /// <summary>A task's deadline is missed.</summary>
    W3,

    /// <summary>The project finishes after the date to finish by.</summary>
    W4,

    /// <summary>The owner has no working time in the task's dates.</summary>
    W5,

    /// <summary>A helper has none while the task is on.</summary>
    W6,
}

/// <param name="Minutes">Working minutes by which it is missed.</param>
public sealed record ScheduleWarning(WarningCode Code, IReadOnlyList<string> Tasks, WorkMinutes Minutes, string Message);
