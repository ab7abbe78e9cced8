namespace Auxilium.Storage.Rows;

/// <summary>What is known of a plan without reading it.</summary>
public sealed class ProjectedPlanRow
{
    public Guid PlanId { get; set; }

    /// <summary>The version of the plan that it is of.</summary>
    public int Version { get; set; }

    /// <summary>The day that it is of.</summary>
    public DateOnly Day { get; set; }

    /// <summary>Why its dates cannot be worked out, in a sentence; all below says nothing then.</summary>
    public string? Problem { get; set; }

    public DateTime Start { get; set; }

    public DateTime Finish { get; set; }

    public DateTime? FinishBy { get; set; }

    /// <summary>Working minutes to the deadline.</summary>
    public int? Spare { get; set; }

    /// <summary>The same if what is left starts on the day.</summary>
    public int? Outlook { get; set; }

    public decimal Progress { get; set; }

    /// <summary>Working minutes from start to finish.</summary>
    public int Whole { get; set; }

    /// <summary>How many of them have passed; negative before the start.</summary>
    public int Passed { get; set; }

    /// <summary>Name of the baseline that it is measured by.</summary>
    public string? Measure { get; set; }

    /// <summary>Working minutes that its finish is later than that.</summary>
    public int? Drift { get; set; }
}

/// <summary>What is known of a row of a plan without reading the plan.</summary>
public sealed class ProjectedTaskRow
{
    public Guid PlanId { get; set; }

    public required string TaskId { get; set; }

    /// <summary>Orders the rows of a plan.</summary>
    public long Rank { get; set; }

    public required string Name { get; set; }

    /// <summary>Ids of who works on it, the owner first.</summary>
    public required string[] People { get; set; }

    public DateTime? Start { get; set; }

    public DateTime? Finish { get; set; }

    public DateOnly? LastDay { get; set; }

    public bool IsLeaf { get; set; }

    public bool IsMilestone { get; set; }

    public bool IsOfHours { get; set; }

    public bool IsCritical { get; set; }

    public decimal Progress { get; set; }

    public bool IsStarted { get; set; }

    public bool IsFinished { get; set; }

    public string? WaitsFor { get; set; }

    /// <summary>Minutes of work that are left; <c>left</c> is a word of SQL.</summary>
    public int MinutesLeft { get; set; }

    public DateTime? Deadline { get; set; }

    public string? Series { get; set; }

    /// <summary>Minutes of work of all its people.</summary>
    public int Effort { get; set; }

    /// <summary>Working minutes that its finish is later than the measure has it.</summary>
    public int? Drift { get; set; }

    public string? DeliveredBy { get; set; }

    public string? HoldsUp { get; set; }

    public int? ShortBy { get; set; }

    /// <summary>How many tasks serve it, of a milestone.</summary>
    public int Gathers { get; set; }

    /// <summary>How many of them are not done.</summary>
    public int GathersLeft { get; set; }

    /// <summary>What each has left to do of it, and on which days, a line each.</summary>
    public string? Work { get; set; }
}
