using Auxilium.Storage;
using Auxilium.Storage.Plans;
using Auxilium.Web.Api;
using Microsoft.AspNetCore.Diagnostics;

namespace Auxilium.Web;

/// <summary>The answer when something fails here. It needs nothing else, least of all the database.</summary>
internal static class Faults
{
    private const string Away =
        "The database does not answer just now. Try again in a moment: an edit that is sent again with its id is made once.";
    private const string Broken = "Something broke on the server. What was saved is safe; try again in a moment.";

    /// <summary>Seconds after which to try again.</summary>
    private const string RetryAfter = "2";

    private const string Page = """
        <!DOCTYPE html>
        <html lang="en">
        <head>
        <meta charset="utf-8">
        <meta name="viewport" content="width=device-width, initial-scale=1">
        <meta name="color-scheme" content="light dark">{0}
        <title>{1} · Auxilium</title>
        <link rel="stylesheet" href="/app.css">
        </head>
        <body class="page">
        <main id="main" class="sheet sheet-narrow">
        <h1>{1}</h1>
        <p>{2}</p>
        <p><a class="button button-strong" href="">Try again</a></p>
        </main>
        </body>
        </html>
        """;

    public static int StatusOf(Exception e) =>
        e switch
        {
            BadHttpRequestException bad => bad.StatusCode,
            // A malformed form.
            InvalidDataException => StatusCodes.Status400BadRequest,
            _ when DatabaseFaults.IsBadText(e) => StatusCodes.Status400BadRequest,
            TooMuchAtOnceException => StatusCodes.Status429TooManyRequests,
            _ when DatabaseFaults.IsPassing(e) => StatusCodes.Status503ServiceUnavailable,
            { InnerException: { } inner } => StatusOf(inner),
            _ => StatusCodes.Status500InternalServerError,
        };

    /// <summary>Answers as <c>application/problem+json</c> to programs and scripts, and with a page to people.</summary>
    public static async Task AnswerAsync(HttpContext context, bool isApi)
    {
        var error = context.Features.Get<IExceptionHandlerFeature>()!.Error;
        var status = StatusOf(error);
        var isAway = status == StatusCodes.Status503ServiceUnavailable;
        context.Response.StatusCode = status;
        context.Response.Headers.CacheControl = "no-store";
        if (isAway || status == StatusCodes.Status429TooManyRequests)
            context.Response.Headers.RetryAfter = RetryAfter;
        if (isApi)
        {
            await Results
                .Problem(
                    error is BadHttpRequestException or PlanBusyException or TooMuchAtOnceException ? error.Message
                        : isAway ? Away
                        : Broken,
                    statusCode: status
                )
                .ExecuteAsync(context);
            return;
        }
        context.Response.ContentType = "text/html; charset=utf-8";
        var (title, advice) =
            isAway
                ? (
                    "The database does not answer",
                    "Nothing you saved is lost, and what you typed in a plan is kept in that page. This page tries again by itself "
                        + "every few seconds."
                )
            : status >= 500 ? ("Something broke", "Nothing you saved is lost. Try again in a moment.")
            : ("That did not work", "The page may have been open too long. Go back, reload it and try again.");
        var again = isAway && HttpMethods.IsGet(context.Request.Method) ? "\n<meta http-equiv=\"refresh\" content=\"5\">" : "";
        await context.Response.WriteAsync(
            Page.Replace("{0}", again, StringComparison.Ordinal)
                .Replace("{1}", title, StringComparison.Ordinal)
                .Replace("{2}", advice, StringComparison.Ordinal)
        );
    }
}
