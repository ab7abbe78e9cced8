using Auxilium.Planning.Plans;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;

namespace Auxilium.Exchange.Calendars;

/// <summary>A task that comes again.</summary>
/// <param name="Id">What calendars call all of it.</param>
public sealed record CalendarSeries(string Id, string Name, RepeatRule Rule);

/// <summary>What of a series follows its rule, and so is told as one event that comes again.</summary>
/// <param name="Times">Those that do, in order.</param>
/// <param name="Days">The days on which the rule has one between the first and the last of them.</param>
/// <param name="Rest">Those that were moved, made longer or are done: they are told each for itself.</param>
internal sealed record RegularSeries(
    CalendarSeries Series,
    IReadOnlyList<CalendarTask> Times,
    IReadOnlyList<DateOnly> Days,
    IReadOnlyList<CalendarTask> Rest
)
{
    private const int MostTimes = 2 * RepeatRule.MostTimes;

    /// <summary>Days of the rule on which there is none.</summary>
    public IEnumerable<DateOnly> Without => Days.Except(Times.Select(time => time.From));

    /// <param name="times">Everything that came of a series.</param>
    /// <param name="localOf">Turns UTC into the time that hours are told in.</param>
    /// <returns><c>null</c> where too little of it follows a rule.</returns>
    public static RegularSeries? Of(CalendarSeries series, IReadOnlyList<CalendarTask> times, Func<DateTime, DateTime> localOf)
    {
        var alike = times
            .Where(time => !time.IsDone)
            .GroupBy(time =>
                (
                    Days: time.To.DayNumber - time.From.DayNumber,
                    Begins: time.Hours is { } hours ? localOf(hours.Begins).TimeOfDay : (TimeSpan?)null,
                    Takes: time.Hours?.Ends - time.Hours?.Begins
                )
            )
            .MaxBy(group => group.Count());
        if (alike is null || alike.Count() < 2)
            return null;
        var sorted = alike.DistinctBy(time => time.From).OrderBy(time => time.From).ToList();
        var days = DaysOf(series.Rule, sorted[0].From, sorted[^1].From);
        var regular = sorted.Where(time => days.Contains(time.From)).ToList();
        // What begins the series has to follow its rule as well.
        if (regular.Count < 2 || regular[0] != sorted[0] || regular[^1] != sorted[^1] || days.Count > 2 * regular.Count)
            return null;
        var rest = times.Except(regular).ToList();
        return new RegularSeries(series, regular, days, rest);
    }

    /// <summary>The rule as calendars have it, up to a day.</summary>
    public static RecurrenceRule RuleOf(RepeatRule rule, CalDateTime until)
    {
        var pattern = new RecurrenceRule(
            rule.Every switch
            {
                RepeatUnit.Day => FrequencyType.Daily,
                RepeatUnit.Week => FrequencyType.Weekly,
                RepeatUnit.Month => FrequencyType.Monthly,
                _ => FrequencyType.Yearly,
            },
            rule.Interval
        )
        {
            Until = until,
        };
        var on = rule.On.IsDefault ? [] : rule.On;
        if (rule.Every == RepeatUnit.Week)
            pattern.ByDay = [.. on.Select(day => new WeekDay(day))];
        else if (rule.Week is { } week && on.Length == 1 && rule.Every is RepeatUnit.Month or RepeatUnit.Year)
        {
            pattern.ByDay = [new WeekDay(on[0], week)];
            if (rule.Every == RepeatUnit.Year)
                pattern.ByMonth = [rule.From.Date.Month];
        }
        return pattern;
    }

    private static List<DateOnly> DaysOf(RepeatRule rule, DateOnly first, DateOnly last)
    {
        var told = new CalendarEvent { Start = new CalDateTime(first), RecurrenceRule = RuleOf(rule, new CalDateTime(last)) };
        return [.. told.GetOccurrences().Take(MostTimes).Select(occurrence => occurrence.Period.StartTime.Date)];
    }
}
