using System.Globalization;
using System.Text.RegularExpressions;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Typing;

/// <summary>A link as typed: the number of the row before, the lag, and which dates it is about.</summary>
public readonly record struct TypedLink(string Number, Length Lag, LinkKind Kind = LinkKind.FinishToStart, bool Elapsed = false);

/// <summary>
/// Reads what must come first as people type it: <c>after 4</c>, <c>4</c>, <c>after 4, 2.1 + 2d</c>, <c>after 4 - 1d</c>,
/// <c>with 4</c> (start together), <c>ends with 4</c> (finish together), <c>ends after 4 starts</c>; <c>+ 12h elapsed</c> counts the
/// clock. Rows go by the number the list shows.
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
        if (rest.Length == 0)
            return true;
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
                if (!LengthText.TryParse(match.Groups["lag"].Value, out lag, out _, out problem))
                    return false;
                if (match.Groups["sign"].Value != "+")
                    lag = lag with { Amount = -lag.Amount };
            }
            found.Add(new TypedLink(match.Groups["number"].Value, lag, KindOf(match), match.Groups["elapsed"].Success));
        }
        return true;
    }

    /// <summary>The short form that a cell shows: <c>4</c>, <c>2.1 + 2d</c>, <c>with 4</c>, <c>ends after 4 starts</c>.</summary>
    public static string Format(string number, PlanLink link)
    {
        var row = link.Kind switch
        {
            LinkKind.FinishToStart => number,
            LinkKind.StartToStart => $"with {number}",
            LinkKind.FinishToFinish => $"ends with {number}",
            _ => $"ends after {number} starts",
        };
        if (link.Lag.IsZero)
            return row;
        var lag = link.Lag with { Amount = Math.Abs(link.Lag.Amount) };
        return $"{row} {(link.Lag.Amount < 0 ? '-' : '+')} {lag}{(link.Elapsed ? " elapsed" : "")}";
    }

    private static LinkKind KindOf(Match match)
    {
        if (match.Groups["starts"].Success)
            return LinkKind.StartToFinish;
        var word = match.Groups["kind"].Value;
        if (word.StartsWith("end", StringComparison.OrdinalIgnoreCase))
            return LinkKind.FinishToFinish;
        return word.StartsWith("with", StringComparison.OrdinalIgnoreCase) ? LinkKind.StartToStart : LinkKind.FinishToStart;
    }

    private static string Explain(string part) =>
        part.Length == 0 ? "A row number is missing beside a comma: type row numbers with commas between them, such as 4, 6."
        : EndsAfter().IsMatch(part)
            ? $"“{LengthText.Shorten(part)}” does not say what of that row to end after: type ends after 4 starts, or ends with 4 to "
                + "end together."
        : $"“{LengthText.Shorten(part)}” is not a row to come after: type its number, such as after 4, or after 4 + 2d to leave time "
            + "between; with 4 starts together, ends with 4 ends together.";

    [GeneratedRegex(
        @"^(((?<kind>after|with|ends?\s+with)\s+)?(?<number>\d+(\.\d+)*)|ends?\s+after\s+(?<number>\d+(\.\d+)*)(?<starts>\s+starts?))"
            + @"(\s*(?<sign>[+\-−–])\s*(?<lag>.+?)(?<elapsed>\s+elapsed)?)?$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex Pattern();

    [GeneratedRegex(@"^ends?\s+after\b", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex EndsAfter();
}
