using System.Globalization;
using System.Text.RegularExpressions;

namespace Auxilium.Planning.Plans;

/// <summary>Reads a length as people type it: <c>3d</c>, <c>0.5 d</c>, <c>2 hours</c>, <c>45m</c>, <c>1 week</c>; a bare number is days.</summary>
public static partial class LengthText
{
    private const int LongestText = 40;

    /// <param name="text">What was typed. A trailing <c>?</c> marks a guess.</param>
    /// <param name="length">The length, 0 or more.</param>
    /// <param name="tentative">Whether it was marked as a guess.</param>
    /// <param name="problem">When unreadable: one sentence saying what is wrong and what would be right.</param>
    public static bool TryParse(string? text, out Length length, out bool tentative, out string problem)
    {
        length = default;
        problem = "";
        var trimmed = (text ?? "").Trim();
        tentative = trimmed.EndsWith('?');
        if (tentative) trimmed = trimmed[..^1].TrimEnd();
        var match = trimmed.Length > LongestText ? Match.Empty : Pattern().Match(trimmed);
        if (!match.Success)
        {
            problem = trimmed.Length == 0
                ? "A length is missing: type a number and a unit, such as 3d, 2h or 1w."
                : $"“{Shorten(trimmed)}” is not a length: type a number and a unit, such as 3d, 2h, 45m or 1w.";
            return false;
        }
        if (match.Groups["sign"].Value == "-")
        {
            problem = "A length cannot be negative: type a number from 0 up, such as 3d.";
            return false;
        }
        if (!decimal.TryParse(match.Groups["number"].Value.Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var amount))
        {
            problem = $"“{Shorten(trimmed)}” is not a number that can be planned with: type something like 3d.";
            return false;
        }
        length = new Length(amount, UnitOf(match.Groups["unit"].Value));
        return true;
    }

    /// <summary>Says why a readable length cannot be used in a plan with these units, or <c>null</c> when it can.</summary>
    public static string? WhyUnusable(Length length, WorkUnits units)
    {
        if (units.TryGetMinutes(length, out _)) return null;
        var tenYears = Math.Abs(length.Amount) > 10_000_000 || !units.TryGetMinutes(length with { Amount = decimal.Truncate(length.Amount) }, out _);
        return tenYears
            ? $"{length.InWords()} is longer than ten years: give a length of at most {Length.MostWeeks} weeks."
            : $"{length.InWords()} does not come to whole minutes: give a number that does, such as {units.ToLength(new((int)Math.Round(length.Amount * units.Minutes(length with { Amount = 1 }).Count))).InWords()}.";
    }

    internal static string Shorten(string text) => text.Length <= 30 ? text : text[..29] + "…";

    private static LengthUnit UnitOf(string unit) => unit.Length == 0 ? LengthUnit.Days : char.ToLowerInvariant(unit[0]) switch
    {
        'm' => LengthUnit.Minutes,
        'h' => LengthUnit.Hours,
        'w' => LengthUnit.Weeks,
        _ => LengthUnit.Days,
    };

    [GeneratedRegex(@"^(?<sign>-?)(?<number>\d+([.,]\d+)?|[.,]\d+)\s*(?<unit>m|mins?|minutes?|h|hrs?|hours?|d|days?|w|wks?|weeks?|)$", RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant)]
    private static partial Regex Pattern();
}
