using System.Text.Json.Nodes;
using Auxilium.Exchange.Edits;
using Auxilium.Storage.Plans;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Microsoft.OpenApi.Reader;

namespace Auxilium.Web.Api;

/// <summary>Describes in the OpenAPI document what each kind of edit looks like, and that the body of an edit holds one of them.</summary>
internal sealed class EditSchemas : IOpenApiDocumentTransformer
{
    private const string AnyEdit = "#/components/schemas/Edit";

    public Task TransformAsync(OpenApiDocument document, OpenApiDocumentTransformerContext context, CancellationToken cancellationToken)
    {
        var kinds = EditJson.Schemas(AnyEdit);
        foreach (var (wire, schema) in kinds)
            document.AddComponent(NameOf(wire), Parsed(schema, document));
        var mapping = kinds.Keys.ToDictionary(wire => wire, wire => (JsonNode?)$"#/components/schemas/{NameOf(wire)}");
        document.AddComponent(
            "Edit",
            Parsed(
                new JsonObject
                {
                    ["description"] = "A change to a plan: “type” says which.",
                    ["oneOf"] = new JsonArray([.. kinds.Keys.Select(wire => new JsonObject { ["$ref"] = mapping[wire]!.DeepClone() })]),
                    ["discriminator"] = new JsonObject { ["propertyName"] = "type", ["mapping"] = new JsonObject(mapping) },
                },
                document
            )
        );
        document.AddComponent("EditRequest", Parsed(Request(), document));
        foreach (var operation in document.Paths.Where(path => path.Key.EndsWith("/edits", StringComparison.Ordinal)).SelectMany(Posts))
        foreach (var content in operation.RequestBody?.Content?.Values ?? [])
            content.Schema = new OpenApiSchemaReference("EditRequest", document);
        return Task.CompletedTask;
    }

    private static IEnumerable<OpenApiOperation> Posts(KeyValuePair<string, IOpenApiPathItem> path) =>
        path.Value.Operations?.Where(o => o.Key == HttpMethod.Post).Select(o => o.Value) ?? [];

    private static JsonObject Request() =>
        new()
        {
            ["type"] = "object",
            ["required"] = new JsonArray("id", "baseVersion"),
            ["properties"] = new JsonObject
            {
                ["id"] = Text("A UUID made for this edit: sent again, it is applied once.", "uuid"),
                ["baseVersion"] = new JsonObject { ["type"] = "integer", ["minimum"] = 1 },
                ["edit"] = new JsonObject { ["$ref"] = AnyEdit },
                ["takeBack"] = new JsonObject
                {
                    ["description"] = "Instead of “edit”: lastEdit, lastTakeBack or the id of an entry of the journal.",
                },
                ["overrule"] = new JsonObject { ["type"] = "boolean" },
                ["near"] = Text("The day that dates without a year are closest to.", "date"),
                ["note"] = Text("Why, where the edit becomes a proposal."),
            },
        };

    private static JsonObject Text(string description, string? format = null)
    {
        var text = new JsonObject { ["type"] = "string", ["description"] = description };
        if (format is not null)
            text["format"] = format;
        return text;
    }

    /// <summary><c>setLength</c> as the schemas of a document are named: <c>SetLengthEdit</c>.</summary>
    private static string NameOf(string wire) => char.ToUpperInvariant(wire[0]) + wire[1..] + "Edit";

    private static OpenApiSchema Parsed(JsonObject schema, OpenApiDocument document) =>
        OpenApiModelFactory.Parse<OpenApiSchema>(schema.ToJsonString(), OpenApiSpecVersion.OpenApi3_1, document, out _, "json")
        ?? throw new InvalidOperationException("This is not a schema.");
}
