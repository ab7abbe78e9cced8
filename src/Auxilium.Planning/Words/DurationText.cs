using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Words;

/// <summary>Time between two dates as people say it: in days where it is a day or more, else in hours or minutes.</summary>
public static class DurationText
{
    private const int MinutesPerHour = 60;

    /// <param name="minutes">Working minutes, or minutes of the clock; negative ones are said with a minus.</param>
    /// <param name="units">What a day of work comes to.</param>
    /// <param name="onTheClock">Whether they are minutes of the clock, of which a day has 24 hours.</param>
    public static string Of(WorkMinutes minutes, WorkUnits units, bool onTheClock = false)
    {
        var perDay = onTheClock ? PlanTime.MinutesPerDay : units.MinutesPerDay;
        return Math.Abs(minutes.Count) switch
        {
            0 => "0 days",
            var count when count >= perDay => In(perDay, LengthUnit.Days),
            >= MinutesPerHour => In(MinutesPerHour, LengthUnit.Hours),
            _ => In(1, LengthUnit.Minutes),
        };

        string In(int each, LengthUnit unit) =>
            new Length(Math.Round((decimal)minutes.Count / each, 2, MidpointRounding.AwayFromZero), unit).InWords();
    }
}
