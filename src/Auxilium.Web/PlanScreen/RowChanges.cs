using System.Reflection;
using System.Text.Json;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Facts;
using Auxilium.Planning.OwnFields;

namespace Auxilium.Web.PlanScreen;

/// <summary>What changed in the rows of a plan. An edit that moves hundreds of rows changes little more than their dates.</summary>
internal static class RowChanges
{
    private delegate void Compare(RowView was, RowView now, Dictionary<string, object?> changed);

    private static readonly Compare[] Fields =
    [
        .. typeof(RowView).GetProperties().Where(property => property.Name != nameof(RowView.Facts)).Select(FieldOf),
        .. PlainFacts.All.Select(FactOf),
        Own,
    ];

    /// <param name="before">The rows as the screen has them, by id.</param>
    /// <param name="after">The rows as they are.</param>
    /// <returns>New rows whole; of changed ones their id and the changed fields. Unchanged ones are left out.</returns>
    public static IReadOnlyList<object> Between(IReadOnlyDictionary<string, RowView> before, IReadOnlyList<RowView> after)
    {
        var changes = new List<object>();
        foreach (var row in after)
        {
            if (!before.TryGetValue(row.Id, out var was))
                changes.Add(row);
            else if (was != row)
                changes.Add(Of(was, row));
        }
        return changes;
    }

    private static Dictionary<string, object?> Of(RowView was, RowView now)
    {
        var changed = new Dictionary<string, object?> { ["id"] = now.Id };
        foreach (var compare in Fields)
            compare(was, now, changed);
        return changed;
    }

    private static Compare FieldOf(PropertyInfo property) =>
        (Compare)
            typeof(RowChanges)
                .GetMethod(nameof(Typed), BindingFlags.NonPublic | BindingFlags.Static)!
                .MakeGenericMethod(property.PropertyType)
                .Invoke(null, [property])!;

    private static Compare FactOf(Fact fact) =>
        (was, now, changed) =>
        {
            var value = now.Facts[fact];
            if (!Equals(was.Facts[fact], value))
                changed[fact.Name] = value;
        };

    /// <summary>What people added is sent whole where any of it changed.</summary>
    private static void Own(RowView was, RowView now, Dictionary<string, object?> changed)
    {
        if (!was.Facts.Equals(now.Facts) && !was.Facts.Only(fact => fact is OwnFact).Equals(now.Facts.Only(fact => fact is OwnFact)))
            changed["own"] = FactFields.OwnOf(now.Facts);
    }

    /// <summary>Reads a property by its own getter, so that a value is boxed only if it changed.</summary>
    private static Compare Typed<T>(PropertyInfo property)
    {
        var name = JsonNamingPolicy.CamelCase.ConvertName(property.Name);
        var get = property.GetMethod!.CreateDelegate<Func<RowView, T>>();
        return (was, now, changed) =>
        {
            var value = get(now);
            if (!EqualityComparer<T>.Default.Equals(get(was), value))
                changed[name] = value;
        };
    }
}
