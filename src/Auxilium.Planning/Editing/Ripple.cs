using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Editing;

/// <summary>A task whose dates an edit changed.</summary>
/// <param name="StartShift">Working minutes of the project calendar, later is positive.</param>
/// <param name="FinishShift">Working minutes of the project calendar, later is positive.</param>
public sealed record Move(string Task, Segment Before, Segment After, WorkMinutes StartShift, WorkMinutes FinishShift);

/// <summary>A task whose total float an edit changed, in minutes of its effective calendar; <c>null</c> where it has none.</summary>
public readonly record struct FloatChange(string Task, WorkMinutes? Before, WorkMinutes? After);

/// <summary>Working minutes left before a task's deadline, negative when it is missed.</summary>
public sealed record DeadlineChange(string Task, WorkMinutes Before, WorkMinutes After);

/// <summary>What an edit moved, and what that did to the finish.</summary>
public sealed record Ripple
{
    /// <summary>Leaves that were there before and after, whose dates changed; in the order of the list.</summary>
    public required IReadOnlyList<Move> Moves { get; init; }

    public required PlanTime FinishBefore { get; init; }

    public required PlanTime FinishAfter { get; init; }

    /// <summary>Working minutes left until the date to finish by; negative when it is missed; <c>null</c> without one.</summary>
    public WorkMinutes? SpareBefore { get; init; }

    public WorkMinutes? SpareAfter { get; init; }

    /// <summary>Warnings that the edit brought up.</summary>
    public required IReadOnlyList<ScheduleWarning> NewWarnings { get; init; }

    /// <summary>Warnings that are gone.</summary>
    public IReadOnlyList<ScheduleWarning> GoneWarnings { get; init; } = [];

    /// <summary>Leaves whose float changed.</summary>
    public IReadOnlyList<FloatChange> Floats { get; init; } = [];

    /// <summary>Tasks whose distance to their deadline changed.</summary>
    public IReadOnlyList<DeadlineChange> Deadlines { get; init; } = [];

    /// <summary>Ids of the tasks that set the finish, one holding the next, from the first to the last.</summary>
    public IReadOnlyList<string> Path { get; init; } = [];

    /// <summary>Whether the finish is now set by other tasks.</summary>
    public bool PathChanged { get; init; }

    public static Ripple Between(Schedule before, Schedule after)
    {
        var moves = new List<Move>();
        var floats = new List<FloatChange>();
        var deadlines = new List<DeadlineChange>();
        var sameRows = before.Plan.Index.Outline == after.Plan.Index.Outline;
        var sameTime =
            sameRows
            && before.Plan.Project == after.Plan.Project
            && before.Plan.Calendars == after.Plan.Calendars
            && before.Plan.People == after.Plan.People;
        for (var row = 0; row < after.Plan.Index.Count; row++)
        {
            var was = row;
            if (sameTime && ReferenceEquals(before.Plan.Tasks[row], after.Plan.Tasks[row]) && after.StandsAs(before, row))
                continue;
            var task = after.Plan.Tasks[row];
            if (after.IsOff(row) || (!sameRows && !before.Plan.Index.TryFind(task.Id, out was)) || before.IsOff(was))
                continue;
            if (task.Deadline is { } deadline && before.Plan.Tasks[was].Deadline is { } deadlineBefore)
                AddDeadline(deadlines, task.Id, Left(before, was, deadlineBefore), Left(after, row, deadline));
            if (!after.IsLeaf(row))
                continue;
            if (before.StartOf(was) != after.StartOf(row) || before.FinishOf(was) != after.FinishOf(row))
                moves.Add(MoveOf(before, was, after, row));
            if (before.TotalFloatOf(was) is var floatBefore && after.TotalFloatOf(row) is var floatAfter && floatBefore != floatAfter)
                floats.Add(new FloatChange(task.Id, floatBefore, floatAfter));
        }
        var (pathBefore, path) = (before.FinishPath, after.FinishPath);
        return new Ripple
        {
            Moves = moves,
            FinishBefore = before.Finish,
            FinishAfter = after.Finish,
            SpareBefore = Spare(before),
            SpareAfter = Spare(after),
            NewWarnings = NotAmong(before.Warnings, after.Warnings),
            GoneWarnings = NotAmong(after.Warnings, before.Warnings),
            Floats = floats,
            Deadlines = deadlines,
            Path = path,
            PathChanged = !path.SequenceEqual(pathBefore),
        };
    }

    private static IReadOnlyList<ScheduleWarning> NotAmong(IReadOnlyList<ScheduleWarning> known, IReadOnlyList<ScheduleWarning> warnings)
    {
        if (warnings.Count == 0)
            return [];
        var keys = known.Select(Key).ToHashSet();
        return [.. warnings.Where(w => !keys.Contains(Key(w)))];
    }

    private static WorkMinutes Left(Schedule schedule, int row, PlanTime deadline) =>
        new(schedule.CalendarOf(row).Between(schedule.FinishOf(row), deadline));

    private static void AddDeadline(List<DeadlineChange> changes, string task, WorkMinutes before, WorkMinutes after)
    {
        if (before != after)
            changes.Add(new DeadlineChange(task, before, after));
    }

    private static Move MoveOf(Schedule before, int was, Schedule after, int row)
    {
        var calendar = after.Plan.ProjectCalendar;
        return new Move(
            after.Plan.Tasks[row].Id,
            new Segment(before.StartOf(was), before.FinishOf(was)),
            new Segment(after.StartOf(row), after.FinishOf(row)),
            new WorkMinutes(calendar.Between(before.StartOf(was), after.StartOf(row))),
            new WorkMinutes(calendar.Between(before.FinishOf(was), after.FinishOf(row)))
        );
    }

    /// <summary>Working minutes between the finish of a schedule and the date to finish by.</summary>
    public static WorkMinutes? Spare(Schedule schedule) =>
        schedule.Plan.Project.FinishBy is { } by ? new(schedule.Plan.ProjectCalendar.Between(schedule.Finish, by)) : null;

    private static string Key(ScheduleWarning warning) => warning.Code + string.Join('>', warning.Tasks);
}
