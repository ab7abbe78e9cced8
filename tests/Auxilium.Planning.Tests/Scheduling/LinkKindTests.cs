using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests.Scheduling;

public class LinkKindTests
{
    [Theory]
    [InlineData("after A", "2027-05-06T09:00 – 2027-05-07T18:00")]
    [InlineData("with A", "2027-05-03T09:00 – 2027-05-04T18:00")]
    [InlineData("with A + 1d", "2027-05-04T09:00 – 2027-05-05T18:00")]
    [InlineData("ends with A", "2027-05-04T09:00 – 2027-05-05T18:00")]
    [InlineData("ends with A + 4h", "2027-05-04T14:00 – 2027-05-06T13:00")]
    [InlineData("ends with A - 1d", "2027-05-03T09:00 – 2027-05-04T18:00")]
    [InlineData("ends after A starts + 3d", "2027-05-04T09:00 – 2027-05-05T18:00")]
    public void K1_the_four_kinds_bind_a_start_or_a_finish(string link, string dates) =>
        Assert.Equal(dates, PlanText.Schedule($"A 3d\nB 2d {link}").Dates("B"));

    [Fact]
    public void K1_an_elapsed_lag_counts_the_clock_and_a_working_one_the_project_calendar()
    {
        var schedule = PlanText.Schedule("A 5d\nDry 4h after A + 16h elapsed\nWork 4h after A + 16h\nLead 4h after A - 48h elapsed");
        Assert.Equal("2027-05-10T09:00", schedule.StartOf("Dry").ToString());
        Assert.Equal("2027-05-12T09:00", schedule.StartOf("Work").ToString());
        Assert.Equal("2027-05-06T09:00", schedule.StartOf("Lead").ToString());
    }

    [Fact]
    public void K2_a_finish_meets_its_bound_when_no_working_minute_lies_between()
    {
        // Paint ends on Saturday; whoever works on weekdays only is in time on Friday evening.
        var schedule = PlanText
            .Plan("Paint 63h\nClean 1d ends with Paint")
            .With("Paint", t => t with { AroundTheClock = true, Pinned = new(PlanTime.At(2027, 5, 5, 18)) })
            .Calculate();
        Assert.Equal("2027-05-08T09:00", schedule.FinishOf("Paint").ToString());
        Assert.Equal("2027-05-07T09:00 – 2027-05-07T18:00", schedule.Dates("Clean"));
        Assert.Empty(schedule.Warnings);
    }

    [Fact]
    public void W1_a_broken_finish_is_told_in_minutes_of_the_task_that_breaks_it()
    {
        var schedule = PlanText.Plan("A 3d\nB 1d ends with A").With("B", t => t with { Pinned = new(PlanText.DefaultStart) }).Calculate();
        var warning = Assert.Single(schedule.Warnings);
        Assert.Equal((WarningCode.W1, 960), (warning.Code, warning.Minutes.Count));
        Assert.Equal("2 “B” finishes 2 working days before its link to 1 “A” allows.", warning.Message);
    }

    [Fact]
    public void K3_a_link_goes_by_a_phases_own_start_and_finish()
    {
        var schedule = PlanText.Schedule(
            """
            P
              A 2d after Late
              B 5d
            With 1d with P
            Ends 1d ends with P
            Begun 1d ends after P starts + 4d
            Late 1d
            """
        );
        Assert.Equal("2027-05-03T09:00", schedule.StartOf("With").ToString());
        Assert.Equal("2027-05-07T18:00", schedule.FinishOf("Ends").ToString());
        Assert.Equal("2027-05-06T18:00", schedule.FinishOf("Begun").ToString());
    }

    [Fact]
    public void K3_a_start_with_a_phase_binds_every_row_in_it_and_its_finish_cannot_be_bound()
    {
        Assert.Equal("2027-05-05T09:00", PlanText.Schedule("A 2d\nB 1d after A\nP 1d with B\n  C 1d\n  D 2d").StartOf("D").ToString());
        Assert.Equal("linkToPhaseFinish", LinkRules.FirstRefusal(PlanText.Plan("A 2d\nP 1d ends with A\n  C 1d"))?.Problem.Code);
    }

    [Fact]
    public void K4_inactive_rows_take_no_part_nor_does_a_phase_that_has_no_others()
    {
        var plan = PlanText
            .Plan("A 3d\nB 1d after A\nC 1d after B\nP 2d after A\n  X 9d\nD 1d after P")
            .With("B", t => t with { Active = false })
            .With("X", t => t with { Active = false });
        var schedule = plan.Calculate();
        Assert.True(schedule.IsOff(1));
        Assert.Equal("2027-05-03T09:00", schedule.StartOf("C").ToString());
        Assert.True(schedule.IsOff(3));
        Assert.Equal("2027-05-03T09:00", schedule.StartOf("D").ToString());
        Assert.Equal("2027-05-05T18:00", schedule.Finish.ToString());
        Assert.Empty(schedule.Drivers.Of(1));
        var phaseOff = PlanText.Plan("P\n  A 3d\nB 1d after A").With("P", t => t with { Active = false }).Calculate();
        Assert.True(phaseOff.IsOff(1));
        Assert.Equal("2027-05-03T09:00", phaseOff.StartOf("B").ToString());
    }

    [Fact]
    public void L3_a_pause_is_time_of_the_tasks_own_calendar_and_no_work()
    {
        var schedule = PlanText
            .Plan("A 3d\nB 1d after A")
            .With("A", t => t with { Splits = [new(Length.OneDay, Length.Days(2)), new(Length.Days(2), new(4, LengthUnit.Hours))] })
            .Calculate();
        Assert.Equal("2027-05-03T09:00 – 2027-05-10T13:00", schedule.Dates("A"));
        Assert.Equal(3 * 480, schedule.LengthOf(0).Count);
        Assert.Equal(
            ["2027-05-03T18:00", "2027-05-06T18:00", "2027-05-10T13:00"],
            schedule.SegmentsOf(0).Select(s => s.Finish.ToString())
        );
        Assert.Equal("2027-05-10T14:00", schedule.StartOf("B").ToString());
    }

    [Fact]
    public void F4_work_left_takes_the_place_of_what_progress_says_and_pauses_to_come_still_come()
    {
        var begun = PlanText.Plan("A 4d").With("A", t => t with { ActualStart = PlanText.DefaultStart, Progress = 0.5m });
        Assert.Equal("2027-05-06T18:00", begun.Calculate().FinishOf("A").ToString());
        var more = begun.With("A", t => t with { Remaining = Length.Days(4) });
        Assert.Equal("2027-05-10T18:00", more.Calculate().FinishOf("A").ToString());
        var paused = more.With("A", t => t with { Splits = [new(Length.OneDay, Length.OneDay), new(Length.Days(3), Length.OneDay)] });
        Assert.Equal("2027-05-12T18:00", paused.Calculate().FinishOf("A").ToString());
        var moved = paused with { Project = paused.Project with { StatusDate = PlanTime.At(2027, 5, 17, 9), MoveUnfinishedWork = true } };
        Assert.Equal("2027-05-21T18:00", moved.Calculate().FinishOf("A").ToString());
        Assert.Equal(4, moved.Calculate().SegmentsOf(0).Count);
    }
}
