using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Typing;

namespace Auxilium.Planning.Plans;

/// <summary>What a repeating task counts in.</summary>
public enum RepeatUnit
{
    Day,
    Week,
    Month,
    Year,
}

/// <summary>What becomes of an occurrence whose day has no work.</summary>
public enum OnClosedDay
{
    /// <summary>It moves to the next day with work.</summary>
    Next,

    /// <summary>It is left out.</summary>
    Skip,

    /// <summary>It stays on that day.</summary>
    Keep,
}

/// <summary>When a task comes again. The phase that gathers its occurrences keeps it, so that the series can be extended.</summary>
public sealed record RepeatRule
{
    /// <summary>A series has at most this many occurrences.</summary>
    public const int MostTimes = 500;

    /// <summary>It comes every so many days, weeks, months or years, up to this.</summary>
    public const int MostInterval = 99;

    /// <summary>What <see cref="Week"/> is for the last one of a month.</summary>
    public const int LastWeek = -1;

    public required RepeatUnit Every { get; init; }

    /// <summary>1 for each of them, 2 for every other one.</summary>
    public int Interval { get; init; } = 1;

    /// <summary>
    /// Days of the week: of weeks, that of <see cref="From"/> when left out; with <see cref="Week"/>, the one that is counted.
    /// </summary>
    public ImmutableArray<DayOfWeek> On { get; init; } = [];

    /// <summary>
    /// Of months and years: the first to fourth of a day of the week, or <see cref="LastWeek"/>; without it, the date of <see
    /// cref="From"/>.
    /// </summary>
    public int? Week { get; init; }

    /// <summary>The first day there can be an occurrence; with a time of day, each begins then, whatever the calendar says.</summary>
    public required DateOrTime From { get; init; }

    /// <summary>The last day there can be one.</summary>
    public DateOrTime? Until { get; init; }

    /// <summary>How many there are.</summary>
    public int? Times { get; init; }

    /// <summary>What each takes; nothing makes each a milestone.</summary>
    public required Length Length { get; init; }

    public OnClosedDay Closed { get; init; }

    /// <summary>The last day of the rule that has had its occurrence.</summary>
    public DateOnly? Made { get; init; }

    /// <summary>How many have been made, which numbers the next.</summary>
    public int Count { get; init; }

    /// <summary>
    /// The finish of the project that the series is known to go with: only where that moves on is it offered to be extended.
    /// </summary>
    public DateOnly? Through { get; init; }

    /// <summary>The sentence that says what is wrong with it, and what would be right; <c>null</c> when nothing is.</summary>
    public string? WhyUnusable(WorkUnits units)
    {
        var on = On.IsDefault ? [] : On;
        if (Interval is < 1 or > MostInterval)
            return $"It can come every 1 to {MostInterval} days, weeks, months or years.";
        if (Times is < 1 or > MostTimes)
            return $"It can come 1 to {MostTimes} times.";
        if (Until is { } until && until.Date < From.Date)
            return "The last day is before the first: give a later one, or an earlier first.";
        if (on.Any(day => !Enum.IsDefined(day)) || on.Distinct().Count() < on.Length)
            return "Name each day of the week once.";
        if (Week is not (null or LastWeek or (>= 1 and <= 4)))
            return "In a month it can come on the first, second, third, fourth or last of a day of the week.";
        if (Week is not null && (Every is RepeatUnit.Day or RepeatUnit.Week || on.Length != 1))
            return "Name one day of the week to count in the month, and let it come by months or years.";
        if (Week is null && on.Length > 0 && Every != RepeatUnit.Week)
            return "Days of the week go with weeks, or with the first to last one of a month.";
        if (!PlanTime.On(From.Date).IsInRange || Until is { } end && !PlanTime.On(end.Date).IsInRange)
            return "That is outside the years that can be planned: give dates from 1990 to 2100.";
        return Length.Amount < 0
            ? "Each takes some time, or none as a milestone: give a length such as 2h."
            : LengthText.WhyUnusable(Length, units);
    }

    /// <summary>The days it names, without end.</summary>
    public IEnumerable<DateOnly> Days()
    {
        var from = From.Date;
        for (var round = 0; ; round++)
            foreach (var day in DaysIn(from, round * Interval))
            {
                if (day.Year > 2100)
                    yield break;
                if (day >= from)
                    yield return day;
            }
    }

    private IEnumerable<DateOnly> DaysIn(DateOnly from, int away) =>
        Every switch
        {
            RepeatUnit.Day => [from.AddDays(away)],
            RepeatUnit.Week => DaysOfWeek(from.AddDays(7 * away)),
            RepeatUnit.Month => [InMonth(new DateOnly(from.Year, from.Month, 1).AddMonths(away), from.Day)],
            _ => [InMonth(new DateOnly(from.Year, from.Month, 1).AddYears(away), from.Day)],
        };

    private IEnumerable<DateOnly> DaysOfWeek(DateOnly inside)
    {
        var monday = inside.AddDays(-FromMonday(inside.DayOfWeek));
        var days = On.IsDefaultOrEmpty ? [From.Date.DayOfWeek] : On;
        return days.Select(FromMonday).Order().Select(day => monday.AddDays(day));
    }

    /// <summary>A date that a month does not have is its last.</summary>
    private DateOnly InMonth(DateOnly month, int date)
    {
        var days = DateTime.DaysInMonth(month.Year, month.Month);
        if (Week is not { } week)
            return month.AddDays(Math.Min(date, days) - 1);
        if (week == LastWeek)
        {
            var last = month.AddDays(days - 1);
            return last.AddDays(-((last.DayOfWeek - On[0] + 7) % 7));
        }
        return month.AddDays((On[0] - month.DayOfWeek + 7) % 7 + 7 * (week - 1));
    }

    private static int FromMonday(DayOfWeek day) => ((int)day + 6) % 7;
}
