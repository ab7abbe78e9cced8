using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Tests.Scheduling;

public class FloatTests
{
    /// <summary>A – C – D sets the finish; B may slip two days.</summary>
    private const string Diamond = """
        A 1d
        B 1d after A
        C 3d after A
        D 1d after B, C
        """;

    [Fact]
    public void B2_the_path_that_sets_the_finish_has_no_float()
    {
        var schedule = PlanText.Schedule(Diamond);
        Assert.Equal([0, 960, 0, 0], Enumerable.Range(0, 4).Select(row => schedule.TotalFloatOf(row)!.Value.Count));
        Assert.Equal([true, false, true, true], Enumerable.Range(0, 4).Select(schedule.IsCritical));
        Assert.Equal("2027-05-07T18:00", schedule.LateDatesOf(3)!.Value.Finish.ToString());
        Assert.Equal("2027-05-06T09:00", schedule.LateDatesOf(1)!.Value.Start.ToString());
    }

    [Fact]
    public void B3_free_float_stops_at_the_next_task_and_total_float_at_the_finish()
    {
        var schedule = PlanText.Schedule(
            """
            Long 5d
            A 1d
            B 1d after A
            """
        );
        Assert.Equal((3 * 480, 0), (schedule.TotalFloatOf(1)!.Value.Count, schedule.FreeFloatOf(1)!.Value.Count));
        Assert.Equal((3 * 480, 3 * 480), (schedule.TotalFloatOf(2)!.Value.Count, schedule.FreeFloatOf(2)!.Value.Count));
    }

    [Fact]
    public void B1_lag_is_taken_back_and_a_pinned_task_holds_its_predecessors_where_it_stands()
    {
        var plan = PlanText
            .Plan(
                """
                Long 9d
                A 1d
                B 1d after A + 1d
                """
            )
            .With("B", t => t with { Pinned = new(PlanTime.At(2027, 5, 7, 9)) });
        var schedule = plan.Calculate();
        Assert.Equal(2 * 480, schedule.TotalFloatOf(1)!.Value.Count);
        Assert.Equal(4 * 480, schedule.TotalFloatOf(2)!.Value.Count);
    }

    [Fact]
    public void B1_must_dates_are_late_exactly_when_they_are_early()
    {
        var plan = PlanText
            .Plan("Long 9d\nA 1d")
            .With("A", t => t with { Constraint = new(ConstraintKind.MustStartOn, PlanTime.At(2027, 5, 4, 9)) });
        Assert.True(plan.Calculate().IsCritical(1));
    }

    [Fact]
    public void B1_a_started_successor_binds_nothing_and_finished_tasks_have_no_float()
    {
        var plan = PlanText
            .Plan("Long 9d\nA 2d\nB 4d after A\nC 1d")
            .With("B", t => t with { ActualStart = PlanTime.At(2027, 5, 4, 9), Progress = 0.1m })
            .With("C", t => t with { ActualStart = PlanText.DefaultStart, ActualFinish = PlanTime.At(2027, 5, 3, 18), Progress = 1 });
        var schedule = plan.Calculate();
        Assert.Equal(7 * 480, schedule.TotalFloatOf(1)!.Value.Count);
        Assert.Null(schedule.TotalFloatOf(3));
        Assert.False(schedule.IsCritical(3));
    }

    [Fact]
    public void B1_float_to_a_date_to_finish_by_is_negative_when_that_is_missed()
    {
        var plan = PlanText.Plan("A 3d");
        plan = plan with { Project = plan.Project with { FinishBy = PlanTime.At(2027, 5, 4, 18), FloatTo = FloatTarget.FinishBy } };
        var schedule = plan.Calculate();
        Assert.Equal((-480, 0), (schedule.TotalFloatOf(0)!.Value.Count, schedule.FreeFloatOf(0)!.Value.Count));
        Assert.Equal(Planning.Scheduling.WarningCode.W4, Assert.Single(schedule.Warnings).Code);
    }

    [Fact]
    public void B2_critical_float_widens_what_sets_the_finish()
    {
        var plan = PlanText.Plan(Diamond);
        plan = plan with { Project = plan.Project with { CriticalFloat = Length.Days(2) } };
        Assert.True(plan.Calculate().IsCritical(1));
    }
}
