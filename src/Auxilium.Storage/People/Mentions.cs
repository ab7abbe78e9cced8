using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;

namespace Auxilium.Storage.People;

/// <summary>
/// Finds whom a text mentions: <c>@</c> before a name, a first name that one person has, or initials that one person has.
/// </summary>
public static class Mentions
{
    /// <returns>Ids, each once.</returns>
    public static IReadOnlyList<string> In(string text, IReadOnlyList<Person> people)
    {
        var found = new List<string>();
        for (var at = text.IndexOf('@', StringComparison.Ordinal); at >= 0; at = text.IndexOf('@', at + 1))
        {
            // A mail address mentions nobody.
            if (at > 0 && char.IsLetterOrDigit(text[at - 1]))
                continue;
            if (Named(text.AsSpan(at + 1), people) is { } person && !found.Contains(person))
                found.Add(person);
        }
        return found;
    }

    private static string? Named(ReadOnlySpan<char> text, IReadOnlyList<Person> people)
    {
        foreach (var person in people.OrderByDescending(p => p.Name.Length))
            if (Begins(text, person.Name))
                return person.Id;
        var end = 0;
        while (end < text.Length && (char.IsLetterOrDigit(text[end]) || text[end] == '-'))
            end++;
        return end == 0 ? null : PersonText.Find(people, text[..end].ToString())?.Id;
    }

    private static bool Begins(ReadOnlySpan<char> text, string name) =>
        text.StartsWith(name, StringComparison.OrdinalIgnoreCase)
        && (text.Length == name.Length || !char.IsLetterOrDigit(text[name.Length]));
}
