using Npgsql;

namespace Auxilium.Web.Tests;

/// <summary>A database of its own on the test server, gone afterwards.</summary>
public sealed class TestDatabase : IDisposable
{
    private readonly string _server = Environment.GetEnvironmentVariable("AUXILIUM_TEST_SERVER")
        ?? throw new InvalidOperationException("Set AUXILIUM_TEST_SERVER to the connection string of a PostgreSQL server, or run ./test, which starts one.");

    private readonly string _name = "test_" + Guid.NewGuid().ToString("N");

    public string Connection => new NpgsqlConnectionStringBuilder(_server) { Database = _name }.ConnectionString;

    public void Dispose()
    {
        using var connection = new NpgsqlConnection(new NpgsqlConnectionStringBuilder(_server) { Database = "postgres" }.ConnectionString);
        connection.Open();
        using var command = new NpgsqlCommand($"drop database if exists {_name} with (force)", connection);
        command.ExecuteNonQuery();
    }
}
