using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Facts;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Editing;

/// <summary>
/// The part of a row, or of the project, that an edit is about: where its refusal is shown, and where the edits of two people collide.
/// </summary>
public sealed class EditField : IEquatable<EditField>
{
    private readonly Func<Schedule, PlanTask, string>? _ofTask;
    private readonly Func<Schedule, string>? _ofProject;

    /// <param name="name">Kept in the journal: it never changes.</param>
    /// <param name="inWords">What a task has there.</param>
    internal EditField(string name, Func<Schedule, PlanTask, string> inWords) => (Name, _ofTask) = (name, inWords);

    private EditField(string name, Func<Schedule, string> inWords) => (Name, _ofProject) = (name, inWords);

    public string Name { get; }

    /// <summary>The whole row.</summary>
    public static EditField None { get; } = new("None", (_, _) => "in the plan");

    public static EditField TaskName { get; } = new("Name", (_, task) => task.Name);

    public static EditField Length { get; } =
        new("Length", (_, task) => task.Milestone ? "milestone" : new TypedLength(task.Length, task.Tentative).ToString());

    public static EditField Owner { get; } = new("Owner", OwnersOf);

    public static EditField After { get; } =
        new("After", (schedule, task) =>
            FieldText.Predecessors(schedule.Plan, task.Id) is { Length: > 0 } text ? $"after {text}" : "after nothing"
        );

    public static EditField Start { get; } = new("Start", (_, task) => FieldText.Fixed(task));

    public static EditField Finish { get; } = new("Finish", (schedule, task) => Dates.FinishDay(schedule.FinishOf(task.Id)));

    public static EditField Progress { get; } = new("Progress", ProgressOf);

    public static EditField Remaining { get; } = new("Remaining", ProgressOf);

    public static EditField Place { get; } =
        new("Place", (schedule, task) => task.Parent is { } phase ? $"in {schedule.Plan.Find(phase)!.Name}" : "at the top level");

    public static EditField Deadline { get; } =
        new("Deadline", (_, task) => task.Deadline is { } deadline ? Dates.FinishDay(deadline) : "no deadline");

    public static EditField Calendar { get; } =
        new("Calendar", (schedule, task) =>
            task.AroundTheClock ? "round the clock" : CalendarName(schedule.Plan, task.Calendar) ?? "no calendar of its own"
        );

    public static EditField Splits { get; } =
        new("Splits", (_, task) =>
            task.Splits.IsEmpty ? "no pause" : string.Join(", ", task.Splits.Select(s => $"{s.For} after {s.After}"))
        );

    public static EditField Estimate { get; } =
        new("Estimate", (_, task) => task.Estimate is { } range ? $"{range.Low} – {range.Likely} – {range.High}" : "no range");

    public static EditField Active { get; } = new("Active", (_, task) => task.Active ? "active" : "inactive");

    public static EditField Note { get; } = new("Note", (_, task) => task.Note.Length == 0 ? "no note" : LengthText.Shorten(task.Note));

    public static EditField Checklist { get; } =
        new("Checklist", (_, task) =>
            task.Checklist.Length == 0
                ? "no checklist"
                : $"{task.Checklist.Count(step => step.Done)} of {task.Checklist.Length} steps done"
        );

    public static EditField References { get; } =
        new("References", (_, task) =>
            task.References.Length == 0
                ? "no links"
                : string.Join(", ", task.References.Select(r => LengthText.Shorten(r.Title.Length > 0 ? r.Title : r.Address)))
        );

    public static EditField Repeat { get; } =
        new("Repeat", (_, task) => task.Repeats is { } rule ? RepeatText.Of(rule) : "does not repeat");

    public static EditField ProjectName { get; } = new("ProjectName", schedule => schedule.Plan.Project.Name);

    public static EditField ProjectStart { get; } = new("ProjectStart", AnchorOf);

    public static EditField ProjectFinish { get; } = new("ProjectFinish", AnchorOf);

    public static EditField FinishBy { get; } =
        new("FinishBy", schedule => schedule.Plan.Project.FinishBy is { } by ? Dates.FinishDay(by) : "no deadline");

    public static EditField StatusDate { get; } =
        new("StatusDate", schedule =>
            schedule.Plan.Project.StatusDate is { } status
                ? Dates.Day(status) + (schedule.Plan.Project.MoveUnfinishedWork ? ", unfinished work after it" : "")
                : "no status date"
        );

    public static EditField WorkUnits { get; } =
        new("WorkUnits", schedule =>
            string.Create(
                CultureInfo.InvariantCulture,
                $"{schedule.Plan.Project.Units.HoursPerDay:0.##} hours a day, {schedule.Plan.Project.Units.DaysPerWeek:0.##} days a week"
            )
        );

    public static EditField ProjectCalendar { get; } =
        new("ProjectCalendar", schedule => CalendarName(schedule.Plan, schedule.Plan.Project.Calendar) ?? WorkCalendar.Weekdays.Name);

    public static EditField Criticality { get; } =
        new("Criticality", schedule => $"up to {schedule.Plan.Project.CriticalFloat.InWords()} of float");

    public static EditField Calendars { get; } =
        new("Calendars", schedule => $"{schedule.Plan.Calendars.Length} calendars, as they are now");

    public static EditField People { get; } =
        new("People", schedule =>
            string.Join(
                ", ",
                schedule.Plan.People.Where(p => p.Calendar is not null).Select(p => $"{p.Name}: {CalendarName(schedule.Plan, p.Calendar)}")
            )
        );

    public static EditField Periods { get; } =
        new("Periods", schedule =>
            schedule.Plan.Project.Periods.IsEmpty ? "no periods" : string.Join(", ", schedule.Plan.Project.Periods.Select(p => p.Name))
        );

    public static EditField Coordinator { get; } =
        new("Coordinator", schedule => schedule.Plan.FindPerson(schedule.Plan.Project.Coordinator)?.Name ?? "nobody");

    public static EditField Effort { get; } = new("Effort", (_, task) => task.Effort is { } effort ? $"{effort.InWords()} of work"
            : task.Assignments.Any(a => a.Effort is not null) ? "work said person by person"
            : "the work that its length says");

    public static EditField Baselines { get; } =
        new("Baselines", schedule =>
            schedule.Plan.Baselines.IsEmpty ? "no baselines" : ListText.Listed([.. schedule.Plan.Baselines.Select(b => b.Name)])
        );

    public static EditField Reminders { get; } =
        new("Reminders", (_, task) =>
            task.Reminders.IsEmpty ? "no reminders" : ListText.Listed([.. task.Reminders.Select(r => r.InWords())])
        );

    public static EditField ProjectStatus { get; } = new("ProjectStatus", schedule => schedule.Plan.Project.Status.InWords());

    public static EditField ProjectColour { get; } = new("ProjectColour", schedule => schedule.Plan.Project.Colour ?? "no colour");

    public static EditField ProjectPriority { get; } =
        new("ProjectPriority", schedule => PlainFacts.Priority.InWords(schedule.Plan.Project.Priority));

    public static EditField Fields { get; } =
        new("Fields", schedule =>
            schedule.Plan.Project.Fields.IsEmpty ? "no fields" : string.Join(", ", schedule.Plan.Project.Fields.Select(f => f.Name))
        );

    public static EditField ProjectNote { get; } =
        new("ProjectNote", schedule => schedule.Plan.Project.Note is { Length: > 0 } note ? LengthText.Shorten(note) : "no note");

    private static readonly Lazy<Dictionary<string, EditField>> Names = new(() =>
        new EditField[]
        {
            None,
            TaskName,
            Length,
            Owner,
            After,
            Start,
            Finish,
            Progress,
            Remaining,
            Place,
            Deadline,
            Calendar,
            Splits,
            Estimate,
            Active,
            Note,
            Checklist,
            References,
            Repeat,
            ProjectName,
            ProjectStart,
            ProjectFinish,
            FinishBy,
            StatusDate,
            WorkUnits,
            ProjectCalendar,
            Criticality,
            Calendars,
            People,
            Periods,
            Coordinator,
            Effort,
            Baselines,
            Reminders,
            ProjectStatus,
            ProjectColour,
            ProjectPriority,
            ProjectNote,
            Fields,
        }
            .Concat(PlainFacts.All.Select(fact => fact.Field))
            .ToDictionary(field => field.Name)
    );

    /// <summary>The field with a name; <c>null</c> where there is none.</summary>
    public static EditField? Find(string name) =>
        name.StartsWith(OwnFact.Prefix, StringComparison.OrdinalIgnoreCase)
            ? OwnFact.Of(name[OwnFact.Prefix.Length..]).Field
            : Names.Value.GetValueOrDefault(name);

    public bool Equals(EditField? other) => other?.Name == Name;

    public override bool Equals(object? obj) => Equals(obj as EditField);

    public override int GetHashCode() => Name.GetHashCode(StringComparison.Ordinal);

    public static bool operator ==(EditField? a, EditField? b) => a?.Name == b?.Name;

    public static bool operator !=(EditField? a, EditField? b) => !(a == b);

    public override string ToString() => Name;

    /// <summary>What a task has there, for telling two people what each of them wanted.</summary>
    internal string OfTask(Schedule schedule, PlanTask task) => _ofTask is { } words ? words(schedule, task) : _ofProject!(schedule);

    /// <summary>What the project has there.</summary>
    internal string OfProject(Schedule schedule) => _ofProject is { } words ? words(schedule) : "in the plan";

    private static string OwnersOf(Schedule schedule, PlanTask task) =>
        task.Assignments.IsEmpty
            ? "nobody"
            : string.Join(
                ", ",
                task.Assignments.Select(a =>
                    schedule.Plan.FindPerson(a.Person)?.Name
                    + (a.Share == 1 ? "" : string.Create(CultureInfo.InvariantCulture, $" {a.Share * 100:0.#}%"))
                )
            );

    private static string ProgressOf(Schedule schedule, PlanTask task) =>
        task.IsFinished
            ? "done"
            : string.Create(
                CultureInfo.InvariantCulture,
                $"{task.Progress * 100:0.#}%{(task.Remaining is { } left ? $", {left} left" : "")}"
            );

    private static string AnchorOf(Schedule schedule) =>
        schedule.Plan.Project.ScheduleFrom == ScheduleFrom.Start
            ? $"starts {Dates.Day(schedule.Plan.Project.Anchor)}"
            : $"finished by {Dates.FinishDay(schedule.Plan.Project.Anchor)}";

    private static string? CalendarName(Plan plan, string? id) => id is null ? null : plan.CalendarBook.Find(id)?.Name;
}
