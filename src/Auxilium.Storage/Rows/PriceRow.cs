namespace Auxilium.Storage.Rows;

/// <summary>An item of the organisation's price list.</summary>
public sealed class PriceRow
{
    public Guid Id { get; set; }

    public required string Category { get; set; }

    public required string Name { get; set; }

    /// <summary>What it is counted in, such as day or piece; empty for nothing.</summary>
    public required string Unit { get; set; }

    /// <summary>Of one unit, in the organisation's currency; <c>null</c> where it is not known.</summary>
    public decimal? Price { get; set; }

    public required string Supplier { get; set; }

    /// <summary>What it usually takes, such as 2d; empty where that is not known.</summary>
    public required string Length { get; set; }

    public int Position { get; set; }
}
