using System.Threading.RateLimiting;

namespace Auxilium.Web.Api;

/// <summary>How much the server takes on at once.</summary>
internal static class Limits
{
    /// <summary>Large calculations run a few at a time; more wait their turn.</summary>
    public const string Calculation = nameof(Calculation);

    public static void Define(Microsoft.AspNetCore.RateLimiting.RateLimiterOptions options)
    {
        options.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
        options.AddPolicy(Calculation, _ => RateLimitPartition.GetConcurrencyLimiter("all", _ => new ConcurrencyLimiterOptions { PermitLimit = 4, QueueLimit = 100 }));
    }
}
