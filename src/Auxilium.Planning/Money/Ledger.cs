using System.Collections.Immutable;

namespace Auxilium.Planning.Money;

/// <summary>How it is known what was spent (rule M5). Kept by name.</summary>
public enum Actuals
{
    /// <summary>By the hours and payments that people entered.</summary>
    Entered,

    /// <summary>By how far the work is.</summary>
    Progress,
}

/// <summary>
/// The money of a plan. It lies beside the plan and not in it, so that whoever may see the plan does not have the money with it
/// (rule M7).
/// </summary>
public sealed record Ledger
{
    public static Ledger None { get; } = new();

    /// <summary>What the project may cost.</summary>
    public decimal? Budget { get; init; }

    /// <summary>How it is known what was spent; <c>null</c> to go by what was entered as soon as anything was.</summary>
    public Actuals? Actuals { get; init; }

    /// <summary>What single rows may cost, by their ids.</summary>
    public ImmutableDictionary<string, decimal> Budgets { get; init; } = ImmutableDictionary<string, decimal>.Empty;

    /// <summary>By the ids of tasks, how short they could be made.</summary>
    public ImmutableDictionary<string, CouldTake> CouldTake { get; init; } = ImmutableDictionary<string, CouldTake>.Empty;

    /// <summary>By the ids of rows, some of which may have left the plan.</summary>
    public ImmutableDictionary<string, ImmutableArray<CostItem>> Items { get; init; } =
        ImmutableDictionary<string, ImmutableArray<CostItem>>.Empty;

    /// <summary>By the ids of people.</summary>
    public ImmutableDictionary<string, ImmutableArray<Rate>> Rates { get; init; } =
        ImmutableDictionary<string, ImmutableArray<Rate>>.Empty;

    /// <summary>Those whose hours cost nothing and are valued apart (rule M2).</summary>
    public ImmutableHashSet<string> Volunteers { get; init; } = [];

    /// <summary>What an hour of a volunteer is worth; <c>null</c> where that is not told.</summary>
    public decimal? VolunteerHour { get; init; }

    public bool IsEmpty => Budget is null && Budgets.IsEmpty && Items.IsEmpty && Rates.IsEmpty;

    public ImmutableArray<CostItem> ItemsOf(string task) => Book.Items.TryGetValue(task, out var items) ? items : [];

    /// <summary>The same with every day so many days later.</summary>
    public Ledger Later(int days) =>
        this with
        {
            Items = Items.ToImmutableDictionary(
                row => row.Key,
                row =>
                    row.Value.Select(item => item with { Payments = [.. item.Payments.Select(p => p with { Day = p.Day.AddDays(days) })] })
                        .ToImmutableArray()
            ),
            Rates = Rates.ToImmutableDictionary(
                person => person.Key,
                person => person.Value.Select(rate => rate with { From = rate.From?.AddDays(days) }).ToImmutableArray()
            ),
        };

    /// <summary>As another project begins with it: what is planned, without what was paid and what people cost.</summary>
    public Ledger Anew() =>
        None with
        {
            Budget = Budget,
            Budgets = Budgets,
            CouldTake = CouldTake,
            Items = Items.ToImmutableDictionary(
                row => row.Key,
                row => row.Value.Select(item => item with { Payments = [] }).ToImmutableArray()
            ),
        };

    public bool HasPayments => Book.HasPayments;

    /// <summary>The items again, for who asks for all of them: an immutable dictionary takes ten times as long to find one.</summary>
    private ItemBook Book => _book is { } known && ReferenceEquals(known.Of, Items) ? known : _book = new ItemBook(Items);

    /// <summary>A copy of a ledger has it too, and makes another once its items differ.</summary>
    private ItemBook? _book;

    private sealed class ItemBook(ImmutableDictionary<string, ImmutableArray<CostItem>> of)
    {
        public ImmutableDictionary<string, ImmutableArray<CostItem>> Of => of;

        public Dictionary<string, ImmutableArray<CostItem>> Items { get; } = new(of);

        public bool HasPayments { get; } = of.Values.Any(items => items.Any(item => !item.Payments.IsEmpty));
    }
}
