using Auxilium.Planning.Editing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Facts;

/// <summary>A word of the organisation's own to gather tasks by.</summary>
public sealed class LabelFact : TextFact<LabelFact>
{
    public override string Name => "label";

    public override string Title => "label";

    public override string Headings => "label, labels, tag, tags, category";

    public override string SharedWith => "label";

    public override int Longest => 40;

    internal override IEnumerable<TextRun> Says(string? value, bool many) =>
        (value, many) switch
        {
            ({ } label, false) => [new(" is labelled "), new(label, true), new(".")],
            ({ } label, true) => [new(" are labelled "), new(label, true), new(".")],
            _ => base.Says(value, many),
        };
}
