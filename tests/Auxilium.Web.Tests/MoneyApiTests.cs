using System.Net;
using System.Text.Json.Nodes;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>What projects cost: kept, changed, taken back and worked out, for those who may have it.</summary>
public class MoneyApiTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Fair = """
        {"format":"auxilium-plan/1", "project":{"name":"Quay fair","start":"2027-05-10","budget":500},
         "people":[{"id":"tomas","name":"Tomas Lindqvist"}],
         "tasks":[{"id":"p","name":"Site"},
                  {"id":"a","name":"Fence","parent":"p","length":"2d",
                   "items":[{"id":"wood","name":"Planks","kind":"material","quantity":10,"price":12.5,"category":"Timber"}]},
                  {"id":"b","name":"Paint","parent":"p","length":"1d"}],
         "links":[{"from":"a","to":"b"}]}
        """;

    private async Task<JsonNode> AskAsync(Guid project, string path = "", HttpClient? who = null) =>
        JsonNode.Parse(await (who ?? demo.Api.Http).GetStringAsync($"/api/v1/projects/{project}{path}"))!;

    private async Task<(HttpStatusCode Status, JsonNode Body)> SendAsync(
        Guid project,
        string change,
        int version = 0,
        Guid? id = null,
        ApiClient? who = null
    )
    {
        var body = $$"""{"id":"{{id ?? Guid.NewGuid()}}","baseVersion":{{version}},{{(change[0] == '{' ? "\"edit\":" : "")}}{{change}}}""";
        var answer = await (who ?? demo.Api).PostAsync($"/api/v1/projects/{project}/money/edits", body);
        return (answer.Status, answer.Body);
    }

    [Fact]
    public async Task A_document_brings_its_money_and_gives_it_back_to_those_who_ask_for_it()
    {
        var project = await demo.Api.CreateAsync(Fair);
        var money = await AskAsync(project, "/money");
        Assert.Equal((125m, 500m, 375m), (Number(money, "planned"), Number(money, "budget"), Number(money, "free")));
        Assert.Equal("Timber", (string?)money["categories"]![0]!["name"]);
        var with = await AskAsync(project, "/plan?money=true");
        Assert.Equal(500, with["project"]!["budget"]!.GetValue<decimal>());
        Assert.Equal("Planks", (string?)with["tasks"]![1]!["items"]![0]!["name"]);
        Assert.DoesNotContain("Planks", (await AskAsync(project, "/plan")).ToJsonString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_change_is_told_with_what_it_does_to_the_budget_and_can_be_taken_back()
    {
        var project = await demo.Api.CreateAsync(Fair);
        const string Rope =
            """{"type":"setItem","task":"b","item":{"id":"rope","name":"Rope","kind":"fixed","price":400,"payments":[]}}""";
        var id = Guid.NewGuid();
        var (status, answer) = await SendAsync(project, Rope, 1, id);
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.Equal(
            "“Rope” added to “Paint”. Expected cost 525.00 €, 400.00 € more. Over budget by 25.00 €.",
            (string?)answer["sentence"]
        );
        // Sent again because the answer was lost, it is not made again.
        Assert.Equal(HttpStatusCode.OK, (await SendAsync(project, Rope, 1, id)).Status);
        Assert.Equal(525, Number(await AskAsync(project, "/money"), "expected"));
        Assert.Equal(2, (int)answer["version"]!);

        var (_, undone) = await SendAsync(project, "\"takeBack\":\"lastEdit\"");
        Assert.StartsWith("Taken back: “Rope” added to “Paint”.", (string?)undone["sentence"], StringComparison.Ordinal);
        Assert.Equal(125, Number(await AskAsync(project, "/money"), "expected"));
        Assert.Equal(HttpStatusCode.OK, (await SendAsync(project, "\"takeBack\":\"lastTakeBack\"")).Status);
        Assert.Equal(525, Number(await AskAsync(project, "/money"), "expected"));
        await SendAsync(project, "\"takeBack\":\"lastEdit\"");
        var (nothing, why) = await SendAsync(project, "\"takeBack\":\"lastEdit\"");
        Assert.Equal(
            (HttpStatusCode.Conflict, "There is no change of yours to the money left to undo."),
            (nothing, (string?)why["detail"])
        );
    }

    [Fact]
    public async Task How_short_a_task_could_be_made_is_kept_with_what_that_costs_and_taken_back()
    {
        var project = await demo.Api.CreateAsync(
            Fair.Replace(
                "\"length\":\"1d\"",
                "\"length\":\"1d\",\"couldTake\":{\"length\":\"4h\",\"cost\":55.5}",
                StringComparison.Ordinal
            )
        );
        Assert.Equal("4h 55.5", await CouldAsync(2));
        Assert.Null((await AskAsync(project, "/plan"))["tasks"]![2]!["couldTake"]);
        var (status, answer) = await SendAsync(project, """{"type":"setCouldTake","task":"a","couldTake":{"length":"1d","cost":80}}""", 1);
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.Equal("“Fence” could take 1d for 80.00 € more.", (string?)answer["sentence"]);
        Assert.Equal("1d 80", await CouldAsync(1));
        await SendAsync(project, """{"type":"setBudget","task":"a","amount":200}""", 2);
        await SendAsync(project, """{"type":"setCouldTake","task":"a","couldTake":null}""", 3);
        Assert.Equal(" ", await CouldAsync(1));
        await SendAsync(project, "\"takeBack\":\"lastEdit\"");
        Assert.Equal("1d 80", await CouldAsync(1));

        async Task<string> CouldAsync(int row)
        {
            var could = (await AskAsync(project, "/plan?money=true"))["tasks"]![row]!["couldTake"];
            return $"{could?["length"]} {could?["cost"]}";
        }
    }

    [Theory]
    [InlineData("""{"type":"setCouldTake","task":"gone","couldTake":{"length":"1d","cost":80}}""", "no longer in the plan")]
    [InlineData("""{"type":"setItem","task":"gone","item":{"id":"x","name":"X"}}""", "no longer in the plan")]
    [InlineData("""{"type":"setItem","task":"b","item":{"id":"x","name":" "}}""", "an item needs a name")]
    [InlineData("""{"type":"setItem","task":"b","item":{"id":"wood","name":"Planks"}}""", "another item with this id")]
    [InlineData("""{"type":"removeItem","task":"b","item":"none"}""", "gone already")]
    [InlineData("""{"type":"setBudget","task":null,"amount":-4}""", "from 0 to")]
    [InlineData("""{"type":"together","edits":[]}""", "nothing to change")]
    public async Task What_makes_no_sense_is_refused_in_a_sentence(string edit, string why)
    {
        var project = await demo.Api.CreateAsync(Fair);
        var (status, body) = await SendAsync(project, $"\"edit\":{edit}");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains(why, (string)body["detail"]!, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_cannot_be_read_is_an_error_at_its_path()
    {
        var project = await demo.Api.CreateAsync(Fair);
        foreach (
            var (edit, part) in new[]
            {
                ("""{"type":"giveAway"}""", "name a change"),
                ("""{"type":"setItem","task":"b","item":{"id":"x","name":"X","payments":[{"day":"someday","amount":3}]}}""", "someday"),
                ("""{"type":"setItem","task":"b","item":{"id":"x","name":"X","price":"3"}}""", "$.edit.item.price"),
            }
        )
        {
            var (status, body) = await SendAsync(project, $"\"edit\":{edit}");
            Assert.Equal(HttpStatusCode.BadRequest, status);
            Assert.Contains(
                part,
                body.ToJsonString(new() { Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping }),
                StringComparison.Ordinal
            );
        }
    }

    [Fact]
    public async Task Two_people_who_change_the_same_are_told_and_who_change_different_things_are_not()
    {
        var project = await demo.Api.CreateAsync(Fair);
        await RolesAsync(roles => roles.GiveAsync(project, "jonas", ProjectRole.Coordinator));
        var jonas = new ApiClient(demo.App.SignedIn("jonas"));
        const string Planks = """{"type":"setItem","task":"a","item":{"id":"wood","name":"Planks","quantity":12,"price":12.5}}""";
        Assert.Equal(HttpStatusCode.OK, (await SendAsync(project, Planks, 1)).Status);
        var (status, body) = await SendAsync(project, Planks.Replace("12,", "9,", StringComparison.Ordinal), 1, who: jonas);
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains(
            "Imke Varga changed this meanwhile: “Planks” of “Fence” changed.",
            (string)body["detail"]!,
            StringComparison.Ordinal
        );
        var (other, _) = await SendAsync(project, """{"type":"setBudget","task":"a","amount":200}""", 1, who: jonas);
        Assert.Equal(HttpStatusCode.OK, other);
    }

    [Fact]
    public async Task An_edit_of_the_plan_says_what_it_does_to_the_cost_to_those_who_may_know()
    {
        var project = await demo.Api.CreateAsync(Fair);
        await demo.InDatabaseAsync(db => db.People.Single(p => p.Id == "tomas").HourlyRate = 20);
        await demo.Api.EditAsync(project, """{"type":"setOwner","task":"b","owner":"Tomas Lindqvist"}""", 1);
        const string Longer = """{"type":"setLength","task":"b","length":"3d"}""";
        var answer = await PreviewAsync(demo.Api, project, Longer);
        Assert.Equal("Expected cost 605.00 €, 320.00 € more. Over budget by 105.00 €.", (string?)answer["money"]!["sentence"]);
        await RolesAsync(roles => roles.GiveAsync(project, "oona", ProjectRole.Member));
        Assert.Null((await PreviewAsync(new ApiClient(demo.App.SignedIn("oona")), project, Longer))["money"]);
        // Whoever is let see it may know, and change nothing.
        await RolesAsync(roles => roles.LetSeeMoneyAsync(project, "oona", true, "imke"));
        var oona = new ApiClient(demo.App.SignedIn("oona"));
        Assert.NotNull((await PreviewAsync(oona, project, Longer))["money"]);
        Assert.Equal(HttpStatusCode.Forbidden, (await oona.PostAsync($"/api/v1/projects/{project}/money/edits", "{}")).Status);
        await RolesAsync(roles => roles.GiveAsync(project, "oona", ProjectRole.None));
        Assert.Equal(HttpStatusCode.NotFound, (await oona.Http.GetAsync($"/api/v1/projects/{project}/money")).StatusCode);
    }

    [Fact]
    public async Task A_baseline_keeps_what_was_planned_and_a_row_that_goes_and_comes_back_keeps_its_items()
    {
        var project = await demo.Api.CreateAsync(Fair);
        await demo.Api.EditAsync(project, """{"type":"takeBaseline","name":"As agreed"}""", 1);
        Assert.Equal(125, Number(await AskAsync(project, "/money"), "bac"));
        await demo.Api.EditAsync(project, """{"type":"removeTasks","tasks":["a"]}""", 2);
        Assert.Equal(0, Number(await AskAsync(project, "/money"), "planned"));
        await demo.Api.TakeBackAsync(project);
        Assert.Equal(125, Number(await AskAsync(project, "/money"), "planned"));
        var curve = await AskAsync(project, "/money/curve");
        Assert.Equal("As agreed", (string?)curve["baseline"]);
        Assert.Equal(125, curve["points"]!.AsArray()[^1]!["pv"]!.GetValue<decimal>());
    }

    [Fact]
    public async Task Money_in_a_document_is_brought_in_by_those_who_may_have_it()
    {
        var jonas = new ApiClient(demo.App.SignedIn("jonas"));
        async Task<string> Refused(string document)
        {
            var answer = await jonas.PostAsync("/api/v1/projects", document);
            Assert.Equal(HttpStatusCode.BadRequest, answer.Status);
            var error = answer.Body["errors"]![0]!;
            Assert.Equal("right", (string?)error["code"]);
            return (string)error["path"]!;
        }
        await jonas.CreateAsync(Fair);
        var paid = Fair.Replace(
            "\"name\":\"Tomas Lindqvist\"",
            "\"name\":\"Tomas Lindqvist\",\"rates\":[{\"hour\":3}]",
            StringComparison.Ordinal
        );
        Assert.Equal("$.people[0].rates", await Refused(paid));
        Assert.Equal(
            "$",
            await Refused(Fair.Replace("\"budget\":500", "\"budget\":500,\"coordinator\":\"tomas\"", StringComparison.Ordinal))
        );
    }

    [Fact]
    public async Task Spending_goes_by_hours_and_payments_once_there_are_any_and_overtime_counts_across_projects()
    {
        var project = await demo.Api.CreateAsync(
            Fair.Replace("\"budget\":500", "\"budget\":500,\"statusDate\":\"2027-05-13\"", StringComparison.Ordinal)
        );
        var elsewhere = await demo.Api.CreateAsync(Fair.Replace("Quay fair", "Elsewhere", StringComparison.Ordinal));
        await demo.InDatabaseAsync(db =>
        {
            var tomas = db.People.Single(p => p.Id == "tomas");
            (tomas.HourlyRate, tomas.OvertimeRate) = (20, 30);
            var at = DateTime.UtcNow;
            foreach (var (where, task, minutes, order) in new[] { (elsewhere, "a", 420, 0), (project, "b", 120, 1) })
                db.Hours.Add(
                    new HoursRow
                    {
                        ProjectId = where,
                        TaskId = task,
                        PersonId = "tomas",
                        Day = new DateOnly(2027, 5, 12),
                        Minutes = minutes,
                        EnteredAt = at.AddSeconds(order),
                    }
                );
        });
        var money = await AskAsync(project, "/money");
        // Seven hours elsewhere came first: one of the two is overtime.
        Assert.Equal(("entered", 20m + 30m), ((string?)money["project"]!["actuals"], Number(money, "spent")));
    }

    private static async Task<JsonNode> PreviewAsync(ApiClient api, Guid project, string edit)
    {
        var body = $$"""{"id":"{{Guid.NewGuid()}}","baseVersion":1,"edit":{{edit}}}""";
        var answer = await api.PostAsync($"/api/v1/projects/{project}/edits?preview=true", body);
        Assert.Equal(HttpStatusCode.OK, answer.Status);
        return answer.Body;
    }

    private Task RolesAsync(Func<ProjectRoles, Task> act) => act(demo.App.Services.GetRequiredService<ProjectRoles>());

    private static decimal Number(JsonNode money, string name) => money["project"]![name]!.GetValue<decimal>();
}
