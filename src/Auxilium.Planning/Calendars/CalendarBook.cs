using System.Collections.Concurrent;
using System.Collections.Immutable;

namespace Auxilium.Planning.Calendars;

/// <summary>The calendars of one plan, compiled when first asked for. Safe to share between threads.</summary>
public sealed class CalendarBook(ImmutableArray<WorkCalendar> calendars)
{
    private static readonly WorkTime DefaultWorkTime = CalendarCompiler.Compile(WorkCalendar.Weekdays, []);

    private readonly ConcurrentDictionary<(string, string?), WorkTime> _compiled = [];

    internal ImmutableArray<WorkCalendar> Calendars => calendars;

    public WorkCalendar? Find(string id) => calendars.FirstOrDefault(c => c.Id == id);

    /// <summary>The working time of a calendar; <c>null</c> stands for the weekdays that a plan works by when it names none.</summary>
    /// <exception cref="KeyNotFoundException">The plan has no such calendar.</exception>
    public WorkTime WorkTimeOf(string? id) => id is null ? DefaultWorkTime : _compiled.GetOrAdd((id, null), key => Compile(key.Item1));

    /// <summary>The minutes in which both calendars work (rule T5).</summary>
    public WorkTime Intersection(string one, string other) =>
        one == other ? WorkTimeOf(one) : _compiled.GetOrAdd((one, other), key => WorkTimeOf(key.Item1).Intersect(WorkTimeOf(key.Item2!)));

    /// <summary>Whether its base, the base of that one and so on come back to a calendar they went through (rule T3).</summary>
    public bool HasCircularBase(WorkCalendar calendar)
    {
        var seen = new HashSet<string> { calendar.Id };
        return BasesOf(calendar).Any(next => !seen.Add(next.Id));
    }

    /// <summary>The exceptions that apply to a calendar, its bases' first; later ones win.</summary>
    public IReadOnlyList<CalendarOverride> ExceptionsOf(WorkCalendar calendar) =>
        [.. BasesOf(calendar).Reverse().Append(calendar).SelectMany(c => c.Exceptions)];

    /// <summary>Its base, the base of that one, and so on; endless where they go round in a circle.</summary>
    private IEnumerable<WorkCalendar> BasesOf(WorkCalendar calendar)
    {
        for (var at = calendar; at.Base is { } id && Find(id) is { } next; at = next)
            yield return next;
    }

    private WorkTime Compile(string id)
    {
        var calendar = Find(id) ?? throw new KeyNotFoundException($"The plan has no calendar “{id}”.");
        if (HasCircularBase(calendar))
            throw new InvalidOperationException($"The bases of the calendar “{id}” go round in a circle.");
        return CalendarCompiler.Compile(calendar, [.. BasesOf(calendar)]);
    }
}
