using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Levelling;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Tests.Levelling;

public class WaysOutTests
{
    private static readonly DateOnly Monday = new(2027, 5, 3);
    private static readonly Dictionary<(string, DateOnly), decimal> Nowhere = [];

    private static readonly Person Cleo = new("cleo", "Cleo Marsh", "CM");

    private static Plan AnnDoes(string text)
    {
        var plan = PlanText.Plan(text);
        return plan with
        {
            People = [new("ann", "Ann", "A"), new("bo", "Bo", "B")],
            Tasks = [.. plan.Tasks.Select(task => task with { Assignments = [new("ann")] })],
        };
    }

    private static IReadOnlyList<WayOut> Ways(Plan plan, string task, DateOnly? day = null, params StandIn[] standIns) =>
        WaysOut.Of(
            new EditContext(plan.Calculate(), Monday, [.. plan.People, Cleo]),
            task,
            "ann",
            day ?? Monday,
            of => Capacities.Of(of),
            standIns,
            Nowhere
        );

    [Fact]
    public void N4_every_way_is_worked_out_and_the_best_comes_first()
    {
        var plan = AnnDoes("Rig 2d\nSew 1d\nSail 5d").With("Sail", task => task with { Assignments = [new("bo", 0.1m)] });
        var ways = Ways(plan, "Sew", null, new StandIn(plan.People[1], "of the same team"), new StandIn(Cleo, "of the same role"));
        Assert.Equal(
            [
                (WayOutKind.LaterWithinFloat, "Start on Wed 5 May"),
                (WayOutKind.SomebodyElse, "Give it to Cleo Marsh, of the same role"),
                (WayOutKind.SomebodyElse, "Give it to Bo, of the same team"),
                (WayOutKind.WithHelper, "Let Cleo Marsh help, of the same role"),
                (WayOutKind.WithHelper, "Let Bo help, of the same team"),
            ],
            ways.OrderBy(way => way.Kind)
                .ThenByDescending(way => way.Label.Contains("Cleo", StringComparison.Ordinal))
                .Select(way => (way.Kind, way.Label))
        );
        // Nothing moves where somebody else does it.
        Assert.Equal((WayOutKind.SomebodyElse, 480m, 0m), (ways[0].Kind, ways[0].OverBefore, ways[0].OverAfter));
        Assert.True(ways.Zip(ways.Skip(1)).All(pair => pair.First.OverAfter <= pair.Second.OverAfter));
        // Bo has a little to do himself.
        Assert.Contains(ways, way => way.People.Any(person => person is { Person: "bo", Before: 0, After: 48 }));
    }

    [Fact]
    public void N4_beyond_its_float_it_says_what_the_finish_becomes()
    {
        var way = Assert.Single(Ways(AnnDoes("Rig 2d\nSew 2d"), "Sew"), way => way.Kind == WayOutKind.Later);
        Assert.Equal("Start on Wed 5 May", way.Label);
        Assert.Contains("finish Tue 4 May → Thu 6 May", string.Concat(way.Sentence.Select(run => run.Text)), StringComparison.Ordinal);
    }

    [Fact]
    public void N4_what_misses_a_deadline_comes_last_however_much_it_helps()
    {
        var plan = AnnDoes("Rig 2d\nSew 2d");
        plan = plan with { Project = plan.Project with { FinishBy = PlanTime.At(2027, 5, 5, 18) } };
        var ways = Ways(plan, "Sew", null, new StandIn(Cleo, "of the same team"));
        Assert.Equal((WayOutKind.Later, 1, 0m), (ways[^1].Kind, ways[^1].MissedDeadlines, ways[^1].OverAfter));
        Assert.All(ways.SkipLast(1), way => Assert.Equal(0, way.MissedDeadlines));
    }

    [Fact]
    public void N4_a_smaller_share_takes_as_much_longer()
    {
        var plan = AnnDoes("Rig 4d\nSew 2d").With("Rig", task => task with { Assignments = [new("ann", 0.5m)] });
        var way = Assert.Single(Ways(plan, "Sew"), way => way.Kind == WayOutKind.SmallerShare);
        Assert.Equal("Give it 50% of their time, and 4 days", way.Label);
        Assert.Equal(0, way.OverAfter);
    }

    [Fact]
    public void N4_a_task_may_pause_for_the_day()
    {
        var plan = AnnDoes("Sew 3d\nRig 1d").With("Rig", task => task with { Pinned = new(PlanTime.At(2027, 5, 4, 9)) });
        var way = Assert.Single(Ways(plan, "Sew", Monday.AddDays(1)), way => way.Kind == WayOutKind.SplitAround);
        Assert.Equal(("Pause it on Tue 4 May", 0m), (way.Label, way.OverAfter));
    }

    [Fact]
    public void Only_who_works_on_a_task_can_be_helped_there()
    {
        var plan = AnnDoes("Rig 1d\nSew 1d").With("Sew", task => task with { Assignments = [new("bo")] });
        Assert.Equal("notTheirs", Assert.Throws<EditRefusedException>(() => Ways(plan, "Sew")).Code);
    }

    [Fact]
    public void Accepting_a_way_does_what_it_said()
    {
        var plan = AnnDoes("Rig 2d\nSew 2d\nSail 1d after Sew");
        foreach (var way in Ways(plan, "Sew", null, new StandIn(plan.People[1], "of the same team")))
        {
            var edited = EditPipeline.Run(way.Edit, new EditContext(plan.Calculate(), Monday, []));
            Assert.Equal(way.Ripple.FinishAfter, edited.Ripple.FinishAfter);
            Assert.Equal(way.OverAfter, new PlanLoad(edited.After, Monday, []).Overbooked().Sum(day => day.Over));
        }
    }
}
