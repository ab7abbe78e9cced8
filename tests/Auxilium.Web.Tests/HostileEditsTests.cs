using System.Net;
using System.Text.Json.Nodes;
using Auxilium.Exchange.Edits;

namespace Auxilium.Web.Tests;

public class HostileEditsTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private static readonly string[] Fields =
    [
        "task", "id", "name", "parent", "after", "tasks", "length", "owner", "assignments", "person", "rows", "links", "on", "progress",
        "start", "finish", "pin", "pinned", "constraint", "actualStart", "actualFinish", "finishBy", "edits", "ids", "days", "note",
        "rule", "steps", "references", "periods", "colour", "label", "priority", "until",
    ];

    private static readonly string[] Values =
    [
        "null", "true", "-1", "1e308", "0.3333333333333333333333333", "\"a\"", "\"b\"", "\"\"", "\"\\u0000\"", "\"\\ud800\"", "\"3d\"", "\"0.1m\"", "\"9999999999999999999999w\"",
        "\"2027-05-05\"", "\"2100-12-31T23:59\"", "\"1990-01-01\"", "\"31 February\"", "\"after 1, 2, 3\"", "[]", "{}", "[\"a\",\"a\"]", "[null]",
        "[{\"person\":\"imke\",\"share\":7}]", "[{\"from\":\"b\",\"lag\":\"-500w\"}]", "[{\"from\":\"b\",\"lag\":\"1d\",\"position\":-5}]",
        "{\"start\":\"2027-05-05T09:00\",\"finish\":\"2027-05-01T09:00\"}", "{\"kind\":\"mustStartOn\",\"date\":\"2099-01-01T00:00\"}", "{\"1\":\"zz\"}",
        "{\"id\":\"p\",\"name\":\"P\",\"initials\":\"P\",\"calendar\":\"none\"}", "[{\"type\":\"indentTask\",\"task\":\"b\"}]",
        "[{\"text\":\"\"}]", "[{\"address\":null}]", "[{\"name\":\"W\",\"from\":\"2027-05-04\",\"to\":\"0001-01-01\"}]", "{\"every\":\"day\",\"from\":\"2100-12-31\",\"interval\":99,\"closed\":\"skip\",\"length\":\"520w\"}",
    ];

    /// <summary>Edits of every kind with fields of every kind are applied or refused; none is an error of ours, and the plan can be read after each.</summary>
    [Theory]
    [InlineData(11)]
    [InlineData(12)]
    public async Task No_edit_breaks_the_server(int seed)
    {
        var random = new Random(seed);
        var project = await demo.Api.NewChainAsync();
        var applied = 0;
        for (var i = 0; i < 400; i++)
        {
            var type = EditJson.TypeNames[random.Next(EditJson.TypeNames.Count)];
            var shape = JsonNode.Parse(Plausible(type))!.AsObject();
            foreach (var field in shape.Select(f => f.Key).Concat([Fields[random.Next(Fields.Length)]]).ToList())
                if (random.Next(3) == 0)
                    shape[field] = JsonNode.Parse(Values[random.Next(Values.Length)].Replace("\\ud800", "\\u0007", StringComparison.Ordinal));
            var edit = $$"""{"type":"{{type}}",{{shape.ToJsonString()[1..]}}""".Replace(",}", "}", StringComparison.Ordinal);
            var answer = await demo.Api.EditAsync(project, edit, 1, overrule: true);
            Assert.True((int)answer.Status < 500, $"{edit} gave {answer.Status}");
            if (answer.Status == HttpStatusCode.OK) applied++;
        }
        Assert.True(applied > 20, $"Only {applied} edits were possible.");
        await using var fresh = new TestApp(demo.Connection);
        Assert.Equal(await demo.Api.PlanAsync(project), await new ApiClient(fresh.SignedIn()).PlanAsync(project));
    }

    private static string Plausible(string type) => type switch
    {
        "addTask" => """{"id":"n","name":"N","parent":null,"after":null}""",
        "removeTasks" => """{"tasks":["c"]}""",
        "renameTask" => """{"task":"a","name":"A"}""",
        "setLength" => """{"task":"a","length":"2d"}""",
        "setOwner" => """{"task":"b","owner":"Somebody"}""",
        "setAssignments" => """{"task":"a","assignments":[]}""",
        "addHelper" => """{"task":"a","helper":"H","share":1,"hands":"shorter"}""",
        "setOwnTime" => """{"person":"q","time":{"id":"x","name":"X","week":{},"exceptions":[]}}""",
        "setCoordinator" => """{"person":null}""",
        "joinPlan" => """{"person":{"id":"q","name":"Q","initials":"Q"}}""",
        "leavePlan" => """{"person":"q"}""",
        "typePredecessors" => """{"task":"b","after":"1","rows":null}""",
        "setPredecessors" => """{"task":"b","links":[]}""",
        "moveTask" => """{"task":"b","parent":null,"after":null}""",
        "setMilestone" => """{"task":"b","on":true}""",
        "copyTasks" => """{"tasks":["b"],"parent":null,"after":null}""",
        "shiftTasks" => """{"tasks":["b"],"days":2}""",
        "stretchTask" => """{"task":"b","start":"2027-05-03"}""",
        "setColour" => """{"task":"b","colour":"moss"}""",
        "setLabel" => """{"task":"b","label":"L"}""",
        "setPriority" => """{"task":"b","priority":1}""",
        "setChecklist" => """{"task":"b","steps":[{"text":"S"}]}""",
        "setReferences" => """{"task":"b","references":[{"address":"https://tidewell.example","title":""}]}""",
        "setPeriods" => """{"periods":[{"name":"W","from":"2027-05-03","to":"2027-05-04"}]}""",
        "repeatTask" => """{"task":"b","rule":{"every":"week","from":"2027-05-04","times":2,"length":"1d"}}""",
        "setNote" => """{"task":"b","note":"N"}""",
        "startTask" or "finishTask" => """{"task":"a","on":null}""",
        "reportProgress" => """{"task":"a","progress":0.5}""",
        "setTracking" => """{"task":"a","progress":0,"actualStart":null,"actualFinish":null}""",
        "placeTask" => """{"task":"b","start":"2027-05-10","pin":false}""",
        "setFixedDates" => """{"task":"b","pinned":null,"constraint":null}""",
        "setFinish" => """{"task":"b","finish":"2027-05-20"}""",
        "renameProject" => """{"name":"P"}""",
        "setProjectStart" => """{"start":"2027-05-03"}""",
        "setFinishBy" => """{"finishBy":null}""",
        "together" => """{"edits":[{"type":"outdentTask","task":"b"}]}""",
        _ => """{"task":"b"}""",
    };
}
