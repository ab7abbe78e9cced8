using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Auxilium.Web.Tests;

/// <summary>Fields that all projects of the organisation have.</summary>
public class FieldsApiTests
{
    private const string Fair = """
        {"format":"auxilium-plan/1","project":{"name":"Fair","start":"2027-05-10"},"tasks":[{"id":"a","name":"Tents","length":"2d"}]}
        """;

    private static JsonObject Fields(params JsonObject[] fields) => new() { ["fields"] = new JsonArray([.. fields]) };

    private static JsonObject Code(string name = "Cost code") =>
        new()
        {
            ["id"] = "code",
            ["name"] = name,
            ["kind"] = "text",
        };

    private static async Task<string[]> NamesAsync(ApiClient api, Guid project) =>
        [
            .. JsonNode.Parse(await api.PlanAsync(project))!["project"]!["fields"]!
                .AsArray()
                .Select(field => $"{field!["name"]}{(field["retired"]!.GetValue<bool>() ? " (retired)" : "")}"),
        ];

    [Fact]
    public async Task Every_open_project_gets_them_and_new_ones_too_and_what_is_in_one_is_kept_when_it_goes()
    {
        using var database = TestDatabase.WithDemo()!;
        await using var app = new TestApp(database.Connection);
        var api = new ApiClient(app.SignedIn());
        var (before, idle) = (await api.CreateAsync(Fair), await api.CreateAsync(Fair));
        using var set = await api.Http.PutAsJsonAsync("/api/v1/fields", Fields(Code()));
        Assert.Equal(HttpStatusCode.OK, set.StatusCode);
        Assert.Contains("open projects have them now.", await set.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(["Cost code"], await NamesAsync(api, before));
        Assert.Equal(["Cost code"], await NamesAsync(api, await api.CreateAsync(Fair)));

        var typed = await api.EditAsync(before, """{"type":"setOwn","task":"a","field":"code","value":"A-17"}""", 2);
        Assert.Equal(HttpStatusCode.OK, typed.Status);
        Assert.Contains("Tents", typed.Body!.ToJsonString(), StringComparison.Ordinal);
        Assert.Contains(
            "A-17",
            await api.Http.GetStringAsync($"/api/v1/projects/{before}/export?format=csv&columns=name,own:code"),
            StringComparison.Ordinal
        );

        using var renamed = await api.Http.PutAsJsonAsync("/api/v1/fields", Fields(Code("Account")));
        Assert.Equal(["Account"], await NamesAsync(api, before));
        using var none = await api.Http.PutAsJsonAsync("/api/v1/fields", Fields());
        Assert.Equal(["Account (retired)"], await NamesAsync(api, before));
        Assert.Empty(await NamesAsync(api, idle));
        Assert.Contains("A-17", await api.PlanAsync(before), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Facts_of_projects_are_columns_of_all_projects_that_can_be_sorted_by()
    {
        using var database = TestDatabase.WithDemo()!;
        await using var app = new TestApp(database.Connection);
        var api = new ApiClient(app.SignedIn());
        var (small, large) = (
            await api.CreateAsync(Fair.Replace("Fair", "Small fair")),
            await api.CreateAsync(Fair.Replace("Fair", "Large fair"))
        );
        var guests = Code("Guests");
        (guests["kind"], guests["ofProject"]) = ("number", true);
        using var set = await api.Http.PutAsJsonAsync("/api/v1/fields", Fields(guests));
        Assert.Equal(HttpStatusCode.OK, set.StatusCode);
        foreach (var (project, count) in new[] { (small, "90"), (large, "1200") })
            Assert.Equal(
                HttpStatusCode.OK,
                (await api.EditAsync(project, $$"""{"type":"setProjectOwn","field":"code","value":"{{count}}"}""", 2)).Status
            );
        using var sorted = await TestApp.PostFormAsync(
            api.Http,
            "/projects",
            "/projects?handler=View",
            new()
            {
                ["look"] = "table",
                ["by"] = "own:code",
                ["statuses"] = "active",
            }
        );
        var page = await sorted.Content.ReadAsStringAsync();
        Assert.Contains("1200", page, StringComparison.Ordinal);
        Assert.Contains("Guests", page, StringComparison.Ordinal);
        // By number, not by its first figure.
        Assert.InRange(page.IndexOf("Small fair", StringComparison.Ordinal), 0, page.IndexOf("Large fair", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("""{"fields":[{"id":"a","name":"Seats","kind":"moon"}]}""", "Fields are sent as")]
    [InlineData("""{"fields":[{"id":"a","name":"","kind":"text"}]}""", "The name of a field has from 1 to 40 characters.")]
    [InlineData("""{"fields":[{"id":"a","name":"A"},{"id":"b","name":"a"}]}""", "Fields are sent as")]
    [InlineData("""{"fields":[{"id":"a","name":"A","kind":"text"},{"id":"b","name":"a","kind":"text"}]}""", "called the same")]
    [InlineData("""{"fields":null}""", "Fields are sent as")]
    [InlineData("""[]""", "Fields are sent as")]
    public async Task What_cannot_be_is_refused(string body, string why)
    {
        using var database = TestDatabase.WithDemo()!;
        await using var app = new TestApp(database.Connection);
        using var answer = await app.SignedIn()
            .PutAsync("/api/v1/fields", new StringContent(body, System.Text.Encoding.UTF8, "application/json"));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(why, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }
}
