using System.Globalization;
using System.Text.RegularExpressions;

namespace Auxilium.Planning.Plans;

/// <summary>What ids may be, and the initials that a name gives.</summary>
public static partial class PlanIds
{
    /// <summary>1 to 64 letters, digits, <c>-</c> or <c>_</c>.</summary>
    public static bool IsId(string? id) => id is not null && Id().IsMatch(id);

    /// <summary>One that no other row has.</summary>
    public static string New() => "t" + Guid.NewGuid().ToString("N")[..16];

    /// <summary>The first letters of the first and the last word.</summary>
    public static string InitialsOf(string name)
    {
        var words = name.Split([' ', '-'], StringSplitOptions.RemoveEmptyEntries).Where(w => w.Any(char.IsLetterOrDigit)).ToArray();
        var firsts = (words.Length > 1 ? new[] { words[0], words[^1] } : words).Select(w =>
            StringInfo.GetNextTextElement(w.TrimStart('"', '\'', '('))
        );
        return string.Concat(firsts).ToUpperInvariant();
    }

    [GeneratedRegex("^[A-Za-z0-9_-]{1,64}$")]
    private static partial Regex Id();

    /// <summary>A readable id for a person, that nobody has.</summary>
    public static string FreeId(string name, IReadOnlySet<string> taken)
    {
        var letters = name.ToLowerInvariant().Where(c => char.IsAsciiLetterOrDigit(c) || c == ' ').Select(c => c == ' ' ? '-' : c);
        var stem = string.Concat(letters).Trim('-');
        stem = stem.Length == 0 ? "person" : stem[..Math.Min(stem.Length, 40)];
        return Enumerable.Range(1, int.MaxValue).Select(n => n == 1 ? stem : $"{stem}-{n}").First(id => !taken.Contains(id));
    }
}
