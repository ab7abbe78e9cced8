using Auxilium.Planning.Calendars;

namespace Auxilium.Planning.Plans;

/// <summary>One of the times that a repeating task comes.</summary>
/// <param name="Number">Its number in the series, from 1.</param>
/// <param name="Day">The day the rule names, which its calendar may have moved it from.</param>
/// <param name="Start">When it begins.</param>
/// <param name="OnTheClock">Its calendar does not have the time it takes, so that its length counts every minute.</param>
public sealed record Occurrence(int Number, DateOnly Day, PlanTime Start, bool OnTheClock)
{
    /// <summary>Whether a day without work moved it.</summary>
    public bool IsMoved => Start.Date != Day;
}

/// <summary>Works out the occurrences of a rule.</summary>
public static class Series
{
    private const int MostDaysOn = 400;
    private const int UsualStart = 9 * 60;

    /// <summary>
    /// Those that are still to be made: after <see cref="RepeatRule.Made"/>, up to its end, or to <see cref="RepeatRule.MostTimes"/>.
    /// </summary>
    /// <param name="rule">A rule that is not unusable.</param>
    /// <param name="calendar">What each is worked on by.</param>
    /// <param name="units">What a day comes to.</param>
    public static IReadOnlyList<Occurrence> ToMake(RepeatRule rule, WorkTime calendar, WorkUnits units)
    {
        var made = new List<Occurrence>();
        var most = Math.Min(rule.Times ?? RepeatRule.MostTimes, RepeatRule.MostTimes);
        var taken = rule.Made;
        foreach (var day in rule.Days())
        {
            if (rule.Count + made.Count >= most || day > rule.Until?.Date)
                break;
            if (day <= rule.Made)
                continue;
            if (DayFor(rule, day, calendar) is not { } at || at <= taken || at > rule.Until?.Date)
                continue;
            taken = at;
            made.Add(At(rule, day, at, calendar, units, rule.Count + made.Count + 1));
        }
        return made;
    }

    /// <summary>How a series goes on to a day: its rule with that as its end.</summary>
    public static RepeatRule Until(RepeatRule rule, DateOnly day) => rule with { Until = new DateOrTime(day), Times = null };

    private static DateOnly? DayFor(RepeatRule rule, DateOnly day, WorkTime calendar)
    {
        if (rule.Closed == OnClosedDay.Keep || calendar.WorkedOn(day) > 0)
            return day;
        if (rule.Closed == OnClosedDay.Skip)
            return null;
        for (var on = 1; on < MostDaysOn; on++)
            if (calendar.WorkedOn(day.AddDays(on)) > 0)
                return day.AddDays(on);
        return null;
    }

    private static Occurrence At(RepeatRule rule, DateOnly day, DateOnly at, WorkTime calendar, WorkUnits units, int number)
    {
        var open = calendar.WorkedOn(at) > 0;
        var start =
            rule.From.Minute is { } minute ? PlanTime.On(at, minute)
            : open ? new DateOrTime(at).AsStart(calendar)
            : PlanTime.On(at, UsualStart);
        // Hours at a time of day are hours of the clock where the calendar has no such hours.
        var minutes = units.Minutes(rule.Length).Count;
        var byTheHour = rule.From.Minute is not null && rule.Length.Unit is LengthUnit.Minutes or LengthUnit.Hours;
        var covered = open && (!byTheHour || calendar.Between(start, new PlanTime(start.Minutes + minutes)) >= minutes);
        return new Occurrence(number, day, start, !covered && minutes > 0);
    }
}
