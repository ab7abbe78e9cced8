namespace Auxilium.Storage.Rows;

/// <summary>What somebody wrote about a task. It outlives the task, which may come back by undo.</summary>
public sealed class CommentRow
{
    public long Id { get; set; }

    public Guid ProjectId { get; set; }

    public required string TaskId { get; set; }

    public required string PersonId { get; set; }

    public DateTime At { get; set; }

    public required string Text { get; set; }
}

/// <summary>A file that belongs to a task.</summary>
public sealed class FileRow
{
    public Guid Id { get; set; }

    public Guid ProjectId { get; set; }

    public required string TaskId { get; set; }

    public required string PersonId { get; set; }

    public DateTime At { get; set; }

    public required string Name { get; set; }

    /// <summary>Its media type, found in its content.</summary>
    public required string MediaType { get; set; }

    public int Size { get; set; }

    public required byte[] Content { get; set; }
}
