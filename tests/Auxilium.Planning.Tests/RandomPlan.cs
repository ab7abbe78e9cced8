using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Tests;

/// <summary>Plans and calendars made by a seed, for properties that hold of all of them.</summary>
internal static class RandomPlan
{
    /// <summary>Two calendars, <c>a</c> and <c>b</c>, with odd weeks and a few exceptions in May 2027.</summary>
    public static CalendarBook Calendars(Random random) => new([Calendar(random, "a"), Calendar(random, "b")]);

    /// <param name="random">What it is made of.</param>
    /// <param name="mixed">With everything there is; otherwise leaves and plain links only.</param>
    /// <param name="most">At most so many rows.</param>
    /// <param name="from">Which end dates are worked out from.</param>
    public static Plan Of(Random random, bool mixed = true, int most = 60, ScheduleFrom from = ScheduleFrom.Start)
    {
        var count = random.Next(1, most);
        var tasks = new List<PlanTask>();
        for (var i = 0; i < count; i++)
        {
            string? parent = null;
            if (mixed && i > 0 && random.Next(3) > 0)
            {
                parent = random.Next(2) == 0 ? tasks[^1].Parent : tasks[^1].Id;
                if (parent is not null && tasks.First(t => t.Id == parent).Milestone)
                    parent = tasks[^1].Parent;
            }
            tasks.Add(Task(random, $"t{i}", parent, mixed));
        }
        var plan = Plan.Empty("Random", PlanText.DefaultStart) with { Tasks = [.. tasks] };
        if (from == ScheduleFrom.Finish)
            plan = plan with
            {
                Project = plan.Project with { ScheduleFrom = from, Finish = new(PlanText.DefaultStart.Minutes + 60 * 1440 + 540) },
            };
        if (mixed)
            plan = plan with
            {
                Calendars = [Calendar(random, "a"), Calendar(random, "b", "a")],
                People = [new("ann", "Ann", "A", null, "a"), new("bo", "Bo", "B")],
            };
        if (mixed && random.Next(4) == 0)
            plan = plan with
            {
                Project = plan.Project with
                {
                    StatusDate = new(PlanText.DefaultStart.Minutes + random.Next(0, 20 * 1440)),
                    MoveUnfinishedWork = random.Next(3) > 0,
                },
            };
        if (mixed && random.Next(3) == 0)
            plan = plan with { Project = plan.Project with { Calendar = "b" } };
        return Link(random, mixed ? Gather(random, plan) : plan, mixed);
    }

    /// <summary>Lets some rows serve a milestone, and people be reminded of some.</summary>
    private static Plan Gather(Random random, Plan plan)
    {
        var milestones = plan.Tasks.Where(t => t.Milestone).Select(t => t.Id).ToList();
        return plan with
        {
            Tasks =
            [
                .. plan.Tasks.Select(task =>
                {
                    if (
                        milestones.Count > 0
                        && random.Next(4) == 0
                        && milestones[random.Next(milestones.Count)] is var served
                        && served != task.Id
                    )
                        task = task with { Facts = PlainFacts.Serves.On(task.Facts, served) };
                    return random.Next(8) == 0
                        ? task with
                        {
                            Reminders = [new(random.Next(9), (TaskEnd)random.Next(2), random.Next(2) == 0 ? [] : ["bo"])],
                        }
                        : task;
                }),
            ],
        };
    }

    private static Plan Link(Random random, Plan plan, bool mixed)
    {
        for (var i = 0; i < plan.Tasks.Length * 2; i++)
        {
            var lag = mixed && random.Next(3) == 0 ? new Length(random.Next(-20, 20), LengthUnit.Hours) : Length.Zero;
            var kind = mixed && random.Next(2) == 0 ? (LinkKind)random.Next(4) : LinkKind.FinishToStart;
            var link = new PlanLink(
                plan.Tasks[random.Next(plan.Tasks.Length)].Id,
                plan.Tasks[random.Next(plan.Tasks.Length)].Id,
                lag,
                kind,
                mixed && random.Next(4) == 0
            );
            if (plan.Index.RowOf(link.From) >= plan.Index.RowOf(link.To))
                continue;
            if (LinkRules.Refusal(plan, link) is not null || plan.Links.Any(l => l.From == link.From && l.To == link.To))
                continue;
            var linked = plan with { Links = plan.Links.Add(link) };
            if (!GoesRound(linked))
                plan = linked;
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
        var task = new PlanTask
        {
            Id = id,
            Name = id,
            Parent = parent,
            Length = new Length(random.Next(0, 40), LengthUnit.Hours),
        };
        if (!mixed)
            return task;
        var day = new PlanTime(PlanText.DefaultStart.Minutes + random.Next(0, 40 * 1440));
        if (random.Next(5) == 0)
            task = task with { Splits = Splits(random, (int)task.Length.Amount) };
        if (random.Next(9) == 0)
            task = task with { Active = false };
        if (random.Next(12) == 0)
            task = task with { Deadline = day };
        if (random.Next(5) == 0)
            task = task with { Calendar = random.Next(2) == 0 ? "a" : "b" };
        if (random.Next(5) == 0)
            task = task with { Assignments = [new Assignment(random.Next(2) == 0 ? "ann" : "bo")] };
        if (random.Next(9) == 0)
            task = task with { DelayedUntil = day };
        // Days are named without a time as often as not, days off among them.
        if (random.Next(2) == 0)
            day = new PlanTime(day.Minutes / 1440 * 1440);
        return random.Next(26) switch
        {
            0 => task with { Milestone = true, Length = Length.Zero, Splits = [] },
            22 or 23 => task with
            {
                Milestone = true,
                Length = Length.Zero,
                Splits = [],
                Constraint = new DateConstraint((ConstraintKind)random.Next(6), day),
            },
            24 => task with { Milestone = true, Length = Length.Zero, Splits = [], Pinned = new PinnedDates(day) },
            25 => task with
            {
                Milestone = true,
                Length = Length.Zero,
                Splits = [],
                Constraint = new DateConstraint(random.Next(2) == 0 ? ConstraintKind.AsLateAsPossible : ConstraintKind.AsSoonAsPossible),
            },
            1 => task with { AroundTheClock = true },
            2 => task with { Pinned = new PinnedDates(day) },
            3 => task with { Pinned = new PinnedDates(day, new(day.Minutes + random.Next(0, 4000))) },
            4 => task with { Progress = 0.5m, ActualStart = day },
            5 => task with { Progress = 0.3m, ActualStart = day, Remaining = new Length(random.Next(0, 30), LengthUnit.Hours) },
            6 => task with { Progress = 1, ActualStart = day, ActualFinish = new PlanTime(day.Minutes + random.Next(0, 3000)) },
            7 => task with { Progress = 1, ActualFinish = day },
            8 or 9 => task with { Constraint = new DateConstraint(ConstraintKind.AsLateAsPossible) },
            10 or 11 => task with { Constraint = new DateConstraint(ConstraintKind.AsSoonAsPossible) },
            12 or 13 => task with { Constraint = new DateConstraint((ConstraintKind)random.Next(6), day) },
            _ => task,
        };
    }

    private static ImmutableArray<Split> Splits(Random random, int hours)
    {
        if (hours < 3)
            return [];
        var first = random.Next(1, hours - 1);
        var one = new Split(new Length(first, LengthUnit.Hours), new Length(random.Next(1, 20), LengthUnit.Hours));
        return random.Next(2) == 0
            ? [one]
            :
            [
                one,
                new Split(new Length(random.Next(first + 1, hours), LengthUnit.Hours), new Length(random.Next(1, 9), LengthUnit.Hours)),
            ];
    }

    private static WorkCalendar Calendar(Random random, string id, string? on = null)
    {
        var week = Enumerable
            .Range(0, 7)
            .Select(d =>
                d != 2 && on is not null && random.Next(3) == 0
                    ? null
                    : (ImmutableArray<WorkInterval>?)(d == 2 || random.Next(3) > 0 ? Day(random) : [])
            )
            .ToImmutableArray();
        var exceptions = Enumerable
            .Range(0, random.Next(4))
            .Select(_ =>
            {
                var from = new DateOnly(2027, 5, 1).AddDays(random.Next(30));
                return new CalendarOverride(from, from.AddDays(random.Next(4)), "X", random.Next(2) == 0 ? [] : Day(random));
            });
        return new WorkCalendar
        {
            Id = id,
            Name = id,
            Base = on,
            Week = week,
            Exceptions = [.. exceptions],
        };
    }

    /// <summary>Always works from 10:00 to 12:00, so that any two calendars meet.</summary>
    private static ImmutableArray<WorkInterval> Day(Random random)
    {
        var first = new WorkInterval(random.Next(0, 600), random.Next(720, 800));
        return random.Next(2) == 0 ? [first] : [first, new WorkInterval(random.Next(800, 900), random.Next(900, 1441))];
    }
}
