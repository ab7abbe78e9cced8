using System.Globalization;

namespace Auxilium.Planning.Calendars;

/// <summary>
/// A day, or an instant in it, as a person or a document gives it. A bare day means its first working minute where a start is
/// asked for, and the end of its last one where a finish is; on a day without work 00:00 and 24:00 of it.
/// </summary>
public readonly record struct DateOrTime(DateOnly Date, int? Minute = null)
{
    public static bool TryParseIso(string? text, out DateOrTime value)
    {
        value = default;
        if (DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var date))
        {
            value = new DateOrTime(date);
            return true;
        }
        if (!PlanTime.TryParse(text, out var time))
            return false;
        value = new DateOrTime(time.Date, time.MinuteOfDay);
        return true;
    }

    public static implicit operator DateOrTime(PlanTime time) => new(time.Date, time.MinuteOfDay);

    public PlanTime AsStart(WorkTime calendar)
    {
        if (Minute is { } minute)
            return PlanTime.On(Date, minute);
        var work = calendar.On(Date);
        return PlanTime.On(Date, work.Count == 0 ? 0 : work[0].Start);
    }

    public PlanTime AsFinish(WorkTime calendar)
    {
        if (Minute is { } minute)
            return PlanTime.On(Date, minute);
        var work = calendar.On(Date);
        return PlanTime.On(Date, work.Count == 0 ? PlanTime.MinutesPerDay : work[^1].End);
    }

    public override string ToString() =>
        Minute is { } minute ? PlanTime.On(Date, minute).ToString() : Date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
