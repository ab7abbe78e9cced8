namespace Auxilium.Planning.Money;

/// <summary>What an edit did to what a project is expected to cost, and to what is free of its budget (rule M6).</summary>
public readonly record struct MoneyRipple(decimal ExpectedBefore, decimal ExpectedAfter, decimal? FreeBefore, decimal? FreeAfter)
{
    /// <summary>Less than this nobody sees.</summary>
    private const decimal Tiny = 0.005m;

    public static MoneyRipple Between(PlanMoney before, PlanMoney after) =>
        new(before.Whole.Expected, after.Whole.Expected, before.Free, after.Free);

    public bool IsChange => Math.Abs(ExpectedAfter - ExpectedBefore) >= Tiny || FreeBefore != FreeAfter;

    /// <summary>In a sentence or two, with what is free only where there is a budget; empty where nothing changed.</summary>
    public string Say(MoneyText text)
    {
        if (!IsChange)
            return "";
        var moved = ExpectedAfter - ExpectedBefore;
        var cost =
            Math.Abs(moved) < Tiny
                ? $"Expected cost stays {text.Of(ExpectedAfter)}."
                : $"Expected cost {text.Of(ExpectedAfter)}, {text.Of(Math.Abs(moved))} {(moved > 0 ? "more" : "less")}.";
        return FreeAfter switch
        {
            null => cost,
            < 0 and var over => $"{cost} Over budget by {text.Of(-over)}.",
            { } free => $"{cost} {text.Of(free)} of the budget free.",
        };
    }
}
