using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tests.Editing;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using CsCheck;

namespace Auxilium.Planning.Tests.Tracking;

/// <summary>Rules S1 to S5.</summary>
public class BaselineTests
{
    private const string Regatta = """
        route
          permit 2d
          buoys 1d after permit
        lanterns 3d
        parade milestone after buoys, lanterns
        """;

    [Fact]
    public void S1_a_baseline_keeps_dates_length_effort_progress_and_milestones_of_every_row()
    {
        var plan = Edit(PlanText.Plan(Regatta).With("permit", t => t with { Progress = 0.5m }), new TakeBaseline("As agreed"));
        var taken = Assert.Single(plan.Baselines);
        Assert.Equal(("b1", "As agreed", EditSampler.Today, true), (taken.Id, taken.Name, taken.Taken, taken.Whole));
        Assert.Equal((PlanText.DefaultStart, plan.Calculate().Finish), (taken.Start, taken.Finish));
        Assert.Equal(["route", "permit", "buoys", "lanterns", "parade"], taken.Rows.Select(r => r.Task));
        var permit = taken.Find("permit")!;
        Assert.Equal("2027-05-03T09:00 – 2027-05-04T18:00", $"{permit.Start} – {permit.Finish}");
        Assert.Equal((960, 960, 0.5m, false, false), (permit.Length, permit.Effort, permit.Progress, permit.Milestone, permit.Phase));
        Assert.Equal((true, 0), (taken.Find("parade")!.Milestone, taken.Find("parade")!.Length));
        // Rule S3: a phase keeps the dates it had.
        Assert.Equal("2027-05-05T18:00", taken.Find("route")!.Finish.ToString());
        Assert.Equal((true, 1440), (taken.Find("route")!.Phase, taken.Find("route")!.Effort));
        Assert.Equal(1440 + 1440, taken.Effort);
    }

    [Fact]
    public void S1_of_chosen_rows_it_keeps_those_with_all_inside_them_and_no_inactive_ones()
    {
        var plan = PlanText.Plan(Regatta).With("buoys", t => t with { Active = false });
        var taken = Assert.Single(Edit(plan, new TakeBaseline("Route", ["route"])).Baselines);
        Assert.Equal((false, "route,permit"), (taken.Whole, string.Join(',', taken.Rows.Select(r => r.Task))));
    }

    [Theory]
    [InlineData("", "needs a name")]
    [InlineData("two\nlines", "one line")]
    [InlineData("AS AGREED", "already")]
    public void S1_a_name_that_cannot_be_is_told(string name, string why)
    {
        var plan = Edit(PlanText.Plan(Regatta), new TakeBaseline("As agreed"));
        var refused = Assert.Throws<EditRefusedException>(() => Edit(plan, new TakeBaseline(name)));
        Assert.Contains(why, refused.Message, StringComparison.Ordinal);
        Assert.Equal(EditField.Baselines, refused.Field);
    }

    [Fact]
    public void S1_a_baseline_of_nothing_is_refused()
    {
        var refused = Assert.Throws<EditRefusedException>(() => Edit(PlanText.Plan(""), new TakeBaseline("Empty")));
        Assert.StartsWith("There is nothing to remember yet", refused.Message, StringComparison.Ordinal);
        Assert.Throws<EditRefusedException>(() => Edit(PlanText.Plan(Regatta), new TakeBaseline("None", [])));
    }

    [Fact]
    public void S1_a_baseline_never_changes_whatever_is_edited() =>
        Gen.Int[0, int.MaxValue - 1]
            .Sample(
                seed =>
                {
                    var random = new Random(seed);
                    var schedule = Take(RandomPlan.Of(random, most: 20), "As agreed");
                    var taken = schedule.Plan.Baselines[0];
                    var copy = taken with { Rows = [.. taken.Rows] };
                    for (var i = 0; i < 5 && !schedule.Plan.Tasks.IsEmpty; i++)
                        schedule = Tried(schedule, EditProperties.RandomEdit(random, schedule.Plan));
                    Assert.Same(taken, schedule.Plan.Baselines[0]);
                    Assert.Equal(copy, taken);
                },
                iter: 150
            );

    [Fact]
    public void S2_a_plan_that_did_not_change_has_not_drifted() =>
        Gen.Int[0, int.MaxValue - 1]
            .Sample(
                seed =>
                {
                    var schedule = Take(RandomPlan.Of(new Random(seed), most: 30), "As agreed");
                    var drift = Drift.Of(schedule)!;
                    Assert.Equal(WorkMinutes.Zero, drift.Finish);
                    Assert.Empty(drift.Dropped);
                    for (var row = 0; row < schedule.Plan.Index.Count; row++)
                    {
                        Assert.False(drift.IsNew(row));
                        Assert.Equal(schedule.IsOff(row) ? null : (WorkMinutes.Zero, WorkMinutes.Zero), drift.Of(row));
                    }
                },
                iter: 200
            );

    [Fact]
    public void S2_drift_is_working_time_between_the_dates_then_and_now() =>
        Gen.Int[0, int.MaxValue - 1]
            .Sample(
                seed =>
                {
                    var random = new Random(seed);
                    var then = Take(RandomPlan.Of(random, most: 20), "As agreed");
                    if (then.Plan.Tasks.IsEmpty)
                        return;
                    var now = Tried(then, EditProperties.RandomEdit(random, then.Plan));
                    var (drift, calendar) = (Drift.Of(now)!, now.Plan.ProjectCalendar);
                    foreach (var row in drift.Baseline.Rows.Where(r => now.Plan.Find(r.Task) is not null))
                    {
                        var at = now.Plan.Index.RowOf(row.Task);
                        if (now.IsOff(at))
                            Assert.Contains(row, drift.Dropped);
                        else
                            Assert.Equal(
                                (calendar.Between(row.Start, now.StartOf(at)), calendar.Between(row.Finish, now.FinishOf(at))),
                                (drift.Of(at)!.Value.Start.Count, drift.Of(at)!.Value.Finish.Count)
                            );
                    }
                },
                iter: 200
            );

    [Fact]
    public void S2_rows_that_came_are_new_and_rows_that_went_are_dropped()
    {
        var plan = Edit(PlanText.Plan(Regatta), new TakeBaseline("As agreed"));
        plan = Edit(plan, new AddTask("tea", "Tea", null, "lanterns"));
        plan = Edit(plan, new RemoveTasks(["buoys"]));
        plan = Edit(plan, new SetActive("lanterns", false));
        var drift = Drift.Of(plan.Calculate())!;
        Assert.Equal(["tea"], plan.Tasks.Where((_, row) => drift.IsNew(row)).Select(t => t.Id));
        Assert.Equal(["buoys", "lanterns"], drift.Dropped.Select(r => r.Task));
    }

    [Fact]
    public void S4_the_newest_of_all_rows_is_the_measure_unless_another_is_chosen()
    {
        var plan = Edit(PlanText.Plan(Regatta), new TakeBaseline("First"));
        plan = Edit(plan, new TakeBaseline("Second"));
        plan = Edit(plan, new TakeBaseline("Route only", ["route"]));
        Assert.Equal("Second", plan.Measure!.Name);
        plan = Edit(plan, new SetMeasure("b1"));
        Assert.Equal("First", plan.Measure!.Name);
        var deleted = EditPipeline.Run(plan.Calculate(), new DeleteBaseline("b1"), EditSampler.Today, []);
        Assert.Equal("Second", deleted.After.Plan.Measure!.Name);
        var back = EditPipeline.Run(deleted.After, deleted.Applied.Inverse, EditSampler.Today, []);
        Assert.Equal(("First", "b1"), (back.After.Plan.Measure!.Name, back.After.Plan.Baselines[0].Id));
    }

    [Fact]
    public void After_an_edit_it_is_told_how_far_the_finish_is_from_the_measure()
    {
        var schedule = Take(PlanText.Plan(Regatta), "As agreed");
        var late = EditPipeline.Run(schedule, new SetLength("lanterns", new TypedLength(Length.Days(6))), EditSampler.Today, []);
        Assert.EndsWith("finish Wed 5 May → Mon 10 May, now 3 working days behind “As agreed”.", Sentence(late), StringComparison.Ordinal);
        var same = EditPipeline.Run(late.After, new RenameTask("permit", "Harbour permit"), EditSampler.Today, []);
        Assert.EndsWith("the finish stays Mon 10 May, 3 working days behind “As agreed”.", Sentence(same), StringComparison.Ordinal);
        var back = EditPipeline.Run(same.After, new SetLength("lanterns", new TypedLength(Length.Days(3))), EditSampler.Today, []);
        Assert.Contains("→ Wed 5 May, now as in “As agreed”.", Sentence(back), StringComparison.Ordinal);
    }

    [Fact]
    public void S5_a_plan_is_led_back_to_every_version_it_had() =>
        Gen.Int[0, int.MaxValue - 1]
            .Sample(
                seed =>
                {
                    var random = new Random(seed);
                    var schedule = RandomPlan.Of(random, most: 20).Calculate();
                    List<string> versions = [EditorTests.Text(schedule.Plan)];
                    var inverses = new List<PlanEdit>();
                    for (var i = 0; i < 12 && !schedule.Plan.Tasks.IsEmpty; i++)
                    {
                        try
                        {
                            var edited = EditPipeline.Run(
                                schedule,
                                EditProperties.RandomEdit(random, schedule.Plan),
                                EditSampler.Today,
                                []
                            );
                            schedule = edited.After;
                            inverses.Insert(0, edited.Applied.Inverse);
                            versions.Add(EditorTests.Text(schedule.Plan));
                        }
                        catch (EditRefusedException)
                        {
                            // Another one is drawn.
                        }
                    }
                    for (var version = 0; version < versions.Count; version++)
                        Assert.Equal(versions[version], EditorTests.Text(Rewind.Back(schedule, inverses.Take(inverses.Count - version))));
                },
                iter: 150
            );

    private static Plan Edit(Plan plan, PlanEdit edit) => EditPipeline.Run(plan.Calculate(), edit, EditSampler.Today, []).After.Plan;

    private static Schedule Take(Plan plan, string name)
    {
        var schedule = plan.Calculate();
        var taken = Baselines.Take(schedule, "b1", name, EditSampler.Today);
        return Scheduler.Calculate(plan with { Baselines = [taken] }, schedule);
    }

    private static Schedule Tried(Schedule schedule, PlanEdit edit)
    {
        try
        {
            return EditPipeline.Run(schedule, edit, EditSampler.Today, []).After;
        }
        catch (EditRefusedException)
        {
            return schedule;
        }
    }

    private static string Sentence(EditedPlan edited) => string.Concat(RippleText.Of(edited).Select(r => r.Text));
}
