using System.Collections.Concurrent;
using System.Text.Json.Nodes;
using System.Threading.Channels;
using Auxilium.Planning.Editing;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.AspNetCore.Http.Connections;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;

namespace Auxilium.Web.Tests;

/// <summary>What is told to those who have a plan open, on two servers with one database.</summary>
public sealed class LiveTests(LiveServers servers) : IClassFixture<LiveServers>
{
    [Fact]
    public async Task An_edit_on_one_server_is_told_on_the_other_and_brings_it_to_the_same_plan()
    {
        var project = await servers.One.Api.NewChainAsync();
        await using var oona = await LiveServers.JoinAsync(servers.Two, "imke", project, 1);
        await servers.One.Api.EditAsync(project, """{"type":"setLength","task":"a","length":"4d"}""", 1);
        var change = await oona.NextAsync("changed");
        Assert.Equal(
            (1, 2, "Imke Varga"),
            (change["from"]!.GetValue<int>(), change["to"]!.GetValue<int>(), change["name"]!.GetValue<string>())
        );
        Assert.Equal(
            "4d",
            change["changes"]!["rows"]!.AsArray().Single(r => r!["id"]!.GetValue<string>() == "a")!["length"]!.GetValue<string>()
        );
        Assert.Equal(3, change["changes"]!["rows"]!.AsArray().Count);
    }

    [Fact]
    public async Task Who_was_away_catches_up_with_what_was_missed_or_is_told_to_ask_for_all()
    {
        var project = await servers.One.Api.NewChainAsync();
        await using var stays = await LiveServers.JoinAsync(servers.One, "imke", project, 1);
        for (var version = 1; version <= 4; version++)
        {
            await servers.One.Api.EditAsync(project, $$"""{"type":"setLength","task":"a","length":"{{version + 1}}d"}""", version);
            await stays.NextAsync("changed");
        }
        await using var back = await LiveServers.JoinAsync(servers.One, "imke", project, 3);
        Assert.Equal([(3, 4), (4, 5)], back.Missed!.AsArray().Select(c => (c!["from"]!.GetValue<int>(), c["to"]!.GetValue<int>())));
        await using var tooLong = await LiveServers.JoinAsync(servers.Two, "imke", project, 2);
        Assert.Null(tooLong.Missed);
        await using var upToDate = await LiveServers.JoinAsync(servers.Two, "imke", project, 5);
        Assert.Empty(upToDate.Missed!.AsArray());
    }

    [Fact]
    public async Task What_could_not_be_told_while_the_database_failed_is_told_once_it_is_back()
    {
        var project = await servers.One.Api.NewChainAsync();
        await using var page = await LiveServers.JoinAsync(servers.Two, "imke", project, 1);
        async Task InSql(string sql)
        {
            await using var connection = new NpgsqlConnection(servers.One.Connection);
            await connection.OpenAsync();
            await using var command = new NpgsqlCommand(sql, connection);
            await command.ExecuteNonQueryAsync();
        }
        // The other server reads the plan to tell it, and that fails.
        await InSql("alter table members rename to members_away");
        var edits = servers.One.App.Services.GetRequiredService<PlanEdits>();
        Assert.IsType<EditCommitted>(
            await edits.CommitAsync(
                project,
                new EditRequest(Guid.NewGuid(), 1, new RenameTask("a", "Told late"), null, "imke"),
                new DateOnly(2027, 5, 13)
            )
        );
        await Assert.ThrowsAsync<OperationCanceledException>(() => page.NextAsync("changed", TimeSpan.FromSeconds(1)));
        await InSql("alter table members_away rename to members");
        Assert.Equal(2, (await page.NextAsync("changed"))["to"]!.GetValue<int>());
    }

    [Fact]
    public async Task After_a_backup_was_put_back_under_running_servers_nobody_goes_on_with_what_was_lost()
    {
        var project = await servers.One.Api.NewChainAsync();
        await servers.One.Api.EditAsync(project, """{"type":"setLength","task":"a","length":"2d"}""", 1);
        await using var page = await LiveServers.JoinAsync(servers.Two, "imke", project, 2);
        await servers.One.Api.EditAsync(project, """{"type":"setLength","task":"a","length":"9d"}""", 2);
        await servers.One.Api.EditAsync(project, """{"type":"renameTask","task":"b","name":"Lost"}""", 3);
        for (var version = 2; version < 4; version++)
            Assert.Equal(version, (await page.NextAsync("changed"))["from"]!.GetValue<int>());

        // As a backup of version 2 leaves it.
        await servers.One.InDatabaseAsync(db =>
        {
            var plan = db.Plans.Single(p => p.ProjectId == project);
            db.Journal.RemoveRange(db.Journal.Where(j => j.PlanId == plan.Id && j.Version > 2));
            plan.Version = 2;
            db.Tasks.Single(t => t.PlanId == plan.Id && t.Id == "a").Length = "2d";
            db.Tasks.Single(t => t.PlanId == plan.Id && t.Id == "b").Name = "B";
        });
        var edited = await servers.One.Api.EditAsync(project, """{"type":"setLength","task":"c","length":"3d"}""", 2);
        Assert.Equal(3, edited.Body["version"]!.GetValue<int>());
        await page.UntilAsync("lost", _ => true);
        foreach (var api in new[] { servers.One.Api, servers.Two.Api })
        {
            var tasks = JsonNode.Parse(await api.PlanAsync(project))!["tasks"]!.AsArray();
            Assert.Equal(["2d", "1d", "3d"], tasks.Select(t => t!["length"]!.GetValue<string>()));
            Assert.Equal("B", tasks[1]!["name"]!.GetValue<string>());
        }
        // It goes on from there, and not from a version 3 that was lost.
        await using var back = await LiveServers.JoinAsync(servers.Two, "imke", project, 3);
        Assert.Empty(back.Missed!.AsArray());
        await servers.One.Api.EditAsync(project, """{"type":"setLength","task":"c","length":"4d"}""", 3);
        Assert.Equal(
            (3, 4),
            (await page.NextAsync("changed")) is var change ? (change["from"]!.GetValue<int>(), change["to"]!.GetValue<int>()) : default
        );
    }

    [Fact]
    public async Task Everybody_sees_who_is_there_and_on_which_row_across_servers()
    {
        var project = await servers.One.Api.NewChainAsync();
        await servers.One.App.Services.GetRequiredService<ProjectRoles>().GiveAsync(project, "oona", ProjectRole.Viewer);
        await using var imke = await LiveServers.JoinAsync(servers.One, "imke", project, 1);
        var oona = await LiveServers.JoinAsync(servers.Two, "oona", project, 1);
        await imke.UntilAsync("who", here => here.AsArray().Any(p => p!["person"]!.GetValue<string>() == "oona"));
        await oona.Connection.SendAsync("At", "b");
        await imke.UntilAsync("who", here =>
            here.AsArray().Any(p => p!["person"]!.GetValue<string>() == "oona" && p["task"]?.GetValue<string>() == "b")
        );
        await oona.DisposeAsync();
        await imke.UntilAsync("who", here => here.AsArray().All(p => p!["person"]!.GetValue<string>() != "oona"));
    }

    [Fact]
    public async Task Comments_proposals_and_notices_are_told_to_those_they_are_for()
    {
        var project = await servers.One.Api.NewChainAsync();
        await servers.One.App.Services.GetRequiredService<ProjectRoles>().GiveAsync(project, "tomas", ProjectRole.Member);
        await using var tomas = await LiveServers.JoinAsync(servers.Two, "tomas", project, 1);
        await servers.One.Api.PostAsync($"/api/v1/projects/{project}/tasks/a/comments", """{"text":"@Tomas, look"}""");
        Assert.Equal("a", (await tomas.NextAsync("talk"))!.GetValue<string>());
        Assert.Equal(1, (await tomas.NextAsync("notice"))!.GetValue<int>());
        await new ApiClient(servers.One.App.SignedIn("tomas")).EditAsync(project, """{"type":"setLength","task":"a","length":"9d"}""", 1);
        Assert.Equal(1, (await tomas.NextAsync("proposals"))!.GetValue<int>());
    }

    [Fact]
    public async Task To_whom_a_project_does_not_exist_it_cannot_be_joined()
    {
        var project = await servers.One.Api.NewChainAsync();
        var refused = await Assert.ThrowsAsync<HubException>(() => LiveServers.JoinAsync(servers.One, "bert", project, 1));
        Assert.Contains("There is no such project", refused.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_sign_in_on_one_server_counts_on_the_other()
    {
        using var signedIn = servers.One.App.SignedIn("wanda");
        var sessions = servers.Two.App.Services.GetRequiredService<Sessions>();
        var before = (await sessions.OfAsync("wanda")).Count;
        using var there = servers.Two.App.SignedIn("wanda");
        Assert.Equal(before + 1, (await sessions.OfAsync("wanda")).Count);
        await TestApp.PostFormAsync(there, "/account", "/account?handler=Everywhere", []);
        Assert.Contains("This is a demo", await signedIn.GetStringAsync("/account"), StringComparison.Ordinal);
    }
}

/// <summary>Two servers on one database.</summary>
public sealed class LiveServers : IDisposable
{
    public LiveServers() => Two = new DemoApp(One.Connection);

    public DemoApp One { get; } = new();

    public DemoApp Two { get; }

    public void Dispose()
    {
        Two.Dispose();
        One.Dispose();
    }

    internal static async Task<Listening> JoinAsync(DemoApp server, string person, Guid project, int version)
    {
        var token = await server.App.Services.GetRequiredService<Tokens>().MakeAsync(person, "live", TokenScope.Look, null);
        var connection = new HubConnectionBuilder()
            .WithUrl("http://localhost/live", options =>
            {
                options.HttpMessageHandlerFactory = _ => server.App.Server.CreateHandler();
                options.Transports = HttpTransportType.LongPolling;
                options.Headers["Authorization"] = $"Bearer {token}";
            })
            .Build();
        var listening = new Listening(connection);
        await connection.StartAsync();
        await using var db = await server.App.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync();
        var edit = await db
            .Journal.Where(j => db.Plans.Any(p => p.Id == j.PlanId && p.ProjectId == project) && j.Version == version)
            .Select(j => (Guid?)j.EditId)
            .SingleOrDefaultAsync();
        listening.Missed = (await connection.InvokeAsync<JsonNode>("Join", project, version, edit))["changes"];
        return listening;
    }
}

/// <summary>A page that is connected to a plan.</summary>
internal sealed class Listening : IAsyncDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    private readonly TaskCompletionSource _ended = new();

    private readonly Dictionary<string, Channel<JsonNode?>> _told = new[]
    {
        "changed",
        "lost",
        "who",
        "talk",
        "proposals",
        "notice",
        "money",
        "day",
    }.ToDictionary(n => n, _ => Channel.CreateUnbounded<JsonNode?>());

    public Listening(HubConnection connection)
    {
        Connection = connection;
        connection.Closed += _ =>
        {
            _ended.TrySetResult();
            return Task.CompletedTask;
        };
        connection.On("lost", () => _told["lost"].Writer.TryWrite(null));
        connection.On("day", () => _told["day"].Writer.TryWrite(null));
        foreach (var name in _told.Keys.Where(n => n is not ("talk" or "lost" or "day")))
            connection.On<JsonNode?>(name, told => Hear(name, told));
        connection.On<string, int, int>("talk", (task, _, _) => Hear("talk", JsonValue.Create(task)));
    }

    public HubConnection Connection { get; }

    /// <summary>All that it was told, as it came.</summary>
    public ConcurrentQueue<string> Heard { get; } = [];

    /// <summary>Ends when the server ends the connection.</summary>
    public Task Ended => _ended.Task;

    /// <summary>What it was told on joining.</summary>
    public JsonNode? Missed { get; set; }

    private void Hear(string name, JsonNode? told)
    {
        Heard.Enqueue(told?.ToJsonString() ?? "");
        _told[name].Writer.TryWrite(told);
    }

    public async Task<JsonNode> NextAsync(string name, TimeSpan? patience = null)
    {
        using var end = new CancellationTokenSource(patience ?? Patience);
        return (await _told[name].Reader.ReadAsync(end.Token)) ?? new JsonObject();
    }

    public async Task UntilAsync(string name, Func<JsonNode, bool> holds)
    {
        while (!holds(await NextAsync(name))) { }
    }

    public ValueTask DisposeAsync() => Connection.DisposeAsync();
}
