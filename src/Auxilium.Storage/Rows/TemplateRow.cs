namespace Auxilium.Storage.Rows;

/// <summary>A plan that somebody kept for projects to start from.</summary>
public sealed class TemplateRow
{
    public Guid Id { get; set; }

    public required string Name { get; set; }

    public required string Note { get; set; }

    /// <summary>A plan document: without what happened, and without mail addresses.</summary>
    public required byte[] Document { get; set; }

    public int Tasks { get; set; }

    public int Milestones { get; set; }

    /// <summary>How many days of work it takes from start to finish.</summary>
    public int Days { get; set; }
}
