using System.Globalization;

namespace Auxilium.Web.Pages.Shared;

/// <summary>Moments in the organisation's time zone.</summary>
internal static class LocalTimes
{
    /// <summary>28 Nov 08:32, with the year where it is not this one.</summary>
    public static string MomentOf(this TimeProvider clock, DateTime utc) => $"{clock.DayOf(utc)} {clock.InWords(utc, "HH:mm")}";

    /// <summary>28 Nov, with the year where it is not this one.</summary>
    public static string DayOf(this TimeProvider clock, DateTime utc) =>
        clock.InWords(utc, clock.InWords(utc, "yyyy") == clock.InWords(clock.GetUtcNow().UtcDateTime, "yyyy") ? "d MMM" : "d MMM yyyy");

    /// <param name="clock">Knows where the server is.</param>
    /// <param name="utc">A moment.</param>
    /// <param name="format">Such as <c>d MMM HH:mm</c>.</param>
    public static string InWords(this TimeProvider clock, DateTime utc, string format) =>
        TimeZoneInfo.ConvertTimeFromUtc(utc, clock.LocalTimeZone).ToString(format, CultureInfo.InvariantCulture);
}
