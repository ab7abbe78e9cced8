using System.Collections.Concurrent;
using System.Diagnostics.CodeAnalysis;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.OwnFields;

/// <summary>
/// What a task has of a field that people made, among its other facts: so copies, templates and edits of whole rows take it along.
/// </summary>
public sealed class OwnFact : Fact, IEquatable<OwnFact>
{
    /// <summary>What the names of these facts begin with.</summary>
    public const string Prefix = "own:";

    private const int MostKnown = 10_000;

    private static readonly ConcurrentDictionary<string, OwnFact> Known = [];
    private static readonly EditKind Kind = EditKind.Of<SetOwn>();

    private OwnFact(string id)
        : base(Prefix + id) => Id = id;

    /// <summary>Of its <see cref="OwnField"/>.</summary>
    public string Id { get; }

    public override string Name => Prefix + Id;

    public override string Title => "field";

    public override EditKind Edit => Kind;

    public override object? UsualValue => null;

    public override Type ValueType => typeof(string);

    public static OwnFact Of(string id)
    {
        if (Known.TryGetValue(id, out var known))
            return known;
        // Two with the same id are equal.
        if (Known.Count >= MostKnown)
            Known.Clear();
        return Known.GetOrAdd(id, static id => new OwnFact(id));
    }

    public override string InWords(object? value) => value as string ?? "nothing";

    public override string InWordsIn(Plan plan, object? value) =>
        plan.Project.FindField(Id) is { } field && OwnText.InWords(field, value as string) is { Length: > 0 } words ? words : "nothing";

    public override bool TryType(string text, out object? value, [NotNullWhen(false)] out string? problem)
    {
        (value, problem) = (text.Trim() is { Length: > 0 } typed ? typed : null, null);
        return true;
    }

    public override PlanEdit Give(string task, object? value) => new SetOwn(task, Id, value as string);

    public bool Equals(OwnFact? other) => other?.Id == Id;

    public override bool Equals(object? obj) => Equals(obj as OwnFact);

    public override int GetHashCode() => Id.GetHashCode(StringComparison.Ordinal);
}
