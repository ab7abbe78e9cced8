using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Editing;
using Auxilium.Storage.Plans;

namespace Auxilium.Web.Api;

/// <summary>The API's answers when something is wrong, as <c>application/problem+json</c>.</summary>
internal static class Problems
{
    public static IResult NoSuchProject() =>
        Results.Problem("There is no project with this id.", statusCode: StatusCodes.Status404NotFound);

    public static IResult NotFound(string message) => Results.Problem(message, statusCode: StatusCodes.Status404NotFound);

    /// <summary>The page that sent it belongs to another sign-in, or is not one of ours.</summary>
    public static IResult Forged() =>
        Problem(StatusCodes.Status400BadRequest, "This page is out of date: reload it and try again.", ("code", "pageOutOfDate"));

    public static IResult MayNot(string message) => Problem(StatusCodes.Status403Forbidden, message, ("code", "mayNot"));

    public static IResult Unreadable(UnreadableDocumentException unreadable) =>
        Problem(StatusCodes.Status400BadRequest, unreadable.Errors[0].Message, ("errors", unreadable.Errors));

    public static IResult Refused(EditRefusedException refused) =>
        Problem(
            StatusCodes.Status422UnprocessableEntity,
            refused.Message,
            ("code", refused.Code),
            ("task", refused.Task),
            ("field", JsonNames.Camel(refused.Field))
        );

    public static IResult Conflict(EditConflict conflict) =>
        Problem(
            StatusCodes.Status409Conflict,
            conflict.IsOwn
                ? $"You changed this since, in another window: it is now “{conflict.Theirs}”, and this would make it "
                    + $"“{conflict.Yours}”. Choose which it is to be."
                : $"{conflict.By} changed this meanwhile: it is now “{conflict.Theirs}”, and you want “{conflict.Yours}”. Choose "
                    + "which it is to be.",
            ("code", "changedMeanwhile"),
            ("task", conflict.Touch.Task),
            ("field", JsonNames.Camel(conflict.Touch.Field)),
            ("by", conflict.By),
            ("theirs", conflict.Theirs),
            ("yours", conflict.Yours),
            ("version", conflict.Current.Version)
        );

    /// <summary>What was to be done cannot be done any more, or not yet: it has been done, or there is nothing to do it to.</summary>
    public static IResult Gone(string message, string code) => Problem(StatusCodes.Status409Conflict, message, ("code", code));

    public static IResult Bad(string message, string code) => Problem(StatusCodes.Status400BadRequest, message, ("code", code));

    private static IResult Problem(int status, string detail, params (string Name, object? Value)[] more) =>
        Results.Problem(detail, statusCode: status, extensions: more.Select(m => KeyValuePair.Create(m.Name, m.Value)));
}
