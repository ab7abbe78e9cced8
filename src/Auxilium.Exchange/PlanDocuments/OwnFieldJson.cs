using System.Collections.Immutable;
using System.Globalization;
using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Auxilium.Planning.Facts;
using Auxilium.Planning.OwnFields;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>
/// Fields that people added, as JSON: in documents <c>fields</c> of the project says what they are, and <c>fields</c> of a task what it
/// has of them, numbers as numbers and yes as <c>true</c>; in rows and edits <c>own</c> has the values as they are kept.
/// </summary>
internal static class OwnFieldJson
{
    private static readonly string[] Kinds = [.. Enum.GetNames<OwnKind>().Select(PlanDocumentNames.Camel)];

    public static ImmutableArray<OwnField> Read(JsonObjectReader project)
    {
        var fields = ImmutableArray.CreateBuilder<OwnField>();
        foreach (var at in project.Objects("fields", OwnField.Most))
        {
            var (id, name) = (at.RequiredText("id", 64), at.RequiredText("name", JsonObjectReader.LongestWord));
            var kind = Array.IndexOf(Kinds, at.Text("kind", JsonObjectReader.LongestWord) ?? "text");
            if (kind < 0)
                at.Error("kind", "value", $"“kind” is one of {string.Join(", ", Kinds)}.");
            var field = new OwnField(
                id,
                name,
                (OwnKind)Math.Max(0, kind),
                at.Text("unit", JsonObjectReader.LongestWord),
                at.Flag("shared"),
                at.Flag("retired"),
                at.Flag("ofProject")
            )
            {
                Value = at.Text("value", OwnText.Longest),
                Choices = [.. at.Objects("choices", OwnField.MostChoices).Select(Choice)],
            }.Tidy();
            at.Done();
            if (id.Length == 0 || name.Length == 0 || kind < 0)
                continue;
            if (field.WhyRefused() is { } why)
                at.Error("name", "field", why);
            else if (at.Has("value") && !OwnText.TryRead(field, field.Value, DateOnly.MinValue, null, out _, out var problem))
                at.Error("value", "value", problem!);
            else if (fields.Any(other => other.Id == id))
                at.Error("id", "duplicateId", $"There are two fields with the id “{id}”.");
            else
                fields.Add(field);
        }
        return fields.ToImmutable();
    }

    public static void Write(Utf8JsonWriter json, OwnField field)
    {
        json.WriteString("id", field.Id);
        json.WriteString("name", field.Name);
        json.WriteString("kind", PlanDocumentNames.Camel(field.Kind.ToString()));
        json.WriteString("unit", field.Unit);
        json.WriteBoolean("shared", field.Shared);
        json.WriteBoolean("retired", field.Retired);
        json.WriteBoolean("ofProject", field.OfProject);
        json.WriteString("value", field.Value);
        json.WriteStartArray("choices");
        foreach (var choice in field.Choices)
        {
            json.WriteStartObject();
            json.WriteString("id", choice.Id);
            json.WriteString("name", choice.Name);
            json.WriteString("colour", choice.Colour);
            json.WriteEndObject();
        }
        json.WriteEndArray();
    }

    public static FactValues ReadValues(JsonObjectReader task, IEnumerable<OwnField> fields, FactValues facts)
    {
        if (task.Object("fields") is not { } at)
            return facts;
        foreach (var field in fields)
        {
            var text = field.Kind switch
            {
                OwnKind.Number or OwnKind.Amount => at.Number(field.Id)?.ToString(CultureInfo.InvariantCulture),
                OwnKind.YesNo => at.Flag(field.Id) ? "yes" : null,
                _ => at.Text(field.Id, OwnText.Longest),
            };
            // A day without a year would be another one each year.
            var isWhole = field.Kind != OwnKind.Date || text is null || DateOnly.TryParseExact(text, "yyyy-MM-dd", out _);
            if (!isWhole)
                at.Error(field.Id, "date", "This must be a day like 2027-05-12.");
            else if (OwnText.TryRead(field, text, DateOnly.MinValue, null, out var value, out var problem))
                facts = facts.With(OwnFact.Of(field.Id), value);
            else
                at.Error(field.Id, "value", problem!);
        }
        at.Done();
        return facts;
    }

    public static void WriteValues(Utf8JsonWriter json, FactValues facts, IEnumerable<OwnField> fields)
    {
        json.WriteStartObject("fields");
        foreach (var field in fields)
            if (facts[OwnFact.Of(field.Id)] is string value)
                switch (field.Kind)
                {
                    case OwnKind.Number or OwnKind.Amount:
                        json.WriteNumber(field.Id, decimal.Parse(value, CultureInfo.InvariantCulture));
                        break;
                    case OwnKind.YesNo:
                        json.WriteBoolean(field.Id, true);
                        break;
                    default:
                        json.WriteString(field.Id, value);
                        break;
                }
        json.WriteEndObject();
    }

    /// <summary>
    /// Lets JSON of what has facts name them as <c>own</c>: values by the ids of their fields; left out, or null, for none.
    /// </summary>
    /// <param name="whole">The property with all facts.</param>
    public static void BesideOthers(JsonTypeInfo info, PropertyInfo whole, bool onlyTold)
    {
        var property = info.CreateJsonPropertyInfo(typeof(Dictionary<string, string>), "own");
        property.Get = of => ValuesOf(((IHasFacts)of).Facts);
        property.Set = (of, values) =>
            whole.SetValue(
                of,
                ((Dictionary<string, string>?)values ?? []).Aggregate(((IHasFacts)of).Facts, (facts, value) =>
                    facts.With(OwnFact.Of(value.Key), value.Value)
                )
            );
        property.IsGetNullable = property.IsSetNullable = true;
        if (onlyTold)
            property.ShouldSerialize = (_, values) => values is not null;
        info.Properties.Add(property);
    }

    /// <summary>Values by the ids of their fields; <c>null</c> for none.</summary>
    public static Dictionary<string, string>? ValuesOf(FactValues facts)
    {
        Dictionary<string, string>? values = null;
        foreach (var (fact, value) in facts.Told)
            if (fact is OwnFact own)
                (values ??= [])[own.Id] = (string)value;
        return values;
    }

    private static OwnChoice Choice(JsonObjectReader at)
    {
        var choice = new OwnChoice(
            at.RequiredText("id", 64),
            at.RequiredText("name", JsonObjectReader.LongestWord),
            at.Text("colour", JsonObjectReader.LongestWord)
        );
        at.Done();
        return choice;
    }
}
