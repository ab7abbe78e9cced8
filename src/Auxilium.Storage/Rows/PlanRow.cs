using Auxilium.Planning.Plans;

namespace Auxilium.Storage.Rows;

/// <summary>A plan as the table <c>plans</c> keeps it; times are the organisation's wall clock.</summary>
public sealed class PlanRow
{
    public Guid Id { get; set; }

    public Guid ProjectId { get; set; }

    public PlanKind Kind { get; set; }

    /// <summary>Goes up by one with every edit.</summary>
    public int Version { get; set; }

    public string Note { get; set; } = "";

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

    /// <summary>Id of the baseline that was chosen to measure by.</summary>
    public string? Measure { get; set; }

    /// <summary>Named periods as JSON.</summary>
    public string Periods { get; set; } = "[]";

    /// <summary>Fields that people added, as JSON.</summary>
    public string Fields { get; set; } = "[]";
}

/// <summary>What a plan is to its project. Kept by name.</summary>
public enum PlanKind
{
    /// <summary>The one that the project goes by; each project has one.</summary>
    Live,
}
