using System.Collections.Immutable;

namespace Auxilium.Planning.Calendars;

/// <summary>Week patterns to begin a calendar from.</summary>
public static class ReadyMadeCalendars
{
    public static IReadOnlyList<WorkCalendar> All { get; } =
    [
        WorkCalendar.Weekdays,
        Of("office", "Weekdays, 9 to 5", 0..5, (9, 12), (13, 17)),
        Of("four-days", "Four-day week", 0..4, (9, 13), (14, 18)),
        Of("every-day", "Every day", 0..7, (9, 13), (14, 18)),
        Of("weekends", "Weekends", 5..7, (10, 16)),
        Of("evenings", "Weekday evenings", 0..5, (18, 21)),
        Of("two-shifts", "Two shifts, Monday to Saturday", 0..6, (6, 14), (14, 22)),
        Of("nights", "Nights", 0..7, (0, 6), (22, 24)),
    ];

    private static WorkCalendar Of(string id, string name, Range days, params (int From, int To)[] hours)
    {
        ImmutableArray<WorkInterval> work = [.. hours.Select(h => new WorkInterval(h.From * 60, h.To * 60))];
        var (first, count) = days.GetOffsetAndLength(7);
        return new WorkCalendar
        {
            Id = id,
            Name = name,
            Week =
            [
                .. Enumerable.Range(0, 7).Select(day => (ImmutableArray<WorkInterval>?)(day >= first && day < first + count ? work : [])),
            ],
        };
    }
}
