namespace Auxilium.Planning.Load;

/// <summary>How much of their working time somebody gives, from a day to a day.</summary>
/// <param name="Share">0 to 1.</param>
/// <param name="From">The first day; <c>null</c> for as long as there has been.</param>
/// <param name="To">The last day; <c>null</c> for ever.</param>
public readonly record struct Availability(decimal Share, DateOnly? From = null, DateOnly? To = null)
{
    /// <summary>Somebody has at most so many stretches.</summary>
    public const int Most = 100;

    public bool IsOn(DateOnly day) => !(day < From) && !(day > To);

    /// <summary>The sentence that says what is wrong with it; <c>null</c> when nothing is.</summary>
    public string? WhyRefused() =>
        Share is < 0 or > 1 ? "Availability is 0% to 100% of somebody’s working time."
        : To < From ? "This stretch ends before it begins: give a later last day."
        : null;
}
