using System.Net;
using Npgsql;

namespace Auxilium.Web.Tests;

public class EditsApiTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private readonly ApiClient _api = demo.Api;

    [Fact]
    public async Task What_one_changed_oneself_since_one_began_to_type_is_no_conflict_and_what_others_changed_is()
    {
        var project = await demo.Api.NewChainAsync();
        var own = Guid.NewGuid();
        await demo.Api.EditAsync(project, """{"type":"setLength","task":"a","length":"2d"}""", 1, own);
        string Body(string more) =>
            $$"""
                {"id":"{{Guid.NewGuid()}}", "baseVersion":2, "seenVersion":1{{more}}, "edit":{"type":"setLength", "task":"a",
                "length":"3d"} }
                """;
        Assert.Equal(HttpStatusCode.Conflict, (await demo.Api.PostAsync($"/api/v1/projects/{project}/edits", Body(""))).Status);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await demo.Api.PostAsync($"/api/v1/projects/{project}/edits", Body(",\"own\":[1]"))).Status
        );
        Assert.Equal(
            HttpStatusCode.OK,
            (await demo.Api.PostAsync($"/api/v1/projects/{project}/edits", Body($",\"own\":[\"{own}\"]"))).Status
        );
    }

    [Fact]
    public async Task An_edit_tells_what_moved_and_what_it_did_to_the_finish()
    {
        var project = await _api.NewChainAsync();
        var answer = await _api.EditAsync(project, """{"type":"setLength","task":"a","length":"3d"}""", 1);
        Assert.Equal(HttpStatusCode.OK, answer.Status);
        Assert.Equal(2, answer.Body["version"]!.GetValue<int>());
        Assert.Equal(
            "A now takes 3 days instead of 1 day. 2 other tasks moved; finish Wed 5 May → Fri 7 May.",
            ApiClient.Sentence(answer.Body)
        );
        Assert.Equal("waits for 1 “A”", answer.Body["ripple"]!["moves"]![1]!["why"]!.GetValue<string>());
        Assert.Equal("2 working days later", answer.Body["ripple"]!["moves"]![2]!["shift"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_preview_tells_the_same_and_keeps_nothing()
    {
        var project = await _api.NewChainAsync();
        var before = await _api.PlanAsync(project);
        var body = $$$"""{"id":"{{{Guid.NewGuid()}}}","baseVersion":1,"edit":{"type":"setLength","task":"a","length":"3d"} }""";
        var answer = await _api.PostAsync($"/api/v1/projects/{project}/edits?preview=true", body);
        Assert.Contains("finish Wed 5 May → Fri 7 May", ApiClient.Sentence(answer.Body), StringComparison.Ordinal);
        Assert.Equal(before, await _api.PlanAsync(project));
    }

    [Fact]
    public async Task The_same_edit_sent_twice_is_applied_once()
    {
        var project = await _api.NewChainAsync();
        var id = Guid.NewGuid();
        var edit = """{"type":"addTask","id":"d","name":"D","parent":null,"after":"c"}""";
        Assert.Equal(HttpStatusCode.OK, (await _api.EditAsync(project, edit, 1, id)).Status);
        var again = await _api.EditAsync(project, edit, 1, id);
        Assert.Equal((HttpStatusCode.OK, 2), (again.Status, again.Body["version"]!.GetValue<int>()));
    }

    [Fact]
    public async Task The_screen_is_sent_only_what_became_other()
    {
        var project = await _api.NewChainAsync();
        var edit = $$$"""{"id":"{{{Guid.NewGuid()}}}","baseVersion":1,"edit":{"type":"setLength","task":"b","length":"3d"} }""";
        var changes = (await _api.PostAsync($"/api/v1/projects/{project}/edits?changes=true", edit)).Body["changes"]!;
        Assert.Equal(["b", "c"], changes["rows"]!.AsArray().Select(row => row!["id"]!.GetValue<string>()));
        Assert.Equal(["id", "length", "finish", "effort"], Fields(0));
        Assert.Equal(["id", "start", "finish"], Fields(1));
        Assert.Equal(2, changes["moved"]!.GetValue<int>());
        // Sent again, it may have been lost on the way: everything comes.
        var again = (await _api.PostAsync($"/api/v1/projects/{project}/edits?changes=true", edit)).Body["changes"]!;
        Assert.Equal(3, again["rows"]!.AsArray().Count);
        Assert.Equal(
            "B now takes 3 days instead of 1 day.",
            again["sentence"]![0]!["text"] + again["sentence"]![1]!["text"]!.GetValue<string>()
        );

        IEnumerable<string> Fields(int row) => changes["rows"]![row]!.AsObject().Select(field => field.Key);
    }

    [Fact]
    public async Task A_date_without_a_year_is_the_nearest_to_the_day_that_was_there()
    {
        var project = await _api.NewChainAsync();
        var answer = await PlaceNear("\"2029-08-01\"");
        Assert.Equal("2029-09-10T09:00", answer.Body["ripple"]!["moves"]![0]!["startAfter"]!.GetValue<string>());
        Assert.Equal("$.near", (await PlaceNear("7")).Body["errors"]![0]!["path"]!.GetValue<string>());

        Task<Answer> PlaceNear(string near) =>
            _api.PostAsync(
                $"/api/v1/projects/{project}/edits",
                $$$"""
                {"id":"{{{Guid.NewGuid()}}}", "baseVersion":1, "near":{{{near}}}, "edit":{"type":"placeTask", "task":"a",
                "start":"10 Sep"}}
                """
            );
    }

    [Fact]
    public async Task An_edit_made_on_an_old_version_is_applied_on_top()
    {
        var project = await _api.NewChainAsync();
        await _api.EditAsync(project, """{"type":"setLength","task":"a","length":"3d"}""", 1);
        var answer = await _api.EditAsync(project, """{"type":"renameTask","task":"a","name":"Alpha"}""", 1);
        Assert.Equal(HttpStatusCode.OK, answer.Status);
        var plan = await _api.PlanAsync(project);
        Assert.Contains("\"Alpha\"", plan, StringComparison.Ordinal);
        Assert.Contains("\"3d\"", plan, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Two_edits_of_the_same_field_are_a_choice_and_nothing_is_overwritten_unseen()
    {
        var project = await _api.NewChainAsync();
        await _api.EditAsync(project, """{"type":"setLength","task":"a","length":"3d"}""", 1);
        var mine = """{"type":"setLength","task":"a","length":"5d"}""";
        var refused = await _api.EditAsync(project, mine, 1);
        Assert.Equal(HttpStatusCode.Conflict, refused.Status);
        Assert.Equal(("3d", "5d", "Imke Varga"), (Text("theirs"), Text("yours"), Text("by")));
        Assert.Contains("\"3d\"", await _api.PlanAsync(project), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, (await _api.EditAsync(project, mine, 1, overrule: true)).Status);
        Assert.Contains("\"5d\"", await _api.PlanAsync(project), StringComparison.Ordinal);

        string Text(string field) => refused.Body[field]!.GetValue<string>();
    }

    [Fact]
    public async Task Wanting_what_somebody_else_did_already_is_no_conflict()
    {
        var project = await _api.NewChainAsync();
        var edit = """{"type":"setLength","task":"a","length":"3d"}""";
        await _api.EditAsync(project, edit, 1);
        Assert.Equal(HttpStatusCode.OK, (await _api.EditAsync(project, edit, 1)).Status);
    }

    [Fact]
    public async Task A_row_removed_meanwhile_is_a_clear_refusal_and_removing_a_changed_one_is_a_choice()
    {
        var project = await _api.NewChainAsync();
        await _api.EditAsync(project, """{"type":"renameTask","task":"b","name":"Beta"}""", 1);
        Assert.Equal(HttpStatusCode.Conflict, (await _api.EditAsync(project, """{"type":"removeTasks","tasks":["b"]}""", 1)).Status);
        await _api.EditAsync(project, """{"type":"removeTasks","tasks":["b"]}""", 2);
        var gone = await _api.EditAsync(project, """{"type":"setLength","task":"b","length":"2d"}""", 2);
        Assert.Equal((HttpStatusCode.UnprocessableEntity, "taskGone"), (gone.Status, gone.Body["code"]!.GetValue<string>()));
    }

    [Fact]
    public async Task Undo_and_redo_go_as_deep_as_the_journal_and_restore_every_byte()
    {
        var project = await _api.NewChainAsync();
        string[] edits =
        [
            """{"type":"setLength","task":"a","length":"2.5d?"}""",
            """{"type":"addTask","id":"d","name":"D 🚣","parent":null,"after":"a"}""",
            """{"type":"indentTask","task":"d"}""",
            """{"type":"setOwner","task":"d","owner":"Zoë New-Person"}""",
            """{"type":"typePredecessors","task":"c","after":"after 2 + 1d","rows":{"2":"b"}}""",
            """{"type":"finishTask","task":"b"}""",
            """{"type":"removeTasks","tasks":["a"]}""",
        ];
        List<string> states = [await _api.PlanAsync(project)];
        foreach (var edit in edits)
        {
            Assert.Equal(HttpStatusCode.OK, (await _api.EditAsync(project, edit, states.Count)).Status);
            states.Add(await _api.PlanAsync(project));
        }
        for (var i = edits.Length - 1; i >= 0; i--)
        {
            Assert.Equal(HttpStatusCode.OK, (await _api.TakeBackAsync(project)).Status);
            Assert.Equal(states[i], await _api.PlanAsync(project));
        }
        var nothing = await _api.TakeBackAsync(project);
        Assert.Equal((HttpStatusCode.Conflict, "There is no edit of yours left to undo."), (nothing.Status, nothing.Detail));
        for (var i = 1; i <= edits.Length; i++)
        {
            Assert.Equal(HttpStatusCode.OK, (await _api.TakeBackAsync(project, "lastTakeBack")).Status);
            Assert.Equal(states[i], await _api.PlanAsync(project));
        }
        Assert.Equal(HttpStatusCode.Conflict, (await _api.TakeBackAsync(project, "lastTakeBack")).Status);
        Assert.StartsWith(
            "Taken back: A removed with the row inside it.",
            ApiClient.Sentence((await _api.TakeBackAsync(project)).Body),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_new_edit_ends_what_could_be_done_again()
    {
        var project = await _api.NewChainAsync();
        await _api.EditAsync(project, """{"type":"setLength","task":"a","length":"2d"}""", 1);
        await _api.TakeBackAsync(project);
        await _api.EditAsync(project, """{"type":"setLength","task":"b","length":"2d"}""", 3);
        Assert.Equal(HttpStatusCode.Conflict, (await _api.TakeBackAsync(project, "lastTakeBack")).Status);
    }

    [Fact]
    public async Task Many_edits_at_once_are_all_kept_in_order_and_each_once()
    {
        var project = await _api.NewChainAsync();
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 12)
                .Select(i =>
                    _api.EditAsync(project, $$"""{"type":"addTask","id":"n{{i}}","name":"N{{i}}","parent":null,"after":"c"}""", 1)
                )
        );
        Assert.All(answers, a => Assert.Equal(HttpStatusCode.OK, a.Status));
        Assert.Equal(Enumerable.Range(2, 12), answers.Select(a => a.Body["version"]!.GetValue<int>()).Order());
        await using var connection = new NpgsqlConnection(demo.Connection);
        await connection.OpenAsync();
        await using var count = new NpgsqlCommand(
            "select count(*) from tasks where plan_id = (select id from plans where project_id = $1)",
            connection
        )
        {
            Parameters = { new() { Value = project } },
        };
        Assert.Equal(15L, await count.ExecuteScalarAsync());
    }

    [Theory]
    [InlineData(
        """{"type":"typePredecessors","task":"a","after":"3"}""",
        422,
        "circle",
        "go round in a circle: 1 “A” → 2 “B” → 3 “C” → 1 “A”"
    )]
    [InlineData("""{"type":"typePredecessors","task":"a","after":"9"}""", 422, "unknownRow", "There is no row 9")]
    [InlineData("""{"type":"typePredecessors","task":"a","after":"soon"}""", 422, "linkText", "not a row to come after")]
    [InlineData("""{"type":"typePredecessors","task":"a","after":"ends after 2"}""", 422, "linkText", "ends after 4 starts")]
    [InlineData("""{"type":"setLength","task":"a","length":"soon"}""", 400, null, "is not a length")]
    [InlineData("""{"type":"setLength","task":"a","length":"-3d"}""", 400, null, "cannot be negative")]
    [InlineData("""{"type":"setLength","task":"a","length":"11000d"}""", 422, "length", "longer than ten years")]
    [InlineData("""{"type":"placeTask","task":"a","start":"3/4"}""", 400, null, "could be read two ways")]
    [InlineData("""{"type":"placeTask","task":"a","start":"whenever"}""", 400, null, "is not a date")]
    [InlineData("""{"type":"moveTask","task":"a","parent":"zz","after":null}""", 422, "taskGone", "no longer in the plan")]
    [InlineData(
        """{"type":"setTracking","task":"a","progress":5,"actualStart":null,"actualFinish":null}""",
        422,
        "progress",
        "from 0 to 1"
    )]
    [InlineData(
        """{"type":"setTracking","task":"a","progress":0.5,"actualStart":null,"actualFinish":"2027-05-04T18:00"}""",
        422,
        "progress",
        "when the task has finished"
    )]
    [InlineData(
        """{"type":"setFixedDates","task":"a","pinned":{"start":"0001-01-01T00:00"},"constraint":null}""",
        422,
        "outOfRange",
        "1990 to 2100"
    )]
    [InlineData("""{"type":"joinPlan","person":{"id":"x","name":"\u0001","initials":"X"}}""", 422, "name", "in one line")]
    [InlineData(
        """{"type":"together","edits":[{"type":"restoreTasks","tasks":[],"links":[]}]}""",
        400,
        null,
        "only from taking an edit back"
    )]
    public async Task Bad_input_gets_one_sentence(string edit, int status, string? code, string part)
    {
        var project = await _api.NewChainAsync();
        var answer = await _api.EditAsync(project, edit, 1);
        Assert.Equal(status, (int)answer.Status);
        if (code is not null)
            Assert.Equal(code, answer.Body["code"]!.GetValue<string>());
        Assert.Contains(part, answer.Detail, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_position_outside_the_list_is_its_nearest_end()
    {
        var project = await _api.NewChainAsync();
        var answer = await _api.EditAsync(
            project,
            """{"type":"setPredecessors","task":"c","links":[{"from":"a","lag":"0d","position":-5}]}""",
            1
        );
        Assert.Equal(HttpStatusCode.OK, answer.Status);
    }

    [Fact]
    public async Task A_name_of_ten_thousand_characters_is_refused_and_unusual_ones_are_kept()
    {
        var project = await _api.NewChainAsync();
        var longName = await _api.EditAsync(project, $$"""{"type":"renameTask","task":"a","name":"{{new string('x', 10_000)}}"}""", 1);
        Assert.Equal("This name has 10,000 characters: shorten it to 200 or fewer.", longName.Detail);
        string[] names = ["🏮 Lanterns 👩‍👩‍👧", "مهرجان الفوانيس", "</script><b>x", "=1+1", "\"quoted\" & 'more'"];
        for (var i = 0; i < names.Length; i++)
            Assert.Equal(
                HttpStatusCode.OK,
                (
                    await _api.EditAsync(project, $$"""{"type":"renameTask","task":"a","name":{{ApiClient.Quote(names[i])}}}""", i + 1)
                ).Status
            );
        var page = await _api.Http.GetStringAsync($"/projects/{project}");
        Assert.DoesNotContain("</script><b>", page, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("""{"id":"x","baseVersion":1,"edit":{"type":"renameTask","task":"a","name":"b"}}""", "$.id")]
    [InlineData("""{"id":"6f1c9a3e-52a5-4a53-8f0a-2d3b0f6f9a11","edit":{"type":"renameTask","task":"a","name":"b"}}""", "$.baseVersion")]
    [InlineData("""{"id":"6f1c9a3e-52a5-4a53-8f0a-2d3b0f6f9a11","baseVersion":1}""", "$")]
    [InlineData("""{"id":"6f1c9a3e-52a5-4a53-8f0a-2d3b0f6f9a11","baseVersion":1,"edit":{"type":"fly"}}""", "$.edit")]
    [InlineData("""{"id":"6f1c9a3e-52a5-4a53-8f0a-2d3b0f6f9a11","baseVersion":1,"takeBack":"all"}""", "$.takeBack")]
    [InlineData("""{"id":"6f1c9a3e-52a5-4a53-8f0a-2d3b0f6f9a11","baseVersion":1,"takeBack":"lastEdit","also":1}""", "$.also")]
    [InlineData("not json", "$")]
    [InlineData("", "$")]
    public async Task A_malformed_request_names_the_path(string body, string path)
    {
        var project = await _api.NewChainAsync();
        var answer = await _api.PostAsync($"/api/v1/projects/{project}/edits", body);
        Assert.Equal(HttpStatusCode.BadRequest, answer.Status);
        Assert.StartsWith(path, answer.Body["errors"]![0]!["path"]!.GetValue<string>(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task There_is_no_plan_of_an_unknown_project()
    {
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await _api.EditAsync(Guid.NewGuid(), """{"type":"renameTask","task":"a","name":"b"}""", 1)).Status
        );
        Assert.Equal(HttpStatusCode.NotFound, (await _api.Http.GetAsync($"/api/v1/projects/{Guid.NewGuid()}/plan")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await _api.Http.GetAsync($"/projects/{Guid.NewGuid()}")).StatusCode);
    }
}
