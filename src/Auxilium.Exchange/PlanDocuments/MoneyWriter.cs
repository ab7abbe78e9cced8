using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Writes money into a plan document, for those who may have it.</summary>
/// <param name="currency">That of the organisation, such as <c>EUR</c>.</param>
internal sealed class MoneyWriter(Ledger ledger, string? currency)
{
    public void OfProject(Utf8JsonWriter json)
    {
        json.WriteString("currency", currency);
        Write(json, "budget", ledger.Budget);
        json.WriteString("actuals", ledger.Actuals is { } actuals ? PlanDocumentNames.Camel(actuals.ToString()) : null);
    }

    public void OfPerson(Utf8JsonWriter json, string id)
    {
        if (!ledger.Rates.TryGetValue(id, out var rates))
            return;
        json.WriteStartArray("rates");
        foreach (var rate in rates)
        {
            json.WriteStartObject();
            json.WriteString("from", Day(rate.From));
            Write(json, "hour", rate.Hour);
            Write(json, "overtime", rate.Overtime);
            Write(json, "perUse", rate.PerUse);
            json.WriteEndObject();
        }
        json.WriteEndArray();
    }

    public void OfTask(Utf8JsonWriter json, string id)
    {
        if (ledger.Budgets.TryGetValue(id, out var budget))
            Write(json, "budget", budget);
        if (ledger.CouldTake.TryGetValue(id, out var could))
        {
            json.WriteStartObject("couldTake");
            json.WriteString("length", could.Length.ToString());
            Write(json, "cost", could.Cost);
            json.WriteEndObject();
        }
        if (ledger.ItemsOf(id) is not { IsEmpty: false } items)
            return;
        json.WriteStartArray("items");
        foreach (var item in items)
            Item(json, item);
        json.WriteEndArray();
    }

    public static void OfBaseline(Utf8JsonWriter json, PlannedCost cost)
    {
        Write(json, "costAtStart", cost.AtStart);
        Write(json, "costEvenly", cost.Evenly);
        Write(json, "costAtFinish", cost.AtFinish);
    }

    private static void Item(Utf8JsonWriter json, CostItem item)
    {
        json.WriteStartObject();
        json.WriteString("id", item.Id);
        json.WriteString("name", item.Name);
        json.WriteString("kind", PlanDocumentNames.Camel(item.Kind.ToString()));
        Write(json, "quantity", item.Quantity);
        json.WriteString("unit", item.Unit);
        Write(json, "price", item.Price);
        json.WriteString("per", PlanDocumentNames.Camel(item.Per.ToString()));
        Write(json, "perUse", item.PerUse);
        json.WriteString("accrues", PlanDocumentNames.Camel(item.Accrues.ToString()));
        json.WriteString("category", item.Category);
        json.WriteString("supplier", item.Supplier);
        json.WriteString("note", item.Note);
        json.WriteStartArray("payments");
        foreach (var (day, amount, receipt) in item.Payments)
        {
            json.WriteStartObject();
            json.WriteString("day", Day(day));
            Write(json, "amount", amount);
            if (receipt is not null)
                json.WriteString("receipt", receipt);
            json.WriteEndObject();
        }
        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, string name, decimal? amount)
    {
        if (amount is { } number)
            json.WriteNumber(name, PlanDocumentWriter.Plain(number));
        else
            json.WriteNull(name);
    }

    private static string? Day(DateOnly? day) => day?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
