using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>Facts of the project itself.</summary>
public static class ProjectEdits
{
    internal static AppliedEdit Rename(Plan plan, RenameProject edit)
    {
        var name = CheckName(edit.Name);
        return Changed(plan, plan.Project with { Name = name }, new RenameProject(name), new RenameProject(plan.Project.Name), EditField.ProjectName);
    }

    internal static AppliedEdit SetStart(Plan plan, SetProjectStart edit)
    {
        var start = InRange(edit.Start.AsStart(plan.ProjectCalendar), EditField.ProjectStart);
        return Anchored(plan, plan.Project with { ScheduleFrom = ScheduleFrom.Start, Start = start }, EditField.ProjectStart);
    }

    internal static AppliedEdit SetFinish(Plan plan, SetProjectFinish edit)
    {
        var finish = InRange(edit.Finish.AsFinish(plan.ProjectCalendar), EditField.ProjectFinish);
        return Anchored(plan, plan.Project with { ScheduleFrom = ScheduleFrom.Finish, Finish = finish }, EditField.ProjectFinish);
    }

    internal static AppliedEdit SetAnchor(Plan plan, SetAnchor edit)
    {
        var field = edit.From == ScheduleFrom.Start ? EditField.ProjectStart : EditField.ProjectFinish;
        if ((edit.From == ScheduleFrom.Start ? edit.Start : edit.Finish) is not { } date) throw Refuse("date", "Give the date that the others are worked out from.", field);
        InRange(date, field);
        if ((edit.From == ScheduleFrom.Start ? edit.Finish : edit.Start) is { } other) InRange(other, field);
        return Anchored(plan, plan.Project with { ScheduleFrom = edit.From, Start = edit.Start, Finish = edit.Finish }, field);
    }

    private static AppliedEdit Anchored(Plan plan, ProjectSettings project, EditField field) =>
        Changed(plan, project, AnchorOf(project), AnchorOf(plan.Project), field);

    private static SetAnchor AnchorOf(ProjectSettings project) => new(project.ScheduleFrom, project.Start, project.Finish);

    internal static AppliedEdit SetStatusDate(Plan plan, SetStatusDate edit)
    {
        PlanTime? status = edit.StatusDate is { } date ? InRange(date.AsStart(plan.ProjectCalendar), EditField.StatusDate) : null;
        if (status is null && edit.MoveUnfinishedWork) throw Refuse("date", "Unfinished work moves to after the status date: give that date.", EditField.StatusDate);
        var project = plan.Project with { StatusDate = status, MoveUnfinishedWork = edit.MoveUnfinishedWork };
        return Changed(plan, project, StatusOf(project), StatusOf(plan.Project), EditField.StatusDate);
    }

    private static SetStatusDate StatusOf(ProjectSettings project) =>
        new(project.StatusDate is { } status ? status : (DateOrTime?)null, project.MoveUnfinishedWork);

    internal static AppliedEdit SetWorkUnits(Plan plan, SetWorkUnits edit)
    {
        var (hours, days) = edit;
        if (hours is <= 0 or > 24 || hours * 60 != decimal.Truncate(hours * 60)) throw Refuse("hoursPerDay", "A day has above 0 and at most 24 hours of work, in whole minutes: type a number such as 7.5.", EditField.WorkUnits);
        if (days is <= 0 or > 7) throw Refuse("daysPerWeek", "A week has above 0 and at most 7 days of work: type a number such as 5.", EditField.WorkUnits);
        var units = new WorkUnits(hours, days);
        var after = plan with { Project = plan.Project with { Units = units } };
        if (after.FirstUnusableLength() is var (row, why)) throw Refuse("length", $"With that, {LinkRules.Named(plan, row)} would not fit: {why}", EditField.WorkUnits);
        if (LengthText.WhyUnusable(plan.Project.CriticalFloat, units) is { } unusable) throw Refuse("length", $"With that, the float that counts as none would not fit: {unusable}", EditField.WorkUnits);
        return new AppliedEdit(after, edit, new SetWorkUnits(plan.Project.Units.HoursPerDay, plan.Project.Units.DaysPerWeek), [new Touch(null, EditField.WorkUnits)]);
    }

    internal static AppliedEdit SetCalendar(Plan plan, SetProjectCalendar edit)
    {
        CalendarEdits.CheckKnown(plan, edit.Calendar, null, EditField.ProjectCalendar);
        return Changed(plan, plan.Project with { Calendar = edit.Calendar }, edit, new SetProjectCalendar(plan.Project.Calendar), EditField.ProjectCalendar);
    }

    internal static AppliedEdit SetCriticality(Plan plan, SetCriticality edit)
    {
        if (edit.CriticalFloat.Amount < 0) throw Refuse("length", "This float cannot be negative: type a length from 0 up, such as 1d.", EditField.Criticality);
        if (LengthText.WhyUnusable(edit.CriticalFloat, plan.Project.Units) is { } why) throw Refuse("length", why, EditField.Criticality);
        var project = plan.Project with { CriticalFloat = edit.CriticalFloat, FloatTo = edit.FloatTo };
        return Changed(plan, project, edit, new SetCriticality(plan.Project.CriticalFloat, plan.Project.FloatTo), EditField.Criticality);
    }

    internal static AppliedEdit SetFinishBy(Plan plan, SetFinishBy edit)
    {
        DateOrTime? finishBy = edit.FinishBy is { } by ? InRange(by.AsFinish(plan.ProjectCalendar), EditField.FinishBy) : null;
        DateOrTime? before = plan.Project.FinishBy is { } was ? was : null;
        var project = plan.Project with { FinishBy = finishBy?.AsFinish(plan.ProjectCalendar) };
        return Changed(plan, project, new SetFinishBy(finishBy), new SetFinishBy(before), EditField.FinishBy);
    }

    internal static AppliedEdit SetPeriods(Plan plan, SetPeriods edit)
    {
        ImmutableArray<NamedPeriod> periods = edit.Periods.IsDefaultOrEmpty ? [] : [.. edit.Periods.Select(p => p with { Name = p.Name.Trim() }).OrderBy(p => p.From).ThenBy(p => p.To).ThenBy(p => p.Name, StringComparer.Ordinal)];
        if (periods.Length > NamedPeriod.Most) throw Refuse("periods", $"A project has at most {NamedPeriod.Most} named periods.", EditField.Periods);
        if (periods.Select(p => p.WhyRefused()).FirstOrDefault(why => why is not null) is { } refused) throw Refuse("periods", refused, EditField.Periods);
        return Changed(plan, plan.Project with { Periods = periods }, new SetPeriods(periods), new SetPeriods(plan.Project.Periods), EditField.Periods);
    }

    /// <summary>A project's name without spaces around it.</summary>
    /// <exception cref="EditRefusedException">It is empty, too long or more than a line.</exception>
    public static string CheckName(string? name)
    {
        var trimmed = (name ?? "").Trim();
        if (trimmed.Length == 0) throw Refuse("name", "A project needs a name: type what you are planning.", EditField.ProjectName);
        if (trimmed.Length > PlanTask.LongestName)
            throw Refuse("name", $"This name has {trimmed.Length:N0} characters: shorten it to {PlanTask.LongestName} or fewer.", EditField.ProjectName);
        if (trimmed.Any(char.IsControl)) throw Refuse("name", "A name is one line of text: leave out line breaks.", EditField.ProjectName);
        return trimmed;
    }

    private static PlanTime InRange(PlanTime time, EditField field) =>
        time.IsInRange ? time : throw Refuse("outOfRange", "That is outside the years that can be planned: give a date from 1990 to 2100.", field);

    private static EditRefusedException Refuse(string code, string message, EditField field) => new(code, message, null, field);

    private static AppliedEdit Changed(Plan plan, ProjectSettings project, PlanEdit edit, PlanEdit inverse, EditField field) =>
        new(plan with { Project = project }, edit, inverse, [new Touch(null, field)]);
}
