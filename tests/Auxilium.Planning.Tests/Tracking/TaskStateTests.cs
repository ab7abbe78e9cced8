using Auxilium.Planning.Calendars;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Tests.Tracking;

public class TaskStateTests
{
    [Theory]
    [InlineData("2027-05-03", "Ready Waiting Ready")]
    [InlineData("2027-05-04", "LateToStart Waiting Ready")]
    [InlineData("2027-05-07", "Overdue Overdue Ready")]
    public void A_state_is_worked_out_against_today(string today, string expected)
    {
        var plan = PlanText
            .Plan("A 2d\nB 1d after A\nC 1d")
            .With("C", t => t with { Constraint = new(Planning.Plans.ConstraintKind.StartNoEarlierThan, PlanTime.At(2027, 5, 10)) });
        Assert.Equal(expected, States(plan, today));
    }

    [Fact]
    public void What_has_begun_is_under_way_until_it_is_done_or_overdue()
    {
        var begun = PlanText.Plan("A 2d\nB 1d after A").With("A", t => t with { ActualStart = PlanText.DefaultStart });
        Assert.Equal("UnderWay Waiting", States(begun, "2027-05-04"));
        Assert.Equal("Overdue Overdue", States(begun, "2027-05-07"));
        var done = begun.With("A", t => t with { ActualFinish = PlanTime.At(2027, 5, 4, 18), Progress = 1 });
        Assert.Equal("Done Ready", States(done, "2027-05-05"));
    }

    [Fact]
    public void A_task_waits_for_all_of_a_phase_and_for_what_its_own_phase_waits_for()
    {
        var plan = PlanText.Plan("P\n  A 1d\n  B 1d\nQ 1d after P\n  C 1d");
        var states = new TaskStates(plan.Calculate(), new DateOnly(2027, 5, 3));
        Assert.Equal(TaskState.Waiting, states.Of(4));
        Assert.Equal([0], states.WaitsFor(4));
    }

    private static string States(Planning.Plans.Plan plan, string today)
    {
        var states = new TaskStates(plan.Calculate(), DateOnly.Parse(today));
        return string.Join(' ', Enumerable.Range(0, plan.Tasks.Length).Select(states.Of));
    }

    [Theory]
    [InlineData("after A", false, TaskState.Waiting)]
    [InlineData("with A", false, TaskState.Waiting)]
    [InlineData("with A", true, TaskState.Ready)]
    [InlineData("after A - 1d", true, TaskState.Ready)]
    [InlineData("ends with A", false, TaskState.Ready)]
    [InlineData("ends after A starts", false, TaskState.Ready)]
    public void What_a_task_waits_for_depends_on_the_kind_of_link(string link, bool begun, TaskState expected)
    {
        var plan = PlanText.Plan($"A 9d\nB 20d {link}");
        if (begun)
            plan = plan.With("A", t => t with { ActualStart = PlanText.DefaultStart, Progress = 0.1m });
        var states = new TaskStates(plan.Calculate(), new DateOnly(2027, 5, 3));
        Assert.Equal(expected, states.Of(1));
        Assert.Equal(expected == TaskState.Waiting ? [0] : [], states.WaitsFor(1));
    }

    [Fact]
    public void A_task_does_not_wait_for_one_that_takes_no_part()
    {
        var plan = PlanText.Plan("A 9d\nB 1d after A").With("A", t => t with { Active = false });
        Assert.Equal(TaskState.Ready, new TaskStates(plan.Calculate(), new DateOnly(2027, 5, 3)).Of(1));
    }
}
