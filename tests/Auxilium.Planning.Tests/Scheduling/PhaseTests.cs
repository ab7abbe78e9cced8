using Auxilium.Planning.Plans;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests.Scheduling;

public class PhaseTests
{
    [Fact]
    public void P1_P2_P3_a_phase_rolls_up_dates_progress_and_what_sets_the_finish()
    {
        var plan = PlanText
            .Plan(
                """
                Phase
                  A 3d
                  Inner
                    B 1d after A
                Short 1d
                """
            )
            .With("A", t => t with { Progress = 0.5m });
        var schedule = plan.Calculate();
        Assert.Equal("2027-05-03T09:00 – 2027-05-06T18:00", schedule.Dates("Phase"));
        Assert.Equal(4 * 480, schedule.LengthOf(0).Count);
        Assert.Equal(1.5 / 4, schedule.ProgressOf(0), 6);
        Assert.True(schedule.IsCritical(0));
        Assert.False(schedule.IsCritical(4));
        Assert.Equal(["1", "1.1", "1.2", "1.2.1", "2"], Enumerable.Range(0, 5).Select(plan.Index.NumberOf));
    }

    [Fact]
    public void P2_a_phase_of_milestones_only_counts_them()
    {
        var plan = PlanText
            .Plan("Phase\n  M milestone\n  N milestone")
            .With("M", t => t with { Progress = 1, ActualFinish = PlanText.DefaultStart });
        Assert.Equal(0.5, plan.Calculate().ProgressOf(0));
    }

    [Fact]
    public void K3_a_link_from_a_phase_waits_for_all_of_it_and_one_to_a_phase_binds_every_row_in_it()
    {
        var schedule = PlanText.Schedule(
            """
            First
              A 3d
              B 1d
            Second 1d after First
              C 1d
              Deep
                D 2d
            """
        );
        Assert.Equal("2027-05-06T09:00", schedule.StartOf("C").ToString());
        Assert.Equal("2027-05-06T09:00", schedule.StartOf("D").ToString());
        Assert.True(schedule.IsCritical(1));
        Assert.Equal(2 * 480, schedule.TotalFloatOf(2)!.Value.Count);
        Assert.Equal(2 * 480, schedule.FreeFloatOf(2)!.Value.Count);
    }

    [Fact]
    public void K3_a_circle_is_refused_and_named_in_order()
    {
        var plan = PlanText.Plan("A 1d after C\nB 1d after A\nC 1d after B\nOutside 1d after C");
        var problem = Assert.Single(Assert.Throws<UnsoundPlanException>(plan.Calculate).Problems);
        Assert.Equal("circle", problem.Code);
        Assert.Equal("A, B, C", string.Join(", ", problem.Tasks));
    }

    [Fact]
    public void K3_a_circle_through_phases_is_refused_too()
    {
        var plan = PlanText.Plan(
            """
            P 1d after B
              A 1d
            Q
              B 1d after A
            """
        );
        var problem = Assert.Single(Assert.Throws<UnsoundPlanException>(plan.Calculate).Problems);
        Assert.Equal(["A", "B", "P"], problem.Tasks.Order());
    }

    [Theory]
    [InlineData("P\n  A 1d after P", "linkToOwnPhase")]
    [InlineData("P 1d after A\n  A 1d", "linkToOwnPhase")]
    [InlineData("A 1d after A", "linkToItself")]
    [InlineData("A 1d\nB 1d after A, A + 1d", "duplicateLink")]
    public void K3_links_that_no_dates_could_meet_are_refused(string text, string code) =>
        Assert.Equal(code, LinkRules.FirstRefusal(PlanText.Plan(text))?.Problem.Code);
}
