using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Tracking;

/// <summary>Minutes of work that a plan takes of its people (rules E1, E2). Parts of minutes are kept.</summary>
public sealed class Effort
{
    private readonly decimal[] _whole;
    private readonly decimal[] _left;

    public Effort(Schedule schedule)
    {
        var (plan, rows) = (schedule.Plan, schedule.Plan.Index.Count);
        (_whole, _left) = (new decimal[rows], new decimal[rows]);
        for (var row = rows - 1; row >= 0; row--)
        {
            if (schedule.IsLeaf(row))
            {
                var task = plan.Tasks[row];
                _whole[row] = Of(plan, task, schedule.LengthOf(row).Count);
                _left[row] = task.IsFinished ? 0 : _whole[row] * (1 - task.Progress);
            }
            if (plan.Index.ParentOf(row) is var phase and >= 0)
            {
                _whole[phase] += _whole[row];
                _left[phase] += _left[row];
            }
            else
            {
                Whole += _whole[row];
                Left += _left[row];
            }
        }
    }

    /// <summary>Of all tasks.</summary>
    public decimal Whole { get; }

    /// <summary>What is left of it.</summary>
    public decimal Left { get; }

    /// <summary>Of a task; of a phase that of its rows; none of inactive ones.</summary>
    public decimal Of(int row) => _whole[row];

    /// <summary>What is left of it (rule E2).</summary>
    public decimal LeftOf(int row) => _left[row];

    /// <summary>A task's effort: that of its people, or without any its own, or its length.</summary>
    /// <param name="length">Its length in minutes.</param>
    public static decimal Of(Plan plan, PlanTask task, int length) =>
        !task.Assignments.IsEmpty ? task.Assignments.Sum(a => Of(plan, task, a, length))
        : task.Effort is { } own ? plan.Project.Units.Minutes(own).Count
        : task.AroundTheClock ? 0
        : length;

    /// <summary>
    /// What somebody does of a task: what is said of them; or their part, by share, of what the others leave of the task's effort; or
    /// the length by their share.
    /// </summary>
    public static decimal Of(Plan plan, PlanTask task, Assignment assignment, int length)
    {
        if (assignment.Effort is null && task.Effort is null)
            return task.AroundTheClock ? 0
                : assignment.Share == 1 ? length
                : length * assignment.Share;
        var units = plan.Project.Units;
        if (assignment.Effort is { } own)
            return units.Minutes(own).Count;
        var whole = task.Effort!.Value;
        var (said, shares) = (0m, 0m);
        foreach (var other in task.Assignments)
        {
            if (other.Effort is { } theirs)
                said += units.Minutes(theirs).Count;
            else
                shares += other.Share;
        }
        return Math.Max(0, units.Minutes(whole).Count - said) * assignment.Share / shares;
    }
}
