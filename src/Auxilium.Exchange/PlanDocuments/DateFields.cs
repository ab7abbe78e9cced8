using Auxilium.Planning.Calendars;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Reads dates and lengths of a plan document.</summary>
internal static class DateFields
{
    public static DateOrTime? Date(this JsonObjectReader at, string field)
    {
        if (at.Text(field, 40) is not { } text)
            return null;
        if (!DateOrTime.TryParseIso(text, out var date))
        {
            at.Error(field, "date", $"“{text}” is not a date like 2027-05-03 or an instant like 2027-05-03T09:00.");
            return null;
        }
        if (date.Date.Year is >= 1990 and <= 2100)
            return date;
        at.Error(field, "date", $"{text} is outside the years that can be planned: give a date from 1990 to 2100.");
        return null;
    }
}
