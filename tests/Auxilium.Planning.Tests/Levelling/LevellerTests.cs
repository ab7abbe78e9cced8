using Auxilium.Planning.Calendars;
using Auxilium.Planning.CheckUp;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Levelling;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Tests.Levelling;

public class LevellerTests
{
    private static readonly DateOnly Monday = new(2027, 5, 3);

    /// <summary>All by Ann, unless a task says more.</summary>
    private static Plan AnnDoes(string text)
    {
        var plan = PlanText.Plan(text);
        return plan with
        {
            People = [new("ann", "Ann", "A"), new("bo", "Bo", "B")],
            Tasks = [.. plan.Tasks.Select(task => task with { Assignments = [new("ann")] })],
        };
    }

    private static LevellingProposal Level(Plan plan, LevellingMode mode = LevellingMode.AsLongAsItTakes, LevellingWish? wish = null) =>
        Leveller.Propose(
            plan.Calculate(),
            (wish ?? new(["ann", "bo"], mode) { Restarts = 50, TimeLimit = TimeSpan.FromMinutes(1) }) with
            {
                Mode = mode,
            },
            Capacities.Of(plan),
            Monday
        );

    [Fact]
    public void Two_tasks_of_one_person_come_one_after_the_other()
    {
        var level = Level(AnnDoes("Rig 1d\nSew 2d"));
        // The one with less to lose waits.
        Assert.Equal(("Sew", "2027-05-04T09:00"), (level.Delays.Single().Task, level.Delays.Single().Until.ToString()));
        Assert.Equal("Ann has no time for it on Mon 3 May, besides Rig.", level.Moved.Single().Reason);
        Assert.Equal((480m, 0m, 1, 0), (level.People.Single().Before, level.People.Single().After, level.People.Single().DaysBefore, 0));
        Assert.Empty(level.Unsolved);
    }

    [Fact]
    public void N2_within_float_neither_the_finish_nor_a_deadline_moves()
    {
        var plan = AnnDoes("Rig 1d\nSew 1d\nLong 3d").With("Long", task => task with { Assignments = [new("bo")] });
        var level = Level(plan, LevellingMode.WithinFloat);
        Assert.Equal(level.Ripple.FinishBefore, level.Ripple.FinishAfter);
        Assert.Empty(level.Unsolved);
        var both = plan.With("Rig", task => task with { Deadline = PlanTime.At(2027, 5, 3, 18) })
            .With("Sew", task => task with { Deadline = PlanTime.At(2027, 5, 3, 18) });
        level = Level(both, LevellingMode.WithinFloat);
        Assert.Empty(level.Delays);
        Assert.Equal(new OverbookedDay("ann", Monday, 960, 480), Assert.Single(level.Unsolved));
        Assert.Single(Level(both).Delays);
    }

    [Fact]
    public void N1_what_has_started_is_pinned_or_of_the_highest_priority_stays()
    {
        foreach (
            var change in new Func<PlanTask, PlanTask>[]
            {
                task => task with { Progress = 0.1m, ActualStart = PlanTime.At(2027, 5, 3, 9) },
                task => task with { Pinned = new(PlanTime.At(2027, 5, 3, 9)) },
                task => task with { Constraint = new(ConstraintKind.MustStartOn, PlanTime.At(2027, 5, 3, 9)) },
                task => task with { Facts = PlainFacts.Priority.On(task.Facts, 1000) },
                task => task with { Constraint = new(ConstraintKind.StartNoLaterThan, PlanTime.At(2027, 5, 3, 9)) },
            }
        )
        {
            var plan = AnnDoes("Rig 1d\nSew 1d").With("Sew", change);
            Assert.Equal(["Rig"], Level(plan).Delays.Select(delay => delay.Task));
            Assert.Empty(Level(plan.With("Rig", change)).Delays);
        }
    }

    [Fact]
    public void Half_a_day_goes_where_there_is_half_a_day()
    {
        // Six hours on Monday leave two, and four on Tuesday come after.
        var level = Level(AnnDoes("Rig 6h\nSew 6h"));
        Assert.Equal("2027-05-03T16:00", level.Delays.Single().Until.ToString());
        Assert.Empty(level.Unsolved);
    }

    [Fact]
    public void What_is_to_do_elsewhere_takes_time_too()
    {
        var wish = new LevellingWish(["ann"], LevellingMode.AsLongAsItTakes)
        {
            Restarts = 5,
            Elsewhere = new Dictionary<(string, DateOnly), decimal> { [("ann", Monday)] = 480, [("ann", Monday.AddDays(1))] = 240 },
        };
        var level = Level(AnnDoes("Rig 1d"), wish: wish);
        Assert.Equal("2027-05-04T14:00", level.Delays.Single().Until.ToString());
        Assert.Equal("Ann has no time for it on Mon 3 May, besides work in other projects.", level.Moved.Single().Reason);
    }

    [Fact]
    public void Released_tasks_go_back_to_where_they_were()
    {
        var plan = AnnDoes("Rig 1d\nSew 2d\nSail 1d after Sew");
        var context = new EditContext(plan.Calculate(), Monday, []);
        var levelled = PlanEditor.Apply(plan, new DelayTasks(Level(plan).Delays), context);
        Assert.NotEqual(plan.Calculate().FinishOf("Sail"), levelled.Plan.Calculate().FinishOf("Sail"));
        Assert.Contains(levelled.Plan.Calculate().Drivers.Of(1), driver => driver.Kind == DriverKind.Levelling);
        var released = PlanEditor.Apply(levelled.Plan, new ReleaseLevelling(), context with { Schedule = levelled.Plan.Calculate() });
        Assert.Equal(plan.Calculate().Dates("Sail"), released.Plan.Calculate().Dates("Sail"));
        Assert.Throws<EditRefusedException>(() => PlanEditor.Apply(plan, new ReleaseLevelling(), context));
    }

    [Fact]
    public void A_task_that_is_placed_by_hand_is_no_longer_delayed()
    {
        var plan = AnnDoes("Rig 1d\nSew 2d").With("Sew", task => task with { DelayedUntil = PlanTime.At(2027, 5, 10, 9) });
        Assert.Equal("2027-05-10T09:00 – 2027-05-11T18:00", plan.Calculate().Dates("Sew"));
        var placed = PlanEditor.Apply(
            plan,
            new PlaceTask("Sew", PlanTime.At(2027, 5, 5, 9)),
            new EditContext(plan.Calculate(), Monday, [])
        );
        Assert.Equal("2027-05-05T09:00 – 2027-05-06T18:00", placed.Plan.Calculate().Dates("Sew"));
        Assert.Null(placed.Plan.Find("Sew")!.DelayedUntil);
    }

    [Fact]
    public void N5_the_check_up_tells_when_a_delay_no_longer_serves()
    {
        var plan = AnnDoes("Rig 1d\nSew 2d");
        var levelled = DelayTasks.On(plan, Level(plan).Delays);
        Assert.DoesNotContain(PlanCheck.Of(levelled.Calculate(), Monday), f => f.Kind == FindingKind.LevelledForNothing);
        // Somebody else rigs now.
        var other = levelled.With("Rig", task => task with { Assignments = [new("bo")] });
        var finding = Assert.Single(PlanCheck.Of(other.Calculate(), Monday), f => f.Kind == FindingKind.LevelledForNothing);
        Assert.Equal("Sew", Assert.Single(finding.Tasks));
        var mended = PlanEditor.Apply(other, finding.Fix!.Edit, new EditContext(other.Calculate(), Monday, []));
        Assert.Null(mended.Plan.Find("Sew")!.DelayedUntil);
        // Unless she has to be elsewhere on Monday.
        var elsewhere = new Dictionary<(string, DateOnly), decimal> { [("ann", Monday)] = 480 };
        Assert.DoesNotContain(PlanCheck.Of(other.Calculate(), Monday, null, new OtherWork(Capacities.Of(other), elsewhere)), f =>
            f.Kind == FindingKind.LevelledForNothing
        );
    }

    /// <summary>Links, calendars and fixed dates hold; nothing starts earlier; less is overbooked; the mode is kept.</summary>
    [Fact]
    public void Levelling_keeps_what_it_must_on_random_plans()
    {
        var (levelled, solved) = (0, 0);
        for (var seed = 0; seed < 400; seed++)
        {
            var random = new Random(seed);
            var plan = Busy(random, RandomPlan.Of(random, most: 40));
            var before = plan.Calculate();
            var wish = new LevellingWish(["ann", "bo"], seed % 2 == 0 ? LevellingMode.WithinFloat : LevellingMode.AsLongAsItTakes)
            {
                Restarts = 4,
                Seed = seed,
                TimeLimit = TimeSpan.FromMinutes(1),
            };
            var today = Monday.AddDays(random.Next(-3, 10));
            var proposal = Leveller.Propose(before, wish, Capacities.Of(plan), today);
            var again = Leveller.Propose(before, wish, Capacities.Of(plan), today);
            Assert.True(proposal.Delays.SequenceEqual(again.Delays));
            var was = OverOf(before, today);
            if (was > 0)
                (levelled, solved) = (levelled + 1, solved + (proposal.Delays.IsEmpty ? 0 : 1));
            if (proposal.Delays.IsEmpty)
                continue;
            var edited = PlanEditor.Apply(plan, new DelayTasks(proposal.Delays), new EditContext(before, today, []));
            var after = edited.Plan.Calculate();
            Assert.True(OverOf(after, today) < was);
            for (var row = 0; row < plan.Tasks.Length; row++)
            {
                if (!after.IsLeaf(row))
                    continue;
                Assert.True(after.StartOf(row) >= before.StartOf(row), $"{seed}: {plan.Tasks[row].Id} starts earlier");
                if (plan.Tasks[row] is { IsStarted: true } or { Pinned: not null } or { Constraint.IsMust: true })
                    Assert.True(after.StandsAt(before, row));
                if (wish.Mode == LevellingMode.WithinFloat && plan.Tasks[row].Deadline is { } deadline)
                    Assert.True(after.FinishOf(row) <= PlanTime.Max(deadline, before.FinishOf(row)));
            }
            if (wish.Mode == LevellingMode.WithinFloat)
                Assert.True(after.Finish <= before.Finish);
            Assert.Equal(Broken(before), Broken(after));
            var back = PlanEditor.Apply(edited.Plan, edited.Inverse, new EditContext(after, today, []));
            Assert.True(plan.Tasks.SequenceEqual(back.Plan.Tasks));
        }
        Assert.True(levelled > 100 && solved > levelled / 3, $"{solved} of {levelled}");
    }

    private static int Broken(Schedule schedule) =>
        schedule.Warnings.Where(warning => warning.Code is WarningCode.W1 or WarningCode.W2).Sum(warning => warning.Minutes.Count);

    private static decimal OverOf(Schedule schedule, DateOnly today) =>
        new PlanLoad(schedule, PlanLoad.FirstDay(schedule.Plan, today), []).Overbooked().Sum(day => day.Over);

    /// <summary>Everybody works on something.</summary>
    private static Plan Busy(Random random, Plan plan) =>
        plan with
        {
            Tasks =
            [
                .. plan.Tasks.Select(task =>
                    task with
                    {
                        Facts = PlainFacts.Priority.On(task.Facts, random.Next(6) == 0 ? 1000 : random.Next(1000)),
                        Assignments = random.Next(4) switch
                        {
                            0 => [new("ann")],
                            1 => [new("bo", 0.5m)],
                            2 => [new("ann", 0.5m), new("bo")],
                            _ => task.Assignments,
                        },
                    }
                ),
            ],
        };
}
