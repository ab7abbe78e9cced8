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

    internal Schedule(Plan plan)
    {
        var count = plan.Index.Count;
        Plan = plan;
        Starts = new PlanTime[count];
        Finishes = new PlanTime[count];
        LateStarts = new PlanTime[count];
        LateFinishes = new PlanTime[count];
        TotalFloats = new int[count];
        FreeFloats = new int[count];
        Lengths = new int[count];
        Progresses = new float[count];
        Criticals = new bool[count];
        Array.Fill(TotalFloats, NoFloat);
        Array.Fill(FreeFloats, NoFloat);
    }

    public Plan Plan { get; }

    public PlanTime Start => Plan.Project.Start;

    /// <summary>The latest finish of all leaves; the start of a plan without any (rule F6).</summary>
    public PlanTime Finish { get; internal set; }

    /// <summary>What float is measured to: the finish, or the date to finish by (rule B1).</summary>
    public PlanTime FloatTo => Plan.Project is { FloatTo: FloatTarget.FinishBy, FinishBy: { } by } ? by : Finish;

    /// <summary>Working minutes of the project calendar from start to finish.</summary>
    public WorkMinutes Length => new(Plan.ProjectCalendar.Between(Start, Finish));

    /// <summary>Progress of all leaves by their length, 0 to 1 (rule P2).</summary>
    public double Progress { get; internal set; }

    public IReadOnlyList<ScheduleWarning> Warnings { get; internal set; } = [];

    internal PlanTime[] Starts { get; }
    internal PlanTime[] Finishes { get; }
    internal PlanTime[] LateStarts { get; }
    internal PlanTime[] LateFinishes { get; }
    internal int[] TotalFloats { get; }
    internal int[] FreeFloats { get; }
    internal int[] Lengths { get; }
    internal float[] Progresses { get; }
    internal bool[] Criticals { get; }

    public PlanTime StartOf(int row) => Starts[row];

    public PlanTime FinishOf(int row) => Finishes[row];

    public PlanTime StartOf(string task) => Starts[Plan.Index.RowOf(task)];

    public PlanTime FinishOf(string task) => Finishes[Plan.Index.RowOf(task)];

    /// <summary>The latest start and finish that keep the project's finish (rule B1); <c>null</c> for finished leaves and phases.</summary>
    public (PlanTime Start, PlanTime Finish)? LateDatesOf(int row) =>
        TotalFloats[row] == NoFloat ? null : (LateStarts[row], LateFinishes[row]);

    /// <summary>Total float in minutes of the task's effective calendar (rule B2); <c>null</c> for finished leaves and phases.</summary>
    public WorkMinutes? TotalFloatOf(int row) => TotalFloats[row] == NoFloat ? null : new(TotalFloats[row]);

    /// <summary>Free float in minutes of the task's effective calendar (rule B3); <c>null</c> for finished leaves and phases.</summary>
    public WorkMinutes? FreeFloatOf(int row) => FreeFloats[row] == NoFloat ? null : new(FreeFloats[row]);

    /// <summary>Working minutes: of a leaf its work, of a phase those of the project calendar from start to finish.</summary>
    public WorkMinutes LengthOf(int row) => new(Lengths[row]);

    /// <summary>0 to 1; of a phase weighed by length (rule P2).</summary>
    public double ProgressOf(int row) => Progresses[row];

    /// <summary>Sets the finish: total float within the plan's <see cref="ProjectSettings.CriticalFloat"/> (rules B2, P3).</summary>
    public bool IsCritical(int row) => Criticals[row];

    /// <summary>The stretches a leaf is worked on, in order. More than one when its remaining work was moved past the status date.</summary>
    public IReadOnlyList<Segment> SegmentsOf(int row)
    {
        var task = Plan.Tasks[row];
        var whole = new Segment(Starts[row], Finishes[row]);
        if (task.ActualStart is not { } start || task.IsFinished || Plan.Index.IsPhase(row)) return [whole];
        var calendar = Plan.EffectiveCalendar(task);
        if (!InProgressWork.IsMoved(Plan.Project, task, calendar, Lengths[row], out var reached)) return [whole];
        var rest = new Segment(calendar.Next(Plan.Project.StatusDate!.Value), Finishes[row]);
        return reached > start ? [new Segment(start, reached), rest] : [rest];
    }
}

/// <summary>Rule names of what a schedule warns about.</summary>
public enum WarningCode
{
    /// <summary>A link is broken by a fixed date or by what really happened.</summary>
    W1,

    /// <summary>The project finishes after the date to finish by.</summary>
    W4,
}

/// <param name="Minutes">Working minutes by which it is missed.</param>
public sealed record ScheduleWarning(WarningCode Code, IReadOnlyList<string> Tasks, WorkMinutes Minutes, string Message);
