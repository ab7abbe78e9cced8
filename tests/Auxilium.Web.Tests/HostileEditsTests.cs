using System.Net;
using System.Text.Json.Nodes;
using Auxilium.Exchange.Edits;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tests;
using Auxilium.Storage.Access;

namespace Auxilium.Web.Tests;

public class HostileEditsTests(DemoApp demo, HostileEditsTests.Other other)
    : IClassFixture<DemoApp>,
        IClassFixture<HostileEditsTests.Other>
{
    /// <summary>Other names for fields, to be refused.</summary>
    private static readonly string[] Fields = ["task", "id", "actualStart", "rule", "type", "nothing"];

    private static readonly string[] Values =
    [
        "null",
        "true",
        "-1",
        "1e308",
        "1e200000",
        "0.3333333333333333333333333",
        "\"a\"",
        "\"t0\"",
        "\"\"",
        "\"proposed\"",
        "\"\\u0000\"",
        "\"\\ud800\"",
        "\"3d\"",
        "\"0.1m\"",
        "\"9999999999999999999999w\"",
        "\"2027-05-05\"",
        "\"2100-12-31T23:59\"",
        "\"1990-01-01\"",
        "\"31 February\"",
        "\"after 1, 2, 3\"",
        "[]",
        "{}",
        "[\"t0\",\"t0\"]",
        "[null]",
        "[{\"person\":\"ann\",\"share\":7}]",
        "[{\"person\":null}]",
        "[{}]",
        "[{\"from\":\"t1\",\"lag\":\"-500w\"}]",
        "[{\"from\":\"t1\",\"lag\":\"1d\",\"position\":-5}]",
        "{\"start\":\"2027-05-05T09:00\",\"finish\":\"2027-05-01T09:00\"}",
        "{\"kind\":\"mustStartOn\",\"date\":\"2099-01-01T00:00\"}",
        "{\"1\":\"zz\"}",
        "{\"id\":\"p\",\"name\":\"P\",\"initials\":\"P\",\"calendar\":\"none\"}",
        "[{\"type\":\"indentTask\",\"task\":\"t1\"}]",
        "[{\"text\":\"\"}]",
        "[{\"text\":null}]",
        "[{\"address\":null}]",
        "[{\"name\":null,\"from\":\"2027-05-04\",\"to\":\"2027-05-04\"}]",
        "[{\"name\":\"W\",\"from\":\"2027-05-04\",\"to\":\"0001-01-01\"}]",
        "{\"every\":\"day\",\"from\":\"2100-12-31\",\"interval\":99,\"closed\":\"skip\",\"length\":\"520w\"}",
    ];

    /// <summary>All but what comes only from taking an edit back, which the API refuses in a sentence.</summary>
    public static TheoryData<string> Kinds =>
        [.. EditKinds.All.Where(kind => !kind.Type.IsAssignableTo(typeof(ITrustedEdit))).Select(kind => kind.Wire)];

    /// <summary>
    /// A good edit of each kind, and then the same with one value in it that is wrong: each is applied or refused, none is an error of
    /// ours, and the plan can be read after all of them.
    /// </summary>
    [Theory]
    [MemberData(nameof(Kinds))]
    public async Task No_edit_of_any_kind_breaks_the_server(string kind)
    {
        var (random, applied, read) = (new Random(kind.Length * 31 + kind[^1]), 0, 0);
        var (project, first) = (Guid.Empty, "");
        for (var round = 0; round < 12 && (applied == 0 || round < 2); round++)
        {
            var (plan, edit) = EditKinds.All.Single(k => k.Wire == kind).Sample(random, RandomPlan.Of(random, most: 12));
            project = await demo.Api.CreateAsync(System.Text.Encoding.UTF8.GetString(PlanDocumentWriter.Write(plan)));
            var good = EditJson.Write(Known(edit));
            for (var i = 0; i < 14 || (i < 100 && read == 0); i++)
            {
                var hurt = JsonNode.Parse(good)!;
                if (random.Next(8) == 0)
                    hurt[Fields[random.Next(Fields.Length)]] = JsonNode.Parse(
                        Values[random.Next(Values.Length - 1)].Replace("\\ud800", "\\u0007", StringComparison.Ordinal)
                    );
                var text = i == 0 ? good : Hurt(hurt, random);
                var answer = await demo.Api.EditAsync(project, text, 1, overrule: true);
                Assert.True((int)answer.Status < 500, $"{text} gave {answer.Status}");
                if (i == 0)
                    first = answer.Body.ToJsonString();
                if (answer.Status == HttpStatusCode.OK && i == 0)
                    applied++;
                if (answer.Status != HttpStatusCode.BadRequest && i > 0)
                    read++;
            }
        }
        Assert.True(applied > 0, $"No edit of this kind was possible: {first}");
        Assert.True(read > 0, "None with a wrong value in it came to be tried on the plan.");
        Assert.Equal(await demo.Api.PlanAsync(project), await new ApiClient(other.On(demo).SignedIn()).PlanAsync(project));
    }

    /// <summary>The organisation of the demo knows other people than a random plan does.</summary>
    private static PlanEdit Known(PlanEdit edit) =>
        edit is JoinPlan join ? join with { Person = join.Person with { Email = null } } : edit;

    /// <summary>The text of an edit with one of its values, however deep, replaced by another one.</summary>
    private static string Hurt(JsonNode edit, Random random)
    {
        const string here = "\u0001here";
        var places = Places(edit).Where(p => p is not { Key: "type", Parent: JsonObject { Parent: null } }).ToList();
        if (places.Count == 0)
            return edit.ToJsonString();
        var (parent, key) = places[random.Next(places.Count)];
        if (parent is JsonObject left && random.Next(6) == 0)
        {
            left.Remove(key);
            return edit.ToJsonString();
        }
        if (parent is JsonObject fields)
            fields[key] = here;
        else
            ((JsonArray)parent)[int.Parse(key, System.Globalization.CultureInfo.InvariantCulture)] = here;
        return edit.ToJsonString()
            .Replace(JsonValue.Create(here).ToJsonString(), Values[random.Next(Values.Length)], StringComparison.Ordinal);
    }

    private static IEnumerable<(JsonNode Parent, string Key)> Places(JsonNode? node) =>
        node switch
        {
            JsonObject fields => fields.SelectMany(f => Places(f.Value).Prepend((fields, f.Key))),
            JsonArray items => items.SelectMany(
                (item, at) => Places(item).Prepend((items, at.ToString(System.Globalization.CultureInfo.InvariantCulture)))
            ),
            _ => [],
        };

    /// <summary>Another process on the same database, which has the plans from there.</summary>
    public sealed class Other : IDisposable
    {
        private TestApp? _app;

        public TestApp On(DemoApp demo) => _app ??= new TestApp(demo.Connection);

        public void Dispose() => _app?.Dispose();
    }
}
