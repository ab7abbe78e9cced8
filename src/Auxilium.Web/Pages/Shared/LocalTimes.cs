using System.Globalization;

namespace Auxilium.Web.Pages.Shared;

/// <summary>Moments in the organisation's time zone.</summary>
internal static class LocalTimes
{
    /// <param name="clock">Knows where the server is.</param>
    /// <param name="utc">A moment.</param>
    /// <param name="format">Such as <c>d MMM HH:mm</c>.</param>
    public static string InWords(this TimeProvider clock, DateTime utc, string format) =>
        TimeZoneInfo.ConvertTimeFromUtc(utc, clock.LocalTimeZone).ToString(format, CultureInfo.InvariantCulture);
}
