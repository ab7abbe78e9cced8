using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Auxilium.Storage.Tracking;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>All projects on one page: folders, favourites, status, the table and the timeline.</summary>
public class ProjectsTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Market = """
        {"format":"auxilium-plan/1","project":{"name":"Night market","start":"2027-05-03","finishBy":"2027-05-21","coordinator":"imke"},
         "people":[{"id":"imke","name":"Imke Varga"},{"id":"wanda","name":"Wanda Coles"}],
         "tasks":[{"id":"late","name":"Order stalls","length":"1d","serves":"permit","assignments":[{"person":"wanda"}]},
                  {"id":"guess","name":"Paint signs","length":"5d","estimate":{"low":"3d","likely":"5d","high":"60d"}},
                  {"id":"permit","name":"Permit granted","milestone":true,"deliveredBy":"Town council","pinned":{"start":"2027-05-18"}}]}
        """;

    [Fact]
    public async Task Folders_are_made_renamed_nested_once_and_deleted_and_projects_lie_in_them()
    {
        var project = await demo.Api.CreateAsync(Market.Replace("Night market", "Foldered market", StringComparison.Ordinal));
        var outer = await FolderAsync("Markets", null);
        var inner = await FolderAsync("In May", outer);
        await SendAsync(demo.Api.Http, HttpMethod.Put, $"/api/v1/projects/{project}/folder", $$"""{"folder":"{{inner}}"}""");
        var page = await PageAsync(demo.Api.Http);
        Assert.True(
            page.IndexOf("aria-label=\"Markets\"", StringComparison.Ordinal) < page.IndexOf("Foldered market", StringComparison.Ordinal)
        );
        Assert.Contains("Markets › In May", page, StringComparison.Ordinal);
        var renamed = await SendAsync(
            demo.Api.Http,
            HttpMethod.Put,
            $"/api/v1/folders/{inner}",
            $$"""{"name":"In spring","parent":"{{outer}}"}"""
        );
        Assert.Equal("In spring", renamed.Body["name"]!.GetValue<string>());
        // Deleted, it leaves what lay in it where it lay.
        Assert.Equal(HttpStatusCode.NoContent, (await SendAsync(demo.Api.Http, HttpMethod.Delete, $"/api/v1/folders/{inner}", "")).Status);
        Assert.Equal(outer, await FolderOfAsync(project));
        await SendAsync(demo.Api.Http, HttpMethod.Delete, $"/api/v1/folders/{outer}", "");
        Assert.Null(await FolderOfAsync(project));
        Assert.Equal(HttpStatusCode.NotFound, (await SendAsync(demo.Api.Http, HttpMethod.Delete, $"/api/v1/folders/{outer}", "")).Status);
    }

    [Fact]
    public async Task A_folder_that_cannot_be_is_told_why()
    {
        var outer = await FolderAsync("Boats", null);
        var inner = await FolderAsync("Wooden", outer);
        await ExpectRefusedAsync(HttpMethod.Post, "", """{"name":" "}""", "A folder needs a name");
        await ExpectRefusedAsync(HttpMethod.Post, "", """{"name":"boats"}""", "There is a folder called “boats” here already");
        await ExpectRefusedAsync(HttpMethod.Post, "", $$"""{"name":"Small","parent":"{{inner}}"}""", "Folders are nested once");
        await ExpectRefusedAsync(HttpMethod.Post, "", """{"name":"Small","parent":7}""", "must be the id of a folder");
        await ExpectRefusedAsync(HttpMethod.Put, $"/{outer}", $$"""{"name":"Boats","parent":"{{outer}}"}""", "cannot lie in itself");
        var other = await FolderAsync("Ropes", null);
        await ExpectRefusedAsync(
            HttpMethod.Put,
            $"/{outer}",
            $$"""{"name":"Boats","parent":"{{other}}"}""",
            "holds others: move those out"
        );
        await ExpectRefusedAsync(HttpMethod.Put, $"/{Guid.NewGuid()}", """{"name":"Gone"}""", "This folder has gone");
        var project = await demo.Api.NewChainAsync();
        var gone = await SendAsync(
            demo.Api.Http,
            HttpMethod.Put,
            $"/api/v1/projects/{project}/folder",
            $$"""{"folder":"{{Guid.NewGuid()}}"}"""
        );
        Assert.Contains("This folder has gone", gone.Detail, StringComparison.Ordinal);

        async Task ExpectRefusedAsync(HttpMethod method, string path, string body, string why)
        {
            var answer = await SendAsync(demo.Api.Http, method, $"/api/v1/folders{path}", body);
            Assert.Equal(HttpStatusCode.BadRequest, answer.Status);
            Assert.Contains(why, answer.Detail, StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task Folders_are_told_only_to_those_who_see_something_in_them_or_fill_them()
    {
        var secret = await FolderAsync("Secret plans", null);
        var project = await demo.Api.NewChainAsync();
        await SendAsync(demo.Api.Http, HttpMethod.Put, $"/api/v1/projects/{project}/folder", $$"""{"folder":"{{secret}}"}""");
        using var wanda = demo.App.SignedIn("wanda");
        Assert.DoesNotContain("Secret plans", await wanda.GetStringAsync("/api/v1/folders"), StringComparison.Ordinal);
        Assert.DoesNotContain("Secret plans", await PageAsync(wanda), StringComparison.Ordinal);
        Assert.Contains("Secret plans", await demo.Api.Http.GetStringAsync("/api/v1/folders"), StringComparison.Ordinal);
        Assert.Contains("Events and campaigns", await wanda.GetStringAsync("/api/v1/folders"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Favourites_folds_and_how_one_looks_are_each_persons_own()
    {
        using var tomas = demo.App.SignedIn("tomas");
        var before = await PageAsync(tomas);
        Assert.DoesNotContain("Favourites", before, StringComparison.Ordinal);
        var roof = await IdOfAsync(tomas, "Slipway & Shed Roof");
        await SendAsync(tomas, HttpMethod.Put, $"/api/v1/projects/{roof}/favourite", """{"on":true}""");
        var folder = JsonNode
            .Parse(await tomas.GetStringAsync("/api/v1/folders"))!
            .AsArray()
            .Single(f => f!["name"]!.GetValue<string>() == "Events and campaigns")!["id"];
        await SendAsync(tomas, HttpMethod.Put, $"/api/v1/folders/{folder}/folded", """{"on":true}""");
        await ViewAsync(tomas, ("look", "table"), ("sort", "finish"), ("down", "true"));
        var page = await PageAsync(tomas);
        Assert.True(
            page.IndexOf("Favourites", StringComparison.Ordinal) < page.IndexOf(">Slipway & Shed Roof</a>", StringComparison.Ordinal)
                && page.IndexOf(">Slipway & Shed Roof</a>", StringComparison.Ordinal)
                    < page.IndexOf("aria-label=\"Events and campaigns\"", StringComparison.Ordinal)
        );
        Assert.Matches("data-key=\"fold-[^\"]+\"\\s+aria-expanded=\"false\"", page);
        Assert.Contains("<table class=\"projects-table\">", page, StringComparison.Ordinal);
        Assert.Contains("aria-sort=\"descending\"", page, StringComparison.Ordinal);
        // A press on the head of a column sorts by it, and once more the other way.
        await ViewAsync(tomas, ("by", "finish"));
        Assert.Contains("aria-sort=\"ascending\"", await PageAsync(tomas), StringComparison.Ordinal);
        await SendAsync(tomas, HttpMethod.Put, $"/api/v1/projects/{roof}/favourite", """{"on":false}""");
        Assert.DoesNotContain("Favourites", await PageAsync(tomas), StringComparison.Ordinal);
        using var imke = demo.App.SignedIn();
        Assert.DoesNotContain("<table class=\"projects-table\">", await PageAsync(imke), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Projects_are_left_out_by_status_and_those_at_rest_need_nobody()
    {
        var project = await demo.Api.CreateAsync(Market.Replace("Night market", "Resting market", StringComparison.Ordinal));
        using var jonas = demo.App.SignedIn();
        Assert.Contains("Resting market", await jonas.GetStringAsync("/"), StringComparison.Ordinal);
        var answer = await demo.Api.EditAsync(project, """{"type":"setProjectStatus","status":"onHold"}""", 1);
        Assert.Equal("The project is on hold. ", ApiClient.Sentence(answer.Body)[..24]);
        Assert.DoesNotContain("Resting market", await jonas.GetStringAsync("/"), StringComparison.Ordinal);
        Assert.Contains("Resting market", await PageAsync(jonas), StringComparison.Ordinal);
        await ViewAsync(jonas, ("statuses", "active"), ("statuses", "proposed"));
        var page = await PageAsync(jonas);
        Assert.DoesNotContain("Resting market", page, StringComparison.Ordinal);
        Assert.Contains("1 project is left out by status.", page, StringComparison.Ordinal);
        await ViewAsync(jonas, [.. new[] { "proposed", "active", "onHold", "finished" }.Select(s => ("statuses", s))]);
    }

    [Fact]
    public async Task The_timeline_has_all_projects_with_their_milestones_and_counts_open_just_those_tasks()
    {
        var project = await demo.Api.CreateAsync(Market.Replace("Night market", "Drawn market", StringComparison.Ordinal));
        await demo.App.Services.GetRequiredService<Chances>().RefreshAsync();
        using var greta = demo.App.SignedIn();
        var cards = await PageAsync(greta);
        Assert.Contains($"href=\"/projects/{project}?only=state:overdue\"", cards, StringComparison.Ordinal);
        Assert.Matches("Drawn market[\\s\\S]*?\\d+% chance of the deadline", cards);
        await ViewAsync(greta, ("look", "timeline"), ("months", "3"));
        var page = await PageAsync(greta);
        Assert.Contains($"href=\"/projects/{project}#permit\"", page, StringComparison.Ordinal);
        Assert.Contains("Permit granted, Tue 18 May, delivered by Town council, 1 of 1 left", page, StringComparison.Ordinal);
        await ViewAsync(greta, ("look", "cards"));
    }

    [Fact]
    public async Task A_chance_is_told_only_of_the_newest_version()
    {
        var project = await demo.Api.CreateAsync(Market);
        var chances = demo.App.Services.GetRequiredService<Chances>();
        await chances.RefreshAsync();
        var across = demo.App.Services.GetRequiredService<AcrossPlans>();
        var today = new DateOnly(2027, 5, 13);
        var chance = (await across.ProjectsAsync([project], today)).Single().Chance;
        Assert.InRange(chance!.Value, 0.05m, 0.95m);
        await demo.Api.EditAsync(project, """{"type":"setFinishBy","finishBy":"2027-05-07"}""", 1);
        Assert.Null((await across.ProjectsAsync([project], today)).Single().Chance);
        await chances.RefreshAsync();
        Assert.True((await across.ProjectsAsync([project], today)).Single().Chance < chance);
        await demo.Api.EditAsync(project, """{"type":"setFinishBy","finishBy":null}""", 2);
        await chances.RefreshAsync();
        Assert.Null((await across.ProjectsAsync([project], today)).Single().Chance);
    }

    [Fact]
    public async Task A_project_is_made_with_its_facts_and_what_is_wrong_with_one_is_told_at_its_field()
    {
        var folder = await FolderAsync("Fairs", null);
        Dictionary<string, string> Fields(string priority) =>
            new()
            {
                ["Name"] = "Summer fair",
                ["Start"] = "3 May 2027",
                ["Coordinator"] = "imke",
                ["Status"] = "Proposed",
                ["Colour"] = "moss",
                ["Priority"] = priority,
                ["InFolder"] = folder.ToString(),
                ["Note"] = "On the green.",
            };
        using var wrong = await TestApp.PostFormAsync(demo.Api.Http, "/projects/new", "/projects/new", Fields("high"));
        var page = WebUtility.HtmlDecode(await wrong.Content.ReadAsStringAsync());
        Assert.Contains("Priority is a whole number from 0 to 1000; 500 is usual.", page, StringComparison.Ordinal);
        Assert.Contains("On the green.</textarea>", page, StringComparison.Ordinal);
        using var made = await TestApp.PostFormAsync(demo.Api.Http, "/projects/new", "/projects/new", Fields("700"));
        var id = Guid.Parse(made.RequestMessage!.RequestUri!.Segments[^1]);
        var plan = JsonNode.Parse(await demo.Api.PlanAsync(id))!["project"]!;
        Assert.Equal("proposed moss 700 On the green.", $"{plan["status"]} {plan["colour"]} {plan["priority"]} {plan["note"]}");
        Assert.Equal(folder, await FolderOfAsync(id));
    }

    private async Task<Guid> FolderAsync(string name, Guid? parent)
    {
        var made = await demo.Api.PostAsync(
            "/api/v1/folders",
            new JsonObject { ["name"] = name, ["parent"] = parent?.ToString() }.ToJsonString()
        );
        Assert.Equal(HttpStatusCode.Created, made.Status);
        return made.Body["id"]!.GetValue<Guid>();
    }

    private async Task<Guid?> FolderOfAsync(Guid project) =>
        (await demo.App.Services.GetRequiredService<AcrossPlans>().ProjectsAsync([project], new DateOnly(2027, 5, 13))).Single().Folder;

    private static async Task<Guid> IdOfAsync(HttpClient client, string name) =>
        JsonNode.Parse(await client.GetStringAsync("/api/v1/projects"))!.AsArray().Single(p => p!["name"]!.GetValue<string>() == name)![
            "id"
        ]!.GetValue<Guid>();

    private static async Task<string> PageAsync(HttpClient client) => WebUtility.HtmlDecode(await client.GetStringAsync("/projects"));

    /// <summary>Sends the form above the projects; without a status all are shown.</summary>
    private static async Task ViewAsync(HttpClient client, params (string Name, string Value)[] fields)
    {
        IEnumerable<(string Name, string Value)> all = fields.Any(f => f.Name == "statuses")
            ? fields
            : fields.Concat(new[] { "proposed", "active", "onHold", "finished" }.Select(s => ("statuses", s)));
        using var content = new FormUrlEncodedContent(all.Select(f => KeyValuePair.Create(f.Name, f.Value)));
        using var answer = await client.PostAsync("/projects?handler=View", content);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
    }

    private static async Task<Answer> SendAsync(HttpClient client, HttpMethod method, string path, string body)
    {
        using var request = new HttpRequestMessage(method, path);
        if (body.Length > 0)
            request.Content = new StringContent(body, Encoding.UTF8, "application/json");
        using var response = await client.SendAsync(request);
        var text = await response.Content.ReadAsStringAsync();
        return new Answer(response.StatusCode, text.Length == 0 ? new JsonObject() : JsonNode.Parse(text)!);
    }
}
