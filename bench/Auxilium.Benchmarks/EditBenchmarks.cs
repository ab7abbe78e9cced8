using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using BenchmarkDotNet.Attributes;

namespace Auxilium.Benchmarks;

/// <summary>An edit with all that follows from it, against working out the same plan once (ratio 1).</summary>
[MemoryDiagnoser]
public class EditBenchmarks
{
    private Schedule _schedule = null!;
    private bool _longer;

    [Params(1_000, 10_000)]
    public int Tasks { get; set; }

    [GlobalSetup]
    public void Setup() => _schedule = Scheduler.Calculate(BenchPlan.Of(Tasks));

    [Benchmark(Baseline = true)]
    public Schedule Calculate() => Scheduler.Calculate(_schedule.Plan);

    /// <summary>Apply, calculate, ripple and its sentence, for a task early in the plan.</summary>
    [Benchmark]
    public int EditCalculateRipple()
    {
        _longer = !_longer;
        var edit = new SetLength("t5", new(Length.Days(_longer ? 9 : 2)));
        return RippleText.Of(EditPipeline.Run(_schedule, edit, new DateOnly(2027, 5, 13), [])).Length;
    }
}
