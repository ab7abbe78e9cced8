using System.Net;
using System.Text.Json.Nodes;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Auxilium.Web.Tests;

public class StorageTests(DemoApp demo) : IClassFixture<DemoApp>
{
    [Fact]
    public async Task Everything_is_there_after_a_restart()
    {
        var project = await demo.Api.NewChainAsync();
        await demo.Api.EditAsync(project, """{"type":"setLength","task":"a","length":"3d"}""", 1);
        await using var second = new TestApp(demo.Connection);
        var api = new ApiClient(second.SignedIn());
        Assert.Equal(await demo.Api.PlanAsync(project), await api.PlanAsync(project));
        Assert.Equal(HttpStatusCode.OK, (await api.TakeBackAsync(project)).Status);
        Assert.Equal(await api.PlanAsync(project), await demo.Api.PlanAsync(project));
    }

    [Theory]
    [InlineData("", 30, 100)]
    [InlineData(";Maximum Pool Size=7;Max Auto Prepare=0", 7, 0)]
    public void A_process_takes_few_connections_and_prepares_what_it_asks_often_unless_told_otherwise(string told, int most, int prepared)
    {
        var options = new DbContextOptionsBuilder<AuxiliumDb>();
        AuxiliumDb.Configure(options, "Host=localhost;Username=u;Database=d" + told);
        using var db = new AuxiliumDb(options.Options);
        var settings = new NpgsqlConnectionStringBuilder(db.Database.GetConnectionString());
        Assert.Equal((most, prepared), (settings.MaxPoolSize, settings.MaxAutoPrepare));
    }

    [Fact]
    public async Task Many_people_editing_at_once_on_two_servers_lose_nothing_and_apply_nothing_twice()
    {
        var project = await demo.Api.NewChainAsync();
        await using var second = new TestApp(demo.Connection);
        ApiClient[] servers = [demo.Api, new ApiClient(second.SignedIn())];
        await Task.WhenAll(
            Enumerable
                .Range(0, 8)
                .Select(async person =>
                {
                    for (var i = 0; i < 8; i++)
                    {
                        var id = Guid.NewGuid();
                        var edit = $$"""{"type":"addTask","id":"p{{person}}n{{i}}","name":"N","parent":null,"after":"a"}""";
                        // Each is sent twice at the same time, as after a broken connection.
                        var answers = await Task.WhenAll(servers.Select(server => server.EditAsync(project, edit, 1, id)));
                        Assert.All(answers, answer => Assert.Equal(HttpStatusCode.OK, answer.Status));
                    }
                })
        );
        var plan = JsonNode.Parse(await demo.Api.PlanAsync(project))!;
        Assert.Equal(3 + 64, plan["tasks"]!.AsArray().Count);
        var last = await demo.Api.EditAsync(project, """{"type":"renameTask","task":"a","name":"Last"}""", 65);
        Assert.Equal(66, last.Body["version"]!.GetValue<int>());
    }

    [Fact]
    public async Task What_the_last_edit_moved_is_told_after_a_restart()
    {
        var project = await demo.Api.NewChainAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await demo.Api.Http.GetAsync($"/api/v1/projects/{project}/edits/last")).StatusCode);
        var told = await demo.Api.EditAsync(project, """{"type":"setLength","task":"a","length":"3d"}""", 1);
        await using var second = new TestApp(demo.Connection);
        Assert.Equal(
            told.Body.ToJsonString(),
            JsonNode.Parse(await second.SignedIn().GetStringAsync($"/api/v1/projects/{project}/edits/last"))!.ToJsonString()
        );
    }

    /// <summary>A process that has the plan in memory and one that reads it from the database see the same after any edits.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public async Task What_is_written_is_what_is_in_memory_after_many_edits(int seed)
    {
        var random = new Random(seed);
        var project = await demo.Api.NewChainAsync();
        List<string> ids = ["a", "b", "c"];
        var kept = 0;
        for (var i = 0; i < 60; i++)
        {
            var task = ids[random.Next(ids.Count)];
            var other = ids[random.Next(ids.Count)];
            var edit = random.Next(8) switch
            {
                0 or 1 => $$"""{"type":"addTask","id":"n{{i}}","name":"N{{i}}","parent":null,"after":null}""",
                2 => $$"""{"type":"indentTask","task":"{{task}}"}""",
                3 => $$"""{"type":"outdentTask","task":"{{task}}"}""",
                4 => $$"""{"type":"setPredecessors","task":"{{task}}","links":[{"from":"{{other}}","lag":"1d"}]}""",
                5 => $$"""{"type":"moveTask","task":"{{task}}","parent":null,"after":null}""",
                6 => $$"""{"type":"setOwner","task":"{{task}}","owner":"Person {{i % 4}}"}""",
                _ => $$"""{"type":"removeTasks","tasks":["{{task}}"]}""",
            };
            var answer =
                random.Next(6) == 0
                    ? await demo.Api.TakeBackAsync(project)
                    : await demo.Api.EditAsync(project, edit, kept + 1, overrule: true);
            Assert.NotEqual(HttpStatusCode.InternalServerError, answer.Status);
            if (answer.Status != HttpStatusCode.OK)
                continue;
            kept = answer.Body["version"]!.GetValue<int>() - 1;
            if (edit.Contains("addTask", StringComparison.Ordinal) && !ids.Contains($"n{i}"))
                ids.Add($"n{i}");
        }
        Assert.True(kept > 20);
        await using var fresh = new TestApp(demo.Connection);
        Assert.Equal(await demo.Api.PlanAsync(project), await new ApiClient(fresh.SignedIn()).PlanAsync(project));
    }

    [Fact]
    public async Task Rows_put_at_the_same_place_again_and_again_stay_in_order()
    {
        var project = await demo.Api.NewChainAsync();
        for (var i = 0; i < 30; i++)
            Assert.Equal(
                HttpStatusCode.OK,
                (
                    await demo.Api.EditAsync(project, $$"""{"type":"addTask","id":"n{{i}}","name":"N","parent":null,"after":"a"}""", i + 1)
                ).Status
            );
        await using var fresh = new TestApp(demo.Connection);
        var plan = await new ApiClient(fresh.SignedIn()).PlanAsync(project);
        Assert.True(plan.IndexOf("\"n29\"", StringComparison.Ordinal) < plan.IndexOf("\"n0\"", StringComparison.Ordinal));
        Assert.Equal(await demo.Api.PlanAsync(project), plan);
    }
}
