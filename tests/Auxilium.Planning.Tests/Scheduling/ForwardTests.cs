using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests.Scheduling;

public class ForwardTests
{
    [Fact]
    public void L1_a_task_of_three_days_runs_over_the_weekend()
    {
        var schedule = PlanText.Schedule("start 2027-05-06T09:00\nA 3d");
        Assert.Equal("2027-05-06T09:00 – 2027-05-10T18:00", schedule.Dates("A"));
    }

    [Fact]
    public void F1_a_task_starts_when_all_before_it_have_finished()
    {
        var schedule = PlanText.Schedule(
            """
            A 3d
            B 1d
            C 1d after A, B
            """
        );
        Assert.Equal("2027-05-06T09:00 – 2027-05-06T18:00", schedule.Dates("C"));
    }

    [Fact]
    public void K1_lag_counts_working_minutes_of_the_project_calendar_and_lead_counts_back()
    {
        var schedule = PlanText.Schedule(
            """
            A 3d
            B 1d after A + 2d
            C 1d after A - 1d
            """
        );
        Assert.Equal("2027-05-10T09:00", schedule.StartOf("B").ToString());
        Assert.Equal("2027-05-05T09:00", schedule.StartOf("C").ToString());
    }

    [Fact]
    public void L2_a_milestone_after_a_task_ending_Tuesday_stands_on_Tuesday()
    {
        var schedule = PlanText.Schedule(
            """
            A 2d
            M milestone after A
            First milestone
            """
        );
        Assert.Equal("2027-05-04T18:00 – 2027-05-04T18:00", schedule.Dates("M"));
        Assert.Equal("2027-05-03T09:00", schedule.StartOf("First").ToString());
    }

    [Fact]
    public void T5_task_and_owner_calendars_meet_and_round_the_clock_overrides_both()
    {
        var mornings = new WorkCalendar
        {
            Id = "am",
            Name = "Mornings",
            Week = [.. Enumerable.Range(0, 7).Select(_ => Day(9, 13))],
        };
        var late = new WorkCalendar
        {
            Id = "late",
            Name = "From eleven",
            Week = [.. Enumerable.Range(0, 7).Select(_ => Day(11, 20))],
        };
        var plan = PlanText.Plan("A 4h\nB 4h\nC 48h\nD 4h") with
        {
            Calendars = [mornings, late],
            People = [new Person("p", "Pat", "P", null, "late")],
        };
        plan = plan.With("A", t => t with { Calendar = "am", Assignments = [new("p")] })
            .With("B", t => t with { Assignments = [new("p")] })
            .With("C", t => t with { AroundTheClock = true, Calendar = "am" })
            .With("D", t => t with { Calendar = "am" });
        var schedule = plan.Calculate();
        Assert.Equal("2027-05-03T11:00 – 2027-05-04T13:00", schedule.Dates("A"));
        Assert.Equal("2027-05-03T11:00 – 2027-05-03T15:00", schedule.Dates("B"));
        Assert.Equal("2027-05-03T09:00 – 2027-05-05T09:00", schedule.Dates("C"));
        Assert.Equal("2027-05-03T09:00 – 2027-05-03T13:00", schedule.Dates("D"));
    }

    [Fact]
    public void T5_a_calendar_without_work_in_twenty_years_is_an_error_that_names_the_task()
    {
        var none = new WorkCalendar
        {
            Id = "none",
            Name = "None",
            Week = [.. Enumerable.Range(0, 7).Select(_ => Day(0, 0))],
        };
        var plan = (PlanText.Plan("A 1d\nPainting 1d") with { Calendars = [none] }).With("Painting", t => t with { Calendar = "none" });
        var problem = Assert.Single(Assert.Throws<UnsoundPlanException>(plan.Calculate).Problems);
        Assert.Equal("noWorkingTime", problem.Code);
        Assert.Contains("Painting", problem.Message);
    }

    [Theory]
    [InlineData(ConstraintKind.StartNoEarlierThan, "2027-05-12T09:00", "2027-05-12T09:00 – 2027-05-13T18:00")]
    [InlineData(ConstraintKind.FinishNoEarlierThan, "2027-05-12T18:00", "2027-05-11T09:00 – 2027-05-12T18:00")]
    [InlineData(ConstraintKind.MustStartOn, "2027-05-04T09:00", "2027-05-04T09:00 – 2027-05-05T18:00")]
    [InlineData(ConstraintKind.MustFinishOn, "2027-05-05T18:00", "2027-05-04T09:00 – 2027-05-05T18:00")]
    [InlineData(ConstraintKind.StartNoEarlierThan, "2027-05-03T09:00", "2027-05-06T09:00 – 2027-05-07T18:00")]
    public void F1_F2_fixed_dates(ConstraintKind kind, string date, string expected)
    {
        var plan = PlanText.Plan("A 3d\nB 2d after A").With("B", t => t with { Constraint = new(kind, PlanTime.Parse(date)) });
        Assert.Equal(expected, plan.Calculate().Dates("B"));
    }

    [Fact]
    public void F2_a_pinned_task_stays_breaks_its_link_openly_and_its_successors_follow_where_it_is()
    {
        var plan = PlanText.Plan("A 3d\nB 2d after A\nC 1d after B").With("B", t => t with { Pinned = new(PlanTime.At(2027, 5, 4, 9)) });
        var schedule = plan.Calculate();
        Assert.Equal("2027-05-04T09:00 – 2027-05-05T18:00", schedule.Dates("B"));
        Assert.Equal("2027-05-06T09:00", schedule.StartOf("C").ToString());
        var warning = Assert.Single(schedule.Warnings);
        Assert.Equal((WarningCode.W1, new WorkMinutes(960)), (warning.Code, warning.Minutes));
        Assert.Equal(["A", "B"], warning.Tasks);
    }

    [Fact]
    public void F2_pinned_at_both_ends_keeps_both()
    {
        var plan = PlanText.Plan("A 1d").With("A", t => t with { Pinned = new(PlanTime.At(2027, 5, 8, 9), PlanTime.At(2027, 5, 9, 12)) });
        Assert.Equal("2027-05-08T09:00 – 2027-05-09T12:00", plan.Calculate().Dates("A"));
    }

    [Fact]
    public void F4_started_and_finished_work_stays_where_it_happened()
    {
        var plan = PlanText
            .Plan("A 3d\nB 2d after A\nC 1d after B")
            .With("A", t => t with { Progress = 1, ActualStart = PlanTime.At(2027, 5, 4, 9), ActualFinish = PlanTime.At(2027, 5, 4, 18) })
            .With("B", t => t with { Progress = 0.5m, ActualStart = PlanTime.At(2027, 5, 4, 14) });
        var schedule = plan.Calculate();
        Assert.Equal("2027-05-04T09:00 – 2027-05-04T18:00", schedule.Dates("A"));
        Assert.Equal("2027-05-04T14:00 – 2027-05-06T13:00", schedule.Dates("B"));
        Assert.Equal("2027-05-06T14:00", schedule.StartOf("C").ToString());
        Assert.Equal(WarningCode.W1, Assert.Single(schedule.Warnings).Code);
    }

    [Fact]
    public void F4_what_is_left_moves_past_the_status_date_in_a_second_stretch()
    {
        var plan = PlanText.Plan("A 4d\nB 1d").With("A", t => t with { Progress = 0.25m, ActualStart = PlanText.DefaultStart });
        plan = plan with { Project = plan.Project with { MoveUnfinishedWork = true, StatusDate = PlanTime.At(2027, 5, 10, 9) } };
        var schedule = plan.Calculate();
        Assert.Equal("2027-05-03T09:00 – 2027-05-12T18:00", schedule.Dates("A"));
        Assert.Equal(
            [
                new Segment(PlanText.DefaultStart, PlanTime.At(2027, 5, 3, 18)),
                new Segment(PlanTime.At(2027, 5, 10, 9), PlanTime.At(2027, 5, 12, 18)),
            ],
            schedule.SegmentsOf(0)
        );
        Assert.Equal("2027-05-10T09:00", schedule.StartOf("B").ToString());
    }

    [Fact]
    public void F6_an_empty_plan_finishes_at_its_start() => Assert.Equal(PlanText.DefaultStart, PlanText.Schedule("").Finish);

    [Fact]
    public void T4_days_and_weeks_follow_the_projects_hours()
    {
        var plan = PlanText.Plan("A 1w");
        plan = plan with { Project = plan.Project with { Units = new WorkUnits(6, 4) } };
        Assert.Equal(24 * 60, plan.Calculate().LengthOf(0).Count);
    }

    [Fact]
    public void A_task_that_would_end_after_2100_is_an_error_that_names_it()
    {
        var plan = PlanText.Plan("start 2099-05-03T09:00\nA 500w");
        Assert.Equal("outOfRange", Assert.Throws<UnsoundPlanException>(plan.Calculate).Problems[0].Code);
    }

    private static System.Collections.Immutable.ImmutableArray<WorkInterval>? Day(int from, int to) =>
        [new WorkInterval(from * 60, to * 60)];
}
