using System.Threading.RateLimiting;

namespace Auxilium.Web.Api;

/// <summary>How much the server takes on at once.</summary>
internal static class Limits
{
    /// <summary>Large calculations run a few at a time; more wait their turn.</summary>
    public const string Calculation = nameof(Calculation);

    /// <summary>Doors that open with a secret: passwords, codes, links. An address may try so often a minute; <c>AUXILIUM_DOOR_TRIES</c> says otherwise, for many behind one address.</summary>
    public const string Doors = nameof(Doors);

    private const int TriesAMinute = 30;

    /// <summary>How often an address may try.</summary>
    internal static int Tries(HttpContext context) => context.RequestServices.GetRequiredService<IConfiguration>().GetValue("DOOR_TRIES", TriesAMinute);

    private static RateLimitPartition<string> Door(HttpContext context, string door, int times) =>
        RateLimitPartition.GetFixedWindowLimiter($"{door} {context.Connection.RemoteIpAddress}", _ => new FixedWindowRateLimiterOptions { PermitLimit = Tries(context) * times, Window = TimeSpan.FromMinutes(1) });

    public static void Define(Microsoft.AspNetCore.RateLimiting.RateLimiterOptions options)
    {
        options.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
        options.AddPolicy(Doors, context =>
            HttpMethods.IsPost(context.Request.Method) ? Door(context, "doors", 1)
            // A secret in an address cannot be guessed; an office of many fetches through one address.
            : context.Request.Path.StartsWithSegments("/shared") || context.Request.Path.StartsWithSegments("/feeds") ? Door(context, "links", 20)
            : RateLimitPartition.GetNoLimiter("reading"));
        options.AddPolicy(Calculation, _ => RateLimitPartition.GetConcurrencyLimiter("all", _ => new ConcurrencyLimiterOptions { PermitLimit = 4, QueueLimit = 100 }));
    }
}
