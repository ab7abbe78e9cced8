using System.Net;
using System.Text.RegularExpressions;
using Auxilium.Storage.Access;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

public partial class PagesTests(DemoApp demo) : IClassFixture<DemoApp>
{
    [Fact]
    public async Task The_first_page_lists_projects_with_dates_progress_and_states()
    {
        var page = WebUtility.HtmlDecode(await demo.App.SignedIn().GetStringAsync("/projects"));
        Assert.Contains("Slipway & Shed Roof", page, StringComparison.Ordinal);
        Assert.Contains("9 working days behind “Trustees’ plan”", page, StringComparison.Ordinal);
        Assert.Contains("Deadline 14 Jun, ", page, StringComparison.Ordinal);
        Assert.Matches(@"\d+<span class=""count-word""> overdue", page);
    }

    [Fact]
    public async Task A_new_project_needs_a_name_and_a_date_and_keeps_what_was_typed()
    {
        var client = demo.App.SignedIn();
        var page = WebUtility.HtmlDecode(await PostAsync(client, "", "3/4"));
        Assert.Contains("A project needs a name", page, StringComparison.Ordinal);
        Assert.Contains("could be read two ways", page, StringComparison.Ordinal);
        Assert.Contains("value=\"3/4\"", page, StringComparison.Ordinal);
        var made = await PostAsync(client, "Boathouse open day", "1 June");
        Assert.Contains("Boathouse open day", made, StringComparison.Ordinal);
        Assert.Contains("plan-data", made, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Every_page_has_the_security_headers_and_no_inline_script_or_style()
    {
        foreach (var path in new[] { "/", "/projects/new", "/nowhere", "/api/v1/projects" })
        {
            using var response = await demo.App.SignedIn().GetAsync(path);
            var policy = response.Headers.GetValues("Content-Security-Policy").Single();
            Assert.Contains("default-src 'none'", policy, StringComparison.Ordinal);
            Assert.DoesNotContain("unsafe", policy, StringComparison.Ordinal);
            Assert.Equal("nosniff", response.Headers.GetValues("X-Content-Type-Options").Single());
            Assert.Equal("DENY", response.Headers.GetValues("X-Frame-Options").Single());
            var body = await response.Content.ReadAsStringAsync();
            Assert.DoesNotMatch("<script>|<script [^>]*text/javascript|\\sstyle=|\\son[a-z]+=\"", body);
        }
    }

    [Fact]
    public async Task A_missing_page_says_so()
    {
        using var response = await demo.App.SignedIn().GetAsync("/nowhere");
        Assert.Equal(HttpStatusCode.NotFound, response.StatusCode);
        Assert.Contains("There is no such page", await response.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Another_site_cannot_post_through_a_browser()
    {
        var client = demo.App.SignedIn();
        client.DefaultRequestHeaders.Remove("X-Auxilium-Token");
        using var form = new FormUrlEncodedContent(
            new Dictionary<string, string>
            {
                ["Name"] = "x",
                ["Start"] = "today",
                ["Coordinator"] = "imke",
            }
        );
        Assert.Equal(HttpStatusCode.BadRequest, (await client.PostAsync("/projects/new", form)).StatusCode);
        // Not even without an origin: only a program's own token needs no antiforgery token.
        var answer = await new ApiClient(client).PostAsync(
            "/api/v1/projects",
            """{"format":"auxilium-plan/1","project":{"name":"x","start":"2027-05-03"}}"""
        );
        Assert.Equal((HttpStatusCode.BadRequest, true), (answer.Status, answer.Detail.Contains("out of date", StringComparison.Ordinal)));
    }

    [Fact]
    public async Task A_request_for_another_host_is_refused()
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, "/") { Headers = { Host = "rebound.example" } };
        Assert.Equal(HttpStatusCode.BadRequest, (await demo.App.SignedIn().SendAsync(request)).StatusCode);
    }

    [Fact]
    public async Task Without_demo_data_the_first_person_makes_the_organisation_and_nobody_makes_another()
    {
        using var database = new TestDatabase();
        await using var app = new TestApp(database.Connection, empty: true);
        var client = app.CreateClient();
        Assert.Contains("Welcome to Auxilium", await client.GetStringAsync("/"), StringComparison.Ordinal);
        var fields = new Dictionary<string, string>
        {
            ["OrganisationName"] = "Quay Choir",
            ["Name"] = "Ada Moor",
            ["MailAddress"] = "ada@quay",
            ["Password"] = "short",
            ["Again"] = "short",
        };
        fields["Code"] = (await app.Services.GetRequiredService<Storage.People.Organisation>().FirstStartAsync())!;
        using var wrong = await TestApp.PostFormAsync(client, "/welcome", "/welcome", fields);
        var page = WebUtility.HtmlDecode(await wrong.Content.ReadAsStringAsync());
        Assert.Contains("is no mail address", page, StringComparison.Ordinal);
        Assert.Contains("at least 10 characters", page, StringComparison.Ordinal);
        Assert.Contains("value=\"Quay Choir\"", page, StringComparison.Ordinal);
        fields["MailAddress"] = "ada@quay.example";
        fields["Password"] = fields["Again"] = "tide table seven";
        using var made = await TestApp.PostFormAsync(client, "/welcome", "/welcome", fields);
        Assert.Contains("No project yet", await made.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.DoesNotContain("Welcome to Auxilium", await app.CreateClient().GetStringAsync("/welcome"), StringComparison.Ordinal);
        Assert.DoesNotContain("This is a demo", await app.CreateClient().GetStringAsync("/sign-in"), StringComparison.Ordinal);
    }

    [Fact]
    public void References_point_one_way()
    {
        string[] order = ["Auxilium.Planning", "Auxilium.Exchange", "Auxilium.Storage", "Auxilium.Web"];
        var assemblies = new[]
        {
            typeof(Planning.Plans.Plan),
            typeof(Exchange.Edits.EditJson),
            typeof(Storage.AuxiliumDb),
            typeof(Program),
        }.Select(t => t.Assembly);
        foreach (var assembly in assemblies)
        {
            var own = Array.IndexOf(order, assembly.GetName().Name);
            var references = assembly.GetReferencedAssemblies().Select(a => a.Name!).ToList();
            Assert.All(references.Where(order.Contains), name => Assert.True(Array.IndexOf(order, name) < own));
            if (own == 0)
                Assert.All(references, name => Assert.StartsWith("System.", name, StringComparison.Ordinal));
        }
    }

    private static async Task<string> PostAsync(HttpClient client, string name, string start)
    {
        var token = Token().Match(await client.GetStringAsync("/projects/new")).Groups[1].Value;
        using var form = new FormUrlEncodedContent(
            new Dictionary<string, string>
            {
                ["Name"] = name,
                ["Start"] = start,
                ["Coordinator"] = "imke",
                ["__RequestVerificationToken"] = token,
            }
        );
        using var response = await client.PostAsync("/projects/new", form);
        return await response.Content.ReadAsStringAsync();
    }

    [GeneratedRegex("__RequestVerificationToken\" type=\"hidden\" value=\"([^\"]+)\"")]
    private static partial Regex Token();
}
