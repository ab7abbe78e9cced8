using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;

namespace Auxilium.Exchange.Calendars;

/// <summary>A task as calendar programs get it.</summary>
/// <param name="Id">An id that stays the same, and that no other task has.</param>
/// <param name="From">Its first day.</param>
/// <param name="To">Its last day.</param>
/// <param name="Sequence">Grows with every change of its plan, so that calendar programs know which telling is the newer.</param>
/// <param name="Hours">When it begins and ends, in UTC, if it takes some hours of one day; otherwise it takes whole days.</param>
public sealed record CalendarTask(
    string Id,
    string Name,
    string Project,
    DateOnly From,
    DateOnly To,
    (DateTime Begins, DateTime Ends)? Hours,
    bool IsDone,
    bool IsOwner,
    string Address,
    int Sequence = 0
);

/// <summary>Tasks as an iCalendar file (RFC 5545): each is an event of whole days or of some hours.</summary>
public static class TaskCalendar
{
    /// <param name="name">The name that calendar programs show.</param>
    /// <param name="tasks">The tasks.</param>
    /// <param name="now">When it was made, UTC.</param>
    /// <param name="zone">The organisation's, which hours are told in, with its rules; in UTC when left out.</param>
    public static string Write(string name, IEnumerable<CalendarTask> tasks, DateTime now, TimeZoneInfo? zone = null)
    {
        var calendar = new Calendar { ProductId = "-//Auxilium//Tasks//EN", Method = "PUBLISH" };
        calendar.AddProperty("X-WR-CALNAME", name);
        calendar.AddProperty("REFRESH-INTERVAL;VALUE=DURATION", "PT1H");
        var id = zone is not null && TimeZoneInfo.TryConvertWindowsIdToIanaId(zone.Id, out var iana) ? iana : zone?.Id;
        if (id is "UTC" or "Etc/UTC")
            id = null;
        var all = tasks.ToList();
        if (
            id is not null
            && all.Where(task => task.Hours is not null).Select(task => task.Hours!.Value.Begins).DefaultIfEmpty().Min() is var first
        )
            if (first != default)
                calendar.AddTimeZone(VTimeZone.FromDateTimeZone(id, first, includeHistoricalData: false));
        foreach (var task in all)
            calendar.Events.Add(
                new CalendarEvent
                {
                    Uid = task.Id,
                    Summary = task.IsDone ? $"{task.Name} (done)" : task.Name,
                    Description = $"{task.Project}{(task.IsOwner ? "" : ", as a helper")}\n{task.Address}",
                    Url = new Uri(task.Address),
                    Categories = [task.Project],
                    DtStamp = new CalDateTime(now, "UTC"),
                    Sequence = task.Sequence,
                    Start = task.Hours is { } hours ? Moment(hours.Begins) : new CalDateTime(task.From),
                    // An event of whole days ends on the day after.
                    End = task.Hours is { } until ? Moment(until.Ends) : new CalDateTime(task.To.AddDays(1)),
                    Transparency = TransparencyType.Transparent,
                }
            );
        return new CalendarSerializer().SerializeToString(calendar) ?? "";

        CalDateTime Moment(DateTime utc) =>
            id is null
                ? new CalDateTime(utc, "UTC")
                : new CalDateTime(TimeZoneInfo.ConvertTimeFromUtc(DateTime.SpecifyKind(utc, DateTimeKind.Utc), zone!), id);
    }
}
