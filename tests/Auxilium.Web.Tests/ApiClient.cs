using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Auxilium.Web.Tests;

/// <summary>Calls the API as a program would.</summary>
public sealed class ApiClient(HttpClient http)
{
    public HttpClient Http => http;

    /// <summary>A project with tasks A, B and C of a day each, C after B after A, starting Monday 3 May 2027.</summary>
    public Task<Guid> NewChainAsync() =>
        CreateAsync(
            """
            {"format":"auxilium-plan/1","project":{"name":"Chain","start":"2027-05-03"},
             "tasks":[{"id":"a","name":"A","length":"1d"},{"id":"b","name":"B","length":"1d"},{"id":"c","name":"C","length":"1d"}],
             "links":[{"from":"a","to":"b"},{"from":"b","to":"c"}]}
            """
        );

    public async Task<Guid> CreateAsync(string document)
    {
        var answer = await PostAsync("/api/v1/projects", document);
        Assert.Equal(HttpStatusCode.Created, answer.Status);
        return answer.Body["id"]!.GetValue<Guid>();
    }

    public Task<Answer> EditAsync(Guid project, string edit, int baseVersion, Guid? id = null, bool overrule = false) =>
        PostAsync(
            $"/api/v1/projects/{project}/edits",
            $$"""
            {"id":"{{id ?? Guid.NewGuid()}}", "baseVersion":{{baseVersion}}, "edit":{{edit}},
            "overrule":{{(overrule ? "true" : "false")}}}
            """
        );

    public Task<Answer> TakeBackAsync(Guid project, string which = "lastEdit") =>
        PostAsync($"/api/v1/projects/{project}/edits", $$"""{"id":"{{Guid.NewGuid()}}","baseVersion":1,"takeBack":"{{which}}"}""");

    public async Task<string> PlanAsync(Guid project) => await http.GetStringAsync($"/api/v1/projects/{project}/plan");

    public async Task<Answer> PostAsync(string path, string json, string type = "application/json")
    {
        using var content = new StringContent(json, Encoding.UTF8);
        content.Headers.ContentType = new MediaTypeHeaderValue(type);
        using var response = await http.PostAsync(path, content);
        var text = await response.Content.ReadAsStringAsync();
        return new Answer(response.StatusCode, text.Length == 0 ? new JsonObject() : JsonNode.Parse(text)!);
    }

    /// <summary>The sentence of a ripple as plain text.</summary>
    public static string Sentence(JsonNode answer) =>
        string.Concat(answer["ripple"]!["sentence"]!.AsArray().Select(run => run!["text"]!.GetValue<string>()));

    public static string Quote(string text) => JsonSerializer.Serialize(text);
}

public sealed record Answer(HttpStatusCode Status, JsonNode Body)
{
    public string Detail => Body["detail"]!.GetValue<string>();
}
