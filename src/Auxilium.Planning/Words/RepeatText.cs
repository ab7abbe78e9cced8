using System.Globalization;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Words;

/// <summary>Says a rule in plain words: "every 2 weeks on Tue and Thu at 18:00, 2 hours each".</summary>
public static class RepeatText
{
    private static readonly string[] Ordinals = ["first", "second", "third", "fourth"];

    public static string Of(RepeatRule rule)
    {
        var length = rule.Length.IsZero ? "" : $", {rule.Length.InWords()} each";
        var time = rule.From.Minute is { } minute ? $" at {minute / 60}:{minute % 60:00}" : "";
        return $"{How(rule)}{time}{length}";
    }

    private static string How(RepeatRule rule)
    {
        var from = rule.From.Date;
        return rule.Every switch
        {
            RepeatUnit.Day => Every(rule, "day"),
            RepeatUnit.Week => $"{Every(rule, "week")} on {Days(rule)}",
            RepeatUnit.Month => $"{Every(rule, "month")} on {(rule.Week is null ? $"the {Ordinal(from.Day)}" : Counted(rule))}",
            _ => $"{Every(rule, "year")} on "
                + (
                    rule.Week is null
                        ? from.ToString("d MMMM", CultureInfo.InvariantCulture)
                        : $"{Counted(rule)} of {from.ToString("MMMM", CultureInfo.InvariantCulture)}"
                ),
        };
    }

    private static string Every(RepeatRule rule, string unit) => rule.Interval == 1 ? $"every {unit}" : $"every {rule.Interval} {unit}s";

    private static string Days(RepeatRule rule)
    {
        var days = (rule.On.IsDefaultOrEmpty ? [rule.From.Date.DayOfWeek] : rule.On)
            .OrderBy(day => ((int)day + 6) % 7)
            .Select(Short)
            .ToList();
        return days.Count == 1 ? days[0] : $"{string.Join(", ", days.SkipLast(1))} and {days[^1]}";
    }

    private static string Counted(RepeatRule rule) =>
        $"the {(rule.Week == RepeatRule.LastWeek ? "last" : Ordinals[rule.Week!.Value - 1])} "
        + $"{CultureInfo.InvariantCulture.DateTimeFormat.GetDayName(rule.On[0])}";

    private static string Short(DayOfWeek day) => CultureInfo.InvariantCulture.DateTimeFormat.GetAbbreviatedDayName(day);

    private static string Ordinal(int number) =>
        number
        + (
            number % 100 is 11 or 12 or 13
                ? "th"
                : (number % 10) switch
                {
                    1 => "st",
                    2 => "nd",
                    3 => "rd",
                    _ => "th",
                }
        );
}
