using System.Globalization;
using System.Text.RegularExpressions;

namespace Auxilium.Planning.Plans;

/// <summary>A link as typed: the number of the row before, and the lag.</summary>
public readonly record struct TypedLink(string Number, Length Lag);

/// <summary>
/// Reads what must come first as people type it: <c>after 4</c>, <c>4</c>, <c>after 4, 2.1 + 2d</c>, <c>after 4 - 1d</c>.
/// Rows go by the number the list shows.
/// </summary>
public static partial class LinkText
{
    private const int LongestText = 5_000;

    /// <param name="text">What was typed; nothing at all means no links.</param>
    /// <param name="links">The links in the order typed.</param>
    /// <param name="problem">When unreadable: one sentence saying what is wrong and what would be right.</param>
    public static bool TryParse(string? text, out IReadOnlyList<TypedLink> links, out string problem)
    {
        var found = new List<TypedLink>();
        links = found;
        problem = "";
        var rest = (text ?? "").Trim();
        if (rest.Length == 0) return true;
        if (rest.Length > LongestText)
        {
            problem = "That is too long for a list of rows: type a few row numbers, such as 4, 6.";
            return false;
        }
        foreach (var raw in rest.Split([',', ';']))
        {
            var part = raw.Trim();
            var match = Pattern().Match(part);
            if (!match.Success)
            {
                problem = Explain(part);
                return false;
            }
            var lag = Length.Zero;
            if (match.Groups["lag"].Success)
            {
                if (!LengthText.TryParse(match.Groups["lag"].Value, out lag, out _, out problem)) return false;
                if (match.Groups["sign"].Value != "+") lag = lag with { Amount = -lag.Amount };
            }
            found.Add(new TypedLink(match.Groups["number"].Value, lag));
        }
        return true;
    }

    /// <summary>The short form that a cell shows: <c>4, 2.1 + 2d</c>.</summary>
    public static string Format(string number, Length lag) =>
        lag.IsZero ? number : string.Create(CultureInfo.InvariantCulture, $"{number} {(lag.Amount < 0 ? '-' : '+')} {lag with { Amount = Math.Abs(lag.Amount) }}");

    private static string Explain(string part) =>
        part.Length == 0 ? "A row number is missing beside a comma: type row numbers with commas between them, such as 4, 6."
        : OtherKind().IsMatch(part) ? $"“{LengthText.Shorten(part)}” is a kind of link that cannot be planned yet: only “after” a row's finish can, such as after 4."
        : $"“{LengthText.Shorten(part)}” is not a row to come after: type its number, such as after 4, or after 4 + 2d to leave time between.";

    [GeneratedRegex(@"^(after\s+)?(?<number>\d+(\.\d+)*)(\s*(?<sign>[+\-−–])\s*(?<lag>.+))?$", RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant)]
    private static partial Regex Pattern();

    [GeneratedRegex(@"^(with|ends\s+with|ends\s+after)\b", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex OtherKind();
}
