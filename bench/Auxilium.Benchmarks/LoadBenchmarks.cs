using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using BenchmarkDotNet.Attributes;

namespace Auxilium.Benchmarks;

/// <summary>Who has how much to do of 10,000 tasks of two people each, against working the plan out (ratio 1).</summary>
[MemoryDiagnoser]
public class LoadBenchmarks
{
    private const int Tasks = 10_000;
    private const int People = 50;
    private static readonly DateOnly Monday = new(2027, 5, 3);

    private Plan _plan = null!;
    private Schedule _schedule = null!;
    private (string Task, string Kept)[] _kept = [];

    [GlobalSetup]
    public void Setup()
    {
        var plan = BenchPlan.Of(Tasks);
        _plan = plan with
        {
            People = [.. Enumerable.Range(0, People).Select(n => new Person($"p{n}", $"Person {n}", $"P{n}"))],
            Tasks =
            [
                .. plan.Tasks.Select((task, n) => task with { Assignments = [new($"p{n % People}"), new($"p{(n + 7) % People}", 0.5m)] }),
            ],
        };
        _schedule = Scheduler.Calculate(_plan);
        var capacities = Capacities.Of(_plan);
        _kept =
        [
            .. Enumerable
                .Range(0, Tasks)
                .SelectMany(row => AssignedWork.Of(_schedule, capacities, row).Select(work => (work.Task, work.Kept()))),
        ];
    }

    [Benchmark(Baseline = true)]
    public bool Calculate() => Scheduler.Calculate(_plan).Drivers.IsTight(0);

    /// <summary>Of a plan that is at hand.</summary>
    [Benchmark]
    public int LoadOfThePlan() => new PlanLoad(_schedule, Monday, []).Parts.Count;

    /// <summary>Of what is kept beside plans, as for all projects at once.</summary>
    [Benchmark]
    public decimal LoadOfWhatIsKept()
    {
        var (sum, calendar) = (0m, _plan.ProjectCalendar);
        foreach (var (task, kept) in _kept)
            AssignedWork.Read(task, kept).Lay(Monday, calendar, (_, minutes) => sum += minutes);
        return sum;
    }
}
