using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.CalendarEdits;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

/// <summary>Adds a calendar, or changes the one with its id.</summary>
/// <param name="Position">Where a new one stands among the plan's calendars; at the end when left out.</param>
public sealed record SaveCalendar(WorkCalendar Calendar, int? Position = null) : PlanEdit, IEditKind
{
    public static string Wire => "saveCalendar";

    public override EditTraits Traits => new(null, EditField.Calendars, EditRight.Edit);

    public override string Many => "calendars changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var calendar = Calendar with { Name = CheckName(Calendar.Name) };
        // A plan says that somebody is away, never why.
        if (plan.People.Any(p => PeopleEdits.OwnCalendarOf(p.Id) == calendar.Id))
            calendar = calendar with { Exceptions = [.. calendar.Exceptions.Select(e => e with { Name = "Away" })] };
        if (!PlanIds.IsId(calendar.Id))
            throw Refuse("id", "A calendar's id is 1 to 64 letters, digits, “-” or “_”.");
        if (calendar.Base is { } id && id != calendar.Id && plan.CalendarBook.Find(id) is null)
            throw Refuse("unknownCalendar", $"There is no calendar “{id}” to build on.");
        var was = plan.CalendarBook.Find(calendar.Id);
        if (was is null && plan.Calendars.Length >= MostCalendars)
            throw Refuse("tooMany", $"A plan holds at most {MostCalendars} calendars.");
        if (
            plan.Calendars.FirstOrDefault(c => c.Id != calendar.Id && c.Name.Equals(calendar.Name, StringComparison.OrdinalIgnoreCase)) is
            { } same
        )
            throw Refuse("calendarName", $"There is a calendar “{same.Name}” already: give this one another name.");
        var calendars = was is null
            ? plan.Calendars.Insert(Math.Clamp(Position ?? int.MaxValue, 0, plan.Calendars.Length), calendar)
            : plan.Calendars.Replace(was, calendar);
        var after = plan with { Calendars = calendars };
        if (after.CalendarBook.HasCircularBase(calendar))
            throw Refuse("circle", $"“{calendar.Name}” would build on itself: choose another calendar for it to build on.");
        RefuseWithoutWork(after, calendar);
        PlanEdit inverse = was is null ? new RemoveCalendar(calendar.Id) : new SaveCalendar(was);
        return new AppliedEdit(after, this with { Calendar = calendar }, inverse, [new Touch(null, EditField.Calendars)]);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [
            new("The calendar "),
            new(Calendar.Name, true),
            new(before.Plan.CalendarBook.Find(Calendar.Id) is null ? " is new." : " has changed."),
        ];

    public static PlanEdit Sample(EditSampler from) =>
        new SaveCalendar(WorkCalendar.Weekdays with { Id = from.Flip ? "a" : "c", Name = "Other" });
}

/// <summary>Removes a calendar that nothing goes by.</summary>
public sealed record RemoveCalendar(string Calendar) : PlanEdit, IEditKind
{
    public static string Wire => "removeCalendar";

    public override EditTraits Traits => new(null, EditField.Calendars, EditRight.Edit);

    public override string Many => "calendars changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var calendar = plan.CalendarBook.Find(Calendar) ?? throw Refuse("unknownCalendar", "This calendar is no longer in the plan.");
        if (WhoGoesBy(plan, calendar.Id) is { } who)
            throw Refuse("calendarInUse", $"{who} goes by “{calendar.Name}”: give that another calendar first.");
        var at = plan.Calendars.IndexOf(calendar);
        return new AppliedEdit(
            plan with
            {
                Calendars = plan.Calendars.RemoveAt(at),
            },
            this,
            new SaveCalendar(calendar, at),
            [new Touch(null, EditField.Calendars)]
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [new("The calendar "), CalendarCalled(before, after, Calendar), new(" is gone.")];

    internal override bool IsLeft(Schedule before, Schedule after) => before.Plan.CalendarBook.Find(Calendar) is not null;

    public static PlanEdit Sample(EditSampler from) =>
        from.On(
            from.Plan with
            {
                Calendars = from.Plan.Calendars.Add(WorkCalendar.Weekdays with { Id = "spare", Name = "Spare" }),
            },
            new RemoveCalendar("spare")
        );
}

/// <summary>The calendars of a plan.</summary>
internal static class CalendarEdits
{
    internal const int MostCalendars = 200;

    /// <exception cref="EditRefusedException">The plan has no calendar with that id.</exception>
    public static void CheckKnown(Plan plan, string? calendar, string? task, EditField field)
    {
        if (calendar is not null && plan.CalendarBook.Find(calendar) is null)
            throw new EditRefusedException(
                "unknownCalendar",
                $"The plan has no calendar “{LengthText.Shorten(calendar)}”: choose one of its calendars, or make it first.",
                task,
                field
            );
    }

    internal static string? WhoGoesBy(Plan plan, string calendar)
    {
        if (plan.Project.Calendar == calendar)
            return "The project";
        if (plan.Calendars.FirstOrDefault(c => c.Base == calendar) is { } other)
            return $"The calendar “{other.Name}”";
        if (plan.People.FirstOrDefault(p => p.Calendar == calendar) is { } person)
            return person.Name;
        return plan.Tasks.FirstOrDefault(t => t.Calendar == calendar) is { } task
            ? LinkRules.Named(plan, plan.Index.RowOf(task.Id))
            : null;
    }

    internal static void RefuseWithoutWork(Plan plan, WorkCalendar calendar)
    {
        if (plan.CalendarBook.WorkTimeOf(calendar.Id).Between(PlanTime.Earliest, PlanTime.Latest) == 0)
            throw Refuse(
                "noWorkingTime",
                $"“{calendar.Name}” has no working time at all: give at least one weekday some hours, such as 09:00-17:00."
            );
    }

    internal static string CheckName(string name)
    {
        var trimmed = name.Trim();
        if (trimmed.Length == 0)
            throw Refuse("calendarName", "A calendar needs a name: type one, such as Weekend crew.");
        if (trimmed.Length > PlanTask.LongestName || trimmed.Any(char.IsControl))
            throw Refuse("calendarName", $"A calendar's name is one line of at most {PlanTask.LongestName} characters.");
        return trimmed;
    }

    internal static EditRefusedException Refuse(string code, string message) => new(code, message, null, EditField.Calendars);
}
