using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Tests.Editing;

/// <summary>A random edit of each kind there is, for what must hold of all of them. A kind that has no sample fails a test.</summary>
internal static class EditSamples
{
    public static readonly DateOnly Today = new(2027, 5, 13);

    public static ImmutableArray<Type> Kinds { get; } =
    [
        .. typeof(PlanEdit)
            .Assembly.GetTypes()
            .Where(t => t.IsSubclassOf(typeof(PlanEdit)) && !t.IsAbstract)
            .OrderBy(t => t.Name, StringComparer.Ordinal),
    ];

    /// <summary>A random edit of a kind, with the plan that it is made on: the one given, or that with what such an edit needs.</summary>
    public static (Plan Plan, PlanEdit Edit) Of(Type kind, Random random, Plan plan)
    {
        var draw = new Draw(random, plan);
        return kind.Name switch
        {
            nameof(LinkTasks) => draw.Link(),
            nameof(UnlinkTasks) => Draw.On(draw.Linked(), p => new UnlinkTasks(p.Links[^1].From, p.Links[^1].To)),
            nameof(RestoreTasks) => draw.Removed(),
            nameof(LeavePlan) => (plan with { People = plan.People.Add(new Person("lo", "Lo", "L")) }, new LeavePlan("lo")),
            nameof(RemoveCalendar) => (
                plan with
                {
                    Calendars = plan.Calendars.Add(WorkCalendar.Weekdays with { Id = "spare", Name = "Spare" }),
                },
                new RemoveCalendar("spare")
            ),
            nameof(SetRemaining) => Draw.On(draw.Begun(), _ => new SetRemaining(draw.Leaf, random.Next(2) == 0 ? Length.Days(2) : null)),
            nameof(SetTracking) => (plan, draw.Tracking()),
            nameof(ResumeTask) => Draw.On(draw.Begun(), _ => new ResumeTask(draw.Leaf, draw.Day(8, 40))),
            nameof(ReopenTask) => Draw.On(draw.Done(), _ => new ReopenTask(draw.Leaf)),
            nameof(ExtendSeries) => Draw.On(draw.Repeating(), _ => new ExtendSeries(draw.Leaf, draw.Day(60, 30))),
            nameof(KeepSeries) => Draw.On(draw.Repeating(), _ => new KeepSeries(draw.Leaf)),
            nameof(RepeatTask) when random.Next(2) == 0 => Draw.On(draw.Repeating(), _ => new RepeatTask(draw.Leaf, draw.Rule())),
            nameof(IndentTask) => (plan, new IndentTask(draw.Below(plan))),
            nameof(OutdentTask) => Draw.On(draw.Indented(), p => new OutdentTask(p.Tasks.First(t => t.Parent is not null).Id)),
            _ => (plan, Plain(kind, random, plan, draw)),
        };
    }

    /// <summary>A random edit of any kind that needs nothing in particular.</summary>
    public static PlanEdit Any(Random random, Plan plan)
    {
        while (true)
        {
            var (on, edit) = Of(Kinds[random.Next(Kinds.Length)], random, plan);
            if (ReferenceEquals(on, plan))
                return edit;
        }
    }

    private static PlanEdit Plain(Type kind, Random random, Plan plan, Draw draw)
    {
        var (any, leaf, day) = (draw.Any, draw.Leaf, draw.Day());
        var flip = random.Next(2) == 0;
        return kind.Name switch
        {
            nameof(AddTask) => new AddTask("new", "New", plan.Find(any)!.Parent, flip ? any : null),
            nameof(RemoveTasks) => new RemoveTasks([any, draw.Leaf]),
            nameof(CopyTasks) => new CopyTasks([any, leaf], plan.Find(any)!.Parent, flip ? any : null),
            nameof(RenameTask) => new RenameTask(any, "Renamed"),
            nameof(SetLength) => new SetLength(leaf, new(Length.Days(random.Next(9)), flip)),
            nameof(SetOwner) => new SetOwner(
                any,
                random.Next(4) switch
                {
                    0 => "Ann",
                    1 => "Somebody New",
                    2 => "Bo, Ann",
                    _ => "",
                }
            ),
            nameof(SetAssignments) => new SetAssignments(
                any,
                flip ? [] : [new("bo", 0.5m), new("ann")],
                random.Next(3) switch
                {
                    0 => MoreHands.Shorter,
                    1 => MoreHands.MoreEffort,
                    _ => null,
                }
            ),
            nameof(AddHelper) => new AddHelper(
                any,
                flip ? "Bo" : "Somebody New",
                random.Next(1, 5) / 4m,
                random.Next(3) switch
                {
                    0 => MoreHands.Shorter,
                    1 => MoreHands.MoreEffort,
                    _ => null,
                }
            ),
            nameof(SetOwnTime) => new SetOwnTime("bo", random.Next(3) == 0 ? null : draw.OwnTime()),
            nameof(SetCoordinator) => new SetCoordinator(flip ? null : "bo"),
            nameof(JoinPlan) => new JoinPlan(new Person("jo", "Jo", "J", "jo@tidewell.example"), flip ? 0 : null),
            nameof(TypePredecessors) => new TypePredecessors(any, plan.Index.NumberOf(random.Next(plan.Tasks.Length)) + " + 1d"),
            nameof(SetPredecessors) => new SetPredecessors(
                any,
                flip ? [] : [new Predecessor(draw.Leaf, Length.OneDay, null, (LinkKind)random.Next(4), random.Next(2) == 0)]
            ),
            nameof(MoveTask) => new MoveTask(any, random.Next(3) == 0 ? null : plan.Find(draw.Any)!.Parent, null),
            nameof(SetMilestone) => new SetMilestone(leaf, flip),
            nameof(StartTask) => new StartTask(leaf, flip ? null : draw.Day(-12, 2)),
            nameof(ReportProgress) => new ReportProgress(leaf, random.Next(11) / 10m),
            nameof(FinishTask) => new FinishTask(leaf, flip ? null : draw.Day(-9, 2)),
            nameof(PlaceTask) => new PlaceTask(any, random.Next(4) == 0 ? null : day, flip),
            nameof(ShiftTasks) => new ShiftTasks([any, leaf], flip ? 3 : -2),
            nameof(SetConstraint) => new SetConstraint(leaf, random.Next(9) is var of and < 8 ? (ConstraintKind)of : null, day),
            nameof(PinTask) => new PinTask(leaf, day, flip ? null : day),
            nameof(SetDeadline) => new SetDeadline(any, random.Next(3) == 0 ? null : day),
            nameof(SetSplits) => new SetSplits(leaf, flip ? [] : [new Split(new Length(2, LengthUnit.Hours), Length.OneDay)]),
            nameof(SetTaskCalendar) => new SetTaskCalendar(any, flip ? "a" : null),
            nameof(SetAroundTheClock) => new SetAroundTheClock(any, flip),
            nameof(SetEstimate) => new SetEstimate(leaf, random.Next(3) == 0 ? null : new(Length.OneDay, Length.Days(2), Length.Days(9))),
            nameof(SetActive) => new SetActive(any, flip),
            nameof(SetFixedDates) => new SetFixedDates(
                leaf,
                flip ? new(PlanTime.At(2027, 5, 12, 9)) : null,
                random.Next(2) == 0 ? new(ConstraintKind.AsLateAsPossible) : null
            ),
            nameof(SetFinish) => new SetFinish(leaf, draw.Day(10, 70)),
            nameof(StretchTask) => new StretchTask(leaf, draw.Day(-9, 9)),
            nameof(SetNote) => new SetNote(any, "Noted\nTwice"),
            nameof(SetKey) => new SetKey(any, flip),
            nameof(SetColour) => new SetColour(any, flip ? null : TaskMarks.Colours[random.Next(5)]),
            nameof(SetLabel) => new SetLabel(any, flip ? "print" : null),
            nameof(SetChecklist) => new SetChecklist(any, flip ? [] : [new("Call", true), new("Pay")]),
            nameof(SetReferences) => new SetReferences(any, flip ? [] : [new("https://tidewell.example")]),
            nameof(SetPriority) => new SetPriority(any, random.Next(1001)),
            nameof(RepeatTask) => new RepeatTask(leaf, draw.Rule()),
            nameof(SetRepeat) => new SetRepeat(any, flip ? null : draw.Rule()),
            nameof(RenameProject) => new RenameProject("Regatta"),
            nameof(SetProjectStart) => new SetProjectStart(day),
            nameof(SetProjectFinish) => new SetProjectFinish(day),
            nameof(SetAnchor) => flip
                ? new SetAnchor(ScheduleFrom.Start, PlanTime.At(2027, 5, 4, 9), null)
                : new SetAnchor(ScheduleFrom.Finish, null, PlanTime.At(2027, 6, 4, 17)),
            nameof(SetStatusDate) => new SetStatusDate(random.Next(4) == 0 ? null : day, flip),
            nameof(SetWorkUnits) => new SetWorkUnits(random.Next(6, 10), random.Next(4, 7)),
            nameof(SetProjectCalendar) => new SetProjectCalendar(flip ? "b" : null),
            nameof(SetCriticality) => new SetCriticality(Length.OneDay, flip ? FloatTarget.FinishBy : FloatTarget.ProjectFinish),
            nameof(SaveCalendar) => new SaveCalendar(WorkCalendar.Weekdays with { Id = flip ? "a" : "c", Name = "Other" }),
            nameof(SetPersonCalendar) => new SetPersonCalendar("bo", flip ? "b" : null),
            nameof(SetPeriods) => new SetPeriods(flip ? [] : [new("Week", new(2027, 5, 3), new(2027, 5, 9))]),
            nameof(SetFinishBy) => new SetFinishBy(flip ? null : day),
            nameof(Together) => new Together([new RenameTask(any, "One"), new SetPriority(leaf, 7), new RemoveTasks([draw.Any])]),
            _ => throw new NotSupportedException($"{kind.Name} is a kind of edit without a sample: add one here."),
        };
    }

    /// <summary>Parts of edits, and plans that have what some of them need.</summary>
    private sealed class Draw(Random random, Plan plan)
    {
        public string Any => plan.Tasks[random.Next(plan.Tasks.Length)].Id;

        /// <summary>A row without rows, drawn once.</summary>
        public string Leaf { get; } =
            plan.Tasks.Where((_, row) => !plan.Index.IsPhase(row)).ToArray() is var leaves ? leaves[random.Next(leaves.Length)].Id : "";

        /// <summary>A day so many days from Today.</summary>
        public DateOrTime Day(int from = -12, int to = 18) =>
            PlanTime.On(Today.AddDays(random.Next(from, from + Math.Abs(to - from) + 1)));

        public static (Plan, PlanEdit) On(Plan made, Func<Plan, PlanEdit> edit) => (made, edit(made));

        public Plan Begun() =>
            (plan with { Tasks = [.. plan.Tasks.Select(t => t with { Active = true })] }).With(Leaf, t =>
                t with
                {
                    Active = true,
                    Progress = 0.5m,
                    ActualStart = PlanTime.At(2027, 5, 4, 9),
                    ActualFinish = null,
                    Remaining = null,
                }
            );

        public Plan Done() => PlanEditor.Apply(Begun(), new FinishTask(Leaf, Day(-5, 0)), Context(Begun())).Plan;

        public Plan Linked()
        {
            if (!plan.Links.IsEmpty)
                return plan;
            return plan with { Tasks = plan.Tasks.Add(new PlanTask { Id = "more", Name = "More" }), Links = [new PlanLink(Leaf, "more")] };
        }

        public Plan Indented() =>
            plan.Tasks.Any(t => t.Parent is not null)
                ? plan
                : plan with
                {
                    Tasks =
                    [
                        .. plan.Tasks,
                        new PlanTask { Id = "p", Name = "P" },
                        new PlanTask
                        {
                            Id = "in",
                            Name = "In",
                            Parent = "p",
                        },
                    ],
                };

        public string Below(Plan on) =>
            on.Tasks.Where((_, row) => on.Index.PreviousSibling(row) is var above and >= 0 && !on.Tasks[above].Milestone)
                .Select(t => t.Id)
                .FirstOrDefault()
            ?? Any;

        public (Plan, PlanEdit) Link()
        {
            var (from, to) = (random.Next(plan.Tasks.Length), random.Next(plan.Tasks.Length));
            var lag = new Length(random.Next(-9, 9), LengthUnit.Hours);
            return (
                plan,
                new LinkTasks(
                    plan.Tasks[Math.Min(from, to)].Id,
                    plan.Tasks[Math.Max(from, to)].Id,
                    random.Next(5) is var kind and < 4 ? (LinkKind)kind : null,
                    random.Next(2) == 0 ? lag : null,
                    random.Next(3) switch
                    {
                        0 => true,
                        1 => false,
                        _ => null,
                    }
                )
            );
        }

        public SetTracking Tracking() =>
            random.Next(4) switch
            {
                0 => new SetTracking(Leaf, 0, null, null),
                1 => new SetTracking(Leaf, 0.4m, PlanTime.At(2027, 5, 4, 9), null),
                2 => new SetTracking(Leaf, 0.4m, PlanTime.At(2027, 5, 4, 9), null, Length.OneDay),
                _ => new SetTracking(
                    Leaf,
                    1,
                    PlanTime.At(2027, 5, 4, 9),
                    PlanTime.At(2027, 5, 5, 17),
                    null,
                    random.Next(2) == 0 ? null : new(0.4m, PlanTime.At(2027, 5, 4, 9), Length.OneDay)
                ),
            };

        /// <summary>What takes back that rows were removed.</summary>
        public (Plan, PlanEdit) Removed()
        {
            var applied = PlanEditor.Apply(plan, new RemoveTasks([Any]), Context(plan));
            return (applied.Plan, applied.Inverse);
        }

        /// <summary>A plan whose leaf repeats.</summary>
        public Plan Repeating()
        {
            var fresh = plan.With(Leaf, t =>
                t with
                {
                    Active = true,
                    Progress = 0,
                    ActualStart = null,
                    ActualFinish = null,
                    Remaining = null,
                    Milestone = false,
                    Length = Length.OneDay,
                    Splits = [],
                }
            );
            fresh = fresh with { Links = fresh.Links.RemoveAll(l => l.From == Leaf || l.To == Leaf) };
            return PlanEditor
                .Apply(
                    fresh,
                    new RepeatTask(
                        Leaf,
                        new()
                        {
                            Every = RepeatUnit.Week,
                            From = PlanTime.On(Today.AddDays(1)),
                            Times = 3,
                            Length = Length.OneDay,
                        }
                    ),
                    Context(fresh)
                )
                .Plan;
        }

        public RepeatRule Rule() =>
            new()
            {
                Every = (RepeatUnit)random.Next(4),
                Interval = 1 + random.Next(3),
                From = Day(),
                Times = random.Next(2) == 0 ? 6 : 3,
                Length = random.Next(4) == 0 ? Length.Zero : Length.OneDay,
                Closed = (OnClosedDay)random.Next(3),
            };

        public WorkCalendar OwnTime() =>
            new()
            {
                Id = "x",
                Name = "X",
                Week = [null, null, null, random.Next(2) == 0 ? [] : null, null, null, null],
                Exceptions = [new CalendarOverride(new(2027, 5, 4), new(2027, 5, 6), "Away", [])],
            };

        private static EditContext Context(Plan on) => new(on.Calculate(), Today, []);
    }
}
