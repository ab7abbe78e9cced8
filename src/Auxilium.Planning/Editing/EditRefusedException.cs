namespace Auxilium.Planning.Editing;

/// <summary>The part of a row, or of the project, that an edit is about: where its refusal is shown.</summary>
public enum EditField
{
    None,
    Name,
    Length,
    Owner,
    After,
    Start,
    Finish,
    Progress,
    Place,
    ProjectName,
    ProjectStart,
    FinishBy,
    Deadline,
    Calendar,
    Splits,
    Estimate,
    Remaining,
    Active,
    ProjectFinish,
    StatusDate,
    WorkUnits,
    ProjectCalendar,
    Criticality,
    Calendars,
    People,
    Note,
    Key,
    Colour,
    Label,
    Checklist,
    References,
    Priority,
    Repeat,
    Periods,
    Coordinator,
}

/// <summary>An edit cannot be applied; the plan is as it was.</summary>
/// <param name="code">Stable name of the reason, such as <c>circle</c>.</param>
/// <param name="message">One sentence for the person who made the edit: what is wrong and what would be right.</param>
/// <param name="task">Id of the row it was typed in.</param>
/// <param name="field">The part of the row it was typed in.</param>
public sealed class EditRefusedException(string code, string message, string? task = null, EditField field = EditField.None)
    : Exception(message)
{
    public string Code { get; } = code;

    public string? Task { get; } = task;

    public EditField Field { get; } = field;
}
