using System.Net;
using System.Text;
using System.Text.Json.Nodes;

namespace Auxilium.Web.Tests;

public class ImportsApiTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Fair = """
        {"format":"auxilium-plan/1", "project":{"name":"Summer fair", "start":"2027-05-10"}, "people":[{"id":"wanda","name":"Wanda Coles",
          "initials":"WC"}], "tasks":[{"id":"a","name":"Choose the field","length":"3d"}]}
        """;

    private const string Csv = "Task,Length,After\nTents,2d,\nStalls,3d,Tents\n";

    [Fact]
    public async Task A_file_is_read_and_nothing_is_kept_until_that_is_asked_for()
    {
        var project = await demo.Api.CreateAsync(Fair);

        var read = await SendAsync(demo.Api.Http, $"/api/v1/projects/{project}/imports", "list.csv", Csv);
        Assert.Equal(HttpStatusCode.OK, read.Status);
        Assert.Equal("table", read.Body["kind"]!.GetValue<string>());
        Assert.Equal(["Tents", "Stalls"], read.Body["list"]!["rows"]!.AsArray().Select(row => row!["name"]!.GetValue<string>()));
        Assert.Null(read.Body["version"]);
        Assert.DoesNotContain("Tents", await demo.Api.PlanAsync(project), StringComparison.Ordinal);

        var made = await SendAsync(demo.Api.Http, $"/api/v1/projects/{project}/imports?commit=true", "list.csv", Csv, ("after", "a"));
        Assert.Equal(2, made.Body["version"]!.GetValue<int>());
        Assert.Contains("2 rows", made.Body["told"]!.GetValue<string>(), StringComparison.Ordinal);
        var plan = JsonNode.Parse(await demo.Api.PlanAsync(project))!;
        Assert.Equal(3, plan["tasks"]!.AsArray().Count);
        Assert.Single(plan["links"]!.AsArray());

        // One edit, that is taken back as one.
        Assert.Equal(HttpStatusCode.OK, (await demo.Api.TakeBackAsync(project)).Status);
        Assert.DoesNotContain("Tents", await demo.Api.PlanAsync(project), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Columns_and_the_row_of_headings_can_be_said()
    {
        var project = await demo.Api.CreateAsync(Fair);
        var path = $"/api/v1/projects/{project}/imports";

        var said = await SendAsync(demo.Api.Http, path, "list.csv", "x,y\nTents,4d\n", ("headRow", "2"), ("columns", "name,length"));
        Assert.Equal("Tents", said.Body["list"]!["rows"]!.AsArray().Single()!["name"]!.GetValue<string>());

        var wrong = await SendAsync(demo.Api.Http, path, "list.csv", Csv, ("columns", "name,colourful"));
        Assert.Equal(HttpStatusCode.BadRequest, wrong.Status);
    }

    [Fact]
    public async Task A_member_sees_how_a_file_is_read_and_does_not_add_it()
    {
        var project = await demo.Api.CreateAsync(Fair);
        var wanda = demo.App.SignedIn("wanda");
        var token = new ApiClient(wanda);

        Assert.Equal(HttpStatusCode.OK, (await SendAsync(token.Http, $"/api/v1/projects/{project}/imports", "a.csv", Csv)).Status);
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await SendAsync(token.Http, $"/api/v1/projects/{project}/imports?commit=true", "a.csv", Csv)).Status
        );
    }

    [Fact]
    public async Task A_list_that_comes_again_updates_what_is_there()
    {
        var project = await demo.Api.CreateAsync(Fair);
        var path = $"/api/v1/projects/{project}/imports";
        await SendAsync(demo.Api.Http, $"{path}?commit=true", "list.csv", Csv);

        const string Next = "Task,Length,After\nTents,4d,\nBunting,1d,\nCake,1d,\n";
        var read = await SendAsync(demo.Api.Http, path, "list.csv", Next, ("again", "true"));
        var list = read.Body["list"]!;
        Assert.Equal(["changed", "new", "new"], list["rows"]!.AsArray().Select(row => row!["state"]!.GetValue<string>()));
        Assert.Equal("2d → 4d", string.Join(' ', list["rows"]![0]!["changes"]!.AsArray().Select(c => $"{c!["before"]} → {c["after"]}")));
        var gone = list["gone"]!.AsArray().Single(row => row!["name"]!.GetValue<string>() == "Stalls")!["task"]!.GetValue<string>();

        var made = await SendAsync(
            demo.Api.Http,
            $"{path}?commit=true",
            "list.csv",
            Next,
            ("again", "true"),
            ("leave", "4"),
            ("remove", gone),
            ("levels", """{ "3": 1 }""")
        );
        Assert.Equal(3, made.Body["version"]!.GetValue<int>());
        var plan = JsonNode.Parse(await demo.Api.PlanAsync(project))!;
        Assert.Equal(["Tents", "Bunting", "Choose the field"], plan["tasks"]!.AsArray().Select(task => task!["name"]!.GetValue<string>()));

        var nothing = await SendAsync(demo.Api.Http, $"{path}?commit=true", "list.csv", "Task\nTents\n", ("again", "true"));
        Assert.Equal("The plan has all of this list already.", nothing.Body["detail"]!.GetValue<string>());
        var broken = await SendAsync(demo.Api.Http, path, "list.csv", Csv, ("levels", "{3"));
        Assert.Equal(HttpStatusCode.BadRequest, broken.Status);
    }

    [Fact]
    public async Task A_long_list_is_added_by_the_server_alone()
    {
        var project = await demo.Api.CreateAsync(Fair);
        var path = $"/api/v1/projects/{project}/imports";
        var list = "Task\n" + string.Join('\n', Enumerable.Range(1, 2_100).Select(n => $"Row {n}"));

        var read = await SendAsync(demo.Api.Http, path, "list.txt", list);
        Assert.True(read.Body["list"]!["isLong"]!.GetValue<bool>());
        Assert.Null(read.Body["list"]!["edit"]);
        var made = await SendAsync(demo.Api.Http, $"{path}?commit=true", "list.txt", list);
        Assert.Contains("2,100 rows added.", made.Body["told"]!.GetValue<string>(), StringComparison.Ordinal);

        const string Edit = """{ "type": "addRows", "rows": [{ "id": "x", "name": "Mine" }], "links": [] }""";
        Assert.Equal(HttpStatusCode.BadRequest, (await demo.Api.EditAsync(project, Edit, 2)).Status);
    }

    [Fact]
    public async Task What_is_no_list_is_refused_in_a_sentence_with_what_would_be_right()
    {
        var project = await demo.Api.CreateAsync(Fair);
        var path = $"/api/v1/projects/{project}/imports";

        var pdf = await SendAsync(demo.Api.Http, path, "poster.pdf", "%PDF-1.7 …");
        Assert.Equal(HttpStatusCode.BadRequest, pdf.Status);
        Assert.Contains("save the list as a spreadsheet", pdf.Body["detail"]!.GetValue<string>(), StringComparison.Ordinal);

        var plan = await SendAsync(demo.Api.Http, path, "plan.json", Fair.Replace("3d", "ages"));
        Assert.Contains("is a plan document that cannot be read.", plan.Body["detail"]!.GetValue<string>(), StringComparison.Ordinal);

        using var none = await demo.Api.Http.PostAsync(path, new MultipartFormDataContent { { new StringContent("2"), "sheet" } });
        Assert.Contains("the field “file”", await none.Content.ReadAsStringAsync(), StringComparison.Ordinal);

        using var text = await demo.Api.Http.PostAsync(path, new StringContent(Csv));
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, text.StatusCode);
    }

    [Fact]
    public async Task A_project_is_made_of_a_list_or_of_a_plan_document()
    {
        var list = await SendAsync(demo.Api.Http, "/api/v1/projects/imports", "Street fair.csv", Csv, ("start", "6 September 2027"));
        Assert.Equal(HttpStatusCode.Created, list.Status);
        var plan = JsonNode.Parse(await demo.Api.PlanAsync(list.Body["id"]!.GetValue<Guid>()))!;
        Assert.Equal(
            ("Street fair", "2027-09-06T09:00"),
            (plan["project"]!["name"]!.GetValue<string>(), plan["project"]!["start"]!.GetValue<string>())
        );
        Assert.Equal(2, plan["tasks"]!.AsArray().Count);

        var document = await SendAsync(demo.Api.Http, "/api/v1/projects/imports", "plan.json", Fair);
        Assert.Contains("Choose the field", await demo.Api.PlanAsync(document.Body["id"]!.GetValue<Guid>()), StringComparison.Ordinal);

        var broken = await SendAsync(
            demo.Api.Http,
            "/api/v1/projects/imports",
            "plan.json",
            Fair.Replace("3d", "3x", StringComparison.Ordinal)
        );
        Assert.Equal(HttpStatusCode.BadRequest, broken.Status);
        Assert.Contains("$.tasks[0].length", broken.Body.ToJsonString(), StringComparison.Ordinal);
    }

    private static async Task<(HttpStatusCode Status, JsonNode Body)> SendAsync(
        HttpClient http,
        string path,
        string name,
        string content,
        params (string Name, string Value)[] fields
    )
    {
        using var form = new MultipartFormDataContent { { new ByteArrayContent(Encoding.UTF8.GetBytes(content)), "file", name } };
        foreach (var (field, value) in fields)
            form.Add(new StringContent(value), field);
        using var answer = await http.PostAsync(path, form);
        return (answer.StatusCode, JsonNode.Parse(await answer.Content.ReadAsStringAsync())!);
    }
}
