namespace Auxilium.Planning.Money;

/// <summary>What somebody's work costs from a day on, in the organisation's currency (rule M1).</summary>
/// <param name="From">The first day it applies; <c>null</c> for always.</param>
/// <param name="Hour">For an hour.</param>
/// <param name="Overtime">For an hour beyond the time they have on a day; <c>null</c> for the same.</param>
/// <param name="PerUse">Once for each task they work on.</param>
public readonly record struct Rate(DateOnly? From, decimal Hour, decimal? Overtime = null, decimal PerUse = 0)
{
    /// <summary>A person has at most so many.</summary>
    public const int Most = 100;

    /// <summary>The sentence that says what is wrong with it; <c>null</c> when nothing is.</summary>
    public string? WhyRefused() =>
        Amounts.WhyRefused(Hour) ?? (Overtime is { } overtime ? Amounts.WhyRefused(overtime) : null) ?? Amounts.WhyRefused(PerUse);
}

/// <summary>Somebody's rates, each valid from a day until the next begins.</summary>
public sealed class Rates
{
    private readonly List<Rate> _rates;

    /// <param name="rates">In any order; of two that begin on a day the later in the list counts.</param>
    public Rates(IEnumerable<Rate> rates) => _rates = [.. rates.OrderBy(rate => rate.From ?? DateOnly.MinValue)];

    public static Rates None { get; } = new([]);

    /// <summary>Whether it is the same on all days.</summary>
    public bool IsSteady => _rates.Count == 0 || (_rates.Count == 1 && _rates[0].From is null);

    public bool IsEmpty => _rates.Count == 0;

    /// <summary>Whether it is the same on all days from one to another.</summary>
    public bool IsSteadyIn(DateOnly from, DateOnly to)
    {
        foreach (var rate in _rates)
            if (rate.From > from && rate.From <= to)
                return false;
        return true;
    }

    /// <summary>That of a day; nothing before the first begins.</summary>
    public Rate On(DateOnly day)
    {
        for (var at = _rates.Count - 1; at >= 0; at--)
            if ((_rates[at].From ?? DateOnly.MinValue) <= day)
                return _rates[at];
        return default;
    }
}
