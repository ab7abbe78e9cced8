using System.Net;
using System.Text.Json.Nodes;
using Auxilium.Storage.Access;
using Npgsql;

namespace Auxilium.Web.Tests;

/// <summary>Databases of released schemas, as they were filled then: upgraded, read, edited and taken back.</summary>
public class KeptDatabaseTests
{
    public static TheoryData<string> Kept =>
        [.. Directory.EnumerateFiles(Folder, "*.sql").Select(f => Path.GetFileNameWithoutExtension(f)!)];

    private static string Folder => Path.Combine(AppContext.BaseDirectory, "Kept");

    [Theory]
    [MemberData(nameof(Kept))]
    public async Task A_kept_database_is_upgraded_and_every_edit_in_its_journal_can_be_read_and_taken_back(string kept)
    {
        using var database = new TestDatabase();
        await RestoreAsync(database.Connection, await File.ReadAllTextAsync(Path.Combine(Folder, kept + ".sql")));
        await using var app = new TestApp(database.Connection);
        var api = new ApiClient(app.SignedIn());
        var projects = JsonNode.Parse(await api.Http.GetStringAsync("/api/v1/projects"))!.AsArray();
        Assert.Equal(3, projects.Count);
        var lantern = projects.Single(p => p!["name"]!.GetValue<string>() == "Lantern Regatta 2027")!["id"]!.GetValue<Guid>();
        var plan = await api.PlanAsync(lantern);
        // Why people were away had been in plans; that somebody is away still is.
        Assert.DoesNotContain("Knee operation", plan, StringComparison.Ordinal);
        Assert.Contains("\"Away\"", plan, StringComparison.Ordinal);
        Assert.Contains("Holiday", plan, StringComparison.Ordinal);
        Assert.Contains("Knee operation", await app.SignedIn("tomas").GetStringAsync("/people/tomas"), StringComparison.Ordinal);
        // Facts that had columns of their own are with the other facts now.
        var tea = JsonNode.Parse(plan)!["tasks"]!.AsArray().Single(task => task!["name"]!.GetValue<string>() == "Tea for the crew")!;
        Assert.Equal(
            ("Hospitality", "sand", true, 700),
            (
                tea["label"]!.GetValue<string>(),
                tea["colour"]!.GetValue<string>(),
                tea["key"]!.GetValue<bool>(),
                tea["priority"]!.GetValue<int>()
            )
        );

        var undone = 0;
        for (; ; undone++)
        {
            var answer = await api.TakeBackAsync(lantern);
            if (answer.Status == HttpStatusCode.Conflict)
                break;
            Assert.True(answer.Status == HttpStatusCode.OK, $"The edit before {undone} undone ones: {answer.Body}");
        }
        Assert.True(undone > 25);
        Assert.DoesNotContain("Tea for the crew", await api.PlanAsync(lantern), StringComparison.Ordinal);
        Assert.DoesNotContain("Knee operation", await api.PlanAsync(lantern), StringComparison.Ordinal);
        for (; undone > 0; undone--)
            Assert.Equal(HttpStatusCode.OK, (await api.TakeBackAsync(lantern, "lastTakeBack")).Status);
        Assert.Equal(plan, await api.PlanAsync(lantern));
    }

    private static async Task RestoreAsync(string connection, string dump)
    {
        var settings = new NpgsqlConnectionStringBuilder(connection);
        await using (
            var server = new NpgsqlConnection(new NpgsqlConnectionStringBuilder(connection) { Database = "postgres" }.ConnectionString)
        )
        {
            await server.OpenAsync();
            await using var create = new NpgsqlCommand($"create database {settings.Database}", server);
            await create.ExecuteNonQueryAsync();
        }
        await using var restored = new NpgsqlConnection(
            new NpgsqlConnectionStringBuilder(connection) { Pooling = false, NoResetOnClose = true }.ConnectionString
        );
        await restored.OpenAsync();
        await using var command = new NpgsqlCommand(dump, restored);
        await command.ExecuteNonQueryAsync();
    }
}
