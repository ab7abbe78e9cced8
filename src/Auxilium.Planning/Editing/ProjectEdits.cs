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
        return Changed(plan, plan.Project with { Start = start }, new SetProjectStart(start), new SetProjectStart(plan.Project.Start), EditField.ProjectStart);
    }

    internal static AppliedEdit SetFinishBy(Plan plan, SetFinishBy edit)
    {
        DateOrTime? finishBy = edit.FinishBy is { } by ? InRange(by.AsFinish(plan.ProjectCalendar), EditField.FinishBy) : null;
        DateOrTime? before = plan.Project.FinishBy is { } was ? was : null;
        var project = plan.Project with { FinishBy = finishBy?.AsFinish(plan.ProjectCalendar) };
        return Changed(plan, project, new SetFinishBy(finishBy), new SetFinishBy(before), EditField.FinishBy);
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
