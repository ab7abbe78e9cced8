using System.Net;
using System.Text.Json.Nodes;

namespace Auxilium.Web.Tests;

public class JournalApiTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private readonly ApiClient _api = demo.Api;

    [Fact]
    public async Task Every_edit_is_listed_with_who_and_what_it_did_the_last_first()
    {
        var project = await _api.NewChainAsync();
        await _api.EditAsync(project, """{"type":"setLength","task":"a","length":"3d"}""", 1);
        await _api.EditAsync(project, """{"type":"renameTask","task":"c","name":"See"}""", 2);
        var entries = await EntriesAsync(project);
        Assert.Equal(
            [
                "C is now called See. Nothing moved; the finish stays Fri 7 May.",
                "A now takes 3 days instead of 1 day. 2 other tasks moved; finish Wed 5 May → Fri 7 May.",
            ],
            entries.Select(Sentence)
        );
        Assert.Equal(("Imke Varga", 3, true), ((string)entries[1]["person"]!, (int)entries[1]["moved"]!, (bool)entries[1]["stands"]!));
    }

    [Fact]
    public async Task It_is_asked_for_by_task_and_by_person()
    {
        var project = await _api.NewChainAsync();
        await _api.EditAsync(project, """{"type":"setLength","task":"b","length":"3d"}""", 1);
        await _api.EditAsync(project, """{"type":"renameTask","task":"a","name":"Ay"}""", 2);
        Assert.Single(await EntriesAsync(project, "?task=a"));
        // It moved, though it was not changed itself.
        Assert.StartsWith("B now takes", Sentence(Assert.Single(await EntriesAsync(project, "?task=c"))), StringComparison.Ordinal);
        Assert.Empty(await EntriesAsync(project, "?person=nobody"));
        using var bad = await _api.Http.GetAsync($"/api/v1/projects/{project}/journal?task=%25");
        Assert.Equal(HttpStatusCode.BadRequest, bad.StatusCode);
    }

    [Fact]
    public async Task An_entry_is_taken_back_once_and_done_again()
    {
        var project = await _api.NewChainAsync();
        await _api.EditAsync(project, """{"type":"setLength","task":"a","length":"3d"}""", 1);
        await _api.EditAsync(project, """{"type":"renameTask","task":"c","name":"See"}""", 2);
        var first = (long)(await EntriesAsync(project))[1]["id"]!;
        Assert.StartsWith(
            "Taken back: A now takes 3 days",
            ApiClient.Sentence((await TakeBackAsync(project, first)).Body),
            StringComparison.Ordinal
        );
        Assert.Contains("\"See\"", await _api.PlanAsync(project), StringComparison.Ordinal);
        Assert.Equal("This has been taken back already, or is not an edit of this plan.", (await TakeBackAsync(project, first)).Detail);

        var entries = await EntriesAsync(project);
        Assert.Equal([true, true, false], entries.Select(entry => (bool)entry["stands"]!));
        // Undo goes on with what still stands.
        Assert.StartsWith(
            "Taken back: C is now called See",
            ApiClient.Sentence((await _api.TakeBackAsync(project)).Body),
            StringComparison.Ordinal
        );
        Assert.StartsWith(
            "Done again: A now takes 3 days",
            ApiClient.Sentence((await TakeBackAsync(project, (long)entries[0]["id"]!)).Body),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task What_was_changed_again_since_is_a_choice()
    {
        var project = await _api.NewChainAsync();
        await _api.EditAsync(project, """{"type":"setLength","task":"a","length":"3d"}""", 1);
        await _api.EditAsync(project, """{"type":"setLength","task":"a","length":"4d"}""", 2);
        var first = (long)(await EntriesAsync(project))[1]["id"]!;
        var conflict = await TakeBackAsync(project, first);
        Assert.Equal(
            (HttpStatusCode.Conflict, "4d", "1d"),
            (conflict.Status, (string)conflict.Body["theirs"]!, (string)conflict.Body["yours"]!)
        );
        Assert.Equal(HttpStatusCode.OK, (await TakeBackAsync(project, first, overrule: true)).Status);
    }

    [Fact]
    public async Task An_entry_of_another_plan_is_not_taken_back()
    {
        var (project, other) = (await _api.NewChainAsync(), await _api.NewChainAsync());
        await _api.EditAsync(other, """{"type":"setLength","task":"a","length":"3d"}""", 1);
        var entry = (long)(await EntriesAsync(other))[0]["id"]!;
        Assert.Equal(HttpStatusCode.Conflict, (await TakeBackAsync(project, entry)).Status);
        Assert.True((bool)(await EntriesAsync(other))[0]["stands"]!);
    }

    [Fact]
    public async Task A_long_journal_comes_in_pages()
    {
        var project = await _api.NewChainAsync();
        for (var i = 1; i <= 52; i++)
            await _api.EditAsync(project, $$"""{"type":"renameTask","task":"a","name":"A{{i}}"}""", i);
        var page = JsonNode.Parse(await _api.Http.GetStringAsync($"/api/v1/projects/{project}/journal"))!;
        Assert.Equal(50, page["entries"]!.AsArray().Count);
        var rest = JsonNode.Parse(await _api.Http.GetStringAsync($"/api/v1/projects/{project}/journal?before={page["next"]}"))!;
        Assert.Equal((2, true), (rest["entries"]!.AsArray().Count, rest["next"] is null));
    }

    private Task<Answer> TakeBackAsync(Guid project, long entry, bool overrule = false) =>
        _api.PostAsync(
            $"/api/v1/projects/{project}/edits",
            $$"""{"id":"{{Guid.NewGuid()}}","baseVersion":1,"takeBack":{{entry}},"overrule":{{(overrule ? "true" : "false")}}}"""
        );

    private async Task<List<JsonNode>> EntriesAsync(Guid project, string query = "") =>
        [
            .. JsonNode.Parse(await _api.Http.GetStringAsync($"/api/v1/projects/{project}/journal{query}"))!["entries"]!
                .AsArray()
                .Select(entry => entry!),
        ];

    private static string Sentence(JsonNode entry) => string.Concat(entry["sentence"]!.AsArray().Select(run => (string)run!["text"]!));
}
