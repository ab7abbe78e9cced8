using System.Text.Json.Serialization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using Auxilium.Web.Api;

namespace Auxilium.Web.PlanScreen;

/// <summary>
/// One row as the Plan screen draws it. Times are minutes since 0001-01-01T00:00. What most rows have not is left out when it is sent.
/// </summary>
public sealed record RowView : IHasFacts
{
    public required string Id { get; init; }

    /// <summary>Outline number: what links are typed with.</summary>
    public required string No { get; init; }

    public required string Name { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public required int Level { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? Parent { get; init; }

    /// <summary><c>task</c>, <c>milestone</c> or <c>phase</c>.</summary>
    public required string Kind { get; init; }

    /// <summary>As its cell shows it, such as <c>3d?</c>.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public required string Length { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? Owner { get; init; }

    /// <summary>How many people help besides the owner.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int Helpers { get; init; }

    /// <summary>Ids of those who help, with a blank between.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? With { get; init; }

    /// <summary>How many tasks serve it, of a milestone.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int Gathers { get; init; }

    /// <summary>How many of them are not done.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int GathersLeft { get; init; }

    /// <summary>What comes before, as its cell shows it: <c>4, 2.1 + 2d</c>.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public required string After { get; init; }

    /// <summary><c>null</c>, as the finish, of an inactive row.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int? Start { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int? Finish { get; init; }

    /// <summary>
    /// Minutes at which work begins and pauses in turn, from start to finish, with spaces between; <c>null</c> when it does not pause.
    /// </summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? Stretches { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int? Deadline { get; init; }

    /// <summary>It is shown, but inactive.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool Off { get; init; }

    /// <summary>Whether it has a note.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool Note { get; init; }

    /// <summary>What no date depends on: priority, label and such, each by its name, and left out where it is as usual.</summary>
    public FactValues Facts { get; init; } = FactValues.None;

    /// <summary>How far its checklist is, such as "1 of 3"; <c>null</c> when it has none.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? Steps { get; init; }

    /// <summary>How many pages and addresses belong to it.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int References { get; init; }

    /// <summary>When it comes again, in words, of a phase of occurrences.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? Repeats { get; init; }

    /// <summary>Where the done part of the bar ends; <c>null</c> when nothing is done.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int? DoneTo { get; init; }

    /// <summary>The latest finish that keeps the project's; <c>null</c> when there is none or nothing to spare.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int? LateFinish { get; init; }

    /// <summary>Total float in words, such as "2 days".</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? Spare { get; init; }

    /// <summary>Percent, 0 to 100.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public required double Progress { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public required bool Critical { get; init; }

    /// <summary>Of leaves: <c>waiting</c>, <c>ready</c>, <c>underWay</c>, <c>lateToStart</c>, <c>overdue</c> or <c>done</c>.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? State { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool Started { get; init; }

    /// <summary>Names of what it waits for.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? WaitsFor { get; init; }

    /// <summary>A fixed date in words, such as "not before Wed 12 May".</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? Fixed { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool Pinned { get; init; }

    /// <summary>
    /// Where brackets stand around the date: <c>before</c> it (not before), <c>behind</c> it (not after), on <c>both</c> sides.
    /// </summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? FixedSides { get; init; }

    /// <summary>When the measure has it start; <c>null</c> without a measure, and where that does not know it.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int? PlannedStart { get; init; }

    /// <summary>When the measure has it finish.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int? PlannedFinish { get; init; }

    /// <summary>Working minutes by which it finishes later than the measure has it.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int Drift { get; init; }

    /// <summary>The same in words, such as "2 days later".</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? DriftSaid { get; init; }

    /// <summary>Minutes of work of all its people.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int Effort { get; init; }

    /// <summary>Its effort as it was typed; <c>null</c> where it follows from its length.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? OwnEffort { get; init; }

    /// <summary>What is wrong with its dates.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public string? Warning { get; init; }

    /// <summary>
    /// A row with its name and dates, and of the rest only what is asked for. What is new here is left out until it is named.
    /// </summary>
    /// <param name="has">Whether to tell <c>state</c>, <c>owner</c>, <c>length</c>, <c>after</c>, <c>deadline</c>, <c>label</c>,
    /// <c>float</c>.</param>
    internal RowView Only(Func<string, bool> has) =>
        new()
        {
            Id = Id,
            No = No,
            Name = Name,
            Level = Level,
            Parent = Parent,
            Kind = Kind,
            Start = Start,
            Finish = Finish,
            Stretches = Stretches,
            Off = Off,
            State = has("state") ? State : null,
            Progress = has("state") ? Progress : 0,
            DoneTo = has("state") ? DoneTo : null,
            Started = has("state") && Started,
            Owner = has("owner") ? Owner : null,
            Helpers = has("owner") ? Helpers : 0,
            Length = has("length") ? Length : "",
            After = has("after") ? After : "",
            WaitsFor = has("after") && has("state") ? WaitsFor : null,
            Deadline = has("deadline") ? Deadline : null,
            Facts = Facts.Only(fact => fact.SharedWith is { } column && has(column)),
            Critical = has("float") && Critical,
            LateFinish = has("float") ? LateFinish : null,
            Spare = has("float") ? Spare : null,
        };
}

/// <summary>Makes the rows of one schedule.</summary>
internal sealed class RowViews(Schedule schedule, DateOnly today, KnownRows? known = null)
{
    private readonly TaskStates _states = new(schedule, today);
    private readonly Effort _effort = new(schedule);
    private readonly Gathered _gathered = new(schedule);
    private readonly Drift? _drift = Drift.Of(schedule);
    private readonly Lazy<ILookup<string, PlanLink>> _linksTo = new(() => schedule.Plan.Links.ToLookup(l => l.To));
    private readonly Dictionary<string, string> _warnings = schedule
        .Warnings.Where(w => w.Tasks.Count > 0)
        .GroupBy(w => w.Tasks[^1])
        .ToDictionary(g => g.Key, g => string.Join(" ", g.Select(w => w.Message)));

    public RowView Of(int row)
    {
        var plan = schedule.Plan;
        var task = plan.Tasks[row];
        if (known?.Find(row, _warnings.GetValueOrDefault(task.Id)) is { } same)
        {
            // That of a phase may change while it stays where it is.
            var effort = (int)Math.Round(_effort.Of(row));
            return same.Effort == effort ? same : same with { Effort = effort };
        }
        if (known?.FindTask(row) is { } moved)
            return WithDates(moved, row, task, phase: false);
        var off = schedule.IsOff(row);
        var phase = off ? plan.Index.IsPhase(row) : schedule.IsPhase(row);
        var common = new RowView
        {
            Id = task.Id,
            No = plan.Index.NumberOf(row),
            Name = task.Name,
            Level = plan.Index.LevelOf(row),
            Parent = task.Parent,
            Kind =
                phase ? "phase"
                : task.Milestone || (!off && schedule.LengthOf(row).Count == 0) ? "milestone"
                : "task",
            Length = phase
                ? off
                    ? ""
                    : PhaseLength(row)
                : task.Milestone
                    ? ""
                    : new TypedLength(task.Length, task.Tentative).ToString(),
            Owner = task.Owner,
            Helpers = Math.Max(0, task.Assignments.Length - 1),
            With = task.Assignments.Length > 1 ? string.Join(' ', task.Assignments.Skip(1).Select(a => a.Person)) : null,
            Gathers = _gathered.Of(task.Id).All,
            GathersLeft = _gathered.Of(task.Id).Left,
            After = string.Join(
                ", ",
                _linksTo.Value[task.Id].Select(l => LinkText.Format(plan.Index.NumberOf(plan.Index.RowOf(l.From)), l))
            ),
            Progress = 0,
            Critical = false,
            Off = off,
            Note = task.Note.Length > 0,
            Facts = task.Facts,
            Steps = task.Checklist.IsEmpty ? null : $"{task.Checklist.Count(step => step.Done)} of {task.Checklist.Length}",
            References = task.References.Length,
            OwnEffort = task.Effort?.ToString(),
            Repeats = task.Repeats is { } rule ? RepeatText.Of(rule) : null,
        };
        return off ? common : WithDates(common, row, task, phase);
    }

    private RowView WithDates(RowView common, int row, PlanTask task, bool phase)
    {
        var total = schedule.TotalFloatOf(row);
        var state = phase ? (TaskState?)null : _states.Of(row);
        var drift = _drift?.Of(row)?.Finish ?? WorkMinutes.Zero;
        var lateFinish = total is { Count: > 0 } ? schedule.LateDatesOf(row)!.Value.Finish : default;
        return common with
        {
            Start = schedule.StartOf(row).Minutes,
            Finish = schedule.FinishOf(row).Minutes,
            Stretches = StretchesOf(row),
            Deadline = task.Deadline?.Minutes,
            DoneTo = DoneTo(row, phase)?.Minutes,
            LateFinish = total is { Count: > 0 } && lateFinish > schedule.FinishOf(row) ? lateFinish.Minutes : null,
            Spare = total is { Count: > 0 } slack ? DurationText.Of(slack, schedule.Plan.Project.Units, task.AroundTheClock) : null,
            Progress = Math.Round(schedule.ProgressOf(row) * 100, 1),
            Critical = schedule.IsCritical(row),
            State = state is { } s ? JsonNames.Camel(s) : null,
            Started = task.IsStarted,
            WaitsFor = state == TaskState.Waiting ? Names(_states.WaitsFor(row)) : null,
            Fixed =
                phase || task.IsStarted || task is { Pinned: null, Constraint: null, DelayedUntil: null } ? null : FieldText.Fixed(task),
            Pinned = !phase && !task.IsStarted && task.Pinned is not null,
            FixedSides = phase || task.IsStarted ? null : SidesOf(task),
            Warning = _warnings.GetValueOrDefault(task.Id),
            PlannedStart = _drift?.PlannedOf(row)?.Start.Minutes,
            PlannedFinish = _drift?.PlannedOf(row)?.Finish.Minutes,
            Drift = drift.Count,
            DriftSaid = drift == WorkMinutes.Zero ? null : RippleText.Shift(drift, schedule.Plan.Project.Units),
            Effort = (int)Math.Round(_effort.Of(row)),
        };
    }

    private static string? SidesOf(PlanTask task) =>
        task switch
        {
            { Pinned: not null } or { Constraint.IsMust: true } => "both",
            { Constraint.IsNotBefore: true } => "before",
            { Constraint.IsNotAfter: true } => "behind",
            { DelayedUntil: not null } => "level",
            _ => null,
        };

    private string? StretchesOf(int row)
    {
        if (!schedule.IsLeaf(row) || schedule.SegmentsOf(row) is not { Count: > 1 } stretches)
            return null;
        return string.Join(' ', stretches.SelectMany(s => new[] { s.Start.Minutes, s.Finish.Minutes }));
    }

    private string PhaseLength(int row) =>
        new Length(
            Math.Round((decimal)schedule.LengthOf(row).Count / schedule.Plan.Project.Units.MinutesPerDay, 2),
            LengthUnit.Days
        ).ToString();

    private PlanTime? DoneTo(int row, bool phase)
    {
        var (start, finish, progress) = (schedule.StartOf(row), schedule.FinishOf(row), schedule.ProgressOf(row));
        if (progress <= 0)
            return null;
        if (progress >= 1)
            return finish;
        if (!phase)
            return schedule.ReachedOf(row);
        var calendar = schedule.Plan.ProjectCalendar;
        return calendar.Add(start, (int)(calendar.Between(start, finish) * progress));
    }

    private string Names(IEnumerable<int> rows)
    {
        var names = rows.Select(row => schedule.Plan.Tasks[row].Name).Distinct().ToList();
        return names.Count <= 2 ? string.Join(" and ", names) : $"{names[0]}, {names[1]} and {names.Count - 2} more";
    }
}
