using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Auxilium.Storage;

/// <summary>
/// Brings a database to the schema that this program knows. Processes that start together take turns: the first creates or upgrades
/// it, the others find it done.
/// </summary>
public sealed class DatabaseStart : IAsyncDisposable
{
    private const int Space = 0x4175;
    private const int Starting = 0;

    private readonly NpgsqlConnection _connection;

    private DatabaseStart(NpgsqlConnection connection) => _connection = connection;

    /// <summary>
    /// Waits for the turn of this process, which lasts until what is returned is disposed of, and makes or upgrades the database.
    /// </summary>
    /// <exception cref="NewerSchemaException">Its schema is newer than what this program knows.</exception>
    public static async Task<DatabaseStart> EnterAsync(
        string connection,
        IDbContextFactory<AuxiliumDb> databases,
        CancellationToken cancel = default
    )
    {
        var settings = new NpgsqlConnectionStringBuilder(connection) { Pooling = false, ApplicationName = "auxilium start" };
        var opened = await OpenAsync(settings, cancel);
        // Waits as long as it takes. If this process dies, the lock is released with its connection.
        await using var command = new NpgsqlCommand($"set lock_timeout = 0; select pg_advisory_lock({Space}, {Starting})", opened)
        {
            CommandTimeout = 0,
        };
        await command.ExecuteNonQueryAsync(cancel);
        var turn = new DatabaseStart(opened);
        try
        {
            await using var db = await databases.CreateDbContextAsync(cancel);
            await MigrateAsync(db, cancel);
            return turn;
        }
        catch
        {
            await turn.DisposeAsync();
            throw;
        }
    }

    public ValueTask DisposeAsync() => _connection.DisposeAsync();

    private static async Task MigrateAsync(AuxiliumDb db, CancellationToken cancel)
    {
        var known = db.Database.GetMigrations().ToHashSet();
        if ((await db.Database.GetAppliedMigrationsAsync(cancel)).LastOrDefault(m => !known.Contains(m)) is { } newer)
            throw new NewerSchemaException(newer);
        await db.Database.MigrateAsync(cancel);
    }

    private static async Task<NpgsqlConnection> OpenAsync(NpgsqlConnectionStringBuilder settings, CancellationToken cancel)
    {
        var connection = new NpgsqlConnection(settings.ConnectionString);
        try
        {
            await connection.OpenAsync(cancel);
            return connection;
        }
        catch (PostgresException missing) when (missing.SqlState == PostgresErrorCodes.InvalidCatalogName)
        {
            await connection.DisposeAsync();
        }
        await using (
            var server = new NpgsqlConnection(
                new NpgsqlConnectionStringBuilder(settings.ConnectionString) { Database = "postgres" }.ConnectionString
            )
        )
        {
            await server.OpenAsync(cancel);
            await using var create = new NpgsqlCommand(
                $"create database \"{settings.Database!.Replace("\"", "\"\"", StringComparison.Ordinal)}\"",
                server
            );
            try
            {
                await create.ExecuteNonQueryAsync(cancel);
            }
            catch (PostgresException made)
                when (made.SqlState is PostgresErrorCodes.DuplicateDatabase or PostgresErrorCodes.UniqueViolation)
            {
                // Another process was faster.
            }
        }
        connection = new NpgsqlConnection(settings.ConnectionString);
        await connection.OpenAsync(cancel);
        return connection;
    }
}

/// <summary>The database was upgraded by a newer program than this one.</summary>
/// <param name="migration">A migration that this program does not know.</param>
public sealed class NewerSchemaException(string migration)
    : Exception(
        $"this database was upgraded by a newer version of Auxilium (“{migration}”). Start that version, or put back a backup from "
            + "before the upgrade."
    );
