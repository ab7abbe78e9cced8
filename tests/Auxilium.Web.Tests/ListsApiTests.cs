using System.Net;
using System.Text.Json.Nodes;

namespace Auxilium.Web.Tests;

public class ListsApiTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private readonly ApiClient _api = demo.Api;

    [Fact]
    public async Task A_list_is_read_and_its_edit_adds_the_rows()
    {
        var project = await _api.NewChainAsync();
        var before = await _api.PlanAsync(project);
        var read = await ReadAsync(
            project,
            """{"text":"Task\tOwner\tDays\nFair\n  Band\tTom Lowe\t2d\n  Posters\tTom Lowe\tages","after":"a"}"""
        );
        Assert.Equal(HttpStatusCode.OK, read.Status);
        Assert.Equal(["name", "owner", "length"], read.Body["columns"]!.AsArray().Select(c => (string)c!["kind"]!));
        Assert.Equal("Tom Lowe", (string)Assert.Single(read.Body["newPeople"]!.AsArray())!);
        Assert.Equal("length", (string)read.Body["rows"]![2]!["problems"]![0]!["column"]!);
        Assert.Equal(before, await _api.PlanAsync(project));

        var added = await _api.EditAsync(project, read.Body["edit"]!.ToJsonString(), 1);
        Assert.StartsWith("3 rows added.", ApiClient.Sentence(added.Body), StringComparison.Ordinal);
        var tasks = JsonNode.Parse(await _api.PlanAsync(project))!["tasks"]!.AsArray();
        Assert.Equal(["A", "Fair", "Band", "Posters", "B", "C"], tasks.Select(t => (string)t!["name"]!));
        Assert.Equal(HttpStatusCode.OK, (await _api.TakeBackAsync(project)).Status);
        Assert.Equal(3, JsonNode.Parse(await _api.PlanAsync(project))!["tasks"]!.AsArray().Count);
    }

    [Theory]
    [InlineData("""{"list":"A"}""")]
    [InlineData("""{"text":null}""")]
    [InlineData("""{"text":"A","columns":["naem"]}""")]
    [InlineData("""{"text":"A","dateOrder":"yearFirst"}""")]
    [InlineData("""["A"]""")]
    [InlineData("""nothing""")]
    public async Task What_is_no_request_is_refused(string body) =>
        Assert.Equal(HttpStatusCode.BadRequest, (await ReadAsync(await _api.NewChainAsync(), body)).Status);

    [Fact]
    public async Task Ten_megabytes_are_not_taken_in()
    {
        var answer = await ReadAsync(await _api.NewChainAsync(), $$"""{"text":"{{new string('x', 10_000_000)}}"}""");
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, answer.Status);
    }

    [Fact]
    public async Task What_is_no_list_is_told_in_a_sentence()
    {
        var read = await ReadAsync(await _api.NewChainAsync(), """{"text":"\u0001"}""");
        Assert.StartsWith("This is not text", (string)read.Body["problem"]!, StringComparison.Ordinal);
        Assert.Null(read.Body["edit"]);
    }

    [Fact]
    public async Task There_is_no_list_for_a_project_that_is_not_there() =>
        Assert.Equal(HttpStatusCode.NotFound, (await ReadAsync(Guid.NewGuid(), """{"text":"A"}""")).Status);

    private Task<Answer> ReadAsync(Guid project, string body) => _api.PostAsync($"/api/v1/projects/{project}/lists", body);
}
