using System.Net;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>The directory: what people are, their time, their leaving, and lists of them.</summary>
public partial class PeopleTests(DemoApp demo) : IClassFixture<DemoApp>
{
    [Fact]
    public async Task The_directory_lists_people_by_team_with_totals()
    {
        var page = await PageAsync(demo.App.SignedIn("oona"), "/people");
        Assert.Matches(@"4 staff, \d+ volunteers, 1 supplier", page);
        Assert.Contains("Boatbuilder", page, StringComparison.Ordinal);
        Assert.DoesNotContain("/people/new", page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Only_organisers_see_what_somebody_costs_and_change_who_they_are()
    {
        var organiser = demo.App.SignedIn();
        var about = new Dictionary<string, string>
        {
            ["Name"] = "Priya Raman",
            ["Initials"] = "PR",
            ["MailAddress"] = "priya@tidewell.example",
            ["Role"] = "Publicity",
            ["Team"] = "Office",
            ["ReportsTo"] = "priya",
            ["Kind"] = "Staff",
            ["HourlyRate"] = "-3",
        };
        var wrong = await PostAsync(organiser, "/people/priya", "Save", about);
        Assert.Contains("cannot report to themselves", wrong, StringComparison.Ordinal);
        Assert.Contains("This is no amount", wrong, StringComparison.Ordinal);
        (about["ReportsTo"], about["HourlyRate"]) = ("jonas", "27,50");
        Assert.Contains("Saved: hourly rate.", await PostAsync(organiser, "/people/priya", "Save", about), StringComparison.Ordinal);
        (about["Team"], about["Role"]) = ("Print shop", "Printer");
        Assert.Contains("Saved: role and team.", await PostAsync(organiser, "/people/priya", "Save", about), StringComparison.Ordinal);
        Assert.Contains("Nothing was different", await PostAsync(organiser, "/people/priya", "Save", about), StringComparison.Ordinal);
        Assert.Contains("27.50", await PageAsync(organiser, "/people/priya"), StringComparison.Ordinal);
        about["ReportsTo"] = "";
        Assert.DoesNotContain("27.50", await PageAsync(demo.App.SignedIn("priya"), "/people/priya"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Forbidden, await StatusAsync(demo.App.SignedIn("priya"), "/people/priya", "Save", about));
        Assert.DoesNotContain("27.5", await demo.App.SignedIn("priya").GetStringAsync("/api/v1/projects"), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("Away")]
    [InlineData("Save")]
    [InlineData("HandOver")]
    [InlineData("Invite")]
    [InlineData("Leave")]
    [InlineData("Return")]
    [InlineData("Merge")]
    public async Task Somebody_else_changes_nothing_of_a_person(string what) =>
        Assert.Equal(
            HttpStatusCode.Forbidden,
            await StatusAsync(
                demo.App.SignedIn("greta"),
                "/people/wanda",
                what,
                new()
                {
                    ["From"] = "1 June",
                    ["organiser"] = "true",
                    ["into"] = "greta",
                }
            )
        );

    [Fact]
    public async Task Days_off_move_work_in_every_plan_are_told_and_taken_back()
    {
        var project = await NewProjectAsync("tomas");
        var client = demo.App.SignedIn("tomas");
        Assert.Contains(
            "The last day is before the first",
            await PostAsync(client, "/people/tomas", "Away", new() { ["From"] = "20 May", ["To"] = "19 May" }),
            StringComparison.Ordinal
        );
        var page = await PostAsync(
            client,
            "/people/tomas",
            "Away",
            new()
            {
                ["From"] = "19 May",
                ["To"] = "20 May",
                ["Note"] = "Sailing",
            }
        );
        Assert.Contains("Hull: Tomas Lindqvist is away from Wed 19 May to Thu 20 May.", page, StringComparison.Ordinal);
        var plan = JsonNode.Parse(await demo.Api.PlanAsync(project))!;
        Assert.Equal("own-tomas", plan["people"]![0]!["calendar"]!.GetValue<string>());
        Assert.Equal("Away", plan["calendars"]![0]!["exceptions"]![0]!["name"]!.GetValue<string>());
        var card = JsonNode.Parse(await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/tasks/a"))!;
        Assert.StartsWith("2027-05-21", card["finish"]!.GetValue<string>(), StringComparison.Ordinal);
        Assert.Contains(
            "Tomas Lindqvist is away from Wed 19 May to Thu 20 May",
            card["away"]!.AsArray().Single()!.GetValue<string>(),
            StringComparison.Ordinal
        );
        var days = Days().Match(page).Groups[1].Value;
        await PostAsync(client, "/people/tomas", "NotAway", new() { ["days"] = days });
        card = JsonNode.Parse(await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/tasks/a"))!;
        Assert.StartsWith("2027-05-19", card["finish"]!.GetValue<string>(), StringComparison.Ordinal);
        Assert.Empty(card["away"]!.AsArray());
    }

    [Fact]
    public async Task Who_joins_a_plan_brings_their_own_week()
    {
        var organiser = demo.App.SignedIn();
        await PostWeekAsync(organiser, "/people/wanda", ["no", "", "", "", "no", "10:00-16:00", ""]);
        var project = await demo.Api.CreateAsync(
            """
            {"format":"auxilium-plan/1", "project":{"name":"Sails", "start":"2027-05-14"}, "tasks":[{"id":"a", "name":"Sew",
            "length":"2d"}]}
            """
        );
        var told = await demo.Api.EditAsync(project, """{"type":"setOwner","task":"a","owner":"Wanda Coles"}""", 1);
        Assert.Contains("Wanda Coles", ApiClient.Sentence(told.Body), StringComparison.Ordinal);
        var card = JsonNode.Parse(await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/tasks/a"))!;
        // Friday and Monday are free, Saturday has six hours: it goes on to Wednesday.
        Assert.StartsWith("2027-05-15T10:00", card["start"]!.GetValue<string>(), StringComparison.Ordinal);
        Assert.StartsWith("2027-05-19", card["finish"]!.GetValue<string>(), StringComparison.Ordinal);
        await demo.Api.TakeBackAsync(project);
        Assert.Equal("[]", JsonNode.Parse(await demo.Api.PlanAsync(project))!["calendars"]!.ToJsonString());
        await PostWeekAsync(organiser, "/people/wanda", ["", "", "", "", "", "", ""]);
    }

    [Fact]
    public async Task Who_leaves_cannot_sign_in_keeps_their_history_and_their_tasks_are_handed_over()
    {
        var project = await NewProjectAsync("femi");
        var (organiser, femi) = (demo.App.SignedIn(), demo.App.SignedIn("femi"));
        await new ApiClient(femi).EditAsync(project, """{"type":"reportProgress","task":"a","progress":0.5}""", 1);
        Assert.Contains("to be handed over", await PostAsync(organiser, "/people/femi", "Leave", []), StringComparison.Ordinal);
        Assert.Contains("This is a demo", await femi.GetStringAsync("/account"), StringComparison.Ordinal);
        Assert.DoesNotContain("Femi", await demo.App.CreateClient().GetStringAsync("/sign-in"), StringComparison.Ordinal);
        Assert.Contains(
            "Choose who takes it over",
            await PostAsync(organiser, "/people/femi", "HandOver", new() { ["project"] = project.ToString() }),
            StringComparison.Ordinal
        );
        await PostAsync(organiser, "/people/femi", "HandOver", new() { ["project"] = project.ToString(), ["to"] = "bert" });
        Assert.Contains("\"person\": \"bert\"", await demo.Api.PlanAsync(project), StringComparison.Ordinal);
        Assert.Contains(
            "Femi Adeyemi",
            await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/journal"),
            StringComparison.Ordinal
        );
        Assert.Contains("is back", await PostAsync(organiser, "/people/femi", "Return", []), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Two_entries_of_one_person_become_one()
    {
        var organiser = demo.App.SignedIn();
        var project = await demo.Api.CreateAsync(
            """
            {"format":"auxilium-plan/1", "project":{"name":"Twice", "start":"2027-05-17"}, "people":[{"id":"o-reilly", "name":"O. Reilly",
              "initials":"OR"}, {"id":"oona", "name":"Oona Reilly", "initials":"OR"}],
             "tasks":[{"id":"a", "name":"A", "length":"1d", "assignments":[{"person":"o-reilly"}, {"person":"oona", "share":0.5}]},
               {"id":"b", "name":"B", "length":"1d", "assignments":[{"person":"o-reilly"}]}]}
            """
        );
        Assert.Contains(
            "They are one now",
            await PostAsync(organiser, "/people/o-reilly", "Merge", new() { ["into"] = "oona" }),
            StringComparison.Ordinal
        );
        var plan = await demo.Api.PlanAsync(project);
        Assert.DoesNotContain("o-reilly", plan, StringComparison.Ordinal);
        Assert.Equal(
            2,
            JsonNode.Parse(plan)!["tasks"]!
                .AsArray()
                .Count(t => t!["assignments"]!.AsArray().Single()!["person"]!.GetValue<string>() == "oona")
        );
        Assert.Equal(HttpStatusCode.NotFound, (await organiser.GetAsync("/people/o-reilly")).StatusCode);
    }

    [Fact]
    public async Task What_somebody_else_saved_meanwhile_is_not_replaced_unseen()
    {
        var organiser = demo.App.SignedIn();
        var seen = Seen().Match(await organiser.GetStringAsync("/people/greta")).Groups[1].Value;
        await PostWeekAsync(demo.App.SignedIn("greta"), "/people/greta", ["9-12", "", "", "", "", "", ""]);
        var fields = new Dictionary<string, string> { ["Role"] = "Bookkeeper", ["Seen"] = seen };
        var told = await PostAsync(organiser, "/people/greta", "Save", fields);
        Assert.Contains("Somebody else changed Greta Holm meanwhile.", told, StringComparison.Ordinal);
        Assert.Contains("value=\"Bookkeeper\"", told, StringComparison.Ordinal);
        fields["Seen"] = Seen().Match(told).Groups[1].Value;
        Assert.Contains("Saved: role.", await PostAsync(organiser, "/people/greta", "Save", fields), StringComparison.Ordinal);
        Assert.Contains("09:00-12:00", await PageAsync(organiser, "/people/greta"), StringComparison.Ordinal);
    }

    [GeneratedRegex("name=\"Seen\" value=\"([^\"]+)\"")]
    private static partial Regex Seen();

    [Fact]
    public async Task The_last_organiser_stays_one()
    {
        var organiser = demo.App.SignedIn();
        Assert.Contains(
            "the only organiser",
            await PostAsync(organiser, "/people/imke", "Save", new() { ["Organiser"] = "false" }),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Saved: rights.",
            await PostAsync(organiser, "/people/wanda", "Save", new() { ["Maker"] = "true" }),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_list_of_people_is_read_first_and_says_what_is_wrong_line_by_line()
    {
        var organiser = demo.App.SignedIn();
        const string list =
            "Team;Name;E-mail;Kind;Reports to\nHarbour;Ruth Quay;ruth@quay.example;volunteer;Imke "
            + "Varga\nHarbour;;x@y.example;;\nHarbour;Sam Pier;sam at pier;;\nHarbour;Oona "
            + "Reilly;oona@tidewell.example;robot;\nHarbour;Bert Stolk;bert@tidewell.example;supplier;\n";
        var read = await PostAsync(organiser, "/people/import", "Read", new() { ["Text"] = list });
        foreach (
            var said in new[]
            {
                "The name is missing.",
                "“sam at pier” is no mail address.",
                "“robot” is no kind of person",
                "Bert Stolk is here",
                "Import 2 people",
            }
        )
            Assert.Contains(said, read, StringComparison.Ordinal);
        Assert.DoesNotContain("Ruth Quay", await PageAsync(organiser, "/people"), StringComparison.Ordinal);
        var taken = await PostAsync(organiser, "/people/import", "Take", new() { ["Text"] = list });
        Assert.Contains("2 people taken in.", taken, StringComparison.Ordinal);
        var ruth = (await demo.App.Services.GetRequiredService<Storage.People.Directory>().FindAsync("ruth-quay"))!;
        Assert.Equal(("Harbour", PersonKind.Volunteer, "imke", "RQ"), (ruth.Team, ruth.Kind, ruth.ReportsTo, ruth.Initials));
        Assert.Contains(
            "No column is called “Name”",
            await PostAsync(organiser, "/people/import", "Read", new() { ["Text"] = "a,b\n1,2" }),
            StringComparison.Ordinal
        );
    }

    private Task<Guid> NewProjectAsync(string owner) =>
        demo.Api.CreateAsync(
            $$"""
            {"format":"auxilium-plan/1","project":{"name":"Hull","start":"2027-05-17"},"people":[{"id":"{{owner}}","name":"{{(
                owner == "tomas" ? "Tomas Lindqvist" : "Femi Adeyemi"
            )}}","initials":"X"}],
             "tasks":[{"id":"a","name":"Scrape the hull","length":"3d","assignments":[{"person":"{{owner}}"}]}]}
            """
        );

    private static async Task<string> PageAsync(HttpClient client, string path) =>
        WebUtility.HtmlDecode(await client.GetStringAsync(path));

    private static async Task<string> PostAsync(HttpClient client, string page, string handler, Dictionary<string, string> fields)
    {
        using var answer = await TestApp.PostFormAsync(client, page, $"{page}?handler={handler}", fields);
        return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
    }

    private static async Task PostWeekAsync(HttpClient client, string page, string[] week)
    {
        var token = Token().Match(await client.GetStringAsync(page)).Groups[1].Value;
        using var form = new FormUrlEncodedContent(
            week.Select(d => KeyValuePair.Create("week", d)).Append(KeyValuePair.Create("__RequestVerificationToken", token))
        );
        using var answer = await client.PostAsync($"{page}?handler=Save", form);
        Assert.Contains("Saved: working week.", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    private static async Task<HttpStatusCode> StatusAsync(
        HttpClient client,
        string page,
        string handler,
        Dictionary<string, string> fields
    )
    {
        // The token is the person's, from any page of theirs that has a form.
        using var answer = await TestApp.PostFormAsync(client, "/account", $"{page}?handler={handler}", fields);
        return answer.StatusCode;
    }

    [GeneratedRegex("name=\"days\" value=\"(\\d+)\"")]
    private static partial Regex Days();

    [GeneratedRegex("__RequestVerificationToken\" type=\"hidden\" value=\"([^\"]+)\"")]
    private static partial Regex Token();

    /// <summary>Who coordinates a project is said in one place: in its plan.</summary>
    [Fact]
    public async Task The_demo_says_once_who_coordinates_what_and_it_is_somebody_of_the_plan()
    {
        using var demo = new DemoApp();
        await using var db = await demo.App.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync();
        Assert.False(await db.ProjectRoles.AnyAsync(r => r.Role == ProjectRole.Coordinator));
        var projects = await db.Projects.ToListAsync();
        Assert.Equal(["imke", "jonas", "tomas"], projects.Select(p => p.Coordinator).Order());
        Assert.All(projects, project =>
            Assert.True(
                db.Members.Any(m => m.PersonId == project.Coordinator && db.Plans.Any(p => p.Id == m.PlanId && p.ProjectId == project.Id))
            )
        );
    }
}
