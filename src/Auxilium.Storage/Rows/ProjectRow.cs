namespace Auxilium.Storage.Rows;

/// <summary>
/// A project as the table <c>projects</c> keeps it: what it is called, and who answers for it. What is planned is in its plans.
/// </summary>
public sealed class ProjectRow
{
    public Guid Id { get; set; }

    public DateTime CreatedAt { get; set; }

    public required string Name { get; set; }

    public string? Coordinator { get; set; }

    /// <summary>When it was archived, in UTC: it can be looked at, and changed no more.</summary>
    public DateTime? ArchivedAt { get; set; }

    /// <summary>When it was deleted, in UTC: to everybody it is gone, and for a while it can be brought back.</summary>
    public DateTime? DeletedAt { get; set; }
}
