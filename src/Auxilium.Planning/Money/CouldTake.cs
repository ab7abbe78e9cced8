using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Money;

/// <summary>How short a task could be made, and what more it would cost then.</summary>
public readonly record struct CouldTake(Length Length, decimal Cost)
{
    /// <summary>The sentence that says what is wrong with it; <c>null</c> when nothing is.</summary>
    public string? WhyRefused() => Length.Amount < 0 ? "A length is not below 0." : Amounts.WhyRefused(Cost);
}
