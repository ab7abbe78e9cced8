using System.Globalization;
using System.Text.RegularExpressions;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Typing;

/// <summary>
/// Reads a day as people type it: <c>12 May</c>, <c>May 12 2027</c>, <c>2027-05-12</c>, <c>31/12</c>, <c>today</c>, with
/// <c>14:00</c> behind it if wanted. Numbers alone are read where they mean one day only.
/// </summary>
public static partial class DateText
{
    private static readonly string[] Weekdays = ["sun", "mon", "tue", "wed", "thu", "fri", "sat"];
    private static readonly string[] Months = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

    /// <param name="text">What was typed.</param>
    /// <param name="today">The day that <c>today</c> means.</param>
    /// <param name="date">The day, with a time when one was given.</param>
    /// <param name="problem">When unreadable: one sentence saying what is wrong and what would be right.</param>
    /// <param name="near">The day that a date without a year is closest to; today when left out.</param>
    public static bool TryParse(string? text, DateOnly today, out DateOrTime date, out string problem, DateOnly? near = null)
    {
        problem = "";
        var trimmed = (text ?? "").Trim();
        if (DateOrTime.TryParseIso(trimmed, out date))
            return InRange(date, ref problem);
        date = default;
        // As tables that we hand out have it, and many others: 2027-05-12 14:00.
        if (trimmed.Length > 11 && trimmed[10] == ' ' && DateOrTime.TryParseIso(trimmed[..10], out var iso))
            if (TimeAlone().Match(trimmed[11..]) is { Success: true } time)
                return WithTime(time, iso.Date, ref date, ref problem);
        var match = trimmed.Length > 40 ? Match.Empty : Pattern().Match(trimmed);
        if (match.Success && match.Groups["weekday"].Success)
        {
            if (!TryByWeekday(match, near ?? today, out var named, ref problem))
                return false;
            return WithTime(match, named, ref date, ref problem);
        }
        if (!match.Success || IsAmbiguous(match))
        {
            problem =
                trimmed.Length == 0 ? "A date is missing: type a day and month, such as 12 May."
                : match.Success || Numbers().IsMatch(trimmed)
                    ? $"“{LengthText.Shorten(trimmed)}” could be read two ways: write the month as a word, such as 12 May, or the "
                        + "whole date as 2027-05-12."
                : $"“{LengthText.Shorten(trimmed)}” is not a date: type a day and month, such as 12 May, or 2027-05-12.";
            return false;
        }
        if (!TryReadDay(match, today, near ?? today, out var day))
        {
            problem = $"There is no such day as “{LengthText.Shorten(trimmed)}”: type one that is on the calendar, such as 12 May.";
            return false;
        }
        return WithTime(match, day, ref date, ref problem);
    }

    private static bool WithTime(Match match, DateOnly day, ref DateOrTime date, ref string problem)
    {
        int? minute = null;
        if (match.Groups["hour"].Success)
        {
            minute = int.Parse(match.Groups["hour"].Value) * 60 + int.Parse(match.Groups["minute"].Value);
            if (minute > PlanTime.MinutesPerDay || int.Parse(match.Groups["minute"].Value) > 59)
            {
                problem =
                    $"“{match.Groups["hour"].Value}:{match.Groups["minute"].Value}” is not a time of day: type one from 0:00 to 24:00.";
                return false;
            }
        }
        date = new DateOrTime(day, minute);
        return InRange(date, ref problem);
    }

    /// <summary>The day of the week says which is the day and which the month, and, without a year, which year.</summary>
    private static bool TryByWeekday(Match match, DateOnly near, out DateOnly day, ref string problem)
    {
        var weekday = (DayOfWeek)
            Array.FindIndex(Weekdays, w => match.Groups["weekday"].Value.StartsWith(w, StringComparison.OrdinalIgnoreCase));
        var read = DayAndMonth(match);
        var readings = match.Groups["first"].Success ? [read, (Day: read.Month, Month: read.Day)] : new[] { read };
        int[] years = match.Groups["year"].Success ? [int.Parse(match.Groups["year"].Value)] : [near.Year - 1, near.Year, near.Year + 1];
        var days = readings
            .SelectMany(r => years.Select(year => TryMake(year, r.Month, r.Day, out var found) ? found : (DateOnly?)null))
            .OfType<DateOnly>()
            .Distinct()
            .OrderBy(d => Math.Abs(d.DayNumber - near.DayNumber))
            .ToList();
        day = days.FirstOrDefault(d => d.DayOfWeek == weekday);
        if (day != default)
            return true;
        problem =
            days.Count == 0
                ? $"There is no such day as “{LengthText.Shorten(match.Value)}”: type one that is on the calendar, such as 12 May."
                : $"{days[0].ToString("d MMMM yyyy", CultureInfo.InvariantCulture)} is a {days[0].DayOfWeek}: leave the day of the "
                    + "week out, or type the date that you mean.";
        return false;
    }

    private static bool TryReadDay(Match match, DateOnly today, DateOnly near, out DateOnly day)
    {
        day = today;
        if (match.Groups["word"].Success)
        {
            if (match.Groups["word"].Value.Equals("tomorrow", StringComparison.OrdinalIgnoreCase))
                day = today.AddDays(1);
            return true;
        }
        var (number, month) = DayAndMonth(match);
        if (match.Groups["year"].Success)
            return TryMake(int.Parse(match.Groups["year"].Value), month, number, out day);
        DateOnly? best = null;
        for (var year = near.Year - 1; year <= near.Year + 1; year++)
            if (TryMake(year, month, number, out var candidate) && (best is not { } b || Away(candidate) < Away(b)))
                best = candidate;
        day = best ?? default;
        return best is not null;

        int Away(DateOnly d) => Math.Abs(d.DayNumber - near.DayNumber);
    }

    private static (int Day, int Month) DayAndMonth(Match match)
    {
        if (!match.Groups["first"].Success)
            return (int.Parse(match.Groups["day"].Value), Array.IndexOf(Months, match.Groups["month"].Value[..3].ToLowerInvariant()) + 1);
        var (first, second) = (int.Parse(match.Groups["first"].Value), int.Parse(match.Groups["second"].Value));
        return second > 12 ? (second, first) : (first, second);
    }

    /// <summary>Some people write the month first.</summary>
    private static bool IsAmbiguous(Match match) =>
        match.Groups["first"].Success && DayAndMonth(match) is var (day, month) && day <= 12 && day != month;

    private static bool TryMake(int year, int month, int day, out DateOnly date)
    {
        var exists = year is >= 1 and <= 9999 && month is >= 1 and <= 12 && day >= 1 && day <= DateTime.DaysInMonth(year, month);
        date = exists ? new DateOnly(year, month, day) : default;
        return exists;
    }

    private static bool InRange(DateOrTime date, ref string problem)
    {
        if (date.Date.Year is >= 1990 and <= 2100)
            return true;
        problem = $"{date.Date:d MMMM yyyy} is outside the years that can be planned: give a date from 1990 to 2100.";
        return false;
    }

    [GeneratedRegex(
        @"^((?<word>today|tomorrow)|((?<weekday>mon|tue|wed|thu|fri|sat|sun)[a-z]*\.?,?\s+)?"
            + @"((?<day>\d{1,2})(st|nd|rd|th)?\.?\s*(?<month>(jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*)|"
            + @"(?<month>(jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*)\s+(?<day>\d{1,2})(st|nd|rd|th)?|"
            + @"(?<first>\d{1,2})(?<sep>[./-])(?<second>\d{1,2})\k<sep>?)\.?(,?\s*(?<year>\d{4}))?)"
            + @"(,?\s+(at\s+)?(?<hour>\d{1,2}):(?<minute>\d{2}))?$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex Pattern();

    [GeneratedRegex(@"^(?<hour>\d{1,2}):(?<minute>\d{2})$")]
    private static partial Regex TimeAlone();

    [GeneratedRegex(@"^\d{1,4}[./-]\d{1,2}([./-]\d{0,4})?$")]
    private static partial Regex Numbers();
}
