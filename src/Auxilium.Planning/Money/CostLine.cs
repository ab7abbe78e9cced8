using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Money;

/// <summary>What one person or one item costs on a row.</summary>
/// <param name="Row">The row's position.</param>
/// <param name="Person">Who works; <c>null</c> for an item.</param>
/// <param name="Item">The item; <c>null</c> for labour.</param>
/// <param name="Planned">What it is to cost, in three parts (rule M4).</param>
/// <param name="Spent">Up to and with the day that is looked at (rule M5).</param>
/// <param name="Left">Still to be spent (rule M6).</param>
public readonly record struct CostLine(int Row, string? Person, CostItem? Item, PlannedCost Planned, decimal Spent, decimal Left)
{
    public decimal Expected => Spent + Left;
}

/// <summary>What a row, or all of them, costs.</summary>
/// <param name="Planned">In three parts (rule M4).</param>
/// <param name="Labour">The part of it that is labour.</param>
public readonly record struct CostSum(PlannedCost Planned, decimal Labour, decimal Spent, decimal Left)
{
    public decimal Items => Planned.Whole - Labour;

    public decimal Expected => Spent + Left;

    public CostSum Plus(in CostSum other) =>
        new(Planned.Plus(other.Planned), Labour.Plus(other.Labour), Spent.Plus(other.Spent), Left.Plus(other.Left));

    internal CostSum Plus(in CostLine line) =>
        Plus(new CostSum(line.Planned, line.Item is null ? line.Planned.Whole : 0, line.Spent, line.Left));
}
