namespace Auxilium.Storage.Rows;

/// <summary>How one person looks at one project: filters, columns and views saved under a name, as the screen keeps them.</summary>
public sealed class ViewRow
{
    public Guid ProjectId { get; set; }

    public required string PersonId { get; set; }

    /// <summary>JSON that only the screen reads.</summary>
    public required string Content { get; set; }
}
