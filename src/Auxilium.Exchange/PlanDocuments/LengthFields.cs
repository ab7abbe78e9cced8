using System.Text.RegularExpressions;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Reads lengths of a plan document: a number and a unit that come to whole minutes.</summary>
internal static partial class LengthFields
{
    /// <param name="at">The object it is in.</param>
    /// <param name="field">Its name.</param>
    /// <param name="units">What days and weeks come to.</param>
    /// <param name="signed">Whether it may be negative.</param>
    /// <returns><c>null</c> when left out or, with an error, wrong.</returns>
    public static Length? Length(this JsonObjectReader at, string field, WorkUnits units, bool signed = false)
    {
        if (at.Text(field, 40) is not { } text)
            return null;
        var negative = signed && text.StartsWith('-');
        if (
            !Exact().IsMatch(negative ? text[1..] : text)
            || !LengthText.TryParse(negative ? text[1..] : text, out var length, out _, out _)
        )
        {
            at.Error(field, "length", $"“{Shorten(text)}” is not a length like 30m, 4h, 2.5d or 1w.");
            return null;
        }
        if (negative)
            length = length with { Amount = -length.Amount };
        if (LengthText.WhyUnusable(length, units) is not { } why)
            return length;
        at.Error(field, "length", why);
        return null;
    }

    private static string Shorten(string text) => text.Length <= 20 ? text : text[..19] + "…";

    [GeneratedRegex(@"^\d+(\.\d+)?[mhdw]$", RegexOptions.CultureInvariant)]
    private static partial Regex Exact();
}
