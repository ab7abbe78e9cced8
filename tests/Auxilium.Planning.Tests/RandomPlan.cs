using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Tests;

/// <summary>Plans and calendars made by a seed, for properties that hold of all of them.</summary>
internal static class RandomPlan
{
    /// <summary>Two calendars, <c>a</c> and <c>b</c>, with odd weeks and a few exceptions in May 2027.</summary>
    public static CalendarBook Calendars(Random random) => new([Calendar(random, "a"), Calendar(random, "b")]);

    /// <param name="random">What it is made of.</param>
    /// <param name="mixed">With calendars of tasks and people, fixed dates, work done, phases and links of phases; else leaves and plain links only.</param>
    /// <param name="most">At most so many rows.</param>
    public static Plan Of(Random random, bool mixed = true, int most = 60)
    {
        var count = random.Next(1, most);
        var tasks = new List<PlanTask>();
        for (var i = 0; i < count; i++)
        {
            string? parent = null;
            if (mixed && i > 0 && random.Next(3) > 0)
            {
                parent = random.Next(2) == 0 ? tasks[^1].Parent : tasks[^1].Id;
                if (parent is not null && tasks.First(t => t.Id == parent).Milestone) parent = tasks[^1].Parent;
            }
            tasks.Add(Task(random, $"t{i}", parent, mixed));
        }
        var plan = Plan.Empty("Random", PlanText.DefaultStart) with { Tasks = [.. tasks] };
        if (mixed) plan = plan with { Calendars = [Calendar(random, "a"), Calendar(random, "b")], People = [new("ann", "Ann", "A", null, "a"), new("bo", "Bo", "B")] };
        return Link(random, plan, mixed);
    }

    private static Plan Link(Random random, Plan plan, bool mixed)
    {
        for (var i = 0; i < plan.Tasks.Length * 2; i++)
        {
            var lag = mixed && random.Next(3) == 0 ? new Length(random.Next(-20, 20), LengthUnit.Hours) : Length.Zero;
            var link = new PlanLink(plan.Tasks[random.Next(plan.Tasks.Length)].Id, plan.Tasks[random.Next(plan.Tasks.Length)].Id, lag);
            if (plan.Index.RowOf(link.From) >= plan.Index.RowOf(link.To)) continue;
            var linked = plan with { Links = plan.Links.Add(link) };
            if (LinkRules.FirstRefusal(linked) is null && !GoesRound(linked)) plan = linked;
        }
        return plan;
    }

    /// <summary>Links here lead down the list, but a phase holds rows below it, so some still go round.</summary>
    private static bool GoesRound(Plan plan)
    {
        try
        {
            Planning.Scheduling.Scheduler.Calculate(plan);
            return false;
        }
        catch (UnsoundPlanException e) when (e.Problems[0].Code == "circle")
        {
            return true;
        }
    }

    private static PlanTask Task(Random random, string id, string? parent, bool mixed)
    {
        var task = new PlanTask { Id = id, Name = id, Parent = parent, Length = new Length(random.Next(0, 40), LengthUnit.Hours) };
        if (!mixed) return task;
        var day = new PlanTime(PlanText.DefaultStart.Minutes + random.Next(0, 40 * 1440));
        return random.Next(14) switch
        {
            0 => task with { Milestone = true, Length = Length.Zero },
            1 => task with { AroundTheClock = true },
            2 => task with { Calendar = "a" },
            3 => task with { Calendar = "b", Assignments = [new Assignment("ann")] },
            4 => task with { Assignments = [new Assignment("ann")] },
            5 => task with { Pinned = new PinnedDates(day) },
            6 => task with { Constraint = new DateConstraint(ConstraintKind.StartNoEarlierThan, day) },
            7 => task with { Constraint = new DateConstraint(ConstraintKind.MustFinishOn, day) },
            8 => task with { Constraint = new DateConstraint(ConstraintKind.FinishNoEarlierThan, day) },
            9 => task with { Progress = 0.5m, ActualStart = day },
            10 => task with { Progress = 1, ActualStart = day, ActualFinish = new PlanTime(day.Minutes + random.Next(0, 3000)) },
            _ => task,
        };
    }

    private static WorkCalendar Calendar(Random random, string id)
    {
        var week = Enumerable.Range(0, 7).Select(d => (ImmutableArray<WorkInterval>?)(d == 2 || random.Next(3) > 0 ? Day(random) : [])).ToImmutableArray();
        var exceptions = Enumerable.Range(0, random.Next(4)).Select(_ =>
        {
            var from = new DateOnly(2027, 5, 1).AddDays(random.Next(30));
            return new CalendarOverride(from, from.AddDays(random.Next(4)), "X", random.Next(2) == 0 ? [] : Day(random));
        });
        return new WorkCalendar { Id = id, Name = id, Week = week, Exceptions = [.. exceptions] };
    }

    /// <summary>Always works from 10:00 to 12:00, so that any two calendars meet.</summary>
    private static ImmutableArray<WorkInterval> Day(Random random)
    {
        var first = new WorkInterval(random.Next(0, 600), random.Next(720, 800));
        return random.Next(2) == 0 ? [first] : [first, new WorkInterval(random.Next(800, 900), random.Next(900, 1441))];
    }
}
