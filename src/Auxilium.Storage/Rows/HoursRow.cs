namespace Auxilium.Storage.Rows;

/// <summary>Hours that somebody worked on a task on a day (rule H1): kept when the task or the person leaves.</summary>
public sealed class HoursRow
{
    public Guid ProjectId { get; set; }

    public required string TaskId { get; set; }

    public required string PersonId { get; set; }

    public DateOnly Day { get; set; }

    public int Minutes { get; set; }

    /// <summary>
    /// What the task was called when they were entered, for when it is gone; <c>null</c> of entries from before that was kept.
    /// </summary>
    public string? TaskName { get; set; }

    /// <summary>Id of who entered them; <c>null</c> of entries from before that was kept.</summary>
    public string? EnteredBy { get; set; }

    /// <summary>When they were first entered, in UTC: overtime falls on the entries of a day in that order (rule H4).</summary>
    public DateTime EnteredAt { get; set; }
}

/// <summary>The timer that somebody runs: one at a time, wherever it was started (rule H2).</summary>
public sealed class TimerRow
{
    public required string PersonId { get; set; }

    public Guid ProjectId { get; set; }

    public required string TaskId { get; set; }

    public required string TaskName { get; set; }

    /// <summary>In UTC.</summary>
    public DateTime StartedAt { get; set; }
}
