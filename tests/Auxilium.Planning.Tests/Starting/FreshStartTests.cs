using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Starting;

namespace Auxilium.Planning.Tests.Starting;

public class FreshStartTests
{
    private static readonly DateOnly Today = new(2027, 1, 4);

    private static Plan Start(Plan plan, string start, WhoComes people = WhoComes.AsTheyAre) =>
        new FreshStart(new DateOrTime(DateOnly.Parse(start)), null, people, Today).Of(plan);

    [Fact]
    public void Dates_move_by_as_many_days_of_work_as_the_start_and_keep_their_time()
    {
        // Monday 3 May: a week and a day later, over a holiday on Thursday 13 May.
        var plan = PlanText.Plan("Tents 2d\nPermit 1d after Tents") with
        {
            Calendars = [WorkCalendar.Weekdays with { Id = "c", Exceptions = [new(new(2027, 5, 13), new(2027, 5, 13), "Holiday", [])] }],
        };
        plan = plan with { Project = plan.Project with { Calendar = "c", FinishBy = PlanTime.At(2027, 5, 7, 18) } };
        plan = plan.With("Tents", t => t with { Constraint = new(ConstraintKind.StartNoEarlierThan, PlanTime.At(2027, 5, 5, 14)) })
            .With("Permit", t => t with { Deadline = PlanTime.At(2027, 5, 8) });

        var fresh = Start(plan, "2027-05-11");

        Assert.Equal(PlanTime.At(2027, 5, 11, 9), fresh.Project.Start);
        // The Wednesday was two days of work after the Monday: from Tuesday the 11th that is Friday, as Thursday is closed.
        Assert.Equal(PlanTime.At(2027, 5, 14, 14), fresh.Find("Tents")!.Constraint!.Date);
        Assert.Equal(PlanTime.At(2027, 5, 18, 18), fresh.Project.FinishBy);
        // Midnight after Friday is the end of Friday.
        Assert.Equal(PlanTime.At(2027, 5, 19), fresh.Find("Permit")!.Deadline);
    }

    [Theory]
    // A Saturday is a day behind its Friday, but never passes the next day of work.
    [InlineData("2027-05-08", "2027-05-10", "2027-05-15")]
    [InlineData("2027-05-08", "2027-05-04", "2027-05-11")]
    [InlineData("2027-05-09", "2027-05-05", "2027-05-12")]
    public void A_day_without_work_stays_behind_the_day_of_work_before_it(string day, string start, string expected)
    {
        var plan = PlanText.Plan("Fair 1d").With("Fair", t => t with { Pinned = new(PlanTime.On(DateOnly.Parse(day), 600)) });

        Assert.Equal(PlanTime.On(DateOnly.Parse(expected), 600), Start(plan, start).Find("Fair")!.Pinned!.Start);
    }

    [Fact]
    public void What_has_happened_stays_behind()
    {
        var plan = PlanText
            .Plan("Book 2d\nPlay 1d after Book")
            .With("Book", t =>
                t with
                {
                    Progress = 1,
                    ActualStart = PlanTime.At(2027, 5, 4, 9),
                    ActualFinish = PlanTime.At(2027, 5, 6, 18),
                    Checklist = [new("Contract", true)],
                }
            );
        plan = plan with
        {
            Project = plan.Project with { StatusDate = PlanTime.At(2027, 5, 6, 9), MoveUnfinishedWork = true },
            Baselines = [Planning.Tracking.Baselines.Take(Scheduler.Calculate(plan), "b", "As agreed", Today)],
        };

        var fresh = Start(plan, "2027-09-06");

        Assert.All(fresh.Tasks, task => Assert.False(task.IsStarted || task.IsFinished || task.Progress > 0));
        Assert.False(fresh.Find("Book")!.Checklist[0].Done);
        Assert.Empty(fresh.Baselines);
        Assert.Null(fresh.Project.StatusDate);
        Assert.Equal(PlanTime.At(2027, 9, 8, 18), Scheduler.Calculate(fresh).Finish);
    }

    [Fact]
    public void People_come_as_they_are_as_roles_or_not_at_all()
    {
        var plan = PlanText.Plan("Book 2d\nPlay 1d\nClean 1d") with { People = [new("ann", "Ann Lee", "AL"), new("bo", "Bo Ek", "BE")] };
        plan = plan.With("Book", t => t with { Assignments = [new("ann"), new("bo", 0.5m)], Reminders = [new(1, TaskEnd.Start, ["bo"])] })
            .With("Play", t => t with { Assignments = [new("bo")], Facts = t.Facts.With(PlainFacts.Role, "stage manager") });

        var same = Start(plan, "2027-05-03");
        Assert.Equal(plan.Tasks.Select(task => task.Owner), same.Tasks.Select(task => task.Owner));
        Assert.Equal([("ann", 1m), ("bo", 0.5m)], same.Find("Book")!.Assignments.Select(a => (a.Person, a.Share)));

        var roles = Start(plan, "2027-05-03", WhoComes.AsRoles);
        Assert.All(roles.Tasks, task => Assert.Empty(task.Assignments));
        Assert.Equal(["in place of Ann Lee, Bo Ek", "stage manager", null], roles.Tasks.Select(task => PlainFacts.Role.Of(task)));
        Assert.True(roles.Find("Book")!.Reminders[0].People.IsDefaultOrEmpty);
        Assert.Empty(roles.People);

        Assert.All(Start(plan, "2027-05-03", WhoComes.Nobody).Tasks, task => Assert.Null(PlainFacts.Role.Of(task)));

        // Bo has left the organisation.
        var without = new FreshStart(new DateOrTime(new(2027, 5, 3)), null, WhoComes.AsTheyAre, Today) { IsHere = id => id != "bo" }.Of(
            plan
        );
        Assert.Equal(["ann"], without.Find("Book")!.Assignments.Select(a => a.Person));
        Assert.Empty(without.Find("Play")!.Assignments);
    }

    [Fact]
    public void A_task_that_repeats_comes_on_the_days_its_rule_names_from_the_new_start()
    {
        var schedule = Scheduler.Calculate(PlanText.Plan("Meet 2h\nBuild 15d\nOpen milestone after Build"));
        var rule = new RepeatRule
        {
            Every = RepeatUnit.Week,
            On = [DayOfWeek.Monday],
            From = new DateOrTime(new(2027, 5, 3)),
            Until = new DateOrTime(new(2027, 5, 21)),
            Length = new Length(2, LengthUnit.Hours),
        };
        var plan = EditPipeline.Run(new RepeatTask("Meet", rule), new EditContext(schedule, Today, [])).After.Plan;
        Assert.Equal(3, plan.Tasks.Count(task => task.Occurrence is not null));

        // From a Wednesday: the first Monday is the 13th.
        var fresh = Start(plan, "2027-09-08");

        var days = fresh.Tasks.Where(task => task.Parent == "Meet").Select(task => task.Occurrence!.Value).ToList();
        Assert.Equal([new(2027, 9, 13), new(2027, 9, 20), new(2027, 9, 27)], days);
    }

    [Fact]
    public void Planned_back_from_a_finish_it_ends_there()
    {
        var plan = PlanText.Plan("Build 10d\nOpen milestone after Build");

        var fresh = new FreshStart(null, new DateOrTime(new(2027, 9, 10)), WhoComes.AsTheyAre, Today).Of(plan);

        var schedule = Scheduler.Calculate(fresh);
        Assert.Equal(PlanTime.At(2027, 9, 10, 18), schedule.Finish);
        Assert.Equal(PlanTime.At(2027, 8, 30, 9), schedule.Start);
    }

    [Fact]
    public void What_would_lie_outside_the_years_that_can_be_planned_is_refused()
    {
        var plan = PlanText.Plan("Build 10d").With("Build", t => t with { Deadline = PlanTime.At(2090, 5, 3, 9) });

        Assert.Contains("between 1990 and 2100", Assert.Throws<EditRefusedException>(() => Start(plan, "2060-05-03")).Message);
        Assert.Contains(
            "A date is missing",
            Assert.Throws<EditRefusedException>(() => new FreshStart(null, null, WhoComes.Nobody, Today).Of(plan)).Message
        );
    }

    /// <summary>On the days it had, a plan without a past is what it was; and starting twice is starting once.</summary>
    [Fact]
    public void A_plan_that_starts_on_its_own_day_is_the_same()
    {
        for (var seed = 0; seed < 150; seed++)
        {
            var plan = FreshStart.WithoutPast(RandomPlan.Of(new Random(seed)));
            var day = plan.Project.Start!.Value.Date;

            var same = Start(plan, day.ToString("yyyy-MM-dd"));
            Assert.Equal(plan.Tasks.Select(Dated), same.Tasks.Select(Dated));
            Assert.Equal(plan.Links, same.Links);

            var later = Start(plan, day.AddDays(100).ToString("yyyy-MM-dd"));
            var back = Start(later, "2027-10-11");
            Assert.Equal(Start(plan, "2027-10-11").Tasks.Select(Shape), back.Tasks.Select(Shape));
        }

        static (string, PinnedDates?, DateConstraint?, PlanTime?) Dated(PlanTask task) =>
            (task.Id, task.Pinned, task.Constraint, task.Deadline);
        static (string, Length, string?) Shape(PlanTask task) => (task.Id, task.Length, task.Owner);
    }
}
