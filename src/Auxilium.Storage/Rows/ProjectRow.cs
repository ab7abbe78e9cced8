using Auxilium.Planning.Plans;

namespace Auxilium.Storage.Rows;

/// <summary>
/// A project as the table <c>projects</c> keeps it: what it is called, and who answers for it. What is planned is in its plans.
/// </summary>
public sealed class ProjectRow
{
    /// <summary>What projects have that nobody gave another.</summary>
    internal const int UsualPriority = 500;

    public Guid Id { get; set; }

    public DateTime CreatedAt { get; set; }

    public required string Name { get; set; }

    public ProjectStatus Status { get; set; } = ProjectStatus.Active;

    /// <summary>One of the colours that rows can have.</summary>
    public string? Colour { get; set; }

    /// <summary>How much it matters among others, 0 to 1000.</summary>
    public int Priority { get; set; } = UsualPriority;

    /// <summary>The folder that it lies in; <c>null</c> for none.</summary>
    public Guid? FolderId { get; set; }

    public string? Coordinator { get; set; }

    /// <summary>When it was archived, in UTC: it can be looked at, and changed no more.</summary>
    public DateTime? ArchivedAt { get; set; }

    /// <summary>When it was deleted, in UTC: to everybody it is gone, and for a while it can be brought back.</summary>
    public DateTime? DeletedAt { get; set; }
}
