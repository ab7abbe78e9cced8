namespace Auxilium.Storage.Rows;

/// <summary>What is said of the money of a project as a whole. Whoever may not have money gets none of these rows (rule M7).</summary>
public sealed class ProjectMoneyRow
{
    public Guid ProjectId { get; set; }

    public decimal? Budget { get; set; }

    /// <summary>How it is known what was spent, by name; <c>null</c> for what was entered as soon as anything was.</summary>
    public string? Actuals { get; set; }

    /// <summary>How often the money was changed.</summary>
    public int Version { get; set; }

    /// <summary>What it was expected to cost when that was last worked out, for what is asked of many projects at once.</summary>
    public decimal? Expected { get; set; }

    /// <summary>What was spent then.</summary>
    public decimal? Spent { get; set; }

    /// <summary>The day of those; <c>null</c> where something has changed since.</summary>
    public DateOnly? AsOf { get; set; }
}

/// <summary>Something other than labour that a row costs. It stays when the row leaves the plan.</summary>
public sealed class CostItemRow
{
    public Guid ProjectId { get; set; }

    public required string Id { get; set; }

    public required string TaskId { get; set; }

    /// <summary>Where it stands among those of its row.</summary>
    public int Position { get; set; }

    /// <summary>All that is said of it, with its payments, as JSON.</summary>
    public required string Item { get; set; }
}

/// <summary>What a row of a plan may cost, and how short it could be made.</summary>
public sealed class RowBudgetRow
{
    public Guid ProjectId { get; set; }

    public required string TaskId { get; set; }

    public decimal? Budget { get; set; }

    /// <summary>How short it could be made, such as <c>3d</c>; <c>null</c> where nobody says.</summary>
    public string? CouldTake { get; set; }

    /// <summary>What more it would cost then.</summary>
    public decimal? CouldTakeCost { get; set; }
}

/// <summary>Somebody whom a coordinator lets see the money of a project.</summary>
public sealed class MoneyAccessRow
{
    public Guid ProjectId { get; set; }

    public required string PersonId { get; set; }
}

/// <summary>A change to the money of a project, with what takes it back.</summary>
public sealed class MoneyEntryRow
{
    public long Id { get; set; }

    public Guid ProjectId { get; set; }

    /// <summary>The version of the money that it made.</summary>
    public int Version { get; set; }

    /// <summary>Made for it by who sent it: sent twice, it is applied once.</summary>
    public Guid EditId { get; set; }

    public required string PersonId { get; set; }

    /// <summary>In UTC.</summary>
    public DateTime At { get; set; }

    public required string Inverse { get; set; }

    public required string[] Touches { get; set; }

    public required string Sentence { get; set; }

    /// <summary>The entry that it takes back.</summary>
    public long? TakesBack { get; set; }
}

/// <summary>A receipt that was added as a file. It shows amounts, so it lies with the money and not with the files of a task.</summary>
public sealed class ReceiptRow
{
    public Guid Id { get; set; }

    public Guid ProjectId { get; set; }

    public required string PersonId { get; set; }

    /// <summary>In UTC.</summary>
    public DateTime At { get; set; }

    /// <summary>What it is called: the payments that name it so are those it is for.</summary>
    public required string Name { get; set; }

    /// <summary>Its media type, found in its content.</summary>
    public required string MediaType { get; set; }

    public int Size { get; set; }

    public required byte[] Content { get; set; }

    /// <summary>When it was removed, in UTC: until it is cleared away it can be brought back.</summary>
    public DateTime? RemovedAt { get; set; }
}
