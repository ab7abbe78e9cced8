using Auxilium.Storage.Access;

namespace Auxilium.Web.Access;

/// <summary>
/// Sign-ins and refusals, for whoever runs the server. It names ids of people and addresses of machines, and
/// nothing that was typed.
/// </summary>
public sealed partial class AccessLog(ILogger<AccessLog> logger, IHttpContextAccessor contexts)
{
    private string From => contexts.HttpContext?.Connection.RemoteIpAddress?.ToString() ?? "nowhere";

    public void SignedIn(string person) => SignedIn(logger, person, From);

    public void SignedOut(string person) => SignedOut(logger, person, From);

    /// <param name="person">Whose account; <c>null</c> where there is none of that address.</param>
    /// <param name="isClosed">Whether it is locked for a while after too many tries.</param>
    public void Refused(string? person, bool isClosed = false)
    {
        if (isClosed)
            Closed(logger, person!, From);
        else
            Refused(logger, person ?? "nobody of here", From);
    }

    public void SecondStepRefused(string person) => SecondStepRefused(logger, person, From);

    public void TokenRefused() => TokenRefused(logger, From);

    /// <param name="person">Whose account.</param>
    /// <param name="what">Such as "password".</param>
    public void Changed(string person, string what) => Changed(logger, person, what, From);

    /// <param name="person">Who asked; <c>null</c> for nobody.</param>
    /// <param name="what">The route, without what its address was filled with.</param>
    public void NotAllowed(string? person, string what) => NotAllowed(logger, person ?? "nobody", what, From);

    [LoggerMessage(101, LogLevel.Information, "{Person} signed in from {From}.")]
    private static partial void SignedIn(ILogger logger, string person, string from);

    [LoggerMessage(102, LogLevel.Information, "{Person} signed out from {From}.")]
    private static partial void SignedOut(ILogger logger, string person, string from);

    [LoggerMessage(103, LogLevel.Warning, "A sign-in as {Person} from {From} was refused.")]
    private static partial void Refused(ILogger logger, string person, string from);

    [LoggerMessage(
        104,
        LogLevel.Warning,
        "A sign-in as {Person} from {From} was refused: the account is closed for a while after too many tries."
    )]
    private static partial void Closed(ILogger logger, string person, string from);

    [LoggerMessage(105, LogLevel.Warning, "A second step of {Person} from {From} was refused.")]
    private static partial void SecondStepRefused(ILogger logger, string person, string from);

    [LoggerMessage(106, LogLevel.Warning, "A token from {From} was refused.")]
    private static partial void TokenRefused(ILogger logger, string from);

    [LoggerMessage(107, LogLevel.Information, "{Person} has another {What} since a request from {From}.")]
    private static partial void Changed(ILogger logger, string person, string what, string from);

    [LoggerMessage(108, LogLevel.Warning, "{Person} asked for {What} from {From} and may not.")]
    private static partial void NotAllowed(ILogger logger, string person, string what, string from);
}
