using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using BenchmarkDotNet.Attributes;
using QuikGraph;
using QuikGraph.Algorithms;

namespace Auxilium.Benchmarks;

/// <summary>
/// Working out a whole plan against only putting the same graph in order: QuikGraph's topological sort, its graph built beforehand,
/// is the measure (ratio 1).
/// </summary>
[MemoryDiagnoser]
public class ScheduleBenchmarks
{
    private Plan _plan = null!;
    private AdjacencyGraph<string, Edge<string>> _graph = null!;

    [Params(1_000, 10_000, 100_000)]
    public int Tasks { get; set; }

    [GlobalSetup]
    public void Setup()
    {
        _plan = BenchPlan.Of(Tasks);
        _ = _plan.Index;
        _graph = new AdjacencyGraph<string, Edge<string>>();
        _graph.AddVertexRange(_plan.Tasks.Select(t => t.Id));
        _graph.AddEdgeRange(_plan.Links.Select(l => new Edge<string>(l.From, l.To)));
    }

    /// <summary>The graph put in order and nothing else.</summary>
    [Benchmark(Baseline = true)]
    public int TopologicalSort() => _graph.TopologicalSort().Count();

    /// <summary>
    /// Order, facts of the tasks, forward pass, backward pass, free float, roll-up, warnings, and what holds every date.
    /// </summary>
    [Benchmark]
    public bool Everything() => Scheduler.CalculateAnew(_plan).Drivers.IsTight(0);

    /// <summary>The same where the links are as they were: their order is known.</summary>
    [Benchmark]
    public bool WithTheOrderKnown() => Scheduler.Calculate(_plan).Drivers.IsTight(0);

    /// <summary>All that for a plan just read: its rows are indexed and its calendars compiled first.</summary>
    [Benchmark]
    public bool JustRead() =>
        Scheduler
            .Calculate(
                new Plan
                {
                    Project = _plan.Project,
                    Calendars = _plan.Calendars,
                    Tasks = _plan.Tasks,
                    Links = _plan.Links,
                }
            )
            .Drivers.IsTight(0);
}
