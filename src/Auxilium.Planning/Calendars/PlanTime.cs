using System.Globalization;

namespace Auxilium.Planning.Calendars;

/// <summary>
/// An instant of the organisation's local wall clock, in whole minutes since 0001-01-01T00:00 (rule T1). It has no zone.
/// </summary>
public readonly record struct PlanTime(int Minutes) : IComparable<PlanTime>
{
    /// <summary>Minutes in every day (rule T1).</summary>
    public const int MinutesPerDay = 1440;

    private const string IsoMinutes = "yyyy-MM-dd'T'HH:mm";

    /// <summary>
    /// 3999-12-31: minutes since the year 1 are an int, in which later days cannot be counted, and no plan may hold them.
    /// </summary>
    private const int LastDay = 1_460_603;

    /// <summary>The earliest instant a plan may hold: 1990-01-01T00:00.</summary>
    public static PlanTime Earliest { get; } = On(new DateOnly(1990, 1, 1));

    /// <summary>The latest instant a plan may hold: the end of 2100-12-31.</summary>
    public static PlanTime Latest { get; } = On(new DateOnly(2101, 1, 1));

    /// <summary>Days since 0001-01-01, which was a Monday.</summary>
    public int Day => Minutes / MinutesPerDay;

    /// <summary>Minutes since midnight, 0 to 1439.</summary>
    public int MinuteOfDay => Minutes % MinutesPerDay;

    /// <summary>The day this instant is in.</summary>
    public DateOnly Date => DateOnly.FromDayNumber(Day);

    /// <summary>The last day that has a minute before this instant: what a person calls the finish date.</summary>
    public DateOnly LastDate => DateOnly.FromDayNumber(Math.Max(0, Minutes - 1) / MinutesPerDay);

    /// <summary>The last day of what starts at an instant and finishes at this one: never before its first day.</summary>
    public DateOnly LastDateFrom(PlanTime start) => LastDate < start.Date ? start.Date : LastDate;

    /// <summary>Whether a plan may hold this instant: 1990 to 2100.</summary>
    public bool IsInRange => this >= Earliest && this <= Latest;

    /// <summary>An instant of a day; every day from the year 4000 on is taken for the last one before it.</summary>
    public static PlanTime On(DateOnly date, int minuteOfDay = 0) => new(Math.Min(date.DayNumber, LastDay) * MinutesPerDay + minuteOfDay);

    public static PlanTime At(int year, int month, int day, int hour = 0, int minute = 0) =>
        On(new DateOnly(year, month, day), hour * 60 + minute);

    public static PlanTime FromDateTime(DateTime value) => On(DateOnly.FromDateTime(value), value.Hour * 60 + value.Minute);

    public DateTime ToDateTime() => new(Minutes * TimeSpan.TicksPerMinute, DateTimeKind.Unspecified);

    /// <summary>Reads <c>YYYY-MM-DDTHH:mm</c> exactly.</summary>
    public static bool TryParse(string? text, out PlanTime time)
    {
        var ok = DateTime.TryParseExact(text, IsoMinutes, CultureInfo.InvariantCulture, DateTimeStyles.None, out var value);
        time = ok ? FromDateTime(value) : default;
        return ok;
    }

    /// <summary>Reads <c>YYYY-MM-DDTHH:mm</c>.</summary>
    /// <exception cref="FormatException">The text is not in that form.</exception>
    public static PlanTime Parse(string text) =>
        TryParse(text, out var time) ? time : throw new FormatException($"“{text}” is not an instant like 2027-05-03T09:00.");

    public override string ToString() => ToDateTime().ToString(IsoMinutes, CultureInfo.InvariantCulture);

    public int CompareTo(PlanTime other) => Minutes.CompareTo(other.Minutes);

    public static PlanTime Max(PlanTime a, PlanTime b) => a >= b ? a : b;

    public static PlanTime Min(PlanTime a, PlanTime b) => a <= b ? a : b;

    public static bool operator <(PlanTime a, PlanTime b) => a.Minutes < b.Minutes;

    public static bool operator >(PlanTime a, PlanTime b) => a.Minutes > b.Minutes;

    public static bool operator <=(PlanTime a, PlanTime b) => a.Minutes <= b.Minutes;

    public static bool operator >=(PlanTime a, PlanTime b) => a.Minutes >= b.Minutes;
}
