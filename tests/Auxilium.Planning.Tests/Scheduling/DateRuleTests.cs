using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests.Scheduling;

/// <summary>Fixed dates, deadlines, as late as possible, and plans worked out from their finish.</summary>
public class DateRuleTests
{
    [Fact]
    public void F3_W2_not_after_never_moves_a_task_before_its_links_and_is_told_when_missed()
    {
        var schedule = With("A 3d\nB 2d after A", "B", ConstraintKind.FinishNoLaterThan, PlanTime.At(2027, 5, 5, 18)).Calculate();
        Assert.Equal("2027-05-06T09:00 – 2027-05-07T18:00", schedule.Dates("B"));
        Assert.Equal((WarningCode.W2, 960), (Assert.Single(schedule.Warnings).Code, schedule.Warnings[0].Minutes.Count));
        Assert.Equal((-960, -960), (schedule.TotalFloatOf(0)!.Value.Count, schedule.TotalFloatOf(1)!.Value.Count));
        var start = With("A 3d\nB 2d after A", "B", ConstraintKind.StartNoLaterThan, PlanTime.At(2027, 5, 6, 9)).Calculate();
        Assert.Empty(start.Warnings);
    }

    [Fact]
    public void W3_W5_a_missed_deadline_and_an_owner_who_is_away_are_told()
    {
        var away = new WorkCalendar
        {
            Id = "away",
            Name = "Away",
            Base = "on",
            Week = [null, null, null, null, null, null, null],
            Exceptions = [new(new(2027, 5, 3), new(2027, 5, 7), "Leave", [])],
        };
        var plan = PlanText.Plan("P\n  A 2d") with
        {
            Calendars = [WorkCalendar.Weekdays with { Id = "on" }, away],
            People = [new("p", "Pat", "P", null, "away")],
        };
        plan = plan.With("A", t => t with { Assignments = [new("p")], AroundTheClock = true, Deadline = PlanTime.At(2027, 5, 3, 18) })
            .With("P", t => t with { Deadline = PlanTime.At(2027, 5, 3, 18) });
        var schedule = plan.Calculate();
        Assert.Equal([WarningCode.W3, WarningCode.W3, WarningCode.W5], schedule.Warnings.Select(w => w.Code));
        Assert.Contains("Pat has no working time", schedule.Warnings[2].Message, StringComparison.Ordinal);
        // Their calendar moves the work that is not round the clock.
        Assert.Equal("2027-05-10T09:00", plan.With("A", t => t with { AroundTheClock = false }).Calculate().StartOf("A").ToString());
    }

    [Fact]
    public void F5_as_late_as_possible_moves_nothing_else()
    {
        var plan = With("Long 9d\nBuy 1d\nUse 1d after Buy + 1d\nEnd 1d after Long", "Buy", ConstraintKind.AsLateAsPossible)
            .With("Use", t => t with { Constraint = new(ConstraintKind.StartNoEarlierThan, PlanTime.At(2027, 5, 10, 9)) });
        var schedule = plan.Calculate();
        Assert.Equal("2027-05-06T09:00 – 2027-05-06T18:00", schedule.Dates("Buy"));
        Assert.Equal("2027-05-03T09:00", schedule.EarlyDatesOf(1)!.Value.Start.ToString());
        Assert.Equal(DriverKind.AsLateAsPossible, Assert.Single(schedule.Drivers.Of(1)).Kind);
        var both = plan.With("Use", t => t with { Constraint = new(ConstraintKind.AsLateAsPossible) }).Calculate();
        Assert.Equal(("2027-05-14T18:00", "2027-05-12T18:00"), (both.FinishOf("Use").ToString(), both.FinishOf("Buy").ToString()));
    }

    [Fact]
    public void F5_a_phase_that_a_link_goes_by_does_not_move()
    {
        var schedule = With("P\n  A 1d\n  B 4d\nNext 1d after P\nLong 9d", "A", ConstraintKind.AsLateAsPossible).Calculate();
        Assert.Equal("2027-05-06T18:00", schedule.FinishOf("A").ToString());
        var starts = With("P\n  A 1d\n  B 4d after A\nNext 1d with P\nLong 9d", "A", ConstraintKind.AsLateAsPossible).Calculate();
        Assert.Equal("2027-05-03T09:00", starts.StartOf("A").ToString());
    }

    [Fact]
    public void R1_from_its_finish_a_plan_stands_as_late_as_it_can_and_its_start_results()
    {
        var schedule = FromFinish("A 2d\nB 1d after A\nC 3d after A + 1d\nSoon 1d").Calculate();
        Assert.Equal("2027-05-14T09:00 – 2027-05-17T18:00", schedule.Dates("A"));
        Assert.Equal("2027-05-21T09:00 – 2027-05-21T18:00", schedule.Dates("B"));
        Assert.Equal("2027-05-19T09:00 – 2027-05-21T18:00", schedule.Dates("C"));
        Assert.Equal(("2027-05-14T09:00", "2027-05-21T18:00"), (schedule.Start.ToString(), schedule.Finish.ToString()));
        Assert.Equal(0, schedule.TotalFloatOf(0)!.Value.Count);
        Assert.Equal("2027-05-18T09:00", schedule.EarlyDatesOf(1)!.Value.Start.ToString());
        Assert.Equal(3 * 480, schedule.TotalFloatOf(1)!.Value.Count);
        Assert.Equal(new Driver(DriverKind.Link, "A", "C"), Assert.Single(schedule.Drivers.Of(0)));
        Assert.Equal(DriverKind.ProjectFinish, Assert.Single(schedule.Drivers.Of(2)).Kind);
    }

    [Fact]
    public void L4_what_nothing_fixes_stands_where_the_pass_from_the_given_end_puts_it()
    {
        Assert.Equal("2027-05-05T09:00 – 2027-05-05T18:00", PlanText.Schedule("A 2d\nB 1d after A").Dates("B"));
        Assert.Equal("2027-05-21T09:00 – 2027-05-21T18:00", FromFinish("A 2d\nB 1d after A").Calculate().Dates("B"));
    }

    [Fact]
    public void W4_a_project_that_finishes_after_its_deadline_says_by_how_much()
    {
        var plan = PlanText.Plan("A 5d");
        var warning = Assert.Single(
            (plan with { Project = plan.Project with { FinishBy = PlanTime.At(2027, 5, 5, 18) } }).Calculate().Warnings
        );
        Assert.Equal((WarningCode.W4, 960), (warning.Code, warning.Minutes.Count));
        Assert.Equal("The project finishes 2 working days after the date it must be finished by.", warning.Message);
    }

    [Fact]
    public void R1_as_soon_as_possible_goes_as_early_as_what_comes_before_it_allows()
    {
        var plan = FromFinish("A 2d\nLong 9d\nB 1d after A").With("B", t => t with { Constraint = new(ConstraintKind.AsSoonAsPossible) });
        var schedule = plan.With("A", t => t with { Constraint = new(ConstraintKind.AsSoonAsPossible) }).Calculate();
        Assert.Equal("2027-05-11T09:00 – 2027-05-12T18:00", schedule.Dates("A"));
        Assert.Equal("2027-05-13T09:00", schedule.StartOf("B").ToString());
        Assert.Equal(DriverKind.AsSoonAsPossible, schedule.Drivers.Of(2)[0].Kind);
    }

    [Fact]
    public void R1_W2_a_not_before_date_that_the_finish_leaves_no_room_for_is_told()
    {
        var plan = FromFinish("A 3d")
            .With("A", t => t with { Constraint = new(ConstraintKind.StartNoEarlierThan, PlanTime.At(2027, 5, 20, 9)) });
        var warning = Assert.Single(plan.Calculate().Warnings);
        Assert.Equal((WarningCode.W2, 480), (warning.Code, warning.Minutes.Count));
        Assert.Equal(
            "2027-05-14T18:00",
            FromFinish("A 3d")
                .With("A", t => t with { Constraint = new(ConstraintKind.FinishNoLaterThan, PlanTime.At(2027, 5, 14, 18)) })
                .Calculate()
                .FinishOf("A")
                .ToString()
        );
    }

    [Fact]
    public void F1_F4_unfinished_work_moves_past_the_status_date_when_the_project_says_so()
    {
        var plan = PlanText.Plan("A 2d");
        plan = plan with { Project = plan.Project with { StatusDate = PlanTime.At(2027, 5, 12, 9) } };
        Assert.Equal("2027-05-03T09:00", plan.Calculate().StartOf("A").ToString());
        var moved = (plan with { Project = plan.Project with { MoveUnfinishedWork = true } }).Calculate();
        Assert.Equal("2027-05-12T09:00", moved.StartOf("A").ToString());
        Assert.Equal(DriverKind.StatusDate, Assert.Single(moved.Drivers.Of(0)).Kind);
    }

    [Fact]
    public void Y1_time_off_that_pushes_a_task_is_among_its_drivers_and_a_night_is_not()
    {
        var schedule = PlanText.Schedule("A 1d\nB 4d after A\nC 1d after B");
        Assert.Equal([DriverKind.Link], schedule.Drivers.Of(1).Select(d => d.Kind));
        Assert.Equal([DriverKind.Link, DriverKind.Calendar], schedule.Drivers.Of(2).Select(d => d.Kind));
    }

    private static Plan With(string text, string task, ConstraintKind kind, PlanTime? date = null) =>
        PlanText.Plan(text).With(task, t => t with { Constraint = new(kind, date) });

    private static Plan FromFinish(string text)
    {
        var plan = PlanText.Plan(text);
        return plan with { Project = plan.Project with { ScheduleFrom = ScheduleFrom.Finish, Finish = PlanTime.At(2027, 5, 21, 18) } };
    }
}
