using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Levelling;

/// <summary>What somebody who is levelled does of a task that may move.</summary>
/// <param name="Person">Position among those who are levelled.</param>
/// <param name="Effort">Minutes of work that are left.</param>
/// <param name="OnTask">It lies on the working minutes of the task, and not on those of the person.</param>
internal readonly record struct LevelledPart(int Person, double Effort, bool OnTask, WorkTime Own, decimal Share);

/// <summary>
/// A plan as levelling sees it: what may move, how far, and how much time people have besides what stays where it is.
/// </summary>
internal sealed class LevellingModel
{
    private const int MostDays = 4_000;

    public LevellingModel(Schedule schedule, LevellingWish wish, Capacities capacities, DateOnly from)
    {
        Schedule = schedule;
        Capacities = capacities;
        Tolerance = (double)wish.Tolerance + 0.5;
        WholeDays = wish.WholeDays;
        People = [.. wish.People.Distinct()];
        First = from;
        var plan = schedule.Plan;
        var chosen = People.Select((id, at) => (id, at)).ToDictionary(p => p.id, p => p.at);
        Parts = new LevelledPart[plan.Tasks.Length][];
        var stays = new Dictionary<(int Person, int Day), double>();
        for (var row = 0; row < plan.Tasks.Length; row++)
        {
            var task = plan.Tasks[row];
            if (
                MayMove(schedule, row)
                && wish.Only?.Contains(task.Id) != false
                && PartsOf(schedule, capacities, chosen, row) is { Length: > 0 } parts
            )
                Parts[row] = parts;
            else
                foreach (var work in AssignedWork.Of(schedule, capacities, row))
                    if (!work.IsOpen && chosen.TryGetValue(work.Person, out var who))
                        work.Lay(from, capacities.CalendarOf(work.Person), (day, minutes) =>
                            stays[(who, day.DayNumber)] = stays.GetValueOrDefault((who, day.DayNumber)) + (double)minutes
                        );
        }
        foreach (var ((person, day), minutes) in wish.Elsewhere)
            if (chosen.TryGetValue(person, out var who))
                stays[(who, day.DayNumber)] = stays.GetValueOrDefault((who, day.DayNumber)) + (double)minutes;
        Far = FarOf(schedule, Parts);
        Days = Math.Clamp(Far.Day - from.DayNumber + 2, 1, MostDays);
        Capacity = new double[People.Length][];
        Free = new double[People.Length][];
        var now = new PlanLoad(schedule, from, [], capacities);
        for (var who = 0; who < People.Length; who++)
        {
            (Capacity[who], Free[who]) = (new double[Days], new double[Days]);
            for (var at = 0; at < Days; at++)
            {
                var day = from.AddDays(at);
                var capacity = (double)capacities.Of(People[who], day);
                // Outside the days that matter nothing may become worse.
                if (day < wish.From || day > wish.To)
                    capacity = Math.Max(
                        capacity,
                        (double)(now.Of(People[who], day) + wish.Elsewhere.GetValueOrDefault((People[who], day)))
                    );
                Capacity[who][at] = capacity;
                Free[who][at] = capacity - stays.GetValueOrDefault((who, day.DayNumber));
            }
        }
        Plan = Held(schedule, Parts);
        LatestStarts = LatestOf(schedule, Plan, wish.Mode, Far);
    }

    /// <summary>The plan as it is.</summary>
    public Schedule Schedule { get; }

    public Capacities Capacities { get; }

    /// <summary>Ids of who is levelled.</summary>
    public ImmutableArray<string> People { get; }

    /// <summary>The first day that anything is levelled on.</summary>
    public DateOnly First { get; }

    public int Days { get; }

    /// <summary>Minutes of more work than time that nobody minds.</summary>
    public double Tolerance { get; }

    /// <summary>Nothing is delayed into the middle of a day.</summary>
    public bool WholeDays { get; }

    /// <summary>By row: what those who are levelled do of what may move; <c>null</c> for the others.</summary>
    public LevelledPart[][] Parts { get; }

    /// <summary>By person and day: minutes that they have.</summary>
    public double[][] Capacity { get; }

    /// <summary>By person and day: the same without what stays where it is.</summary>
    public double[][] Free { get; }

    /// <summary>The plan with everything held that levelling may not move.</summary>
    public Plan Plan { get; }

    /// <summary>By row: where it starts at the latest.</summary>
    public PlanTime[] LatestStarts { get; }

    /// <summary>Nothing need ever be later.</summary>
    public PlanTime Far { get; }

    /// <summary>Whether levelling may delay a row by itself (rule N1).</summary>
    public static bool MayMove(Schedule schedule, int row) =>
        schedule.IsLeaf(row)
        && schedule.Plan.Tasks[row]
            is {
                IsStarted: false,
                IsFinished: false,
                Pinned: null,
                Milestone: false,
                Constraint: null or { IsMust: false, Kind: not (ConstraintKind.AsLateAsPossible or ConstraintKind.AsSoonAsPossible) }
            } task
        && PlainFacts.Priority.Of(task) < PlainFacts.Priority.Most;

    private static LevelledPart[] PartsOf(Schedule schedule, Capacities capacities, Dictionary<string, int> chosen, int row)
    {
        var (plan, task) = (schedule.Plan, schedule.Plan.Tasks[row]);
        var parts = new List<LevelledPart>();
        foreach (var assignment in task.Assignments)
            if (
                chosen.TryGetValue(assignment.Person, out var who)
                && (double)(Effort.Of(plan, task, assignment, schedule.LengthOf(row).Count) * (1 - task.Progress)) is > 0 and var effort
            )
                parts.Add(
                    new LevelledPart(
                        who,
                        effort,
                        !task.AroundTheClock && assignment.Person == task.Owner,
                        capacities.CalendarOf(assignment.Person),
                        assignment.Share
                    )
                );
        return [.. parts];
    }

    /// <summary>After the finish, all that may move fits one after another, with time off between.</summary>
    private static PlanTime FarOf(Schedule schedule, LevelledPart[][] parts)
    {
        const int MinutesADay = 240;
        var work = Enumerable.Range(0, parts.Length).Where(row => parts[row] is not null).Sum(row => (long)schedule.LengthOf(row).Count);
        var days = Math.Min(MostDays, 3 * (work / MinutesADay) + 90);
        return PlanTime.Min(
            new PlanTime(Math.Min(PlanTime.Latest.Minutes, schedule.Finish.Minutes + (int)days * PlanTime.MinutesPerDay)),
            PlanTime.Latest
        );
    }

    /// <summary>Rows of the highest priority, and those that go as late as they can, stand where they are.</summary>
    private static Plan Held(Schedule schedule, LevelledPart[][] parts)
    {
        var plan = schedule.Plan;
        return plan with
        {
            Tasks =
            [
                .. plan.Tasks.Select((task, row) => parts[row] is null && IsHeld(schedule, row, task) ? Hold(schedule, row, task) : task),
            ],
        };
    }

    private static bool IsHeld(Schedule schedule, int row, PlanTask task) =>
        schedule.IsLeaf(row)
        && task is { IsStarted: false, IsFinished: false, Pinned: null, Constraint: null or { IsMust: false } }
        && (
            PlainFacts.Priority.Of(task) >= PlainFacts.Priority.Most
            || task.Constraint is { Kind: ConstraintKind.AsLateAsPossible or ConstraintKind.AsSoonAsPossible }
        );

    private static PlanTask Hold(Schedule schedule, int row, PlanTask task) =>
        task with
        {
            Constraint = new DateConstraint(ConstraintKind.MustStartOn, schedule.StartOf(row)),
            DelayedUntil = null,
        };

    /// <summary>How late each row may start, so that links, latest dates, and what else the mode keeps, hold.</summary>
    private static PlanTime[] LatestOf(Schedule schedule, Plan held, LevellingMode mode, PlanTime far)
    {
        var within = mode == LevellingMode.WithinFloat;
        var plan = held with
        {
            Project = held.Project with { FloatTo = FloatTarget.FinishBy, FinishBy = within ? schedule.Finish : far },
            Tasks = [.. held.Tasks.Select((task, row) => schedule.IsLeaf(row) ? Bounded(schedule, task, row, within) : task)],
        };
        var latest = Scheduler.Calculate(plan);
        var starts = new PlanTime[plan.Tasks.Length];
        for (var row = 0; row < starts.Length; row++)
            if (schedule.IsLeaf(row))
                starts[row] = PlanTime.Max(latest.LateDatesOf(row)?.Start ?? schedule.StartOf(row), schedule.StartOf(row));
        return starts;
    }

    /// <summary>A row with its latest dates only, among them its deadline and those of the phases it is in.</summary>
    private static PlanTask Bounded(Schedule schedule, PlanTask task, int row, bool withDeadlines)
    {
        if (task.Pinned is not null || task.IsStarted || task.IsFinished || task.Constraint is { IsMust: true })
            return task;
        var plan = schedule.Plan;
        PlanTime? latest = task.Constraint is { IsNotAfter: true, Date: { } date } notAfter
            ? notAfter.IsOfFinish
                ? date
                : FinishFrom(schedule, row, date)
            : null;
        for (var at = row; withDeadlines && at >= 0; at = plan.Index.ParentOf(at))
            if (plan.Tasks[at].Deadline is { } deadline)
            {
                // One that is missed already is not missed by more.
                var kept = PlanTime.Max(deadline, schedule.FinishOf(at));
                latest = latest is { } known ? PlanTime.Min(known, kept) : kept;
            }
        return task with
        {
            DelayedUntil = null,
            Constraint = latest is { } by ? new DateConstraint(ConstraintKind.FinishNoLaterThan, by) : null,
        };
    }

    private static PlanTime FinishFrom(Schedule schedule, int row, PlanTime start)
    {
        var (calendar, span) = (schedule.CalendarOf(row), schedule.Groundwork.Facts.Spans[row]);
        return span == 0 ? start : calendar.MinuteEnd(Limit.LatestStart(calendar, new(start), calendar) + span);
    }
}
