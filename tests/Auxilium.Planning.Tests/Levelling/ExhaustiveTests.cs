using Auxilium.Planning.Levelling;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Tests.Levelling;

/// <summary>Small plans levelled by trying every start that there is, in whole days.</summary>
public class ExhaustiveTests
{
    private static readonly DateOnly Monday = new(2027, 5, 3);
    private const int Days = 13;

    [Fact]
    public void Levelling_finds_what_trying_everything_finds()
    {
        var overbooked = 0;
        for (var seed = 0; seed < 60; seed++)
        {
            var random = new Random(seed);
            var tasks = Enumerable.Range(0, random.Next(2, 7)).Select(_ => (Days: random.Next(1, 3), Half: random.Next(3) == 0)).ToArray();
            List<(int From, int To)> links =
            [
                .. from to in Enumerable.Range(1, tasks.Length - 1) where random.Next(3) == 0 select (random.Next(to), to),
            ];
            var plan = PlanOf(tasks, links);
            var schedule = Scheduler.Calculate(plan);
            var proposal = Leveller.Propose(
                schedule,
                new LevellingWish(["ann"], LevellingMode.AsLongAsItTakes)
                {
                    Restarts = 300,
                    WholeDays = true,
                    TimeLimit = TimeSpan.FromMinutes(1),
                },
                Capacities.Of(plan),
                Monday
            );
            var finish = plan.ProjectCalendar.Between(schedule.Start, proposal.After.Finish) / 480;
            Assert.Empty(proposal.Unsolved);
            Assert.Equal(Best(tasks, links, new int[tasks.Length], 0), finish);
            overbooked += proposal.Delays.IsEmpty ? 0 : 1;
        }
        Assert.True(overbooked > 30);
    }

    /// <summary>The earliest finish, in days, in which Ann has time for everything.</summary>
    private static int Best((int Days, bool Half)[] tasks, List<(int From, int To)> links, int[] starts, int at, int best = Days)
    {
        for (var day = 0; day < Days; day++)
            if (tasks.Take(at).Where((task, n) => starts[n] <= day && day < starts[n] + task.Days).Sum(task => task.Half ? 1 : 2) > 2)
                return best;
        if (at == tasks.Length)
            return Math.Min(best, tasks.Select((task, n) => starts[n] + task.Days).Max());
        var earliest = links
            .Where(link => link.To == at)
            .Select(link => starts[link.From] + tasks[link.From].Days)
            .DefaultIfEmpty(0)
            .Max();
        for (starts[at] = earliest; starts[at] + tasks[at].Days < best; starts[at]++)
            best = Best(tasks, links, starts, at + 1, best);
        return best;
    }

    private static Plan PlanOf((int Days, bool Half)[] tasks, List<(int From, int To)> links)
    {
        var plan = PlanText.Plan(string.Join('\n', tasks.Select((task, at) => $"t{at} {task.Days}d")));
        return plan with
        {
            People = [new("ann", "Ann", "A")],
            Tasks = [.. plan.Tasks.Select((task, at) => task with { Assignments = [new("ann", tasks[at].Half ? 0.5m : 1)] })],
            Links = [.. links.Select(link => new PlanLink($"t{link.From}", $"t{link.To}"))],
        };
    }
}
