using Auxilium.Planning.Words;

namespace Auxilium.Planning.Facts;

/// <summary>Who outside the project delivers a task or milestone: it is waited for, and not worked on here.</summary>
public sealed class DeliveredByFact : TextFact<DeliveredByFact>
{
    public override string Name => "deliveredBy";

    public override string Title => "delivered by";

    public override string Headings => "delivered by, delivery by, supplier";

    public override string SharedWith => "owner";

    public override int Longest => 80;

    internal override IEnumerable<TextRun> Says(string? value, bool many) =>
        (value, many) switch
        {
            ({ } who, false) => [new(" is delivered by "), new(who, true), new(".")],
            ({ } who, true) => [new(" are delivered by "), new(who, true), new(".")],
            (null, false) => [new(" is no longer delivered by others.")],
            _ => [new(" are no longer delivered by others.")],
        };
}
