using System.Diagnostics;
using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Levelling;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Google.OrTools.Sat;

namespace Auxilium.Benchmarks;

/// <summary>
/// How far from the best finish levelling ends, on random projects made as the published sets for scheduling under limited resources are:
/// what a constraint solver proves for the same projects is the measure. And how long levelling of larger plans takes.
/// </summary>
internal static class LevellingGap
{
    private const int Projects = 100;
    private const int Kinds = 4;
    private static readonly DateOnly Monday = new(2027, 5, 3);

    public static void Run()
    {
        var (gaps, took, proven) = (new List<double>(), new List<double>(), 0);
        for (var seed = 1; seed <= Projects; seed++)
        {
            var (tasks, links, limits) = Make(new Random(seed), 30);
            if (Optimum(tasks, links, limits) is not { } best)
                continue;
            proven++;
            var (plan, capacities) = PlanOf(tasks, links, limits);
            var clock = Stopwatch.StartNew();
            var level = Level(plan, capacities);
            took.Add(clock.Elapsed.TotalMilliseconds);
            if (level.Unsolved.Length > 0)
                Console.WriteLine($"Project {seed} is still overbooked.");
            var days = plan.ProjectCalendar.Between(level.After.Start, level.After.Finish) / 480.0;
            gaps.Add(days / best - 1);
        }
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{proven} of {Projects} projects of 30 tasks with a proven optimum: {gaps.Average() * 100:0.00}% later on average, "
                    + $"{gaps.Max() * 100:0.0}% at worst, {gaps.Count(gap => gap < 1e-9)} at the optimum; "
                    + $"{took.Average():0} ms on average, {took.Max():0} ms at most."
            )
        );
        Time("120 tasks, 4 people", 120, 1);
        Time("1,000 tasks, 50 people", 1_000, 13);
    }

    /// <summary>Prints how long the first answer takes, and all of it.</summary>
    private static void Time(string what, int count, int groups)
    {
        var (tasks, links, limits) = Make(new Random(7), count, groups);
        var (plan, capacities) = PlanOf(tasks, links, limits);
        var calculated = Clock(() => Scheduler.Calculate(plan));
        var schedule = Scheduler.Calculate(plan);
        var (first, whole) = (
            Clock(() => Leveller.Propose(schedule, Wish(plan) with { Restarts = 0 }, capacities, Monday)),
            Clock(() => Leveller.Propose(schedule, Wish(plan), capacities, Monday))
        );
        var level = Leveller.Propose(schedule, Wish(plan), capacities, Monday);
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{what}: {whole:0} ms with {level.Restarts} restarts, {first:0} ms without; "
                    + $"{first / calculated:0} × working the plan out; "
                    + $"{level.People.Sum(p => p.Before) / 60:0} h overbooked before, {level.People.Sum(p => p.After) / 60:0} h after."
            )
        );
    }

    private static double Clock(Action act)
    {
        act();
        var clock = Stopwatch.StartNew();
        act();
        return clock.Elapsed.TotalMilliseconds;
    }

    private static LevellingWish Wish(Plan plan) => new([.. plan.People.Select(p => p.Id)], LevellingMode.AsLongAsItTakes);

    /// <summary>In whole days, as the solver goes.</summary>
    private static LevellingProposal Level(Plan plan, Capacities capacities) =>
        Leveller.Propose(Scheduler.Calculate(plan), Wish(plan) with { WholeDays = true }, capacities, Monday);

    private sealed record Job(int Days, int[] Needs);

    /// <summary>
    /// Network complexity 1.5 to 2.1, resource factor 0.25 to 1, resource strength 0.2 to 0.7; lengths of 1 to 10 days, needs of 1 to 10.
    /// </summary>
    private static (Job[] Tasks, List<(int From, int To)> Links, int[] Limits) Make(Random random, int count, int groups = 1)
    {
        var (complexity, factor, strength) = (
            1.5 + 0.3 * random.Next(3),
            0.25 * (1 + random.Next(4)),
            new[] { 0.2, 0.5, 0.7 }[random.Next(3)]
        );
        var kinds = Kinds * groups;
        var tasks = Enumerable
            .Range(0, count)
            .Select(at =>
            {
                var needs = new int[kinds];
                var group = random.Next(groups) * Kinds;
                foreach (var kind in Enumerable.Range(group, Kinds).OrderBy(_ => random.Next()).Take((int)Math.Round(factor * Kinds)))
                    needs[kind] = 1 + random.Next(10);
                return new Job(1 + random.Next(10), needs);
            })
            .ToArray();
        var links = new HashSet<(int From, int To)>();
        for (var to = 1; to < count; to++)
            links.Add((random.Next(Math.Max(0, to - 12), to), to));
        while (links.Count < complexity * count)
            if (random.Next(count) is var to and > 0)
                links.Add((random.Next(Math.Max(0, to - 12), to), to));
        var starts = new int[count];
        foreach (var (from, to) in links.OrderBy(link => link.To))
            starts[to] = Math.Max(starts[to], starts[from] + tasks[from].Days);
        var limits = new int[kinds];
        for (var kind = 0; kind < kinds; kind++)
        {
            var least = tasks.Max(task => task.Needs[kind]);
            var peak = Enumerable
                .Range(0, starts.Max() + 10)
                .Max(day => tasks.Where((task, at) => starts[at] <= day && day < starts[at] + task.Days).Sum(task => task.Needs[kind]));
            limits[kind] = Math.Max(1, least + (int)Math.Round(strength * (peak - least)));
        }
        return (tasks, [.. links], limits);
    }

    private static int? Optimum(Job[] tasks, List<(int From, int To)> links, int[] limits)
    {
        var model = new CpModel();
        var horizon = tasks.Sum(task => task.Days);
        var starts = tasks.Select((task, at) => model.NewIntVar(0, horizon, $"s{at}")).ToArray();
        var spans = tasks.Select((task, at) => model.NewFixedSizeIntervalVar(starts[at], task.Days, $"i{at}")).ToArray();
        var finish = model.NewIntVar(0, horizon, "finish");
        for (var at = 0; at < tasks.Length; at++)
            model.Add(finish >= starts[at] + tasks[at].Days);
        foreach (var (from, to) in links)
            model.Add(starts[to] >= starts[from] + tasks[from].Days);
        for (var kind = 0; kind < limits.Length; kind++)
        {
            var cumulative = model.AddCumulative(limits[kind]);
            for (var at = 0; at < tasks.Length; at++)
                if (tasks[at].Needs[kind] > 0)
                    cumulative.AddDemand(spans[at], tasks[at].Needs[kind]);
        }
        model.Minimize(finish);
        var solver = new CpSolver { StringParameters = "max_time_in_seconds:20,num_workers:2" };
        return solver.Solve(model) == CpSolverStatus.Optimal ? (int)solver.ObjectiveValue : null;
    }

    /// <summary>A person for each kind of resource, who gives to each task the part of it that it needs.</summary>
    private static (Plan Plan, Capacities Capacities) PlanOf(Job[] tasks, List<(int From, int To)> links, int[] limits)
    {
        var plan = Plan.Empty("Random", PlanTime.At(2027, 5, 3, 9)) with
        {
            People = [.. limits.Select((_, kind) => new Person($"p{kind}", $"Person {kind}", $"P{kind}"))],
            Tasks =
            [
                .. tasks.Select(
                    (task, at) =>
                        new PlanTask
                        {
                            Id = $"t{at}",
                            Name = $"Task {at}",
                            Length = new Length(task.Days, LengthUnit.Days),
                            Assignments =
                            [
                                .. task
                                    .Needs.Select((need, kind) => (need, kind))
                                    .Where(need => need.need > 0)
                                    .Select(need => new Assignment($"p{need.kind}", need.need / (decimal)limits[need.kind])),
                            ],
                        }
                ),
            ],
            Links = [.. links.Select(link => new PlanLink($"t{link.From}", $"t{link.To}"))],
        };
        return (plan, Capacities.Of(plan));
    }
}
