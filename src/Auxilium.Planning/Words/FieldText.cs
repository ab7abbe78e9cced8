using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;

namespace Auxilium.Planning.Words;

/// <summary>The value of a field as the list shows it: for telling two people what each of them wanted.</summary>
public static class FieldText
{
    public static string Of(Schedule schedule, Touch touch) =>
        touch.Task is null ? touch.Field.OfProject(schedule)
        : schedule.Plan.Find(touch.Task) is { } task ? touch.Field.OfTask(schedule, task)
        : "removed";

    /// <summary>The links before a task as its cell shows them: <c>4, 2.1 + 2d</c>.</summary>
    public static string Predecessors(Plan plan, string task) =>
        string.Join(
            ", ",
            plan.Links.Where(l => l.To == task).Select(l => LinkText.Format(plan.Index.NumberOf(plan.Index.RowOf(l.From)), l))
        );

    /// <summary>The fixed date of a task: <c>pinned to Wed 12 May</c>.</summary>
    public static string Fixed(PlanTask task) =>
        task switch
        {
            { Pinned: { } pinned } =>
                $"pinned to {Dates.Day(pinned.Start)}{(pinned.Finish is { } finish ? $" to {Dates.FinishDay(finish)}" : "")}",
            { Constraint: { } constraint, DelayedUntil: { } until } =>
                $"{FixedDateText.Of(constraint)}, delayed by levelling until {Dates.Day(until)}",
            { Constraint: { } constraint } => FixedDateText.Of(constraint),
            { DelayedUntil: { } until } => $"delayed by levelling until {Dates.Day(until)}",
            _ => "no fixed date",
        };
}
