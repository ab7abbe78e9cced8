using Auxilium.Planning.Words;

namespace Auxilium.Planning.Facts;

/// <summary>What somebody does it as, such as “stage manager”: who a task is for as long as nobody has taken it.</summary>
public sealed class RoleFact : TextFact<RoleFact>
{
    public override string Name => "role";

    public override string Title => "role";

    public override string Headings => "role, roles, function";

    public override string SharedWith => "owner";

    public override int Longest => 80;

    internal override IEnumerable<TextRun> Says(string? value, bool many) =>
        (value, many) switch
        {
            ({ } role, false) => [new(" is for the role "), new(role, true), new(".")],
            ({ } role, true) => [new(" are for the role "), new(role, true), new(".")],
            (null, false) => [new(" is for no role now.")],
            _ => [new(" are for no role now.")],
        };
}
