using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Tests.Tracking;

/// <summary>Rules E1 and E2. Minutes; a day has 480.</summary>
public class EffortTests
{
    private static readonly Length SixHours = new(6, LengthUnit.Hours);

    [Fact]
    public void E1_work_without_people_takes_its_length_and_round_the_clock_nothing()
    {
        var plan = PlanText.Plan("paint 3d\ndry 2d").With("dry", t => t with { AroundTheClock = true });
        Assert.Equal((1440, 0, 1440), (Of(plan, "paint"), Of(plan, "dry"), new Effort(plan.Calculate()).Whole));
        Assert.Equal(360, Of(plan.With("paint", t => t with { Effort = SixHours }), "paint"));
        Assert.Equal(360, Of(plan.With("dry", t => t with { Effort = SixHours }), "dry"));
    }

    [Fact]
    public void E1_people_work_the_length_by_their_share()
    {
        var plan = PlanText.Plan("paint 3d").With("paint", t => t with { Assignments = [new("ann"), new("bo", 0.5m)] });
        Assert.Equal(1440 + 720, Of(plan, "paint"));
        Assert.Equal(0, Of(plan.With("paint", t => t with { AroundTheClock = true }), "paint"));
    }

    [Fact]
    public void E1_what_is_said_of_a_person_counts_before_what_is_said_of_the_task()
    {
        var plan = PlanText
            .Plan("paint 3d")
            .With("paint", t =>
                t with
                {
                    Effort = Length.Days(2),
                    Assignments = [new("ann", 1, SixHours), new("bo", 0.5m), new("cy", 1)],
                }
            );
        var task = plan.Find("paint")!;
        // 960 less 360 leaves 600, split one to two.
        Assert.Equal([360, 200, 400], task.Assignments.Select(a => Effort.Of(plan, task, a, 1440)));
        Assert.Equal(960, Of(plan, "paint"));
    }

    [Fact]
    public void E1_people_who_are_said_to_do_more_than_the_task_takes_leave_nothing_to_the_others()
    {
        var plan = PlanText
            .Plan("paint 3d")
            .With("paint", t => t with { Effort = new Length(4, LengthUnit.Hours), Assignments = [new("ann", 1, SixHours), new("bo")] });
        Assert.Equal(360, Of(plan, "paint"));
    }

    [Fact]
    public void E1_a_milestone_takes_only_what_is_said()
    {
        var plan = PlanText.Plan("opening milestone").With("opening", t => t with { Assignments = [new("ann")] });
        Assert.Equal(0, Of(plan, "opening"));
        Assert.Equal(360, Of(plan.With("opening", t => t with { Effort = SixHours }), "opening"));
    }

    [Fact]
    public void E2_what_is_left_goes_by_progress_and_phases_add_up_their_active_rows()
    {
        var plan = PlanText
            .Plan("work\n  a 2d\n  b 1d\n  c 5d")
            .With("a", t => t with { Progress = 0.25m })
            .With("b", t => t with { Progress = 1, ActualFinish = PlanText.DefaultStart })
            .With("c", t => t with { Active = false });
        var effort = new Effort(plan.Calculate());
        Assert.Equal((1440, 720), (effort.Of(0), effort.LeftOf(0)));
        Assert.Equal((480, 0), (effort.Of(2), effort.LeftOf(2)));
        Assert.Equal((0, 0), (effort.Of(3), effort.LeftOf(3)));
        Assert.Equal((1440, 720), (effort.Whole, effort.Left));
    }

    private static decimal Of(Plan plan, string task) => new Effort(plan.Calculate()).Of(plan.Index.RowOf(task));
}
