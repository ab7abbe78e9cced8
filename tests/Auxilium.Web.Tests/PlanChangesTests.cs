using System.Net.Http.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Auxilium.Storage.Access;

namespace Auxilium.Web.Tests;

public partial class PlanChangesTests(DemoApp demo) : IClassFixture<DemoApp>
{
    /// <summary>A screen that takes in what each edit changed shows the same as one that is opened anew.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public async Task What_changed_adds_up_to_the_whole_plan(int seed)
    {
        var random = new Random(seed);
        var project = await demo.Api.NewChainAsync();
        var screen = await OpenAsync(demo.Api, project);
        await using var other = new TestApp(demo.Connection);
        var elsewhere = new ApiClient(other.SignedIn());
        var version = 1;
        for (var i = 0; i < 50; i++)
        {
            string Any() => screen.Order[random.Next(screen.Order.Count)];
            var edit = random.Next(12) switch
            {
                0 => $$"""{"type":"addTask","id":"n{{i}}","name":"N{{i}}","parent":null,"after":null}""",
                1 or 2 => $$"""{"type":"setLength","task":"{{Any()}}","length":"{{random.Next(1, 9)}}d"}""",
                3 => $$"""{"type":"renameTask","task":"{{Any()}}","name":"R{{i}}"}""",
                4 => $$"""{"type":"linkTasks","from":"{{Any()}}","to":"{{Any()}}"}""",
                5 => $$"""{"type":"reportProgress","task":"{{Any()}}","progress":{{random.Next(11) / 10.0}}}""",
                6 => $$"""{"type":"placeTask","task":"{{Any()}}","start":"2027-05-{{random.Next(3, 30):00}}"}""",
                7 => $$"""{"type":"indentTask","task":"{{Any()}}"}""",
                8 => $$"""{"type":"setActive","task":"{{Any()}}","on":{{(random.Next(2) == 0 ? "true" : "false")}}}""",
                9 => $$"""{"type":"setLabel","task":"{{Any()}}","label":"L{{i}}"}""",
                10 => $$"""{"type":"setDeadline","task":"{{Any()}}","deadline":"2027-05-{{random.Next(3, 30):00}}"}""",
                _ => $$"""{"type":"setFinishBy","finishBy":"2027-06-{{random.Next(1, 30):00}}"}""",
            };
            var body = JsonNode.Parse(
                $$"""
                { "id": "{{Guid.NewGuid()}}", "baseVersion": {{(random.Next(4) == 0 ? 1 : version)}}, "overrule": true,
                "edit": {{edit}} }
                """
            )!;
            using var answer = await demo.Api.Http.PostAsJsonAsync($"/api/v1/projects/{project}/edits?changes=true", body);
            if (!answer.IsSuccessStatusCode)
                continue;
            var told = (await answer.Content.ReadFromJsonAsync<JsonNode>())!;
            version = (int)told["version"]!;
            screen.Take(told["changes"]!);
            Assert.Equal((await OpenAsync(elsewhere, project)).Text(), screen.Text());
        }
        Assert.True(version > 15);
    }

    private static async Task<Screen> OpenAsync(ApiClient api, Guid project)
    {
        var page = await api.Http.GetStringAsync($"/projects/{project}");
        var screen = new Screen();
        screen.Take(JsonNode.Parse(PlanData().Match(page).Groups[1].Value)!["changes"]!);
        return screen;
    }

    [GeneratedRegex("<script type=\"application/json\" id=\"plan-data\">(.*?)</script>", RegexOptions.Singleline)]
    private static partial Regex PlanData();

    /// <summary>What a screen knows.</summary>
    private sealed class Screen
    {
        private readonly Dictionary<string, SortedDictionary<string, string>> _rows = [];
        private readonly SortedDictionary<string, string> _rest = new(StringComparer.Ordinal);

        public List<string> Order { get; private set; } = [];

        public void Take(JsonNode changes)
        {
            // A client with an older version gets every row.
            if (changes["from"] is null)
                _rows.Clear();
            foreach (var row in changes["rows"]!.AsArray().Select(r => r!.AsObject()))
            {
                var id = (string)row["id"]!;
                if (!_rows.TryGetValue(id, out var known))
                    _rows[id] = known = new SortedDictionary<string, string>(StringComparer.Ordinal);
                foreach (var (name, value) in row)
                {
                    // Defaults are left out of a row that is sent whole.
                    if (value is null || value.ToJsonString() is "false" or "0")
                        known.Remove(name);
                    else
                        known[name] = value.ToJsonString();
                }
            }
            if (changes["order"] is JsonArray order)
                Order = [.. order.Select(o => (string)o!)];
            foreach (var part in new[] { "project", "links", "finishLinks", "people", "closed" })
                if (changes[part] is { } value)
                    _rest[part] = value.ToJsonString();
        }

        public string Text() =>
            string.Join(
                '\n',
                Order
                    .Select(id => string.Join(' ', _rows[id].Select(f => $"{f.Key}={f.Value}")))
                    .Concat(_rest.Select(r => $"{r.Key}: {r.Value}"))
            );
    }
}
