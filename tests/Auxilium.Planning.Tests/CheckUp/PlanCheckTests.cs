using Auxilium.Planning.Calendars;
using Auxilium.Planning.CheckUp;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using CsCheck;

namespace Auxilium.Planning.Tests.CheckUp;

public class PlanCheckTests
{
    private static readonly DateOnly Today = new(2027, 5, 3);

    private static readonly Person Ann = new("ann", "Ann Sole", "AS");

    [Fact]
    public void A_sound_plan_has_no_findings() => Assert.Empty(Check(Sound()));

    [Fact]
    public void An_empty_plan_has_no_findings() => Assert.Empty(PlanCheck.Of(PlanText.Schedule(""), Today));

    [Theory]
    [InlineData(FindingKind.NotLinked, "E")]
    [InlineData(FindingKind.LonelyMilestone, "M")]
    [InlineData(FindingKind.NoOwner, "B")]
    [InlineData(FindingKind.TentativeLengths, "B")]
    [InlineData(FindingKind.FixedDateBreaksLink, "A B")]
    [InlineData(FindingKind.NegativeFloat, "A B C D E M")]
    [InlineData(FindingKind.DateMissed, "B")]
    [InlineData(FindingKind.LeadTooLong, "A B")]
    [InlineData(FindingKind.PhaseLinkHidesTask, "P Y")]
    [InlineData(FindingKind.VeryLongTask, "C")]
    [InlineData(FindingKind.TooManyMilestones, "D E M")]
    [InlineData(FindingKind.NoMilestones, "")]
    [InlineData(FindingKind.ProgressInFuture, "A")]
    [InlineData(FindingKind.NoProgressInPast, "A")]
    [InlineData(FindingKind.FinishTooLate, "E D C B A")]
    [InlineData(FindingKind.OwnerAway, "A")]
    [InlineData(FindingKind.Drifted, "C D E M")]
    public void Each_weakness_is_found_with_its_tasks_and_one_click_mends_it_where_one_can(FindingKind kind, string tasks)
    {
        var (plan, today) = Weak(kind);
        var finding = Assert.Single(PlanCheck.Of(plan.Calculate(), today), f => f.Kind == kind);
        Assert.Equal(tasks, string.Join(' ', finding.Tasks));
        Assert.EndsWith(".", finding.Sentence, StringComparison.Ordinal);
        Assert.NotEmpty(finding.Why);
        if (finding.Fix is not { } fix)
            return;
        var mended = EditPipeline.Run(plan.Calculate(), fix.Edit, today, []).After;
        Assert.DoesNotContain(PlanCheck.Of(mended, today), f => f.Kind == kind && f.Tasks.SequenceEqual(finding.Tasks));
    }

    [Fact]
    public void Every_fix_of_any_plan_is_an_edit_that_can_be_made() =>
        Gen.Int[0, int.MaxValue - 1]
            .Sample(
                seed =>
                {
                    var random = new Random(seed);
                    var schedule = RandomPlan.Of(random, most: 40, from: (ScheduleFrom)random.Next(2)).Calculate();
                    foreach (var finding in PlanCheck.Of(schedule, new DateOnly(2027, 5, 12)))
                    {
                        Assert.All(finding.Tasks, id => Assert.NotNull(schedule.Plan.Find(id)));
                        if (finding.Fix is not { } fix)
                            continue;
                        try
                        {
                            Assert.NotNull(EditPipeline.Run(schedule, fix.Edit, Today, []).After);
                        }
                        catch (EditRefusedException refused)
                        {
                            // A link that is freed from a phase may go round through another; then the person is told so.
                            Assert.True(
                                finding.Kind == FindingKind.PhaseLinkHidesTask
                                    && refused.Code is "circle" or "duplicateLink" or "linkToPhaseFinish",
                                refused.Message
                            );
                        }
                    }
                },
                iter: 200
            );

    private static (Plan Plan, DateOnly Today) Weak(FindingKind kind)
    {
        var plan = Sound();
        return kind switch
        {
            FindingKind.NotLinked => (plan with { Links = plan.Links.RemoveAll(l => l.From == "E" || l.To == "E") }, Today),
            FindingKind.LonelyMilestone => (plan with { Links = plan.Links.RemoveAll(l => l.To == "M") }, Today),
            FindingKind.NoOwner => (plan.With("B", t => t with { Assignments = [] }), Today),
            FindingKind.TentativeLengths => (plan.With("B", t => t with { Tentative = true }), Today),
            FindingKind.FixedDateBreaksLink => (plan.With("B", t => t with { Pinned = new(PlanText.DefaultStart) }), Today),
            FindingKind.NegativeFloat => (
                plan.With("M", t => t with { Constraint = new(ConstraintKind.FinishNoLaterThan, PlanTime.At(2027, 5, 7, 18)) }),
                Today
            ),
            FindingKind.DateMissed => (plan.With("B", t => t with { Deadline = PlanTime.At(2027, 5, 3, 18) }), Today),
            FindingKind.LeadTooLong => (plan with { Links = plan.Links.Replace(new("A", "B"), new("A", "B", Length.Days(-3))) }, Today),
            FindingKind.PhaseLinkHidesTask => (
                Owned(PlanText.Plan("P\n  X 1d\n  Z 2d after X\nQ\n  Y 1d after P\n  W 1d after Y\nM milestone after W")),
                Today
            ),
            FindingKind.VeryLongTask => (plan.With("C", t => t with { Length = Length.Days(9) }), Today),
            FindingKind.TooManyMilestones => (plan.With("D", Flat).With("E", Flat), Today),
            FindingKind.NoMilestones => (
                plan with
                {
                    Tasks = plan.Tasks.RemoveAll(t => t.Id == "M"),
                    Links = plan.Links.RemoveAll(l => l.To == "M"),
                },
                Today
            ),
            FindingKind.ProgressInFuture => (
                plan.With("A", t => t with { ActualStart = PlanTime.At(2027, 5, 5, 9), Progress = 0.1m }),
                Today
            ),
            FindingKind.NoProgressInPast => (plan, Today.AddDays(1)),
            FindingKind.Drifted => (
                (plan with { Baselines = [Baselines.Take(plan.Calculate(), "b1", "As agreed", Today)] }).With("C", t =>
                    t with
                    {
                        Length = Length.Days(9),
                    }
                ),
                Today
            ),
            FindingKind.FinishTooLate => (plan with { Project = plan.Project with { FinishBy = PlanTime.At(2027, 5, 7, 18) } }, Today),
            _ => (
                plan.With("A", t => t with { AroundTheClock = true }) with
                {
                    Calendars = [Away],
                    People = [Ann with { Calendar = "away" }],
                },
                Today
            ),
        };
    }

    private static WorkCalendar Away =>
        WorkCalendar.Weekdays with
        {
            Id = "away",
            Name = "Away",
            Exceptions = [new(Today, Today.AddDays(2), "Leave", [])],
        };

    private static PlanTask Flat(PlanTask task) => task with { Milestone = true, Length = Length.Zero };

    /// <summary>Five tasks in a row that take three weeks or so, each less than a quarter, with an owner, and a milestone.</summary>
    private static Plan Sound() =>
        Owned(PlanText.Plan("A 2d\nB 2d after A\nC 2d after B\nD 2d after C\nE 2d after D\nM milestone after E"));

    private static Plan Owned(Plan plan) =>
        plan with
        {
            Project = plan.Project with { Coordinator = "ann" },
            People = [Ann],
            Tasks = [.. plan.Tasks.Select(t => t with { Assignments = [new Assignment("ann")] })],
        };

    private static IReadOnlyList<Finding> Check(Plan plan) => PlanCheck.Of(plan.Calculate(), Today);
}
