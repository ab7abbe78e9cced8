using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests.Editing;

/// <summary>What a person means by a day off that they name.</summary>
public class FixedDayTests
{
    private static readonly DateOrTime Saturday = new(new DateOnly(2027, 5, 15));

    private static Schedule After(Plan plan, PlanEdit edit) => EditPipeline.Run(plan.Calculate(), edit, new(2027, 5, 3), []).After;

    private static Plan FromFinish(string text) =>
        PlanText.Plan(text) is var plan
            ? plan with
            {
                Project = plan.Project with { ScheduleFrom = ScheduleFrom.Finish, Finish = PlanTime.At(2027, 5, 28, 18) },
            }
            : null!;

    [Theory]
    [InlineData(ConstraintKind.StartNoLaterThan)]
    [InlineData(ConstraintKind.FinishNoLaterThan)]
    public void A_task_that_goes_not_after_a_day_off_keeps_whole_days_before_it(ConstraintKind kind)
    {
        var schedule = After(FromFinish("A 1d"), new SetConstraint("A", kind, Saturday));
        Assert.Equal("2027-05-14T09:00 – 2027-05-14T18:00", schedule.Dates("A"));
        Assert.Equal("0 days", DurationText.Of(schedule.TotalFloatOf(0)!.Value, schedule.Plan.Project.Units));
        Assert.Equal("2027-05-14T09:00 – 2027-05-14T18:00", After(FromFinish("A 1d"), new PlaceTask("A", Saturday)).Dates("A"));
    }

    [Theory]
    [InlineData(ScheduleFrom.Start)]
    [InlineData(ScheduleFrom.Finish)]
    public void A_milestone_on_a_day_off_is_on_that_day_from_morning_to_evening(ScheduleFrom from)
    {
        var plan = from == ScheduleFrom.Start ? PlanText.Plan("A 1d\nM milestone after A") : FromFinish("M milestone\nA 1d after M");
        PlanEdit[] edits =
        [
            new PlaceTask("M", Saturday),
            new PlaceTask("M", Saturday, true),
            new PinTask("M", Saturday),
            new SetConstraint("M", ConstraintKind.MustStartOn, Saturday),
            new SetConstraint("M", ConstraintKind.MustFinishOn, Saturday),
            new SetConstraint(
                "M",
                from == ScheduleFrom.Start ? ConstraintKind.FinishNoEarlierThan : ConstraintKind.FinishNoLaterThan,
                Saturday
            ),
        ];
        foreach (var edit in edits)
        {
            var schedule = After(plan, edit);
            var row = schedule.Plan.Index.RowOf("M");
            Assert.Equal((edit, Saturday.Date, Saturday.Date), (edit, schedule.StartOf(row).Date, schedule.FinishOf(row).LastDate));
        }
    }

    /// <summary>In a plan document such a day is its midnight: the milestone is still not done before it starts.</summary>
    [Fact]
    public void What_stands_at_midnight_has_one_day()
    {
        var schedule = PlanText.Plan("M milestone").With("M", t => t with { Pinned = new(PlanTime.On(Saturday.Date)) }).Calculate();
        Assert.Equal(Saturday.Date, schedule.LastDayOf(0));
    }

    [Theory]
    [InlineData(6241, false, "13 days")]
    [InlineData(3000, false, "6.25 days")]
    [InlineData(393120, true, "273 days")]
    [InlineData(150, false, "2.5 hours")]
    [InlineData(-480, false, "-1 day")]
    [InlineData(45, true, "45 minutes")]
    public void Float_is_told_in_days_of_work_or_of_the_clock(int minutes, bool onTheClock, string said) =>
        Assert.Equal(said, DurationText.Of(new WorkMinutes(minutes), WorkUnits.Standard, onTheClock));
}
