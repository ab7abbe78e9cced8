using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;

namespace Auxilium.Exchange.Calendars;

/// <summary>
/// Tasks as an iCalendar file (RFC 5545): each is an event, or a to-do, of whole days or of some hours. What came of a repeating task and
/// follows its rule is one event that comes again.
/// </summary>
public static class TaskCalendar
{
    /// <param name="name">The name that calendar programs show.</param>
    /// <param name="tasks">The tasks.</param>
    /// <param name="now">When it was made, UTC.</param>
    /// <param name="wishes">How they are told; as events when left out.</param>
    public static string Write(string name, IEnumerable<CalendarTask> tasks, DateTime now, CalendarWishes? wishes = null) =>
        new CalendarWriter(now, wishes ?? new CalendarWishes()).Write(name, [.. tasks]);
}

internal sealed class CalendarWriter
{
    private readonly DateTime _now;
    private readonly CalendarWishes _wishes;

    /// <summary>Name of the zone that hours are told in; <c>null</c> for UTC.</summary>
    private readonly string? _zone;

    public CalendarWriter(DateTime now, CalendarWishes wishes)
    {
        (_now, _wishes) = (now, wishes);
        var zone = wishes.Zone;
        _zone = zone is not null && TimeZoneInfo.TryConvertWindowsIdToIanaId(zone.Id, out var iana) ? iana : zone?.Id;
        if (_zone is "UTC" or "Etc/UTC")
            _zone = null;
    }

    public string Write(string name, IReadOnlyList<CalendarTask> tasks)
    {
        var calendar = new Calendar { ProductId = "-//Auxilium//Tasks//EN", Method = "PUBLISH" };
        calendar.AddProperty("X-WR-CALNAME", name);
        calendar.AddProperty("REFRESH-INTERVAL;VALUE=DURATION", "PT1H");
        var first = tasks.Where(task => task.Hours is not null).Select(task => task.Hours!.Value.Begins).DefaultIfEmpty().Min();
        if (_zone is not null && first != default)
            calendar.AddTimeZone(VTimeZone.FromDateTimeZone(_zone, first, includeHistoricalData: false));
        foreach (var group in tasks.GroupBy(task => task.Series?.Id))
            if (!_wishes.AsToDos && group.Key is not null && RegularSeries.Of(group.First().Series!, [.. group], Local) is { } series)
            {
                calendar.Events.Add(Repeating(series));
                foreach (var task in series.Rest)
                    calendar.Events.Add(Event(task));
            }
            else
                foreach (var task in group)
                    if (_wishes.AsToDos)
                        calendar.Todos.Add(ToDo(task));
                    else
                        calendar.Events.Add(Event(task));
        return new CalendarSerializer().SerializeToString(calendar) ?? "";
    }

    private CalendarEvent Event(CalendarTask task) =>
        Told(
            new CalendarEvent
            {
                Start = Start(task),
                // An event of whole days ends on the day after.
                End = task.Hours is { } hours ? Moment(hours.Ends) : new CalDateTime(task.To.AddDays(1)),
                Transparency = TransparencyType.Transparent,
            },
            task,
            task.IsDone ? $"{task.Name} (done)" : task.Name
        );

    private CalendarEvent Repeating(RegularSeries series)
    {
        var (first, last) = (series.Times[0], series.Times[^1]);
        var told = Event(first);
        (told.Uid, told.Summary) = (series.Series.Id, series.Series.Name);
        told.RecurrenceRule = RegularSeries.RuleOf(
            series.Series.Rule,
            last.Hours is { } hours ? new CalDateTime(hours.Begins, "UTC") : new CalDateTime(last.From)
        );
        foreach (var day in series.Without)
            told.ExceptionDates.Add(On(day, first));
        return told;
    }

    private Todo ToDo(CalendarTask task) =>
        Told(
            new Todo
            {
                Start = Start(task),
                Due = task.Hours is { } hours ? Moment(hours.Ends) : new CalDateTime(task.To),
                PercentComplete = (int)Math.Floor(task.Progress * 100),
                Status =
                    task.IsDone ? "COMPLETED"
                    : task.Progress > 0 ? "IN-PROCESS"
                    : "NEEDS-ACTION",
                // The status sets it to now, by the clock of the server.
                Completed = null,
            },
            task,
            task.Name
        );

    private T Told<T>(T told, CalendarTask task, string name)
        where T : RecurringComponent
    {
        told.Uid = task.Id;
        told.Summary = name;
        told.Description = $"{task.Project}{(task.IsOwner ? "" : ", as a helper")}\n{task.Address}";
        told.Url = new Uri(task.Address);
        told.Categories = [task.Project];
        told.DtStamp = new CalDateTime(_now, "UTC");
        told.Sequence = task.Sequence;
        if (_wishes.AlarmDays is { } days && !task.IsDone)
            told.Alarms.Add(
                new Alarm
                {
                    Action = AlarmAction.Display,
                    Description = name,
                    Trigger = new Trigger(Duration.FromDays(-days)),
                }
            );
        return told;
    }

    private CalDateTime Start(CalendarTask task) => task.Hours is { } hours ? Moment(hours.Begins) : new CalDateTime(task.From);

    private DateTime Local(DateTime utc) =>
        _zone is null ? utc : TimeZoneInfo.ConvertTimeFromUtc(DateTime.SpecifyKind(utc, DateTimeKind.Utc), _wishes.Zone!);

    private CalDateTime Moment(DateTime utc) => _zone is null ? new CalDateTime(utc, "UTC") : new CalDateTime(Local(utc), _zone);

    /// <summary>As a task begins, on another day.</summary>
    private CalDateTime On(DateOnly day, CalendarTask like)
    {
        if (like.Hours is not { } hours)
            return new CalDateTime(day);
        var at = day.ToDateTime(TimeOnly.FromTimeSpan(Local(hours.Begins).TimeOfDay));
        return new CalDateTime(at, _zone ?? "UTC");
    }
}
