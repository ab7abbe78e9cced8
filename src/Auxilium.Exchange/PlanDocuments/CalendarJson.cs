using System.Buffers;
using System.Text.Json;
using System.Text.Json.Nodes;
using Auxilium.Planning.Calendars;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>A calendar by itself, as plan documents have it.</summary>
public static class CalendarJson
{
    public static JsonNode Write(WorkCalendar calendar)
    {
        var buffer = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(buffer))
        {
            json.WriteStartObject();
            PlanDocumentWriter.WriteCalendar(json, calendar);
            json.WriteEndObject();
        }
        return JsonNode.Parse(buffer.WrittenSpan)!;
    }
}
