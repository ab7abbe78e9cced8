using System.Text.Json;
using System.Text.Json.Nodes;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>The JSON Schema (2020-12) of <c>auxilium-plan/1</c>, with the plain facts that tasks have.</summary>
public static class PlanDocumentSchema
{
    private static readonly JsonSerializerOptions Indented = new() { WriteIndented = true };

    /// <summary>UTF-8 JSON.</summary>
    public static byte[] Utf8 { get; } = Load();

    private static byte[] Load()
    {
        using var stream = typeof(PlanDocumentSchema).Assembly.GetManifestResourceStream("auxilium-plan-1.schema.json")!;
        var schema = JsonNode.Parse(stream)!;
        var task = schema["properties"]!["tasks"]!["items"]!["properties"]!.AsObject();
        foreach (var (name, fact) in FactFields.Schemas())
            task.Add(name, fact);
        task.Add(
            "fields",
            new JsonObject
            {
                ["type"] = new JsonArray("object", "null"),
                ["description"] = "What the task has of the fields that people added, by their ids.",
                ["additionalProperties"] = new JsonObject { ["type"] = new JsonArray("string", "number", "boolean", "null") },
            }
        );
        return JsonSerializer.SerializeToUtf8Bytes(schema, Indented);
    }
}
