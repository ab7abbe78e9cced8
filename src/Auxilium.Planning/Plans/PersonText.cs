namespace Auxilium.Planning.Plans;

/// <summary>Finds people as they are typed.</summary>
public static class PersonText
{
    /// <summary>By id, name, initials or first name, of which the last two must be one person's only; <c>null</c> for nobody known.</summary>
    public static Person? Find(IReadOnlyList<Person> people, string typed) =>
        people.FirstOrDefault(p => p.Id == typed)
        ?? people.FirstOrDefault(p => Same(p.Name, typed))
        ?? Only([.. people.Where(p => Same(p.Initials, typed))])
        ?? Only([.. people.Where(p => Same(p.Name.Split(' ')[0], typed))]);

    private static Person? Only(IReadOnlyList<Person> people) => people.Count == 1 ? people[0] : null;

    private static bool Same(string a, string b) => string.Equals(a, b, StringComparison.OrdinalIgnoreCase);
}
