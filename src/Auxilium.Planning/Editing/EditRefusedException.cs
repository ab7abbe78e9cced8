namespace Auxilium.Planning.Editing;

/// <summary>An edit cannot be applied; the plan is as it was.</summary>
/// <param name="code">Stable name of the reason, such as <c>circle</c>.</param>
/// <param name="message">One sentence for the person who made the edit: what is wrong and what would be right.</param>
/// <param name="task">Id of the row it was typed in.</param>
/// <param name="field">The part of the row it was typed in.</param>
public sealed class EditRefusedException(string code, string message, string? task = null, EditField? field = null) : Exception(message)
{
    public string Code { get; } = code;

    public string? Task { get; } = task;

    public EditField Field { get; } = field ?? EditField.None;
}
