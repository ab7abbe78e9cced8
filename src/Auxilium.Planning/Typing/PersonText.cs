using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Typing;

/// <summary>Finds people as they are typed.</summary>
public static class PersonText
{
    public const int MostInitials = 16;

    public const int LongestMail = 200;

    /// <summary>
    /// By id, name, initials or first name, of which the last two must be one person's only; <c>null</c> for nobody known.
    /// </summary>
    public static Person? Find(IReadOnlyList<Person> people, string typed) =>
        people.FirstOrDefault(p => p.Id == typed)
        ?? people.FirstOrDefault(p => Same(p.Name, typed))
        ?? Only([.. people.Where(p => Same(p.Initials, typed))])
        ?? Only([.. people.Where(p => Same(p.Name.Split(' ')[0], typed))]);

    /// <summary>
    /// Who has nearly this name: one letter other, missing or too many in a short name, two in a longer one; <c>null</c> for nobody, or
    /// several.
    /// </summary>
    public static Person? Nearest(IEnumerable<Person> people, string typed)
    {
        var most = typed.Length < 5 ? 1 : 2;
        return Only([
            .. people
                .DistinctBy(p => p.Id)
                .Where(p =>
                    Distance(p.Name, typed) <= most
                    || (
                        !typed.Contains(' ', StringComparison.Ordinal)
                        && Distance(p.Name.Split(' ')[0], typed) <= (typed.Length < 4 ? 0 : 1)
                    )
                ),
        ]);
    }

    /// <summary>Whether two texts are one name, also where one has the family name first: “Berg, Ole” is Ole Berg.</summary>
    public static bool IsSameName(string a, string b) => Same(InOrder(a), InOrder(b));

    private static string InOrder(string name)
    {
        var parts = name.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        var words = (parts.Length == 2 ? $"{parts[1]} {parts[0]}" : name).Split(
            ' ',
            StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries
        );
        return string.Join(' ', words);
    }

    /// <summary>What is wrong with somebody's initials or mail address; <c>null</c> when nothing is.</summary>
    public static string? WhyNot(Person person)
    {
        if (person.Initials.Length is 0 or > MostInitials || person.Initials.Any(c => char.IsControl(c) || char.IsWhiteSpace(c)))
            return $"Initials are 1 to {MostInitials} characters without spaces.";
        return person.Email is { } mail && !IsMail(mail)
            ? $"“{LengthText.Shorten(mail)}” is no mail address: give one such as name@example.org."
            : null;
    }

    /// <summary>Whether a text is one mail address, and nothing else: what is told to a mail server must have no second line.</summary>
    public static bool IsMail(string text)
    {
        if (
            text.Length > LongestMail
            || text.Any(c => c <= ' ' || c == 127 || char.IsControl(c) || "<>\"(),;:\\[]".Contains(c, StringComparison.Ordinal))
        )
            return false;
        var at = text.IndexOf('@', StringComparison.Ordinal);
        return at > 0
            && text.IndexOf('@', at + 1) < 0
            && text.IndexOf('.', at) > at + 1
            && !text.EndsWith('.')
            && !text.Contains("..", StringComparison.Ordinal);
    }

    /// <summary>How many letters are other, missing, too many or changed places; case does not count.</summary>
    private static int Distance(string a, string b)
    {
        if (Math.Abs(a.Length - b.Length) > 2)
            return int.MaxValue;
        var rows = new int[a.Length + 1, b.Length + 1];
        for (var i = 0; i <= a.Length; i++)
            rows[i, 0] = i;
        for (var j = 0; j <= b.Length; j++)
            rows[0, j] = j;
        for (var i = 1; i <= a.Length; i++)
        for (var j = 1; j <= b.Length; j++)
        {
            rows[i, j] = Math.Min(
                Math.Min(rows[i - 1, j], rows[i, j - 1]) + 1,
                rows[i - 1, j - 1] + (SameLetter(a[i - 1], b[j - 1]) ? 0 : 1)
            );
            if (i > 1 && j > 1 && SameLetter(a[i - 1], b[j - 2]) && SameLetter(a[i - 2], b[j - 1]))
                rows[i, j] = Math.Min(rows[i, j], rows[i - 2, j - 2] + 1);
        }
        return rows[a.Length, b.Length];
    }

    private static bool SameLetter(char a, char b) => char.ToUpperInvariant(a) == char.ToUpperInvariant(b);

    private static Person? Only(IReadOnlyList<Person> people) => people.Count == 1 ? people[0] : null;

    private static bool Same(string a, string b) => string.Equals(a, b, StringComparison.OrdinalIgnoreCase);
}
