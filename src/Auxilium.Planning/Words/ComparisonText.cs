using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Words;

/// <summary>Says in what two records of a plan differ.</summary>
public static class ComparisonText
{
    /// <summary>"2 working days later", "starts 1 working day later and finishes 3 working days later", "new".</summary>
    public static string Of(ComparedRow row, WorkUnits units)
    {
        var words = row.Change switch
        {
            RowChange.New => "new",
            RowChange.Dropped => "dropped",
            RowChange.Moved when row.Start == row.Finish => RippleText.Shift(row.Finish, units),
            RowChange.Moved => ListText.Listed([.. Moved(row, units)]),
            _ => "",
        };
        // Its dates may differ by nothing but time off.
        if (words.Length == 0 && row.Change == RowChange.Moved)
            words = "at another time of the same working hours";
        if (row.Change is RowChange.New or RowChange.Dropped || row.Effort == 0)
            return words;
        return words.Length == 0 ? EffortOf(row) : $"{words}, {EffortOf(row)}";
    }

    /// <summary>By how much the second record of a plan goes on longer, in working time: "2 working days longer".</summary>
    public static string Longer(Comparison compared, Plan now)
    {
        var (from, to, calendar) = (compared.From, compared.To, now.ProjectCalendar);
        var by = calendar.Between(to.Start, to.Finish) - calendar.Between(from.Start, from.Finish);
        return RippleText.Shift(new WorkMinutes(by), now.Project.Units).Replace("later", "longer").Replace("earlier", "shorter");
    }

    /// <summary>"6 hours more work".</summary>
    private static string EffortOf(ComparedRow row) => $"{HoursInWords(Math.Abs(row.Effort))} {(row.Effort > 0 ? "more" : "less")} work";

    /// <summary>"6 hours", "1.5 hours".</summary>
    public static string HoursInWords(decimal minutes) => new Length(Math.Round(minutes / 60, 2), LengthUnit.Hours).InWords();

    private static IEnumerable<string> Moved(ComparedRow row, WorkUnits units)
    {
        if (row.Start != WorkMinutes.Zero)
            yield return $"starts {RippleText.Shift(row.Start, units)}";
        if (row.Finish != WorkMinutes.Zero)
            yield return $"finishes {RippleText.Shift(row.Finish, units)}";
    }
}
