using System.Collections.Immutable;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Gathers the money of a plan document from its project, people and tasks.</summary>
internal sealed class MoneyReader
{
    private static readonly string[] Kinds = NamesOf<ItemKind>();
    private static readonly string[] Pers = NamesOf<PricePer>();
    private static readonly string[] Accruals = NamesOf<Accrual>();
    private static readonly string[] Ways = NamesOf<Actuals>();

    private readonly ImmutableDictionary<string, decimal>.Builder _budgets = ImmutableDictionary.CreateBuilder<string, decimal>();
    private readonly ImmutableDictionary<string, CouldTake>.Builder _could = ImmutableDictionary.CreateBuilder<string, CouldTake>();
    private readonly ImmutableDictionary<string, ImmutableArray<CostItem>>.Builder _items = ImmutableDictionary.CreateBuilder<
        string,
        ImmutableArray<CostItem>
    >();
    private readonly ImmutableDictionary<string, ImmutableArray<Rate>>.Builder _rates = ImmutableDictionary.CreateBuilder<
        string,
        ImmutableArray<Rate>
    >();
    private readonly HashSet<string> _ids = [];
    private (decimal? Budget, Actuals? Actuals) _project;

    public string? Currency { get; private set; }

    public Ledger Ledger =>
        new()
        {
            Budget = _project.Budget,
            Actuals = _project.Actuals,
            Budgets = _budgets.ToImmutable(),
            CouldTake = _could.ToImmutable(),
            Items = _items.ToImmutable(),
            Rates = _rates.ToImmutable(),
        };

    public void OfProject(JsonObjectReader at)
    {
        Currency = at.Text("currency", JsonObjectReader.LongestWord);
        if (Currency is { } currency && (currency.Length != 3 || !currency.All(char.IsAsciiLetterUpper)))
            at.Error("currency", "currency", "A currency is three capital letters, such as EUR.");
        _project = (Amount(at, "budget"), Named<Actuals>(at, "actuals", Ways));
    }

    public void OfPerson(JsonObjectReader person, string id)
    {
        var rates = ImmutableArray.CreateBuilder<Rate>();
        foreach (var at in person.Objects("rates", Rate.Most))
        {
            rates.Add(
                new Rate(
                    Day(at, "from"),
                    Amount(at, "hour") ?? 0,
                    at.Has("overtime") ? Amount(at, "overtime") : null,
                    Amount(at, "perUse") ?? 0
                )
            );
            at.Done();
        }
        if (rates.Count > 0)
            _rates[id] = rates.ToImmutable();
    }

    public void OfTask(JsonObjectReader task, string id, WorkUnits units)
    {
        if (Amount(task, "budget") is { } budget)
            _budgets[id] = budget;
        if (task.Object("couldTake") is { } could)
        {
            if (could.Length("length", units) is { } length)
                _could[id] = new CouldTake(length, Amount(could, "cost") ?? 0);
            else if (!could.Has("length"))
                could.Error("length", "required", "How short it could be made is missing: give a length like 3d.");
            could.Done();
        }
        var items = ImmutableArray.CreateBuilder<CostItem>();
        foreach (var at in task.Objects("items", CostItem.Most))
            items.Add(Item(at));
        if (items.Count > 0)
            _items[id] = items.ToImmutable();
    }

    private CostItem Item(JsonObjectReader at)
    {
        var id = PlanDocumentReader.ReadId(at, "id");
        if (id.Length > 0 && !_ids.Add(id))
            at.Error("id", "duplicateId", $"There are two items with the id “{id}”.");
        var quantity = at.Number("quantity") ?? 1;
        var item = new CostItem(id, at.RequiredText("name", CostItem.LongestText).Trim())
        {
            Kind = Named<ItemKind>(at, "kind", Kinds) ?? ItemKind.Fixed,
            Quantity = quantity,
            Unit = at.Text("unit", CostItem.LongestText) ?? "",
            Price = at.Has("price") ? Amount(at, "price") : null,
            Per = Named<PricePer>(at, "per", Pers) ?? PricePer.Unit,
            PerUse = Amount(at, "perUse") ?? 0,
            Accrues = Named<Accrual>(at, "accrues", Accruals) ?? Accrual.Start,
            Category = at.Text("category", CostItem.LongestText) ?? "",
            Supplier = at.Text("supplier", CostItem.LongestText) ?? "",
            Note = at.Text("note", CostItem.LongestNote) ?? "",
            Payments = Payments(at),
        };
        if (item.Name.Length > 0 && item.WhyRefused() is { } why)
            at.Error("name", "item", why);
        at.Done();
        return item;
    }

    private static ImmutableArray<Payment> Payments(JsonObjectReader item)
    {
        var payments = ImmutableArray.CreateBuilder<Payment>();
        foreach (var at in item.Objects("payments", CostItem.MostPayments))
        {
            if (!at.Has("day"))
                at.Error("day", "missing", "“day” is missing: give the day of the payment.");
            if (!at.Has("amount"))
                at.Error("amount", "missing", "“amount” is missing here.");
            payments.Add(new Payment(Day(at, "day") ?? default, at.Number("amount") ?? 0, at.Text("receipt", CostItem.LongestText)));
            at.Done();
        }
        return payments.ToImmutable();
    }

    private static decimal? Amount(JsonObjectReader at, string field)
    {
        if (at.Number(field) is not { } amount)
            return null;
        if (Amounts.WhyRefused(amount) is { } why)
            at.Error(field, "amount", why);
        return amount;
    }

    private static DateOnly? Day(JsonObjectReader at, string field)
    {
        if (at.Date(field) is not { } day)
            return null;
        if (day.Minute is not null)
            at.Error(field, "date", "This is a day, without a time: write it like 2027-05-03.");
        return day.Date;
    }

    private static T? Named<T>(JsonObjectReader at, string field, string[] names)
        where T : struct, Enum
    {
        if (at.Text(field, JsonObjectReader.LongestWord) is not { } text)
            return null;
        if (Array.IndexOf(names, text) is var found and >= 0)
            return Enum.GetValues<T>()[found];
        at.Error(field, "value", $"“{text}” is not possible here: give {string.Join(" or ", names.Select(name => $"“{name}”"))}.");
        return null;
    }

    private static string[] NamesOf<T>()
        where T : struct, Enum => [.. Enum.GetNames<T>().Select(PlanDocumentNames.Camel)];
}
