namespace Auxilium.Planning.Money;

/// <summary>Amounts of money: decimal, and exact until they are shown.</summary>
public static class Amounts
{
    /// <summary>No price, rate or payment is above this.</summary>
    public const decimal Most = 1_000_000_000;

    /// <summary>What is typed has at most so many decimals.</summary>
    public const int Decimals = 4;

    /// <summary>The sentence that says why an amount cannot be; <c>null</c> when it can.</summary>
    public static string? WhyRefused(decimal amount) =>
        amount is < 0 or > Most ? $"An amount is from 0 to {Most:N0}."
        : amount.DecimalsUsed() > Decimals ? $"An amount has at most {Decimals} decimals."
        : null;

    internal static int DecimalsUsed(this decimal number) => (number / 1.0000000000000000000000000000m).Scale;

    /// <summary>A sum. Most of what is added up is nothing, and to see that is faster than to add it.</summary>
    internal static decimal Plus(this decimal amount, decimal other) =>
        other == 0 ? amount
        : amount == 0 ? other
        : amount + other;

    /// <summary>
    /// What minutes cost at a rate for an hour. Most come to whole hours, and to count those is faster than to divide what they cost.
    /// </summary>
    internal static decimal Minutes(this decimal minutes, decimal hour)
    {
        var whole = (long)minutes;
        return whole == minutes && whole % 60 == 0 ? whole / 60 * hour : minutes * hour / 60;
    }

    /// <summary>A part of an amount. The whole part is the whole amount, to the last decimal.</summary>
    internal static decimal Times(this decimal amount, (long Some, long Of) part) =>
        part.Some == part.Of ? amount : amount * part.Some / part.Of;
}
