using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Exports;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>Files that are made in the background: told, fetched and cancelled by who asked for them, and by nobody else.</summary>
public class BackgroundExportTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(60);

    [Fact]
    public async Task A_file_is_made_in_the_background_and_told_to_who_asked_for_it()
    {
        var project = await demo.Api.NewChainAsync();
        var (id, _) = await AskAsync(project, "format=pdf&fit=pages&title=Wall");
        var done = await EndAsync(id);
        Assert.Equal("done", (string)done["state"]!);
        Assert.True((int)done["pages"]! > 0 && (int)done["pages"]! == (int)done["drawn"]!);
        using var file = await demo.Api.Http.GetAsync((string)done["file"]!);
        Assert.Equal("application/pdf", file.Content.Headers.ContentType!.MediaType);
        Assert.StartsWith("%PDF", Encoding.Latin1.GetString(await file.Content.ReadAsByteArrayAsync()), StringComparison.Ordinal);
        var notices = await demo.Api.Http.GetStringAsync("/notices");
        Assert.Contains("is ready to download", notices, StringComparison.Ordinal);
        Assert.Contains($"/api/v1/exports/{id}/file", notices, StringComparison.Ordinal);

        var other = demo.App.SignedIn("tomas");
        Assert.Equal(HttpStatusCode.NotFound, (await other.GetAsync($"/api/v1/exports/{id}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await other.GetAsync($"/api/v1/exports/{id}/file")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await other.DeleteAsync($"/api/v1/exports/{id}")).StatusCode);

        Assert.Equal(HttpStatusCode.NoContent, (await demo.Api.Http.DeleteAsync($"/api/v1/exports/{id}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await demo.Api.Http.GetAsync($"/api/v1/exports/{id}/file")).StatusCode);
    }

    [Fact]
    public async Task What_cannot_be_made_says_why()
    {
        var project = await demo.Api.NewChainAsync();
        using var unknown = await demo.Api.Http.PostAsync($"/api/v1/projects/{project}/exports?format=doc", null);
        Assert.Equal(HttpStatusCode.BadRequest, unknown.StatusCode);
        var (id, _) = await AskAsync(project, "format=pdf&rows=nothing");
        var failed = await EndAsync(id);
        Assert.Equal("failed", (string)failed["state"]!);
        Assert.StartsWith("None of these rows is in the plan", (string)failed["problem"]!, StringComparison.Ordinal);
        Assert.Contains("could not be made. None of these rows", await demo.Api.Http.GetStringAsync("/notices"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Who_lost_the_project_gets_neither_a_new_file_nor_an_old_one()
    {
        var project = await demo.Api.NewChainAsync();
        var services = demo.App.Services;
        var roles = services.GetRequiredService<ProjectRoles>();
        var wanda = demo.App.SignedIn("wanda");
        await roles.GiveAsync(project, "wanda", ProjectRole.Viewer);
        var shelf = services.GetRequiredService<ExportShelf>();
        var old = await shelf.AskAsync("wanda", project, """{"Format":"csv"}""", "Chain.csv");
        await EndAsync(old, wanda);
        Assert.Equal(HttpStatusCode.OK, (await wanda.GetAsync($"/api/v1/exports/{old}/file")).StatusCode);
        await roles.GiveAsync(project, "wanda", ProjectRole.None);
        Assert.Equal(HttpStatusCode.NotFound, (await wanda.GetAsync($"/api/v1/exports/{old}/file")).StatusCode);
        var late = await shelf.AskAsync("wanda", project, """{"Format":"csv"}""", "Chain.csv");
        Assert.Equal("failed", (string)(await EndAsync(late, wanda))["state"]!);
    }

    [Fact]
    public async Task A_file_is_made_once_even_where_its_process_died_and_is_kept_for_a_week()
    {
        using var database = new TestDatabase();
        await using var app = new TestApp(database.Connection);
        var api = new ApiClient(app.SignedIn());
        var project = await api.NewChainAsync();
        var databases = app.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>();
        var clock = new MovedClock(DateTimeOffset.UtcNow.AddDays(-30));
        var shelf = new ExportShelf(databases, clock);
        // Long ago, so that what the application itself makes is not in the way.
        var first = await shelf.AskAsync("imke", project, "{}", "A.csv");
        await using (var db = await databases.CreateDbContextAsync())
            await db.Exports.ExecuteUpdateAsync(e =>
                e.SetProperty(x => x.State, ExportState.Running).SetProperty(x => x.HeardAt, DateTime.UtcNow.AddDays(1))
            );
        Assert.Null(await shelf.ClaimAsync());
        clock.Now = DateTimeOffset.UtcNow.AddDays(1).AddSeconds(59);
        Assert.Null(await shelf.ClaimAsync());
        clock.Now = clock.Now.AddSeconds(2);
        Assert.Equal(first, (await shelf.ClaimAsync())?.Id);
        Assert.Null(await shelf.ClaimAsync());
        Assert.True(await shelf.HearAsync(first, 3, 9));
        Assert.True(await shelf.DeleteAsync("imke", first));
        Assert.False(await shelf.HearAsync(first, 4, 9));

        clock.Now = DateTimeOffset.UtcNow;
        var kept = await shelf.AskAsync("imke", project, """{"Format":"csv"}""", "B.csv");
        clock.Now = clock.Now.AddDays(ExportShelf.DaysKept).AddSeconds(-1);
        await shelf.ClearAsync();
        Assert.NotNull(await shelf.FindAsync("imke", kept));
        clock.Now = clock.Now.AddSeconds(2);
        await shelf.ClearAsync();
        Assert.Null(await shelf.FindAsync("imke", kept));
    }

    private async Task<(Guid Id, JsonNode Body)> AskAsync(Guid project, string query)
    {
        using var answer = await demo.Api.Http.PostAsync($"/api/v1/projects/{project}/exports?{query}", null);
        Assert.Equal(HttpStatusCode.Accepted, answer.StatusCode);
        var body = JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
        return ((Guid)body["id"]!, body);
    }

    /// <summary>What became of it, once it is over.</summary>
    private async Task<JsonNode> EndAsync(Guid id, HttpClient? who = null)
    {
        var until = DateTime.UtcNow + Patience;
        while (DateTime.UtcNow < until)
        {
            var body = JsonNode.Parse(await (who ?? demo.Api.Http).GetStringAsync($"/api/v1/exports/{id}"))!;
            if ((string)body["state"]! is "done" or "failed")
                return body;
            await Task.Delay(100);
        }
        throw new TimeoutException("The file was not made.");
    }

    private sealed class MovedClock(DateTimeOffset now) : TimeProvider
    {
        public DateTimeOffset Now { get; set; } = now;

        public override DateTimeOffset GetUtcNow() => Now;
    }
}
