using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Words of the format.</summary>
internal static class PlanDocumentNames
{
    public static string Of(ConstraintKind kind) => Camel(kind.ToString());

    public static string Camel(string name) => char.ToLowerInvariant(name[0]) + name[1..];
}
