using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Tracking;

/// <summary>A row of a plan as everything that looks at many plans at once is told of it.</summary>
/// <param name="People">Ids of who works on it, the owner first, with a blank between.</param>
/// <param name="Start"><c>null</c>, as the finish, if it is inactive.</param>
/// <param name="LastDay">The last day it goes on.</param>
/// <param name="IsLeaf">It is work or a milestone, and holds no other rows.</param>
/// <param name="IsOfHours">It takes some hours of one day.</param>
/// <param name="Progress">0 to 1.</param>
/// <param name="WaitsFor">Names of what must come first and has not, at most three; <c>null</c> where nothing holds it up.</param>
/// <param name="Left">Minutes of work that are left.</param>
/// <param name="Series">Id of the repeating task that it is one of.</param>
/// <param name="Effort">Minutes of work of all its people, to the nearest; of a phase those of its rows.</param>
/// <param name="Drift">Working minutes that its finish is later than the measure has it; <c>null</c> where that does not know it.</param>
/// <param name="DeliveredBy">Who outside the project delivers it.</param>
/// <param name="HoldsUp">Names of what comes after it and waits for it, at most three; <c>null</c> where nothing does.</param>
/// <param name="Gathers">How many tasks serve it, of a milestone.</param>
/// <param name="GathersLeft">How many of them are not done.</param>
/// <param name="Work">What each has left to do of it, a line each as <see cref="AssignedWork.Kept()"/> gives it; <c>null</c> for
/// nothing.</param>
/// <param name="ShortBy">How many more there would be, of a repeating task that stops before its project does.</param>
public sealed record ProjectedTask(
    string Id,
    string Name,
    string People,
    PlanTime? Start,
    PlanTime? Finish,
    DateOnly? LastDay,
    bool IsLeaf,
    bool IsMilestone,
    bool IsOfHours,
    bool IsCritical,
    decimal Progress,
    bool IsStarted,
    bool IsFinished,
    string? WaitsFor,
    int Left,
    PlanTime? Deadline,
    string? Series,
    int Effort,
    int? Drift,
    string? DeliveredBy,
    string? HoldsUp,
    int? ShortBy,
    int Gathers,
    int GathersLeft,
    string? Work
)
{
    /// <summary>Its state on a day, as <see cref="TaskStates"/> works it out from the whole plan.</summary>
    public TaskState StateOn(DateOnly today)
    {
        var dawn = PlanTime.On(today);
        return IsFinished ? TaskState.Done
            : Finish < dawn ? TaskState.Overdue
            : IsStarted || Progress > 0 ? TaskState.UnderWay
            : WaitsFor is not null ? TaskState.Waiting
            : Start < dawn ? TaskState.LateToStart
            : TaskState.Ready;
    }
}

/// <summary>A plan as everything that looks at many plans at once is told of it.</summary>
/// <param name="Day">The day that <paramref name="Passed"/> and <paramref name="Outlook"/> are of.</param>
/// <param name="Spare">Working minutes to the deadline, negative when late; <c>null</c> without one.</param>
/// <param name="Outlook">The same if what is left starts on that day; <c>null</c> where that makes no difference.</param>
/// <param name="Progress">0 to 1.</param>
/// <param name="Whole">Working minutes from its start to its finish.</param>
/// <param name="Passed">How many of them lie before the day; negative before it begins.</param>
/// <param name="Measure">Name of the baseline that it is measured by; <c>null</c> without one.</param>
/// <param name="Drift">Working minutes that its finish is later than the measure has it.</param>
public sealed record ProjectedPlan(
    DateOnly Day,
    PlanTime Start,
    PlanTime Finish,
    PlanTime? FinishBy,
    int? Spare,
    int? Outlook,
    decimal Progress,
    int Whole,
    int Passed,
    string? Measure,
    int? Drift,
    ImmutableArray<ProjectedTask> Tasks
);

/// <summary>
/// What of a plan is asked across many plans. It is worked out with every edit and kept beside the plan, so that nothing that looks at
/// all projects has to work out any of them.
/// </summary>
public static class Projection
{
    private const int MostNamed = 3;

    private static readonly ConditionalWeakTable<Schedule, ProjectedPlan> Worked = [];

    public static ProjectedPlan Of(Schedule schedule, DateOnly today)
    {
        if (Worked.TryGetValue(schedule, out var known) && known.Day == today)
            return known;
        var worked = WorkOut(schedule, today);
        Worked.AddOrUpdate(schedule, worked);
        return worked;
    }

    private static ProjectedPlan WorkOut(Schedule schedule, DateOnly today)
    {
        var (plan, states) = (schedule.Plan, new TaskStates(schedule, today));
        var around = new Around(
            states,
            new Effort(schedule),
            Tracking.Drift.Of(schedule),
            new Gathered(schedule),
            SeriesEdits.StopShort(schedule).ToDictionary(series => series.Task, series => series.More),
            Capacities.Of(plan)
        );
        var (start, finish, now) = (schedule.Start, schedule.Finish, PlanTime.On(today));
        return new ProjectedPlan(
            today,
            start,
            finish,
            plan.Project.FinishBy,
            Ripple.Spare(schedule)?.Count,
            plan.Project.FinishBy is null ? null : Tracking.Outlook.Of(schedule, today)?.Spare?.Count,
            (decimal)Math.Round(schedule.Progress, 6),
            plan.ProjectCalendar.Between(start, finish),
            now < start ? -1 : plan.ProjectCalendar.Between(start, now),
            around.Drift?.Baseline.Name,
            around.Drift?.Finish.Count,
            [.. Enumerable.Range(0, plan.Tasks.Length).Select(row => TaskOf(schedule, around, row))]
        );
    }

    private static ProjectedTask TaskOf(Schedule schedule, Around around, int row)
    {
        var plan = schedule.Plan;
        var task = plan.Tasks[row];
        var (isOff, isLeaf) = (schedule.IsOff(row), schedule.IsLeaf(row));
        var (gathers, left) = around.Gathered.Of(task.Id);
        var waits = !isOff && task is { IsStarted: false, IsFinished: false, Progress: 0 };
        return new ProjectedTask(
            task.Id,
            task.Name,
            task.Assignments.Length == 1 ? task.Assignments[0].Person : string.Join(' ', task.Assignments.Select(a => a.Person)),
            isOff ? null : schedule.StartOf(row),
            isOff ? null : schedule.FinishOf(row),
            isOff ? null : schedule.LastDayOf(row),
            isLeaf,
            task.Milestone,
            !isOff && IsOfHours(schedule, row),
            !isOff && schedule.IsCritical(row),
            task.Progress,
            task.IsStarted,
            task.IsFinished,
            waits ? NamesOf(plan, around.States.WaitsFor(row)) : null,
            task.Remaining is { } remaining
                ? plan.Project.Units.Minutes(remaining).Count
                : (int)Math.Round(plan.LengthOf(task).Count * (1 - task.Progress)),
            task.Deadline,
            plan.Find(task.Parent ?? "") is { Repeats: not null } series ? series.Id : null,
            (int)Math.Round(around.Effort.Of(row)),
            around.Drift?.Of(row)?.Finish.Count,
            task.Facts[PlainFacts.DeliveredBy] as string,
            task.IsFinished || isOff ? null : NamesOf(plan, HeldUp(schedule, row)),
            around.Short.TryGetValue(task.Id, out var more) ? more : null,
            gathers,
            left,
            WorkOf(schedule, around.Capacities, row)
        );
    }

    private static string? WorkOf(Schedule schedule, Capacities capacities, int row)
    {
        string? lines = null;
        foreach (var work in AssignedWork.Of(schedule, capacities, row))
            lines = lines is null ? work.Kept() : $"{lines}\n{work.Kept()}";
        return lines;
    }

    /// <summary>What comes right after a row, and has not started.</summary>
    private static IEnumerable<int> HeldUp(Schedule schedule, int row)
    {
        var (plan, ends) = (schedule.Plan, schedule.Plan.LinkEnds);
        var links = ends.LeadingFrom(row);
        for (var i = 0; i < links.Length; i++)
            if (
                ends.Edges[links.Span[i]].Target is var next
                && !schedule.IsOff(next)
                && plan.Tasks[next] is { IsStarted: false, IsFinished: false }
            )
                yield return next;
    }

    /// <summary>What is known of a whole plan before its tasks are.</summary>
    private sealed record Around(
        TaskStates States,
        Effort Effort,
        Drift? Drift,
        Gathered Gathered,
        Dictionary<string, int> Short,
        Capacities Capacities
    );

    /// <summary>The first of them, each once, with commas between; <c>null</c> for none.</summary>
    private static string? NamesOf(Plan plan, IEnumerable<int> rows)
    {
        Span<int> named = stackalloc int[MostNamed];
        var (count, names) = (0, default(string));
        foreach (var row in rows)
        {
            if (named[..count].Contains(row))
                continue;
            named[count++] = row;
            names = names is null ? plan.Tasks[row].Name : $"{names}, {plan.Tasks[row].Name}";
            if (count == MostNamed)
                break;
        }
        return names;
    }

    private static bool IsOfHours(Schedule schedule, int row)
    {
        var (start, finish, calendar) = (schedule.StartOf(row), schedule.FinishOf(row), schedule.CalendarOf(row));
        return start < finish
            && start.Date == finish.LastDate
            && (finish.Minutes - start.Minutes < PlanTime.MinutesPerDay)
            && (calendar.WorkedOn(start.Date) == 0 || calendar.Between(start, finish) < calendar.WorkedOn(start.Date));
    }
}
