using System.Collections.Immutable;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Facts;

/// <summary>A colour that somebody gave a row.</summary>
public sealed class ColourFact : TextFact<ColourFact>
{
    public override string Name => "colour";

    public override string Title => "colour";

    public override string Headings => "colour, color";

    public override string SharedWith => "label";

    public override int Longest => 20;

    public override ImmutableArray<string> Choices { get; } = ["sand", "moss", "sky", "rose", "lilac"];

    internal override IEnumerable<TextRun> Says(string? value, bool many) =>
        (value, many) switch
        {
            (null, false) => [new(" has no colour of its own now.")],
            (null, true) => [new(" have no colour of their own now.")],
            (_, false) => [new($" is marked in {value}.")],
            (_, true) => [new($" are marked in {value}.")],
        };
}
