using System.Collections.Immutable;
using Auxilium.Planning.Facts;

namespace Auxilium.Planning.OwnFields;

/// <summary>What a field that people made holds.</summary>
public enum OwnKind
{
    /// <summary>A line of text.</summary>
    Text,

    /// <summary>A number.</summary>
    Number,

    /// <summary>A number of something, such as kg or seats.</summary>
    Amount,

    /// <summary>A day.</summary>
    Date,

    YesNo,

    /// <summary>One of some words.</summary>
    Choice,
}

/// <summary>A word to choose.</summary>
/// <param name="Id">What is kept where it is chosen: it stays when the word is changed.</param>
/// <param name="Colour">One of those that rows can have; <c>null</c> for none.</param>
public sealed record OwnChoice(string Id, string Name, string? Colour = null);

/// <summary>A fact of tasks, or of the project itself, that people added.</summary>
/// <param name="Id">It never changes.</param>
/// <param name="Name">What people call it: the title of its column.</param>
/// <param name="Unit">Of an amount: what it counts.</param>
/// <param name="Shared">Whether all projects of the organisation have it.</param>
/// <param name="Retired">Whether it is no longer shown; its values are kept.</param>
/// <param name="OfProject">Whether it is one of the project itself, and not of its tasks.</param>
public sealed record OwnField(
    string Id,
    string Name,
    OwnKind Kind,
    string? Unit = null,
    bool Shared = false,
    bool Retired = false,
    bool OfProject = false
) : IEquatable<OwnField>
{
    /// <summary>A project has at most this many, retired ones included.</summary>
    public const int Most = 40;

    public const int LongestName = 40;
    public const int LongestUnit = 20;
    public const int MostChoices = 50;

    private const int LongestId = 40;

    /// <summary>Of a choice: the words, in their order.</summary>
    public ImmutableArray<OwnChoice> Choices { get; init; } = [];

    /// <summary>Of a field of the project itself: what the project has in it, as it is kept; <c>null</c> for nothing.</summary>
    public string? Value { get; init; }

    public bool Equals(OwnField? other) =>
        other is not null
        && (Id, Name, Kind, Unit, Shared, Retired) == (other.Id, other.Name, other.Kind, other.Unit, other.Shared, other.Retired)
        && (OfProject, Value) == (other.OfProject, other.Value)
        && Choices.SequenceEqual(other.Choices);

    public override int GetHashCode() => HashCode.Combine(Id, Name, Kind, Unit, Shared, Retired, Choices.Length);

    /// <summary>The same without what does not matter, such as blanks around its name.</summary>
    public OwnField Tidy() =>
        this with
        {
            Name = (Name ?? "").Trim(),
            Value = OfProject && !string.IsNullOrWhiteSpace(Value) ? Value.Trim() : null,
            Unit = Kind == OwnKind.Amount && Unit?.Trim() is { Length: > 0 } unit ? unit : null,
            Choices =
                Kind == OwnKind.Choice && !Choices.IsDefault ? [.. Choices.Select(c => c with { Name = (c.Name ?? "").Trim() })] : [],
        };

    /// <summary>The sentence that says what is wrong with it; <c>null</c> when nothing is.</summary>
    public string? WhyRefused() =>
        !IsId(Id) ? "The id of a field is made of letters, figures, - and _, 40 at most."
        : Name.Length is 0 or > LongestName ? $"The name of a field has from 1 to {LongestName} characters."
        : Name.Any(char.IsControl) ? "The name of a field is one line of text."
        : Unit?.Length > LongestUnit || Unit?.Any(char.IsControl) == true
            ? $"A unit is a word of at most {LongestUnit} characters, such as kg."
        : Kind == OwnKind.Choice && Choices.Length is 0 or > MostChoices
            ? $"“{Name}” needs from 1 to {MostChoices} choices: write one a line."
        : Choices.FirstOrDefault(c => !IsId(c.Id) || c.Name.Length is 0 or > LongestName || c.Name.Any(char.IsControl)) is not null
            ? $"A choice of “{Name}” has from 1 to {LongestName} characters."
        : Choices.Select(c => PlainFacts.Colour.WhyRefused(c.Colour)).FirstOrDefault(why => why is not null) is { } why ? why
        : Choices.DistinctBy(c => c.Name, StringComparer.OrdinalIgnoreCase).Count() < Choices.Length
        || Choices.DistinctBy(c => c.Id).Count() < Choices.Length
            ? $"“{Name}” has the same choice twice: leave one out."
        : null;

    /// <summary>An id that none of some has, made of a name.</summary>
    public static string IdFor(string name, IReadOnlySet<string> taken)
    {
        var letters = new string([.. name.Where(char.IsAsciiLetterOrDigit).Take(24)]);
        var id = letters.Length == 0 ? "field" : char.ToLowerInvariant(letters[0]) + letters[1..];
        for (var i = 2; taken.Contains(id); i++)
            id = $"{(letters.Length == 0 ? "field" : char.ToLowerInvariant(letters[0]) + letters[1..])}-{i}";
        return id;
    }

    private static bool IsId(string? id) =>
        id is { Length: > 0 and <= LongestId } && id.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_');
}
