using Npgsql;

namespace Auxilium.Web.Tests;

/// <summary>
/// A database of its own on the test server, gone afterwards. As it is made it is not there yet: the application makes it.
/// </summary>
public sealed class TestDatabase : IDisposable
{
    private static readonly string Server = Environment.GetEnvironmentVariable("AUXILIUM_TEST_SERVER")
        ?? throw new InvalidOperationException(
            "Set AUXILIUM_TEST_SERVER to the connection string of a PostgreSQL server, or run ./test, which starts one."
        );

    /// <summary>One that an application has filled with the demo, to be copied: that takes a tenth of filling another.</summary>
    private static readonly Lazy<Task<string>> Template = new(MakeTemplateAsync);

    private readonly string _name = "test_" + Guid.NewGuid().ToString("N");

    public string Connection => ConnectionTo(_name);

    /// <summary>One that has the demo already, as an application leaves it.</summary>
    public static TestDatabase WithDemo()
    {
        var database = new TestDatabase();
        var template = Task.Run(() => Template.Value).GetAwaiter().GetResult();
        Do($"create database {database._name} template {template}");
        return database;
    }

    public void Dispose() => Do($"drop database if exists {_name} with (force)");

    private static string ConnectionTo(string name) => new NpgsqlConnectionStringBuilder(Server) { Database = name }.ConnectionString;

    private static async Task<string> MakeTemplateAsync()
    {
        const string Name = "test_template";
        Do($"drop database if exists {Name} with (force)");
        await using (var app = new TestApp(ConnectionTo(Name)))
            app.CreateClient().Dispose();
        // Nothing may be connected to what is copied.
        Do($"alter database {Name} allow_connections false");
        Do($"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{Name}'");
        return Name;
    }

    private static void Do(string sql)
    {
        using var connection = new NpgsqlConnection(ConnectionTo("postgres"));
        connection.Open();
        using var command = new NpgsqlCommand(sql, connection);
        command.ExecuteNonQuery();
    }
}
