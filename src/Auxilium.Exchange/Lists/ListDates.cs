using System.Globalization;
using System.Text.RegularExpressions;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Exchange.Lists;

/// <summary>Dates of a list, which may be numbers in either order.</summary>
internal static partial class ListDates
{
    /// <summary>Which orders a date in numbers can be read in; <c>null</c> for one that is not in numbers.</summary>
    /// <param name="near">The day that dates without a year are closest to.</param>
    public static (bool DayFirst, bool MonthFirst)? OrdersOf(string text, DateOnly near)
    {
        var match = Numbers().Match(text.Trim());
        if (!match.Success)
            return null;
        // A day of the week says which of the two it is, where one of them falls on it.
        if (match.Groups["weekday"].Success && DateText.TryParse(Plain(match), near, out var named, out _, near))
            return named.Date.Day == named.Date.Month
                ? null
                : (named.Date.Day == Part(match, "first"), named.Date.Day != Part(match, "first"));
        var (first, second) = (Part(match, "first"), Part(match, "second"));
        return first == second ? null : (second <= 12 && first <= 31, first <= 12 && second <= 31);
    }

    public static bool TryParse(string text, DateOnly today, DateOnly near, DateOrder order, out DateOrTime date, out string problem)
    {
        var match = Numbers().Match(text.Trim());
        if (!match.Success)
            return DateText.TryParse(text, today, out date, out problem, near);
        if (
            order == DateOrder.Unknown
            && match.Groups["weekday"].Success
            && DateText.TryParse(
                $"{Plain(match)}{(match.Groups["time"].Success ? " " + match.Groups["time"].Value : "")}",
                today,
                out date,
                out problem,
                near
            )
        )
            return true;
        var (day, month) =
            order == DateOrder.MonthFirst ? (Part(match, "second"), Part(match, "first")) : (Part(match, "first"), Part(match, "second"));
        if (month is < 1 or > 12)
        {
            date = default;
            problem =
                $"“{text.Trim()}” has no month {month}: its day and month stand the other way round than in the rest of the list. "
                + "Write 12 May or 2027-05-12.";
            return false;
        }
        var year = match.Groups["year"].Success ? " " + Century(match.Groups["year"].Value) : "";
        var name = CultureInfo.InvariantCulture.DateTimeFormat.GetAbbreviatedMonthName(month);
        var time = match.Groups["time"].Success ? " " + match.Groups["time"].Value : "";
        var weekday = match.Groups["weekday"].Success ? match.Groups["weekday"].Value + " " : "";
        return DateText.TryParse($"{weekday}{day} {name}{year}{time}", today, out date, out problem, near);
    }

    public static bool IsInNumbers(string text) => Numbers().IsMatch(text.Trim());

    private static string Plain(Match match) =>
        $"{match.Groups["weekday"].Value} {match.Groups["first"].Value}/{match.Groups["second"].Value}"
        + (match.Groups["year"].Success ? "/" + Century(match.Groups["year"].Value) : "");

    private static int Part(Match match, string name) => int.Parse(match.Groups[name].Value, CultureInfo.InvariantCulture);

    private static string Century(string year) => year.Length == 2 ? "20" + year : year;

    [GeneratedRegex(
        @"^((?<weekday>mon|tue|wed|thu|fri|sat|sun)[a-z]*\.?,?\s+)?"
            + @"(?<first>\d{1,2})(?<sep>[./-])(?<second>\d{1,2})(\k<sep>(?<year>\d{4}|\d{2})?)?(\s+(?<time>\d{1,2}:\d{2})(:\d{2})?)?$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex Numbers();
}
