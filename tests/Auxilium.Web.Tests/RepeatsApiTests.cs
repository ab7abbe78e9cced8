using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Auxilium.Storage.Access;

namespace Auxilium.Web.Tests;

public class RepeatsApiTests(DemoApp demo) : IClassFixture<DemoApp>
{
    [Fact]
    public async Task A_rule_is_told_with_its_dates_before_it_is_kept()
    {
        var project = await demo.Api.NewChainAsync();
        var before = await demo.Api.PlanAsync(project);
        var told = await AskAsync(
            project,
            "c",
            """{"every":"month","week":-1,"on":["mon"],"from":"1 May 2027","times":2,"length":"2h","closed":"next"}"""
        );
        Assert.Equal(HttpStatusCode.OK, told.Status);
        Assert.Equal(
            "Every month on the last Monday, 2 hours each: 2 times, from Mon 31 May to Mon 28 Jun.",
            (string?)told.Body["sentence"]
        );
        var weekend = await AskAsync(project, "c", """{"every":"month","from":"2027-05-01","times":1,"length":"2h"}""");
        Assert.Equal("Mon 3 May, as Sat 1 May has no work", (string?)weekend.Body["dates"]![0]!["text"]);
        Assert.Equal(before, await demo.Api.PlanAsync(project));
    }

    [Theory]
    [InlineData("c", """{"every":"week","from":"2027-05-04","until":"2027-05-03","length":"2h"}""", 422)]
    [InlineData("c", """{"every":"sometimes","from":"2027-05-04","length":"2h"}""", 400)]
    [InlineData("c", """{"every":"week","from":"2027-05-04"}""", 400)]
    [InlineData("c", "[]", 400)]
    [InlineData("c", "null", 400)]
    [InlineData("nothing", """{"every":"week","from":"2027-05-04","length":"2h"}""", 404)]
    public async Task A_rule_that_makes_no_sense_is_refused(string task, string rule, int status)
    {
        var told = await AskAsync(await demo.Api.NewChainAsync(), task, rule);
        Assert.Equal(status, (int)told.Status);
        Assert.EndsWith(".", (string)told.Body["detail"]!, StringComparison.Ordinal);
    }

    [Fact]
    public async Task How_one_looks_at_a_plan_is_remembered()
    {
        var project = await demo.Api.NewChainAsync();
        using var kept = await demo.Api.Http.PutAsJsonAsync($"/api/v1/projects/{project}/view", new { view = new { text = "</script>" } });
        Assert.Equal(HttpStatusCode.NoContent, kept.StatusCode);
        await using var second = new TestApp(demo.Connection);
        var page = await new ApiClient(second.SignedIn()).Http.GetStringAsync($"/projects/{project}");
        Assert.Contains("\"view\":{\"view\":{\"text\":\"\\u003C/script\\u003E\"}}", page, StringComparison.Ordinal);
        foreach (var bad in new[] { "[1]", "{\"a\":\"\\u0000\"}", "{" })
        {
            using var refused = await demo.Api.Http.PutAsync(
                $"/api/v1/projects/{project}/view",
                new StringContent(bad, System.Text.Encoding.UTF8, "application/json")
            );
            Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        }
        using var nowhere = await demo.Api.Http.PutAsJsonAsync($"/api/v1/projects/{Guid.NewGuid()}/view", new { });
        Assert.Equal(HttpStatusCode.NotFound, nowhere.StatusCode);
    }

    private async Task<(HttpStatusCode Status, JsonNode Body)> AskAsync(Guid project, string task, string rule)
    {
        using var answer = await demo.Api.Http.PostAsync(
            $"/api/v1/projects/{project}/tasks/{task}/repeats",
            new StringContent(rule, System.Text.Encoding.UTF8, "application/json")
        );
        return (answer.StatusCode, (await answer.Content.ReadFromJsonAsync<JsonNode>())!);
    }
}
