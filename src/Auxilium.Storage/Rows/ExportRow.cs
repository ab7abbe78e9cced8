namespace Auxilium.Storage.Rows;

/// <summary>How far a file is that is made in the background. Kept by name.</summary>
public enum ExportState
{
    Waiting,
    Running,
    Done,
    Failed,
}

/// <summary>A file of a plan that somebody asked for and that takes a while. Cancelling it deletes it.</summary>
public sealed class ExportRow
{
    public Guid Id { get; set; }

    public required string PersonId { get; set; }

    public Guid ProjectId { get; set; }

    /// <summary>JSON of what is asked for.</summary>
    public required string Query { get; set; }

    /// <summary>What the file is called.</summary>
    public required string Name { get; set; }

    public ExportState State { get; set; }

    /// <summary>How many of its pages are drawn.</summary>
    public int Drawn { get; set; }

    /// <summary>How many pages it has; 0 while that is not known.</summary>
    public int Pages { get; set; }

    public DateTime MadeAt { get; set; }

    /// <summary>When whoever makes it last said how far it is: if that is long ago, its process died.</summary>
    public DateTime HeardAt { get; set; }

    public byte[]? Content { get; set; }

    /// <summary>Why it could not be made.</summary>
    public string? Problem { get; set; }
}
