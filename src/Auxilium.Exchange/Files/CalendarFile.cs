using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using Auxilium.Exchange.Calendars;
using Auxilium.Exchange.Lists;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;

namespace Auxilium.Exchange.Files;

/// <summary>When a row of a list comes again.</summary>
/// <param name="Rule"><c>null</c> where it comes once, or by a rule that no task here can have.</param>
/// <param name="Problem">What of it is left out, for whoever imports it.</param>
public sealed record ListRepeat(RepeatRule? Rule, string? Problem);

/// <summary>
/// A calendar file (RFC 5545) as rows: events and to-dos with their dates, attendees and descriptions. Times are those of the
/// organisation; alarms are left out, and so is what was cancelled.
/// </summary>
internal static class CalendarFile
{
    private const int LongestName = 200;

    private static readonly ImmutableArray<string> Headings = ["Task", "Start", "Finish", "Deadline", "Owner", "Progress", "Note", "UID"];

    public static bool IsOne(ReadOnlySpan<byte> content) => content.TrimStart("\uFEFF \t\r\n"u8).StartsWith("BEGIN:VCALENDAR"u8);

    /// <param name="zone">The organisation's.</param>
    /// <exception cref="FileRefusedException">It cannot be read, or has nothing in it.</exception>
    public static (IReadOnlyList<FileRow> Rows, ImmutableArray<ListRepeat?> Repeats) Read(
        string name,
        string text,
        TimeZoneInfo zone,
        CancellationToken cancel
    )
    {
        var entries = new List<(DateTime At, string[] Cells, ListRepeat? Repeat)>();
        try
        {
            var calendar = Ical.Net.Calendar.Load(text) ?? throw new FormatException();
            if (calendar.Events.Count + calendar.Todos.Count > ListReader.MostLines)
                throw new FileRefusedException($"“{name}” has more than {ListReader.MostLines:N0} entries: import it in parts.");
            foreach (var item in calendar.Events.Cast<RecurringComponent>().Concat(calendar.Todos))
            {
                cancel.ThrowIfCancellationRequested();
                if (Entry(item, zone) is { } entry)
                    entries.Add(entry);
            }
        }
        catch (Exception broken) when (broken is not (FileRefusedException or OperationCanceledException or OutOfMemoryException))
        {
            // Whatever the parser stumbles over.
            throw new FileRefusedException($"“{name}” is no calendar file that can be read: export it again where it is from.");
        }
        if (entries.Count == 0)
            throw new FileRefusedException($"“{name}” has no events and no to-dos: choose a calendar with some.");
        var sorted = entries.OrderBy(entry => entry.At).ToList();
        List<FileRow> rows = [new FileRow(1, 0, Headings), .. sorted.Select((entry, i) => new FileRow(i + 2, 0, entry.Cells))];
        return (rows, [.. sorted.Select(entry => entry.Repeat)]);
    }

    private static (DateTime At, string[] Cells, ListRepeat? Repeat)? Entry(RecurringComponent item, TimeZoneInfo zone)
    {
        // One day of a series that was changed is part of that series.
        if (item.RecurrenceIdentifier is not null)
            return null;
        var status = (item as CalendarEvent)?.Status ?? (item as Todo)?.Status;
        if (string.Equals(status, "CANCELLED", StringComparison.OrdinalIgnoreCase))
            return null;
        var name = Line(item.Summary) is { Length: > 0 } summary ? summary : "Event without a name";
        // Events have no progress: ours say it behind the name.
        var isDone = CalendarTask.TaskOf(item.Uid) is not null && name.EndsWith(" (done)", StringComparison.Ordinal);
        if (isDone)
            name = name[..^" (done)".Length];
        var start = item.Start is { } from ? Local(from, zone) : (DateTime?)null;
        var isWhole = item.Start is { HasTime: false };
        var finish = item switch
        {
            CalendarEvent { End: { } end } => End(Local(end, zone), isWhole),
            CalendarEvent { Duration: { } lasts } when start is { } begins && !isWhole => begins + lasts.ToTimeSpan(item.Start!),
            _ => start,
        };
        var due = item is Todo { Due: { } by } ? Local(by, zone) : (DateTime?)null;
        var people = item.Attendees.Select(Called).OfType<string>().Distinct(StringComparer.OrdinalIgnoreCase);
        return (
            start ?? due ?? DateTime.MaxValue,
            [
                name.Length > LongestName ? name[..LongestName] : name,
                Written(start, isWhole),
                item is CalendarEvent ? Written(finish, isWhole) : "",
                due is { } last ? Written(last, !((Todo)item).Due!.HasTime) : "",
                string.Join(", ", people),
                isDone ? "done" : Progress(item as Todo),
                (item.Description ?? "").Trim(),
                Line(item.Uid) is { Length: <= 200 } uid ? uid : "",
            ],
            start is { } first ? Repeat(item, first, finish ?? first, isWhole, zone) : null
        );
    }

    private static string Progress(Todo? item) =>
        item is null ? ""
        : item.PercentComplete is > 0 and <= 100 ? $"{item.PercentComplete}%"
        : string.Equals(item.Status, "COMPLETED", StringComparison.OrdinalIgnoreCase) || item.Completed is not null ? "done"
        : "";

    /// <summary>An event of whole days ends on the day after.</summary>
    private static DateTime End(DateTime end, bool isWhole) => isWhole ? end.AddDays(-1) : end;

    private static DateTime Local(CalDateTime time, TimeZoneInfo zone) =>
        time.HasTime && (time.IsUtc || time.TzId is not null)
            ? TimeZoneInfo.ConvertTimeFromUtc(DateTime.SpecifyKind(time.AsUtc, DateTimeKind.Utc), zone)
            : time.Value;

    private static string Written(DateTime? time, bool isWhole) =>
        time?.ToString(isWhole ? "yyyy-MM-dd" : "yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture) ?? "";

    private static string? Called(Attendee person)
    {
        // “Lee, Ann”: commas part people in a list.
        var names = Line(person.CommonName).Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        if (names.Length > 0)
            return string.Join(' ', names.Reverse());
        var address = person.Value?.OriginalString ?? "";
        var mail = address.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase) ? address[7..] : "";
        return mail.Length > 0 ? mail : null;
    }

    private static string Line(string? text)
    {
        var line = new StringBuilder();
        foreach (var c in text ?? "")
            line.Append(char.IsControl(c) ? ' ' : c);
        return line.ToString().Trim();
    }

    private static ListRepeat? Repeat(RecurringComponent item, DateTime start, DateTime finish, bool isWhole, TimeZoneInfo zone)
    {
        if (item.RecurrenceRule is not { } pattern)
            return null;
        if (UnitOf(pattern) is not { } unit || WeekOf(pattern, start) is not { } week)
            return new ListRepeat(null, "It comes again by a rule that tasks here cannot have: its first time is taken.");
        List<string> problems = [];
        if (item.ExceptionDates.GetAllDates().Any())
            problems.Add("The days on which it does not take place are not taken over: deactivate those afterwards.");
        DateOnly? until = pattern.Until is { } end ? DateOnly.FromDateTime(Local(end, zone)) : null;
        if (until is null && pattern.Count is null)
        {
            until = DateOnly.FromDateTime(start).AddYears(1);
            problems.Add("It never ends: it is taken for a year.");
        }
        var days = (finish.Date - start.Date).Days + 1;
        var minutes = (decimal)(finish - start).TotalMinutes;
        var rule = new RepeatRule
        {
            Every = unit,
            Interval = Math.Clamp(pattern.Interval, 1, RepeatRule.MostInterval),
            On = [.. pattern.ByDay.Select(day => day.DayOfWeek).Distinct()],
            Week = week.Week,
            From = new DateOrTime(DateOnly.FromDateTime(start), isWhole ? null : start.Hour * 60 + start.Minute),
            Until = until is { } last ? new DateOrTime(last) : null,
            Times = pattern.Count is { } count ? Math.Clamp(count, 1, RepeatRule.MostTimes) : null,
            Length = isWhole ? new Length(days, LengthUnit.Days) : new Length(minutes, LengthUnit.Minutes),
            Closed = OnClosedDay.Keep,
        };
        return rule.WhyUnusable(WorkUnits.Standard) is { } why
            ? new ListRepeat(null, $"{why} Its first time is taken.")
            : new ListRepeat(rule, problems.Count > 0 ? string.Join(" ", problems) : null);
    }

    private static RepeatUnit? UnitOf(RecurrenceRule pattern)
    {
        if (pattern.BySetPosition.Count + pattern.ByYearDay.Count + pattern.ByWeekNo.Count + pattern.ByHour.Count > 0)
            return null;
        return pattern.Frequency switch
        {
            FrequencyType.Daily when pattern.ByDay.Count + pattern.ByMonthDay.Count + pattern.ByMonth.Count == 0 => RepeatUnit.Day,
            FrequencyType.Weekly when pattern.ByMonthDay.Count + pattern.ByMonth.Count == 0 => RepeatUnit.Week,
            FrequencyType.Monthly when pattern.ByMonth.Count == 0 => RepeatUnit.Month,
            FrequencyType.Yearly => RepeatUnit.Year,
            _ => null,
        };
    }

    /// <summary>Which of the days of a week it is in its month; <c>null</c> for what cannot be said so.</summary>
    private static (int? Week, bool IsThere)? WeekOf(RecurrenceRule pattern, DateTime start)
    {
        if (pattern.Frequency is FrequencyType.Daily or FrequencyType.Weekly)
            return pattern.ByDay.All(day => day.Offset is null or 0) ? (null, true) : null;
        if (pattern.ByMonth.Count > 1 || (pattern.ByMonth.Count == 1 && pattern.ByMonth[0] != start.Month))
            return null;
        if (pattern.ByMonthDay.Count > 1 || (pattern.ByMonthDay.Count == 1 && pattern.ByMonthDay[0] != start.Day))
            return null;
        if (pattern.ByDay.Count == 0)
            return (null, true);
        var offset = pattern.ByDay[0].Offset;
        return pattern.ByDay.Count == 1 && pattern.ByMonthDay.Count == 0 && offset is -1 or (>= 1 and <= 4) ? (offset, true) : null;
    }
}
