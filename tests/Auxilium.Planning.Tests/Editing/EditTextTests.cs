using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests.Editing;

/// <summary>Each edit says what it changed, and what two people would each have had.</summary>
public class EditTextTests
{
    private static readonly DateOnly Today = new(2027, 5, 3);

    private static readonly WorkCalendar Crew = WorkCalendar.Weekdays with { Id = "crew", Name = "Crew" };

    public static TheoryData<PlanEdit, string> Sentences =>
        new()
        {
            { new LinkTasks("A", "C", LinkKind.StartToStart, Length.OneDay), "C now starts 1 day after the start of A." },
            { new LinkTasks("A", "C", LinkKind.StartToStart, Length.Days(-1)), "C may now start 1 day before the start of A." },
            { new LinkTasks("A", "C", LinkKind.FinishToFinish), "C now ends with A." },
            { new LinkTasks("A", "C", LinkKind.FinishToFinish, Length.Days(-2)), "C may now end 2 days before the end of A." },
            {
                new LinkTasks("A", "C", LinkKind.StartToFinish, new(2, LengthUnit.Hours), true),
                "C now ends 2 hours on the clock after the start of A."
            },
            { new LinkTasks("A", "C", LinkKind.StartToFinish, Length.Days(-1)), "C may now end 1 day before the start of A." },
            { new UnlinkTasks("A", "B"), "B no longer waits for A." },
            {
                new SetReminders("A", [new(2, TaskEnd.Start), new(0, TaskEnd.Finish)]),
                "Reminders of A: 2 days before the start and on the day of the finish."
            },
            { new SetReminders("A", []), "A has no reminders now." },
            { new SetProjectStatus(ProjectStatus.OnHold), "The project is on hold." },
            { new SetProjectColour("moss"), "The project is marked in moss." },
            { new SetProjectColour(null), "The project has no colour now." },
            { new SetProjectPriority(700), "The project has priority 700." },
            { new SetProjectNote("Agreed."), "The project has another note now." },
            { new SetDeadline("A", PlanTime.At(2027, 5, 7, 18)), "A should be finished by Fri 7 May." },
            { new SetDeadline("A", null), "A has no deadline now." },
            { new SetSplits("A", [new(Length.OneDay, Length.Days(2))]), "A pauses for 2 days after 1 day of work." },
            { new SetSplits("A", [new(Length.OneDay, Length.OneDay), new(Length.Days(2), Length.OneDay)]), "A pauses 2 times." },
            { new SetSplits("A", []), "A is worked on without a pause." },
            { new SetTaskCalendar("A", "crew"), "A goes by the calendar Crew." },
            { new SetTaskCalendar("A", null), "A has no calendar of its own." },
            { new SetAroundTheClock("A", true), "A goes on round the clock." },
            { new SetAroundTheClock("A", false), "A is worked on in working time only." },
            {
                new SetEstimate("A", new(Length.OneDay, Length.Days(3), Length.Days(8))),
                "A may take 1 day to 8 days, most likely 3 days."
            },
            { new SetEstimate("A", null), "A has no range of lengths now." },
            { new SetActive("A", false), "A is now inactive." },
            { new SetActive("A", true), "A is active again." },
            { new SetConstraint("A", ConstraintKind.AsLateAsPossible), "A goes as late as it can." },
            { new SetConstraint("A", ConstraintKind.MustFinishOn, PlanTime.At(2027, 5, 7, 18)), "A finishes exactly on Fri 7 May." },
            { new SetConstraint("A", ConstraintKind.StartNoLaterThan, PlanTime.At(2027, 5, 7, 9)), "A starts no later than Fri 7 May." },
            { new PinTask("A", PlanTime.At(2027, 5, 4, 9)), "A is pinned to Tue 4 May." },
            {
                new SetProjectFinish(PlanTime.At(2027, 5, 21, 18)),
                "The project must be finished Fri 21 May; the latest start is Fri 14 May."
            },
            { new SetProjectStart(PlanTime.At(2027, 5, 10, 9)), "The project now starts Mon 10 May." },
            {
                new SetStatusDate(PlanTime.At(2027, 5, 5, 9), true),
                "Progress is reported up to Wed 5 May; unfinished work goes on after it."
            },
            { new SetStatusDate(null), "The project has no status date now." },
            { new SetWorkUnits(7.5m, 4), "A day is now 7.5 hours of work and a week 4 days." },
            { new SetProjectCalendar("crew"), "The project goes by the calendar Crew." },
            { new SetProjectCalendar(null), "The project goes by the calendar Weekdays." },
            { new SetCriticality(Length.OneDay, FloatTarget.ProjectFinish), "Tasks with at most 1 day of float set the finish." },
            { new SaveCalendar(Crew with { Name = "Boat crew" }), "The calendar Boat crew has changed." },
            { new SaveCalendar(Crew with { Id = "x", Name = "Nights" }), "The calendar Nights is new." },
            { new RemoveCalendar("crew"), "The calendar Crew is gone." },
            { new CopyTasks(["A"]), "A is a copy." },
            { new CopyTasks(["A", "B"]), "2 rows copied." },
            { new ShiftTasks(["A", "C"], 1), "2 tasks have another place." },
            { new Together([new SetOwner("A", "Ann"), new SetOwner("C", "Ann")]), "2 tasks are now Ann’s." },
            { new Together([new SetOwner("A", ""), new SetOwner("C", "")]), "2 tasks have no owner." },
            {
                new Together([new SetLength("A", new(Length.Days(3))), new SetLength("C", new(Length.Days(3)))]),
                "2 tasks now take 3 days each."
            },
            { new Together([new SetTaskCalendar("A", "crew"), new SetTaskCalendar("C", "crew")]), "2 tasks go by the calendar Crew." },
            { new Together([new ReportProgress("A", 0.4m), new ReportProgress("C", 0.4m)]), "2 tasks are 40% done." },
            { new Together([new SetMilestone("A", true), new SetMilestone("C", true)]), "2 tasks are now milestones." },
            { new Together([new LinkTasks("A", "B"), new LinkTasks("B", "C")]), "2 tasks now wait for one another." },
            { new Together([new AddTask("X", "New"), new SetLength("X", new(Length.OneDay)), new AddTask("Y", "New")]), "2 rows added." },
            {
                new Together([new RenameTask("A", "Aa"), new SetLength("C", new(Length.OneDay))]),
                "A is now called Aa. C takes 1 day, confirmed."
            },
            {
                new Together([new RenameTask("A", "Aa"), new Together([new SetCoordinator("ann")])]),
                "Ann coordinates the project now. A is now called Aa."
            },
            {
                new Together([new JoinPlan(new Person("bo", "Bo Lind", "BL")), new SetAssignments("A", [new("bo", 1)])]),
                "A is now Bo Lind’s. Bo Lind is new here and joined the plan."
            },
            {
                new Together([
                    .. new[] { "A", "B", "C" }.SelectMany(t => new PlanEdit[] { new RenameTask(t, t + t), new SetNote(t, "n") }),
                    new RenameTask("A", "X"),
                    new SetFinishBy(null),
                ]),
                "4 rows renamed. The note of X has changed. The note of BB has changed. The note of CC has changed. The project has "
                    + "no deadline now."
            },
            { new SetNote("A", "Ask twice"), "The note of A has changed." },
            { new SetNote("A", " "), "A has no note now." },
            { PlainFacts.Key.Give("A", true), "A is a key task." },
            { PlainFacts.Key.Give("A", false), "A is no longer a key task." },
            { PlainFacts.Colour.Give("A", "moss"), "A is marked in moss." },
            { PlainFacts.Colour.Give("A", null), "A has no colour of its own now." },
            { PlainFacts.Label.Give("A", " print "), "A is labelled print." },
            { PlainFacts.Label.Give("A", " "), "A has no label now." },
            { new SetChecklist("A", [new("Call", true), new("Pay")]), "A has 1 of 2 steps done." },
            { new SetChecklist("A", [new("Call", true)]), "A has all steps of its checklist done." },
            { new SetChecklist("A", []), "A has no checklist now." },
            { new SetReferences("A", [new("https://tidewell.example/permit", "Permit")]), "A has a link to a page." },
            { new SetReferences("A", []), "A has no links to pages now." },
            { PlainFacts.Priority.Give("A", 700), "A has priority 700." },
            { new SetRepeat("A", null), "A no longer repeats; its rows stay." },
            { new SetPeriods([new("Harbour week", new(2027, 5, 10), new(2027, 5, 14))]), "Named periods: Harbour week." },
            { new SetPeriods([]), "There are no named periods now." },
            { new Together([PlainFacts.Label.Give("A", "print"), PlainFacts.Label.Give("C", "print")]), "2 tasks are labelled print." },
            { new Together([PlainFacts.Colour.Give("A", "sky"), PlainFacts.Colour.Give("C", "sky")]), "2 tasks are marked in sky." },
            { new Together([PlainFacts.Key.Give("A", true), PlainFacts.Key.Give("C", true)]), "2 tasks are key tasks." },
            { new Together([new SetActive("A", false), new SetActive("C", false)]), "2 tasks are now inactive." },
            {
                new Together([new SetActive("A", true), new PlaceTask("A", PlanTime.At(2027, 5, 6, 9))]),
                "A is active again and starts Thu 6 May."
            },
            { new StretchTask("B", PlanTime.At(2027, 5, 6, 9)), "B now starts Thu 6 May and takes 2 days." },
            { new SetPersonCalendar("ann", "crew"), "Ann works by the calendar Crew." },
            { new SetOwnTime("ann", Away(4, 5)), "Ann is away from Tue 4 May to Wed 5 May." },
            { new SetOwnTime("ann", Away(4, 4)), "Ann is away on Tue 4 May." },
            {
                new SetOwnTime("ann", Away(4, 4) with { Exceptions = [.. Away(4, 4).Exceptions, .. Away(6, 7).Exceptions] }),
                "Ann is away on Tue 4 May, from Thu 6 May to Fri 7 May."
            },
            {
                new SetOwnTime("ann", Away(4, 4) with { Exceptions = [], Week = WorkCalendar.Weekdays.Week }),
                "Ann has a week of their own."
            },
            { new SetOwnTime("ann"), "Ann works by the calendar of the others." },
            { new SetCoordinator("ann"), "Ann coordinates the project now." },
            { new SetCoordinator(null), "Nobody coordinates the project now." },
            { new AddHelper("A", "Ann"), "A is now Ann’s." },
            { new AddHelper("A", "Ann, Bo Lind"), "A is now Ann’s. Bo Lind helps. Bo Lind is new here and joined the plan." },
            { new SetOwner("A", "Anm"), "A is now Anm’s. Anm is new here and joined the plan. Did you mean Ann?" },
            {
                new Together([new SetAssignments("A", [new("ann", 1)]), new SetAssignments("A", [new("ann", 1)])]),
                "A is now Ann’s. A is now Ann’s."
            },
        };

    [Theory]
    [MemberData(nameof(Sentences))]
    public void Each_edit_says_what_it_changed(PlanEdit edit, string sentence)
    {
        var edited = EditPipeline.Run(Plan().Calculate(), edit, Today, []);
        Assert.Equal(sentence, string.Concat(RippleText.Lead(edited).Select(r => r.Text)));
        // Taking it back is an edit that says something too, and gives the plan that was.
        var back = EditPipeline.Run(edited.After, edited.Applied.Inverse, Today, []);
        Assert.NotEmpty(RippleText.Lead(back));
        Assert.Equal(edited.Before.Plan.Tasks.AsEnumerable(), back.After.Plan.Tasks.AsEnumerable());
        Assert.Equal(edited.Before.Plan.Links.AsEnumerable(), back.After.Plan.Links.AsEnumerable());
        Assert.Equal(edited.Before.Plan.Project, back.After.Plan.Project);
    }

    [Theory]
    [InlineData("Start", "finishes no later than Fri 7 May")]
    [InlineData("Deadline", "Thu 6 May")]
    [InlineData("Splits", "2d after 1d")]
    [InlineData("Estimate", "1d – 3d – 8d")]
    [InlineData("Calendar", "Crew")]
    [InlineData("Active", "active")]
    [InlineData("After", "after nothing")]
    [InlineData("Key", "a key task")]
    [InlineData("Colour", "rose")]
    [InlineData("Label", "print")]
    [InlineData("Checklist", "1 of 2 steps done")]
    [InlineData("References", "Permit, mailto:sea@tide.example")]
    [InlineData("Priority", "priority 500")]
    [InlineData("Repeat", "every week on Mon, 1 day each")]
    [InlineData("Owner", "Ann, Ann’s friend 50%")]
    public void What_a_field_holds_is_told_in_words_when_two_people_changed_it(string field, string words)
    {
        var plan = Plan()
            .With("A", t =>
                t with
                {
                    Constraint = new(ConstraintKind.FinishNoLaterThan, PlanTime.At(2027, 5, 7, 18)),
                    Deadline = PlanTime.At(2027, 5, 6, 18),
                    Splits = [new(Length.OneDay, Length.Days(2))],
                    Estimate = new(Length.OneDay, Length.Days(3), Length.Days(8)),
                    Calendar = "crew",
                    Facts = PlainFacts.Key.On(PlainFacts.Colour.On(PlainFacts.Label.On(t.Facts, "print"), "rose"), true),
                    Checklist = [new("Call", true), new("Pay")],
                    References = [new("https://tidewell.example/permit", "Permit"), new("mailto:sea@tide.example")],
                    Repeats = new()
                    {
                        Every = RepeatUnit.Week,
                        From = new(new DateOnly(2027, 5, 3)),
                        Length = Length.OneDay,
                    },
                }
            );
        plan = plan with
        {
            People = [.. plan.People, new("friend", "Ann’s friend", "AF")],
            Tasks = [plan.Tasks[0] with { Assignments = [new("ann"), new("friend", 0.5m)] }, .. plan.Tasks[1..]],
        };
        Assert.Equal(words, FieldText.Of(plan.Calculate(), new Touch("A", EditField.Find(field)!)));
    }

    [Theory]
    [InlineData("ProjectStart", "starts Mon 3 May")]
    [InlineData("StatusDate", "no status date")]
    [InlineData("WorkUnits", "8 hours a day, 5 days a week")]
    [InlineData("ProjectCalendar", "Weekdays")]
    [InlineData("Criticality", "up to 0 days of float")]
    [InlineData("FinishBy", "no deadline")]
    [InlineData("Coordinator", "nobody")]
    public void So_is_what_the_project_holds(string field, string words) =>
        Assert.Equal(words, FieldText.Of(Plan().Calculate(), new Touch(null, EditField.Find(field)!)));

    private static WorkCalendar Away(int from, int to) =>
        new()
        {
            Id = "any",
            Name = "Any",
            Week = [null, null, null, null, null, null, null],
            Exceptions = [new CalendarOverride(new DateOnly(2027, 5, from), new DateOnly(2027, 5, to), "Away", [])],
        };

    private static Plan Plan() =>
        PlanText.Plan("A 3d\nB 2d after A\nC 1d after B") with
        {
            Calendars = [Crew],
            People = [new("ann", "Ann", "A")],
        };
}
