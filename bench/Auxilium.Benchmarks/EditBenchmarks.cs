using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using BenchmarkDotNet.Attributes;
using Npgsql;

namespace Auxilium.Benchmarks;

/// <summary>
/// An edit with all that follows from it, side by side with writing one row to PostgreSQL and committing it (ratio 1), on the server
/// that AUXILIUM_BENCH_DB names.
/// </summary>
[MemoryDiagnoser]
public class EditBenchmarks : IDisposable
{
    private Schedule _schedule = null!;
    private NpgsqlConnection _connection = null!;
    private bool _longer;
    private int _row;
    private int _at;

    [Params(1_000, 10_000)]
    public int Tasks { get; set; }

    [GlobalSetup]
    public void Setup()
    {
        _schedule = Scheduler.Calculate(BenchPlan.Of(Tasks));
        var server = Environment.GetEnvironmentVariable("AUXILIUM_BENCH_DB") ?? throw new InvalidOperationException("Set AUXILIUM_BENCH_DB to a connection string; bench/run-edits makes a server for it.");
        _connection = new NpgsqlConnection(server);
        _connection.Open();
        Run("drop table if exists bench_rows; create table bench_rows (id int primary key, name text, length text, progress numeric, note text)");
    }

    [GlobalCleanup]
    public void Dispose()
    {
        _connection.Dispose();
        GC.SuppressFinalize(this);
    }

    /// <summary>One row, its transaction committed to the disk.</summary>
    [Benchmark(Baseline = true)]
    public void CommitOneRow() =>
        Run($"insert into bench_rows values ({++_row}, 'Rig lantern lines', '4d', 0.4, '')");

    /// <summary>Apply, calculate, ripple and its sentence, for one task after another, all over the plan.</summary>
    [Benchmark]
    public int EditAnywhere()
    {
        // 37 steps on, and another row than a phase: every eleventh is one.
        _at = (_at + 37) % (Tasks - 1);
        if (_at % 11 == 0) _at++;
        return Edit(_at);
    }

    /// <summary>The same for a task early in the plan that sets the finish: every late date is another then.</summary>
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
