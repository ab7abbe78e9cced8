using System.Text.Json;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Collects what is wrong with a document, up to a limit that keeps the answer readable.</summary>
internal sealed class ErrorList
{
    private const int Most = 100;

    private readonly List<DocumentError> _errors = [];

    public bool Any => _errors.Count > 0;

    public void Add(string path, string code, string message, IReadOnlyList<string>? tasks = null)
    {
        if (_errors.Count < Most)
            _errors.Add(new DocumentError(path, code, message, tasks));
    }

    public void ThrowIfAny()
    {
        if (Any)
            throw new UnreadableDocumentException(_errors);
    }
}

/// <summary>
/// Reads the fields of a JSON object strictly: a wrong type is an error at its path, and so is (see <see cref="Done"/>) every
/// field that was never asked for. <c>null</c> counts as left out.
/// </summary>
internal sealed class JsonObjectReader(JsonElement element, string path, ErrorList errors)
{
    /// <summary>Reads a choice of words strictly, so that an error can list them.</summary>
    public const int LongestWord = 100;

    private readonly HashSet<string> _asked = [];

    public string Path => path;

    public ErrorList Errors => errors;

    public string PathOf(string field) => $"{path}.{field}";

    public void Error(string field, string code, string message) => errors.Add(PathOf(field), code, message);

    public bool Has(string field) => TryGet(field, out _);

    public string? Text(string field, int longest)
    {
        if (!TryGet(field, out var value))
            return null;
        if (value.ValueKind != JsonValueKind.String)
            return Wrong<string>(field, "a text");
        var text = value.GetString()!;
        if (text.Contains('\0'))
            return Wrong<string>(field, "a text without NUL characters");
        if (text.Length <= longest)
            return text;
        Error(field, "tooLong", $"This text has {text.Length:N0} characters; at most {longest:N0} are possible here.");
        return null;
    }

    /// <summary>A text that must be there and not be blank; the empty text when it is not, with an error.</summary>
    public string RequiredText(string field, int longest)
    {
        if (!Has(field))
            Error(field, "missing", $"“{field}” is missing here.");
        else if (Text(field, longest) is { } text)
        {
            if (text.Trim().Length > 0)
                return text;
            Error(field, "missing", $"“{field}” must not be empty.");
        }
        return "";
    }

    public bool Flag(string field)
    {
        if (!TryGet(field, out var value))
            return false;
        return value.ValueKind is JsonValueKind.True or JsonValueKind.False ? value.GetBoolean() : Wrong<bool>(field, "true or false");
    }

    public decimal? Number(string field)
    {
        if (!TryGet(field, out var value))
            return null;
        return value.ValueKind == JsonValueKind.Number && value.TryGetDecimal(out var number)
            ? number
            : Wrong<decimal?>(field, "a number");
    }

    public JsonObjectReader? Object(string field)
    {
        if (!TryGet(field, out var value))
            return null;
        return value.ValueKind == JsonValueKind.Object
            ? new JsonObjectReader(value, PathOf(field), errors)
            : Wrong<JsonObjectReader>(field, "an object");
    }

    /// <summary>The objects of a list; none when it is left out.</summary>
    public IEnumerable<JsonObjectReader> Objects(string field, int most)
    {
        foreach (var (value, at) in Elements(field, most))
        {
            if (value.ValueKind == JsonValueKind.Object)
                yield return new JsonObjectReader(value, at, errors);
            else
                errors.Add(at, "type", "This must be an object.");
        }
    }

    /// <summary>The texts of a list with their paths; none when it is left out.</summary>
    public IEnumerable<(string Text, string Path)> Texts(string field, int most)
    {
        foreach (var (value, at) in Elements(field, most))
        {
            if (value.ValueKind == JsonValueKind.String)
                yield return (value.GetString()!, at);
            else
                errors.Add(at, "type", "This must be a text.");
        }
    }

    /// <summary>Reports every field that was never asked for.</summary>
    public void Done()
    {
        foreach (var property in element.EnumerateObject())
            if (!_asked.Contains(property.Name))
                Error(property.Name, "unknownField", $"“{property.Name}” is not a field that belongs here.");
    }

    private IEnumerable<(JsonElement, string)> Elements(string field, int most)
    {
        if (!TryGet(field, out var value))
            return [];
        if (value.ValueKind != JsonValueKind.Array)
            return Wrong<(JsonElement, string)[]>(field, "a list") ?? [];
        var count = value.GetArrayLength();
        if (count <= most)
            return value.EnumerateArray().Select((e, i) => (e, $"{PathOf(field)}[{i}]"));
        Error(field, "tooMany", $"This list has {count:N0} entries; at most {most:N0} are possible here.");
        return [];
    }

    private bool TryGet(string field, out JsonElement value)
    {
        _asked.Add(field);
        return element.TryGetProperty(field, out value) && value.ValueKind != JsonValueKind.Null;
    }

    private T? Wrong<T>(string field, string right)
    {
        Error(field, "type", $"“{field}” must be {right}.");
        return default;
    }
}
