using System.Collections.Immutable;

namespace Auxilium.Planning.Facts;

/// <summary>Every plain fact that a task has.</summary>
public static class PlainFacts
{
    public static ImmutableArray<Fact> All { get; } =
    [PriorityFact.It, KeyFact.It, ColourFact.It, LabelFact.It, DeliveredByFact.It, ServesFact.It, RoleFact.It, SourceIdFact.It];

    public static PriorityFact Priority => PriorityFact.It;

    public static KeyFact Key => KeyFact.It;

    public static ColourFact Colour => ColourFact.It;

    public static LabelFact Label => LabelFact.It;

    public static DeliveredByFact DeliveredBy => DeliveredByFact.It;

    public static ServesFact Serves => ServesFact.It;

    public static RoleFact Role => RoleFact.It;

    public static SourceIdFact SourceId => SourceIdFact.It;

    private static readonly Dictionary<string, Fact> Names = All.ToDictionary(fact => fact.Name);

    /// <summary>The fact with a name; <c>null</c> where there is none.</summary>
    public static Fact? Find(string name) => Names.GetValueOrDefault(name);
}
