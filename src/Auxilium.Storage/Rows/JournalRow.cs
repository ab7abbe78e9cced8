using Auxilium.Storage.Plans;

namespace Auxilium.Storage.Rows;

/// <summary>One edit of a plan: who made it, what it was, how to take it back, and what it did.</summary>
public sealed class JournalRow
{
    public long Id { get; set; }

    public Guid PlanId { get; set; }

    /// <summary>The version of the plan that the edit made.</summary>
    public int Version { get; set; }

    /// <summary>Made by the client, so that the same edit sent twice is applied once.</summary>
    public Guid EditId { get; set; }

    public required string PersonId { get; set; }

    /// <summary>UTC.</summary>
    public DateTime At { get; set; }

    public required string Edit { get; set; }

    public required string Inverse { get; set; }

    /// <summary>What it changed, as <c>task/field</c>.</summary>
    public required string[] Touched { get; set; }

    /// <summary>The tasks it changed or moved: what is asked for by task is found through them.</summary>
    public required string[] Tasks { get; set; }

    /// <summary>What it changed, in words.</summary>
    public required string Summary { get; set; }

    /// <summary>What it did, in words with what matters most marked, as JSON.</summary>
    public required string Sentence { get; set; }

    /// <summary>What moved, as <see cref="JournalRipple"/> writes it.</summary>
    public required string Moves { get; set; }

    public DateTime FinishBefore { get; set; }

    public DateTime FinishAfter { get; set; }

    /// <summary>The entry that this one takes back.</summary>
    public long? TakesBack { get; set; }
}
