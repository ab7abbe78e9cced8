using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Auxilium.Exchange.PlanDocuments;

namespace Auxilium.Web.PlanScreen;

/// <summary>JSON in which rows and cards name each plain fact of a task beside their other properties.</summary>
internal static class RowJson
{
    /// <summary>For what stands in a page.</summary>
    public static JsonSerializerOptions Options { get; } = With(new JsonSerializerOptions(JsonSerializerDefaults.Web));

    public static JsonSerializerOptions With(JsonSerializerOptions options)
    {
        options.TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { NameFacts } };
        return options;
    }

    /// <summary>Of a thousand rows most facts are as usual, and are not sent; a card tells all.</summary>
    private static void NameFacts(JsonTypeInfo info)
    {
        if (info.Type == typeof(RowView))
            FactFields.ToldBesideOthers(info);
        else
            FactFields.BesideOthers(info);
    }
}
