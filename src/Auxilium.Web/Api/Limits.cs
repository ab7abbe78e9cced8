using System.Threading.RateLimiting;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>Limits on how much is asked of the server at once.</summary>
internal static class Limits
{
    /// <summary>
    /// What notifies others or takes space: comments, files, changes of an account. How often a person may do it in a minute.
    /// </summary>
    public const string Writing = nameof(Writing);

    private const int WritingsAMinute = 60;

    /// <summary>
    /// Routes that a secret opens: passwords, codes, links. How often an IP address may try in a minute; <c>AUXILIUM_DOOR_TRIES</c> says
    /// otherwise, for many behind one address.
    /// </summary>
    public const string Doors = nameof(Doors);

    private const int TriesAMinute = 30;

    /// <summary>How often an IP address may try.</summary>
    internal static int Tries(HttpContext context) =>
        context.RequestServices.GetRequiredService<IConfiguration>().GetValue("DOOR_TRIES", TriesAMinute);

    private static RateLimitPartition<string> Door(HttpContext context, string door, int times) =>
        RateLimitPartition.GetFixedWindowLimiter($"{door} {context.Connection.RemoteIpAddress}", _ => new FixedWindowRateLimiterOptions
        {
            PermitLimit = Tries(context) * times,
            Window = TimeSpan.FromMinutes(1),
        });

    public static void Define(Microsoft.AspNetCore.RateLimiting.RateLimiterOptions options)
    {
        options.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
        options.AddPolicy(Doors, context => HttpMethods.IsPost(context.Request.Method) ? Door(context, "doors", 1)
            // Secret links cannot be guessed, and a whole office may fetch them through one IP address.
            : context.Request.Path.StartsWithSegments("/shared") || context.Request.Path.StartsWithSegments("/feeds")
                ? Door(context, "links", 20)
            : RateLimitPartition.GetNoLimiter("reading"));
        options.AddPolicy(Writing, context =>
            HttpMethods.IsGet(context.Request.Method)
                ? RateLimitPartition.GetNoLimiter("reading")
                : RateLimitPartition.GetFixedWindowLimiter($"writing {context.User.PersonId()}", _ => new FixedWindowRateLimiterOptions
                {
                    PermitLimit = WritingsAMinute,
                    Window = TimeSpan.FromMinutes(1),
                })
        );
        options.OnRejected = async (rejected, cancel) =>
        {
            var wait = rejected.Lease.TryGetMetadata(MetadataName.RetryAfter, out var after) ? Math.Max(1, (int)after.TotalSeconds) : 60;
            rejected.HttpContext.Response.Headers.RetryAfter = wait.ToString(System.Globalization.CultureInfo.InvariantCulture);
            if (SignInCookies.IsForPrograms(rejected.HttpContext))
                await Results
                    .Problem(
                        $"That was too often in a short time: try again in {wait} seconds.",
                        statusCode: StatusCodes.Status429TooManyRequests
                    )
                    .ExecuteAsync(rejected.HttpContext);
        };
    }
}
