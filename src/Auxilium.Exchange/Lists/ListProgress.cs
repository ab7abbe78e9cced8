using System.Globalization;
using System.Text.RegularExpressions;

namespace Auxilium.Exchange.Lists;

/// <summary>How far a task is, as lists say it.</summary>
internal static partial class ListProgress
{
    private static readonly string[] Done = ["done", "finished", "complete", "completed", "yes", "x", "✓", "✔", "☑", "ok"];
    private static readonly string[] Open = ["no", "open", "not started", "to do", "todo", "☐", "waiting", "ready", "-", "late to start"];
    private static readonly string[] Begun = ["started", "under way", "in progress", "begun", "overdue"];

    /// <param name="progress">0 to 1; for what has only started <c>null</c>.</param>
    public static bool TryWord(string text, out decimal? progress)
    {
        var word = text.Trim().ToLowerInvariant();
        progress =
            Done.Contains(word) ? 1
            : Open.Contains(word) ? 0
            : null;
        return progress is not null || Begun.Contains(word);
    }

    public static bool TryParse(string text, out decimal? progress)
    {
        if (TryWord(text, out progress))
            return true;
        var match = Number().Match(text.Trim());
        if (
            !match.Success
            || !decimal.TryParse(
                match.Groups["n"].Value.Replace(',', '.'),
                NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var number
            )
        )
            return false;
        // A spreadsheet copies 40 % as 0.4 if its column is not formatted.
        progress = match.Groups["percent"].Success || number > 1 ? number / 100 : number;
        return progress is >= 0 and <= 1;
    }

    [GeneratedRegex(@"^(?<n>\d{1,3}([.,]\d{1,6})?)\s*(?<percent>%)?$", RegexOptions.ExplicitCapture)]
    private static partial Regex Number();
}
