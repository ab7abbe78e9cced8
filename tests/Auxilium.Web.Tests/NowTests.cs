using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace Auxilium.Web.Tests;

/// <summary>The first page, on Thursday 13 May 2027: what needs whoever looks.</summary>
public partial class NowTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Plan = """
        {"format":"auxilium-plan/1","project":{"name":"Night market","start":"2027-05-03","finishBy":"2027-05-20"},
         "people":[{"id":"imke","name":"Imke Varga"},{"id":"wanda","name":"Wanda Coles"}],
         "tasks":[{"id":"late","name":"Order stalls","length":"1d","assignments":[{"person":"wanda"}]},
                  {"id":"begun","name":"Paint signs","length":"15d","assignments":[{"person":"wanda"}]},
                  {"id":"due","name":"Print posters","length":"1d","pinned":{"start":"2027-05-17"},"assignments":[{"person":"imke"}]},
                  {"id":"unowned","name":"Hire lamps","length":"2d","pinned":{"start":"2027-05-14"}},
                  {"id":"done","name":"Ask the council","length":"1d","progress":1,"actualFinish":"2027-05-03"},
                  {"id":"permit","name":"Permit granted","milestone":true,"deliveredBy":"Town council","pinned":{"start":"2027-05-28"}},
                  {"id":"far","name":"Accounts closed","milestone":true,"pinned":{"start":"2027-07-30"}}],
         "links":[{"from":"late","to":"begun"}]}
        """;

    [Fact]
    public async Task Each_line_stands_where_it_needs_somebody_and_says_what_it_holds_up()
    {
        await demo.Api.CreateAsync(Plan);
        var page = await PageAsync(demo.App.SignedIn(), "/");
        Assert.Contains("Order stalls", Section(page, "overdue"), StringComparison.Ordinal);
        Assert.Contains("was due Mon 3 May · Night market · Wanda Coles · holds up Paint signs", page, StringComparison.Ordinal);
        Assert.DoesNotContain("Paint signs</strong>", Section(page, "overdue"), StringComparison.Ordinal);
        Assert.Contains("Print posters", Section(page, "due"), StringComparison.Ordinal);
        Assert.Contains("Hire lamps", Section(page, "unowned"), StringComparison.Ordinal);
        Assert.Contains("delivered by Town council", Section(page, "milestones"), StringComparison.Ordinal);
        Assert.DoesNotContain("Accounts closed", Section(page, "milestones"), StringComparison.Ordinal);
        Assert.DoesNotContain("Ask the council", page, StringComparison.Ordinal);
        Assert.Matches("Night market</strong></a>\\s*<span class=\"late\">finishes Fri 30 Jul, .* past its deadline", page);
    }

    [Fact]
    public async Task Members_see_their_own_tasks_and_nobody_sees_projects_that_they_are_not_in()
    {
        await demo.Api.CreateAsync(Plan);
        var wanda = await PageAsync(demo.App.SignedIn("wanda"), "/");
        Assert.Contains("Order stalls", Section(wanda, "overdue"), StringComparison.Ordinal);
        Assert.DoesNotContain("Print posters", wanda, StringComparison.Ordinal);
        Assert.DoesNotContain("Hire lamps", wanda, StringComparison.Ordinal);
        Assert.DoesNotContain("data-act=\"owner\"", wanda, StringComparison.Ordinal);
        Assert.DoesNotContain("Night market", await PageAsync(demo.App.SignedIn("tomas"), "/"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Drift_beyond_the_days_that_were_chosen_is_told()
    {
        var project = await demo.Api.CreateAsync(Plan);
        await demo.Api.EditAsync(project, """{"type":"takeBaseline","name":"As agreed"}""", 1);
        await demo.Api.EditAsync(project, """{"type":"pinTask","task":"far","start":"2027-08-03"}""", 2);
        using var imke = demo.App.SignedIn();
        Assert.DoesNotContain("Accounts closed", await PageAsync(imke, "/"), StringComparison.Ordinal);
        var told = await PageAsync(imke, "/?drift=1");
        Assert.Contains("2 working days later than planned", Section(told, "off"), StringComparison.Ordinal);
        Assert.Contains("2 working days behind “As agreed”", told, StringComparison.Ordinal);
        // It is remembered.
        Assert.Contains("Accounts closed", await PageAsync(imke, "/"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_is_for_ones_team_is_there_to_be_taken_by_members_and_by_nobody_else()
    {
        var project = await demo.Api.CreateAsync(
            """
            {"format":"auxilium-plan/1","project":{"name":"Sail loft","start":"2027-05-17"},
             "people":[{"id":"imke","name":"Imke Varga"},{"id":"oona","name":"Oona Reilly"},{"id":"wanda","name":"Wanda Coles"}],
             "tasks":[{"id":"sew","name":"Sew the jib","length":"1d","role":"Crew"},{"id":"cut","name":"Cut cloth","length":"1d"}]}
            """
        );
        var oona = demo.App.SignedIn("oona");
        Assert.Contains("Take it: Sew the jib", Section(await PageAsync(oona, "/"), "open"), StringComparison.Ordinal);
        Assert.DoesNotContain("Take it", await PageAsync(demo.App.SignedIn("wanda"), "/"), StringComparison.Ordinal);
        // Only for oneself, and only what is for a team or role.
        var api = new ApiClient(oona);
        foreach (
            var edit in new[]
            {
                """{"type":"takeTask","task":"sew","person":"wanda"}""",
                """{"type":"takeTask","task":"cut","person":"oona"}""",
            }
        )
            Assert.Equal(HttpStatusCode.Accepted, (await api.EditAsync(project, edit, 1)).Status);
        var taken = await api.EditAsync(project, """{"type":"takeTask","task":"sew","person":"oona"}""", 1);
        Assert.StartsWith("Sew the jib is now Oona Reilly", ApiClient.Sentence(taken.Body), StringComparison.Ordinal);
        var late = await demo.Api.EditAsync(project, """{"type":"takeTask","task":"sew","person":"imke"}""", 2);
        Assert.Equal("Oona Reilly has taken this task already.", late.Detail);
        Assert.DoesNotContain("Sew the jib", Section(await PageAsync(oona, "/") + "</section>", "open"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Who_is_overbooked_is_told_by_person_and_by_team()
    {
        using var own = new DemoApp();
        await own.Api.CreateAsync(
            """
            {"format":"auxilium-plan/1","project":{"name":"Stock-taking","start":"2027-05-17"},
             "people":[{"id":"imke","name":"Imke Varga"},{"id":"greta","name":"Greta Holm"}],
             "tasks":[{"id":"a","name":"Count ropes","length":"1d","assignments":[{"person":"greta"}]},
                      {"id":"b","name":"Count cups","length":"1d","assignments":[{"person":"greta"}]}]}
            """
        );
        var page = await PageAsync(own.App.SignedIn(), "/");
        Assert.Matches("Greta Holm</strong></a>\\s*<span\\s*class=\"late\">8 h too much on Mon 17 May", page);
        Assert.Matches("Workshop</strong>, as a team", page);
        Assert.Contains(
            "1 person overbooked this week and next",
            await PageAsync(own.App.SignedIn(), "/projects"),
            StringComparison.Ordinal
        );
        await own.LookAsync(new DateOnly(2027, 5, 13));
        await own.LookAsync(new DateOnly(2027, 5, 14));
        Assert.Contains(
            "Greta Holm is overbooked: 8 h too much on Mon 17 May.",
            await PageAsync(own.App.SignedIn(), "/notices"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Tasks_over_their_hours_and_proposals_wait_for_the_coordinator()
    {
        var project = await demo.Api.CreateAsync(Plan);
        using var wanda = demo.App.SignedIn("wanda");
        using var said = await wanda.PutAsync(
            $"/api/v1/projects/{project}/tasks/begun/hours",
            new StringContent("""{"day":"2027-05-12","hours":3}""", Encoding.UTF8, "application/json")
        );
        Assert.Equal(HttpStatusCode.OK, said.StatusCode);
        await new ApiClient(wanda).EditAsync(project, """{"type":"setLength","task":"due","length":"3d"}""", 1);
        var page = await PageAsync(demo.App.SignedIn(), "/");
        Assert.Contains("3 of 120 hours used, more than planned: nothing is done yet", Section(page, "eating"), StringComparison.Ordinal);
        Assert.Contains("Proposals to decide", page, StringComparison.Ordinal);
        Assert.Contains("Print posters now takes 3 days", page, StringComparison.Ordinal);
        Assert.DoesNotContain("Proposals to decide", await PageAsync(wanda, "/"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Where_nothing_needs_anybody_it_says_so()
    {
        using var oona = demo.App.SignedIn("oona");
        Assert.DoesNotContain("All clear", await PageAsync(oona, "/"), StringComparison.Ordinal);
        foreach (var project in JsonNode.Parse(await demo.Api.Http.GetStringAsync("/api/v1/projects"))!.AsArray())
        {
            var id = project!["id"]!.GetValue<Guid>();
            var tasks = JsonNode.Parse(await demo.Api.PlanAsync(id))!["tasks"]!.AsArray();
            var hers = tasks.Where(t => t!["assignments"]!.AsArray().Any(a => a!["person"]!.GetValue<string>() == "oona"));
            foreach (var task in hers)
                await demo.Api.EditAsync(id, $$"""{"type":"setActive","task":"{{task!["id"]}}","on":false}""", 1, overrule: true);
        }
        Assert.Contains("All clear", await PageAsync(oona, "/"), StringComparison.Ordinal);
    }

    private static async Task<string> PageAsync(HttpClient client, string path) =>
        WebUtility.HtmlDecode(await client.GetStringAsync(path));

    private static string Section(string page, string key) =>
        SectionOf().Matches(page).SingleOrDefault(m => m.Groups["key"].Value == key)?.Value ?? "";

    [GeneratedRegex("<section class=\"now-part\" [^>]*data-section=\"(?<key>[^\"]+)\">.*?</section>", RegexOptions.Singleline)]
    private static partial Regex SectionOf();
}
