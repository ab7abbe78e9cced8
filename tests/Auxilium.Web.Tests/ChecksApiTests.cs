using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using Auxilium.Storage.Access;

namespace Auxilium.Web.Tests;

/// <summary>A task's card, the check-up, the forecast, and calendars.</summary>
public sealed class ChecksApiTests(TwoServers servers) : IClassFixture<TwoServers>
{
    private const string Plan = """
        {
          "format": "auxilium-plan/1",
          "project": { "name": "Shed", "start": "2027-05-03", "finishBy": "2027-05-14", "calendar": "week" },
          "calendars": [ { "id": "week", "name": "Week", "week": { "mon": ["09:00-17:00"], "tue": ["09:00-17:00"], "wed": ["09:00-17:00"],
            "thu": ["09:00-17:00"], "fri": ["09:00-17:00"], "sat": [], "sun": [] } } ],
          "tasks": [
            { "id": "a", "name": "Frame", "length": "3d", "estimate": { "low": "2d", "likely": "3d", "high": "8d" } },
            { "id": "b", "name": "Roof", "length": "2d", "deadline": "2027-05-10", "splits": [ { "after": "1d", "for": "1d" } ] },
            { "id": "c", "name": "Door", "length": "1d" }
          ],
          "links": [ { "from": "a", "to": "b" }, { "from": "a", "to": "c", "kind": "SS", "lag": "1d" } ]
        }
        """;

    private HttpClient Client => servers.One.Api.Http;

    [Fact]
    public async Task A_card_has_links_both_ways_dates_work_and_reasons()
    {
        var project = await NewAsync();
        var card = await GetAsync($"/api/v1/projects/{project}/tasks/a");
        Assert.Equal(["b", "c"], card["after"]!.AsArray().Select(l => (string?)l!["task"]));
        Assert.Equal("with 1 + 1d", (string?)card["after"]![1]!["text"]);
        Assert.Equal("Starts Mon 3 May: the project starts then.", (string?)card["why"]![0]!["sentence"]);
        var roof = await GetAsync($"/api/v1/projects/{project}/tasks/b");
        Assert.Equal(
            ("2027-05-10T17:00", "1d", "link"),
            ((string?)roof["deadline"], (string?)roof["splits"]![0]!["after"], (string?)roof["why"]![0]!["kind"])
        );
        Assert.StartsWith("Finishes Mon 10 May: 2 days of work in 2 stretches", (string?)roof["whyFinish"], StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await Client.GetAsync($"/api/v1/projects/{project}/tasks/gone")).StatusCode);
    }

    [Fact]
    public async Task A_finding_comes_with_an_edit_that_can_be_sent_as_it_is()
    {
        var project = await NewAsync();
        var findings = (await GetAsync($"/api/v1/projects/{project}/check-up")).AsArray();
        var milestone = Assert.Single(findings, f => (string?)f!["kind"] == "noOwner");
        Assert.Equal(3, milestone!["tasks"]!.AsArray().Count);
        var body = new JsonObject
        {
            ["id"] = Guid.NewGuid().ToString(),
            ["baseVersion"] = 1,
            ["edit"] = milestone["fix"]!["edit"]!.DeepClone(),
        };
        using var answer = await Client.PostAsJsonAsync($"/api/v1/projects/{project}/edits", body);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.DoesNotContain((await GetAsync($"/api/v1/projects/{project}/check-up")).AsArray(), f => (string?)f!["kind"] == "noOwner");
    }

    [Fact]
    public async Task A_forecast_tells_how_far_it_is_and_then_the_finish_for_every_confidence()
    {
        var project = await NewAsync();
        var text = await Client.GetStringAsync($"/api/v1/projects/{project}/forecast?runs=2000&seed=3");
        var lines = text.Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(l => JsonNode.Parse(l)!).ToList();
        Assert.All(lines[..^1], l => Assert.InRange((double)l["progress"]!, 0, 1));
        var forecast = lines[^1]["forecast"]!;
        Assert.Equal((2000, 1), ((int)forecast["runs"]!, (int)forecast["ranges"]!));
        var finishes = forecast["confidences"]!.AsArray().Select(c => (string)c!["finish"]!).ToList();
        Assert.Equal(finishes.Order(StringComparer.Ordinal), finishes);
        Assert.Equal("b", (string?)forecast["deadlines"]![0]!["id"]);
        Assert.Equal(1.0, (double)forecast["tasks"]![0]!["chance"]!);
        var again = await Client.GetStringAsync($"/api/v1/projects/{project}/forecast?runs=2000&seed=3");
        Assert.Equal(lines[^1].ToJsonString(), JsonNode.Parse(again.Split('\n')[^2])!.ToJsonString());
    }

    [Theory]
    [InlineData("runs=0", "runs")]
    [InlineData("runs=100001", "runs")]
    [InlineData("spread=flat", "spread")]
    [InlineData("spread=1", "spread")]
    public async Task A_forecast_that_cannot_be_run_says_what_can(string query, string code)
    {
        using var answer = await Client.GetAsync($"/api/v1/projects/{await NewAsync()}/forecast?{query}");
        Assert.Equal(
            (HttpStatusCode.BadRequest, code),
            (answer.StatusCode, (string?)(await answer.Content.ReadFromJsonAsync<JsonNode>())!["code"])
        );
    }

    [Fact]
    public async Task Holidays_and_ready_made_calendars_are_worked_out_here()
    {
        Assert.Contains((await GetAsync("/api/v1/holidays")).AsArray(), s => (string?)s!["id"] == "ireland");
        var days = (await GetAsync("/api/v1/holidays/england?from=2027&to=2027")).AsArray();
        Assert.Equal(("2027-03-26", "Good Friday"), ((string?)days[1]!["day"], (string?)days[1]!["name"]));
        Assert.True((await GetAsync("/api/v1/calendars/ready-made")).AsArray().Count > 5);
        Assert.Equal(HttpStatusCode.BadRequest, (await Client.GetAsync("/api/v1/holidays/england?from=2027&to=1990")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await Client.GetAsync("/api/v1/holidays/atlantis?from=2027&to=2027")).StatusCode);
    }

    [Fact]
    public async Task A_year_of_a_calendar_is_shown_before_it_is_kept()
    {
        var project = await NewAsync();
        var crew = JsonNode.Parse(
            """
            { "id": "crew", "name": "Crew", "base": "week", "week": { "sat": ["10:00-16:00"] }, "exceptions": [ {
            "from": "2027-05-31", "to": "2027-05-31", "name": "Off", "work": [] } ] }
            """
        )!;
        using var answer = await Client.PostAsJsonAsync($"/api/v1/projects/{project}/calendars/year?year=2027", crew);
        var year = (await answer.Content.ReadFromJsonAsync<JsonNode>())!;
        Assert.Equal(
            (365, 360, 480),
            (year["days"]!.AsArray().Count, (int)year["days"]![1]!["minutes"]!, (int)year["days"]![3]!["minutes"]!)
        );
        Assert.Equal("Off", (string?)year["days"]![150]!["name"]);
        crew["base"] = "crew";
        using var circle = await Client.PostAsJsonAsync($"/api/v1/projects/{project}/calendars/year?year=2027", crew);
        Assert.Equal(HttpStatusCode.BadRequest, circle.StatusCode);
    }

    [Theory]
    [InlineData(
        """{"type":"saveCalendar","calendar":{"id":"x","name":"X","week":{"mon":["25:00-26:00"]}}}""",
        400,
        "interval",
        "$.edit.calendar.week.mon[0]"
    )]
    [InlineData("""{"type":"saveCalendar","calendar":{"id":"x","name":"X","week":{}}}""", 422, "noWorkingTime", "calendars")]
    [InlineData(
        """{"type":"saveCalendar","calendar":{"id":"x","name":"Week","week":{"mon":["09:00-10:00"]}}}""",
        422,
        "calendarName",
        "calendars"
    )]
    [InlineData(
        """{"type":"saveCalendar","calendar":{"id":"week","name":"Week","base":"week","week":{"mon":["09:00-10:00"]}}}""",
        422,
        "circle",
        "calendars"
    )]
    [InlineData("""{"type":"removeCalendar","calendar":"week"}""", 422, "calendarInUse", "calendars")]
    [InlineData("""{"type":"setTaskCalendar","task":"a","calendar":"nowhere"}""", 422, "unknownCalendar", "calendar")]
    [InlineData("""{"type":"setSplits","task":"a","splits":[{"after":"3d","for":"1d"}]}""", 422, "split", "splits")]
    [InlineData("""{"type":"setLength","task":"b","length":"1d"}""", 422, "split", "length")]
    [InlineData("""{"type":"setEstimate","task":"a","estimate":{"low":"9d","likely":"3d","high":"4d"}}""", 422, "estimate", "estimate")]
    [InlineData("""{"type":"setRemaining","task":"a","remaining":"2d"}""", 422, "remaining", "remaining")]
    [InlineData("""{"type":"setConstraint","task":"a","kind":"mustStartOn"}""", 422, "date", "start")]
    [InlineData("""{"type":"linkTasks","from":"b","to":"a"}""", 422, "circle", "after")]
    [InlineData("""{"type":"unlinkTasks","from":"b","to":"c"}""", 422, "linkGone", "after")]
    [InlineData("""{"type":"setWorkUnits","hoursPerDay":25,"daysPerWeek":5}""", 422, "hoursPerDay", "workUnits")]
    [InlineData("""{"type":"setProjectFinish","finish":"1 Jan 2101"}""", 400, "edit", "$.edit.finish")]
    [InlineData(
        """{"type":"repeatTask","task":"c","rule":{"every":"week","from":"4 May","until":"3 May","length":"2h"}}""",
        422,
        "repeat",
        "repeat"
    )]
    [InlineData(
        """{"type":"repeatTask","task":"c","rule":{"every":"week","on":["tuesday"],"from":"4 May","length":"2h"}}""",
        400,
        "edit",
        "$.edit.rule.on[0]"
    )]
    [InlineData("""{"type":"extendSeries","task":"c"}""", 422, "repeat", "repeat")]
    [InlineData("""{"type":"setColour","task":"c","colour":"crimson"}""", 422, "colour", "colour")]
    [InlineData(
        """{"type":"setReferences","task":"c","references":[{"address":"javascript:alert(1)","title":""}]}""",
        422,
        "references",
        "references"
    )]
    [InlineData("""{"type":"setPeriods","periods":[{"name":"","from":"2027-05-10","to":"2027-05-14"}]}""", 422, "periods", "periods")]
    [InlineData("""{"type":"setStatusDate","statusDate":null,"moveUnfinishedWork":true}""", 422, "date", "statusDate")]
    public async Task Bad_input_is_refused_where_it_was_given(string edit, int status, string code, string where)
    {
        var project = await NewAsync();
        var body = JsonNode.Parse($$"""{ "id": "{{Guid.NewGuid()}}", "baseVersion": 1, "edit": {{edit}} }""")!;
        using var answer = await Client.PostAsJsonAsync($"/api/v1/projects/{project}/edits", body);
        var problem = (await answer.Content.ReadFromJsonAsync<JsonNode>())!;
        Assert.Equal(status, (int)answer.StatusCode);
        var (gotCode, at) =
            status == 400
                ? ((string?)problem["errors"]![0]!["code"], (string?)problem["errors"]![0]!["path"])
                : ((string?)problem["code"], (string?)problem["field"]);
        Assert.Equal((code, where), (gotCode, at));
        Assert.EndsWith(".", (string)problem["detail"]!, StringComparison.Ordinal);
    }

    /// <summary>Everything an edit can set is kept, and taking it back gives the same bytes.</summary>
    [Theory]
    [InlineData("""{"type":"linkTasks","from":"c","to":"b","kind":"finishToFinish","lag":"-2h","elapsed":true}""")]
    [InlineData("""{"type":"unlinkTasks","from":"a","to":"c"}""")]
    [InlineData("""{"type":"setSplits","task":"a","splits":[{"after":"1d","for":"4h"}]}""")]
    [InlineData("""{"type":"setEstimate","task":"c","estimate":{"low":"1d","likely":"2d","high":"3d"}}""")]
    [InlineData("""{"type":"setActive","task":"a","on":false}""")]
    [InlineData("""{"type":"setConstraint","task":"c","kind":"asLateAsPossible"}""")]
    [InlineData("""{"type":"setConstraint","task":"c","kind":"finishNoLaterThan","date":"12 May"}""")]
    [InlineData("""{"type":"pinTask","task":"c","start":"6 May","finish":"7 May"}""")]
    [InlineData("""{"type":"setDeadline","task":"a","deadline":"2027-05-06"}""")]
    [InlineData("""{"type":"setProjectFinish","finish":"21 May"}""")]
    [InlineData("""{"type":"setStatusDate","statusDate":"12 May","moveUnfinishedWork":true}""")]
    [InlineData("""{"type":"setWorkUnits","hoursPerDay":7.5,"daysPerWeek":4}""")]
    [InlineData(
        """
            {"type":"saveCalendar", "calendar":{"id":"x", "name":"X", "base":"week", "week":{"mon":["09:00-10:00"]},
            "exceptions":[{"from":"2027-05-04", "to":"2027-05-05", "name":"Away", "work":[]}]}}
            """
    )]
    [InlineData("""{"type":"copyTasks","tasks":["a"]}""")]
    [InlineData("""{"type":"shiftTasks","tasks":["a","c"],"days":2}""")]
    [InlineData("""{"type":"stretchTask","task":"a","start":"4 May"}""")]
    [InlineData("""{"type":"setNote","task":"a","note":"Ask twice"}""")]
    [InlineData("""{"type":"setKey","task":"a","on":true}""")]
    [InlineData("""{"type":"setColour","task":"a","colour":"lilac"}""")]
    [InlineData("""{"type":"setLabel","task":"a","label":"permits"}""")]
    [InlineData("""{"type":"setPriority","task":"a","priority":900}""")]
    [InlineData("""{"type":"setChecklist","task":"a","steps":[{"text":"Call","done":true},{"text":"Pay"}]}""")]
    [InlineData("""{"type":"setReferences","task":"a","references":[{"address":"https://tidewell.example","title":"Form"}]}""")]
    [InlineData("""{"type":"setPeriods","periods":[{"name":"Harbour week","from":"2027-05-10","to":"2027-05-14"}]}""")]
    [InlineData(
        """{"type":"repeatTask","task":"c","rule":{"every":"week","on":["tue","thu"],"from":"4 May","until":"27 May","length":"2h"}}"""
    )]
    [InlineData(
        """
            {"type":"together", "edits":[{"type":"repeatTask", "task":"c", "rule":{"every":"month", "week":-1, "on":["fri"],
            "from":"2027-05-04T18:30", "times":3, "length":"90m"}}, {"type":"extendSeries", "task":"c", "until":"2027-12-01"}]}
            """
    )]
    [InlineData("""{"type":"addHelper","task":"a","helper":"Somebody New","share":0.5,"hands":"shorter"}""")]
    [InlineData(
        """
            {"type":"together", "edits":[{"type":"setOwner", "task":"a", "owner":"Somebody New"}, {"type":"addHelper", "task":"a",
            "helper":"Another One", "hands":"shorter"}]}
            """
    )]
    [InlineData(
        """
            {"type":"together", "edits":[{"type":"setOwner", "task":"a", "owner":"Somebody New"}, {"type":"setOwnTime",
            "person":"somebody-new", "time":{"id":"x", "name":"X", "week":{"mon":[]}, "exceptions":[{"from":"2027-05-04",
            "to":"2027-05-05", "name":"Away", "work":[]}]}}]}
            """
    )]
    [InlineData(
        """
            {"type":"together", "edits":[{"type":"setOwner", "task":"a", "owner":"Somebody New"}, {"type":"setCoordinator",
            "person":"somebody-new"}]}
            """
    )]
    [InlineData("""{"type":"setProjectCalendar","calendar":null}""")]
    [InlineData("""{"type":"setCriticality","criticalFloat":"1d","floatTo":"finishBy"}""")]
    public async Task Every_edit_is_kept_and_can_be_taken_back(string edit)
    {
        var project = await NewAsync();
        var before = await Client.GetStringAsync($"/api/v1/projects/{project}/plan");
        await SendAsync(project, 1, $"\"edit\": {edit}");
        var after = await servers.Other.PlanAsync(project);
        Assert.NotEqual(before, after);
        using var schedule = await Client.PostAsync(
            "/api/v1/schedule",
            new StringContent(after, System.Text.Encoding.UTF8, "application/json")
        );
        Assert.Equal(HttpStatusCode.OK, schedule.StatusCode);
        await SendAsync(project, 2, "\"takeBack\": \"lastEdit\"");
        Assert.Equal(before, await servers.Other.PlanAsync(project));
    }

    private async Task SendAsync(Guid project, int version, string what)
    {
        var body = JsonNode.Parse($$"""{ "id": "{{Guid.NewGuid()}}", "baseVersion": {{version}}, {{what}} }""")!;
        using var answer = await Client.PostAsJsonAsync($"/api/v1/projects/{project}/edits", body);
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
    }

    private async Task<Guid> NewAsync()
    {
        using var answer = await Client.PostAsync(
            "/api/v1/projects",
            new StringContent(Plan, System.Text.Encoding.UTF8, "application/json")
        );
        return (await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("id").GetGuid();
    }

    private async Task<JsonNode> GetAsync(string address) => (await Client.GetFromJsonAsync<JsonNode>(address))!;
}

/// <summary>Two applications on one database: what one has written, the other has to read.</summary>
public sealed class TwoServers : IDisposable
{
    private readonly TestApp _other;

    public TwoServers()
    {
        _other = new TestApp(One.Connection);
        Other = new ApiClient(_other.SignedIn());
    }

    public DemoApp One { get; } = new();

    public ApiClient Other { get; }

    public void Dispose()
    {
        _other.Dispose();
        One.Dispose();
    }
}
