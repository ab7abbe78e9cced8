using System.Globalization;

namespace Auxilium.Web;

/// <summary>The product's today: the day of the clock, or one that was fixed at the start for demos, pictures and tests.</summary>
public sealed class Today(OrganisationClock clock, DateOnly? fixedDay)
{
    public DateOnly Date => fixedDay ?? DateOnly.FromDateTime(clock.GetLocalNow().DateTime);

    /// <summary>Seconds until the day ends; <c>null</c> where it was set, and never does.</summary>
    public int? SecondsLeft =>
        fixedDay is null ? (int)Math.Ceiling((clock.EndOf(Date) - clock.GetUtcNow().UtcDateTime).TotalSeconds) : null;

    /// <exception cref="FormatException">The text is there and no day like 2027-05-13.</exception>
    public static DateOnly? Read(string? text) =>
        string.IsNullOrEmpty(text) ? null
        : DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
        && day.Year is >= 1990 and <= 2100
            ? day
        : throw new FormatException($"“{text}” is not a day from 1990 to 2100 like 2027-05-13.");
}
