using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.ProjectEdits;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

public sealed record RenameProject(string Name) : PlanEdit, IEditKind
{
    public static string Wire => "renameProject";

    public override EditTraits Traits => new(null, EditField.None, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var name = CheckName(Name);
        return Changed(
            plan,
            plan.Project with
            {
                Name = name,
            },
            new RenameProject(name),
            new RenameProject(plan.Project.Name),
            EditField.ProjectName
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [new("The project is now called "), new(Name, true), new(".")];

    public static PlanEdit Sample(EditSampler from) => new RenameProject("Regatta");
}

/// <summary>The day the project starts; dates go from there.</summary>
public sealed record SetProjectStart(DateOrTime Start) : UndecidedEdit, IEditKind
{
    public static string Wire => "setProjectStart";

    public override EditTraits Traits => new(null, EditField.ProjectStart, EditRight.Edit);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var start = InRange(Start.AsStart(plan.ProjectCalendar), EditField.ProjectStart);
        return Anchored(plan, plan.Project with { ScheduleFrom = ScheduleFrom.Start, Start = start }, EditField.ProjectStart);
    }

    public static PlanEdit Sample(EditSampler from) => new SetProjectStart(from.Day());
}

/// <summary>The day the project must be finished; dates go back from there, and the latest start follows.</summary>
public sealed record SetProjectFinish(DateOrTime Finish) : UndecidedEdit, IEditKind
{
    public static string Wire => "setProjectFinish";

    public override EditTraits Traits => new(null, EditField.ProjectFinish, EditRight.Edit);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var finish = InRange(Finish.AsFinish(plan.ProjectCalendar), EditField.ProjectFinish);
        return Anchored(plan, plan.Project with { ScheduleFrom = ScheduleFrom.Finish, Finish = finish }, EditField.ProjectFinish);
    }

    public static PlanEdit Sample(EditSampler from) => new SetProjectFinish(from.Day());
}

/// <summary>Sets which end of the project dates are worked out from, exactly.</summary>
public sealed record SetAnchor(ScheduleFrom From, PlanTime? Start, PlanTime? Finish) : PlanEdit, IEditKind
{
    public static string Wire => "setAnchor";

    public override EditTraits Traits => new(null, EditField.ProjectFinish, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var field = From == ScheduleFrom.Start ? EditField.ProjectStart : EditField.ProjectFinish;
        if ((From == ScheduleFrom.Start ? Start : Finish) is not { } date)
            throw Refuse("date", "Give the date that the others are worked out from.", field);
        InRange(date, field);
        if ((From == ScheduleFrom.Start ? Finish : Start) is { } other)
            InRange(other, field);
        return Anchored(plan, plan.Project with { ScheduleFrom = From, Start = Start, Finish = Finish }, field);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { From: ScheduleFrom.Finish } =>
            [
                new("The project must be finished "),
                new(Dates.FinishDay(after.Finish), true),
                new("; the latest start is "),
                new(Dates.Day(after.Start), true),
                new("."),
            ],
            _ => [new("The project now starts "), new(Dates.Day(after.Start), true), new(".")],
        };

    public static PlanEdit Sample(EditSampler from) =>
        from.Flip
            ? new SetAnchor(ScheduleFrom.Start, PlanTime.At(2027, 5, 4, 9), null)
            : new SetAnchor(ScheduleFrom.Finish, null, PlanTime.At(2027, 6, 4, 17));
}

/// <summary>The day up to which progress is reported, and whether unfinished work before it is planned after it.</summary>
public sealed record SetStatusDate(DateOrTime? StatusDate, bool MoveUnfinishedWork = false) : PlanEdit, IEditKind
{
    public static string Wire => "setStatusDate";

    public override EditTraits Traits => new(null, EditField.StatusDate, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        PlanTime? status = StatusDate is { } date ? InRange(date.AsStart(plan.ProjectCalendar), EditField.StatusDate) : null;
        if (status is null && MoveUnfinishedWork)
            throw Refuse("date", "Unfinished work moves to after the status date: give that date.", EditField.StatusDate);
        var project = plan.Project with { StatusDate = status, MoveUnfinishedWork = MoveUnfinishedWork };
        return Changed(plan, project, StatusOf(project), StatusOf(plan.Project), EditField.StatusDate);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { StatusDate: { } date } =>
            [
                new($"Progress is reported up to {Dates.Day(date.AsStart(after.Plan.ProjectCalendar))}"),
                new(MoveUnfinishedWork ? "; unfinished work goes on after it." : "."),
            ],
            _ => [new("The project has no status date now.")],
        };

    public static PlanEdit Sample(EditSampler from) => new SetStatusDate(from.Random.Next(4) == 0 ? null : from.Day(), from.Flip);
}

/// <param name="HoursPerDay">What a day of work comes to: above 0, at most 24, in whole minutes.</param>
/// <param name="DaysPerWeek">What a week comes to: above 0, at most 7.</param>
public sealed record SetWorkUnits(decimal HoursPerDay, decimal DaysPerWeek) : PlanEdit, IEditKind
{
    public static string Wire => "setWorkUnits";

    public override EditTraits Traits => new(null, EditField.WorkUnits, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var (hours, days) = this;
        if (hours is <= 0 or > 24 || hours * 60 != decimal.Truncate(hours * 60))
            throw Refuse(
                "hoursPerDay",
                "A day has above 0 and at most 24 hours of work, in whole minutes: type a number such as 7.5.",
                EditField.WorkUnits
            );
        if (days is <= 0 or > 7)
            throw Refuse("daysPerWeek", "A week has above 0 and at most 7 days of work: type a number such as 5.", EditField.WorkUnits);
        var units = new WorkUnits(hours, days);
        var after = plan with { Project = plan.Project with { Units = units } };
        if (after.FirstUnusableLength() is var (row, why))
            throw Refuse("length", $"With that, {LinkRules.Named(plan, row)} would not fit: {why}", EditField.WorkUnits);
        if (LengthText.WhyUnusable(plan.Project.CriticalFloat, units) is { } unusable)
            throw Refuse("length", $"With that, the float that counts as none would not fit: {unusable}", EditField.WorkUnits);
        return new AppliedEdit(
            after,
            this,
            new SetWorkUnits(plan.Project.Units.HoursPerDay, plan.Project.Units.DaysPerWeek),
            [new Touch(null, EditField.WorkUnits)]
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [
            new(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"A day is now {HoursPerDay:0.##} hours of work and a week {DaysPerWeek:0.##} days."
                )
            ),
        ];

    public static PlanEdit Sample(EditSampler from) => new SetWorkUnits(from.Random.Next(6, 10), from.Random.Next(4, 7));
}

/// <param name="Calendar">Id of one of the plan's calendars; <c>null</c> for plain weekdays.</param>
public sealed record SetProjectCalendar(string? Calendar) : PlanEdit, IEditKind
{
    public static string Wire => "setProjectCalendar";

    public override EditTraits Traits => new(null, EditField.ProjectCalendar, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        CalendarEdits.CheckKnown(plan, Calendar, null, EditField.ProjectCalendar);
        return Changed(
            plan,
            plan.Project with
            {
                Calendar = Calendar,
            },
            this,
            new SetProjectCalendar(plan.Project.Calendar),
            EditField.ProjectCalendar
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [
            new("The project goes by the calendar "),
            new(after.Plan.Project.Calendar is { } id ? after.Plan.CalendarBook.Find(id)!.Name : WorkCalendar.Weekdays.Name, true),
            new("."),
        ];

    public static PlanEdit Sample(EditSampler from) => new SetProjectCalendar(from.Flip ? "b" : null);
}

/// <summary>What counts as setting the finish, and what float is measured to.</summary>
public sealed record SetCriticality(Length CriticalFloat, FloatTarget FloatTo) : PlanEdit, IEditKind
{
    public static string Wire => "setCriticality";

    public override EditTraits Traits => new(null, EditField.Criticality, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (CriticalFloat.Amount < 0)
            throw Refuse("length", "This float cannot be negative: type a length from 0 up, such as 1d.", EditField.Criticality);
        if (LengthText.WhyUnusable(CriticalFloat, plan.Project.Units) is { } why)
            throw Refuse("length", why, EditField.Criticality);
        var project = plan.Project with { CriticalFloat = CriticalFloat, FloatTo = FloatTo };
        return Changed(plan, project, this, new SetCriticality(plan.Project.CriticalFloat, plan.Project.FloatTo), EditField.Criticality);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [new($"Tasks with {(CriticalFloat.IsZero ? "no float" : $"at most {CriticalFloat.InWords()} of float")} set the finish.")];

    public static PlanEdit Sample(EditSampler from) =>
        new SetCriticality(Length.OneDay, from.Flip ? FloatTarget.FinishBy : FloatTarget.ProjectFinish);
}

/// <summary>The stretches of days that are good to know of.</summary>
public sealed record SetPeriods(ImmutableArray<NamedPeriod> Periods) : PlanEdit, IEditKind
{
    public static string Wire => "setPeriods";

    public override EditTraits Traits => new(null, EditField.Periods, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        ImmutableArray<NamedPeriod> periods = Periods.IsDefaultOrEmpty
            ? []
            :
            [
                .. Periods
                    .Select(p => p with { Name = p.Name.Trim() })
                    .OrderBy(p => p.From)
                    .ThenBy(p => p.To)
                    .ThenBy(p => p.Name, StringComparer.Ordinal),
            ];
        if (periods.Length > NamedPeriod.Most)
            throw Refuse("periods", $"A project has at most {NamedPeriod.Most} named periods.", EditField.Periods);
        if (periods.Select(p => p.WhyRefused()).FirstOrDefault(why => why is not null) is { } refused)
            throw Refuse("periods", refused, EditField.Periods);
        return Changed(
            plan,
            plan.Project with
            {
                Periods = periods,
            },
            new SetPeriods(periods),
            new SetPeriods(plan.Project.Periods),
            EditField.Periods
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [new(Periods.IsEmpty ? "There are no named periods now." : $"Named periods: {string.Join(", ", Periods.Select(p => p.Name))}.")];

    public static PlanEdit Sample(EditSampler from) => new SetPeriods(from.Flip ? [] : [new("Week", new(2027, 5, 3), new(2027, 5, 9))]);
}

public sealed record SetFinishBy(DateOrTime? FinishBy) : PlanEdit, IEditKind
{
    public static string Wire => "setFinishBy";

    public override EditTraits Traits => new(null, EditField.FinishBy, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        DateOrTime? finishBy = FinishBy is { } by ? InRange(by.AsFinish(plan.ProjectCalendar), EditField.FinishBy) : null;
        DateOrTime? before = plan.Project.FinishBy is { } was ? was : null;
        var project = plan.Project with { FinishBy = finishBy?.AsFinish(plan.ProjectCalendar) };
        return Changed(plan, project, new SetFinishBy(finishBy), new SetFinishBy(before), EditField.FinishBy);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        after.Plan.Project.FinishBy is { } by
            ? [new("The project must be finished by "), new(Dates.FinishDay(by), true), new(".")]
            : [new("The project has no deadline now.")];

    public static PlanEdit Sample(EditSampler from) => new SetFinishBy(from.Flip ? null : from.Day());
}

/// <summary>Facts of the project itself.</summary>
public static class ProjectEdits
{
    internal static AppliedEdit Anchored(Plan plan, ProjectSettings project, EditField field) =>
        Changed(plan, project, AnchorOf(project), AnchorOf(plan.Project), field);

    private static SetAnchor AnchorOf(ProjectSettings project) => new(project.ScheduleFrom, project.Start, project.Finish);

    internal static SetStatusDate StatusOf(ProjectSettings project) =>
        new(project.StatusDate is { } status ? status : (DateOrTime?)null, project.MoveUnfinishedWork);

    /// <summary>A project's name without spaces around it.</summary>
    /// <exception cref="EditRefusedException">It is empty, too long or more than a line.</exception>
    public static string CheckName(string? name)
    {
        var trimmed = (name ?? "").Trim();
        if (trimmed.Length == 0)
            throw Refuse("name", "A project needs a name: type what you are planning.", EditField.ProjectName);
        if (trimmed.Length > PlanTask.LongestName)
            throw Refuse(
                "name",
                $"This name has {trimmed.Length:N0} characters: shorten it to {PlanTask.LongestName} or fewer.",
                EditField.ProjectName
            );
        if (trimmed.Any(char.IsControl))
            throw Refuse("name", "A name is one line of text: leave out line breaks.", EditField.ProjectName);
        return trimmed;
    }

    internal static PlanTime InRange(PlanTime time, EditField field) =>
        time.IsInRange
            ? time
            : throw Refuse("outOfRange", "That is outside the years that can be planned: give a date from 1990 to 2100.", field);

    internal static EditRefusedException Refuse(string code, string message, EditField field) => new(code, message, null, field);

    internal static AppliedEdit Changed(Plan plan, ProjectSettings project, PlanEdit edit, PlanEdit inverse, EditField field) =>
        new(plan with { Project = project }, edit, inverse, [new Touch(null, field)]);
}
