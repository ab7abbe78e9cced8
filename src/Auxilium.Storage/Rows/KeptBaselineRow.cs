namespace Auxilium.Storage.Rows;

/// <summary>A baseline as the table <c>baselines</c> keeps it.</summary>
public sealed class KeptBaselineRow
{
    public Guid PlanId { get; set; }

    public required string Id { get; set; }

    /// <summary>Where it stands among those of the plan.</summary>
    public int Position { get; set; }

    public required string Name { get; set; }

    public DateOnly Taken { get; set; }

    public bool Whole { get; set; }

    public DateTime Start { get; set; }

    public DateTime Finish { get; set; }

    /// <summary>Its rows, as JSON: they are read and written as a whole, and never changed.</summary>
    public required string Rows { get; set; }
}
