namespace Auxilium.Planning.Money;

/// <summary>What costs are put together by.</summary>
public enum CostBy
{
    Category,
    Person,
    Supplier,
}

/// <summary>What belongs together of what a project costs.</summary>
/// <param name="Name">The category, the id of the person, or the supplier; empty for what has none.</param>
public sealed record CostGroup(string Name, CostSum Sum);

public static class CostGroups
{
    /// <summary>The dearest first. What was spent on rows that are gone is in none of them.</summary>
    public static IReadOnlyList<CostGroup> Of(PlanMoney money, CostBy by) =>
        [
            .. money
                .Lines.GroupBy(line => NameOf(line, by))
                .Select(group => new CostGroup(group.Key, group.Aggregate(default(CostSum), (sum, line) => sum.Plus(line))))
                .OrderByDescending(group => group.Sum.Expected)
                .ThenBy(group => group.Name, StringComparer.Ordinal),
        ];

    /// <summary>Labour is a category of its own; what is bought is of nobody, and what people do is from no supplier.</summary>
    private static string NameOf(CostLine line, CostBy by) =>
        by switch
        {
            CostBy.Category => line.Item?.Category ?? Labour,
            CostBy.Person => line.Person ?? "",
            _ => line.Item?.Supplier ?? "",
        };

    public const string Labour = "Labour";
}
