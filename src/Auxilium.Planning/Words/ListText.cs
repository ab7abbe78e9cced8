namespace Auxilium.Planning.Words;

/// <summary>Several things in one sentence.</summary>
public static class ListText
{
    /// <summary>"name", "name and team", "name, role and team".</summary>
    /// <param name="names">One at least.</param>
    public static string Listed(IReadOnlyList<string> names) =>
        names.Count == 1 ? names[0] : $"{string.Join(", ", names.Take(names.Count - 1))} and {names[^1]}";
}
