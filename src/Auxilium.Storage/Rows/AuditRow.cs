namespace Auxilium.Storage.Rows;

/// <summary>Something that happened outside the plans: who may do what, who got access, what opens without a password.</summary>
public sealed class AuditRow
{
    public long Id { get; set; }

    public DateTime At { get; set; }

    /// <summary>Id of who did it; <c>null</c> for nobody who was signed in.</summary>
    public string? By { get; set; }

    /// <summary>Id of the person it is about.</summary>
    public string? About { get; set; }

    public Guid? ProjectId { get; set; }

    /// <summary>What happened, as a sentence with the names as they were then.</summary>
    public required string Text { get; set; }
}

/// <summary>What opens the page on which an organisation is made: one row, gone once there is one.</summary>
public sealed class FirstStartRow
{
    public int Id { get; set; } = 1;

    public required string Code { get; set; }
}
