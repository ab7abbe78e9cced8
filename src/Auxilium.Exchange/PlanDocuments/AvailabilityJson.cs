using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Auxilium.Planning.Load;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>How much of their time somebody gives: <c>availability</c> of a person.</summary>
internal static class AvailabilityJson
{
    private const string Name = "availability";

    public static ImmutableArray<Availability> Read(JsonObjectReader person)
    {
        var stretches = ImmutableArray.CreateBuilder<Availability>();
        foreach (var at in person.Objects(Name, Availability.Most))
        {
            var stretch = new Availability(at.Number("share") ?? 1, Day(at, "from"), Day(at, "to"));
            if (stretch.WhyRefused() is { } why)
                at.Error("share", "availability", why);
            stretches.Add(stretch);
            at.Done();
        }
        return stretches.ToImmutable();
    }

    public static void Write(Utf8JsonWriter json, ImmutableArray<Availability> stretches)
    {
        json.WriteStartArray(Name);
        foreach (var (share, from, to) in stretches)
        {
            json.WriteStartObject();
            json.WriteNumber("share", share);
            json.WriteString("from", Text(from));
            json.WriteString("to", Text(to));
            json.WriteEndObject();
        }
        json.WriteEndArray();
    }

    private static DateOnly? Day(JsonObjectReader at, string field)
    {
        if (at.Date(field) is not { } day)
            return null;
        if (day.Minute is not null)
            at.Error(field, "date", "This is a day, without a time: write it like 2027-05-03.");
        return day.Date;
    }

    private static string? Text(DateOnly? day) => day?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
