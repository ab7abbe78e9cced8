using System.Globalization;
using Auxilium.Planning.Calendars;
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
                EditField.ProjectStart or EditField.ProjectFinish => plan.Project.ScheduleFrom == ScheduleFrom.Start
                    ? $"starts {Dates.Day(plan.Project.Anchor)}"
                    : $"finished by {Dates.FinishDay(plan.Project.Anchor)}",
                EditField.StatusDate => plan.Project.StatusDate is { } status
                    ? Dates.Day(status) + (plan.Project.MoveUnfinishedWork ? ", unfinished work after it" : "")
                    : "no status date",
                EditField.WorkUnits => string.Create(
                    CultureInfo.InvariantCulture,
                    $"{plan.Project.Units.HoursPerDay:0.##} hours a day, {plan.Project.Units.DaysPerWeek:0.##} days a week"
                ),
                EditField.ProjectCalendar => CalendarName(plan, plan.Project.Calendar) ?? WorkCalendar.Weekdays.Name,
                EditField.Criticality => $"up to {plan.Project.CriticalFloat.InWords()} of float",
                EditField.Periods => plan.Project.Periods.IsEmpty
                    ? "no periods"
                    : string.Join(", ", plan.Project.Periods.Select(p => p.Name)),
                EditField.Calendars => $"{plan.Calendars.Length} calendars, as they are now",
                EditField.Coordinator => plan.FindPerson(plan.Project.Coordinator)?.Name ?? "nobody",
                EditField.People => string.Join(
                    ", ",
                    plan.People.Where(p => p.Calendar is not null).Select(p => $"{p.Name}: {CalendarName(plan, p.Calendar)}")
                ),
                _ => plan.Project.FinishBy is { } by ? Dates.FinishDay(by) : "no deadline",
            };
        if (plan.Find(touch.Task) is not { } task)
            return "removed";
        return touch.Field switch
        {
            EditField.Name => task.Name,
            EditField.Length => task.Milestone ? "milestone" : new TypedLength(task.Length, task.Tentative).ToString(),
            EditField.Owner => task.Assignments.IsEmpty
                ? "nobody"
                : string.Join(
                    ", ",
                    task.Assignments.Select(a =>
                        plan.FindPerson(a.Person)?.Name
                        + (a.Share == 1 ? "" : string.Create(CultureInfo.InvariantCulture, $" {a.Share * 100:0.#} %"))
                    )
                ),
            EditField.After => Predecessors(plan, task.Id) is { Length: > 0 } text ? $"after {text}" : "after nothing",
            EditField.Start => Fixed(task),
            EditField.Progress => task.IsFinished
                ? "done"
                : string.Create(
                    CultureInfo.InvariantCulture,
                    $"{task.Progress * 100:0.#} %{(task.Remaining is { } left ? $", {left} left" : "")}"
                ),
            EditField.Deadline => task.Deadline is { } deadline ? Dates.FinishDay(deadline) : "no deadline",
            EditField.Calendar => task.AroundTheClock ? "round the clock" : CalendarName(plan, task.Calendar) ?? "no calendar of its own",
            EditField.Splits => task.Splits.IsEmpty ? "no pause" : string.Join(", ", task.Splits.Select(s => $"{s.For} after {s.After}")),
            EditField.Estimate => task.Estimate is { } range ? $"{range.Low} – {range.Likely} – {range.High}" : "no range",
            EditField.Active => task.Active ? "active" : "inactive",
            EditField.Key => task.Key ? "a key task" : "not a key task",
            EditField.Colour => task.Colour ?? "no colour",
            EditField.Label => task.Label ?? "no label",
            EditField.Checklist => Steps(task),
            EditField.References => task.References.Length == 0
                ? "no links"
                : string.Join(", ", task.References.Select(r => LengthText.Shorten(r.Title.Length > 0 ? r.Title : r.Address))),
            EditField.Priority => $"priority {task.Priority}",
            EditField.Repeat => task.Repeats is { } rule ? RepeatText.Of(rule) : "does not repeat",
            EditField.Note => task.Note.Length == 0 ? "no note" : LengthText.Shorten(task.Note),
            EditField.Place => task.Parent is { } phase ? $"in {plan.Find(phase)!.Name}" : "at the top level",
            _ => "in the plan",
        };
    }

    /// <summary>The links before a task as its cell shows them: <c>4, 2.1 + 2d</c>.</summary>
    public static string Predecessors(Plan plan, string task) =>
        string.Join(
            ", ",
            plan.Links.Where(l => l.To == task).Select(l => LinkText.Format(plan.Index.NumberOf(plan.Index.RowOf(l.From)), l))
        );

    private static string Steps(PlanTask task) =>
        task.Checklist.Length == 0 ? "no checklist" : $"{task.Checklist.Count(step => step.Done)} of {task.Checklist.Length} steps done";

    private static string? CalendarName(Plan plan, string? id) => id is null ? null : plan.CalendarBook.Find(id)?.Name;

    private static string Fixed(PlanTask task) =>
        task switch
        {
            { Pinned: { } pinned } =>
                $"pinned to {Dates.Day(pinned.Start)}{(pinned.Finish is { } finish ? $" to {Dates.FinishDay(finish)}" : "")}",
            { Constraint: { } constraint } => FixedDateText.Of(constraint),
            _ => "no fixed date",
        };
}
