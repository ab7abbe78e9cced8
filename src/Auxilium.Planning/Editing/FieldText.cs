using System.Globalization;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Editing;

/// <summary>The value of a field as the list shows it: for telling two people what each of them wanted.</summary>
public static class FieldText
{
    public static string Of(Schedule schedule, Touch touch)
    {
        var plan = schedule.Plan;
        if (touch.Task is null)
            return touch.Field switch
            {
                EditField.ProjectName => plan.Project.Name,
                EditField.ProjectStart => Dates.Day(plan.Project.Start),
                _ => plan.Project.FinishBy is { } by ? Dates.FinishDay(by) : "no deadline",
            };
        if (plan.Find(touch.Task) is not { } task) return "removed";
        return touch.Field switch
        {
            EditField.Name => task.Name,
            EditField.Length => task.Milestone ? "milestone" : new TypedLength(task.Length, task.Tentative).ToString(),
            EditField.Owner => plan.FindPerson(task.Owner)?.Name ?? "nobody",
            EditField.After => Predecessors(plan, task.Id) is { Length: > 0 } text ? $"after {text}" : "after nothing",
            EditField.Start => Fixed(task),
            EditField.Progress => task.IsFinished ? "done" : string.Create(CultureInfo.InvariantCulture, $"{task.Progress * 100:0.#} %"),
            EditField.Place => task.Parent is { } phase ? $"in {plan.Find(phase)!.Name}" : "at the top level",
            _ => "in the plan",
        };
    }

    /// <summary>The links before a task as its cell shows them: <c>4, 2.1 + 2d</c>.</summary>
    public static string Predecessors(Plan plan, string task) =>
        string.Join(", ", plan.Links.Where(l => l.To == task).Select(l => LinkText.Format(plan.Index.NumberOf(plan.Index.RowOf(l.From)), l.Lag)));

    private static string Fixed(PlanTask task) => task switch
    {
        { Pinned: { } pinned } => $"pinned to {Dates.Day(pinned.Start)}",
        { Constraint: { } constraint } => $"not before {Dates.Day(constraint.Date)}",
        _ => "no fixed date",
    };
}
