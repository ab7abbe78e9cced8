namespace Auxilium.Planning.Calendars;

/// <summary>
/// An instant with the working minutes of a calendar before it, so that one that was found by counting need not be counted again.
/// </summary>
/// <param name="Worked">As <see cref="WorkTime.Worked"/> gives them; negative where they are not known.</param>
internal readonly record struct CountedTime(PlanTime Time, int Worked = -1)
{
    public static CountedTime Max(CountedTime a, CountedTime b) => a.Time >= b.Time ? a : b;

    public static CountedTime Min(CountedTime a, CountedTime b) => a.Time <= b.Time ? a : b;

    /// <summary>The working minutes before it: those known, where the calendar is the one they were counted by.</summary>
    public int WorkedBy(WorkTime calendar, WorkTime counted) =>
        Worked >= 0 && ReferenceEquals(calendar, counted) ? Worked : calendar.Worked(Time);
}
