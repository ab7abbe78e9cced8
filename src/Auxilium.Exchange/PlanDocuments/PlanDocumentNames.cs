using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Words of the format.</summary>
internal static class PlanDocumentNames
{
    /// <summary>Link kinds in the order of <see cref="LinkKind"/>.</summary>
    public static readonly string[] LinkKinds = ["FS", "SS", "FF", "SF"];

    public static string Of(LinkKind kind) => LinkKinds[(int)kind];

    public static string Of(ConstraintKind kind) => Camel(kind.ToString());

    public static string Camel(string name) => char.ToLowerInvariant(name[0]) + name[1..];
}
