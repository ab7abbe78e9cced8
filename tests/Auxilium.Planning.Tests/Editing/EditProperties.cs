using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using CsCheck;

namespace Auxilium.Planning.Tests.Editing;

/// <summary>What holds of every edit of every plan.</summary>
public class EditProperties
{
    private static readonly DateOnly Today = new(2027, 5, 13);

    [Fact]
    public void Taking_an_edit_back_leaves_no_trace_and_doing_it_again_does_the_same() => Sample((before, edited) =>
    {
        var undone = Run(edited, edited.Applied.Inverse);
        Assert.Equal(EditorTests.Text(before), EditorTests.Text(undone.Applied.Plan));
        Assert.Equal(EditorTests.Text(edited.Applied.Plan), EditorTests.Text(Run(undone, undone.Applied.Inverse).Applied.Plan));
    });

    [Fact]
    public void The_edit_that_is_kept_does_the_same_again() => Sample((before, edited) =>
    {
        var again = EditPipeline.Run(before.Calculate(), edited.Applied.Edit, Today, []);
        Assert.Equal(EditorTests.Text(edited.Applied.Plan), EditorTests.Text(again.Applied.Plan));
    });

    [Fact]
    public void What_changed_is_among_what_was_touched() => Sample((before, edited) =>
    {
        foreach (var task in edited.Applied.Plan.Tasks)
            if (before.Find(task.Id) is { } was && !ReferenceEquals(was, task) && was != task)
                Assert.Contains(edited.Applied.Touched, t => t.Task == task.Id);
    });

    [Fact]
    public void The_ripple_names_exactly_the_leaves_whose_dates_changed() => Sample((before, edited) =>
    {
        var moved = edited.After.Plan.Tasks
            .Where((t, row) => edited.After.IsLeaf(row) && before.Find(t.Id) is not null && !edited.Before.IsOff(before.Index.RowOf(t.Id)) && edited.Before.Dates(t.Id) != edited.After.Dates(t.Id))
            .Select(t => t.Id);
        Assert.Equal(moved, edited.Ripple.Moves.Select(m => m.Task));
        Assert.NotEmpty(RippleText.Of(edited));
    });

    /// <summary>What a plan takes over from the one it came of changes nothing.</summary>
    [Fact]
    public void A_plan_that_came_of_another_has_the_dates_it_would_have_alone() => SampleChains(
        random => RandomPlan.Of(random, most: 30, from: (ScheduleFrom)random.Next(2)), RandomEdit);

    /// <summary>The same of plans in which only what an edit reaches is worked out again.</summary>
    [Fact]
    public void What_an_edit_does_not_reach_has_the_dates_it_would_have_alone() => SampleChains(random => Plain(RandomPlan.Of(random, most: 40)), RandomTaskEdit);

    /// <summary>Without linked phases, inactive tasks and tasks that go against the way of the others.</summary>
    private static Plan Plain(Plan plan) => plan with
    {
        Tasks = [.. plan.Tasks.Select(t => t with { Active = true, Constraint = t.Constraint is { Kind: ConstraintKind.AsLateAsPossible or ConstraintKind.AsSoonAsPossible } ? null : t.Constraint })],
        Links = [.. plan.Links.Where(l => plan.Tasks.All(t => t.Parent != l.From && t.Parent != l.To))],
    };

    private static void SampleChains(Func<Random, Plan> make, Func<Random, Plan, PlanEdit> next) => Gen.Int[0, int.MaxValue - 1].Sample(seed =>
    {
        var random = new Random(seed);
        var schedule = make(random).Calculate();
        for (var i = 0; i < 6 && !schedule.Plan.Tasks.IsEmpty; i++)
        {
            try
            {
                schedule = EditPipeline.Run(schedule, next(random, schedule.Plan), Today, []).After;
            }
            catch (EditRefusedException)
            {
                continue;
            }
            AssertSame(Scheduler.CalculateAnew(schedule.Plan), schedule);
        }
    }, iter: 300);

    private static void AssertSame(Schedule alone, Schedule schedule)
    {
        Assert.Equal((alone.Start, alone.Finish, alone.Progress), (schedule.Start, schedule.Finish, schedule.Progress));
        for (var row = 0; row < schedule.Plan.Index.Count; row++)
        {
            Assert.Equal(
                (alone.StartOf(row), alone.FinishOf(row), alone.EarlyDatesOf(row), alone.LateDatesOf(row), alone.TotalFloatOf(row), alone.FreeFloatOf(row)),
                (schedule.StartOf(row), schedule.FinishOf(row), schedule.EarlyDatesOf(row), schedule.LateDatesOf(row), schedule.TotalFloatOf(row), schedule.FreeFloatOf(row)));
            Assert.Equal((alone.IsCritical(row), alone.ProgressOf(row)), (schedule.IsCritical(row), schedule.ProgressOf(row)));
            Assert.Equal(alone.Drivers.Of(row), schedule.Drivers.Of(row));
        }
        Assert.Equal(alone.FinishPath, schedule.FinishPath);
        Assert.Equal(alone.Warnings.Select(w => w.Message), schedule.Warnings.Select(w => w.Message));
    }

    private static void Sample(Action<Plan, EditedPlan> check) => Gen.Int[0, int.MaxValue - 1].Sample(seed =>
    {
        var random = new Random(seed);
        var plan = RandomPlan.Of(random);
        try
        {
            check(plan, EditPipeline.Run(plan.Calculate(), RandomEdit(random, plan), Today, []));
        }
        catch (EditRefusedException)
        {
            // A refused edit changes nothing, and there is nothing to check.
        }
    }, iter: 300);

    private static EditedPlan Run(EditedPlan on, PlanEdit edit) => EditPipeline.Run(on.After, edit, Today, []);

    private static PlanEdit RandomEdit(Random random, Plan plan)
    {
        string Any() => plan.Tasks[random.Next(plan.Tasks.Length)].Id;
        DateOrTime day = PlanTime.On(new DateOnly(2027, 5, 1).AddDays(random.Next(30)));
        return random.Next(50) switch
        {
            0 => new AddTask("new", "New", plan.Find(Any())!.Parent),
            1 => new RemoveTasks([Any(), Any()]),
            2 => new RenameTask(Any(), "Renamed"),
            3 => new SetLength(Any(), new(Length.Days(random.Next(9)), random.Next(2) == 0)),
            4 => new SetOwner(Any(), random.Next(3) switch { 0 => "Ann", 1 => "Somebody New", _ => "" }),
            5 => new TypePredecessors(Any(), plan.Index.NumberOf(random.Next(plan.Tasks.Length)) + " + 1d"),
            6 => new SetPredecessors(Any(), []),
            7 => new IndentTask(Any()),
            8 => new OutdentTask(Any()),
            9 => new MoveTask(Any(), plan.Find(Any())!.Parent, null),
            10 => new SetMilestone(Any(), random.Next(2) == 0),
            11 => new ReportProgress(Any(), random.Next(11) / 10m),
            12 => new PlaceTask(Any(), random.Next(4) == 0 ? null : day, random.Next(2) == 0),
            13 => new SetFinish(Any(), day),
            14 => new SetProjectStart(day),
            15 => new LinkTasks(Any(), Any(), (LinkKind)random.Next(4), new Length(random.Next(-9, 9), LengthUnit.Hours), random.Next(2) == 0),
            16 when !plan.Links.IsEmpty => new UnlinkTasks(plan.Links[^1].From, plan.Links[^1].To),
            17 => new SetRemaining(Any(), random.Next(2) == 0 ? Length.Days(2) : null),
            18 => new SetConstraint(Any(), (ConstraintKind)random.Next(8), day),
            19 => new PinTask(Any(), day, random.Next(2) == 0 ? null : day),
            20 => new SetDeadline(Any(), random.Next(3) == 0 ? null : day),
            21 => new SetSplits(Any(), random.Next(2) == 0 ? [] : [new Split(new Length(2, LengthUnit.Hours), Length.OneDay)]),
            22 => new SetTaskCalendar(Any(), random.Next(2) == 0 ? "a" : null),
            23 => new SetAroundTheClock(Any(), random.Next(2) == 0),
            24 => new SetEstimate(Any(), random.Next(3) == 0 ? null : new(Length.OneDay, Length.Days(2), Length.Days(9))),
            25 => new SetActive(Any(), random.Next(2) == 0),
            26 => new SetProjectFinish(day),
            27 => new SetStatusDate(day, random.Next(2) == 0),
            28 => new SetWorkUnits(random.Next(6, 10), random.Next(4, 7)),
            29 => new SetProjectCalendar(random.Next(2) == 0 ? "b" : null),
            30 => new SaveCalendar(WorkCalendar.Weekdays with { Id = random.Next(2) == 0 ? "a" : "c", Name = "Other" }),
            31 => new RemoveCalendar(random.Next(2) == 0 ? "a" : "b"),
            32 => new SetPersonCalendar("bo", random.Next(2) == 0 ? "b" : null),
            34 => new CopyTasks([Any(), Any()], plan.Find(Any())!.Parent),
            35 => new ShiftTasks([Any(), Any()], random.Next(2) == 0 ? 3 : -2),
            36 => new StretchTask(Any(), day),
            37 => new SetNote(Any(), "Noted"),
            38 => new RepeatTask(Any(), new() { Every = (RepeatUnit)random.Next(4), Interval = 1 + random.Next(3), From = day, Times = random.Next(2) == 0 ? null : 3, Length = random.Next(4) == 0 ? Length.Zero : Length.OneDay, Closed = (OnClosedDay)random.Next(3) }),
            39 => new SetKey(Any(), random.Next(2) == 0),
            40 => new SetColour(Any(), TaskMarks.Colours[random.Next(5)]),
            41 => new SetLabel(Any(), random.Next(2) == 0 ? "print" : null),
            42 => new SetChecklist(Any(), [new("Call", true), new("Pay")]),
            43 => new SetReferences(Any(), [new("https://tidewell.example")]),
            44 => new SetPeriods([new("Week", new(2027, 5, 3), new(2027, 5, 9))]),
            45 => new SetPriority(Any(), random.Next(1001)),
            46 => new AddHelper(Any(), random.Next(2) == 0 ? "Bo" : "Somebody New", random.Next(1, 5) / 4m, random.Next(3) switch { 0 => MoreHands.Shorter, 1 => MoreHands.MoreEffort, _ => null }),
            47 => new SetOwnTime("bo", random.Next(3) == 0 ? null : new WorkCalendar { Id = "x", Name = "X", Week = [null, null, null, random.Next(2) == 0 ? [] : null, null, null, null], Exceptions = [new CalendarOverride(new(2027, 5, 4), new(2027, 5, 6), "Away", [])] }),
            48 => new SetCoordinator(random.Next(3) == 0 ? null : "bo"),
            33 => new SetCriticality(Length.OneDay, FloatTarget.FinishBy),
            _ => new Together([new RenameTask(Any(), "One"), new IndentTask(Any()), new RemoveTasks([Any()])]),
        };
    }

    /// <summary>Of those, one that changes one task and nothing around it.</summary>
    private static PlanEdit RandomTaskEdit(Random random, Plan plan)
    {
        while (true)
        {
            var edit = RandomEdit(random, plan);
            if (edit is RenameTask or SetLength or SetMilestone or ReportProgress or PlaceTask or SetFinish or StretchTask or SetRemaining or SetConstraint or PinTask or SetDeadline or SetSplits or SetTaskCalendar or SetAroundTheClock)
                return edit;
        }
    }
}
