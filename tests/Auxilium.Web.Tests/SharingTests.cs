using System.Net;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Auxilium.Storage.Access;

namespace Auxilium.Web.Tests;

/// <summary>Roles in a project, links for those without an account, and what members propose.</summary>
public partial class SharingTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Plan = """
        {"format":"auxilium-plan/1", "project":{"name":"Pontoon", "start":"2027-05-17"}, "people":[{"id":"oona", "name":"Oona Reilly",
          "initials":"OR", "email":"oona@tidewell.example"}, {"id":"imke", "name":"Imke Varga", "initials":"IV"}],
         "tasks":[{"id":"a", "name":"Sand the deck", "length":"2d", "note":"The gate code is 4711", "assignments":[{"person":"oona"}]},
           {"id":"b", "name":"Paint", "length":"1d", "deadline":"2027-06-01"}], "links":[{"from":"a", "to":"b"}]}
        """;

    [Fact]
    public async Task A_link_shows_what_it_may_and_nothing_else_until_it_is_withdrawn()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var coordinator = demo.App.SignedIn();
        var link = await LinkAsync(coordinator, project, new() { ["For"] = "Harbour office", ["columns"] = "owner" });
        var page = await demo.App.CreateClient().GetStringAsync(link);
        Assert.Contains("Sand the deck", page, StringComparison.Ordinal);
        Assert.Contains("Oona Reilly", page, StringComparison.Ordinal);
        Assert.Contains("data-rights=\"shared\"", page, StringComparison.Ordinal);
        foreach (
            var hidden in new[]
            {
                "tidewell.example",
                "4711",
                "\"length\":\"2d\"",
                "\"deadline\":",
                "\"after\":\"1\"",
                "\"state\":",
                "Wanda",
            }
        )
            Assert.DoesNotContain(hidden, page, StringComparison.Ordinal);
        Assert.Contains("Sand the deck", await demo.App.CreateClient().GetStringAsync(link + "/month"), StringComparison.Ordinal);
        var report = await demo.App.CreateClient().GetStringAsync(link + "/report");
        Assert.Contains("Sand the deck", report, StringComparison.Ordinal);
        Assert.Contains("Oona Reilly", report, StringComparison.Ordinal);
        foreach (var hidden in new[] { "tidewell.example", "4711", ">State<", ">Deadline<", "</strong> done" })
            Assert.DoesNotContain(hidden, report, StringComparison.Ordinal);
        var whole = await coordinator.GetStringAsync($"/projects/{project}/report");
        foreach (var shown in new[] { ">State<", "</strong> done", "Milestones" })
            Assert.Contains(shown, whole, StringComparison.Ordinal);
        // The link opens the page and no more.
        using var api = await demo.App.CreateClient().GetAsync($"/api/v1/projects/{project}/plan");
        Assert.Equal(HttpStatusCode.Unauthorized, api.StatusCode);

        var sharing = await coordinator.GetStringAsync($"/projects/{project}/sharing");
        Assert.DoesNotContain(link, sharing, StringComparison.Ordinal);
        await PostAsync(coordinator, project, "Withdraw", new() { ["link"] = LinkId().Match(sharing).Groups[1].Value });
        using var gone = await demo.App.CreateClient().GetAsync(link);
        Assert.Equal(HttpStatusCode.Gone, gone.StatusCode);
        using var never = await demo.App.CreateClient().GetAsync("/shared/never-was");
        Assert.Equal(await never.Content.ReadAsStringAsync(), await gone.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_link_with_a_password_asks_for_it_once()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var link = await LinkAsync(
            demo.App.SignedIn(),
            project,
            new()
            {
                ["For"] = "Sponsors",
                ["Password"] = "low tide",
                ["Until"] = "1 June",
            }
        );
        var client = demo.App.CreateClient();
        Assert.DoesNotContain("Sand the deck", await client.GetStringAsync(link), StringComparison.Ordinal);
        using var wrong = await TestApp.PostFormAsync(client, link, link, new() { ["Password"] = "high tide" });
        Assert.Contains("not the password", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        using var right = await TestApp.PostFormAsync(client, link, link, new() { ["Password"] = "low tide" });
        Assert.Contains("Sand the deck", await right.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Contains("Sand the deck", await client.GetStringAsync(link), StringComparison.Ordinal);
        Assert.DoesNotContain("Sand the deck", await demo.App.CreateClient().GetStringAsync(link), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_link_needs_a_name_a_password_of_some_length_and_a_day_to_come()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var page = await PostAsync(demo.App.SignedIn(), project, "Link", new() { ["Password"] = "x", ["Until"] = "1 March 2020" });
        foreach (var said in new[] { "Whom the link is for is missing", "6 to 200 characters", "That day has passed" })
            Assert.Contains(said, page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_role_that_is_given_counts_at_once_and_the_coordinators_stays()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var (coordinator, oona) = (demo.App.SignedIn(), new ApiClient(demo.App.SignedIn("oona")));
        Assert.Equal(
            HttpStatusCode.Accepted,
            (await oona.EditAsync(project, """{"type":"renameTask","task":"b","name":"Varnish"}""", 1)).Status
        );
        await PostAsync(coordinator, project, "Roles", Role("oona", "Member", "Coordinator"));
        Assert.Equal(
            HttpStatusCode.OK,
            (await oona.EditAsync(project, """{"type":"renameTask","task":"b","name":"Varnish"}""", 1)).Status
        );
        await PostAsync(coordinator, project, "Roles", Role("oona", "Coordinator", "None"));
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await oona.EditAsync(project, """{"type":"renameTask","task":"b","name":"Oil"}""", 2)).Status
        );
        Assert.Contains(
            "Choose a person",
            await PostAsync(coordinator, project, "Roles", Role("imke", "Coordinator", "None")),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task One_save_gives_many_roles_and_leaves_those_that_the_page_did_not_change()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var coordinator = demo.App.SignedIn();
        await PostAsync(coordinator, project, "Roles", Role("oona", "Member", "Viewer"));
        // Of a page that was opened before: it still shows Oona as a member.
        using var stale = new FormUrlEncodedContent([
            .. Pairs("person", "oona", "greta", "bert", ""),
            .. Pairs("was", "Member", "", "", ""),
            .. Pairs("role", "Member", "Coordinator", "Viewer", "Viewer"),
        ]);
        using var answer = await coordinator.PostAsync($"/projects/{project}/sharing?handler=Roles", stale);
        var page = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        Assert.Contains("Greta Holm is now a coordinator. Bert Stolk is now a viewer.", page, StringComparison.Ordinal);
        Assert.Equal("Viewer", RoleOf(page, "Oona Reilly"));
        Assert.Equal("Coordinator", RoleOf(page, "Greta Holm"));
        page = await PostAsync(coordinator, project, "Roles", Role("oona", "Viewer", "Plan"));
        Assert.Contains("Oona Reilly is a member again.", page, StringComparison.Ordinal);
        page = await PostAsync(coordinator, project, "Roles", Role("bert", "Viewer", "Plan"));
        Assert.Contains("Bert Stolk was removed from this project.", page, StringComparison.Ordinal);
        Assert.DoesNotContain("Role of Bert Stolk", page, StringComparison.Ordinal);
        page = await PostAsync(coordinator, project, "Roles", Role("oona", "Member", "Emperor"));
        Assert.Contains("Choose a person and a role", page, StringComparison.Ordinal);
    }

    private static IEnumerable<KeyValuePair<string, string>> Pairs(string name, params string[] values) =>
        values.Select(value => KeyValuePair.Create(name, value));

    private static string RoleOf(string page, string person) =>
        Regex
            .Match(page, $"aria-label=\"Role of {person}\">.*?<option value=\"(\\w+)\"\\s+selected", RegexOptions.Singleline)
            .Groups[1]
            .Value;

    [Fact]
    public async Task A_member_reports_on_own_tasks_and_proposes_the_rest()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var oona = new ApiClient(demo.App.SignedIn("oona"));
        Assert.Equal(
            HttpStatusCode.OK,
            (await oona.EditAsync(project, """{"type":"reportProgress","task":"a","progress":0.5}""", 1)).Status
        );
        Assert.Equal(
            HttpStatusCode.Accepted,
            (await oona.EditAsync(project, """{"type":"reportProgress","task":"b","progress":0.5}""", 2)).Status
        );
        Assert.Equal(
            HttpStatusCode.Accepted,
            (
                await oona.EditAsync(
                    project,
                    """
                    {"type":"together", "edits":[{"type":"reportProgress", "task":"a", "progress":0.6}, {"type":"setLength",
                    "task":"a", "length":"9d"}]}
                    """,
                    2
                )
            ).Status
        );
        Assert.Equal(HttpStatusCode.OK, (await oona.TakeBackAsync(project)).Status);
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (
                await oona.PostAsync($"/api/v1/projects/{project}/edits", $$"""{"id":"{{Guid.NewGuid()}}","baseVersion":2,"takeBack":1}""")
            ).Status
        );
        var refused = await oona.EditAsync(project, """{"type":"setLength","task":"nowhere","length":"3d"}""", 2);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.Status);
        Assert.Contains("\"length\": \"2d\"", await demo.Api.PlanAsync(project), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_proposal_says_what_it_would_do_now_and_overrules_nobody_unseen()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var oona = new ApiClient(demo.App.SignedIn("oona"));
        var longer = (await oona.EditAsync(project, """{"type":"setLength","task":"b","length":"3d"}""", 1)).Body[
            "proposal"
        ]!.GetValue<Guid>();
        await oona.EditAsync(project, """{"type":"renameTask","task":"b","name":"Varnish"}""", 1);
        Assert.Equal(
            HttpStatusCode.OK,
            (await demo.Api.EditAsync(project, """{"type":"setLength","task":"b","length":"5d"}""", 1)).Status
        );
        var sentences = await SentencesAsync();
        Assert.Contains("3 days instead of 5 days", sentences[0].Sentence, StringComparison.Ordinal);
        Assert.Null(sentences[0].Problem);

        var conflict = await demo.Api.PostAsync($"/api/v1/projects/{project}/proposals/{longer}/accept", "");
        Assert.Equal(HttpStatusCode.Conflict, conflict.Status);
        Assert.Equal(("5d", "3d"), (conflict.Body["theirs"]!.GetValue<string>(), conflict.Body["yours"]!.GetValue<string>()));
        Assert.Contains("\"length\": \"5d\"", await demo.Api.PlanAsync(project), StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.OK,
            (await demo.Api.PostAsync($"/api/v1/projects/{project}/proposals/{longer}/accept?overrule=true", "")).Status
        );
        Assert.Contains("\"length\": \"3d\"", await demo.Api.PlanAsync(project), StringComparison.Ordinal);

        Assert.Equal(HttpStatusCode.OK, (await demo.Api.EditAsync(project, """{"type":"removeTasks","tasks":["b"]}""", 3)).Status);
        var left = (await SentencesAsync()).Single();
        Assert.Contains("Varnish", left.Sentence, StringComparison.Ordinal);
        Assert.NotNull(left.Problem);

        async Task<List<(string Sentence, string? Problem)>> SentencesAsync() =>
            [
                .. JsonNode
                    .Parse(await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/proposals"))!
                    .AsArray()
                    .Select(p => (p!["sentence"]!.GetValue<string>(), p["problem"]?.GetValue<string>())),
            ];
    }

    [Fact]
    public async Task A_proposal_is_accepted_once_with_a_click_or_declined_or_taken_back()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var oona = new ApiClient(demo.App.SignedIn("oona"));
        var id = Guid.NewGuid();
        var body = $$"""{"id":"{{id}}","baseVersion":1,"edit":{"type":"setLength","task":"b","length":"3d"},"note":"Two coats"}""";
        var proposed = await oona.PostAsync($"/api/v1/projects/{project}/edits", body);
        Assert.Equal(HttpStatusCode.Accepted, proposed.Status);
        Assert.Contains("Paint", proposed.Body["sentence"]!.GetValue<string>(), StringComparison.Ordinal);
        await oona.PostAsync($"/api/v1/projects/{project}/edits", body);
        var open = JsonNode.Parse(await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/proposals"))!.AsArray();
        Assert.Equal("Two coats", open.Single()!["note"]!.GetValue<string>());
        Assert.Equal(HttpStatusCode.Forbidden, (await oona.PostAsync($"/api/v1/projects/{project}/proposals/{id}/accept", "")).Status);
        Assert.Equal(HttpStatusCode.OK, (await demo.Api.PostAsync($"/api/v1/projects/{project}/proposals/{id}/accept", "")).Status);
        Assert.Equal(HttpStatusCode.Conflict, (await demo.Api.PostAsync($"/api/v1/projects/{project}/proposals/{id}/accept", "")).Status);
        Assert.Contains("\"length\": \"3d\"", await demo.Api.PlanAsync(project), StringComparison.Ordinal);

        foreach (
            var closes in new Func<Guid, Task<HttpStatusCode>>[]
            {
                async p => (await demo.Api.PostAsync($"/api/v1/projects/{project}/proposals/{p}/decline", "")).Status,
                async p => (await oona.Http.DeleteAsync($"/api/v1/projects/{project}/proposals/{p}")).StatusCode,
            }
        )
        {
            var another = (await oona.EditAsync(project, """{"type":"setLength","task":"b","length":"9d"}""", 2)).Body[
                "proposal"
            ]!.GetValue<Guid>();
            Assert.Equal(HttpStatusCode.NoContent, await closes(another));
            Assert.Equal(HttpStatusCode.Conflict, await closes(another));
        }
        Assert.Equal("[]", await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/proposals"));
        Assert.Contains("\"length\": \"3d\"", await demo.Api.PlanAsync(project), StringComparison.Ordinal);
        var told = WebUtility.HtmlDecode(await oona.Http.GetStringAsync("/notices"));
        Assert.Contains("Imke Varga accepted what you proposed", told, StringComparison.Ordinal);
        Assert.Contains("Imke Varga declined what you proposed", told, StringComparison.Ordinal);
    }

    /// <summary>What the form of roles sends for one person.</summary>
    private static Dictionary<string, string> Role(string person, string was, string role) =>
        new()
        {
            ["person"] = person,
            ["was"] = was,
            ["role"] = role,
        };

    internal static async Task<string> LinkAsync(HttpClient coordinator, Guid project, Dictionary<string, string> fields) =>
        LinkIn(await PostAsync(coordinator, project, "Link", fields));

    /// <summary>The address of a link, where the page that made it shows it.</summary>
    internal static string LinkIn(string page) => Address().Match(page).Value;

    private static async Task<string> PostAsync(HttpClient client, Guid project, string handler, Dictionary<string, string> fields)
    {
        using var answer = await TestApp.PostFormAsync(
            client,
            $"/projects/{project}/sharing",
            $"/projects/{project}/sharing?handler={handler}",
            fields
        );
        return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
    }

    [GeneratedRegex("(?<!/js)/shared/[A-Za-z0-9_-]+")]
    private static partial Regex Address();

    [GeneratedRegex("name=\"link\" value=\"([^\"]+)\"")]
    private static partial Regex LinkId();
}
