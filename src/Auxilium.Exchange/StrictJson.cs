using System.Text.Json;
using Auxilium.Exchange.PlanDocuments;

namespace Auxilium.Exchange;

/// <summary>Reads JSON as every document from outside is read: no field twice, no endless nesting.</summary>
public static class StrictJson
{
    private static readonly JsonDocumentOptions Options = new() { AllowDuplicateProperties = false, MaxDepth = 32 };

    /// <exception cref="UnreadableDocumentException">It is not JSON; the error says where it goes wrong.</exception>
    public static JsonDocument Parse(ReadOnlyMemory<byte> utf8)
    {
        try
        {
            return JsonDocument.Parse(utf8, Options);
        }
        catch (JsonException e)
        {
            var where = e.LineNumber is { } line ? $" at line {line + 1}, character {e.BytePositionInLine + 1}" : "";
            throw new UnreadableDocumentException([new DocumentError("$", "json", $"This is not a JSON document: it goes wrong{where}. Look there for a missing comma, quotation mark or bracket, or a field that stands twice.")]);
        }
    }
}
