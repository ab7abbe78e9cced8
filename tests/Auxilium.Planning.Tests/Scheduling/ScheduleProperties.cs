using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using CsCheck;

namespace Auxilium.Planning.Tests.Scheduling;

/// <summary>What holds of every plan.</summary>
public class ScheduleProperties
{
    private static readonly Gen<int> Seeds = Gen.Int[0, int.MaxValue - 1];

    [Fact]
    public void No_link_is_broken_without_a_warning() => Seeds.Sample(seed =>
    {
        var schedule = RandomPlan.Of(new Random(seed)).Calculate();
        var plan = schedule.Plan;
        var warned = schedule.Warnings.Select(w => string.Join('>', w.Tasks)).ToHashSet();
        foreach (var link in plan.Links)
        {
            var bound = plan.ProjectCalendar.Add(schedule.FinishOf(link.From), plan.Project.Units.Minutes(link.Lag).Count);
            foreach (var leaf in LeavesOf(plan, link.To))
                Assert.True(
                    plan.EffectiveCalendar(plan.Tasks[leaf]).Between(schedule.StartOf(leaf), bound) <= 0
                    || warned.Contains($"{link.From}>{plan.Tasks[leaf].Id}"));
        }
    }, iter: 400);

    /// <summary>A scheduler that walks minute by minute gives the same minutes.</summary>
    [Fact]
    public void Every_date_is_what_walking_minute_by_minute_gives() => Seeds.Sample(seed =>
    {
        var random = new Random(seed);
        var schedule = RandomPlan.Of(random, most: 14).Calculate();
        foreach (var (task, (start, finish)) in new MinuteByMinute(schedule.Plan).Run().Dates)
            Assert.Equal((start, finish), (schedule.StartOf(task).Minutes, schedule.FinishOf(task).Minutes));
    }, iter: 60);

    [Fact]
    public void L1_planned_work_takes_exactly_its_length_and_begins_and_ends_in_working_time() => Seeds.Sample(seed =>
    {
        var schedule = RandomPlan.Of(new Random(seed)).Calculate();
        foreach (var leaf in Leaves(schedule.Plan).Where(l => !schedule.Plan.Tasks[l].IsStarted && schedule.LengthOf(l).Count > 0))
        {
            var calendar = schedule.Plan.EffectiveCalendar(schedule.Plan.Tasks[leaf]);
            Assert.Equal(schedule.LengthOf(leaf).Count, calendar.Between(schedule.StartOf(leaf), schedule.FinishOf(leaf)));
            Assert.Equal(schedule.StartOf(leaf), calendar.Next(schedule.StartOf(leaf)));
            Assert.Equal(schedule.FinishOf(leaf), calendar.Prev(schedule.FinishOf(leaf)));
        }
    }, iter: 400);

    [Fact]
    public void B2_slipping_by_the_total_float_keeps_the_finish_and_a_minute_more_does_not() => Seeds.Sample(seed =>
    {
        var random = new Random(seed);
        var schedule = RandomPlan.Of(random, mixed: false).Calculate();
        var leaf = random.Next(schedule.Plan.Tasks.Length);
        var slack = schedule.TotalFloatOf(leaf)!.Value.Count;
        if (schedule.LengthOf(leaf).Count == 0) return;
        Assert.Equal(schedule.Finish, Slipped(schedule, leaf, slack).Finish);
        Assert.True(Slipped(schedule, leaf, slack + 1).Finish > schedule.Finish);
    }, iter: 600);

    [Fact]
    public void B3_slipping_by_the_free_float_moves_no_other_task_and_a_minute_more_does() => Seeds.Sample(seed =>
    {
        var random = new Random(seed);
        var schedule = RandomPlan.Of(random, mixed: false).Calculate();
        var leaf = random.Next(schedule.Plan.Tasks.Length);
        if (schedule.LengthOf(leaf).Count == 0) return;
        var slack = schedule.FreeFloatOf(leaf)!.Value.Count;
        Assert.InRange(slack, 0, schedule.TotalFloatOf(leaf)!.Value.Count);
        Assert.Equal(0, Moved(slack));
        Assert.True(Moved(slack + 1) > 0);

        int Moved(int minutes)
        {
            var slipped = Slipped(schedule, leaf, minutes);
            var others = Enumerable.Range(0, schedule.Plan.Tasks.Length).Count(row => row != leaf && slipped.StartOf(row) != schedule.StartOf(row));
            return others + (slipped.Finish == schedule.Finish ? 0 : 1);
        }
    }, iter: 600);

    /// <summary>With calendars, lags, phases, fixed dates and work done: the float is what one can use without harm, to the minute.</summary>
    [Fact]
    public void B2_B3_float_never_lies_whatever_is_mixed() => Seeds.Sample(seed =>
    {
        var schedule = RandomPlan.Of(new Random(seed), most: 25).Calculate();
        var plan = schedule.Plan;
        // Where a link is broken already, or one without length is fixed outside working time, a minute more harms nothing further.
        var sound = Broken(schedule) == 0 && Leaves(plan).All(l =>
            schedule.TotalFloatOf(l) is not { Count: < 0 } && (schedule.LengthOf(l).Count > 0 || plan.Tasks[l] is { Pinned: null, Constraint: null }));
        foreach (var leaf in Leaves(plan).Where(l => plan.Tasks[l] is { IsStarted: false, IsFinished: false, Pinned: null } && schedule.LengthOf(l).Count > 0))
        {
            if (plan.Tasks[leaf].Constraint?.Kind is ConstraintKind.MustStartOn or ConstraintKind.MustFinishOn) continue;
            var (total, free) = (schedule.TotalFloatOf(leaf)!.Value.Count, schedule.FreeFloatOf(leaf)!.Value.Count);
            if (total < 0) continue;
            Assert.Equal((false, 0), Harm(total) with { Moved = 0 });
            if (sound) Assert.NotEqual((false, 0), Harm(total + 1) with { Moved = 0 });
            Assert.InRange(free, 0, total);
            Assert.Equal((false, 0), Harm(free));
            if (free < total) Assert.NotEqual((false, 0), Harm(free + 1));

            (bool Late, int Moved) Harm(int minutes)
            {
                var start = plan.EffectiveCalendar(plan.Tasks[leaf]).Add(schedule.StartOf(leaf), minutes);
                var slipped = plan.With(plan.Tasks[leaf].Id, t => t with { Constraint = new(ConstraintKind.StartNoEarlierThan, start) }).Calculate();
                var others = Leaves(plan).Where(l => l != leaf);
                var moved = others.Count(l => slipped.StartOf(l) != schedule.StartOf(l) || slipped.FinishOf(l) != schedule.FinishOf(l));
                return (slipped.Finish > schedule.Finish || Broken(slipped) > Broken(schedule), moved);
            }
        }
    }, iter: 400);

    /// <summary>Minutes by which links to tasks that have not started are broken, of all together. Those that have bind nothing (B1).</summary>
    private static int Broken(Schedule schedule) => schedule.Warnings
        .Where(w => w.Code == WarningCode.W1 && schedule.Plan.Find(w.Tasks[1]) is { IsStarted: false, IsFinished: false })
        .Sum(w => w.Minutes.Count);

    [Fact]
    public void A_longer_task_never_makes_the_finish_earlier() => Seeds.Sample(seed =>
    {
        var random = new Random(seed);
        var plan = RandomPlan.Of(random, mixed: false);
        var task = plan.Tasks[random.Next(plan.Tasks.Length)];
        var longer = plan.With(task.Id, t => t with { Length = t.Length with { Amount = t.Length.Amount + random.Next(1, 30) } });
        Assert.True(longer.Calculate().Finish >= plan.Calculate().Finish);
    }, iter: 400);

    [Fact]
    public void The_order_of_rows_and_links_changes_no_date() => Seeds.Sample(seed =>
    {
        var random = new Random(seed);
        var schedule = RandomPlan.Of(random, mixed: false).Calculate();
        var tasks = schedule.Plan.Tasks.ToArray();
        var links = schedule.Plan.Links.ToArray();
        random.Shuffle(tasks);
        random.Shuffle(links);
        var shuffled = (schedule.Plan with { Tasks = [.. tasks], Links = [.. links] }).Calculate();
        foreach (var task in tasks) Assert.Equal(schedule.Dates(task.Id), shuffled.Dates(task.Id));
    }, iter: 300);

    [Fact]
    public void Y1_every_planned_date_has_something_that_holds_it() => Seeds.Sample(seed =>
    {
        var schedule = RandomPlan.Of(new Random(seed)).Calculate();
        var drivers = new Drivers(schedule);
        foreach (var leaf in Leaves(schedule.Plan)) Assert.NotEmpty(drivers.Of(leaf));
    }, iter: 400);

    [Fact]
    public void P1_a_phase_spans_exactly_its_leaves() => Seeds.Sample(seed =>
    {
        var schedule = RandomPlan.Of(new Random(seed)).Calculate();
        var index = schedule.Plan.Index;
        for (var row = 0; row < index.Count; row++)
        {
            if (!index.IsPhase(row)) continue;
            var leaves = LeavesOf(schedule.Plan, schedule.Plan.Tasks[row].Id).ToList();
            Assert.Equal(leaves.Min(l => schedule.StartOf(l).Minutes), schedule.StartOf(row).Minutes);
            Assert.Equal(leaves.Max(l => schedule.FinishOf(l).Minutes), schedule.FinishOf(row).Minutes);
        }
    }, iter: 200);

    /// <summary>The schedule when a leaf is kept from starting until that much working time later.</summary>
    private static Schedule Slipped(Schedule schedule, int leaf, int minutes)
    {
        var start = schedule.Plan.ProjectCalendar.Add(schedule.StartOf(leaf), minutes);
        return schedule.Plan.With(schedule.Plan.Tasks[leaf].Id, t => t with { Constraint = new(ConstraintKind.StartNoEarlierThan, start) }).Calculate();
    }

    private static IEnumerable<int> Leaves(Plan plan) => Enumerable.Range(0, plan.Tasks.Length).Where(plan.Index.IsLeaf);

    private static IEnumerable<int> LeavesOf(Plan plan, string id)
    {
        var row = plan.Index.RowOf(id);
        return Enumerable.Range(row, plan.Index.SubtreeEnd(row) - row).Where(plan.Index.IsLeaf);
    }
}
