namespace Auxilium.Exchange.PlanDocuments;

/// <summary>One thing wrong with a document.</summary>
/// <param name="Path">JSON path of the culprit, such as <c>$.tasks[3].length</c>.</param>
/// <param name="Code">Stable name of the kind of error.</param>
/// <param name="Message">What is wrong and what would be right.</param>
/// <param name="Tasks">For a circle: the ids of its tasks in order.</param>
public sealed record DocumentError(string Path, string Code, string Message, IReadOnlyList<string>? Tasks = null);

/// <summary>A document cannot be read. Nothing of it was guessed.</summary>
public sealed class UnreadableDocumentException(IReadOnlyList<DocumentError> errors) : Exception(errors.Count > 0 ? errors[0].Message : "")
{
    public IReadOnlyList<DocumentError> Errors { get; } = errors;
}
