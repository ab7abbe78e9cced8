using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Auxilium.Storage.Tracking;

namespace Auxilium.Web.Tests;

/// <summary>Rules H1 to H3: hours as they are entered, counted by a timer, and shown beside the work that was to be.</summary>
public class HoursTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Plan = """
        {"format":"auxilium-plan/1","project":{"name":"Lantern night","start":"2027-05-03"},
         "people":[{"id":"imke","name":"Imke Varga"},{"id":"wanda","name":"Wanda Coles"}],
         "tasks":[{"id":"a","name":"Glue lanterns","length":"1d","progress":0.25,"assignments":[{"person":"wanda"}]},
                  {"id":"b","name":"Hang lanterns","length":"2d","assignments":[{"person":"wanda"},{"person":"imke"}]},
                  {"id":"c","name":"Call the mayor","length":"1d","assignments":[{"person":"imke"}]}]}
        """;

    [Fact]
    public async Task H1_a_day_has_24_hours_over_all_projects()
    {
        var (one, other) = (await demo.Api.CreateAsync(Plan), await demo.Api.CreateAsync(Plan));
        using var wanda = demo.App.SignedIn("wanda");
        Assert.Equal(HttpStatusCode.OK, (await SayAsync(wanda, one, "a", """{"day":"2027-04-12","hours":15}""")).Status);
        var full = await SayAsync(wanda, other, "b", """{"day":"2027-04-12","hours":"11h"}""");
        Assert.Equal((HttpStatusCode.BadRequest, "hours"), (full.Status, full.Body["code"]!.GetValue<string>()));
        Assert.Contains("15 hours are on other tasks, so at most 9 hours are left", full.Detail, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, (await SayAsync(wanda, other, "b", """{"day":"2027-04-12","hours":9}""")).Status);
        // Another day has hours of its own, and less is always possible.
        Assert.Equal(HttpStatusCode.OK, (await SayAsync(wanda, other, "b", """{"day":"2027-04-13","hours":24}""")).Status);
        Assert.Equal(HttpStatusCode.OK, (await SayAsync(wanda, one, "a", """{"day":"2027-04-12","hours":0}""")).Status);
    }

    [Fact]
    public async Task H1_coordinators_enter_anybodys_hours_and_members_their_own()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var (imke, wanda) = (demo.App.SignedIn(), demo.App.SignedIn("wanda"));
        Assert.Equal(
            HttpStatusCode.OK,
            (await SayAsync(imke, project, "a", """{"day":"2027-05-12","hours":2,"person":"wanda"}""")).Status
        );
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await SayAsync(wanda, project, "b", """{"day":"2027-05-12","hours":2,"person":"imke"}""")).Status
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await SayAsync(imke, project, "a", """{"day":"2027-05-12","hours":2,"person":"oona"}""")).Status
        );
        var entries = JsonNode.Parse(await imke.GetStringAsync($"/api/v1/projects/{project}/hours?from=2027-05-12&to=2027-05-12"))!;
        var entry = Assert.Single(entries.AsArray())!;
        Assert.Equal("Wanda Coles Glue lanterns 120", $"{entry["personName"]} {entry["taskName"]} {entry["minutes"]}");
        Assert.Equal(HttpStatusCode.BadRequest, (await imke.GetAsync($"/api/v1/projects/{project}/hours?from=soon")).StatusCode);
    }

    [Fact]
    public async Task H1_hours_stay_when_their_task_is_removed_and_when_it_comes_back()
    {
        var project = await demo.Api.CreateAsync(Plan);
        using var wanda = demo.App.SignedIn("wanda");
        await SayAsync(wanda, project, "a", """{"day":"2027-05-12","hours":2}""");
        await demo.Api.EditAsync(project, """{"type":"removeTasks","tasks":["a"]}""", 1);
        Assert.Contains("Glue lanterns", await wanda.GetStringAsync("/my-week/hours?from=2027-05-12"), StringComparison.Ordinal);
        // What was entered can be put right; on a task that nobody has worked on there is nothing to put right.
        Assert.Equal(HttpStatusCode.OK, (await SayAsync(wanda, project, "a", """{"day":"2027-05-12","hours":3}""")).Status);
        await demo.Api.EditAsync(project, """{"type":"removeTasks","tasks":["b"]}""", 2);
        var gone = await SayAsync(wanda, project, "b", """{"day":"2027-05-12","hours":1}""");
        Assert.Equal((HttpStatusCode.BadRequest, "taskGone"), (gone.Status, gone.Body["code"]!.GetValue<string>()));
        await demo.Api.TakeBackAsync(project);
        await demo.Api.TakeBackAsync(project);
        Assert.Equal("a 180", await UsedAsync(demo.Api, project, one => $"{one["task"]} {one["minutes"]}"));
    }

    [Fact]
    public async Task H2_a_timer_runs_on_one_task_of_a_person_and_adds_its_minutes_to_the_days_it_ran_on()
    {
        using var database = TestDatabase.WithDemo();
        var clock = new MovedClock(new DateTimeOffset(2027, 5, 13, 20, 0, 0, TimeSpan.Zero), "Europe/Berlin");
        using var moved = new DemoApp(database.Connection, new TestApp(database.Connection, today: "", world: clock));
        var project = await moved.Api.CreateAsync(Plan);
        var (phone, desk) = (moved.App.SignedIn("wanda"), moved.App.SignedIn("wanda"));
        Assert.Equal(HttpStatusCode.OK, (await StartAsync(phone, project, "a")).Status);
        clock.Now = clock.Now.AddMinutes(30);
        // On another device the same one runs, and starting it twice changes nothing.
        Assert.Equal("Glue lanterns 1800", await RunningAsync(desk));
        Assert.Equal(HttpStatusCode.OK, (await StartAsync(desk, project, "a")).Status);
        var other = await StartAsync(desk, project, "b");
        Assert.Equal("The timer on Glue lanterns stopped: 30 minutes on Thu 13 May added.", other.Body["stopped"]!.GetValue<string>());
        // From 22:30 until 1:00 of the next day in Berlin.
        clock.Now = clock.Now.AddMinutes(150);
        var stopped = await PostAsync(phone, "/api/v1/timer/stop", "");
        Assert.Equal(
            "The timer on Hang lanterns stopped: 1.5 hours on Thu 13 May and 1 hour on Fri 14 May added.",
            stopped.Body["sentence"]!.GetValue<string>()
        );
        Assert.Equal(HttpStatusCode.NoContent, (await desk.GetAsync("/api/v1/timer")).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await PostAsync(desk, "/api/v1/timer/stop", "")).Status);
        Assert.Equal("a 30,b 150", await UsedAsync(new ApiClient(desk), project, one => $"{one["task"]} {one["minutes"]}"));
    }

    [Fact]
    public async Task H2_a_timer_that_was_forgotten_asks_how_long_it_really_was()
    {
        using var database = TestDatabase.WithDemo();
        var clock = new MovedClock(new DateTimeOffset(2027, 5, 13, 15, 0, 0, TimeSpan.Zero), "Europe/Berlin");
        using var moved = new DemoApp(database.Connection, new TestApp(database.Connection, today: "", world: clock));
        var project = await moved.Api.CreateAsync(Plan);
        await StartAsync(moved.Api.Http, project, "b");
        clock.Now = clock.Now.AddHours(17);
        var asked = await PostAsync(moved.Api.Http, "/api/v1/timer/stop", "");
        Assert.Equal((HttpStatusCode.Conflict, "forgotten"), (asked.Status, asked.Body["code"]!.GetValue<string>()));
        Assert.Contains("ran for 17 hours", asked.Detail, StringComparison.Ordinal);
        // Nor does another one begin before that is answered.
        Assert.Equal(HttpStatusCode.Conflict, (await StartAsync(moved.Api.Http, project, "a")).Status);
        Assert.Equal(HttpStatusCode.BadRequest, (await PostAsync(moved.Api.Http, "/api/v1/timer/stop", """{"hours":26}""")).Status);
        var really = await PostAsync(moved.Api.Http, "/api/v1/timer/stop", """{"hours":"2,5"}""");
        Assert.EndsWith("2.5 hours on Thu 13 May added.", really.Body["sentence"]!.GetValue<string>(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task H2_a_timer_is_for_own_tasks()
    {
        var project = await demo.Api.CreateAsync(Plan);
        Assert.Equal(HttpStatusCode.OK, (await StartAsync(demo.Api.Http, project, "a")).Status);
        Assert.Equal(HttpStatusCode.Forbidden, (await StartAsync(demo.App.SignedIn("wanda"), project, "c")).Status);
        Assert.Equal(HttpStatusCode.BadRequest, (await StartAsync(demo.Api.Http, project, "gone")).Status);
    }

    [Theory]
    [InlineData("2027-05-13T20:00", "2027-05-13T21:00", "13:60")]
    [InlineData("2027-05-13T21:30", "2027-05-13T22:30", "13:30 14:30")]
    [InlineData("2027-05-13T21:59:40", "2027-05-13T22:00:50", "14:1")]
    [InlineData("2027-05-13T21:00", "2027-05-15T01:00", "13:60 14:1440 15:180")]
    // Clocks go forward in this night: the day has 23 hours.
    [InlineData("2027-03-27T22:00", "2027-03-28T22:30", "27:60 28:1380 29:30")]
    [InlineData("2027-05-13T20:00", "2027-05-13T20:00:20", "")]
    public void H2_minutes_are_split_at_midnight_where_the_organisation_is(string from, string to, string days) =>
        Assert.Equal(
            days,
            string.Join(
                ' ',
                Timers
                    .Split(Utc(from), Utc(to), TimeZoneInfo.FindSystemTimeZoneById("Europe/Berlin"))
                    .Select(d => $"{d.Day.Day}:{d.Minutes}")
            )
        );

    [Fact]
    public async Task H3_a_task_that_uses_more_than_is_done_says_so_with_what_to_expect()
    {
        var project = await demo.Api.CreateAsync(Plan);
        using var wanda = demo.App.SignedIn("wanda");
        await SayAsync(wanda, project, "a", """{"day":"2027-05-12","hours":1}""");
        Assert.Equal("1 of 8 hours used", await UsedAsync(demo.Api, project, one => one["said"]!.GetValue<string>()));
        await SayAsync(wanda, project, "a", """{"day":"2027-05-12","hours":3}""");
        Assert.Equal(
            "3 of 8 hours used, more than planned: about 12 hours at the end",
            await UsedAsync(demo.Api, project, one => one["said"]!.GetValue<string>())
        );
        var found = JsonNode.Parse(await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/check-up"))!.AsArray();
        Assert.Contains(
            "about 12 hours at the end",
            found.Single(f => f!["kind"]!.GetValue<string>() == "overHours")!["sentence"]!.GetValue<string>(),
            StringComparison.Ordinal
        );
        await SayAsync(wanda, project, "b", """{"day":"2027-05-12","hours":1}""");
        Assert.Contains(
            "nothing is done yet",
            await UsedAsync(demo.Api, project, one => one["said"]!.GetValue<string>()),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Hours_of_a_document_are_taken_in_unless_a_day_would_have_too_many()
    {
        var document = Plan.TrimEnd()[..^1] + ""","hours":[{"task":"a","person":"wanda","day":"2027-04-20","minutes":800}]}""";
        var project = await demo.Api.CreateAsync(document);
        Assert.Equal("a 800", await UsedAsync(demo.Api, project, one => $"{one["task"]} {one["minutes"]}"));
        var again = await demo.Api.PostAsync("/api/v1/projects", document);
        Assert.Equal(
            (HttpStatusCode.BadRequest, "$.hours[0].minutes"),
            (again.Status, again.Body["errors"]![0]!["path"]!.GetValue<string>())
        );
    }

    [Fact]
    public async Task The_week_sheet_has_ones_tasks_by_day_and_coordinators_see_those_of_others_and_the_sums_of_all()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var (imke, wanda) = (demo.App.SignedIn(), demo.App.SignedIn("wanda"));
        await SayAsync(wanda, project, "a", """{"day":"2027-05-05","hours":2.5}""");
        var own = await wanda.GetStringAsync("/my-week/hours?from=2027-05-05");
        Assert.Matches("data-day=\"2027-05-05\" data-minutes=\"150\"\\s+aria-label=\"Glue lanterns, Wed 5 May\"", own);
        Assert.DoesNotContain("everybody, by person", own, StringComparison.Ordinal);
        // The week after offers the rows of this one.
        Assert.Contains("data-last=\"true\"", await wanda.GetStringAsync("/my-week/hours?from=2027-05-12"), StringComparison.Ordinal);
        Assert.Contains(
            "Hours of Wanda Coles",
            await imke.GetStringAsync("/my-week/hours?who=wanda&from=2027-05-05"),
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.NotFound, (await wanda.GetAsync("/my-week/hours?who=imke")).StatusCode);
        var people = await imke.GetStringAsync("/my-week/hours?who=:people&from=2027-05-03&weeks=2");
        Assert.Contains("2.5 h", people, StringComparison.Ordinal);
        Assert.Contains("Glue lanterns", await imke.GetStringAsync("/my-week/hours?who=:tasks&from=2027-05-03"), StringComparison.Ordinal);
    }

    private static DateTime Utc(string text) =>
        DateTime.SpecifyKind(DateTime.Parse(text, System.Globalization.CultureInfo.InvariantCulture), DateTimeKind.Utc);

    private static async Task<string> UsedAsync(ApiClient api, Guid project, Func<JsonNode, string> words) =>
        string.Join(
            ',',
            JsonNode.Parse(await api.Http.GetStringAsync($"/api/v1/projects/{project}/used"))!.AsArray().Select(o => words(o!))
        );

    private static async Task<string> RunningAsync(HttpClient client)
    {
        var timer = JsonNode.Parse(await client.GetStringAsync("/api/v1/timer"))!;
        return $"{timer["taskName"]} {timer["seconds"]}";
    }

    private static Task<Answer> StartAsync(HttpClient client, Guid project, string task) =>
        SendAsync(client, HttpMethod.Put, $"/api/v1/projects/{project}/tasks/{task}/timer", "");

    private static Task<Answer> SayAsync(HttpClient client, Guid project, string task, string body) =>
        SendAsync(client, HttpMethod.Put, $"/api/v1/projects/{project}/tasks/{task}/hours", body);

    private static Task<Answer> PostAsync(HttpClient client, string path, string body) => SendAsync(client, HttpMethod.Post, path, body);

    private static async Task<Answer> SendAsync(HttpClient client, HttpMethod method, string path, string body)
    {
        using var request = new HttpRequestMessage(method, path);
        if (body.Length > 0)
            request.Content = new StringContent(body, Encoding.UTF8, "application/json");
        using var response = await client.SendAsync(request);
        var text = await response.Content.ReadAsStringAsync();
        return new Answer(response.StatusCode, text.Length == 0 ? new JsonObject() : JsonNode.Parse(text) ?? new JsonObject());
    }
}
