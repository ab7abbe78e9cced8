using System.Text.Json;
using Auxilium.Exchange.PlanDocuments;

namespace Auxilium.Exchange;

/// <summary>Reads JSON from outside strictly: no duplicate fields, limited nesting.</summary>
public static class StrictJson
{
    private static readonly JsonDocumentOptions Options = new() { AllowDuplicateProperties = false, MaxDepth = 32 };

    /// <exception cref="UnreadableDocumentException">It is not JSON; the error says where it goes wrong.</exception>
    public static JsonDocument Parse(ReadOnlyMemory<byte> utf8)
    {
        try
        {
            var document = JsonDocument.Parse(utf8, Options);
            if (WhyNot(document.RootElement, "$") is not { } bad)
                return document;
            document.Dispose();
            throw new UnreadableDocumentException([bad]);
        }
        catch (InvalidOperationException)
        {
            throw new UnreadableDocumentException([NoText("$")]);
        }
        catch (JsonException e)
        {
            var where = e.LineNumber is { } line ? $" at line {line + 1}, character {e.BytePositionInLine + 1}" : "";
            throw new UnreadableDocumentException([
                new DocumentError(
                    "$",
                    "json",
                    $"This is not a JSON document: it goes wrong{where}. Look there for a missing comma, quotation mark or bracket, "
                        + "or a field that stands twice."
                ),
            ]);
        }
    }

    /// <summary>
    /// The first invalid text, or number too large to keep. The parser checks each only when it is asked for, which may be anywhere.
    /// </summary>
    private static DocumentError? WhyNot(JsonElement json, string path)
    {
        switch (json.ValueKind)
        {
            case JsonValueKind.String when !IsText(json):
                return NoText(path);
            case JsonValueKind.Number when !json.TryGetDecimal(out _):
                return new DocumentError(path, "number", "This number is beyond what can be kept: give one of at most 28 digits.");
            case JsonValueKind.Array:
                var at = 0;
                foreach (var entry in json.EnumerateArray())
                    if (WhyNot(entry, $"{path}[{at++}]") is { } bad)
                        return bad;
                return null;
            case JsonValueKind.Object:
                foreach (var field in json.EnumerateObject())
                {
                    if (!IsText(field))
                        return NoText(path);
                    if (WhyNot(field.Value, $"{path}.{field.Name}") is { } bad)
                        return bad;
                }
                return null;
            default:
                return null;
        }
    }

    private static DocumentError NoText(string path) =>
        new(
            path,
            "text",
            "This text has bytes or characters that belong to no text, such as half of a pair: send it as UTF-8 without them."
        );

    private static bool IsText(JsonElement json) => Reads(() => json.GetString());

    private static bool IsText(JsonProperty field) => Reads(() => field.Name);

    /// <summary>The reader can only be asked by trying.</summary>
    private static bool Reads(Func<string?> read)
    {
        try
        {
            return read() is { } text && !text.Contains('\0');
        }
        catch (InvalidOperationException)
        {
            return false;
        }
    }
}
