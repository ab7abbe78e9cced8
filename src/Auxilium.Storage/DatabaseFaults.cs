using System.Net.Sockets;
using Auxilium.Storage.Plans;
using Npgsql;

namespace Auxilium.Storage;

/// <summary>Tells faults that pass by themselves, such as a database that restarts, from those that would happen again.</summary>
public static class DatabaseFaults
{
    /// <summary>
    /// SQLSTATEs of PostgreSQL after which the same can be asked again: a connection that broke (08), a transaction that met another
    /// (40) or waited too long for a lock (55P03), a server that is switching over and only reads (25006), a session that was idle for too
    /// long (25P03), too little of something (53), a query that was cancelled (57014), a server that stops or starts (57P), a disk that
    /// fails (58030).
    /// </summary>
    private static readonly string[] Passing = ["08", "40001", "40P01", "55P03", "25006", "25P03", "53", "57014", "57P", "58030"];

    /// <summary>
    /// Whether a text was given that a database cannot store: one with a NUL, or half of a surrogate pair (22021, 22P05).
    /// </summary>
    public static bool IsBadText(Exception e) =>
        e is PostgresException { SqlState: "22021" or "22P05" } || e.InnerException is { } inner && IsBadText(inner);

    /// <summary>Whether an error, or one within it, passes by itself.</summary>
    public static bool IsPassing(Exception e) =>
        e switch
        {
            PlanBusyException => true,
            PostgresException postgres => Passing.Any(state => postgres.SqlState.StartsWith(state, StringComparison.Ordinal)),
            // Everything else that the driver says is about the connection.
            NpgsqlException => true,
            SocketException => true,
            { InnerException: { } inner } => IsPassing(inner),
            _ => false,
        };
}
