using System.Reflection;
using System.Text.Json;

namespace Auxilium.Web.Pages.Plan;

/// <summary>What became other in the rows of a plan. An edit that moves hundreds of rows changes little more than their dates.</summary>
internal static class RowChanges
{
    private static readonly (string Name, PropertyInfo Property)[] Fields =
        [.. typeof(RowView).GetProperties().Select(p => (JsonNamingPolicy.CamelCase.ConvertName(p.Name), p))];

    /// <param name="before">The rows as the screen has them, by id.</param>
    /// <param name="after">The rows as they are.</param>
    /// <returns>New rows whole; of changed ones their id and the fields that are other. Unchanged ones are left out.</returns>
    public static IReadOnlyList<object> Between(IReadOnlyDictionary<string, RowView> before, IReadOnlyList<RowView> after)
    {
        var changes = new List<object>();
        foreach (var row in after)
        {
            if (!before.TryGetValue(row.Id, out var was)) changes.Add(row);
            else if (was != row) changes.Add(Of(was, row));
        }
        return changes;
    }

    private static Dictionary<string, object?> Of(RowView was, RowView now)
    {
        var changed = new Dictionary<string, object?> { ["id"] = now.Id };
        foreach (var (name, property) in Fields)
            if (property.GetValue(now) is var value && !Equals(property.GetValue(was), value))
                changed[name] = value;
        return changed;
    }
}
