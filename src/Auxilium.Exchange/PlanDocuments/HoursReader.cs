using System.Collections.Immutable;
using Auxilium.Planning.Tracking;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Reads <c>$.hours</c>.</summary>
internal static class HoursReader
{
    private const int MostEntries = 200_000;

    public static ImmutableArray<WorkedHours> Read(JsonObjectReader root, HashSet<string> tasks, HashSet<string> people)
    {
        var hours = ImmutableArray.CreateBuilder<WorkedHours>();
        var days = new Dictionary<(string, DateOnly), int>();
        var entries = new HashSet<(string, string, DateOnly)>();
        foreach (var at in root.Objects("hours", MostEntries))
        {
            var entry = new WorkedHours(Reference(at, "task", tasks), Reference(at, "person", people), Day(at), Minutes(at));
            if (!entries.Add((entry.Task, entry.Person, entry.Day)))
                at.Error("day", "duplicate", "There are two entries of this person for this task and day: add their minutes.");
            var whole = days[(entry.Person, entry.Day)] = days.GetValueOrDefault((entry.Person, entry.Day)) + entry.Minutes;
            if (whole > WorkedHours.MostMinutesADay)
                at.Error("minutes", "range", "A person works at most 24 hours (1440 minutes) on a day.");
            hours.Add(entry);
            at.Done();
        }
        return hours.ToImmutable();
    }

    private static string Reference(JsonObjectReader at, string field, HashSet<string> known)
    {
        var id = at.RequiredText(field, 64);
        if (id.Length > 0 && !known.Contains(id))
            at.Error(field, "unknownId", $"There is no {field} with the id “{id}”.");
        return id;
    }

    private static DateOnly Day(JsonObjectReader at)
    {
        if (!at.Has("day"))
            at.Error("day", "missing", "“day” is missing: give the day of the work.");
        var day = at.Date("day");
        if (day?.Minute is not null)
            at.Error("day", "date", "Hours are said of a whole day: leave out the time.");
        return day?.Date ?? default;
    }

    private static int Minutes(JsonObjectReader at)
    {
        if (at.Number("minutes") is { } minutes)
        {
            if (minutes is > 0 and <= WorkedHours.MostMinutesADay && minutes == decimal.Truncate(minutes))
                return (int)minutes;
            at.Error("minutes", "range", "“minutes” is a whole number from 1 to 1440.");
        }
        else if (!at.Has("minutes"))
            at.Error("minutes", "missing", "“minutes” is missing here.");
        return 0;
    }
}
