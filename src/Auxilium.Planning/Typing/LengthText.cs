using System.Globalization;
using System.Text.RegularExpressions;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Typing;

/// <summary>
/// Reads a length as people type it: <c>3d</c>, <c>0,5 d</c>, <c>½ d</c>, <c>half a day</c>, <c>2 hours</c>, <c>1h30</c>, <c>45m</c>,
/// <c>2 weeks 1 day</c>; a bare number is days, unless another unit is asked for.
/// </summary>
public static partial class LengthText
{
    private const int LongestText = 40;

    /// <param name="text">What was typed. A trailing <c>?</c> marks a guess.</param>
    /// <param name="length">The length, 0 or more.</param>
    /// <param name="tentative">Whether it was marked as a guess.</param>
    /// <param name="problem">When unreadable: one sentence saying what is wrong and what would be right.</param>
    /// <param name="units">What days and weeks come to, for a length of several units; the usual ones when left out.</param>
    /// <param name="bare">What a number without a unit counts.</param>
    public static bool TryParse(
        string? text,
        out Length length,
        out bool tentative,
        out string problem,
        WorkUnits? units = null,
        LengthUnit bare = LengthUnit.Days
    )
    {
        length = default;
        problem = "";
        var trimmed = (text ?? "").Trim();
        tentative = trimmed.EndsWith('?');
        if (tentative)
            trimmed = trimmed[..^1].TrimEnd();
        var example = bare == LengthUnit.Hours ? "2.5, 1h30 or 45m" : "3d, 2h, 45m or 1w";
        if (trimmed.Length == 0)
        {
            problem = $"A length is missing: type a number and a unit, such as {example}.";
            return false;
        }
        if (trimmed.StartsWith('-') && TryParse(trimmed[1..], out _, out _, out _, units, bare))
        {
            problem = "A length cannot be negative: type a number from 0 up, such as 3d.";
            return false;
        }
        if (trimmed.Length <= LongestText && Range().IsMatch(trimmed))
        {
            problem = $"“{Shorten(trimmed)}” is a range: type one length, such as 3d? for a guess, and the range on the card of the task.";
            return false;
        }
        var match = trimmed.Length > LongestText ? Match.Empty : Pattern().Match(trimmed);
        if (!match.Success || !TrySum(match, units ?? WorkUnits.Standard, bare, out length))
        {
            problem = $"“{Shorten(trimmed)}” is not a length: type a number and a unit, such as {example}.";
            return false;
        }
        return true;
    }

    /// <summary>All parts together, in the smallest unit among them.</summary>
    private static bool TrySum(Match match, WorkUnits units, LengthUnit bare, out Length length)
    {
        length = default;
        var parts = new List<Length>();
        for (var i = 0; i < match.Groups["unit"].Captures.Count; i++)
        {
            var (number, typed) = (match.Groups["number"].Captures[i].Value, match.Groups["unit"].Captures[i].Value);
            // A number that follows hours is minutes, as in 1h30.
            var unit =
                typed.Length > 0 ? UnitOf(typed)
                : parts.Count == 0 ? bare
                : parts[^1].Unit == LengthUnit.Hours ? LengthUnit.Minutes
                : (LengthUnit?)null;
            if (unit is not { } known || !TryNumber(number, out var amount) || parts.Count > 0 && known >= parts[^1].Unit)
                return false;
            parts.Add(new Length(amount, known));
        }
        if (parts.Count == 1)
            length = parts[0];
        else if (parts.All(p => units.TryGetMinutes(p, out _)))
        {
            var each = units.Minutes(new Length(1, parts[^1].Unit)).Count;
            length = new Length((decimal)parts.Sum(p => units.Minutes(p).Count) / each, parts[^1].Unit);
        }
        return parts.Count == 1 || length != default;
    }

    private static bool TryNumber(string text, out decimal number)
    {
        var plain = text.Trim().ToLowerInvariant();
        if (plain is "a" or "an" or "one")
            plain = "1";
        else if (plain.StartsWith("half", StringComparison.Ordinal))
            plain = "0.5";
        var part =
            plain.Length > 0
                ? plain[^1] switch
                {
                    '½' => 0.5m,
                    '¼' => 0.25m,
                    '¾' => 0.75m,
                    _ => 0m,
                }
                : 0;
        if (part > 0)
            plain = plain[..^1].TrimEnd() is { Length: > 0 } whole ? whole : "0";
        if (!decimal.TryParse(plain.Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out number))
            return false;
        number += part;
        return true;
    }

    /// <summary>Says why a readable length cannot be used in a plan with these units, or <c>null</c> when it can.</summary>
    public static string? WhyUnusable(Length length, WorkUnits units)
    {
        if (units.TryGetMinutes(length, out _))
            return null;
        var tenYears =
            Math.Abs(length.Amount) > 10_000_000 || !units.TryGetMinutes(length with { Amount = decimal.Truncate(length.Amount) }, out _);
        return tenYears
            ? $"{length.InWords()} is longer than ten years: give a length of at most {Length.MostWeeks} weeks."
            : $"{length.InWords()} does not come to whole minutes: give a number that does, such as "
                + $"{units.ToLength(new((int)Math.Round(length.Amount * units.Minutes(length with { Amount = 1 }).Count))).InWords()}.";
    }

    internal static string Shorten(string text) => text.Length <= 30 ? text : text[..29] + "…";

    private static LengthUnit UnitOf(string unit) =>
        unit.Length == 0
            ? LengthUnit.Days
            : char.ToLowerInvariant(unit[0]) switch
            {
                'm' => LengthUnit.Minutes,
                'h' => LengthUnit.Hours,
                'w' => LengthUnit.Weeks,
                _ => LengthUnit.Days,
            };

    [GeneratedRegex(
        @"^((?<number>\d*\s?[½¼¾]|(?>\d+([.,]\d+)?)|(?>[.,]\d+)|half(\s+an?)?(?=\s)|(an?|one)(?=\s))"
            + @"(?>\s*)(?<unit>m|mins?|minutes?|h|hrs?|hours?|d|days?|w|wks?|weeks?|)(?![a-z])(?>\s*(,|and)?\s*)(?=[\d½¼¾.ah]|$))+$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex Pattern();

    [GeneratedRegex(
        @"^\d+([.,]\d+)?\s*[a-z]*\s*(-|–|to)\s*\d+([.,]\d+)?\s*[a-z]*$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex Range();
}
