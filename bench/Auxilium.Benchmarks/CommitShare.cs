using System.Diagnostics;
using System.Globalization;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Typing;
using Auxilium.Storage;
using Auxilium.Storage.Money;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;

namespace Auxilium.Benchmarks;

/// <summary>
/// What a commit takes with all that is asked across plans, and without: on the server that AUXILIUM_BENCH_DB names. Two plans of the
/// same tasks are edited in turn, many times over, and the middle of each is told, as neither the disk nor the machine is ever quiet.
/// </summary>
internal sealed class CommitShare
{
    private const int Turns = 600;

    private static readonly DateOnly Today = new(2027, 5, 13);

    private readonly PlanEdits _edits;
    private readonly Guid _project;
    private readonly int _tasks;
    private bool _longer;

    private CommitShare(PlanEdits edits, Guid project, int tasks) => (_edits, _project, _tasks) = (edits, project, tasks);

    /// <summary>Measures and prints a table for plans of 50, 100 and 1,000 tasks.</summary>
    public static async Task RunAsync()
    {
        // Until the runtime has compiled all of it well.
        await MeasureAsync(await PrepareAsync(10, true), await PrepareAsync(10, false));
        Console.WriteLine("| tasks | with, ms | without, ms | with ÷ without |");
        Console.WriteLine("|---|---|---|---|");
        foreach (var tasks in new[] { 50, 100, 1_000 })
        {
            var (one, other) = await MeasureAsync(await PrepareAsync(tasks, true), await PrepareAsync(tasks, false));
            Console.WriteLine(
                string.Create(CultureInfo.InvariantCulture, $"| {tasks} | {one:0.00} | {other:0.00} | {one / other:0.00} |")
            );
        }
    }

    private static async Task<(double With, double Without)> MeasureAsync(CommitShare with, CommitShare without)
    {
        var (ones, others) = (new List<double>(), new List<double>());
        for (var turn = 0; turn < Turns; turn++)
        {
            ones.Add(await with.CommitAsync());
            others.Add(await without.CommitAsync());
        }
        return (Middle(ones), Middle(others));
    }

    private static async Task<CommitShare> PrepareAsync(int tasks, bool projects)
    {
        var server = Environment.GetEnvironmentVariable("AUXILIUM_BENCH_DB")
            ?? throw new InvalidOperationException("Set AUXILIUM_BENCH_DB to a connection string; bench/run-edits makes a server for it.");
        var options = new DbContextOptionsBuilder<AuxiliumDb>();
        AuxiliumDb.Configure(options, server.Replace("Database=postgres", $"Database=commits{tasks}{projects}", StringComparison.Ordinal));
        var databases = new PooledDbContextFactory<AuxiliumDb>(options.Options);
        await using (var db = await databases.CreateDbContextAsync())
            await db.Database.MigrateAsync();
        var memory = new PlanMemory();
        var store = new PlanStore(databases, memory, TimeProvider.System);
        var made = await store.CreateAsync(BenchPlan.Of(tasks), new Person("imke", "Imke Varga", "IV"), true);
        // What is kept is of the day that edits are made on from then on.
        await new Projections(databases, store).RefreshAsync(Today);
        // As the server does itself about once a minute.
        await using (var db = await databases.CreateDbContextAsync())
            await db.Database.ExecuteSqlAsync($"analyze");
        var edits = new PlanEdits(
            databases,
            store,
            memory,
            new PlanGates(),
            new ProjectMoney(databases, new Ledgers(databases, TimeProvider.System), new Organisation(databases), store),
            TimeProvider.System
        )
        {
            WritesProjection = projects,
        };
        return new CommitShare(edits, made.Project, tasks);
    }

    /// <summary>The first tenth warms up.</summary>
    private static double Middle(List<double> times)
    {
        var warm = times.Skip(times.Count / 10).Order().ToList();
        return warm[warm.Count / 2];
    }

    /// <summary>An edit that moves some ten rows, with what it writes of them and its journal.</summary>
    /// <returns>Milliseconds.</returns>
    private async Task<double> CommitAsync()
    {
        var from = Stopwatch.GetTimestamp();
        _longer = !_longer;
        var edit = new SetLength($"t{_tasks / 2 + (_tasks / 2 % 11 == 0 ? 1 : 0)}", new TypedLength(Length.Days(_longer ? 9 : 2), false));
        var done = await _edits.CommitAsync(_project, new EditRequest(Guid.NewGuid(), 1, edit, null, "imke", Overrule: true), Today);
        var took = Stopwatch.GetElapsedTime(from).TotalMilliseconds;
        if (done is not EditCommitted)
            throw new InvalidOperationException($"The edit was not made: {done}");
        return took;
    }
}
