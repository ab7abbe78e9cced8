using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Auxilium.Storage;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

public class TemplatesTests(DemoApp demo) : IClassFixture<DemoApp>
{
    [Fact]
    public async Task A_project_starts_from_a_template_with_roles_to_fill_and_dates_from_its_start()
    {
        var app = demo.App;
        var imke = app.SignedIn();
        Assert.Contains("Concert in a hall", await imke.GetStringAsync("/projects/new"), StringComparison.Ordinal);

        var plan = await MadeAsync(
            imke,
            new()
            {
                ["From"] = "template:hall-concert",
                ["Name"] = "Autumn concert",
                ["Start"] = "6 September 2027",
                ["People"] = "AsRoles",
            }
        );

        Assert.Equal(("Autumn concert", "2027-09-06T09:00"), (Text(plan["project"]!, "name"), Text(plan["project"]!, "start")));
        Assert.Contains("Plan it back from the date", Text(plan["project"]!, "note"), StringComparison.Ordinal);
        var hall = plan["tasks"]!.AsArray().Single(task => Text(task!, "name") == "Reserve the hall")!;
        Assert.Equal("coordinator", Text(hall, "role"));
        Assert.Empty(hall["assignments"]!.AsArray());
        Assert.Equal(33, plan["links"]!.AsArray().Count);
    }

    [Fact]
    public async Task A_project_starts_from_an_earlier_one_without_what_happened()
    {
        var app = demo.App;
        var imke = app.SignedIn();
        var lantern = await LanternAsync(app);

        var plan = await MadeAsync(
            imke,
            new()
            {
                ["From"] = "project",
                ["Earlier"] = $"project:{lantern}",
                ["Name"] = "Lantern Regatta 2028",
                ["Start"] = "8 May 2028",
                ["People"] = "AsTheyAre",
            }
        );

        var tasks = plan["tasks"]!.AsArray();
        Assert.All(tasks, task => Assert.True(task!["progress"] is null || task["progress"]!.GetValue<decimal>() == 0));
        Assert.Contains(tasks, task => task!["assignments"] is JsonArray { Count: > 0 });
        Assert.Empty(plan["baselines"]?.AsArray() ?? []);
        Assert.DoesNotContain("\"2027-05", plan["tasks"]!.ToJsonString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_earlier_project_brings_its_costs_without_payments_where_they_are_asked_for_by_those_who_may_have_them()
    {
        var lantern = await LanternAsync(demo.App);
        var imke = demo.App.SignedIn();
        Assert.Empty(await ItemsAsync(imke, null));
        var items = await ItemsAsync(imke, "true");
        Assert.NotEmpty(items);
        Assert.All(items, item => Assert.Empty(item["payments"]!.AsArray()));

        // Who may make projects and only reports on this one.
        await demo.InDatabaseAsync(db => db.Users.Single(account => account.Id == "femi").MayMakeProjects = true);
        var (refused, _) = await PostAsync(demo.App.SignedIn("femi"), Fields("true"));
        Assert.Contains("What that project costs is for its coordinators", refused, StringComparison.Ordinal);

        Dictionary<string, string> Fields(string? withCosts) =>
            new()
            {
                ["From"] = "project",
                ["Earlier"] = $"project:{lantern}",
                ["Name"] = "Lantern Regatta 2029",
                ["Start"] = "7 May 2029",
                ["People"] = "AsTheyAre",
                ["WithCosts"] = withCosts ?? "false",
            };

        async Task<List<JsonNode>> ItemsAsync(HttpClient who, string? withCosts)
        {
            var plan = await MadeAsync(who, Fields(withCosts), "?money=true");
            return [.. plan["tasks"]!.AsArray().SelectMany(task => task!["items"]?.AsArray().Select(item => item!) ?? [])];
        }
    }

    [Fact]
    public async Task A_plan_document_becomes_a_project_as_it_was_saved_and_anything_else_is_refused_at_its_field()
    {
        var http = demo.App.SignedIn();
        var document = await http.GetByteArrayAsync($"/api/v1/projects/{await LanternAsync(demo.App)}/export?format=document");

        var made = await UploadAsync(http, document);
        var plan = await http.GetStringAsync($"/api/v1{made.Path}/plan");
        Assert.Equal(System.Text.Encoding.UTF8.GetString(document), plan);

        Assert.Contains("is no plan document: $", (await UploadAsync(http, "[1]"u8.ToArray())).Body, StringComparison.Ordinal);
        Assert.Contains("Choose a plan document", (await UploadAsync(http, [])).Body, StringComparison.Ordinal);
    }

    private static async Task<(string Body, string Path)> UploadAsync(HttpClient http, byte[] content)
    {
        var token = System.Text.RegularExpressions.Regex.Match(
            await http.GetStringAsync("/projects/new"),
            "name=\"__RequestVerificationToken\" type=\"hidden\" value=\"([^\"]+)\""
        );
        using var form = new MultipartFormDataContent
        {
            { new ByteArrayContent(content), "Upload", "plan.json" },
            { new StringContent(token.Groups[1].Value), "__RequestVerificationToken" },
        };
        using var answer = await http.PostAsync("/projects/new?handler=File", form);
        return (WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()), answer.RequestMessage!.RequestUri!.AbsolutePath);
    }

    [Fact]
    public async Task What_cannot_be_is_said_at_its_field_and_what_was_typed_stays()
    {
        var app = demo.App;
        var imke = app.SignedIn();

        var gone = await PostAsync(
            imke,
            new()
            {
                ["From"] = "template:no-such",
                ["Name"] = "Fair",
                ["Start"] = "6 September 2027",
            }
        );
        Assert.Contains("Choose a template or a project", gone.Body, StringComparison.Ordinal);
        Assert.Contains("value=\"6 September 2027\"", gone.Body, StringComparison.Ordinal);

        var none = await PostAsync(
            imke,
            new()
            {
                ["From"] = "template:hall-concert",
                ["Name"] = "Fair",
                ["Start"] = "",
            }
        );
        Assert.Contains("A date is missing", none.Body, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_plan_is_saved_as_a_template_once_under_a_name_without_mail_addresses_and_deleted()
    {
        var app = demo.App;
        var api = new ApiClient(app.SignedIn());
        var lantern = await LanternAsync(app);

        var saved = await SaveAsync(api, lantern, "Regatta");
        Assert.Equal(HttpStatusCode.Created, saved.StatusCode);
        var template = JsonNode.Parse(await saved.Content.ReadAsStringAsync())!;
        Assert.True(template["tasks"]!.GetValue<int>() > 10);
        var again = await SaveAsync(api, lantern, "regatta");
        Assert.Equal(HttpStatusCode.BadRequest, again.StatusCode);
        Assert.Contains("already: type another name", await again.Content.ReadAsStringAsync(), StringComparison.Ordinal);

        var id = Text(template, "id");
        var document = await api.Http.GetStringAsync($"/api/v1/templates/{id}");
        Assert.Contains("Imke Varga", document, StringComparison.Ordinal);
        Assert.DoesNotContain("@", document, StringComparison.Ordinal);
        Assert.Contains(id, await api.Http.GetStringAsync("/projects/new"), StringComparison.Ordinal);

        // Who does not coordinate a project cannot hand its plan out.
        var oona = new ApiClient(app.SignedIn("oona"));
        Assert.Equal(HttpStatusCode.NotFound, (await SaveAsync(oona, lantern, "Mine")).StatusCode);

        using var deleted = await api.Http.DeleteAsync($"/api/v1/templates/{id}");
        Assert.Equal(HttpStatusCode.NoContent, deleted.StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await api.Http.GetAsync($"/api/v1/templates/{id}")).StatusCode);
    }

    private static Task<HttpResponseMessage> SaveAsync(ApiClient api, Guid project, string name) =>
        api.Http.PostAsJsonAsync(
            "/api/v1/templates",
            new
            {
                project,
                name,
                note = "A race by night",
            }
        );

    /// <summary>That of the demo, whatever was made of it since.</summary>
    private static async Task<Guid> LanternAsync(TestApp app)
    {
        await using var db = await app.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync();
        return await db.Projects.Where(p => p.Name == "Lantern Regatta").OrderBy(p => p.CreatedAt).Select(p => p.Id).FirstAsync();
    }

    private static string Text(JsonNode node, string name) => node[name]!.GetValue<string>();

    private static async Task<JsonNode> MadeAsync(HttpClient http, Dictionary<string, string> fields, string query = "")
    {
        var (body, path) = await PostAsync(http, fields);
        Assert.True(path != "/projects/new", body);
        return JsonNode.Parse(await http.GetStringAsync($"/api/v1{path}/plan{query}"))!;
    }

    /// <returns>The page that comes of it, and where it is.</returns>
    private static async Task<(string Body, string Path)> PostAsync(HttpClient http, Dictionary<string, string> fields)
    {
        (fields["Coordinator"], fields["Priority"]) = ("imke", "500");
        using var answer = await TestApp.PostFormAsync(http, "/projects/new", "/projects/new", fields);
        return (WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()), answer.RequestMessage!.RequestUri!.AbsolutePath);
    }
}
