namespace Auxilium.Planning.Facts;

/// <summary>How much a task matters among others: 500 is usual.</summary>
public sealed class PriorityFact : NumberFact<PriorityFact>
{
    public override string Name => "priority";

    public override string Title => "priority";

    public override int Usual => 500;

    public override int Least => 0;

    public override int Most => 1000;
}
