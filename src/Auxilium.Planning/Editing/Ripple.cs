using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Editing;

/// <summary>A task whose dates an edit changed.</summary>
/// <param name="StartShift">Working minutes of the project calendar, later is positive.</param>
/// <param name="FinishShift">Working minutes of the project calendar, later is positive.</param>
/// <param name="HeldBy">Ids of the tasks that now hold its start.</param>
public sealed record Move(string Task, Segment Before, Segment After, WorkMinutes StartShift, WorkMinutes FinishShift, IReadOnlyList<string> HeldBy);

/// <summary>What an edit moved, and what that did to the finish.</summary>
public sealed record Ripple
{
    /// <summary>Leaves that were there before and after, with other dates now; in the order of the list.</summary>
    public required IReadOnlyList<Move> Moves { get; init; }

    public required PlanTime FinishBefore { get; init; }

    public required PlanTime FinishAfter { get; init; }

    /// <summary>Working minutes left until the date to finish by; negative when it is missed; <c>null</c> without one.</summary>
    public WorkMinutes? SpareBefore { get; init; }

    public WorkMinutes? SpareAfter { get; init; }

    /// <summary>Warnings that the edit brought up.</summary>
    public required IReadOnlyList<ScheduleWarning> NewWarnings { get; init; }

    public static Ripple Between(Schedule before, Schedule after)
    {
        var moves = new List<Move>();
        var drivers = new Lazy<Drivers>(() => after.Drivers);
        for (var row = 0; row < after.Plan.Index.Count; row++)
        {
            var id = after.Plan.Tasks[row].Id;
            if (!after.IsLeaf(row) || !before.Plan.Index.TryFind(id, out var was) || before.IsOff(was)) continue;
            if (before.StartOf(was) != after.StartOf(row) || before.FinishOf(was) != after.FinishOf(row))
                moves.Add(MoveOf(before, was, after, row, drivers.Value));
        }
        var known = before.Warnings.Select(Key).ToHashSet();
        return new Ripple
        {
            Moves = moves,
            FinishBefore = before.Finish,
            FinishAfter = after.Finish,
            SpareBefore = Spare(before),
            SpareAfter = Spare(after),
            NewWarnings = [.. after.Warnings.Where(w => !known.Contains(Key(w)))],
        };
    }

    private static Move MoveOf(Schedule before, int was, Schedule after, int row, Drivers drivers)
    {
        var calendar = after.Plan.ProjectCalendar;
        return new Move(
            after.Plan.Tasks[row].Id,
            new Segment(before.StartOf(was), before.FinishOf(was)),
            new Segment(after.StartOf(row), after.FinishOf(row)),
            new WorkMinutes(calendar.Between(before.StartOf(was), after.StartOf(row))),
            new WorkMinutes(calendar.Between(before.FinishOf(was), after.FinishOf(row))),
            [.. drivers.Of(row).Where(d => d.Kind == DriverKind.Link).Select(d => d.From!)]);
    }

    /// <summary>Working minutes between the finish of a schedule and the date to finish by.</summary>
    public static WorkMinutes? Spare(Schedule schedule) =>
        schedule.Plan.Project.FinishBy is { } by ? new(schedule.Plan.ProjectCalendar.Between(schedule.Finish, by)) : null;

    private static string Key(ScheduleWarning warning) => warning.Code + string.Join('>', warning.Tasks);
}
