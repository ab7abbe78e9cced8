using System.Globalization;
using System.Text.RegularExpressions;

namespace Auxilium.Exchange.Tables;

/// <summary>Amounts as people write them in lists.</summary>
internal static partial class AmountText
{
    private const NumberStyles Style = NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign;

    /// <summary>Such as 12.50, 12,50, € 1 200 or 1,200.00; <c>null</c> where it is none.</summary>
    /// <param name="text">What is written.</param>
    /// <param name="mark">What stands before decimals in this list; where nobody knows, three figures at the end are thousands.</param>
    public static decimal? Read(string text, char? mark = null)
    {
        var figures = string.Concat(text.Where(c => char.IsDigit(c) || c is '.' or ',' or '-'));
        var last = figures.LastIndexOfAny(['.', ',']);
        var isDecimal =
            last >= 0 && (mark is { } known && figures.Length - last - 1 == 3 ? figures[last] == known : HasDecimals(figures, last));
        var plain = string.Concat(figures.Where((c, i) => char.IsDigit(c) || c == '-' || (isDecimal && i == last))).Replace(',', '.');
        return text.Length - figures.Length <= 5 && decimal.TryParse(plain, Style, CultureInfo.InvariantCulture, out var amount)
            ? amount
            : null;
    }

    /// <summary>What stands before the decimals of these amounts; <c>null</c> where none of them, or each another, tells.</summary>
    public static char? MarkOf(IEnumerable<string> amounts)
    {
        var marks = amounts.Select(amount => Decimals().Match(amount)).Where(m => m.Success).Select(m => m.Value[0]).Distinct().ToList();
        return marks.Count == 1 ? marks[0] : null;
    }

    /// <summary>Whether it may be a thousand as well as one with three decimals, such as 1.250 alone.</summary>
    public static bool IsUnclear(string text) => Unclear().IsMatch(text);

    private static bool HasDecimals(string figures, int last) =>
        figures.Length - last - 1 != 3 || figures.StartsWith("0.", StringComparison.Ordinal);

    [GeneratedRegex(@"[.,](?=(\d{1,2}|\d{4,})\D*$)")]
    private static partial Regex Decimals();

    [GeneratedRegex(@"^\D*[1-9]\d{0,2}[.,]\d{3}\D*$")]
    private static partial Regex Unclear();
}
