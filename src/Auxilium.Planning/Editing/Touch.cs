namespace Auxilium.Planning.Editing;

/// <summary>One thing an edit changed: a field of a task, or (without a task) of the project.</summary>
public readonly record struct Touch(string? Task, EditField Field)
{
    /// <summary>The whole row: it came or went.</summary>
    public static Touch Row(string task) => new(task, EditField.None);

    /// <summary>Whether two edits that touched these could have overwritten one another.</summary>
    public bool Meets(Touch other) =>
        Task == other.Task && (Field == other.Field || (Task is not null && (Field == EditField.None || other.Field == EditField.None)));

    public override string ToString() => $"{Task}/{Field}";

    /// <exception cref="FormatException">The text did not come from <see cref="ToString"/>.</exception>
    public static Touch Parse(string text)
    {
        var slash = text.LastIndexOf('/');
        return slash >= 0 && EditField.Find(text[(slash + 1)..]) is { } field
            ? new Touch(slash == 0 ? null : text[..slash], field)
            : throw new FormatException($"“{text}” names no field.");
    }
}
