namespace Auxilium.Storage.Rows;

/// <summary>Somebody of the organisation.</summary>
public sealed class PersonRow
{
    public required string Id { get; set; }

    public required string Name { get; set; }

    public required string Initials { get; set; }

    public string? Email { get; set; }
}

/// <summary>Somebody's part in a project.</summary>
public sealed class MemberRow
{
    public Guid ProjectId { get; set; }

    public required string PersonId { get; set; }

    public int Position { get; set; }

    /// <summary>Id of the plan's calendar that this person works by here.</summary>
    public string? Calendar { get; set; }
}
