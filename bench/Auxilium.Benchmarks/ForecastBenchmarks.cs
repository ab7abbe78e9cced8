using Auxilium.Planning.Forecasting;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using BenchmarkDotNet.Attributes;

namespace Auxilium.Benchmarks;

/// <summary>Ten thousand runs of a plan of 300 tasks, half of which have a range, against working it out once (ratio 1).</summary>
[MemoryDiagnoser]
public class ForecastBenchmarks
{
    private Schedule _schedule = null!;

    [GlobalSetup]
    public void Setup()
    {
        var plan = BenchPlan.Of(300);
        var tasks = plan.Tasks.Select(
            (t, i) => i % 2 == 0 ? t with { Estimate = new LengthEstimate(Length.Days(1), Length.Days(2), Length.Days(6)) } : t
        );
        _schedule = Scheduler.Calculate(plan with { Tasks = [.. tasks] });
    }

    [Benchmark(Baseline = true)]
    public Schedule Calculate() => Scheduler.Calculate(_schedule.Plan);

    [Benchmark]
    public double TenThousandRuns() => Forecast.Run(_schedule, new ForecastOptions()).SetsFinish(1);
}
