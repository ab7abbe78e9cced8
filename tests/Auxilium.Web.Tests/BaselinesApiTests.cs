using System.Net;
using System.Text.Json.Nodes;
using Auxilium.Exchange.Edits;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Storage.Plans;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>Baselines as they are kept, compared and shown, and plans as they were.</summary>
public class BaselinesApiTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private readonly ApiClient _api = demo.Api;

    [Fact]
    public async Task A_baseline_is_kept_renamed_deleted_and_brought_back()
    {
        var project = await _api.NewChainAsync();
        var taken = await Edit(project, """{"type":"takeBaseline","name":"As agreed"}""");
        Assert.StartsWith(
            "Baseline As agreed taken of the whole plan. Nothing moved;",
            ApiClient.Sentence(taken),
            StringComparison.Ordinal
        );
        await Edit(project, """{"type":"renameBaseline","baseline":"b1","name":"As promised"}""");
        var late = await Edit(project, """{"type":"setLength","task":"a","length":"3d"}""");
        Assert.EndsWith("now 2 working days behind “As promised”.", ApiClient.Sentence(late), StringComparison.Ordinal);

        // Another server reads what this one wrote.
        using var other = new HostileEditsTests.Other();
        var list = await Get(new ApiClient(other.On(demo).SignedIn()), project, "baselines");
        Assert.Equal(("As promised", 3, 960, true), Told(list.AsArray().Single()!));

        await Edit(project, """{"type":"deleteBaseline","baseline":"b1"}""");
        Assert.Empty((await Get(_api, project, "baselines")).AsArray());
        await _api.TakeBackAsync(project);
        Assert.Equal(("As promised", 3, 960, true), Told((await Get(_api, project, "baselines")).AsArray().Single()!));

        static (string, int, int, bool) Told(JsonNode one) =>
            (
                one["name"]!.GetValue<string>(),
                one["tasks"]!.GetValue<int>(),
                one["driftMinutes"]!.GetValue<int>(),
                one["isMeasure"]!.GetValue<bool>()
            );
    }

    [Fact]
    public async Task Rows_say_where_the_measure_has_them_and_how_far_they_are_from_there()
    {
        var project = await _api.NewChainAsync();
        await Edit(project, """{"type":"takeBaseline","name":"As agreed"}""");
        await Edit(project, """{"type":"setLength","task":"a","length":"2d"}""");
        await Edit(project, """{"type":"addTask","id":"d","name":"D","parent":null,"after":"c"}""");
        var changes = await Get(_api, project, "changes");
        var rows = changes["rows"]!.AsArray().ToDictionary(row => row!["id"]!.GetValue<string>(), row => row!);
        Assert.Equal((480, "1 working day later"), (rows["c"]["drift"]!.GetValue<int>(), rows["c"]["driftSaid"]!.GetValue<string>()));
        Assert.Equal(rows["c"]["finish"]!.GetValue<int>() - 1440, rows["c"]["plannedFinish"]!.GetValue<int>());
        Assert.Null(rows["d"]["plannedFinish"]);
        Assert.Equal(("b1", 1), (changes["project"]!["measure"]!.GetValue<string>(), changes["project"]!["baselines"]!.AsArray().Count));
    }

    [Fact]
    public async Task Any_two_records_of_a_plan_are_compared()
    {
        var project = await _api.NewChainAsync();
        await Edit(project, """{"type":"takeBaseline","name":"As agreed"}""");
        await Edit(project, """{"type":"setLength","task":"b","length":"4d"}""");
        await Edit(project, """{"type":"removeTasks","tasks":["c"]}""");
        await Edit(project, """{"type":"addTask","id":"d","name":"D","parent":null,"after":"b"}""");
        await Edit(project, """{"type":"setEffort","task":"a","effort":"12h"}""");
        var compared = await Get(_api, project, "comparison?from=baseline:b1&to=now");
        Assert.Equal(
            ["b moved finishes 3 working days later, 24 hours more work", "d new new", "c dropped dropped", "a grew 4 hours more work"],
            compared["rows"]!.AsArray().Select(row => $"{row!["task"]} {row["change"]} {row["said"]}")
        );
        Assert.StartsWith(
            "The plan now finishes on Fri 7 May, 2 working days later than “As agreed”",
            compared["sentence"]!.GetValue<string>(),
            StringComparison.Ordinal
        );
        // The version before the last three edits is what the baseline is of, and so is the end of the day before it was made.
        var same = await Get(_api, project, "comparison?from=baseline:b1&to=version:2");
        Assert.Empty(same["rows"]!.AsArray());
        Assert.EndsWith("No task differs.", same["sentence"]!.GetValue<string>(), StringComparison.Ordinal);
        Assert.Equal(3, (await Get(_api, project, "snapshots/day:2020-01-01"))["rows"]!.AsObject().Count);
    }

    [Theory]
    [InlineData("comparison?from=baseline:none", "no longer in the plan")]
    [InlineData("comparison?to=version:99", "never had a version 99")]
    [InlineData("comparison?to=day:soon", "is no record of a plan")]
    [InlineData("snapshots/yesterday", "is no record of a plan")]
    [InlineData("plan?version=0", "never had a version 0")]
    public async Task What_there_is_no_record_of_is_told(string path, string why)
    {
        var project = await _api.NewChainAsync();
        using var response = await _api.Http.GetAsync($"/api/v1/projects/{project}/{path}");
        Assert.Equal(HttpStatusCode.BadRequest, response.StatusCode);
        var told = JsonNode.Parse(await response.Content.ReadAsStringAsync())!["detail"]!.GetValue<string>();
        Assert.Contains(why, told, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_plan_as_it_was_is_the_plan_that_was_committed_then()
    {
        var project = await _api.NewChainAsync();
        var random = new Random(15);
        List<string> versions = [await _api.PlanAsync(project)];
        var plans = demo.App.Services.GetRequiredService<PlanStore>();
        for (var i = 0; i < 200 && versions.Count < 25; i++)
        {
            var (made, which) = (await plans.LoadAsync(project), random.Next(5));
            var edit = EditJson.Write(RandomEdit(random, made!.Schedule.Plan));
            var answer =
                which == 0 ? await _api.TakeBackAsync(project) : await _api.EditAsync(project, edit, made.Version, overrule: true);
            if (answer.Status == HttpStatusCode.OK)
                versions.Add(await _api.PlanAsync(project));
        }
        Assert.Equal(25, versions.Count);
        for (var version = 1; version <= versions.Count; version++)
            Assert.Equal(versions[version - 1], await _api.Http.GetStringAsync($"/api/v1/projects/{project}/plan?version={version}"));
    }

    [Fact]
    public async Task A_past_plan_is_shown_by_version_and_by_day_and_can_be_taken_as_a_baseline()
    {
        var project = await _api.NewChainAsync();
        await Edit(project, """{"type":"setLength","task":"a","length":"5d"}""");
        var page = await _api.Http.GetStringAsync($"/projects/{project}?version=1");
        Assert.Contains("It cannot be changed here", page, StringComparison.Ordinal);
        Assert.Contains("data-rights=\"past\"", page, StringComparison.Ordinal);
        Assert.DoesNotContain("data-rights=\"past\"", await _api.Http.GetStringAsync($"/projects/{project}"), StringComparison.Ordinal);
        Assert.Contains(
            "data-version=\"2\"",
            await _api.Http.GetStringAsync($"/projects/{project}?on=2099-01-01"),
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.NotFound, (await _api.Http.GetAsync($"/projects/{project}?version=9")).StatusCode);
        await Edit(project, """{"type":"takePastBaseline","name":"At first","version":1}""");
        var first = (await Get(_api, project, "baselines")).AsArray().Single()!;
        Assert.Equal(("2027-05-05T18:00", 4 * 480), (first["finish"]!.GetValue<string>(), first["driftMinutes"]!.GetValue<int>()));
        Assert.Equal(422, (int)(await _api.EditAsync(project, """{"type":"takePastBaseline","name":"Never","version":99}""", 1)).Status);
    }

    [Fact]
    public async Task A_past_day_is_the_plan_at_its_end_where_the_organisation_is()
    {
        using var database = TestDatabase.WithDemo();
        var clock = new MovedClock(new DateTimeOffset(2027, 5, 11, 12, 0, 0, TimeSpan.Zero), "Europe/Berlin");
        using var server = new DemoApp(database.Connection, new TestApp(database.Connection, today: "", world: clock));
        var project = await server.Api.NewChainAsync();
        foreach (var (length, hours) in new[] { ("2d", 24), ("3d", 9), ("4d", 2) })
        {
            // Wednesday noon; Wednesday 23:00 in Berlin; Thursday 1:00, which is still Wednesday in London.
            clock.Now = clock.Now.AddHours(hours);
            await server.Api.EditAsync(project, $$"""{"type":"setLength","task":"a","length":"{{length}}"}""", 1, overrule: true);
        }
        foreach (var (day, version) in new[] { ("2027-05-10", 1), ("2027-05-11", 1), ("2027-05-12", 3), ("2027-05-13", 4) })
            Assert.Contains(
                $"data-version=\"{version}\"",
                await server.Api.Http.GetStringAsync($"/projects/{project}?on={day}"),
                StringComparison.Ordinal
            );
        var page = System.Net.WebUtility.HtmlDecode(await server.Api.Http.GetStringAsync($"/projects/{project}?version=3"));
        Assert.Matches("max=\"2\" step=\"1\" value=\"1\"\\s+aria-valuetext=\"Wed 12 May\"", page);
    }

    private static PlanEdit RandomEdit(Random random, Plan plan)
    {
        if (plan.Tasks.IsEmpty)
            return new AddTask("again", "Begun again");
        while (true)
        {
            var kind = EditKinds.All[random.Next(EditKinds.All.Length)];
            if (kind.Type.IsAssignableTo(typeof(ITrustedEdit)))
                continue;
            var (on, edit) = kind.Sample(random, plan);
            if (ReferenceEquals(on, plan))
                return edit;
        }
    }

    private async Task<JsonNode> Edit(Guid project, string edit)
    {
        var answer = await _api.EditAsync(project, edit, 1, overrule: true);
        Assert.True(answer.Status == HttpStatusCode.OK, answer.Body.ToJsonString());
        return answer.Body;
    }

    private static async Task<JsonNode> Get(ApiClient api, Guid project, string path) =>
        JsonNode.Parse(await api.Http.GetStringAsync($"/api/v1/projects/{project}/{path}"))!;
}
