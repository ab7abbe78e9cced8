namespace Auxilium.Planning.Plans;

/// <summary>A small step of a task, to be ticked off.</summary>
public readonly record struct ChecklistStep(string Text, bool Done = false);

/// <summary>A page or an address that belongs to a task.</summary>
/// <param name="Address">A web address (<c>http</c>, <c>https</c>) or a <c>mailto</c> one.</param>
/// <param name="Title">What it is called; empty for the address itself.</param>
public readonly record struct Reference(string Address, string Title = "");

/// <summary>What a task can be marked with; none of it moves a date.</summary>
public static class TaskMarks
{
    /// <summary>A checklist has at most this many steps.</summary>
    public const int MostSteps = 100;

    /// <summary>A task has at most this many references.</summary>
    public const int MostReferences = 50;

    /// <summary>A step, and the title of a reference, is at most this many characters.</summary>
    public const int LongestStep = 200;

    /// <summary>An address is at most this many characters.</summary>
    public const int LongestAddress = 2_000;

    /// <summary>The sentence that says what is wrong with a step; <c>null</c> when nothing is.</summary>
    public static string? WhyRefused(ChecklistStep step) =>
        string.IsNullOrWhiteSpace(step.Text) ? "A step needs a text: type what there is to do."
        : step.Text.Length > LongestStep ? $"A step has at most {LongestStep} characters: shorten it, or make it a task of its own."
        : step.Text.Any(char.IsControl) ? "A step is one line of text: leave out line breaks and control characters."
        : null;

    /// <summary>The sentence that says what is wrong with a reference; <c>null</c> when nothing is.</summary>
    public static string? WhyRefused(Reference reference)
    {
        if (reference.Address.Length > LongestAddress)
            return $"An address has at most {LongestAddress:N0} characters.";
        if (reference.Title.Length > LongestStep || reference.Title.Any(char.IsControl))
            return $"What a link is called is one line of at most {LongestStep} characters.";
        var known =
            Uri.TryCreate(reference.Address, UriKind.Absolute, out var uri)
            && uri.Scheme is "http" or "https" or "mailto"
            && !reference.Address.Any(char.IsControl);
        return known && (uri!.Scheme == "mailto" || uri.Host.Length > 0)
            ? null
            : "This is not an address: give one that begins with https://, http:// or mailto:.";
    }
}
