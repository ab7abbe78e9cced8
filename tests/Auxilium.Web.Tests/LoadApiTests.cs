using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Auxilium.Storage.Access;
using Auxilium.Storage.Rows;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>Who has how much to do, on Thursday 13 May 2027, and what can be done about it.</summary>
public class LoadApiTests(DemoApp demo) : IClassFixture<DemoApp>
{
    /// <summary>Greta works on three days at once on Monday the 17th.</summary>
    private const string Busy = """
        {"format":"auxilium-plan/1","project":{"name":"Open day","start":"2027-05-17","coordinator":"imke"},
         "people":[{"id":"imke","name":"Imke Varga"},{"id":"greta","name":"Greta Holm"}],
         "tasks":[{"id":"sign","name":"Paint the sign","length":"1d","assignments":[{"person":"greta"}]},
                  {"id":"cake","name":"Bake","length":"2d","assignments":[{"person":"greta"}]},
                  {"id":"speech","name":"Write the speech","length":"4d","assignments":[{"person":"imke","share":0.5}]}]}
        """;

    private const string Other = """
        {"format":"auxilium-plan/1","project":{"name":"Audit of the till","start":"2027-05-17","coordinator":"imke"},
         "people":[{"id":"imke","name":"Imke Varga"},{"id":"greta","name":"Greta Holm"}],
         "tasks":[{"id":"count","name":"Count the money","length":"1d","assignments":[{"person":"greta","share":0.5}]}]}
        """;

    private static async Task<JsonNode> LoadAsync(ApiClient api, string query) =>
        JsonNode.Parse(await api.Http.GetStringAsync($"/api/v1/load?{query}"))!;

    private static JsonNode PersonIn(JsonNode load, string id) =>
        load["people"]!.AsArray().Single(person => person!["id"]!.GetValue<string>() == id)!;

    private static string Numbers(JsonNode list) => string.Join(' ', list.AsArray().Select(n => n!.ToString()));

    [Fact]
    public async Task A5_A6_people_and_teams_have_what_they_do_in_all_projects_that_go_on()
    {
        using var own = new DemoApp();
        var project = await own.Api.CreateAsync(Busy);
        var other = await own.Api.CreateAsync(Other);
        const string Days = "from=2027-05-17&to=2027-05-19&people=greta";
        var greta = PersonIn(await LoadAsync(own.Api, Days), "greta");
        Assert.Equal("480 480 480", Numbers(greta["capacity"]!));
        Assert.Equal("1200 480 0", Numbers(greta["load"]!));
        Assert.Equal(3, greta["work"]!.AsArray().Count);
        Assert.Null(greta["elsewhere"]);
        var board = (await LoadAsync(own.Api, "from=2027-05-17&to=2027-05-17&teams=board"))["teams"]![0]!;
        Assert.Equal(("Board", "1200"), (board["name"]!.GetValue<string>(), Numbers(board["load"]!)));
        // What is on hold is no work; what is proposed is where it is asked for.
        await own.Api.EditAsync(other, """{"type":"setProjectStatus","status":"onHold"}""", 1);
        Assert.Equal("960 480 0", Numbers(PersonIn(await LoadAsync(own.Api, Days), "greta")["load"]!));
        await own.Api.EditAsync(other, """{"type":"setProjectStatus","status":"proposed"}""", 2);
        Assert.Equal("960 480 0", Numbers(PersonIn(await LoadAsync(own.Api, Days), "greta")["load"]!));
        Assert.Equal("1200 480 0", Numbers(PersonIn(await LoadAsync(own.Api, Days + "&proposed=true"), "greta")["load"]!));
        Assert.Equal("1200 480 0", Numbers(PersonIn(await LoadAsync(own.Api, $"{Days}&projects={other}"), "greta")["load"]!));
        Assert.Equal(2, (await LoadAsync(own.Api, $"from=2027-05-17&to=2027-05-19&projects={project}"))["people"]!.AsArray().Count);
    }

    [Fact]
    public async Task A6_what_one_may_not_see_is_elsewhere_without_names()
    {
        using var own = new DemoApp();
        var project = await own.Api.CreateAsync(Busy);
        await own.Api.CreateAsync(Other);
        var roles = own.App.Services.GetRequiredService<ProjectRoles>();
        await roles.GiveAsync(project, "wanda", ProjectRole.Viewer);
        var wanda = new ApiClient(own.App.SignedIn("wanda"));
        var text = await wanda.Http.GetStringAsync($"/api/v1/load?from=2027-05-17&to=2027-05-18&projects={project}");
        Assert.DoesNotContain("Count the money", text, StringComparison.Ordinal);
        Assert.DoesNotContain("Audit of the till", text, StringComparison.Ordinal);
        var greta = PersonIn(JsonNode.Parse(text)!, "greta");
        Assert.Equal(("1200 480", "240 0"), (Numbers(greta["load"]!), Numbers(greta["elsewhere"]!)));
        // Who is on none of one's projects is not told of at all.
        var all = await LoadAsync(wanda, "from=2027-05-17&to=2027-05-18");
        Assert.Contains(all["people"]!.AsArray(), person => person!["id"]!.GetValue<string>() == "wanda");
        using var hidden = await new ApiClient(own.App.SignedIn("oona")).Http.GetAsync($"/api/v1/load?projects={project}");
        Assert.Equal(HttpStatusCode.NotFound, hidden.StatusCode);
    }

    [Fact]
    public async Task Hours_that_were_worked_stand_before_today_and_what_is_left_from_then_on()
    {
        using var own = new DemoApp();
        var project = await own.Api.CreateAsync(Busy.Replace("2027-05-17", "2027-05-10", StringComparison.Ordinal));
        using var content = new StringContent("""{"day":"2027-05-11","hours":3,"person":"greta"}""", Encoding.UTF8, "application/json");
        using var said = await own.Api.Http.PutAsync($"/api/v1/projects/{project}/tasks/cake/hours", content);
        Assert.True(said.IsSuccessStatusCode);
        var greta = PersonIn(await LoadAsync(own.Api, "from=2027-05-10&to=2027-05-17&people=greta"), "greta");
        // Both tasks should be over: they are caught up with from today on.
        Assert.Equal("0 180 0 960 480 0 0 0", Numbers(greta["load"]!));
    }

    /// <summary>What is kept beside the plans of the demo says what the plans themselves do.</summary>
    [Fact]
    public async Task Load_of_what_is_kept_is_that_of_the_plans()
    {
        using var own = new DemoApp();
        var across = (await LoadAsync(own.Api, "from=2027-05-13&to=2028-05-13"))["people"]!
            .AsArray()
            .SelectMany(person => person!["work"]!.AsArray().Select(work => (Person: person["id"]!.GetValue<string>(), Work: work!)))
            .ToDictionary(
                of => $"{of.Person} {of.Work["project"]} {of.Work["task"]}",
                of => of.Work["minutes"]!.AsArray().Sum(minutes => minutes!.GetValue<decimal>())
            );
        var (found, projects) = (0, JsonNode.Parse(await own.Api.Http.GetStringAsync("/api/v1/projects"))!.AsArray());
        foreach (var project in projects)
        {
            var id = project!["id"]!.GetValue<Guid>();
            var calculated = await own.Api.PostAsync("/api/v1/schedule?with=load&asOf=2027-05-13", await own.Api.PlanAsync(id));
            foreach (var person in calculated.Body["load"]!.AsArray())
            foreach (
                var task in person!["days"]!.AsArray().SelectMany(day => day!["parts"]!.AsArray()).GroupBy(p => p!["task"]!.ToString())
            )
            {
                found++;
                Assert.Equal(
                    (double)task.Sum(part => part!["minutes"]!.GetValue<decimal>()),
                    (double)across[$"{person["person"]} {id} {task.Key}"],
                    0.5
                );
            }
        }
        Assert.Equal(across.Count, found);
        Assert.True(found > 40);
    }

    [Fact]
    public async Task What_cannot_be_asked_is_said_where_it_is_asked()
    {
        foreach (
            var (query, words) in new[]
            {
                ("from=soon", "“soon” is not a day"),
                ("from=2027-05-13&to=2027-05-12", "0 to 799 days after"),
                ("from=2027-05-13&to=2035-05-12", "0 to 799 days after"),
                ("projects=mine", "not the id of a project"),
            }
        )
        {
            using var answer = await demo.Api.Http.GetAsync($"/api/v1/load?{query}");
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            Assert.Contains(words, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task N5_levelling_proposes_one_edit_which_is_made_and_released()
    {
        using var own = new DemoApp();
        var project = await own.Api.CreateAsync(Busy);
        var before = await own.Api.PlanAsync(project);
        var proposal = await LevelAsync(own.Api, project, """{"mode":"withinFloat","people":["greta"],"restarts":20,"wholeDays":true}""");
        Assert.Equal(before, await own.Api.PlanAsync(project));
        Assert.Equal(
            "8 h are overbooked, and none would be. 1 task moves; the finish stays Thu 20 May.",
            proposal["sentence"]!.GetValue<string>()
        );
        Assert.Equal(
            ("Greta Holm has no time for it on Mon 17 May, besides Paint the sign.", true),
            (proposal["moved"]![0]!["reason"]!.GetValue<string>(), proposal["moved"]![0]!["isDelayed"]!.GetValue<bool>())
        );
        var made = await own.Api.EditAsync(project, proposal["edit"]!.ToJsonString(), 1);
        Assert.Equal(HttpStatusCode.OK, made.Status);
        Assert.StartsWith("Levelling delays Bake until Tue 18 May.", ApiClient.Sentence(made.Body), StringComparison.Ordinal);
        Assert.Contains("\"delayedUntil\": \"2027-05-18T09:00\"", await own.Api.PlanAsync(project), StringComparison.Ordinal);
        var card = await own.Api.Http.GetStringAsync($"/api/v1/projects/{project}/tasks/cake");
        Assert.Contains("levelling delays it", card, StringComparison.Ordinal);
        var again = await LevelAsync(own.Api, project, """{"mode":"withinFloat","people":["greta"],"restarts":20}""");
        Assert.Null(again["edit"]);
        var released = await own.Api.EditAsync(project, """{"type":"releaseLevelling"}""", 2);
        Assert.StartsWith("Levelling no longer delays Bake.", ApiClient.Sentence(released.Body), StringComparison.Ordinal);
        Assert.Equal(before, await own.Api.PlanAsync(project));
        Assert.Equal(HttpStatusCode.OK, (await own.Api.TakeBackAsync(project)).Status);
    }

    [Fact]
    public async Task Levelling_counts_what_people_do_in_other_projects()
    {
        using var own = new DemoApp();
        var project = await own.Api.CreateAsync(Busy);
        await own.Api.CreateAsync(Other);
        var proposal = await LevelAsync(
            own.Api,
            project,
            """{"mode":"asLongAsItTakes","people":["greta"],"restarts":50,"wholeDays":true,"seed":3}"""
        );
        Assert.Empty(proposal["unsolved"]!.AsArray());
        // Half of Monday goes to the other project.
        Assert.All(proposal["moved"]!.AsArray(), task =>
            Assert.True(string.CompareOrdinal(task!["start"]!.GetValue<string>(), "2027-05-18") > 0)
        );
        Assert.Equal(2, proposal["moved"]!.AsArray().Count);
    }

    [Theory]
    [InlineData("""{"people":["greta"],"mode":"quickly"}""", "must be withinFloat or asLongAsItTakes")]
    [InlineData("""{"people":[]}""", "Nobody is chosen")]
    [InlineData("""{"people":["nobody"]}""", "Nobody on this plan has the id")]
    [InlineData("""{"people":["greta"],"timeLimit":600}""", "at most 30")]
    [InlineData("""{"people":["greta"],"from":"2027-05-20","to":"2027-05-13"}""", "give a later one")]
    [InlineData("""{"people":["greta"],"hurry":true}""", "nothing that levelling knows")]
    [InlineData("[]", "The body says what to level")]
    public async Task A_wish_that_makes_no_sense_is_refused(string body, string words)
    {
        var project = await demo.Api.CreateAsync(Busy);
        var answer = await demo.Api.PostAsync($"/api/v1/projects/{project}/levelling", body);
        Assert.Equal(HttpStatusCode.BadRequest, answer.Status);
        Assert.Contains(words, answer.Detail, StringComparison.Ordinal);
    }

    [Fact]
    public async Task N4_ways_out_are_edits_that_do_what_they_say()
    {
        using var own = new DemoApp();
        var project = await own.Api.CreateAsync(Busy);
        var ways = await own.Api.PostAsync($"/api/v1/projects/{project}/tasks/cake/ways-out", """{"person":"greta","day":"2027-05-17"}""");
        Assert.Equal(HttpStatusCode.OK, ways.Status);
        var later = ways.Body.AsArray().Single(way => way!["kind"]!.GetValue<string>() == "laterWithinFloat")!;
        Assert.Equal(("Start on Tue 18 May", 0m), (later["label"]!.GetValue<string>(), later["overAfter"]!.GetValue<decimal>()));
        var made = await own.Api.EditAsync(project, later["edit"]!.ToJsonString(), 1);
        Assert.Equal(HttpStatusCode.OK, made.Status);
        var greta = PersonIn(await LoadAsync(own.Api, $"from=2027-05-17&to=2027-05-19&projects={project}"), "greta");
        Assert.Equal("480 480 480", Numbers(greta["load"]!));
        var path = $"/api/v1/projects/{project}/tasks";
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await own.Api.PostAsync($"{path}/gone/ways-out", """{"person":"greta","day":"2027-05-17"}""")).Status
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await own.Api.PostAsync($"{path}/cake/ways-out", """{"person":"greta","day":"Monday"}""")).Status
        );
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await own.Api.PostAsync($"{path}/speech/ways-out", """{"person":"greta","day":"2027-05-17"}""")).Status
        );
    }

    [Fact]
    public async Task A_preview_tells_whose_load_would_be_other()
    {
        var project = await demo.Api.CreateAsync(Busy);
        var answer = await demo.Api.PostAsync(
            $"/api/v1/projects/{project}/edits?preview=true&load=true",
            $$$"""{"id":"{{{Guid.NewGuid()}}}","baseVersion":1,"edit":{"type":"placeTask","task":"sign","start":"2027-05-19"}}"""
        );
        Assert.Equal(
            "greta 2027-05-17 -480, greta 2027-05-19 480",
            string.Join(", ", answer.Body["load"]!.AsArray().Select(change => $"{change!["person"]} {change["day"]} {change["minutes"]}"))
        );
    }

    [Fact]
    public async Task Calculating_tells_load_where_it_is_asked_for()
    {
        var answer = await demo.Api.PostAsync("/api/v1/schedule?with=load&asOf=2027-05-13", Busy);
        var greta = answer.Body["load"]!.AsArray().Single(person => person!["person"]!.GetValue<string>() == "greta")!;
        Assert.Equal(
            "480 960 sign 480 cake 480",
            string.Join(
                ' ',
                greta["days"]![0]!["parts"]!
                    .AsArray()
                    .Select(part => $"{part!["task"]} {part["minutes"]}")
                    .Prepend($"{greta["days"]![0]!["capacityMinutes"]} {greta["days"]![0]!["loadMinutes"]}")
            )
        );
        Assert.Null((await demo.Api.PostAsync("/api/v1/schedule", Busy)).Body["load"]);
    }

    [Fact]
    public async Task Availability_is_typed_on_the_page_of_a_person_and_takes_part_of_their_time()
    {
        using var own = new DemoApp();
        await own.Api.CreateAsync(Busy);
        using var imke = own.App.SignedIn();
        using var wrong = await TestApp.PostFormAsync(imke, "/people/greta", "/people/greta?handler=Save", Form("half of it"));
        Assert.Contains("is no availability", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        using var said = await TestApp.PostFormAsync(
            imke,
            "/people/greta",
            "/people/greta?handler=Save",
            Form("50%, 0% 18 May to 19 May")
        );
        Assert.Contains("Saved", await said.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var greta = PersonIn(await LoadAsync(own.Api, "from=2027-05-17&to=2027-05-20&people=greta"), "greta");
        Assert.Equal("240 0 0 240", Numbers(greta["capacity"]!));
        Assert.Contains(
            "value=\"50%, 0% 18 May 2027 to 19 May 2027\"",
            await imke.GetStringAsync("/people/greta"),
            StringComparison.Ordinal
        );

        static Dictionary<string, string> Form(string availability) => new() { ["Availability"] = availability };
    }

    private static async Task<JsonNode> LevelAsync(ApiClient api, Guid project, string body)
    {
        using var content = new StringContent(body, Encoding.UTF8, "application/json");
        using var answer = await api.Http.PostAsync($"/api/v1/projects/{project}/levelling", content);
        var lines = (await answer.Content.ReadAsStringAsync()).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        return JsonNode.Parse(lines[^1])!["proposal"]!;
    }
}
