using System.Collections.Immutable;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;

namespace Auxilium.Planning.Money;

/// <summary>
/// A change to the money of a plan. It is kept apart from changes to the plan, behind the right to money (rule M7), and taken back like
/// those. A new kind is a record here and a line in <see cref="Kinds"/>.
/// </summary>
public abstract record MoneyEdit
{
    /// <summary>Every kind, by its name in JSON and in what is kept.</summary>
    public static ImmutableArray<(string Wire, Type Type)> Kinds { get; } =
    [
        ("setItem", typeof(SetItem)),
        ("removeItem", typeof(RemoveItem)),
        ("setBudget", typeof(SetBudget)),
        ("setActuals", typeof(SetActuals)),
        ("setCouldTake", typeof(SetCouldTake)),
        ("together", typeof(MoneyTogether)),
    ];

    /// <summary>What it is about: two changes of the same meet each other.</summary>
    public abstract IEnumerable<string> Touches { get; }

    /// <summary>Row that its refusal belongs to; <c>null</c> for the project.</summary>
    public virtual string? Row => null;

    /// <exception cref="EditRefusedException">It makes no sense on this plan.</exception>
    public abstract (Ledger After, MoneyEdit Inverse) Apply(Ledger ledger, Plan plan);

    /// <summary>Says what it changed, in one sentence.</summary>
    public abstract string Say(Ledger before, Plan plan, MoneyText text);

    protected static EditRefusedException Refuse(string? task, string why, string code = "money") => new(code, why, task);

    protected static string Called(Plan plan, string task) =>
        plan.Find(task) is { } row ? $"“{LengthText.Shorten(row.Name)}”" : "a row that is gone";
}

/// <summary>Adds an item to a row, or replaces the one that has its id.</summary>
/// <param name="Position">Where among the items of the row, from 0; where it was, or at the end, when left out.</param>
public sealed record SetItem(string Task, CostItem Item, int? Position = null) : MoneyEdit
{
    public override IEnumerable<string> Touches => [$"item {Item.Id}"];

    public override string? Row => Task;

    public override (Ledger, MoneyEdit) Apply(Ledger ledger, Plan plan)
    {
        if (!PlanIds.IsId(Item.Id))
            throw Refuse(Task, "The id of an item is 1 to 64 letters, digits, “-” or “_”.");
        if (Item.WhyRefused() is { } why)
            throw Refuse(Task, why);
        var items = ledger.ItemsOf(Task);
        var at = Find(items, Item.Id);
        if (at < 0 && plan.Find(Task) is null)
            throw Refuse(Task, "This row is no longer in the plan: somebody has removed it.", "taskGone");
        if (at < 0 && ledger.Items.Any(row => row.Key != Task && Find(row.Value, Item.Id) >= 0))
            throw Refuse(Task, "There is another item with this id: give this one its own.");
        if (at < 0 && items.Length >= CostItem.Most)
            throw Refuse(Task, $"A row has at most {CostItem.Most} items: add some of them together.");
        var after = at < 0 ? items.Insert(Math.Clamp(Position ?? items.Length, 0, items.Length), Item) : items.SetItem(at, Item);
        MoneyEdit inverse = at < 0 ? new RemoveItem(Task, Item.Id) : new SetItem(Task, items[at]);
        return (ledger with { Items = ledger.Items.SetItem(Task, after) }, inverse);
    }

    public override string Say(Ledger before, Plan plan, MoneyText text)
    {
        var items = before.ItemsOf(Task);
        var (name, where) = (LengthText.Shorten(Item.Name), Called(plan, Task));
        if (Find(items, Item.Id) is not (>= 0 and var at))
            return $"“{name}” added to {where}{(Item.Price is null ? ", without a price yet" : "")}.";
        var (was, paid) = (items[at], Item.Payments.Sum(p => p.Amount) - items[at].Payments.Sum(p => p.Amount));
        return paid != 0 && was with { Payments = Item.Payments } == Item
            ? $"{text.Of(Math.Abs(paid))} {(paid > 0 ? "paid for" : "less paid for")} “{name}” of {where}."
            : $"“{name}” of {where} changed.";
    }

    internal static int Find(ImmutableArray<CostItem> items, string id)
    {
        for (var at = 0; at < items.Length; at++)
            if (items[at].Id == id)
                return at;
        return -1;
    }
}

/// <summary>Removes an item, with the payments that were entered for it.</summary>
public sealed record RemoveItem(string Task, string Item) : MoneyEdit
{
    public override IEnumerable<string> Touches => [$"item {Item}"];

    public override string? Row => Task;

    public override (Ledger, MoneyEdit) Apply(Ledger ledger, Plan plan)
    {
        var items = ledger.ItemsOf(Task);
        var at = SetItem.Find(items, Item);
        if (at < 0)
            throw Refuse(Task, "This item is gone already: somebody has removed it.", "itemGone");
        var after = items.RemoveAt(at);
        var all = after.IsEmpty ? ledger.Items.Remove(Task) : ledger.Items.SetItem(Task, after);
        return (ledger with { Items = all }, new SetItem(Task, items[at], at));
    }

    public override string Say(Ledger before, Plan plan, MoneyText text)
    {
        var item = before.ItemsOf(Task).FirstOrDefault(i => i.Id == Item);
        return $"“{LengthText.Shorten(item?.Name ?? Item)}” removed from {Called(plan, Task)}.";
    }
}

/// <summary>What the project, or a row of it, may cost.</summary>
/// <param name="Task">The row; <c>null</c> for the project.</param>
/// <param name="Amount"><c>null</c> where nobody says.</param>
public sealed record SetBudget(string? Task, decimal? Amount) : MoneyEdit
{
    public override IEnumerable<string> Touches => [$"budget {Task}"];

    public override string? Row => Task;

    public override (Ledger, MoneyEdit) Apply(Ledger ledger, Plan plan)
    {
        if (Amount is { } amount && Amounts.WhyRefused(amount) is { } why)
            throw Refuse(Task, why);
        if (Task is null)
            return (ledger with { Budget = Amount }, new SetBudget(null, ledger.Budget));
        var inverse = new SetBudget(Task, ledger.Budgets.TryGetValue(Task, out var was) ? was : null);
        if (Amount is not { } budget)
            return (ledger with { Budgets = ledger.Budgets.Remove(Task) }, inverse);
        if (plan.Find(Task) is null)
            throw Refuse(Task, "This row is no longer in the plan: somebody has removed it.", "taskGone");
        return (ledger with { Budgets = ledger.Budgets.SetItem(Task, budget) }, inverse);
    }

    public override string Say(Ledger before, Plan plan, MoneyText text)
    {
        var whose = Task is null ? "The project" : Called(plan, Task);
        return Amount is { } budget ? $"{whose} may cost {text.Of(budget)}." : $"{whose} has no budget any more.";
    }
}

/// <summary>How short a task could be made, and at what cost.</summary>
/// <param name="CouldTake"><c>null</c> where nobody says.</param>
public sealed record SetCouldTake(string Task, CouldTake? CouldTake) : MoneyEdit
{
    public override IEnumerable<string> Touches => [$"couldTake {Task}"];

    public override string? Row => Task;

    public override (Ledger, MoneyEdit) Apply(Ledger ledger, Plan plan)
    {
        if (CouldTake?.WhyRefused() is { } why)
            throw Refuse(Task, why);
        var inverse = new SetCouldTake(Task, ledger.CouldTake.TryGetValue(Task, out var was) ? was : null);
        if (CouldTake is not { } now)
            return (ledger with { CouldTake = ledger.CouldTake.Remove(Task) }, inverse);
        if (plan.Find(Task) is null)
            throw Refuse(Task, "This row is no longer in the plan: somebody has removed it.", "taskGone");
        return (ledger with { CouldTake = ledger.CouldTake.SetItem(Task, now) }, inverse);
    }

    public override string Say(Ledger before, Plan plan, MoneyText text) =>
        CouldTake is { } could
            ? $"{Called(plan, Task)} could take {could.Length} for {text.Of(could.Cost)} more."
            : $"Nothing is said any more of how short {Called(plan, Task)} could be made.";
}

/// <summary>How it is known what was spent.</summary>
/// <param name="By"><c>null</c> for hours and payments as soon as there are any, and for progress before.</param>
public sealed record SetActuals(Actuals? By) : MoneyEdit
{
    public override IEnumerable<string> Touches => ["actuals"];

    public override (Ledger, MoneyEdit) Apply(Ledger ledger, Plan plan) => (ledger with { Actuals = By }, new SetActuals(ledger.Actuals));

    public override string Say(Ledger before, Plan plan, MoneyText text) =>
        By switch
        {
            Actuals.Entered => "What is spent goes by hours and payments.",
            Actuals.Progress => "What is spent goes by progress.",
            _ => "What is spent goes by hours and payments as soon as there are any.",
        };
}

/// <summary>Several changes as one.</summary>
public sealed record MoneyTogether(ImmutableArray<MoneyEdit> Edits) : MoneyEdit
{
    public const int Most = 5_000;

    public override IEnumerable<string> Touches => Edits.SelectMany(edit => edit.Touches);

    public override string? Row => Edits.Length == 0 ? null : Edits[0].Row;

    public override (Ledger, MoneyEdit) Apply(Ledger ledger, Plan plan)
    {
        if (Edits.IsDefaultOrEmpty)
            throw Refuse(null, "There is nothing to change.", "nothing");
        if (Edits.Length > Most || Edits.Any(edit => edit is MoneyTogether))
            throw Refuse(null, $"At most {Most:N0} changes can be made in one, and none of them is several itself.", "tooMuch");
        var inverses = new List<MoneyEdit>();
        foreach (var edit in Edits)
        {
            (ledger, var inverse) = edit.Apply(ledger, plan);
            inverses.Insert(0, inverse);
        }
        return (ledger, new MoneyTogether([.. inverses]));
    }

    public override string Say(Ledger before, Plan plan, MoneyText text) =>
        Edits.Length == 1 ? Edits[0].Say(before, plan, text)
        : Edits.All(edit => edit is SetItem) && Edits.Select(edit => edit.Row).Distinct().Count() == 1
            ? $"{Edits.Length} items set on {Called(plan, Edits[0].Row!)}."
        : $"{Edits.Length} changes to the money.";
}
