using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests.Scheduling;

public class ReasonTests
{
    [Fact]
    public void Y1_the_chain_leads_back_in_plain_sentences_to_the_start_or_a_fixed_date()
    {
        var plan = PlanText.Plan("Paper 2d\nWorkshop 5d after Paper + 4d\nRig 4d after Workshop\nFree 1d with Rig + 1d");
        Assert.Equal(
            [
                "Starts Wed 19 May: it goes with the start of Rig (Tue 18 May), with 1 day between.",
                "Rig starts Tue 18 May: Workshop must finish first (Mon 17 May).",
                "Workshop starts Tue 11 May: Paper must finish first (Tue 4 May), with 4 days between.",
                "Paper starts Mon 3 May: the project starts then.",
            ],
            Reasons.WhyStart(plan.Calculate(), 3).Select(r => r.Sentence)
        );
        var held = plan.With("Workshop", t => t with { Constraint = new(ConstraintKind.StartNoEarlierThan, PlanTime.At(2027, 5, 19, 9)) })
            .Calculate();
        Assert.Equal("Workshop starts Wed 19 May: it goes not before Wed 19 May.", Reasons.WhyStart(held, 2)[^1].Sentence);
        Assert.Equal(["Paper", "Workshop", "Rig"], plan.Calculate().FinishPath.Take(3));
    }

    [Fact]
    public void Y1_from_its_finish_the_chain_leads_on_to_that()
    {
        var plan = PlanText.Plan("A 2d\nB 3d after A");
        plan = plan with { Project = plan.Project with { ScheduleFrom = ScheduleFrom.Finish, Finish = PlanTime.At(2027, 5, 21, 18) } };
        Assert.Equal(
            ["Finishes Tue 18 May: B comes after it (Wed 19 May).", "B finishes Fri 21 May: the project must be finished by Fri 21 May."],
            Reasons.WhyStart(plan.Calculate(), 0).Select(r => r.Sentence)
        );
        Assert.Equal(["A", "B"], plan.Calculate().FinishPath);
    }

    [Fact]
    public void Why_three_days_of_work_show_as_six_is_one_sentence()
    {
        var calendar = WorkCalendar.Weekdays with
        {
            Id = "c",
            Exceptions = [new(new(2027, 5, 10), new(2027, 5, 10), "Founders’ day", [])],
        };
        var plan = PlanText.Plan("start 2027-05-07T09:00\nA 3d\nP\n  B 1d") with { Calendars = [calendar] };
        var schedule = (plan with { Project = plan.Project with { Calendar = "c" } }).Calculate();
        Assert.Equal(
            "Finishes Wed 12 May: 3 days of work from Fri 7 May, with 3 days off on the way (Founders’ day).",
            Reasons.FromStartToFinish(schedule, 0)
        );
        Assert.StartsWith("Finishes with B ", Reasons.FromStartToFinish(schedule, 1), StringComparison.Ordinal);
    }

    [Fact]
    public void Worked_out_from_its_finish_the_sentence_tells_of_the_latest_start()
    {
        var plan = PlanText.Plan("A 2d\nB 3d after A");
        plan = plan with { Project = plan.Project with { ScheduleFrom = ScheduleFrom.Finish, Finish = PlanTime.At(2027, 5, 21, 18) } };
        var edited = EditPipeline.Run(plan.Calculate(), new SetLength("B", new(Length.Days(5))), new DateOnly(2027, 5, 3), []);
        Assert.Equal(
            "B now takes 5 days instead of 3 days. 1 other task moved; latest start Mon 17 May → Thu 13 May.",
            string.Concat(RippleText.Of(edited).Select(r => r.Text))
        );
    }

    [Fact]
    public void When_another_task_comes_to_set_the_finish_it_is_named()
    {
        var plan = PlanText.Plan("A 5d\nB 3d\nC 1d after A, B");
        var edited = EditPipeline.Run(plan.Calculate(), new SetLength("A", new(Length.OneDay)), new DateOnly(2027, 5, 3), []);
        Assert.EndsWith(
            "The critical path now runs through B.",
            string.Concat(RippleText.Of(edited).Select(r => r.Text)),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void The_ripple_tells_of_warnings_deadlines_float_and_what_sets_the_finish()
    {
        var plan = PlanText.Plan("A 3d\nB 1d\nC 1d after A, B").With("B", t => t with { Deadline = PlanTime.At(2027, 5, 4, 18) });
        var edited = EditPipeline.Run(plan.Calculate(), new SetLength("B", new(Length.Days(5))), new DateOnly(2027, 5, 3), []);
        var ripple = edited.Ripple;
        Assert.Equal(["B", "C"], ripple.Path);
        Assert.True(ripple.PathChanged);
        Assert.Equal(WarningCode.W3, Assert.Single(ripple.NewWarnings).Code);
        Assert.Equal((480, -3 * 480), (Assert.Single(ripple.Deadlines).Before.Count, ripple.Deadlines[0].After.Count));
        Assert.Equal([("A", 0, 960), ("B", 960, 0)], ripple.Floats.Select(f => (f.Task, f.Before!.Value.Count, f.After!.Value.Count)));
        var back = EditPipeline.Run(edited.After, edited.Applied.Inverse, new DateOnly(2027, 5, 3), []).Ripple;
        Assert.Equal(WarningCode.W3, Assert.Single(back.GoneWarnings).Code);
    }
}
