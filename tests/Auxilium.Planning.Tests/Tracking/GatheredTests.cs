using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Tests.Tracking;

/// <summary>Milestones that gather the tasks that serve them.</summary>
public class GatheredTests
{
    private static readonly DateOnly Today = new(2027, 5, 3);

    private static readonly Plan Permit = PlanText.Plan(
        """
        Paperwork
          Form 1d
          Plan 2d
        Ask 1d
        Granted milestone after Ask
        Opened milestone
        """
    );

    [Theory]
    [InlineData("Granted")]
    [InlineData("granted")]
    [InlineData("3")]
    public void A_milestone_is_named_by_its_name_or_number(string typed)
    {
        var served = Run(Permit.Calculate(), PlainFacts.Serves.Give("Ask", typed));
        Assert.Equal("Granted", PlainFacts.Serves.Of(served.After.Plan.Find("Ask")!));
        Assert.StartsWith("Ask serves the milestone Granted.", Said(served), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("Ask", "Form", "“Form” is not a milestone: choose one, or make it one first.")]
    [InlineData("Ask", "Refused", "There is no milestone called “Refused”: type the name or number of one.")]
    [InlineData("Granted", "Granted", "“Granted” cannot serve itself: choose another milestone.")]
    public void What_is_no_milestone_of_the_plan_is_refused(string task, string typed, string why)
    {
        var refused = Assert.Throws<EditRefusedException>(() => Run(Permit.Calculate(), PlainFacts.Serves.Give(task, typed)));
        Assert.Equal(why, refused.Message);
    }

    [Fact]
    public void A_milestone_counts_the_tasks_that_serve_it_and_those_inside_phases_that_do()
    {
        var plan = Served("Paperwork", "Ask").With("Form", Done);
        Assert.Equal((3, 2), new Gathered(plan.Calculate()).Of("Granted"));
        Assert.Equal("2 of 3 left", Gathered.Said(3, 2));
        Assert.Equal("all 3 done", Gathered.Said(3, 0));
        Assert.Null(Gathered.Said(0, 0));
        // One that serves another milestone than its phase counts there, and what takes no part counts nowhere.
        plan = plan.With("Plan", t => t with { Facts = PlainFacts.Serves.On(t.Facts, "Opened") })
            .With("Ask", t => t with { Active = false });
        var gathered = new Gathered(plan.Calculate());
        Assert.Equal(((1, 0), (1, 1)), (gathered.Of("Granted"), gathered.Of("Opened")));
    }

    [Fact]
    public void What_serves_a_removed_milestone_serves_it_again_when_that_is_back()
    {
        var before = Served("Ask").Calculate();
        var removed = Run(before, new RemoveTasks(["Granted"]));
        Assert.Equal((0, 0), new Gathered(removed.After).Of("Granted"));
        var back = Run(removed.After, removed.Applied.Inverse);
        Assert.Equal((1, 1), new Gathered(back.After).Of("Granted"));
        // The same of one that is a task for a while.
        var task = Run(before, new SetMilestone("Granted", false));
        Assert.Equal((0, 0), new Gathered(task.After).Of("Granted"));
        Assert.Equal((1, 1), new Gathered(Run(task.After, task.Applied.Inverse).After).Of("Granted"));
    }

    [Fact]
    public void Copies_of_a_milestone_and_its_tasks_belong_together()
    {
        var copied = Run(Served("Ask").Calculate(), new CopyTasks(["Ask", "Granted"], null, "Opened", ["Ask2", "Granted2"]));
        Assert.Equal("Granted2", PlainFacts.Serves.Of(copied.After.Plan.Find("Ask2")!));
        var alone = Run(Served("Ask").Calculate(), new CopyTasks(["Ask"], null, "Opened", ["Ask2"]));
        Assert.Equal("Granted", PlainFacts.Serves.Of(alone.After.Plan.Find("Ask2")!));
    }

    [Fact]
    public void Two_people_who_choose_otherwise_are_told_names_and_not_ids()
    {
        var plan = Served("Ask").With("Granted", t => t with { Name = "Permit granted" });
        Assert.Equal("serves Permit granted", PlainFacts.Serves.InWordsIn(plan, "Granted"));
        Assert.Equal("serves no milestone", PlainFacts.Serves.InWordsIn(plan, null));
    }

    [Theory]
    [InlineData(0, TaskEnd.Start, "2027-05-10", "on the day of the start")]
    [InlineData(1, TaskEnd.Start, "2027-05-09", "1 day before the start")]
    [InlineData(3, TaskEnd.Finish, "2027-05-09", "3 days before the finish")]
    public void A_reminder_is_due_so_many_days_before_an_end_of_its_task(int days, TaskEnd end, string due, string words)
    {
        var reminder = new Reminder(days, end);
        var (start, finish) = (PlanTimeOf("2027-05-10T09:00"), PlanTimeOf("2027-05-12T18:00"));
        Assert.Equal(due, reminder.DayFor(start, finish).ToString("O", System.Globalization.CultureInfo.InvariantCulture));
        Assert.Equal(words, reminder.InWords());
    }

    [Theory]
    [InlineData(-1, null, "A reminder comes 0 to 365 days before: type a number such as 3.")]
    [InlineData(366, null, "A reminder comes 0 to 365 days before: type a number such as 3.")]
    [InlineData(2, "nobody", "Nobody on this plan has the id “nobody”: add the person first.")]
    public void A_reminder_that_could_not_come_is_refused(int days, string? person, string why)
    {
        var edit = new SetReminders("Ask", [new(days, TaskEnd.Start, person is null ? [] : [person])]);
        Assert.Equal(why, Assert.Throws<EditRefusedException>(() => Run(Permit.Calculate(), edit)).Message);
        var many = new SetReminders("Ask", [.. Enumerable.Range(0, 11).Select(n => new Reminder(n, TaskEnd.Start))]);
        Assert.Equal("A task has at most 10 reminders.", Assert.Throws<EditRefusedException>(() => Run(Permit.Calculate(), many)).Message);
    }

    private static Planning.Calendars.PlanTime PlanTimeOf(string text) => Planning.Calendars.PlanTime.Parse(text);

    private static PlanTask Done(PlanTask task) => task with { Progress = 1, ActualFinish = PlanTimeOf("2027-05-03T18:00") };

    private static Plan Served(params string[] tasks) =>
        tasks.Aggregate(Permit, (plan, id) => plan.With(id, t => t with { Facts = PlainFacts.Serves.On(t.Facts, "Granted") }));

    private static string Said(EditedPlan edited) => string.Concat(Planning.Words.RippleText.Of(edited).Select(run => run.Text));

    private static EditedPlan Run(Schedule before, PlanEdit edit) => EditPipeline.Run(before, edit, Today, []);
}
