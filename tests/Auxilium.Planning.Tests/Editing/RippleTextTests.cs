using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests.Editing;

public class RippleTextTests
{
    private const string Regatta = """
        Workshop 5d
        Rig 2d after Workshop
        Dryrun 1d after Rig
        Radios 1d
        """;

    [Theory]
    [InlineData(
        "length",
        "Rig now takes 4 days instead of 2 days. 1 other task moved; finish Wed 12 May → Fri 14 May. Still 1 working day ahead of the "
            + "deadline."
    )]
    [InlineData("float", "Radios now takes 3 days instead of 1 day. No other task moved; the finish stays Wed 12 May.")]
    [InlineData("rename", "Radios is now called Borrow radios. Nothing moved; the finish stays Wed 12 May.")]
    [InlineData(
        "late",
        "Rig now takes 5 days instead of 2 days. 1 other task moved; finish Wed 12 May → Mon 17 May. That is just on the deadline."
    )]
    [InlineData(
        "later",
        "Rig now takes 6 days instead of 2 days. 1 other task moved; finish Wed 12 May → Tue 18 May. Now 1 working day past the deadline."
    )]
    [InlineData(
        "hours",
        "Dryrun now takes 2 hours instead of 1 day. No other task moved; the finish is 6 hours earlier, still on Wed 12 May. Still "
            + "3.75 working days ahead of the deadline."
    )]
    [InlineData(
        "pin",
        "Rig is pinned to Wed 5 May. 1 other task moved; finish Wed 12 May → Fri 7 May. Still 6 working days ahead of the deadline. 2 "
            + "“Rig” starts 3 working days before its link to 1 “Workshop” allows."
    )]
    [InlineData(
        "owner",
        "Rig is now Tomas Lindqvist’s. Tomas Lindqvist is new here and joined the plan. Nothing moved; the finish stays Wed 12 May."
    )]
    [InlineData(
        "after",
        "Radios now comes after Dryrun. No other task moved; finish Wed 12 May → Thu 13 May. Still 2 working days ahead of the deadline."
    )]
    [InlineData(
        "later after",
        "Radios now comes 2 days after Rig. No other task moved; finish Wed 12 May → Fri 14 May. Still 1 working day ahead of the "
            + "deadline."
    )]
    [InlineData("sooner", "Radios may now begin 1 day before the end of Rig. No other task moved; the finish stays Wed 12 May.")]
    [InlineData("task", "Radios is now a task of 2 hours. No other task moved; the finish stays Wed 12 May.")]
    [InlineData(
        "done",
        "Workshop is done, finished Fri 7 May. Nothing moved; the finish stays Wed 12 May. Still 3 working days ahead of the deadline."
    )]
    public void A_sentence_says_what_changed_what_moved_and_what_that_did_to_the_finish(string edit, string sentence)
    {
        var plan = PlanText.Plan(Regatta);
        plan = plan with { Project = plan.Project with { FinishBy = PlanTime.At(2027, 5, 17, 18) } };
        PlanEdit made = edit switch
        {
            "length" => new SetLength("Rig", new(Length.Days(4))),
            "float" => new SetLength("Radios", new(Length.Days(3))),
            "rename" => new RenameTask("Radios", "Borrow radios"),
            "late" => new SetLength("Rig", new(Length.Days(5))),
            "later" => new SetLength("Rig", new(Length.Days(6))),
            "hours" => new SetLength("Dryrun", new(new Length(2, LengthUnit.Hours))),
            "pin" => new PlaceTask("Rig", PlanTime.At(2027, 5, 5, 9), true),
            "owner" => new SetOwner("Rig", "Tomas Lindqvist"),
            "after" => new TypePredecessors("Radios", "3"),
            "later after" => new TypePredecessors("Radios", "2 + 2d"),
            "sooner" => new TypePredecessors("Radios", "2 - 1d"),
            "task" => new SetMilestone("Radios", false, new(new Length(2, LengthUnit.Hours))),
            _ => new FinishTask("Workshop"),
        };
        var edited = EditPipeline.Run(plan.Calculate(), made, new DateOnly(2027, 5, edit == "done" ? 7 : 3), []);
        Assert.Equal(sentence, string.Concat(RippleText.Of(edited).Select(r => r.Text)));
    }

    [Fact]
    public void Unfinished_work_that_lies_in_the_past_is_counted_from_today_on()
    {
        var plan = PlanText.Plan(Regatta);
        plan = plan with { Project = plan.Project with { FinishBy = PlanTime.At(2027, 5, 17, 18) } };
        var edited = EditPipeline.Run(plan.Calculate(), new SetLength("Rig", new(Length.Days(4))), new DateOnly(2027, 5, 13), []);
        Assert.EndsWith(
            "Still 1 working day ahead of the deadline as planned, and 7 working days past it if what is left starts today.",
            string.Concat(RippleText.Of(edited).Select(r => r.Text))
        );
    }

    [Fact]
    public void Beforehand_the_sentence_says_what_would_move()
    {
        var edited = EditPipeline.Run(
            PlanText.Plan(Regatta).Calculate(),
            new SetLength("Rig", new(Length.Days(4))),
            new DateOnly(2027, 5, 13),
            []
        );
        var sentence = string.Concat(RippleText.Of(edited, done: false).Select(r => r.Text));
        Assert.Equal("Rig now takes 4 days instead of 2 days. 1 other task would move; finish Wed 12 May → Fri 14 May.", sentence);
    }

    [Fact]
    public void Removing_a_phase_says_what_goes_with_it()
    {
        var schedule = PlanText.Plan("Boats 1d\n  Hulls 2d\n  Lines 1d after Hulls\nParade 1d after Boats").Calculate();
        var edited = EditPipeline.Run(schedule, new RemoveTasks(["Boats"]), new DateOnly(2027, 5, 13), []);
        Assert.Equal(
            "Boats removed with the 2 rows inside it. 1 task moved; finish Thu 6 May → Mon 3 May.",
            string.Concat(RippleText.Of(edited).Select(r => r.Text))
        );
    }

    [Fact]
    public void Each_move_says_why()
    {
        var edited = EditPipeline.Run(
            PlanText.Plan(Regatta).Calculate(),
            new SetLength("Rig", new(Length.Days(4))),
            new DateOnly(2027, 5, 13),
            []
        );
        Assert.Equal(["takes 4 days now", "waits for 2 “Rig”"], edited.Ripple.Moves.Select(m => RippleText.WhyMoved(m, edited.After)));
    }
}
