namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Days of the week as documents and edits have them: <c>mon</c> to <c>sun</c>.</summary>
internal static class WeekdayNames
{
    public static string Of(DayOfWeek day) => CalendarReader.Weekdays[((int)day + 6) % 7];

    public static bool TryParse(string text, out DayOfWeek day)
    {
        var at = Array.IndexOf(CalendarReader.Weekdays, text);
        day = (DayOfWeek)((at + 1) % 7);
        return at >= 0;
    }
}
