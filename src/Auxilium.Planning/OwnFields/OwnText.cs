using System.Globalization;
using System.Text.RegularExpressions;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.OwnFields;

/// <summary>
/// Values of fields that people made. They are kept as text in one form: numbers like <c>-12.5</c>, days like <c>2027-05-12</c>,
/// <c>yes</c>, and choices by their ids; <c>null</c> for none.
/// </summary>
public static partial class OwnText
{
    public const int Longest = 500;

    private const decimal Largest = 1_000_000_000_000m;

    /// <summary>Reads a value as people type it, or as it is kept.</summary>
    /// <param name="today">The day that <c>today</c> means.</param>
    /// <param name="near">The day that dates without a year are closest to.</param>
    /// <param name="problem">The sentence that says what is wrong with it, and what would be right.</param>
    public static bool TryRead(OwnField field, string? text, DateOnly today, DateOnly? near, out string? value, out string? problem)
    {
        var typed = (text ?? "").Trim();
        (value, problem) = (null, null);
        if (typed.Length == 0)
            return true;
        (value, problem) = field.Kind switch
        {
            OwnKind.Text => typed.Length > Longest ? (null, $"A {field.Name} has at most {Longest} characters: shorten it.")
            : typed.Any(char.IsControl) ? (null, $"A {field.Name} is one line of text: leave out line breaks.")
            : (typed, null),
            OwnKind.Number or OwnKind.Amount => Number(field, typed),
            OwnKind.Date => Day(typed, today, near),
            OwnKind.YesNo => YesNoText.TryParse(typed, out var isYes, out var wrong) ? (isYes ? "yes" : null, null) : (null, wrong),
            _ => Choice(field, typed),
        };
        return problem is null;
    }

    /// <summary>A kept value as its cell shows it; empty for none.</summary>
    public static string InWords(OwnField field, string? value) =>
        value is null
            ? ""
            : field.Kind switch
            {
                OwnKind.Amount when field.Unit is { } unit => $"{value} {unit}",
                OwnKind.Date
                    when DateOnly.TryParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) =>
                    Dates.Day(day),
                OwnKind.YesNo => "Yes",
                OwnKind.Choice => field.Choices.FirstOrDefault(choice => choice.Id == value)?.Name ?? value,
                _ => value,
            };

    private static (string?, string?) Number(OwnField field, string typed)
    {
        var plain =
            field.Unit is { } unit && typed.EndsWith(unit, StringComparison.OrdinalIgnoreCase) ? typed[..^unit.Length].TrimEnd() : typed;
        // A point or a comma parts the fraction; blanks, and commas before groups of three, part thousands.
        plain = plain.Replace(" ", "", StringComparison.Ordinal).Replace("\u00A0", "", StringComparison.Ordinal);
        plain = Thousands().IsMatch(plain) ? plain.Replace(",", "", StringComparison.Ordinal) : plain.Replace(',', '.');
        return
            decimal.TryParse(
                plain,
                NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign,
                CultureInfo.InvariantCulture,
                out var number
            )
            && Math.Abs(number) <= Largest
            ? (Math.Round(number, 6).ToString("0.######", CultureInfo.InvariantCulture), null)
            : (null, $"“{LengthText.Shorten(typed)}” is not a number for {field.Name}: write one such as 12 or 2.5.");
    }

    private static (string?, string?) Day(string typed, DateOnly today, DateOnly? near) =>
        !DateText.TryParse(typed, today, out var date, out var problem, near) ? (null, problem)
        : date.Minute is not null ? (null, $"“{LengthText.Shorten(typed)}” has a time: give a day alone, such as 12 May.")
        : (date.Date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), null);

    private static (string?, string?) Choice(OwnField field, string typed) =>
        (
            field.Choices.FirstOrDefault(choice => choice.Name.Equals(typed, StringComparison.OrdinalIgnoreCase))
            ?? field.Choices.FirstOrDefault(choice => choice.Id == typed)
        )
            is { } chosen
            ? (chosen.Id, null)
            : (null, $"{field.Name} is one of {string.Join(", ", field.Choices.Select(choice => choice.Name))}.");

    [GeneratedRegex(@"^[+-]?\d{1,3}(,\d{3})+(\.\d+)?$")]
    private static partial Regex Thousands();
}
