using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Tests.Load;

public class PlanLoadTests
{
    private static readonly DateOnly Monday = new(2027, 5, 3);

    private static readonly WorkCalendar Mornings = WorkCalendar.Weekdays with
    {
        Id = "mornings",
        Name = "Mornings",
        // From Monday on.
        Week = [.. Enumerable.Repeat<ImmutableArray<WorkInterval>?>([new(540, 780)], 5), null, null],
    };

    private static Plan With(string text, params Assignment[] on) =>
        PlanText.Plan(text) with
        {
            Calendars = [Mornings],
            People = [new("ann", "Ann", "A"), new("bo", "Bo", "B", Calendar: "mornings")],
            Tasks = [.. PlanText.Plan(text).Tasks.Select((task, row) => row == 0 ? task with { Assignments = [.. on] } : task)],
        };

    [Fact]
    public void A1_capacity_is_the_working_time_of_ones_own_calendar()
    {
        var plan = With("Fence 1d");
        var capacities = Capacities.Of(plan);
        Assert.Equal((480, 240), (capacities.Of("ann", Monday), capacities.Of("bo", Monday)));
        Assert.Equal(0, capacities.Of("ann", Monday.AddDays(5)));
    }

    [Fact]
    public void A2_the_effort_of_the_owner_lies_evenly_on_what_is_worked()
    {
        var plan = With("Fence 12h", new Assignment("ann", 0.5m));
        Assert.Equal([(0, 240m), (1, 120m)], Told(plan, Monday, "ann"));
    }

    [Fact]
    public void A2_helpers_work_when_they_are_there()
    {
        var plan = With("Fence 2d", new Assignment("ann"), new Assignment("bo"));
        // Sixteen hours of work on two mornings: more than there is.
        Assert.Equal([(0, 480m), (1, 480m)], Told(plan, Monday, "bo"));
        var afternoon = With("Fence 3h", new Assignment("ann"), new Assignment("bo"));
        afternoon = afternoon with { Project = afternoon.Project with { Start = PlanTime.At(2027, 5, 3, 14) } };
        // Who is never there while it is on works on it all the same.
        Assert.Equal([(0, 180m)], Told(afternoon, Monday, "bo"));
    }

    [Fact]
    public void A2_of_what_runs_day_and_night_only_what_is_said_is_work()
    {
        var plan = With("Dry 3d", new Assignment("ann")).With("Dry", task => task with { AroundTheClock = true });
        Assert.Empty(Told(plan, Monday, "ann"));
        plan = plan.With("Dry", task => task with { Assignments = [new("ann", 1, new Length(6, LengthUnit.Hours))] });
        Assert.Equal(360m, Told(plan, Monday, "ann").Sum(day => day.Minutes));
    }

    [Fact]
    public void A3_from_today_on_what_is_left_and_before_the_hours_that_were_worked()
    {
        var plan = With("Fence 4d", new Assignment("ann"))
            .With("Fence", task => task with { Progress = 0.5m, ActualStart = PlanTime.At(2027, 5, 3, 9) });
        WorkedHours[] hours = [new("Fence", "ann", Monday, 500), new("Fence", "ann", Monday.AddDays(2), 90)];
        // Hours of today are part of what was left this morning.
        Assert.Equal([(0, 500m), (2, 480m), (3, 480m)], Told(plan, Monday.AddDays(2), "ann", hours));
        plan = plan with { Project = plan.Project with { StatusDate = PlanTime.At(2027, 5, 5, 18) } };
        Assert.Equal([(0, 500m), (2, 480m), (3, 480m)], Told(plan, Monday.AddDays(1), "ann", hours));
    }

    [Fact]
    public void A3_what_should_be_over_is_done_as_soon_as_they_can()
    {
        var plan = With("Fence 2d", new Assignment("bo", 0.5m)) with { Calendars = [Mornings] };
        // Two days of mornings begin on Monday: over a week later, four hours of half his mornings are left.
        var days = Told(plan, Monday.AddDays(14), "bo");
        Assert.Equal(480m, days.Sum(day => day.Minutes));
        Assert.All(days, day => Assert.True(day.Minutes <= 120));
        Assert.Equal(14, days[0].Day);
    }

    [Fact]
    public void What_is_done_inactive_or_a_milestone_is_no_work()
    {
        foreach (
            var change in new Func<PlanTask, PlanTask>[]
            {
                task => task with { Progress = 1, ActualStart = PlanTime.At(2027, 5, 3, 9), ActualFinish = PlanTime.At(2027, 5, 4, 18) },
                task => task with { Active = false },
                task => task with { Milestone = true, Length = Length.Zero },
            }
        )
            Assert.Empty(Told(With("Fence 2d", new Assignment("ann")).With("Fence", change), Monday, "ann"));
    }

    [Fact]
    public void A1_availability_takes_part_of_ones_time()
    {
        var plan = With("Fence 1d");
        plan = plan with { People = [plan.People[0] with { Available = [new(0.5m), new(0, Monday.AddDays(7), Monday.AddDays(8))] }] };
        var capacities = Capacities.Of(plan);
        Assert.Equal([240, 0, 0, 240], new[] { 0, 7, 8, 9 }.Select(day => capacities.Of("ann", Monday.AddDays(day))));
    }

    [Fact]
    public void A2_what_takes_no_time_lies_on_its_day()
    {
        var plan = With("Speech milestone", new Assignment("ann", 1, new Length(2, LengthUnit.Hours)));
        Assert.Equal([(0, 120m)], Told(plan, Monday, "ann"));
        // Not said in time, it is to be caught up with.
        Assert.Equal([(2, 120m)], Told(plan, Monday.AddDays(2), "ann"));
    }

    [Fact]
    public void A4_half_a_minute_too_much_is_not_overbooked()
    {
        Assert.Equal(0, Capacities.Over(480.5m, 480));
        Assert.Equal(0.51m, Capacities.Over(480.51m, 480));
        Assert.Equal(0, Capacities.Over(540, 480, 60));
        Assert.Equal(61, Capacities.Over(541, 480, 60));
        Assert.Equal(10, Capacities.Over(10, 0));
        var plan = With("Fence 1d", new Assignment("ann")).With("Fence", task => task with { Effort = new Length(10, LengthUnit.Hours) });
        var over = Assert.Single(new PlanLoad(plan.Calculate(), Monday, []).Overbooked());
        Assert.Equal(("ann", Monday, 120m), (over.Person, over.Day, over.Over));
    }

    [Fact]
    public void A5_what_nobody_has_taken_is_work_of_its_role()
    {
        var plan = With("Fence 2d")
            .With("Fence", task => task with { Facts = Planning.Facts.PlainFacts.Role.On(task.Facts, "Carpenters") });
        var load = new PlanLoad(plan.Calculate(), Monday, []);
        Assert.Empty(load.Parts);
        Assert.Equal([("Carpenters", 480m), ("Carpenters", 480m)], load.Open.Select(part => (part.Person, part.Minutes)));
    }

    [Fact]
    public void W6_a_helper_who_is_never_there_is_told()
    {
        var afternoon = With("Fence 3h", new Assignment("ann"), new Assignment("bo"));
        afternoon = afternoon with { Project = afternoon.Project with { Start = PlanTime.At(2027, 5, 3, 14) } };
        var warning = Assert.Single(afternoon.Calculate().Warnings);
        Assert.Equal(
            (WarningCode.W6, "Bo helps with 1 “Fence” and has no working time while it is on: ask somebody else, or move it."),
            (warning.Code, warning.Message)
        );
        Assert.Empty(With("Fence 3h", new Assignment("ann"), new Assignment("bo")).Calculate().Warnings);
    }

    /// <summary>What is kept of work says as much as the work.</summary>
    [Fact]
    public void Work_is_read_as_it_was_kept()
    {
        for (var seed = 0; seed < 100; seed++)
        {
            var schedule = Scheduler.Calculate(RandomPlan.Of(new Random(seed)));
            var capacities = Capacities.Of(schedule.Plan);
            for (var row = 0; row < schedule.Plan.Tasks.Length; row++)
                foreach (var work in AssignedWork.Of(schedule, capacities, row))
                {
                    var read = AssignedWork.Read(work.Task, work.Kept());
                    Assert.True(read.Days.SequenceEqual(work.Days) && read.Otherwise.SequenceEqual(work.Otherwise));
                    Assert.Equal(work with { Days = [], Otherwise = [] }, read with { Days = [], Otherwise = [] });
                }
        }
    }

    /// <summary>Of random plans: what lies on the days from today on is the effort that is left.</summary>
    [Fact]
    public void Load_is_the_effort_that_is_left()
    {
        for (var seed = 0; seed < 300; seed++)
        {
            var random = new Random(seed);
            var schedule = Scheduler.Calculate(RandomPlan.Of(random));
            var today = Monday.AddDays(random.Next(-10, 40));
            var load = new PlanLoad(schedule, PlanLoad.FirstDay(schedule.Plan, today), []);
            var left = Enumerable
                .Range(0, schedule.Plan.Tasks.Length)
                .Where(row => schedule.IsLeaf(row) && !schedule.IsOff(row) && !schedule.Plan.Tasks[row].IsFinished)
                .Select(row => (Row: row, Task: schedule.Plan.Tasks[row]))
                .Sum(of =>
                    of.Task.Assignments.Sum(a => Effort.Of(schedule.Plan, of.Task, a, schedule.LengthOf(of.Row).Count))
                    * (1 - of.Task.Progress)
                );
            Assert.Equal((double)left, (double)load.Parts.Sum(part => part.Minutes), 1e-6);
            var first = schedule.Plan.Project.StatusDate?.Date ?? today;
            Assert.All(load.Parts, part => Assert.True(part.Day >= first && part.Minutes > 0));
        }
    }

    private static List<(int Day, decimal Minutes)> Told(Plan plan, DateOnly today, string person, params WorkedHours[] hours)
    {
        var load = new PlanLoad(Scheduler.Calculate(plan), PlanLoad.FirstDay(plan, today), hours);
        return
        [
            .. Enumerable.Range(0, 60).Select(n => (n, Math.Round(load.Of(person, Monday.AddDays(n)), 6))).Where(day => day.Item2 > 0),
        ];
    }
}
