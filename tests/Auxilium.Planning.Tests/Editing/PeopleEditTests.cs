using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests.Editing;

/// <summary>Owners, helpers, more hands, and days off.</summary>
public class PeopleEditTests
{
    private static readonly DateOnly Today = new(2027, 5, 3);

    [Theory]
    [InlineData("4d", 1, 1, 960)]
    [InlineData("4d", 1, 0.5, 1280)]
    [InlineData("3d", 1, 1, 720)]
    [InlineData("1h", 1, 1, 30)]
    [InlineData("4d", 0.5, 0.5, 960)]
    [InlineData("7m", 1, 1, 4)]
    public void More_hands_that_make_it_shorter_keep_its_effort(string length, double owner, double helper, int minutes)
    {
        var plan = Owned(length, (decimal)owner);
        var edited = Run(plan, new AddHelper("A", "Bo", (decimal)helper, MoreHands.Shorter));
        var (was, now) = (plan.Find("A")!, edited.After.Plan.Find("A")!);
        Assert.Equal((minutes, MoreHands.Shorter), (plan.LengthOf(now).Count, now.Hands));
        // Within the half minute that a length is rounded by.
        Assert.InRange(Math.Abs(plan.LengthOf(now).Count * now.People - plan.LengthOf(was).Count * was.People), 0, now.People);
        Assert.Equal(was, Run(edited.After.Plan, edited.Applied.Inverse).After.Plan.Find("A"));
    }

    [Fact]
    public void More_hands_make_it_no_shorter_than_the_work_before_its_pause()
    {
        var paused = Run(Owned("4d"), new SetSplits("A", [new(Length.Days(3), Length.OneDay)])).After.Plan;
        var edited = Run(paused, new AddHelper("A", "Bo", 1, MoreHands.Shorter));
        Assert.Equal(3 * 480 + 1, edited.After.Plan.LengthOf(edited.After.Plan.Find("A")!).Count);
        // What is made of it afterwards can be taken back.
        var longer = Run(edited.After.Plan, new SetLength("A", new(Length.Days(9))));
        Assert.Equal(edited.After.Plan.Find("A"), Run(longer.After.Plan, longer.Applied.Inverse).After.Plan.Find("A"));
    }

    [Fact]
    public void The_choice_is_remembered_and_taking_somebody_off_makes_it_longer_again()
    {
        var plan = Run(Owned("6d"), new AddHelper("A", "Bo", 1, MoreHands.Shorter)).After.Plan;
        plan = Run(plan, new AddHelper("A", "Cy")).After.Plan;
        Assert.Equal(Length.Days(2), plan.Find("A")!.Length);
        plan = Run(plan, new SetAssignments("A", [plan.Find("A")!.Assignments[0]])).After.Plan;
        Assert.Equal(Length.Days(6), plan.Find("A")!.Length);
        plan = Run(plan, new SetOwner("A", "Cy")).After.Plan;
        Assert.Equal(Length.Days(6), plan.Find("A")!.Length);
    }

    [Fact]
    public void More_hands_that_are_more_effort_leave_its_length()
    {
        var task = Run(Owned("4d"), new AddHelper("A", "Bo", 1, MoreHands.MoreEffort)).After.Plan.Find("A")!;
        Assert.Equal((Length.Days(4), 2m, MoreHands.MoreEffort), (task.Length, task.People, task.Hands));
        Assert.Equal(Length.Days(4), Run(Owned("4d"), new AddHelper("A", "Bo")).After.Plan.Find("A")!.Length);
    }

    [Theory]
    [InlineData("Ann, Bo Lind", "ann bo-lind")]
    [InlineData("Bo Lind; Cy Moor; Ann", "bo-lind cy-moor ann")]
    [InlineData("Lind, Bo", "bo")]
    [InlineData("Ann, Ann", "ann")]
    public void Several_names_are_several_people_and_a_name_turned_round_is_one(string typed, string people)
    {
        Person[] directory = typed.StartsWith("Lind", StringComparison.Ordinal) ? [new("bo", "Bo Lind", "BL")] : [];
        var edited = EditPipeline.Run(Owned("4d").Calculate(), new SetOwner("A", typed), Today, directory);
        Assert.Equal(people.Split(' '), edited.After.Plan.Find("A")!.Assignments.Select(a => a.Person));
    }

    [Fact]
    public void Whoever_left_is_given_nothing_new_but_keeps_what_they_had()
    {
        var plan = Owned("4d");
        Person[] left = [plan.FindPerson("ann")!, new("dee", "Dee Hart", "DH")];
        EditedPlan Edit(PlanEdit edit) => EditPipeline.Run(edit, new EditContext(plan.Calculate(), Today, [], left));
        foreach (
            PlanEdit edit in new PlanEdit[]
            {
                new SetOwner("B", "Ann"),
                new SetOwner("B", "dee hart"),
                new AddHelper("B", "Dee Hart"),
                new SetAssignments("B", [new("ann", 1)]),
                new JoinPlan(new Person("dee", "Dee Hart", "DH")),
            }
        )
            Assert.Equal("left", Assert.Throws<EditRefusedException>(() => Edit(edit)).Code);
        Assert.Equal("ann", Edit(new SetAssignments("A", [new("ann", 0.5m)])).After.Plan.Find("A")!.Owner);
    }

    [Theory]
    [InlineData("Bo Lind", "BL", "bo@tidewell.example", null)]
    [InlineData("Bo Lind", "BL", "bo@tidewell.example\r\nBcc: all@x.example", "no mail address")]
    [InlineData("Bo Lind", "BL", "bo at tidewell", "no mail address")]
    [InlineData("Bo Lind", "B\nL", null, "Initials are")]
    [InlineData("Bo Lind", "", null, "Initials are")]
    [InlineData("Bo\nLind", "BL", null, "one line")]
    [InlineData("Ann Other", "AO", null, "is Ann Known’s here", "known")]
    public void Who_joins_a_plan_is_somebody_or_can_become_somebody(
        string name,
        string initials,
        string? mail,
        string? why,
        string id = "new"
    )
    {
        void Join() =>
            EditPipeline.Run(
                Owned("4d").Calculate(),
                new JoinPlan(new Person(id, name, initials, mail)),
                Today,
                [new("known", "Ann Known", "AK", "ann@tidewell.example")]
            );
        if (why is null)
            Join();
        else
            Assert.Contains(why, Assert.Throws<EditRefusedException>(Join).Message, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("Tomsa Lindqvist", "Tomas Lindqvist")]
    [InlineData("Tomas Linqvist", "Tomas Lindqvist")]
    [InlineData("Imk", null)]
    [InlineData("imkw", "Imke Varga")]
    [InlineData("Greta Holm", null)]
    public void A_name_that_is_nearly_somebodys_is_told_as_what_may_have_been_meant(string typed, string? meant) =>
        Assert.Equal(
            meant,
            PersonText.Nearest([new("imke", "Imke Varga", "IV"), new("tomas", "Tomas Lindqvist", "TL"), new("bo", "Bo", "B")], typed)?.Name
        );

    [Fact]
    public void A_plan_never_has_why_somebody_is_away()
    {
        var time = Away(new(2027, 5, 5), new(2027, 5, 6)) with
        {
            Exceptions = [new CalendarOverride(new(2027, 5, 5), new(2027, 5, 6), "Operation", [])],
        };
        var edited = Run(Owned("3d"), new SetOwnTime("ann", time));
        var own = edited.After.Plan.Calendars.Single(c => c.Id == "own-ann");
        Assert.Equal(["Away"], own.Exceptions.Select(e => e.Name));
        var saved = Run(edited.After.Plan, new SaveCalendar(own with { Exceptions = time.Exceptions }));
        Assert.Equal(["Away"], saved.After.Plan.Calendars.Single(c => c.Id == "own-ann").Exceptions.Select(e => e.Name));
    }

    [Fact]
    public void The_sentence_says_what_the_hands_did()
    {
        var edited = Run(Owned("4d"), new AddHelper("A", "Bo", 1, MoreHands.Shorter));
        Assert.Contains(
            "With 2 people it takes 2 days instead of 4 days.",
            string.Concat(RippleText.Lead(edited).Select(r => r.Text)),
            StringComparison.Ordinal
        );
        Assert.Contains("B", edited.Ripple.Moves.Select(m => m.Task));
    }

    [Theory]
    [InlineData("Ann", "is on this task already")]
    [InlineData(" ", "Who helps?")]
    [InlineData("!!", "An owner is a person")]
    public void Who_cannot_help_is_told_why(string helper, string why) =>
        Assert.Contains(
            why,
            Assert.Throws<EditRefusedException>(() => Run(Owned("4d"), new AddHelper("A", helper))).Message,
            StringComparison.Ordinal
        );

    [Theory]
    [InlineData(0)]
    [InlineData(1.5)]
    public void A_share_is_a_part_of_somebodys_time(double share) =>
        Assert.Contains(
            "above 0 and at most 1",
            Assert.Throws<EditRefusedException>(() => Run(Owned("4d"), new AddHelper("A", "Bo", (decimal)share))).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void Days_off_lie_on_the_calendar_somebody_works_by_and_end_when_taken_away()
    {
        var crew = WorkCalendar.Weekdays with
        {
            Id = "crew",
            Name = "Crew",
            Exceptions = [new CalendarOverride(new(2027, 5, 4), new(2027, 5, 4), "Town holiday", [])],
        };
        var plan = Owned("3d") with { Calendars = [crew], People = [new("ann", "Ann", "A", null, "crew"), new("bo", "Bo", "B")] };
        var away = Run(plan, new SetOwnTime("ann", Away(new(2027, 5, 5), new(2027, 5, 6))));
        // Monday; Tuesday is a holiday of the crew and two days are off; Friday and Monday.
        Assert.Equal(PlanTime.At(2027, 5, 10, 18), away.After.FinishOf("A"));
        Assert.Contains("Ann is away from Wed 5 May to Thu 6 May: the work goes on after that.", DaysAway.Of(away.After, 0));
        Assert.Equal("Ann’s time", away.After.Plan.Calendars[^1].Name);
        var none = Run(away.After.Plan, new SetOwnTime("ann")).After.Plan;
        Assert.Equal(["crew"], none.Calendars.Select(c => c.Id));
        // What they worked by is the crew's calendar again.
        Assert.Equal(PlanTime.At(2027, 5, 6, 18), none.Calculate().FinishOf("A"));
    }

    [Fact]
    public void Days_off_that_keep_work_from_starting_are_told()
    {
        var edited = Run(Owned("3d"), new SetOwnTime("ann", Away(new(2027, 5, 1), new(2027, 5, 3))));
        Assert.Equal(PlanTime.At(2027, 5, 4, 9), edited.After.StartOf("A"));
        Assert.Equal(["Ann is away from Sat 1 May to Mon 3 May: the work starts after that."], DaysAway.Of(edited.After, 0));
        Assert.Empty(DaysAway.Of(edited.After, 1));
    }

    [Fact]
    public void Two_of_one_name_have_each_their_own_time()
    {
        var plan = Owned("3d") with { People = [new("ann", "Ann", "A"), new("ann-2", "Ann", "A"), new("bo", "Bo", "B")] };
        plan = Run(plan, new SetOwnTime("ann", Away(new(2027, 5, 5), new(2027, 5, 5)))).After.Plan;
        plan = Run(plan, new SetOwnTime("ann-2", Away(new(2027, 5, 6), new(2027, 5, 6)))).After.Plan;
        Assert.Equal(["Ann’s time", "Ann’s time (ann-2)"], plan.Calendars.Select(c => c.Name));
    }

    private static EditedPlan Run(Plan plan, PlanEdit edit) => EditPipeline.Run(plan.Calculate(), edit, Today, []);

    private static WorkCalendar Away(DateOnly from, DateOnly to) =>
        new()
        {
            Id = "any",
            Name = "Any",
            Week = [null, null, null, null, null, null, null],
            Exceptions = [new CalendarOverride(from, to, "Away", [])],
        };

    private static Plan Owned(string length, decimal share = 1) =>
        PlanText.Plan($"A {length}\nB 2d after A").With("A", t => t with { Assignments = [new Assignment("ann", share)] }) with
        {
            People = [new("ann", "Ann", "A"), new("bo", "Bo", "B"), new("cy", "Cy", "C")],
        };
}
