using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Exchange.Tests;

public class MoneyDocumentTests
{
    /// <summary>Its amounts occur nowhere else.</summary>
    private const string Regatta = """
        {
          "format": "auxilium-plan/1",
          "project": { "name": "Lantern Regatta", "start": "2027-05-03", "currency": "EUR", "budget": 4200.5, "actuals": "progress",
            "measure": "b1" },
          "people": [ { "id": "imke", "name": "Imke Varga",
            "rates": [ { "from": null, "hour": 28.25, "overtime": 35.75, "perUse": 3.125 }, { "from": "2027-06-01", "hour": 29.375 } ] } ],
          "tasks": [
            { "id": "p1", "name": "Lanterns", "budget": 777.77 },
            { "id": "t1", "name": "Fold", "parent": "p1", "length": "12h", "progress": 0.4, "actualStart": "2027-05-03",
              "couldTake": { "length": "7h", "cost": 66.123 },
              "assignments": [ { "person": "imke" } ],
              "items": [ { "id": "i1", "name": "Lantern paper", "kind": "material", "quantity": 40.5, "unit": "sheet", "price": 1.2525,
                "per": "unit", "perUse": 0.0625, "accrues": "start", "category": "Decoration", "supplier": null, "note": "",
                "payments": [ { "day": "2027-05-12", "amount": 50.03, "receipt": "R-7" } ] } ] } ],
          "hours": [ { "task": "t1", "person": "imke", "day": "2027-05-03", "minutes": 150 } ],
          "baselines": [ { "id": "b1", "name": "As agreed", "taken": "2027-05-01", "rows": [
            { "task": "t1", "start": "2027-05-03T09:00", "finish": "2027-05-04T14:00", "costAtStart": 51.5, "costEvenly": 336.25 } ] } ]
        }
        """;

    private static readonly string[] Secrets =
    [
        "4200.5",
        "28.25",
        "35.75",
        "3.125",
        "29.375",
        "777.77",
        "1.2525",
        "0.0625",
        "50.03",
        "51.5",
        "336.25",
        "66.123",
        "couldTake",
        "currency",
        "rates",
        "items",
        "budget",
        "cost",
        "price",
    ];

    private static PlanDocument Read(string text) => PlanDocumentReader.ReadWhole(Encoding.UTF8.GetBytes(text));

    [Theory]
    [InlineData("""{ "length": "soon", "cost": 3 }""", "$.tasks[1].couldTake.length")]
    [InlineData("""{ "cost": 3 }""", "$.tasks[1].couldTake.length")]
    [InlineData("""{ "length": "7h", "cost": -3 }""", "$.tasks[1].couldTake.cost")]
    [InlineData("""{ "length": "7h", "price": 3 }""", "$.tasks[1].couldTake.price")]
    public void How_short_a_task_could_be_made_is_checked_where_it_stands(string could, string path)
    {
        var document = Regatta.Replace("""{ "length": "7h", "cost": 66.123 }""", could, StringComparison.Ordinal);
        var unreadable = Assert.Throws<UnreadableDocumentException>(() => Read(document));
        Assert.Contains(path, unreadable.Errors.Select(error => error.Path));
    }

    [Fact]
    public void With_the_right_all_of_it_is_written_and_read_as_it_was()
    {
        var document = Read(Regatta);
        Assert.True(document.HasMoney);
        var written = PlanDocumentWriter.Write(document.Plan, document.Hours, document.Ledger, document.Currency);
        var again = Read(Encoding.UTF8.GetString(written));
        Assert.Equal(written, PlanDocumentWriter.Write(again.Plan, again.Hours, again.Ledger, again.Currency));
        var text = Encoding.UTF8.GetString(written);
        Assert.All(Secrets, secret => Assert.Contains(secret, text, StringComparison.Ordinal));
        Assert.Equal(document.Ledger.ItemsOf("t1").AsEnumerable(), again.Ledger.ItemsOf("t1"));
    }

    [Fact]
    public void Without_it_there_is_nothing_of_money_in_it()
    {
        var document = Read(Regatta);
        var text = Encoding.UTF8.GetString(PlanDocumentWriter.Write(document.Plan, document.Hours));
        Assert.All(Secrets, secret => Assert.DoesNotContain(secret, text, StringComparison.OrdinalIgnoreCase));
        Assert.False(Read(text).HasMoney);
    }

    [Fact]
    public void What_is_worked_out_is_told_with_at_most_four_decimals()
    {
        var document = Read(Regatta);
        var schedule = Scheduler.Calculate(document.Plan);
        var told = JsonSerializer.SerializeToNode(
            ScheduleDocument.Of(schedule, new TrackedValues(document, schedule, ["money"], new DateOnly(2027, 5, 3))),
            JsonSerializerOptions.Web
        )!;
        var fold = told["tasks"]![1]!["money"]!;
        // Twelve hours at 28.25 and one use; 40.5 sheets at 1.2525 and what they cost once.
        Assert.Equal((342.125m, 50.7888m), (Number(fold, "labour"), Number(fold, "items")));
        // By progress: what is due at the start, and four tenths of the rest.
        Assert.Equal(189.5138m, Number(fold, "spent"));
        Assert.Equal((387.75m, 155.1m), (Number(fold, "bac"), Number(fold, "ev")));
        var project = told["project"]!["money"]!;
        Assert.Equal(("EUR", "progress"), ((string?)project["currency"], (string?)project["actuals"]));
        Assert.Equal(4200.5m - Number(project, "expected"), Number(project, "free"));
        Assert.Equal(Number(project, "planned"), Number(project, "labour") + Number(project, "items"));
        Assert.Equal("2027-05-03T12:42", (string?)project["earnedScheduleAt"]);
        var without = JsonSerializer.Serialize(ScheduleDocument.Of(schedule), JsonSerializerOptions.Web);
        Assert.DoesNotContain("money", without, StringComparison.Ordinal);

        static decimal Number(JsonNode at, string name) => at[name]!.GetValue<decimal>();
    }

    [Theory]
    [InlineData("\"EUR\"", "\"euro\"", "$.project.currency", "currency")]
    [InlineData("4200.5", "-1", "$.project.budget", "amount")]
    [InlineData("\"progress\",", "\"guessed\",", "$.project.actuals", "value")]
    [InlineData("28.25", "28.12345", "$.people[0].rates[0].hour", "amount")]
    [InlineData("2027-06-01", "2027-06-01T09:00", "$.people[0].rates[1].from", "date")]
    [InlineData("\"material\"", "\"food\"", "$.tasks[1].items[0].kind", "value")]
    [InlineData("\"per\": \"unit\"", "\"per\": \"day\"", "$.tasks[1].items[0].name", "item")]
    [InlineData("40.5", "-2", "$.tasks[1].items[0].name", "item")]
    [InlineData("\"amount\": 50.03", "\"amount\": null", "$.tasks[1].items[0].payments[0].amount", "missing")]
    [InlineData("\"start\", \"category\"", "\"later\", \"category\"", "$.tasks[1].items[0].accrues", "value")]
    public void What_cannot_be_is_an_error_at_its_path(string right, string wrong, string path, string code)
    {
        var text = Regatta.Replace(right, wrong, StringComparison.Ordinal);
        Assert.NotEqual(Regatta, text);
        var found = Assert.Throws<UnreadableDocumentException>(() => Read(text)).Errors;
        Assert.Contains((path, code), found.Select(error => (error.Path, error.Code)));
    }
}
