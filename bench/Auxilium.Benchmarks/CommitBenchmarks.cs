using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Storage;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using BenchmarkDotNet.Attributes;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;

namespace Auxilium.Benchmarks;

/// <summary>
/// What an edit costs that is committed with what is asked across plans, and without the rows of that, which a rule of the database
/// leaves out: on the server that AUXILIUM_BENCH_DB names.
/// </summary>
public class CommitBenchmarks
{
    private static readonly DateOnly Today = new(2027, 5, 13);

    private PooledDbContextFactory<AuxiliumDb> _databases = null!;
    private PlanEdits _edits = null!;
    private Guid _project;
    private bool _longer;

    [Params(100, 1_000)]
    public int Tasks { get; set; }

    /// <summary>Whether what is asked across plans is written.</summary>
    [Params(false, true)]
    public bool Projected { get; set; }

    [GlobalSetup]
    public async Task SetupAsync()
    {
        var server = Environment.GetEnvironmentVariable("AUXILIUM_BENCH_DB")
            ?? throw new InvalidOperationException("Set AUXILIUM_BENCH_DB to a connection string; bench/run-edits makes a server for it.");
        var connection = server.Replace("Database=postgres", $"Database=commits{Tasks}{Projected}", StringComparison.Ordinal);
        var options = new DbContextOptionsBuilder<AuxiliumDb>();
        AuxiliumDb.Configure(options, connection);
        _databases = new PooledDbContextFactory<AuxiliumDb>(options.Options);
        await using (var db = await _databases.CreateDbContextAsync())
            await db.Database.MigrateAsync();
        var memory = new PlanMemory();
        var store = new PlanStore(_databases, memory, TimeProvider.System);
        _edits = new PlanEdits(_databases, store, memory, new PlanGates(), TimeProvider.System);
        var made = await store.CreateAsync(BenchPlan.Of(Tasks), new Person("imke", "Imke Varga", "IV"), true);
        // What is kept is of the day that edits are made on from then on.
        await new Projections(_databases, store).RefreshAsync(Today);
        _project = made.Project;
        // From now on only dates change.
        await CommitAsync(_project);
        if (Projected)
            return;
        await using var rules = await _databases.CreateDbContextAsync();
        await rules.Database.ExecuteSqlRawAsync("create rule unasked as on update to projected_tasks do instead nothing");
    }

    /// <summary>An edit that moves what comes after the middle of the plan, with its rows and its journal.</summary>
    [Benchmark]
    public Task Commit() => CommitAsync(_project);

    private async Task CommitAsync(Guid project)
    {
        _longer = !_longer;
        // Neither is a phase, which every eleventh row is.
        var from = Tasks / 2 / 11 * 11 + 1;
        var edit = new LinkTasks($"t{from}", $"t{from + 1}", LinkKind.FinishToStart, Length.Days(_longer ? 9 : 2));
        var done = await _edits.CommitAsync(project, new EditRequest(Guid.NewGuid(), 1, edit, null, "imke", Overrule: true), Today);
        if (done is not EditCommitted)
            throw new InvalidOperationException($"The edit was not made: {done}");
    }
}
