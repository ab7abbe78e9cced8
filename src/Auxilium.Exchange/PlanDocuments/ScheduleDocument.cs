using System.Text.Json.Serialization;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>What a calculated plan answers: every date, float, driver and warning. Times are <c>YYYY-MM-DDTHH:mm</c>.</summary>
/// <param name="Dropped">Ids of rows that the measure knows and the plan no longer has; left out unless drift is asked for.</param>
/// <param name="Load">Of all people of the plan, the days on which they have work; left out unless asked for.</param>
public sealed record ScheduleDocument(
    ScheduledProject Project,
    IReadOnlyList<ScheduledTask> Tasks,
    IReadOnlyList<ScheduledWarning> Warnings,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyList<string>? Dropped = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyList<ScheduledLoad>? Load = null
)
{
    /// <summary>With what was tracked, where that is asked for.</summary>
    /// <param name="schedule">The plan with its dates.</param>
    /// <param name="tracked">What of it to tell.</param>
    public static ScheduleDocument Of(Schedule schedule, TrackedValues tracked)
    {
        var plain = Of(schedule);
        return plain with
        {
            Project = plain.Project with { DriftMinutes = tracked.Drift?.Finish.Count, Money = tracked.Money },
            Tasks = [.. plain.Tasks.Select((task, row) => tracked.AddTo(task, row))],
            Dropped = tracked.Dropped,
            Load = tracked.Load is { } load ? ScheduledLoad.Of(schedule.Plan, load) : null,
        };
    }

    public static ScheduleDocument Of(Schedule schedule)
    {
        var drivers = schedule.Drivers;
        return new ScheduleDocument(
            new ScheduledProject(
                schedule.Start.ToString(),
                schedule.Finish.ToString(),
                schedule.Length.Count,
                Math.Round(schedule.Progress, 4)
            ),
            [.. Enumerable.Range(0, schedule.Plan.Index.Count).Select(row => ScheduledTask.Of(schedule, drivers, row))],
            [.. schedule.Warnings.Select(w => new ScheduledWarning(w.Code.ToString(), w.Tasks, w.Minutes.Count, w.Message))]
        );
    }
}

/// <param name="DriftMinutes">Of the finish against the measure, in working minutes: positive is later.</param>
/// <param name="Money">Left out unless asked for.</param>
public sealed record ScheduledProject(
    string Start,
    string Finish,
    int LengthMinutes,
    double Progress,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] int? DriftMinutes = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ScheduledMoney? Money = null
);

/// <summary>
/// Late dates and floats are <c>null</c> for finished tasks and phases, and everything that follows from dates for inactive ones.
/// </summary>
public sealed record ScheduledTask
{
    public required string Id { get; init; }
    public required string Outline { get; init; }
    public string? Start { get; init; }
    public string? Finish { get; init; }
    public string? EarlyStart { get; init; }
    public string? EarlyFinish { get; init; }
    public string? LateStart { get; init; }
    public string? LateFinish { get; init; }
    public int? TotalFloatMinutes { get; init; }
    public int? FreeFloatMinutes { get; init; }
    public bool? Critical { get; init; }
    public double? Progress { get; init; }
    public int? LengthMinutes { get; init; }
    public required IReadOnlyList<ScheduledSegment> Segments { get; init; }
    public required IReadOnlyList<ScheduledDriver> Drivers { get; init; }

    /// <summary>Minutes of work of all its people.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public decimal? EffortMinutes { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public decimal? EffortLeftMinutes { get; init; }

    /// <summary>Minutes that people say they worked on it.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public int? WorkedMinutes { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public ScheduledDrift? Drift { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public ScheduledRowMoney? Money { get; init; }

    internal static ScheduledTask Of(Schedule schedule, Drivers drivers, int row)
    {
        var off = schedule.IsOff(row);
        var early = schedule.EarlyDatesOf(row);
        var late = schedule.LateDatesOf(row);
        return new ScheduledTask
        {
            Id = schedule.Plan.Tasks[row].Id,
            Outline = schedule.Plan.Index.NumberOf(row),
            Start = off ? null : schedule.StartOf(row).ToString(),
            Finish = off ? null : schedule.FinishOf(row).ToString(),
            EarlyStart = early?.Start.ToString(),
            EarlyFinish = early?.Finish.ToString(),
            LateStart = late?.Start.ToString(),
            LateFinish = late?.Finish.ToString(),
            TotalFloatMinutes = schedule.TotalFloatOf(row)?.Count,
            FreeFloatMinutes = schedule.FreeFloatOf(row)?.Count,
            Critical = off ? null : schedule.IsCritical(row),
            Progress = off ? null : Math.Round(schedule.ProgressOf(row), 4),
            LengthMinutes = off ? null : schedule.LengthOf(row).Count,
            Segments = [.. schedule.SegmentsOf(row).Select(s => new ScheduledSegment(s.Start.ToString(), s.Finish.ToString()))],
            Drivers = [.. drivers.Of(row).Select(d => new ScheduledDriver(PlanDocumentNames.Camel(d.Kind.ToString()), d.From, d.To))],
        };
    }
}

public sealed record ScheduledSegment(string Start, string Finish);

/// <param name="From">For a link, the task before.</param>
/// <param name="To">For a link in a project scheduled from its finish, the task after, which holds this one back.</param>
public sealed record ScheduledDriver(
    string Kind,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? From,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? To
);

public sealed record ScheduledWarning(string Code, IReadOnlyList<string> Tasks, int Minutes, string Message);

/// <summary>How far a row is from where a baseline has it, in working minutes of the project: positive is later.</summary>
/// <param name="Baseline">Id of the baseline; left out, as the minutes, of what is new.</param>
/// <param name="New">The baseline does not know it.</param>
public sealed record ScheduledDrift(
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? Baseline,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] int? StartMinutes,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] int? FinishMinutes,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] bool? New = null
);
