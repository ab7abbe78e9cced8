namespace Auxilium.Storage.Rows;

/// <summary>A finish-to-start link.</summary>
public sealed class LinkRow
{
    public Guid ProjectId { get; set; }

    public required string From { get; set; }

    public required string To { get; set; }

    public long Rank { get; set; }

    public required string Lag { get; set; }
}
