using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;

namespace Auxilium.Exchange.Money;

/// <summary>
/// Changes to money as JSON: what the screen sends and what is kept to take them back. Days are read as people type them and written
/// exactly; amounts are numbers.
/// </summary>
public static class MoneyJson
{
    /// <summary>The day that <c>today</c> means while one is read; reading never leaves its thread.</summary>
    [ThreadStatic]
    private static DateOnly s_today;

    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web)
    {
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
        AllowDuplicateProperties = false,
        AllowOutOfOrderMetadataProperties = true,
        NumberHandling = JsonNumberHandling.Strict,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        MaxDepth = 16,
        TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { NameKinds, SkipDerived } },
        Converters =
        {
            new DayConverter(),
            new LengthConverter(),
            new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false),
        },
    };

    /// <summary>The names of all kinds, as <c>type</c> has them.</summary>
    public static IReadOnlyList<string> TypeNames { get; } = [.. MoneyEdit.Kinds.Select(kind => kind.Wire)];

    public static string Write(MoneyEdit edit) => JsonSerializer.Serialize(edit, Options);

    public static string Write(CostItem item) => JsonSerializer.Serialize(item, Options);

    public static CostItem ReadItem(string json) => JsonSerializer.Deserialize<CostItem>(json, Options)!;

    /// <param name="today">The day that dates without a year are closest to.</param>
    /// <exception cref="UnreadableDocumentException">It is not a change; the error has its JSON path.</exception>
    public static MoneyEdit Read(JsonElement json, DateOnly today)
    {
        s_today = today;
        try
        {
            return json.Deserialize<MoneyEdit>(Options) ?? throw new JsonException("A change is missing.");
        }
        catch (Exception e) when (e is JsonException or NotSupportedException)
        {
            var path = (e as JsonException)?.Path is { Length: > 0 } p ? p[1..] : "";
            var (message, at) = (e.Message, e.Message.IndexOf(" Path: $", StringComparison.Ordinal));
            throw new UnreadableDocumentException([
                new DocumentError(
                    $"$.edit{path}",
                    "edit",
                    e is NotSupportedException || message.Contains("discriminator", StringComparison.Ordinal)
                            ? $"“type” must come first and name a change: one of {string.Join(", ", TypeNames)}."
                        : at < 0 ? message
                        : message[..at]
                ),
            ]);
        }
    }

    /// <summary>A length as it is kept, such as <c>3d</c>.</summary>
    public static Length ReadLength(string kept) =>
        LengthText.TryParse(kept, out var length, out _, out var problem) ? length : throw new JsonException(problem);

    public static MoneyEdit Read(string json)
    {
        using var document = JsonDocument.Parse(json);
        return Read(document.RootElement, default);
    }

    private static void NameKinds(JsonTypeInfo info)
    {
        if (info.Type != typeof(MoneyEdit))
            return;
        info.PolymorphismOptions = new JsonPolymorphismOptions { TypeDiscriminatorPropertyName = "type" };
        foreach (var (wire, type) in MoneyEdit.Kinds)
            info.PolymorphismOptions.DerivedTypes.Add(new JsonDerivedType(type, wire));
    }

    /// <summary>Properties that follow from others are not written.</summary>
    private static void SkipDerived(JsonTypeInfo info)
    {
        if (info.Kind != JsonTypeInfoKind.Object)
            return;
        for (var i = info.Properties.Count - 1; i >= 0; i--)
            if (info.Properties[i] is { Set: null, AssociatedParameter: null })
                info.Properties.RemoveAt(i);
    }

    private sealed class LengthConverter : JsonConverter<Length>
    {
        public override Length Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            reader.TokenType == JsonTokenType.String ? ReadLength(reader.GetString()!) : throw new JsonException("This must be a length.");

        public override void Write(Utf8JsonWriter writer, Length value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.ToString());
    }

    private sealed class DayConverter : JsonConverter<DateOnly>
    {
        public override DateOnly Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            var text = reader.TokenType == JsonTokenType.String ? reader.GetString()! : throw new JsonException("This must be a day.");
            if (DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var exact))
                return exact;
            return DateText.TryParse(text, s_today, out var day, out var problem) && day.Minute is null
                ? day.Date
                : throw new JsonException(
                    problem is { Length: > 0 } ? problem : $"“{text}” has a time: give a day alone, such as 12 May."
                );
        }

        public override void Write(Utf8JsonWriter writer, DateOnly value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
    }
}
