using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;
using CsCheck;

namespace Auxilium.Planning.Tests.Scheduling;

/// <summary>What holds of every plan.</summary>
public class ScheduleProperties
{
    private static readonly Gen<int> Seeds = Gen.Int[0, int.MaxValue - 1];

    [Theory]
    [InlineData(ScheduleFrom.Start)]
    [InlineData(ScheduleFrom.Finish)]
    public void W1_no_link_is_broken_without_a_warning(ScheduleFrom from) =>
        Seeds.Sample(
            seed =>
            {
                var schedule = RandomPlan.Of(new Random(seed), most: 200, from: from).Calculate();
                var plan = schedule.Plan;
                var warned = schedule.Warnings.Select(w => string.Join('>', w.Tasks)).ToHashSet();
                foreach (var link in plan.Links.Where(l => !schedule.IsOff(plan.Index.RowOf(l.From))))
                {
                    var (lag, at) = (
                        plan.Project.Units.Minutes(link.Lag).Count,
                        link.FromStart ? schedule.StartOf(link.From) : schedule.FinishOf(link.From)
                    );
                    var bound = link.Elapsed ? new PlanTime(at.Minutes + lag) : plan.ProjectCalendar.Add(at, lag);
                    foreach (var leaf in LeavesOf(schedule, link.To))
                        Assert.True(
                            schedule.CalendarOf(leaf).Between(link.ToFinish ? schedule.FinishOf(leaf) : schedule.StartOf(leaf), bound) <= 0
                                || warned.Contains($"{link.From}>{plan.Tasks[leaf].Id}")
                        );
                }
            },
            iter: 300
        );

    /// <summary>A scheduler that tries minute after minute gives the same minutes.</summary>
    [Theory]
    [InlineData(ScheduleFrom.Start)]
    [InlineData(ScheduleFrom.Finish)]
    public void Every_date_is_what_trying_minute_after_minute_gives(ScheduleFrom from) =>
        Seeds.Sample(
            seed =>
            {
                var schedule = RandomPlan.Of(new Random(seed), most: seed % 20 == 0 ? 60 : 16, from: from).Calculate();
                var slow = new SlowScheduler(schedule.Plan);
                Assert.Equal((slow.Start, slow.Finish), (schedule.Start.Minutes, schedule.Finish.Minutes));
                foreach (var task in slow.Leaves)
                {
                    var row = schedule.Plan.Index.RowOf(task.Id);
                    Assert.Equal(
                        (task.Id, "stands", slow.Standing(task)),
                        (task.Id, "stands", (schedule.StartOf(row).Minutes, schedule.FinishOf(row).Minutes))
                    );
                    var early = schedule.EarlyDatesOf(row)!.Value;
                    Assert.Equal((task.Id, "early", slow.Early(task)), (task.Id, "early", (early.Start.Minutes, early.Finish.Minutes)));
                    if (schedule.LateDatesOf(row) is { } late)
                        Assert.Equal((task.Id, "late", slow.Late(task)), (task.Id, "late", (late.Start.Minutes, late.Finish.Minutes)));
                }
            },
            iter: 50
        );

    [Fact]
    public void L1_planned_work_takes_exactly_its_length_and_begins_and_ends_in_working_time() =>
        Seeds.Sample(
            seed =>
            {
                var schedule = RandomPlan.Of(new Random(seed)).Calculate();
                foreach (
                    var leaf in Leaves(schedule)
                        .Where(l =>
                            schedule.Plan.Tasks[l] is { IsStarted: false, IsFinished: false, Pinned: not { Finish: not null } }
                            && schedule.LengthOf(l).Count > 0
                        )
                )
                {
                    var calendar = schedule.Plan.EffectiveCalendar(schedule.Plan.Tasks[leaf]);
                    Assert.Equal(schedule.LengthOf(leaf).Count, schedule.SegmentsOf(leaf).Sum(s => calendar.Between(s.Start, s.Finish)));
                    Assert.Equal(
                        (schedule.StartOf(leaf), schedule.FinishOf(leaf)),
                        (schedule.SegmentsOf(leaf)[0].Start, schedule.SegmentsOf(leaf)[^1].Finish)
                    );
                    Assert.Equal(schedule.StartOf(leaf), calendar.Next(schedule.StartOf(leaf)));
                    Assert.Equal(schedule.FinishOf(leaf), calendar.Prev(schedule.FinishOf(leaf)));
                }
            },
            iter: 400
        );

    [Fact]
    public void B2_slipping_by_the_total_float_keeps_the_finish_and_a_minute_more_does_not() =>
        Seeds.Sample(
            seed =>
            {
                var random = new Random(seed);
                var schedule = RandomPlan.Of(random, mixed: false).Calculate();
                var leaf = random.Next(schedule.Plan.Tasks.Length);
                var slack = schedule.TotalFloatOf(leaf)!.Value.Count;
                if (schedule.LengthOf(leaf).Count == 0)
                    return;
                Assert.Equal(schedule.Finish, Slipped(schedule, leaf, slack).Finish);
                Assert.True(Slipped(schedule, leaf, slack + 1).Finish > schedule.Finish);
            },
            iter: 600
        );

    [Fact]
    public void B3_slipping_by_the_free_float_moves_no_other_task_and_a_minute_more_does() =>
        Seeds.Sample(
            seed =>
            {
                var random = new Random(seed);
                var schedule = RandomPlan.Of(random, mixed: false).Calculate();
                var leaf = random.Next(schedule.Plan.Tasks.Length);
                if (schedule.LengthOf(leaf).Count == 0)
                    return;
                var slack = schedule.FreeFloatOf(leaf)!.Value.Count;
                Assert.InRange(slack, 0, schedule.TotalFloatOf(leaf)!.Value.Count);
                Assert.Equal(0, Moved(slack));
                Assert.True(Moved(slack + 1) > 0);

                int Moved(int minutes)
                {
                    var slipped = Slipped(schedule, leaf, minutes);
                    var others = Enumerable
                        .Range(0, schedule.Plan.Tasks.Length)
                        .Count(row => row != leaf && slipped.StartOf(row) != schedule.StartOf(row));
                    return others + (slipped.Finish == schedule.Finish ? 0 : 1);
                }
            },
            iter: 600
        );

    /// <summary>With everything mixed: the float is what can be used without harm, to the minute.</summary>
    [Fact]
    public void B2_B3_float_never_lies_whatever_is_mixed() =>
        Seeds.Sample(
            seed =>
            {
                var schedule = RandomPlan.Of(new Random(seed), most: 25).Calculate();
                var plan = schedule.Plan;
                // Where something is broken already, or one without length is fixed outside working time, a minute more harms nothing
                // further;
                // and of several rows that start a phase together, any one may slip (B1 binds them all).
                var sound =
                    Broken(schedule) == 0
                    && Leaves(schedule)
                        .All(l =>
                            schedule.TotalFloatOf(l) is not { Count: < 0 }
                            && (schedule.LengthOf(l).Count > 0 || plan.Tasks[l] is { Pinned: null, Constraint: null })
                        )
                    && !plan.Links.Any(l => l.FromStart && plan.Index.IsPhase(plan.Index.RowOf(l.From)));
                foreach (
                    var leaf in Leaves(schedule)
                        .Where(l =>
                            plan.Tasks[l] is { IsStarted: false, IsFinished: false, Pinned: null, Constraint: not { IsMust: true } }
                            && schedule.LengthOf(l).Count > 0
                        )
                )
                {
                    var (total, free) = (schedule.TotalFloatOf(leaf)!.Value.Count, schedule.FreeFloatOf(leaf)!.Value.Count);
                    if (total < 0)
                        continue;
                    Assert.Equal((false, 0), Harm(total) with { Moved = 0 });
                    if (sound)
                        Assert.NotEqual((false, 0), Harm(total + 1) with { Moved = 0 });
                    Assert.InRange(free, 0, total);
                    Assert.Equal((false, 0), Harm(free));
                    if (free < total)
                        Assert.NotEqual((false, 0), Harm(free + 1));

                    (bool Late, int Moved) Harm(int minutes)
                    {
                        var start = plan.EffectiveCalendar(plan.Tasks[leaf]).Add(schedule.EarlyDatesOf(leaf)!.Value.Start, minutes);
                        var hold = new PlanTask
                        {
                            Id = "hold",
                            Name = "hold",
                            Milestone = true,
                            Length = Length.Zero,
                            Pinned = new(start),
                        };
                        var slipped = (
                            plan with
                            {
                                Tasks = plan.Tasks.Add(hold),
                                Links = plan.Links.Add(new("hold", plan.Tasks[leaf].Id)),
                            }
                        ).Calculate();
                        var moved = Leaves(schedule).Count(l => l != leaf && slipped.EarlyDatesOf(l) != schedule.EarlyDatesOf(l));
                        return (slipped.Finish > schedule.Finish || Broken(slipped) > Broken(schedule), moved);
                    }
                }
            },
            iter: 400
        );

    /// <summary>
    /// Minutes by which links and dates of tasks that have not started are missed, of all together. Those that have bind nothing (B1).
    /// </summary>
    private static int Broken(Schedule schedule) =>
        schedule
            .Warnings.Where(w =>
                w.Code is WarningCode.W1 or WarningCode.W2 && schedule.Plan.Find(w.Tasks[^1]) is { IsStarted: false, IsFinished: false }
            )
            .Sum(w => Math.Max(1, w.Minutes.Count));

    [Fact]
    public void A_longer_task_never_makes_the_finish_earlier() =>
        Seeds.Sample(
            seed =>
            {
                var random = new Random(seed);
                var plan = RandomPlan.Of(random, mixed: false);
                var task = plan.Tasks[random.Next(plan.Tasks.Length)];
                var longer = plan.With(task.Id, t => t with { Length = t.Length with { Amount = t.Length.Amount + random.Next(1, 30) } });
                Assert.True(longer.Calculate().Finish >= plan.Calculate().Finish);
            },
            iter: 400
        );

    [Fact]
    public void The_order_of_rows_and_links_changes_no_date() =>
        Seeds.Sample(
            seed =>
            {
                var random = new Random(seed);
                var schedule = RandomPlan.Of(random, mixed: false).Calculate();
                var tasks = schedule.Plan.Tasks.ToArray();
                var links = schedule.Plan.Links.ToArray();
                random.Shuffle(tasks);
                random.Shuffle(links);
                var shuffled = (schedule.Plan with { Tasks = [.. tasks], Links = [.. links] }).Calculate();
                foreach (var task in tasks)
                    Assert.Equal(schedule.Dates(task.Id), shuffled.Dates(task.Id));
            },
            iter: 300
        );

    [Fact]
    public void The_order_of_rows_changes_no_date_whatever_is_mixed() =>
        Seeds.Sample(
            seed =>
            {
                var random = new Random(seed);
                var schedule = RandomPlan.Of(random, from: (ScheduleFrom)random.Next(2)).Calculate();
                var links = schedule.Plan.Links.ToArray();
                random.Shuffle(links);
                var shuffled = (schedule.Plan with { Tasks = [.. Shuffled(null)], Links = [.. links] }).Calculate();
                foreach (var leaf in Leaves(schedule))
                {
                    var (id, there) = (schedule.Plan.Tasks[leaf].Id, shuffled.Plan.Index.RowOf(schedule.Plan.Tasks[leaf].Id));
                    Assert.Equal(
                        (schedule.Dates(id), schedule.EarlyDatesOf(leaf), schedule.LateDatesOf(leaf), schedule.FreeFloatOf(leaf)),
                        (shuffled.Dates(id), shuffled.EarlyDatesOf(there), shuffled.LateDatesOf(there), shuffled.FreeFloatOf(there))
                    );
                }

                IEnumerable<PlanTask> Shuffled(string? phase)
                {
                    var rows = schedule.Plan.Tasks.Where(t => t.Parent == phase).ToArray();
                    random.Shuffle(rows);
                    return rows.SelectMany(row => Shuffled(row.Id).Prepend(row));
                }
            },
            iter: 200
        );

    [Fact]
    public void Another_link_never_makes_anything_earlier() =>
        Seeds.Sample(
            seed =>
            {
                var random = new Random(seed);
                var before = RandomPlan.Of(random).Calculate();
                var plan = before.Plan;
                var link = new PlanLink(
                    plan.Tasks[random.Next(plan.Tasks.Length)].Id,
                    plan.Tasks[random.Next(plan.Tasks.Length)].Id,
                    new Length(random.Next(-9, 9), LengthUnit.Hours),
                    (LinkKind)random.Next(4)
                );
                if (LinkRules.Refusal(plan, link) is not null || plan.Index.RowOf(link.From) > plan.Index.RowOf(link.To))
                    return;
                try
                {
                    var after = (plan with { Links = plan.Links.Add(link) }).Calculate();
                    foreach (var leaf in Leaves(before))
                        Assert.True(
                            after.EarlyDatesOf(leaf)!.Value.Start >= before.EarlyDatesOf(leaf)!.Value.Start
                                && after.EarlyDatesOf(leaf)!.Value.Finish >= before.EarlyDatesOf(leaf)!.Value.Finish
                        );
                }
                catch (UnsoundPlanException)
                {
                    // It went round in a circle.
                }
            },
            iter: 400
        );

    [Fact]
    public void R1_a_plan_of_plain_links_is_as_long_backward_as_forward() =>
        Seeds.Sample(
            seed =>
            {
                var forward = RandomPlan.Of(new Random(seed), mixed: false, most: 200).Calculate();
                var backward = (
                    forward.Plan with
                    {
                        Project = forward.Plan.Project with { ScheduleFrom = ScheduleFrom.Finish, Finish = forward.Finish },
                    }
                ).Calculate();
                Assert.Equal(forward.Length, backward.Length);
                foreach (var leaf in Leaves(forward))
                    Assert.Equal(forward.TotalFloatOf(leaf), backward.TotalFloatOf(leaf));
            },
            iter: 200
        );

    [Fact]
    public void Y1_following_the_drivers_back_from_any_task_reaches_a_start_or_a_fixed_date() =>
        Seeds.Sample(
            seed =>
            {
                var random = new Random(seed);
                var schedule = RandomPlan.Of(random, from: (ScheduleFrom)random.Next(2)).Calculate();
                foreach (var leaf in Leaves(schedule))
                {
                    var steps = Reasons.WhyStart(schedule, leaf);
                    Assert.NotEqual(DriverKind.Link, steps[^1].Kind);
                    Assert.InRange(steps.Count, 1, schedule.Plan.Tasks.Length + 1);
                    Assert.All(steps, step => Assert.NotEmpty(step.Sentence));
                }
            },
            iter: 200
        );

    [Fact]
    public void Y1_every_planned_date_has_something_that_holds_it() =>
        Seeds.Sample(
            seed =>
            {
                var schedule = RandomPlan.Of(new Random(seed)).Calculate();
                var drivers = schedule.Drivers;
                foreach (var leaf in Leaves(schedule))
                    Assert.NotEmpty(drivers.Of(leaf));
            },
            iter: 400
        );

    [Fact]
    public void P1_a_phase_spans_exactly_its_leaves() =>
        Seeds.Sample(
            seed =>
            {
                var schedule = RandomPlan.Of(new Random(seed)).Calculate();
                var index = schedule.Plan.Index;
                for (var row = 0; row < index.Count; row++)
                {
                    if (!schedule.IsPhase(row))
                        continue;
                    var leaves = LeavesOf(schedule, schedule.Plan.Tasks[row].Id).ToList();
                    Assert.Equal(leaves.Min(l => schedule.StartOf(l).Minutes), schedule.StartOf(row).Minutes);
                    Assert.Equal(leaves.Max(l => schedule.FinishOf(l).Minutes), schedule.FinishOf(row).Minutes);
                }
            },
            iter: 200
        );

    /// <summary>The schedule when a leaf is kept from starting until that much working time later.</summary>
    private static Schedule Slipped(Schedule schedule, int leaf, int minutes)
    {
        var start = schedule.Plan.ProjectCalendar.Add(schedule.StartOf(leaf), minutes);
        return schedule
            .Plan.With(schedule.Plan.Tasks[leaf].Id, t => t with { Constraint = new(ConstraintKind.StartNoEarlierThan, start) })
            .Calculate();
    }

    private static IEnumerable<int> Leaves(Schedule schedule) => Enumerable.Range(0, schedule.Plan.Tasks.Length).Where(schedule.IsLeaf);

    private static IEnumerable<int> LeavesOf(Schedule schedule, string id)
    {
        var row = schedule.Plan.Index.RowOf(id);
        return Enumerable.Range(row, schedule.Plan.Index.SubtreeEnd(row) - row).Where(schedule.IsLeaf);
    }
}
