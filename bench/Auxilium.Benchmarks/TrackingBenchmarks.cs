using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using BenchmarkDotNet.Attributes;

namespace Auxilium.Benchmarks;

/// <summary>Remembering a plan and measuring its drift, against working the plan out (ratio 1).</summary>
[MemoryDiagnoser]
public class TrackingBenchmarks
{
    private Plan _plan = null!;
    private Schedule _schedule = null!;
    private Baseline _baseline = null!;

    [Params(1_000, 10_000)]
    public int Tasks { get; set; }

    [GlobalSetup]
    public void Setup()
    {
        var before = BenchPlan.Of(Tasks);
        _baseline = Baselines.Take(Scheduler.Calculate(before), "b1", "As agreed", new DateOnly(2027, 5, 13));
        // Every tenth task takes a day longer now.
        _plan = before with
        {
            Tasks =
            [
                .. before.Tasks.Select((t, i) => i % 10 == 0 && !t.Milestone ? t with { Length = Length.Days(t.Length.Amount + 1) } : t),
            ],
        };
        _schedule = Scheduler.Calculate(_plan);
    }

    [Benchmark(Baseline = true)]
    public bool Calculate() => Scheduler.Calculate(_plan).Drivers.IsTight(0);

    /// <summary>Every row as it is now.</summary>
    [Benchmark]
    public int TakeBaseline() => Baselines.Take(_schedule, "b2", "Now", new DateOnly(2027, 5, 13)).Rows.Length;

    /// <summary>That of the finish, as each edit tells it.</summary>
    [Benchmark]
    public int DriftOfTheFinish() => new Drift(_schedule, _baseline).Finish.Count;

    /// <summary>That of every row.</summary>
    [Benchmark]
    public int DriftOfEveryRow()
    {
        var (drift, sum) = (new Drift(_schedule, _baseline), 0);
        for (var row = 0; row < Tasks; row++)
            sum += drift.Of(row)?.Finish.Count ?? 0;
        return sum;
    }

    [Benchmark]
    public decimal EffortOfEveryRow() => new Effort(_schedule).Whole;
}
