using Auxilium.Planning.Scheduling;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>What a calculated plan answers: every date, float, driver and warning. Times are <c>YYYY-MM-DDTHH:mm</c>.</summary>
public sealed record ScheduleDocument(ScheduledProject Project, IReadOnlyList<ScheduledTask> Tasks, IReadOnlyList<ScheduledWarning> Warnings)
{
    public static ScheduleDocument Of(Schedule schedule)
    {
        var drivers = new Drivers(schedule);
        return new ScheduleDocument(
            new ScheduledProject(schedule.Start.ToString(), schedule.Finish.ToString(), schedule.Length.Count, Math.Round(schedule.Progress, 4)),
            [.. Enumerable.Range(0, schedule.Plan.Index.Count).Select(row => ScheduledTask.Of(schedule, drivers, row))],
            [.. schedule.Warnings.Select(w => new ScheduledWarning(w.Code.ToString(), w.Tasks, w.Minutes.Count, w.Message))]);
    }
}

public sealed record ScheduledProject(string Start, string Finish, int LengthMinutes, double Progress);

/// <summary>Late dates and floats are <c>null</c> for finished tasks and phases.</summary>
public sealed record ScheduledTask
{
    public required string Id { get; init; }
    public required string Outline { get; init; }
    public required string Start { get; init; }
    public required string Finish { get; init; }
    public string? EarlyStart { get; init; }
    public string? EarlyFinish { get; init; }
    public string? LateStart { get; init; }
    public string? LateFinish { get; init; }
    public int? TotalFloatMinutes { get; init; }
    public int? FreeFloatMinutes { get; init; }
    public bool Critical { get; init; }
    public double Progress { get; init; }
    public int LengthMinutes { get; init; }
    public required IReadOnlyList<ScheduledSegment> Segments { get; init; }
    public required IReadOnlyList<ScheduledDriver> Drivers { get; init; }

    internal static ScheduledTask Of(Schedule schedule, Drivers drivers, int row)
    {
        var late = schedule.LateDatesOf(row);
        var leaf = schedule.Plan.Index.IsLeaf(row);
        return new ScheduledTask
        {
            Id = schedule.Plan.Tasks[row].Id,
            Outline = schedule.Plan.Index.NumberOf(row),
            Start = schedule.StartOf(row).ToString(),
            Finish = schedule.FinishOf(row).ToString(),
            EarlyStart = leaf ? schedule.StartOf(row).ToString() : null,
            EarlyFinish = leaf ? schedule.FinishOf(row).ToString() : null,
            LateStart = late?.Start.ToString(),
            LateFinish = late?.Finish.ToString(),
            TotalFloatMinutes = schedule.TotalFloatOf(row)?.Count,
            FreeFloatMinutes = schedule.FreeFloatOf(row)?.Count,
            Critical = schedule.IsCritical(row),
            Progress = Math.Round(schedule.ProgressOf(row), 4),
            LengthMinutes = schedule.LengthOf(row).Count,
            Segments = [.. schedule.SegmentsOf(row).Select(s => new ScheduledSegment(s.Start.ToString(), s.Finish.ToString()))],
            Drivers = [.. drivers.Of(row).Select(d => new ScheduledDriver(PlanDocumentNames.Camel(d.Kind.ToString()), d.From))],
        };
    }
}

public sealed record ScheduledSegment(string Start, string Finish);

public sealed record ScheduledDriver(string Kind, string? From);

public sealed record ScheduledWarning(string Code, IReadOnlyList<string> Tasks, int Minutes, string Message);
