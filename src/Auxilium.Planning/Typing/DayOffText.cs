using System.Text.RegularExpressions;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Typing;

/// <summary>
/// Reads days that differ from the week as people type them: <c>31 May Founders’ day</c>, <c>2 Aug to 13 Aug Summer closure</c>,
/// <c>9–11 Jun</c>; hours behind make them days of work: <c>5 Jun Regatta 10-22</c>.
/// </summary>
public static partial class DayOffText
{
    private const int LongestText = 300;
    private const int MostWords = 5;

    /// <param name="text">What was typed.</param>
    /// <param name="today">Today, which dates without a year are closest to.</param>
    /// <param name="days">The days, their name and hours.</param>
    /// <param name="problem">When unreadable: one sentence saying what is wrong and what would be right.</param>
    public static bool TryParse(string text, DateOnly today, out CalendarOverride days, out string problem)
    {
        days = new CalendarOverride(today, today, "", []);
        problem = "";
        var rest = text.Trim();
        if (rest.Length > LongestText || !TryDays(ref rest, today, out var from, out var to, ref problem))
        {
            if (problem.Length == 0)
                problem =
                    $"“{LengthText.Shorten(rest)}” does not begin with a day: type one, or two with “to” between, then a name, such "
                    + "as 2 Aug to 13 Aug Summer closure. Hours after it make it an extra working day: 5 Jun Regatta 10-22.";
            return false;
        }
        if (to < from)
        {
            problem = "The last day is before the first: type the first day first.";
            return false;
        }
        var hours = Hours().Match(rest);
        var name = hours.Success ? rest[..hours.Index] : rest;
        if (!HoursText.TryParse(hours.Success ? hours.Value : "off", out var work, out problem))
            return false;
        days = new CalendarOverride(from, to, name.Trim(' ', ',', ':'), work);
        return true;

        bool TryDays(ref string rest, DateOnly today, out DateOnly from, out DateOnly to, ref string problem)
        {
            var span = SameMonth().Match(rest);
            if (
                span.Success
                && TryDay($"{span.Groups["from"]} {span.Groups["month"]}", today, out from)
                && TryDay($"{span.Groups["to"]} {span.Groups["month"]}", from, out to)
            )
            {
                rest = rest[span.Length..];
                return true;
            }
            to = from = default;
            if (!TryFirst(ref rest, today, out from, ref problem))
                return false;
            to = from;
            var between = To().Match(rest);
            if (!between.Success)
                return true;
            var behind = rest[between.Length..];
            if (!TryFirst(ref behind, from, out var last, ref problem))
                return problem.Length == 0;
            (to, rest) = (last, behind);
            return true;
        }
    }

    private static bool TryDay(string text, DateOnly near, out DateOnly day)
    {
        var isRead = DateText.TryParse(text, near, out var date, out _);
        day = date.Date;
        return isRead && date.Minute is null;
    }

    /// <summary>The day that a text begins with: as many words as make one.</summary>
    private static bool TryFirst(ref string rest, DateOnly near, out DateOnly day, ref string problem)
    {
        day = default;
        var ends = Word().Matches(rest).Take(MostWords).Select(m => m.Index + m.Length).ToList();
        for (var i = ends.Count - 1; i >= 0; i--)
        {
            var text = rest[..ends[i]].TrimEnd(',', ':');
            if (TryDay(text, near, out day))
            {
                rest = rest[ends[i]..].TrimStart();
                return true;
            }
            if (i == 0 && Numbers().IsMatch(text) && !DateText.TryParse(text, near, out _, out var why))
                problem = why;
        }
        return false;
    }

    [GeneratedRegex(@"^\d{1,4}[./-]\d{1,2}")]
    private static partial Regex Numbers();

    [GeneratedRegex(@"\S+")]
    private static partial Regex Word();

    [GeneratedRegex(@"^\s*(to|until|till|–|-)\s+", RegexOptions.IgnoreCase)]
    private static partial Regex To();

    [GeneratedRegex(
        @"^(?<from>\d{1,2})\.?\s*(-|–|to)\s*(?<to>\d{1,2})\.?\s+(?<month>[a-z]{3,9}\.?(\s+\d{4})?)(?=\s|$)",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture
    )]
    private static partial Regex SameMonth();

    [GeneratedRegex(
        @"(?<=^|\s)\d{1,2}(:\d{2})?\s*(-|–|to)\s*\d{1,2}(:\d{2})?(\s*,\s*\d{1,2}(:\d{2})?\s*(-|–|to)\s*\d{1,2}(:\d{2})?)*$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture
    )]
    private static partial Regex Hours();
}
