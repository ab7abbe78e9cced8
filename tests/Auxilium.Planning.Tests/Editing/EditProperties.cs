using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;
using CsCheck;

namespace Auxilium.Planning.Tests.Editing;

/// <summary>What holds of every edit of every plan.</summary>
public class EditProperties
{
    /// <summary>Of each kind so many edits of random plans are tried, and so many of them must be possible.</summary>
    private const int Tries = 30;

    private const int Least = 8;

    public static TheoryData<string> Kinds => [.. EditKinds.All.Select(k => k.Wire)];

    /// <summary>An edit that was possible can be taken back, whatever it is: a refusal to do that is a fault.</summary>
    [Theory]
    [MemberData(nameof(Kinds))]
    public void Every_kind_of_edit_can_be_taken_back_done_again_and_told(string kind)
    {
        var applied = 0;
        for (var seed = 0; seed < Tries; seed++)
        {
            var random = new Random(seed * 7919 + kind.Length);
            var (before, edit) = EditKinds
                .All.Single(k => k.Wire == kind)
                .Sample(random, RandomPlan.Of(random, most: 30, from: (ScheduleFrom)(seed % 2)));
            EditedPlan edited;
            try
            {
                var now = before.Calculate();
                edited = EditPipeline.Run(
                    edit,
                    new EditContext(now, EditSampler.Today, []) { Past = version => version == 1 ? (now, EditSampler.Today) : null }
                );
            }
            catch (EditRefusedException)
            {
                continue;
            }
            applied++;
            UndoneAndDoneAgain(before, edited);
            TouchesWhatChanged(before, edited);
            RippleNamesWhatMoved(before, edited);
        }
        Assert.True(applied >= Least, $"Only {applied} of {Tries} edits were possible.");
    }

    private static void UndoneAndDoneAgain(Plan before, EditedPlan edited)
    {
        var undone = Run(edited, edited.Applied.Inverse);
        Assert.Equal(EditorTests.Text(before), EditorTests.Text(undone.Applied.Plan));
        Assert.Equal(EditorTests.Text(edited.Applied.Plan), EditorTests.Text(Run(undone, undone.Applied.Inverse).Applied.Plan));
        // The edit that is kept does the same again.
        var again = EditPipeline.Run(before.Calculate(), edited.Applied.Edit, EditSampler.Today, []);
        Assert.Equal(EditorTests.Text(edited.Applied.Plan), EditorTests.Text(again.Applied.Plan));
    }

    private static void TouchesWhatChanged(Plan before, EditedPlan edited)
    {
        foreach (var task in edited.Applied.Plan.Tasks)
            if (before.Find(task.Id) is { } was && !ReferenceEquals(was, task) && was != task)
                Assert.Contains(edited.Applied.Touched, t => t.Task == task.Id);
    }

    private static void RippleNamesWhatMoved(Plan before, EditedPlan edited)
    {
        var moved = edited
            .After.Plan.Tasks.Where(
                (t, row) =>
                    edited.After.IsLeaf(row)
                    && before.Find(t.Id) is not null
                    && !edited.Before.IsOff(before.Index.RowOf(t.Id))
                    && edited.Before.Dates(t.Id) != edited.After.Dates(t.Id)
            )
            .Select(t => t.Id);
        Assert.Equal(moved, edited.Ripple.Moves.Select(m => m.Task));
        Assert.NotEmpty(RippleText.Of(edited));
        Assert.DoesNotContain("The plan changed", string.Concat(RippleText.Of(edited).Select(r => r.Text)), StringComparison.Ordinal);
    }

    /// <summary>What a plan takes over from the one it came of changes nothing.</summary>
    [Fact]
    public void A_plan_that_came_of_another_has_the_dates_it_would_have_alone() =>
        SampleChains(random => RandomPlan.Of(random, most: 30, from: (ScheduleFrom)random.Next(2)), RandomEdit);

    /// <summary>The same of plans in which only what an edit reaches is worked out again.</summary>
    [Fact]
    public void What_an_edit_does_not_reach_has_the_dates_it_would_have_alone() =>
        SampleChains(random => Plain(RandomPlan.Of(random, most: 40)), RandomTaskEdit);

    /// <summary>Without linked phases, inactive tasks and tasks that go against the way of the others.</summary>
    private static Plan Plain(Plan plan) =>
        plan with
        {
            Tasks =
            [
                .. plan.Tasks.Select(t =>
                    t with
                    {
                        Active = true,
                        Constraint = t.Constraint is { Kind: ConstraintKind.AsLateAsPossible or ConstraintKind.AsSoonAsPossible }
                            ? null
                            : t.Constraint,
                    }
                ),
            ],
            Links = [.. plan.Links.Where(l => plan.Tasks.All(t => t.Parent != l.From && t.Parent != l.To))],
        };

    private static void SampleChains(Func<Random, Plan> make, Func<Random, Plan, PlanEdit> next)
    {
        var applied = 0;
        SampleChains(make, next, () => Interlocked.Increment(ref applied));
        Assert.True(applied > 300, $"Only {applied} edits were possible.");
    }

    private static void SampleChains(Func<Random, Plan> make, Func<Random, Plan, PlanEdit> next, Action done) =>
        Gen.Int[0, int.MaxValue - 1]
            .Sample(
                seed =>
                {
                    var random = new Random(seed);
                    var schedule = make(random).Calculate();
                    for (var i = 0; i < 6 && !schedule.Plan.Tasks.IsEmpty; i++)
                    {
                        try
                        {
                            schedule = EditPipeline.Run(schedule, next(random, schedule.Plan), EditSampler.Today, []).After;
                        }
                        catch (EditRefusedException)
                        {
                            continue;
                        }
                        AssertSame(Scheduler.CalculateAnew(schedule.Plan), schedule);
                        done();
                    }
                },
                iter: 300
            );

    private static void AssertSame(Schedule alone, Schedule schedule)
    {
        Assert.Equal((alone.Start, alone.Finish, alone.Progress), (schedule.Start, schedule.Finish, schedule.Progress));
        for (var row = 0; row < schedule.Plan.Index.Count; row++)
        {
            Assert.Equal(
                (
                    alone.StartOf(row),
                    alone.FinishOf(row),
                    alone.EarlyDatesOf(row),
                    alone.LateDatesOf(row),
                    alone.TotalFloatOf(row),
                    alone.FreeFloatOf(row)
                ),
                (
                    schedule.StartOf(row),
                    schedule.FinishOf(row),
                    schedule.EarlyDatesOf(row),
                    schedule.LateDatesOf(row),
                    schedule.TotalFloatOf(row),
                    schedule.FreeFloatOf(row)
                )
            );
            Assert.Equal((alone.IsCritical(row), alone.ProgressOf(row)), (schedule.IsCritical(row), schedule.ProgressOf(row)));
            Assert.Equal(alone.Drivers.Of(row), schedule.Drivers.Of(row));
        }
        Assert.Equal(alone.FinishPath, schedule.FinishPath);
        Assert.Equal(alone.Warnings.Select(w => w.Message), schedule.Warnings.Select(w => w.Message));
    }

    private static EditedPlan Run(EditedPlan on, PlanEdit edit) => EditPipeline.Run(on.After, edit, EditSampler.Today, []);

    /// <summary>Of any kind that needs nothing in particular.</summary>
    internal static PlanEdit RandomEdit(Random random, Plan plan)
    {
        while (true)
        {
            var (on, edit) = EditKinds.All[random.Next(EditKinds.All.Length)].Sample(random, plan);
            if (ReferenceEquals(on, plan))
                return edit;
        }
    }

    /// <summary>Of those, one that changes one task and nothing around it.</summary>
    private static PlanEdit RandomTaskEdit(Random random, Plan plan)
    {
        while (true)
        {
            var edit = RandomEdit(random, plan);
            if (
                edit
                is RenameTask
                    or SetLength
                    or SetMilestone
                    or ReportProgress
                    or PlaceTask
                    or SetFinish
                    or StretchTask
                    or SetRemaining
                    or SetConstraint
                    or PinTask
                    or SetDeadline
                    or SetSplits
                    or SetTaskCalendar
                    or SetAroundTheClock
            )
                return edit;
        }
    }
}
