using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Storage;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using BenchmarkDotNet.Attributes;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;

namespace Auxilium.Benchmarks;

/// <summary>
/// What an edit costs that is committed with all that is asked across plans, and how much of that is for them: on the server that
/// AUXILIUM_BENCH_DB names. The share s makes a commit 1 ÷ (1 − s) times one without.
/// </summary>
public class CommitBenchmarks
{
    private static readonly DateOnly Today = new(2027, 5, 13);

    private PooledDbContextFactory<AuxiliumDb> _databases = null!;
    private PlanEdits _edits = null!;
    private StoredPlan _stored = null!;
    private StoredPlan _edited = null!;
    private bool _longer;

    [Params(100, 1_000)]
    public int Tasks { get; set; }

    [GlobalSetup]
    public async Task SetupAsync()
    {
        var server = Environment.GetEnvironmentVariable("AUXILIUM_BENCH_DB")
            ?? throw new InvalidOperationException("Set AUXILIUM_BENCH_DB to a connection string; bench/run-edits makes a server for it.");
        var connection = server.Replace("Database=postgres", $"Database=commits{Tasks}", StringComparison.Ordinal);
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
        await CommitAsync(made.Project);
        _stored = (await store.LoadAsync(made.Project))!;
        await CommitAsync(made.Project);
        _edited = (await store.LoadAsync(made.Project))!;
    }

    /// <summary>An edit that moves about half of the plan, with its rows, its journal and what is asked across plans.</summary>
    [Benchmark(Baseline = true)]
    public Task Commit() => CommitAsync(_stored.Project);

    /// <summary>Only what is asked across plans, and not committed: less what <see cref="Around"/> takes.</summary>
    [Benchmark]
    public Task ProjectionAlone() => RolledBackAsync(db => Projections.WriteAsync(db, _stored, _edited, Today, default));

    /// <summary>The transaction around that, with nothing in it.</summary>
    [Benchmark]
    public Task Around() => RolledBackAsync(_ => Task.CompletedTask);

    private async Task RolledBackAsync(Func<AuxiliumDb, Task> write)
    {
        await using var db = await _databases.CreateDbContextAsync();
        await using var transaction = await db.Database.BeginTransactionAsync();
        // What is kept is of the version before, as it is when an edit is committed.
        await db.Database.ExecuteSqlAsync($"update projected_plans set version = {_stored.Version} where plan_id = {_stored.Id}");
        await write(db);
        await transaction.RollbackAsync();
    }

    private async Task CommitAsync(Guid project)
    {
        _longer = !_longer;
        var edit = new SetLength($"t{Tasks / 2 + (Tasks / 2 % 11 == 0 ? 1 : 0)}", new TypedLength(Length.Days(_longer ? 9 : 2), false));
        var done = await _edits.CommitAsync(project, new EditRequest(Guid.NewGuid(), 1, edit, null, "imke", Overrule: true), Today);
        if (done is not EditCommitted)
            throw new InvalidOperationException($"The edit was not made: {done}");
    }
}
