using System.Collections.Immutable;
using System.Text.RegularExpressions;
using Auxilium.Planning.Calendars;

namespace Auxilium.Planning.Typing;

/// <summary>Reads the hours of a day as people type them: <c>9-13, 14:30-18</c>, or <c>off</c> for none.</summary>
public static partial class HoursText
{
    private static readonly string[] Off = ["off", "no", "none", "closed", "-"];

    /// <param name="text">What was typed.</param>
    /// <param name="hours">The stretches of work, in order.</param>
    /// <param name="problem">When unreadable: one sentence saying what is wrong and what would be right.</param>
    public static bool TryParse(string text, out ImmutableArray<WorkInterval> hours, out string problem)
    {
        (hours, problem) = ([], "");
        if (Off.Contains(text.Trim(), StringComparer.OrdinalIgnoreCase))
            return true;
        var found = new List<WorkInterval>();
        foreach (var part in text.Split([',', ';'], StringSplitOptions.TrimEntries))
        {
            problem = WhyRefused(part, found, out var stretch);
            if (problem.Length > 0)
                return false;
            found.Add(stretch);
        }
        hours = [.. found.OrderBy(i => i.Start)];
        return true;
    }

    private static string WhyRefused(string text, List<WorkInterval> others, out WorkInterval stretch)
    {
        stretch = default;
        var shown = LengthText.Shorten(text);
        var match = Stretch().Match(text);
        if (!match.Success)
            return $"“{shown}” is not a stretch of working time: type hours such as 9-13, 14-18, or off.";
        stretch = new WorkInterval(Minute(match, "from"), Minute(match, "to"));
        var interval = stretch;
        return interval is { Start: >= PlanTime.MinutesPerDay } or { End: > PlanTime.MinutesPerDay }
                ? $"“{shown}” is beyond the end of the day: type hours from 0:00 to 24:00."
            : interval.End <= interval.Start
                ? $"“{shown}” ends before it starts: split time past midnight into two days, the first up to 24:00."
            : others.Any(i => i.Start < interval.End && interval.Start < i.End) ? $"“{shown}” overlaps another stretch of the same day."
            : "";
    }

    private static int Minute(Match match, string name) =>
        int.Parse(match.Groups[name].Value) * 60 + (match.Groups[name + "m"].Success ? int.Parse(match.Groups[name + "m"].Value) : 0);

    [GeneratedRegex(
        @"^(?<from>\d{1,2})([:.h](?<fromm>[0-5]\d))?\s*(h\s*)?(-|–|to)\s*(?<to>\d{1,2})([:.h](?<tom>[0-5]\d))?\s*h?$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex Stretch();
}
