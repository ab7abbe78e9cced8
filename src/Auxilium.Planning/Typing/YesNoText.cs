using System.Diagnostics.CodeAnalysis;

namespace Auxilium.Planning.Typing;

/// <summary>Reads yes and no as people write them, also as ticks in a list.</summary>
public static class YesNoText
{
    private static readonly string[] Yes = ["yes", "y", "true", "x", "✓", "✔", "☑", "1"];
    private static readonly string[] No = ["no", "n", "false", "-", "–", "☐", "0", ""];

    /// <param name="problem">The sentence that says what is wrong with the text.</param>
    /// <returns>Whether it says one of them; an empty text says no.</returns>
    public static bool TryParse(string text, out bool isYes, [NotNullWhen(false)] out string? problem)
    {
        var word = text.Trim().ToLowerInvariant();
        isYes = Yes.Contains(word);
        problem = isYes || No.Contains(word) ? null : $"“{LengthText.Shorten(text)}” is neither yes nor no: write one of them.";
        return problem is null;
    }
}
