using Auxilium.Planning.Words;

namespace Auxilium.Planning.Facts;

/// <summary>What a task is called by where it came from: an article of a supplier's list, an entry of a calendar.</summary>
public sealed class SourceIdFact : TextFact<SourceIdFact>
{
    public override string Name => "sourceId";

    public override string Title => "source id";

    public override string Headings => "source id, uid, reference, ref, article, article no, item no, code";

    /// <summary>A copy did not come from there.</summary>
    public override bool IsCopied => false;

    public override int Longest => 200;

    internal override IEnumerable<TextRun> Says(string? value, bool many) =>
        (value, many) switch
        {
            ({ } id, false) => [new(" has the source id "), new(id, true), new(".")],
            ({ } id, true) => [new(" have the source id "), new(id, true), new(".")],
            _ => base.Says(value, many),
        };
}
