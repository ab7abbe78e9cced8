using Auxilium.Planning.Plans;

namespace Auxilium.Storage.Rows;

/// <summary>A project as the table <c>projects</c> keeps it; times are the organisation's wall clock.</summary>
public sealed class ProjectRow
{
    public Guid Id { get; set; }

    /// <summary>Goes up by one with every edit.</summary>
    public int Version { get; set; }

    public DateTime CreatedAt { get; set; }

    public required string Name { get; set; }

    public string Note { get; set; } = "";

    public string? Coordinator { get; set; }

    public ScheduleFrom ScheduleFrom { get; set; }

    public DateTime? Start { get; set; }

    public DateTime? Finish { get; set; }

    public DateTime? FinishBy { get; set; }

    public FloatTarget FloatTo { get; set; }

    public DateTime? StatusDate { get; set; }

    public bool MoveUnfinishedWork { get; set; }

    public string? Calendar { get; set; }

    public decimal HoursPerDay { get; set; }

    public decimal DaysPerWeek { get; set; }

    public required string CriticalFloat { get; set; }

    /// <summary>The plan's calendars as JSON: they are read and written as a whole.</summary>
    public required string Calendars { get; set; }

    /// <summary>Named periods as JSON.</summary>
    public string Periods { get; set; } = "[]";

    /// <summary>When it was archived, in UTC: it can be looked at, and changed no more.</summary>
    public DateTime? ArchivedAt { get; set; }

    /// <summary>When it was deleted, in UTC: to everybody it is gone, and for a while it can be brought back.</summary>
    public DateTime? DeletedAt { get; set; }
}
