using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;

namespace Auxilium.Exchange.Edits;

/// <summary>
/// Edits as JSON: what the screen sends, the API takes and the journal keeps. The field <c>type</c> says which edit it is, such as
/// <c>{"type":"setLength","task":"t4","length":"3d"}</c>. Lengths and dates are read as people type them and written exactly.
/// </summary>
/// <param name="today">The day that <c>today</c> means.</param>
/// <param name="near">The day that dates without a year are closest to; today when left out.</param>
/// <param name="units">What days and weeks come to, for lengths of several units; the usual ones when left out.</param>
public sealed class EditJson(DateOnly today, DateOnly? near = null, WorkUnits? units = null)
{
    // Made once: what the serializer learns about types costs more than a thousand edits.
    private static readonly JsonSerializerOptions Options = MakeOptions(
        NameEditTypes,
        SkipDerivedProperties,
        RequireParts,
        SkipUsualOfTasks,
        SkipAvailability,
        NameFacts
    );

    /// <summary>How dates are being read; reading never leaves its thread.</summary>
    [ThreadStatic]
    private static EditJson? s_reading;

    private readonly DateOnly _today = today;
    private readonly DateOnly? _near = near;
    private readonly WorkUnits? _units = units;

    private static JsonSerializerOptions MakeOptions(params ReadOnlySpan<Action<JsonTypeInfo>> modifiers) =>
        new(JsonSerializerDefaults.Web)
        {
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
            RespectNullableAnnotations = true,
            RespectRequiredConstructorParameters = true,
            AllowDuplicateProperties = false,
            AllowOutOfOrderMetadataProperties = true,
            NumberHandling = JsonNumberHandling.Strict,
            Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
            MaxDepth = 24,
            TypeInfoResolver = ResolverWith(modifiers),
            Converters =
            {
                new TextConverter<PlanTime>(text =>
                    PlanTime.TryParse(text, out var time)
                        ? time
                        : throw new JsonException($"“{text}” is not an instant like 2027-05-03T09:00.")
                ),
                new TextConverter<DateOrTime>(text =>
                    DateText.TryParse(text, s_reading!._today, out var date, out var problem, s_reading._near)
                        ? date
                        : throw new JsonException(problem)
                ),
                new TextConverter<DateOnly>(
                    text =>
                        !DateText.TryParse(text, s_reading!._today, out var day, out var problem, s_reading._near)
                            ? throw new JsonException(problem)
                        : day.Minute is not null ? throw new JsonException($"“{text}” has a time: give a day alone, such as 12 May.")
                        : day.Date,
                    day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
                ),
                new TextConverter<Length>(ReadLag),
                new TextConverter<TypedLength>(text =>
                    LengthText.TryParse(text, out var length, out var tentative, out var problem, s_reading?._units)
                        ? new TypedLength(length, tentative)
                        : throw new JsonException(problem)
                ),
                new CalendarConverter(),
                new WeekdayConverter(),
                new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false),
            },
        };

    private static DefaultJsonTypeInfoResolver ResolverWith(ReadOnlySpan<Action<JsonTypeInfo>> modifiers)
    {
        var resolver = new DefaultJsonTypeInfoResolver();
        foreach (var modifier in modifiers)
            resolver.Modifiers.Add(modifier);
        return resolver;
    }

    /// <summary>The names of all edits, as <c>type</c> has them.</summary>
    public static IReadOnlyList<string> TypeNames { get; } = [.. EditKinds.All.Select(kind => kind.Wire).Order()];

    /// <summary>
    /// What each kind of edit that can be sent looks like in JSON, by its name, as JSON Schema. Trusted ones never come from
    /// outside.
    /// </summary>
    /// <param name="anyEdit">The reference that stands where an edit holds others.</param>
    public static IReadOnlyDictionary<string, JsonObject> Schemas(string anyEdit) =>
        EditKinds
            .All.Where(kind => !kind.Type.IsAssignableTo(typeof(ITrustedEdit)))
            .ToDictionary(kind => kind.Wire, kind => SchemaOf(kind, anyEdit));

    private static JsonObject SchemaOf(EditKind kind, string anyEdit)
    {
        var exporting = new JsonSchemaExporterOptions
        {
            TreatNullObliviousAsNonNullable = true,
            TransformSchemaNode = (context, schema) =>
            {
                var type = Nullable.GetUnderlyingType(context.TypeInfo.Type) ?? context.TypeInfo.Type;
                if (type == typeof(PlanEdit))
                    return new JsonObject { ["$ref"] = anyEdit };
                if (type == typeof(WorkCalendar))
                    return new JsonObject { ["type"] = "object", ["description"] = "A calendar as plan documents have it." };
                if (!TextTypes.TryGetValue(type, out var words))
                    return schema;
                JsonNode kinds = type == context.TypeInfo.Type ? "string" : new JsonArray("string", "null");
                return new JsonObject { ["type"] = kinds, ["description"] = words };
            },
        };
        // An edit that holds others refers to their schemas instead of repeating them.
        var schema = MakeOptions(SkipDerivedProperties, RequireParts, SkipAvailability, NameFacts)
            .GetJsonSchemaAsNode(kind.Type, exporting)
            .AsObject();
        var properties = schema["properties"]?.AsObject() ?? [];
        properties.Insert(0, "type", new JsonObject { ["const"] = kind.Wire });
        var required = schema["required"]?.AsArray() ?? [];
        required.Insert(0, "type");
        schema["type"] = "object";
        schema["properties"] = properties.DeepClone();
        schema["required"] = required.DeepClone();
        schema["additionalProperties"] = false;
        return schema;
    }

    /// <summary>Values that are written as text, and how.</summary>
    private static readonly Dictionary<Type, string> TextTypes = new()
    {
        [typeof(PlanTime)] = "An instant like 2027-05-03T09:00.",
        [typeof(DateOrTime)] = "A day or an instant, exactly or as people type it: 2027-05-03, 12 May, today.",
        [typeof(DateOnly)] = "A day, exactly or as people type it: 2027-05-03, 12 May, today.",
        [typeof(Length)] = "A length like 2d, 4h or 1w; negative for a lead.",
        [typeof(TypedLength)] = "A length like 2d, 4h or 1w, with ? behind it for a guess.",
        [typeof(DayOfWeek)] = "One of mon, tue, wed, thu, fri, sat, sun.",
    };

    public static string Write(PlanEdit edit) => JsonSerializer.Serialize(edit, Options);

    /// <exception cref="UnreadableDocumentException">It is not an edit; the error has its JSON path.</exception>
    public PlanEdit Read(string json) => Read(() => JsonSerializer.Deserialize<PlanEdit>(json, Options));

    /// <inheritdoc cref="Read(string)"/>
    public PlanEdit Read(JsonElement json)
    {
        if (GapIn(json, "$.edit") is { } path)
            throw new UnreadableDocumentException([
                new DocumentError(path, "edit", "A list in an edit has no empty entries: leave this one out."),
            ]);
        return Read(() => json.Deserialize<PlanEdit>(Options));
    }

    /// <summary>The path of the first <c>null</c> in a list.</summary>
    private static string? GapIn(JsonElement json, string path) =>
        json.ValueKind switch
        {
            JsonValueKind.Array => json.EnumerateArray()
                .Select((entry, at) => entry.ValueKind == JsonValueKind.Null ? $"{path}[{at}]" : GapIn(entry, $"{path}[{at}]"))
                .FirstOrDefault(gap => gap is not null),
            JsonValueKind.Object => json.EnumerateObject()
                .Select(field => GapIn(field.Value, $"{path}.{field.Name}"))
                .FirstOrDefault(gap => gap is not null),
            _ => null,
        };

    private PlanEdit Read(Func<PlanEdit?> read)
    {
        s_reading = this;
        try
        {
            return read() ?? throw new JsonException("An edit is missing.");
        }
        catch (Exception e) when (e is JsonException or NotSupportedException)
        {
            var path = (e as JsonException)?.Path is { Length: > 0 } p ? p : "$";
            throw new UnreadableDocumentException([new DocumentError("$.edit" + path[1..], "edit", Sentence(e.Message))]);
        }
        finally
        {
            s_reading = null;
        }
    }

    /// <summary>Without the position that the serializer adds: the path is clearer.</summary>
    private static string Sentence(string message)
    {
        var position = message.IndexOf(" Path: $", StringComparison.Ordinal);
        var text = position < 0 ? message : message[..position];
        return
            text.Contains("NotSupported", StringComparison.Ordinal)
            || text.Contains("abstract", StringComparison.Ordinal)
            || text.Contains("discriminator", StringComparison.Ordinal)
            ? $"“type” must come first and name an edit: one of {string.Join(", ", TypeNames)}."
            : text;
    }

    private static Length ReadLag(string text)
    {
        var negative = text.StartsWith('-');
        if (!LengthText.TryParse(negative ? text[1..] : text, out var length, out _, out var problem, s_reading?._units))
            throw new JsonException(problem);
        return negative ? length with { Amount = -length.Amount } : length;
    }

    private static void NameEditTypes(JsonTypeInfo info)
    {
        if (info.Type != typeof(PlanEdit))
            return;
        info.PolymorphismOptions = new JsonPolymorphismOptions { TypeDiscriminatorPropertyName = "type" };
        foreach (var kind in EditKinds.All)
            info.PolymorphismOptions.DerivedTypes.Add(new JsonDerivedType(kind.Type, kind.Wire));
    }

    /// <summary>Properties that follow from others are not written.</summary>
    private static void SkipDerivedProperties(JsonTypeInfo info)
    {
        if (info.Kind != JsonTypeInfoKind.Object)
            return;
        for (var i = info.Properties.Count - 1; i >= 0; i--)
            if (info.Properties[i] is { Set: null, AssociatedParameter: null })
                info.Properties.RemoveAt(i);
    }

    /// <summary>Of a whole row, only what is not as usual is written: an import has thousands.</summary>
    private static void SkipUsualOfTasks(JsonTypeInfo info)
    {
        if (info.Type != typeof(PlanTask))
            return;
        var usual = new PlanTask { Id = "", Name = "" };
        foreach (var property in info.Properties.Where(p => !p.IsRequired && p.Get is not null))
        {
            var value = property.Get!(usual);
            property.ShouldSerialize = (_, own) => !Equals(own, value);
        }
    }

    /// <summary>How much time somebody gives is said of them, and not of a plan.</summary>
    private static void SkipAvailability(JsonTypeInfo info)
    {
        for (var i = info.Properties.Count - 1; i >= 0 && info.Type == typeof(Person); i--)
            if (info.Properties[i].Name == "available")
                info.Properties.RemoveAt(i);
    }

    /// <summary>Plain facts go by their names: in a task, and in the edit that sets one.</summary>
    private static void NameFacts(JsonTypeInfo info)
    {
        FactFields.BesideOthers(info);
        if (PlainFacts.All.FirstOrDefault(fact => fact.Edit.Type == info.Type) is { } fact)
            info.Properties.First(property => property.Name == "value").Name = fact.ValueName;
    }

    /// <summary>Refuses a value whose required fields are missing: the serializer would fill those of structs with defaults.</summary>
    private static void RequireParts(JsonTypeInfo info)
    {
        if (info.Kind != JsonTypeInfoKind.Object || !info.Type.IsValueType)
            return;
        var made = info.Type.GetConstructors().MaxBy(c => c.GetParameters().Length);
        foreach (var part in made?.GetParameters().Where(p => !p.HasDefaultValue) ?? [])
            if (info.Properties.FirstOrDefault(p => p.Name.Equals(part.Name, StringComparison.OrdinalIgnoreCase)) is { } property)
                property.IsRequired = true;
    }

    /// <summary>A calendar as plan documents have it.</summary>
    private sealed class CalendarConverter : JsonConverter<WorkCalendar>
    {
        public override WorkCalendar Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            using var document = JsonDocument.ParseValue(ref reader);
            return CalendarReader.ReadAlone(document.RootElement, "$.edit.calendar", s_reading!._today);
        }

        public override void Write(Utf8JsonWriter writer, WorkCalendar value, JsonSerializerOptions options)
        {
            writer.WriteStartObject();
            PlanDocumentWriter.WriteCalendar(writer, value);
            writer.WriteEndObject();
        }
    }

    /// <summary>A day of the week as plan documents have it.</summary>
    private sealed class WeekdayConverter : JsonConverter<DayOfWeek>
    {
        public override DayOfWeek Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            reader.TokenType == JsonTokenType.String && WeekdayNames.TryParse(reader.GetString()!, out var day)
                ? day
                : throw new JsonException("A day of the week is one of mon, tue, wed, thu, fri, sat, sun.");

        public override void Write(Utf8JsonWriter writer, DayOfWeek value, JsonSerializerOptions options) =>
            writer.WriteStringValue(WeekdayNames.Of(value));
    }

    /// <summary>A value written as text.</summary>
    private sealed class TextConverter<T>(Func<string, T> parse, Func<T, string>? write = null) : JsonConverter<T>
        where T : struct
    {
        public override T Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            reader.TokenType == JsonTokenType.String ? parse(reader.GetString()!) : throw new JsonException("This must be a text.");

        public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) =>
            writer.WriteStringValue(write?.Invoke(value) ?? value.ToString());
    }
}
