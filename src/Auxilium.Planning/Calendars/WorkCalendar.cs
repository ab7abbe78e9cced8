using System.Collections.Immutable;

namespace Auxilium.Planning.Calendars;

/// <summary>Working time within a day: minutes from midnight, end exclusive, at most 1440 (<c>24:00</c>).</summary>
public readonly record struct WorkInterval(int Start, int End);

/// <summary>Days <paramref name="From"/> to <paramref name="To"/>, both included, that work by their own intervals (rule T2).</summary>
public sealed record CalendarOverride(DateOnly From, DateOnly To, string Name, ImmutableArray<WorkInterval> Work);

/// <summary>
/// A named set of working minutes: a week pattern overlaid by dated exceptions, on top of an optional base (rules T2, T3).
/// </summary>
public sealed record WorkCalendar
{
    public required string Id { get; init; }

    public required string Name { get; init; }

    /// <summary>Id of the calendar that gives the weekdays this one does not define, and exceptions that apply before its own.</summary>
    public string? Base { get; init; }

    /// <summary>Monday first, seven entries; <c>null</c> where the base decides (without a base: no work).</summary>
    public required ImmutableArray<ImmutableArray<WorkInterval>?> Week { get; init; }

    /// <summary>Later entries win over earlier ones.</summary>
    public ImmutableArray<CalendarOverride> Exceptions { get; init; } = [];

    /// <summary>Weekdays 09:00–13:00 and 14:00–18:00: what a plan works by when it names no calendar.</summary>
    public static WorkCalendar Weekdays { get; } =
        new()
        {
            Id = "weekdays",
            Name = "Weekdays",
            Week = [OfficeDay, OfficeDay, OfficeDay, OfficeDay, OfficeDay, NoWork, NoWork],
        };

    /// <summary>Every minute of every day.</summary>
    internal static WorkCalendar AroundTheClock { get; } =
        new()
        {
            Id = "around-the-clock",
            Name = "Around the clock",
            Week = [.. Enumerable.Repeat<ImmutableArray<WorkInterval>?>([new WorkInterval(0, PlanTime.MinutesPerDay)], 7)],
        };

    private static ImmutableArray<WorkInterval>? OfficeDay => [new WorkInterval(9 * 60, 13 * 60), new WorkInterval(14 * 60, 18 * 60)];

    private static ImmutableArray<WorkInterval>? NoWork => ImmutableArray<WorkInterval>.Empty;
}
