using Auxilium.Planning.Editing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Facts;

/// <summary>Whether a task is one of those that matter most.</summary>
public sealed class KeyFact : YesNoFact<KeyFact>
{
    public override string Name => "key";

    public override string Title => "key task";

    public override string ValueName => "on";

    public override string Headings => "key, key task, important";

    public override string SharedWith => "label";

    public override string InWords(bool value) => value ? "a key task" : "not a key task";

    internal override IEnumerable<TextRun> Says(bool value, bool many) =>
        [
            new(
                (value, many) switch
                {
                    (true, false) => " is a key task.",
                    (true, true) => " are key tasks.",
                    (false, false) => " is no longer a key task.",
                    (false, true) => " are no longer key tasks.",
                }
            ),
        ];
}
