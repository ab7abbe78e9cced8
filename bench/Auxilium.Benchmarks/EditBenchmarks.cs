using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;
using BenchmarkDotNet.Attributes;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Npgsql;

namespace Auxilium.Benchmarks;

/// <summary>
/// An edit with all that follows from it, side by side with writing one row to PostgreSQL and committing it (ratio 1), on the server
/// that AUXILIUM_BENCH_DB names: by a bare command on an open connection, and by EF Core from a pool, as the application does it.
/// </summary>
[MemoryDiagnoser]
public class EditBenchmarks : IDisposable
{
    private Schedule _schedule = null!;
    private NpgsqlConnection _connection = null!;
    private PooledDbContextFactory<BenchDb> _contexts = null!;
    private bool _longer;
    private int _row;
    private int _at;

    [Params(1_000, 10_000)]
    public int Tasks { get; set; }

    [GlobalSetup]
    public void Setup()
    {
        _schedule = Scheduler.Calculate(BenchPlan.Of(Tasks));
        var server = Environment.GetEnvironmentVariable("AUXILIUM_BENCH_DB")
            ?? throw new InvalidOperationException("Set AUXILIUM_BENCH_DB to a connection string; bench/run-edits makes a server for it.");
        _connection = new NpgsqlConnection(server);
        _connection.Open();
        _contexts = new PooledDbContextFactory<BenchDb>(
            new DbContextOptionsBuilder<BenchDb>().UseNpgsql($"{server};Max Auto Prepare=100").Options
        );
        Run(
            "drop table if exists bench_rows; create table bench_rows (id int primary key, name text, length text, progress numeric, "
                + "note text)"
        );
    }

    [GlobalCleanup]
    public void Dispose()
    {
        _connection.Dispose();
        GC.SuppressFinalize(this);
    }

    /// <summary>One row, its transaction committed to the disk.</summary>
    [Benchmark(Baseline = true)]
    public void CommitOneRow() => Run($"insert into bench_rows values ({++_row}, 'Rig lantern lines', '4d', 0.4, '')");

    /// <summary>The same as the application writes.</summary>
    [Benchmark]
    public int SaveOneRow()
    {
        using var db = _contexts.CreateDbContext();
        db.Rows.Add(
            new BenchRow
            {
                Id = ++_row,
                Name = "Rig lantern lines",
                Length = "4d",
                Progress = 0.4m,
                Note = "",
            }
        );
        return db.SaveChanges();
    }

    /// <summary>Apply, calculate, ripple and its sentence, for one task after another, all over the plan.</summary>
    [Benchmark]
    public int EditAnywhere()
    {
        // 37 steps on, and another row than a phase: every eleventh is one.
        _at = (_at + 37) % (Tasks - 1);
        if (_at % 11 == 0)
            _at++;
        return Edit(_at);
    }

    /// <summary>The same for a task early in the plan that sets the finish: every late date changes then.</summary>
    [Benchmark]
    public int EditThatMovesTheFinish() => Edit(5);

    private int Edit(int row)
    {
        _longer = !_longer;
        var edit = new SetLength($"t{row}", new(Length.Days(_longer ? 9 : 2)));
        return RippleText.Of(EditPipeline.Run(_schedule, edit, new DateOnly(2027, 5, 13), [])).Length;
    }

    private void Run(string sql)
    {
        using var command = new NpgsqlCommand(sql, _connection);
        command.ExecuteNonQuery();
    }
}

internal sealed class BenchDb(DbContextOptions<BenchDb> options) : DbContext(options)
{
    public DbSet<BenchRow> Rows => Set<BenchRow>();

    protected override void OnModelCreating(ModelBuilder modelBuilder) =>
        modelBuilder.Entity<BenchRow>(row =>
        {
            row.ToTable("bench_rows");
            row.Property(r => r.Id).HasColumnName("id").ValueGeneratedNever();
            row.Property(r => r.Name).HasColumnName("name");
            row.Property(r => r.Length).HasColumnName("length");
            row.Property(r => r.Progress).HasColumnName("progress");
            row.Property(r => r.Note).HasColumnName("note");
        });
}

internal sealed class BenchRow
{
    public int Id { get; set; }

    public required string Name { get; set; }

    public required string Length { get; set; }

    public decimal Progress { get; set; }

    public required string Note { get; set; }
}
