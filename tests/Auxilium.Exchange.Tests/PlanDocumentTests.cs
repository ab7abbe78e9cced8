using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using CsCheck;

namespace Auxilium.Exchange.Tests;

public class PlanDocumentTests
{
    private const string Regatta = """
        {
          "format": "auxilium-plan/1",
          "project": { "name": "Lantern Regatta", "start": "2027-05-03", "finish": null, "finishBy": "2027-06-14", "calendar": "standard",
            "coordinator": "imke", "periods": [ { "name": "Harbour week", "from": "2027-05-17", "to": "2027-05-21" } ], "measure": "b1" },
          "calendars": [
            { "id": "standard", "name": "Weekdays",
              "week": { "mon": ["09:00-13:00","14:00-18:00"], "tue": ["09:00-13:00","14:00-18:00"], "wed": ["09:00-13:00","14:00-18:00"],
                "thu": ["09:00-13:00","14:00-18:00"], "fri": ["09:00-13:00","14:00-18:00"], "sat": [], "sun": [] },
              "exceptions": [ { "from": "2027-05-31", "to": "2027-05-31", "name": "Late spring holiday", "work": [] } ] },
            { "id": "weekend", "base": "standard", "week": { "mon": [], "tue": [], "wed": [], "thu": [], "fri": [], "sat": ["10:00-16:00"],
              "sun": ["10:00-24:00"] } }
          ],
          "people": [ { "id": "imke", "name": "Imke Varga" } ],
          "tasks": [
            { "id": "p1", "name": "Permissions & route", "repeats": { "every": "month", "week": -1, "on": ["fri"],
              "from": "2027-05-28T18:00", "length": "2h", "closed": "skip", "made": "2027-05-28", "count": 1, "through": "2027-06-11" } },
            { "id": "t1", "name": "Harbour permit", "parent": "p1", "length": "5d", "progress": 0.4, "actualStart": "2027-05-06",
              "assignments": [ { "person": "imke", "effort": "6h" } ], "effort": "12h",
              "splits": [ { "after": "2d", "for": "4h" } ], "remaining": "3d", "estimate": { "low": "3d", "likely": "5d", "high": "10d" },
                "deadline": "2027-05-14", "priority": 700,
              "key": true, "colour": "sky", "label": "permits", "checklist": [ { "text": "Call the harbour", "done": true }, {
                "text": "Pay" } ], "references": [ { "address": "https://tidewell.example/permit", "title": "The form" } ] },
            { "id": "t2", "name": "Route walk", "parent": "p1", "length": "2.5d", "calendar": "weekend", "constraint": {
              "kind": "finishNoEarlierThan", "date": "2027-05-16" } },
            { "id": "m1", "name": "Route confirmed", "milestone": true, "pinned": { "start": "2027-05-20T12:00" } }
          ],
          "links": [ { "from": "t1", "to": "m1", "lag": "-1d" }, { "from": "t1", "to": "t2", "kind": "FF", "lag": "12h",
            "elapsed": true } ],
          "hours": [ { "task": "t1", "person": "imke", "day": "2027-05-06", "minutes": 150 } ],
          "baselines": [ { "id": "b1", "name": "As agreed", "taken": "2027-05-01", "rows": [
            { "task": "t1", "start": "2027-05-03", "finish": "2027-05-07", "lengthMinutes": 2400, "effortMinutes": 720.5,
              "costAtStart": 50.00, "costEvenly": 336.00, "costAtFinish": 0, "progress": 0 },
            { "task": "gone", "name": "Call the mayor", "start": "2027-05-10T09:00", "finish": "2027-05-10T11:00" } ] } ]
        }
        """;

    [Fact]
    public void Bare_days_become_the_first_or_the_last_working_minute_of_the_calendar_that_counts()
    {
        var plan = Read(Regatta);
        Assert.Equal("2027-05-03T09:00", plan.Project.Start.ToString());
        Assert.Equal("2027-06-14T18:00", plan.Project.FinishBy.ToString());
        Assert.Equal("2027-05-06T09:00", plan.Find("t1")!.ActualStart.ToString());
        Assert.Equal("2027-05-17T00:00", plan.Find("t2")!.Constraint!.Date.ToString());
        Assert.Equal("IV", plan.People[0].Initials);
        Assert.True(plan.Find("p1")!.Tentative);
    }

    [Fact]
    public void A_baseline_gets_from_the_plan_what_it_does_not_say()
    {
        var plan = Read(Regatta);
        var taken = Assert.Single(plan.Baselines);
        Assert.Equal("2027-05-03T09:00 – 2027-05-10T11:00", $"{taken.Start} – {taken.Finish}");
        Assert.Equal(["Harbour permit", "Call the mayor"], taken.Rows.Select(r => r.Name));
        Assert.Equal((true, "2027-05-07T18:00", 386m), (taken.Whole, taken.Rows[0].Finish.ToString(), taken.Rows[0].Cost.Whole));
        Assert.Equal("b1", plan.Measure!.Id);
    }

    [Fact]
    public void Hours_of_a_person_come_to_no_more_than_a_day_has()
    {
        var text = Regatta.Replace(
            "\"minutes\": 150 }",
            "\"minutes\": 1000 }, { \"task\": \"t2\", \"person\": \"imke\", \"day\": \"2027-05-06\", \"minutes\": 500 }",
            StringComparison.Ordinal
        );
        var error = Assert.Single(Assert.Throws<UnreadableDocumentException>(() => Read(text)).Errors);
        Assert.Equal(("$.hours[1].minutes", "range"), (error.Path, error.Code));
    }

    [Fact]
    public void What_was_tracked_is_told_where_it_is_asked_for()
    {
        var read = PlanDocumentReader.ReadWhole(Encoding.UTF8.GetBytes(Regatta));
        var plan = read.Plan;
        var schedule = Scheduler.Calculate(plan);
        var document = ScheduleDocument.Of(schedule, new TrackedValues(read, schedule, ["drift", "effort"], new DateOnly(2027, 5, 6)));
        var permit = document.Tasks[1];
        Assert.Equal((360m, 216m, 150), (permit.EffortMinutes, permit.EffortLeftMinutes, permit.WorkedMinutes));
        Assert.Equal(
            (150, permit.EffortMinutes + document.Tasks[2].EffortMinutes),
            (document.Tasks[0].WorkedMinutes, document.Tasks[0].EffortMinutes)
        );
        // It began on Thursday instead of Monday.
        Assert.Equal(("b1", 3 * 480, null), (permit.Drift!.Baseline, permit.Drift.StartMinutes!.Value, permit.Drift.New));
        Assert.Equal((null, true), (document.Tasks[3].Drift!.Baseline, document.Tasks[3].Drift!.New!.Value));
        Assert.Equal(["gone"], document.Dropped!);
        Assert.Equal(plan.ProjectCalendar.Between(plan.Measure!.Finish, schedule.Finish), document.Project.DriftMinutes);
        // Hours of a later day have not been worked yet.
        var before = new TrackedValues(read, schedule, ["effort"], new DateOnly(2027, 5, 5));
        Assert.Equal(0, ScheduleDocument.Of(schedule, before).Tasks[1].WorkedMinutes);
        Assert.DoesNotContain(
            "effortMinutes",
            JsonSerializer.Serialize(ScheduleDocument.Of(schedule), JsonSerializerOptions.Web),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void What_is_written_reads_as_the_same_plan_and_writes_the_same_bytes()
    {
        var first = PlanDocumentWriter.Write(Read(Regatta));
        var second = PlanDocumentWriter.Write(PlanDocumentReader.Read(first));
        Assert.Equal(Encoding.UTF8.GetString(first), Encoding.UTF8.GetString(second));
        Assert.Contains("\"Permissions & route\"", Encoding.UTF8.GetString(first), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("$.format", "\"auxilium-plan/2\"", "format")]
    [InlineData("$.project.name", "\"\"", "missing")]
    [InlineData("$.project.start", "\"2027-02-30\"", "date")]
    [InlineData("$.project.start", "\"1989-12-31\"", "date")]
    [InlineData("$.project.start", "null", "missing")]
    [InlineData("$.project.hoursPerDay", "25", "range")]
    [InlineData("$.project.surprise", "1", "unknownField")]
    [InlineData("$.project.finish", "\"1989-12-31\"", "date")]
    [InlineData("$.project.scheduleFrom", "\"middle\"", "value")]
    [InlineData("$.project.floatTo", "\"the moon\"", "value")]
    [InlineData("$.project.calendar", "\"nowhere\"", "unknownId")]
    [InlineData("$.project.measure", "\"nothing\"", "unknownId")]
    [InlineData("$.hours[0].minutes", "1441", "range")]
    [InlineData("$.hours[0].minutes", "null", "missing")]
    [InlineData("$.hours[0].task", "\"gone\"", "unknownId")]
    [InlineData("$.hours[0].person", "\"nobody\"", "unknownId")]
    [InlineData("$.hours[0].day", "\"2027-05-06T09:00\"", "date")]
    [InlineData("$.baselines[0].name", "null", "missing")]
    [InlineData("$.baselines[0].taken", "null", "missing")]
    [InlineData("$.baselines[0].rows", "[]", "missing")]
    [InlineData("$.baselines[0].rows[0].finish", "\"2027-05-01\"", "range")]
    [InlineData("$.baselines[0].rows[0].start", "null", "missing")]
    [InlineData("$.baselines[0].rows[0].effortMinutes", "-1", "range")]
    [InlineData("$.baselines[0].rows[0].lengthMinutes", "0.5", "range")]
    [InlineData("$.baselines[0].rows[1].task", "\"t1\"", "duplicateId")]
    [InlineData("$.tasks[1].effort", "\"much\"", "length")]
    [InlineData("$.tasks[1].assignments[0].effort", "\"-1h\"", "length")]
    [InlineData("$.calendars[0].week.mon[0]", "\"13:00-09:00\"", "interval")]
    [InlineData("$.calendars[0].week.mon[1]", "\"12:00-15:00\"", "interval")]
    [InlineData("$.calendars[0].base", "\"weekend\"", "circle")]
    [InlineData("$.calendars[0].exceptions[0].to", "\"2027-05-01\"", "range")]
    [InlineData("$.people[0].calendar", "\"nowhere\"", "unknownId")]
    [InlineData("$.tasks[1].parent", "\"nobody\"", "unknownId")]
    [InlineData("$.tasks[0].parent", "\"t1\"", "unknownId")]
    [InlineData("$.tasks[1].id", "\"p1\"", "duplicateId")]
    [InlineData("$.tasks[1].id", "\"a b\"", "id")]
    [InlineData("$.tasks[1].length", "\"3 fortnights\"", "length")]
    [InlineData("$.tasks[1].length", "\"0.333h\"", "length")]
    [InlineData("$.tasks[1].length", "\"99999d\"", "length")]
    [InlineData("$.tasks[1].length", "3", "type")]
    [InlineData("$.tasks[1].progress", "1.2", "range")]
    [InlineData("$.tasks[1].splits[0].after", "\"5d\"", "split")]
    [InlineData("$.tasks[1].splits[0].for", "\"0d\"", "split")]
    [InlineData("$.tasks[1].splits[0].for", "null", "missing")]
    [InlineData("$.tasks[3].splits", "[{\"after\":\"1d\",\"for\":\"1d\"}]", "split")]
    [InlineData("$.tasks[1].active", "1", "type")]
    [InlineData("$.tasks[1].deadline", "\"2101-06-01\"", "date")]
    [InlineData("$.tasks[1].estimate", "{\"low\":\"1d\"}", "missing")]
    [InlineData("$.tasks[1].estimate.high", "\"4d\"", "estimate")]
    [InlineData("$.tasks[1].actualStart", "null", "remaining")]
    [InlineData("$.tasks[1].priority", "1001", "range")]
    [InlineData("$.tasks[1].priority", "2.5", "range")]
    [InlineData("$.tasks[1].assignments[0].person", "\"nobody\"", "unknownId")]
    [InlineData("$.tasks[1].assignments[0].share", "0", "range")]
    [InlineData("$.tasks[2].constraint.date", "null", "missing")]
    [InlineData("$.tasks[2].constraint.kind", "\"whenever\"", "value")]
    [InlineData("$.tasks[3].length", "\"1d\"", "milestone")]
    [InlineData("$.project.periods[0].to", "\"2027-05-01\"", "period")]
    [InlineData("$.project.periods[0].from", "null", "missing")]
    [InlineData("$.tasks[0].repeats.every", "\"fortnight\"", "value")]
    [InlineData("$.tasks[0].repeats.from", "null", "missing")]
    [InlineData("$.tasks[0].repeats.length", "null", "missing")]
    [InlineData("$.tasks[0].repeats.on[0]", "\"friday\"", "value")]
    [InlineData("$.tasks[0].repeats.week", "7", "repeat")]
    [InlineData("$.tasks[0].repeats.interval", "1.5", "range")]
    [InlineData("$.tasks[0].repeats.count", "501", "repeat")]
    [InlineData("$.tasks[0].repeats.closed", "\"maybe\"", "value")]
    [InlineData("$.tasks[1].colour", "\"crimson\"", "value")]
    [InlineData("$.tasks[1].label", "\"a\\tb\"", "label")]
    [InlineData("$.tasks[1].checklist[1].text", "\"\"", "missing")]
    [InlineData("$.tasks[1].references[0].address", "\"javascript:alert(1)\"", "references")]
    [InlineData("$.links[0].kind", "\"FX\"", "value")]
    [InlineData("$.links[0].kind", "\"finishToStart\"", "value")]
    [InlineData("$.project.scheduleFrom", "\"from the very beginning\"", "value")]
    [InlineData("$.links[0].elapsed", "\"yes\"", "type")]
    [InlineData("$.links[1].to", "\"p1\"", "linkToOwnPhase")]
    [InlineData("$.links[0].from", "\"m1\"", "linkToItself")]
    [InlineData("$.links[0].to", "\"gone\"", "unknownId")]
    public void A_wrong_value_is_an_error_at_its_path(string path, string value, string code)
    {
        var root = JsonNode.Parse(Regatta)!;
        Set(root, path, JsonNode.Parse(value));
        var errors = Assert.Throws<UnreadableDocumentException>(() => Read(root.ToJsonString())).Errors;
        Assert.Contains(errors, e =>
            (
                path.StartsWith(e.Path, StringComparison.Ordinal)
                || e.Code == "remaining"
                || e.Path.StartsWith(path, StringComparison.Ordinal)
            )
            && e.Code == code
        );
    }

    [Fact]
    public void Every_error_is_told_at_once()
    {
        var errors = Assert
            .Throws<UnreadableDocumentException>(() => Read("""{"format":"x","project":{},"tasks":[{"id":"a"},7]}"""))
            .Errors;
        Assert.Equal(
            ["$.format", "$.project.name", "$.project.start", "$.tasks[0].name", "$.tasks[1]"],
            errors.Select(e => e.Path).Order()
        );
    }

    [Fact]
    public void A_circle_names_its_tasks_in_order()
    {
        var error = Assert.Single(
            Assert
                .Throws<UnreadableDocumentException>(() =>
                    Read(
                        """
                        {"format":"auxilium-plan/1", "project":{"name":"x", "start":"2027-05-03"}, "tasks":[{"id":"a", "name":"A"},
                          {"id":"b", "name":"B"}], 
                         "links":[{"from":"a","to":"b"},{"from":"b","to":"a"}]}
                        """
                    )
                )
                .Errors
        );
        Assert.Equal(("$.links", "circle"), (error.Path, error.Code));
        Assert.Equal(["a", "b"], error.Tasks!.Order());
    }

    [Theory]
    [InlineData("")]
    [InlineData("[]")]
    [InlineData("{")]
    [InlineData("{\"format\":1,\"format\":2}")]
    public void What_is_no_document_says_so(string text) =>
        Assert.Equal("$", Assert.Throws<UnreadableDocumentException>(() => Read(text)).Errors[0].Path);

    /// <summary>Bytes flipped in a good document give a plan or errors with paths, never anything else.</summary>
    [Fact]
    public void Damaged_documents_are_read_or_refused() =>
        Gen.Select(Gen.Int[0, Regatta.Length - 1], Gen.Char.AlphaNumeric, Gen.Int[0, 3])
            .Sample(
                (at, with, how) =>
                {
                    var text = how switch
                    {
                        0 => Regatta[..at] + with + Regatta[(at + 1)..],
                        1 => Regatta[..at] + Regatta[(at + 1)..],
                        2 => Regatta[..at],
                        _ => Regatta[..at] + Regatta[..at] + Regatta[at..],
                    };
                    try
                    {
                        Assert.NotNull(ScheduleDocument.Of(Scheduler.Calculate(Read(text))));
                    }
                    catch (UnreadableDocumentException e)
                    {
                        Assert.All(e.Errors, error => Assert.StartsWith("$", error.Path, StringComparison.Ordinal));
                    }
                },
                iter: 2_000
            );

    [Fact]
    public void What_serves_a_milestone_reminds_people_and_says_how_the_project_is_comes_through_a_document()
    {
        var text = """
            {"format":"auxilium-plan/1","project":{"name":"P","start":"2027-05-03","status":"onHold","colour":"moss","priority":700},
             "people":[{"id":"ann","name":"Ann"}],
             "tasks":[{"id":"a","name":"A","length":"1d","serves":"m","reminders":[{"days":2,"before":"start"},
                       {"days":0,"before":"finish","people":["ann"]}]},
                      {"id":"m","name":"M","milestone":true}]}
            """;
        var plan = Read(text);
        Assert.Equal((ProjectStatus.OnHold, "moss", 700), (plan.Project.Status, plan.Project.Colour, plan.Project.Priority));
        Assert.Equal("m", plan.Tasks[0].Facts[PlainFacts.Serves]);
        Assert.Equal([TaskEnd.Start, TaskEnd.Finish], plan.Tasks[0].Reminders.Select(r => r.Before));
        var written = PlanDocumentWriter.Write(plan);
        Assert.Equal(written, PlanDocumentWriter.Write(PlanDocumentReader.Read(written)));
        // What names a row or a person that has gone is left out: a document never points nowhere.
        var left = PlanDocumentReader.Read(PlanDocumentWriter.Write(plan with { People = [] }));
        Assert.Equal([TaskEnd.Start], left.Tasks[0].Reminders.Select(r => r.Before));
        var without = plan with { Tasks = plan.Tasks[..1] };
        Assert.Null(PlanDocumentReader.Read(PlanDocumentWriter.Write(without)).Tasks[0].Facts[PlainFacts.Serves]);
    }

    [Theory]
    [InlineData("$.tasks[0].serves", "\"none\"")]
    [InlineData("$.tasks[0].reminders", "[{\"before\":\"middle\"}]", "$.tasks[0].reminders[0].before")]
    [InlineData("$.tasks[0].reminders", "[{\"days\":400,\"before\":\"start\"}]", "$.tasks[0].reminders[0].days")]
    [InlineData("$.tasks[0].reminders", "[{\"before\":\"start\",\"people\":[\"x\"]}]", "$.tasks[0].reminders[0].people[0]")]
    [InlineData("$.project.status", "\"over\"")]
    [InlineData("$.project.colour", "\"red\"")]
    [InlineData("$.project.priority", "1001")]
    [InlineData("$.project.priority", "1.5")]
    public void What_cannot_be_is_told_where_it_stands(string path, string value, string? told = null)
    {
        var root = JsonNode.Parse(
            """{"format":"auxilium-plan/1","project":{"name":"P","start":"2027-05-03"},"tasks":[{"id":"a","name":"A"}]}"""
        )!;
        Set(root, path, JsonNode.Parse(value));
        var refused = Assert.Throws<UnreadableDocumentException>(() => Read(root.ToJsonString()));
        Assert.Contains(told ?? path, refused.Errors.Select(error => error.Path));
    }

    [Theory]
    [InlineData("9031-05-12")]
    [InlineData("9031-05-12T09:00")]
    [InlineData("0001-01-01")]
    public void A_year_that_no_plan_may_hold_is_told_where_it_stands(string start)
    {
        var document = $$"""
            {"format":"auxilium-plan/1","project":{"name":"P","start":"2027-05-03"},
             "tasks":[{"id":"a","name":"A","length":"1d","pinned":{"start":"{{start}}" } }]}
            """;
        var refused = Assert.Throws<UnreadableDocumentException>(() => Read(document));
        Assert.Contains(refused.Errors, error => error.Path == "$.tasks[0].pinned.start");
    }

    [Fact]
    public void A_schedule_says_dates_floats_drivers_and_warnings()
    {
        var document = ScheduleDocument.Of(Scheduler.Calculate(Read(Regatta)));
        var permit = document.Tasks[1];
        Assert.Equal(("1.1", "2027-05-06T09:00", "2027-05-13T13:00"), (permit.Outline, permit.Start, permit.Finish));
        Assert.Equal([new("2027-05-06T09:00", "2027-05-07T18:00"), new("2027-05-10T14:00", "2027-05-13T13:00")], permit.Segments);
        Assert.Equal("actual", Assert.Single(permit.Drivers).Kind);
        Assert.Null(document.Tasks[0].TotalFloatMinutes);
        Assert.Equal("pinned", Assert.Single(document.Tasks[3].Drivers).Kind);
    }

    [Fact]
    public void R1_a_document_from_its_finish_needs_that_date_and_gets_the_start_that_results()
    {
        var text = """
            { "format": "auxilium-plan/1", "project": { "name": "P", "scheduleFrom": "finish", "finish": "2027-05-07" }, "tasks": [
            { "id": "a", "name": "A", "length": "2d" } ] }
            """;
        var document = ScheduleDocument.Of(Scheduler.Calculate(Read(text)));
        Assert.Equal(("2027-05-06T09:00", "2027-05-07T18:00"), (document.Project.Start, document.Project.Finish));
        Assert.Equal("projectFinish", Assert.Single(document.Tasks[0].Drivers).Kind);
        var missing = Assert
            .Throws<UnreadableDocumentException>(() => Read(text.Replace(", \"finish\": \"2027-05-07\"", "", StringComparison.Ordinal)))
            .Errors;
        Assert.Equal(("$.project.finish", "missing"), (missing[0].Path, missing[0].Code));
    }

    [Fact]
    public void K4_an_inactive_task_has_null_for_all_that_comes_of_dates()
    {
        var text = """
            { "format": "auxilium-plan/1", "project": { "name": "P", "start": "2027-05-03" }, "tasks": [ { "id": "a", "name": "A",
            "active": false } ] }
            """;
        var task = ScheduleDocument.Of(Scheduler.Calculate(Read(text))).Tasks[0];
        Assert.Equal((null, null, null, null, null), (task.Start, task.EarlyStart, task.LengthMinutes, task.Critical, task.Progress));
        Assert.Empty(task.Segments);
    }

    /// <summary>
    /// Random bytes, and good documents with values of all kinds put anywhere, are read or refused, never anything else.
    /// </summary>
    [Fact]
    public void Anything_at_all_is_read_or_refused() =>
        Gen.Int[0, int.MaxValue - 1]
            .Sample(
                seed =>
                {
                    var random = new Random(seed);
                    var bytes = new byte[random.Next(400)];
                    random.NextBytes(bytes);
                    if (random.Next(4) > 0)
                    {
                        var root = JsonNode.Parse(Regatta)!;
                        for (var i = random.Next(1, 4); i > 0; i--)
                            Scramble(random, root);
                        bytes = Encoding.UTF8.GetBytes(root.ToJsonString());
                    }
                    try
                    {
                        Assert.NotNull(ScheduleDocument.Of(Scheduler.Calculate(PlanDocumentReader.Read(bytes))));
                    }
                    catch (UnreadableDocumentException e)
                    {
                        Assert.All(e.Errors, error => Assert.StartsWith("$", error.Path, StringComparison.Ordinal));
                    }
                },
                iter: 2_000
            );

    /// <summary>Puts one value of the document where another was.</summary>
    private static void Scramble(Random random, JsonNode root)
    {
        var all = Inside(root).Where(n => n.Parent is not null).ToList();
        var (from, to) = (all[random.Next(all.Count)], all[random.Next(all.Count)]);
        JsonNode?[] odd =
        [
            null,
            "",
            "2100-12-31T23:59",
            "1990-01-01",
            "519w",
            "-519w",
            "24:00-24:00",
            0,
            1,
            -1,
            1e300,
            0.999999999999m,
            true,
            new JsonArray(),
            from.DeepClone(),
        ];
        var value = random.Next(3) == 0 ? odd[random.Next(odd.Length)] : from.DeepClone();
        if (to.Parent is JsonArray list)
            list[list.IndexOf(to)] = value;
        else if (to.Parent is JsonObject at)
            at[at.First(p => p.Value == to).Key] = value;
    }

    private static IEnumerable<JsonNode> Inside(JsonNode node) =>
        (
            node switch
            {
                JsonObject o => o.Select(p => p.Value),
                JsonArray a => a,
                _ => [],
            }
        )
            .Where(n => n is not null)
            .SelectMany(n => Inside(n!))
            .Append(node);

    [Fact]
    public void The_schema_is_json() =>
        Assert.Equal("auxilium-plan/1", JsonDocument.Parse(PlanDocumentSchema.Utf8).RootElement.GetProperty("title").GetString());

    private static Plan Read(string text) => PlanDocumentReader.Read(Encoding.UTF8.GetBytes(text));

    private static void Set(JsonNode root, string path, JsonNode? value)
    {
        var steps = path[2..].Replace("[", ".[", StringComparison.Ordinal).Split('.');
        var at = root;
        foreach (var step in steps[..^1])
            at = step[0] == '[' ? at![int.Parse(step[1..^1])] : at![step];
        if (steps[^1][0] == '[')
            at![int.Parse(steps[^1][1..^1])] = value;
        else
            at![steps[^1]] = value;
    }
}
