using System.Collections.Immutable;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using BenchmarkDotNet.Attributes;

namespace Auxilium.Benchmarks;

/// <summary>What 10,000 tasks of two people and two items each cost, against working the plan out (ratio 1).</summary>
[MemoryDiagnoser]
public class MoneyBenchmarks
{
    private const int Tasks = 10_000;
    private const int People = 50;
    private static readonly DateOnly Monday = new(2027, 5, 3);

    private Plan _plan = null!;
    private Schedule _schedule = null!;
    private Ledger _ledger = Ledger.None;
    private Ledger _dated = Ledger.None;
    private Schedule _after = null!;
    private PlanMoney _known = null!;
    private PlanMoney _knownByDay = null!;

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
        _ledger = new Ledger
        {
            Budget = 1_000_000,
            Items = _plan.Tasks.ToImmutableDictionary(
                task => task.Id,
                task =>
                    ImmutableArray.Create(
                        new CostItem($"{task.Id}-a", "Paper") { Quantity = 40, Price = 1.25m },
                        new CostItem($"{task.Id}-b", "Glue") { Price = 12, Accrues = Accrual.Evenly }
                    )
            ),
            Rates = _plan.People.ToImmutableDictionary(person => person.Id, _ => ImmutableArray.Create(new Rate(null, 28))),
        };
        _dated = _ledger with
        {
            Rates = _plan.People.ToImmutableDictionary(
                person => person.Id,
                _ => ImmutableArray.Create(new Rate(null, 28), new Rate(Monday.AddDays(60), 30))
            ),
        };
    }

    [GlobalSetup(Targets = [nameof(AfterAnEdit), nameof(AfterAnEditByDay)])]
    public void Edit()
    {
        Setup();
        var tasks = _plan.Tasks;
        var last = tasks.Length - 1;
        _after = Scheduler.Calculate(
            _plan with
            {
                Tasks = tasks.SetItem(last, tasks[last] with { Length = new Length(9, LengthUnit.Days) }),
            }
        );
        (_known, _knownByDay) = (new PlanMoney(_schedule, _ledger, [], Monday), new PlanMoney(_schedule, _dated, [], Monday));
    }

    [Benchmark(Baseline = true)]
    public bool Calculate() => Scheduler.Calculate(_plan).Drivers.IsTight(0);

    /// <summary>With rates that stay the same.</summary>
    [Benchmark]
    public decimal Money() => new PlanMoney(_schedule, _ledger, [], Monday).Whole.Expected;

    /// <summary>With rates that change, so that work is laid on its days.</summary>
    [Benchmark]
    public decimal MoneyByDay() => new PlanMoney(_schedule, _dated, [], Monday).Whole.Expected;

    /// <summary>After the length of one task has changed.</summary>
    [Benchmark]
    public decimal AfterAnEdit() => new PlanMoney(_after, _ledger, [], Monday, _known).Whole.Expected;

    /// <inheritdoc cref="AfterAnEdit"/>
    [Benchmark]
    public decimal AfterAnEditByDay() => new PlanMoney(_after, _dated, [], Monday, _knownByDay).Whole.Expected;
}
