using System.Collections.Immutable;
using System.Diagnostics.CodeAnalysis;

namespace Auxilium.Planning.Facts;

/// <summary>What has plain facts: a task, and what tells of one.</summary>
public interface IHasFacts
{
    FactValues Facts { get; }
}

/// <summary>The plain facts of a task that are not as usual. Two with the same values are equal.</summary>
public sealed class FactValues : IEquatable<FactValues>
{
    private readonly ImmutableDictionary<Fact, object> _values;

    private FactValues(ImmutableDictionary<Fact, object> values) => _values = values;

    public static FactValues None { get; } = new(ImmutableDictionary<Fact, object>.Empty);

    /// <summary>Those that are not as usual.</summary>
    public IEnumerable<KeyValuePair<Fact, object>> Told => _values;

    public bool IsEmpty => _values.IsEmpty;

    /// <summary>The value of a fact as it is kept: a text, a whole number or yes or no; the usual one where nothing else is.</summary>
    public object? this[Fact fact] => _values.GetValueOrDefault(fact) ?? fact.UsualValue;

    /// <param name="value">Of the type of the fact; <c>null</c> for the usual one.</param>
    public FactValues With(Fact fact, object? value) =>
        value is null || value.Equals(fact.UsualValue) ? Without(fact) : new FactValues(_values.SetItem(fact, value));

    /// <summary>Only the facts that are asked for.</summary>
    public FactValues Only(Func<Fact, bool> has) => _values.Keys.Aggregate(this, (kept, fact) => has(fact) ? kept : kept.Without(fact));

    public bool Equals([NotNullWhen(true)] FactValues? other) =>
        other is not null
        && (
            ReferenceEquals(_values, other._values)
            || (
                _values.Count == other._values.Count
                && _values.All(v => other._values.TryGetValue(v.Key, out var value) && value.Equals(v.Value))
            )
        );

    public override bool Equals(object? obj) => Equals(obj as FactValues);

    public override int GetHashCode() => _values.Aggregate(0, (sum, v) => sum ^ HashCode.Combine(v.Key.Name, v.Value));

    public override string ToString() => string.Join(", ", _values.OrderBy(v => v.Key.Name).Select(v => $"{v.Key.Name}: {v.Value}"));

    private FactValues Without(Fact fact) => _values.ContainsKey(fact) ? new FactValues(_values.Remove(fact)) : this;
}
