using Auxilium.Planning.Plans;

namespace Auxilium.Storage.Rows;

/// <summary>A link between two tasks.</summary>
public sealed class LinkRow
{
    public Guid PlanId { get; set; }

    public required string From { get; set; }

    public required string To { get; set; }

    public long Rank { get; set; }

    public LinkKind Kind { get; set; }

    public required string Lag { get; set; }

    public bool Elapsed { get; set; }
}
