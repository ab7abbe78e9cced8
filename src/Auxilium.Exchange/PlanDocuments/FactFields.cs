using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization.Metadata;
using Auxilium.Planning.Facts;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>The plain facts of a task as fields of its JSON, each by its own name.</summary>
public static class FactFields
{
    /// <param name="fields">Those that people added.</param>
    internal static FactValues Read(JsonObjectReader at, IEnumerable<OwnField> fields) =>
        OwnFieldJson.ReadValues(at, fields, PlainFacts.All.Aggregate(FactValues.None, (facts, fact) => facts.With(fact, Read(at, fact))));

    /// <param name="plan">What names a row that it does not have is left out.</param>
    internal static void Write(Utf8JsonWriter json, IHasFacts task, Plan plan)
    {
        foreach (var fact in PlainFacts.All)
        {
            var value = task.Facts[fact];
            json.WritePropertyName(fact.Name);
            JsonSerializer.Serialize(json, fact.NamesRow && plan.Find(value as string ?? "") is null ? null : value, fact.ValueType);
        }
        OwnFieldJson.WriteValues(json, task.Facts, plan.Project.FieldsOfTasks);
    }

    /// <summary>What is told of the fields that people added, by their ids; <c>null</c> for nothing.</summary>
    public static Dictionary<string, string>? OwnOf(FactValues facts) => OwnFieldJson.ValuesOf(facts);

    /// <summary>What names a row that is not there.</summary>
    internal static IEnumerable<(Fact Fact, string Id)> Unknown(IHasFacts task, IReadOnlySet<string> rows) =>
        task.Facts.Told.Where(told => told.Key.NamesRow && !rows.Contains((string)told.Value)).Select(t => (t.Key, (string)t.Value));

    /// <summary>What each of them may be, as JSON Schema, by its name.</summary>
    internal static IEnumerable<KeyValuePair<string, JsonNode?>> Schemas() =>
        PlainFacts.All.Select(fact => KeyValuePair.Create(fact.Name, (JsonNode?)SchemaOf(fact)));

    /// <summary>
    /// Lets JSON of what has facts name each of them beside the other properties, as if it were one. A modifier of a resolver.
    /// </summary>
    public static void BesideOthers(JsonTypeInfo info) => BesideOthers(info, onlyTold: false);

    /// <summary>As <see cref="BesideOthers(JsonTypeInfo)"/>, without those at their default.</summary>
    public static void ToldBesideOthers(JsonTypeInfo info) => BesideOthers(info, onlyTold: true);

    private static void BesideOthers(JsonTypeInfo info, bool onlyTold)
    {
        if (info.Kind != JsonTypeInfoKind.Object || !typeof(IHasFacts).IsAssignableFrom(info.Type))
            return;
        var whole = info.Type.GetProperty(nameof(IHasFacts.Facts))!;
        info.Properties.Remove(info.Properties.First(p => p.PropertyType == typeof(FactValues)));
        foreach (var fact in PlainFacts.All)
        {
            var property = info.CreateJsonPropertyInfo(fact.ValueType, fact.Name);
            property.Get = of => ((IHasFacts)of).Facts[fact];
            property.Set = (of, value) => whole.SetValue(of, ((IHasFacts)of).Facts.With(fact, value));
            property.IsGetNullable = property.IsSetNullable = fact.UsualValue is null;
            if (onlyTold)
                property.ShouldSerialize = (of, value) => !Equals(value, fact.UsualValue);
            info.Properties.Add(property);
        }
        OwnFieldJson.BesideOthers(info, whole, onlyTold);
    }

    private static object? Read(JsonObjectReader at, Fact fact)
    {
        var (value, why) = fact switch
        {
            IYesNoFact => (at.Flag(fact.Name), null),
            INumberFact number => Number(at, number),
            ITextFact text => Text(at, text),
            _ => throw new NotSupportedException($"Documents cannot hold values like those of {fact.Name} yet."),
        };
        if (why is var (code, message))
            at.Error(fact.Name, code, message);
        return why is null ? value : null;
    }

    private static (object? Value, (string, string)? Why) Number(JsonObjectReader at, INumberFact fact)
    {
        if (at.Number(fact.Name) is not { } number)
            return (null, null);
        var whole = number == decimal.Truncate(number) && Math.Abs(number) < int.MaxValue ? (int)number : int.MinValue;
        return (whole, fact.WhyRefused(whole) is { } why ? ("range", why) : null);
    }

    private static (object? Value, (string, string)? Why) Text(JsonObjectReader at, ITextFact fact)
    {
        var text = fact.Tidy(at.Text(fact.Name, Math.Max(fact.Longest, JsonObjectReader.LongestWord)));
        return (text, fact.WhyRefused(text) is { } why ? (fact.Choices.IsEmpty ? fact.Name : "value", why) : null);
    }

    private static JsonObject SchemaOf(Fact fact) =>
        fact switch
        {
            IYesNoFact => new() { ["type"] = Nullable("boolean") },
            INumberFact number => new()
            {
                ["type"] = Nullable("integer"),
                ["minimum"] = number.Least,
                ["maximum"] = number.Most,
            },
            ITextFact { Choices.IsEmpty: true } text => new() { ["type"] = Nullable("string"), ["maxLength"] = text.Longest },
            ITextFact choice => new() { ["enum"] = new JsonArray([.. choice.Choices.Select(c => (JsonNode)c), null]) },
            _ => throw new NotSupportedException($"Documents cannot hold values like those of {fact.Name} yet."),
        };

    private static JsonArray Nullable(string type) => new(type, "null");
}
