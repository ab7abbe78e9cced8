using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;

namespace Auxilium.Web.Tests;

public class DocumentsApiTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private readonly ApiClient _api = demo.Api;

    [Fact]
    public async Task A_project_saved_and_brought_in_again_is_the_same_document()
    {
        var projects = JsonNode.Parse(await _api.Http.GetStringAsync("/api/v1/projects"))!.AsArray();
        Assert.True(projects.Count >= 3);
        foreach (var project in projects)
        {
            var document = await _api.PlanAsync(project!["id"]!.GetValue<Guid>());
            Assert.Equal(document, await _api.PlanAsync(await _api.CreateAsync(document)));
        }
    }

    [Fact]
    public async Task The_demo_has_work_done_under_way_and_late()
    {
        using var database = new TestDatabase();
        await using var app = new TestApp(database.Connection, today: "2031-02-09");
        var projects = JsonNode.Parse(await app.SignedIn().GetStringAsync("/api/v1/projects"))!.AsArray();
        Assert.Equal(["Lantern Regatta", "Adopt-a-Plank", "Slipway & Shed Roof"], projects.Select(p => p!["name"]!.GetValue<string>()));
        Assert.All(projects, p => Assert.InRange(p!["tasks"]!.GetValue<int>(), 18, 45));
        var states = projects.SelectMany(p => p!["states"]!.AsObject().Select(s => s.Key)).ToHashSet();
        Assert.Superset(new HashSet<string> { "done", "underWay", "overdue", "waiting" }, states);
        Assert.All(projects, p => Assert.StartsWith("2031-", p!["finish"]!.GetValue<string>(), StringComparison.Ordinal));
    }

    [Fact]
    public async Task Calculating_answers_dates_floats_drivers_and_warnings()
    {
        var answer = await _api.PostAsync(
            "/api/v1/schedule",
            """
            {"format":"auxilium-plan/1","project":{"name":"x","start":"2027-05-03","finishBy":"2027-05-04"},
             "tasks":[{"id":"a","name":"A","length":"2d"},{"id":"b","name":"B","length":"1d"},{"id":"m","name":"M","milestone":true}],
             "links":[{"from":"a","to":"m"},{"from":"b","to":"m","lag":"3d"}]}
            """,
            "application/vnd.auxilium.plan+json"
        );
        Assert.Equal(HttpStatusCode.OK, answer.Status);
        Assert.Equal("2027-05-06T18:00", answer.Body["project"]!["finish"]!.GetValue<string>());
        Assert.Equal(960, answer.Body["tasks"]![0]!["totalFloatMinutes"]!.GetValue<int>());
        Assert.Equal("b", answer.Body["tasks"]![2]!["drivers"]![0]!["from"]!.GetValue<string>());
        Assert.Equal("W4", answer.Body["warnings"]![0]!["code"]!.GetValue<string>());
    }

    [Fact]
    public async Task Calculating_tells_drift_and_effort_where_they_are_asked_for()
    {
        var document = """
            {"format":"auxilium-plan/1","project":{"name":"x","start":"2027-05-03"},"people":[{"id":"ann","name":"Ann"}],
             "tasks":[{"id":"a","name":"A","length":"2d","progress":0.5,"assignments":[{"person":"ann","share":0.5}]}],
             "hours":[{"task":"a","person":"ann","day":"2027-05-03","minutes":90},
              {"task":"a","person":"ann","day":"2027-05-20","minutes":60}],
             "baselines":[{"id":"b1","name":"As agreed","taken":"2027-05-01",
              "rows":[{"task":"a","start":"2027-05-03","finish":"2027-05-03"}]}]}
            """;
        var answer = await _api.PostAsync("/api/v1/schedule?with=drift,effort&asOf=2027-05-13", document);
        Assert.Equal(HttpStatusCode.OK, answer.Status);
        var task = answer.Body["tasks"]![0]!;
        Assert.Equal(
            "480 240 90 480 480",
            $"{task["effortMinutes"]} {task["effortLeftMinutes"]} {task["workedMinutes"]} {task["drift"]!["finishMinutes"]} "
                + $"{answer.Body["project"]!["driftMinutes"]}"
        );
        Assert.Empty(answer.Body["dropped"]!.AsArray());
        Assert.Null((await _api.PostAsync("/api/v1/schedule", document)).Body["tasks"]![0]!["effortMinutes"]);
        var wrong = await _api.PostAsync("/api/v1/schedule?with=drift,weather", document);
        Assert.Equal((HttpStatusCode.BadRequest, true), (wrong.Status, wrong.Detail.Contains("“weather”", StringComparison.Ordinal)));
        Assert.Equal(HttpStatusCode.BadRequest, (await _api.PostAsync("/api/v1/schedule?with=drift&asOf=soon", document)).Status);
    }

    [Theory]
    [InlineData("/api/v1/schedule")]
    [InlineData("/api/v1/projects")]
    public async Task A_malformed_document_gets_400_with_the_path_of_each_error(string path)
    {
        var answer = await _api.PostAsync(
            path,
            """
            {"format":"auxilium-plan/1", "project":{"name":"x", "start":"soon"}, "tasks":[{"id":"a", "name":"A",
            "splits":[{"after":"1d", "for":"1d"}]}]}
            """
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.Status);
        Assert.Equal(
            ["$.project.start:date", "$.tasks[0].splits[0]:split"],
            answer.Body["errors"]!.AsArray().Select(e => $"{e!["path"]}:{e["code"]}").Order()
        );
    }

    [Fact]
    public async Task A_person_with_somebody_elses_id_is_refused()
    {
        var answer = await _api.PostAsync(
            "/api/v1/projects",
            """{"format":"auxilium-plan/1","project":{"name":"x","start":"2027-05-03"},"people":[{"id":"imke","name":"Someone Else"}]}"""
        );
        Assert.Equal("$.people[0].id", answer.Body["errors"]![0]!["path"]!.GetValue<string>());
        Assert.Contains("Imke Varga", answer.Detail, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Too_much_and_the_wrong_kind_are_refused_by_size_and_type()
    {
        var large = await _api.PostAsync("/api/v1/schedule", new string(' ', 10 * 1024 * 1024 + 1));
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, large.Status);
        Assert.Contains("larger than", large.Detail, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, (await _api.PostAsync("/api/v1/schedule", "{}", "text/plain")).Status);
    }

    [Fact]
    public async Task Odd_characters_in_a_document_are_kept_or_refused_never_an_error_of_ours()
    {
        foreach (var name in new[] { "\\u0000", "\\ud800", "\\u202e", "😀", "\\n", "\\u0007" })
        {
            var answer = await _api.PostAsync(
                "/api/v1/projects",
                $$"""
                {"format":"auxilium-plan/1", "project":{"name":"x{{name}}", "start":"2027-05-03", "note":"{{name}}"},
                "people":[{"id":"odd", "name":"Odd {{name}}"}], "tasks":[{"id":"a", "name":"{{name}} y", "note":"{{name}}"}]}
                """
            );
            Assert.Contains(answer.Status, new[] { HttpStatusCode.Created, HttpStatusCode.BadRequest });
        }
    }

    [Fact]
    public async Task A_plan_that_one_has_is_not_sent_again()
    {
        var project = await _api.NewChainAsync();
        var plan = $"/api/v1/projects/{project}/plan";
        using var first = await _api.Http.GetAsync(plan);
        var version = first.Headers.ETag!;
        async Task<(HttpStatusCode, int, string?)> AskAsync()
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, plan) { Headers = { IfNoneMatch = { version } } };
            using var answer = await _api.Http.SendAsync(request);
            return (answer.StatusCode, (await answer.Content.ReadAsByteArrayAsync()).Length, answer.Headers.ETag?.Tag);
        }
        Assert.Equal((HttpStatusCode.NotModified, 0, version.Tag), await AskAsync());
        await _api.EditAsync(project, """{"type":"setLength","task":"a","length":"9d"}""", 1);
        var (status, length, _) = await AskAsync();
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.True(length > 0);
    }

    [Fact]
    public async Task The_api_describes_itself()
    {
        var document = JsonNode.Parse(await _api.Http.GetStringAsync("/openapi/v1.json"))!;
        var paths = document["paths"]!.AsObject().Select(p => p.Key).ToHashSet();
        Assert.Superset(
            new HashSet<string> { "/api/v1/projects", "/api/v1/projects/{id}/plan", "/api/v1/projects/{id}/edits", "/api/v1/schedule" },
            paths
        );
        var body = document["paths"]!["/api/v1/projects/{id}/edits"]!["post"]!["requestBody"]!["content"]!["application/json"]!;
        Assert.Equal("#/components/schemas/EditRequest", body["schema"]!["$ref"]!.GetValue<string>());
        var schemas = document["components"]!["schemas"]!;
        foreach (var kind in schemas["Edit"]!["discriminator"]!["mapping"]!.AsObject())
        {
            var described = schemas[kind.Value!.GetValue<string>().Split('/')[^1]]!;
            Assert.Equal(kind.Key, described["properties"]!["type"]!["const"]!.GetValue<string>());
        }
        Assert.Equal("string", schemas["SetLengthEdit"]!["properties"]!["length"]!["type"]!.GetValue<string>());
        Assert.Equal("#/components/schemas/Edit", schemas["TogetherEdit"]!["properties"]!["edits"]!["items"]!["$ref"]!.GetValue<string>());
        var schema = await _api.Http.GetByteArrayAsync("/api/v1/schema/auxilium-plan-1.json");
        Assert.Contains("auxilium-plan/1", Encoding.UTF8.GetString(schema), StringComparison.Ordinal);
    }
}
