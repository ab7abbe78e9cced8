using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Typing;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Reads the calendars of a plan document.</summary>
public static partial class CalendarReader
{
    private const int MostCalendars = 200;
    private const int MostOverrides = 5_000;
    private const int MostIntervals = 48;

    /// <summary>Monday first.</summary>
    internal static readonly string[] Weekdays = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"];

    internal static ImmutableArray<WorkCalendar> Read(JsonObjectReader root, ErrorList errors)
    {
        var calendars = new List<(WorkCalendar Calendar, JsonObjectReader At)>();
        foreach (var at in root.Objects("calendars", MostCalendars))
        {
            calendars.Add((ReadOne(at, errors), at));
            at.Done();
        }
        Check(calendars, errors);
        return [.. calendars.Select(c => c.Calendar)];
    }

    /// <summary>Reads one calendar by itself; whether its base exists is not asked.</summary>
    /// <param name="calendar">As plan documents have it.</param>
    /// <param name="path">Its JSON path, for errors.</param>
    /// <param name="typed">Today, where hours and days may be as people type them: <c>["9-13, 14-18"]</c>, <c>{ "typed": "31 May
    /// Founders’ day" }</c>.</param>
    /// <exception cref="UnreadableDocumentException">It is not a calendar.</exception>
    public static WorkCalendar ReadAlone(JsonElement calendar, string path, DateOnly? typed = null)
    {
        var errors = new ErrorList();
        if (calendar.ValueKind != JsonValueKind.Object)
            errors.Add(path, "type", "A calendar is an object.");
        errors.ThrowIfAny();
        var at = new JsonObjectReader(calendar, path, errors);
        var read = ReadOne(at, errors, typed);
        at.Done();
        errors.ThrowIfAny();
        return read;
    }

    private static WorkCalendar ReadOne(JsonObjectReader at, ErrorList errors, DateOnly? typed = null)
    {
        var id = PlanDocumentReader.ReadId(at, "id");
        var week = at.Object("week");
        var days = Weekdays.Select(day =>
            week is null || !week.Has(day) ? (ImmutableArray<WorkInterval>?)null : Intervals(week, day, errors, typed is not null)
        );
        var calendar = new WorkCalendar
        {
            Id = id,
            Name = at.Text("name", 200) ?? id,
            Base = at.Text("base", 64),
            Week = [.. days],
            Exceptions = [.. at.Objects("exceptions", MostOverrides).Select(e => Override(e, errors, typed))],
        };
        week?.Done();
        return calendar;
    }

    private static CalendarOverride Override(JsonObjectReader at, ErrorList errors, DateOnly? typed)
    {
        if (typed is { } today && at.Has("typed"))
        {
            if (!DayOffText.TryParse(at.RequiredText("typed", 400), today, out var days, out var problem))
                at.Error("typed", "date", problem);
            at.Done();
            return days;
        }
        var from = Day(at, "from");
        var to = at.Has("to") ? Day(at, "to") : from;
        if (to < from)
            at.Error("to", "range", "The last day is before the first: give the first day in “from” and the last in “to”.");
        var dated = new CalendarOverride(from, to, at.Text("name", 200) ?? "", Intervals(at, "work", errors, typed is not null));
        at.Done();
        return dated;
    }

    private static DateOnly Day(JsonObjectReader at, string field)
    {
        var text = at.RequiredText(field, 20);
        if (DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day))
        {
            if (day.Year is >= 1990 and <= 2100)
                return day;
            at.Error(field, "date", "Give a day from 1990 to 2100.");
        }
        else if (text.Length > 0)
            at.Error(field, "date", $"“{text}” is not a day like 2027-05-31.");
        return new DateOnly(2000, 1, 1);
    }

    private static ImmutableArray<WorkInterval> Intervals(JsonObjectReader at, string field, ErrorList errors, bool isTyped)
    {
        if (isTyped)
        {
            var texts = at.Texts(field, MostIntervals).ToList();
            if (texts.Count == 0)
                return [];
            if (!HoursText.TryParse(string.Join(", ", texts.Select(t => t.Text)), out var hours, out var problem))
                errors.Add(texts[0].Path, "interval", problem);
            return hours;
        }
        var intervals = new List<WorkInterval>();
        foreach (var (text, path) in at.Texts(field, MostIntervals))
        {
            if (!TryRead(text, out var interval))
                errors.Add(path, "interval", $"“{text}” is not a stretch of working time like 09:00-13:00.");
            else if (interval.End <= interval.Start)
                errors.Add(
                    path,
                    "interval",
                    $"“{text}” ends before it starts: split time past midnight into two days, the first up to 24:00."
                );
            else if (intervals.Any(i => i.Start < interval.End && interval.Start < i.End))
                errors.Add(path, "interval", $"“{text}” overlaps another stretch of the same day.");
            else
                intervals.Add(interval);
        }
        return [.. intervals.OrderBy(i => i.Start)];
    }

    private static bool TryRead(string text, out WorkInterval interval)
    {
        var match = Interval().Match(text);
        interval = default;
        if (!match.Success)
            return false;
        interval = new WorkInterval(Minute(match, 1), Minute(match, 3));
        return interval is { Start: < PlanTime.MinutesPerDay, End: <= PlanTime.MinutesPerDay };
    }

    private static int Minute(Match match, int hourGroup) =>
        int.Parse(match.Groups[hourGroup].Value) * 60 + int.Parse(match.Groups[hourGroup + 1].Value);

    private static void Check(List<(WorkCalendar Calendar, JsonObjectReader At)> calendars, ErrorList errors)
    {
        var book = new CalendarBook([.. calendars.Select(c => c.Calendar)]);
        var ids = new HashSet<string>();
        foreach (var (calendar, at) in calendars)
        {
            if (!ids.Add(calendar.Id))
                at.Error("id", "duplicateId", $"There are two calendars with the id “{calendar.Id}”.");
            if (calendar.Base is not { } id)
                continue;
            if (book.Find(id) is null)
                at.Error("base", "unknownId", $"There is no calendar with the id “{id}”.");
            else if (book.HasCircularBase(calendar))
                at.Error("base", "circle", $"The bases of “{calendar.Id}” go round in a circle: let one of them have no base.");
        }
    }

    [GeneratedRegex(@"^(\d{2}):([0-5]\d)-(\d{2}):([0-5]\d)$", RegexOptions.CultureInvariant)]
    private static partial Regex Interval();
}
