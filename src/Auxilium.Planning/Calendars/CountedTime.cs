namespace Auxilium.Planning.Calendars;

/// <summary>
/// An instant with the working minutes of a calendar before it, so that one that was found by counting need not be counted again.
/// Both lie in one number, the instant above, so that the later of two is found without a branch that could be guessed wrong.
/// </summary>
internal readonly record struct CountedTime
{
    private readonly long _both;

    /// <param name="time">The instant.</param>
    /// <param name="worked">As <see cref="WorkTime.Worked"/> gives them; -1 where they are not known.</param>
    public CountedTime(PlanTime time, int worked = -1)
        : this(((long)time.Minutes << 32) | (uint)(worked + 1)) { }

    private CountedTime(long both) => _both = both;

    /// <summary>Later than any other.</summary>
    public static CountedTime Never => new((long)int.MaxValue << 32);

    public PlanTime Time => new((int)(_both >> 32));

    /// <summary>The working minutes before it; negative where they are not known.</summary>
    public int Worked => (int)_both - 1;

    public static CountedTime Max(CountedTime a, CountedTime b) => new(Math.Max(a._both, b._both));

    public static CountedTime Min(CountedTime a, CountedTime b) => new(Math.Min(a._both, b._both));

    /// <summary>The first or the second of two, without a branch.</summary>
    public static CountedTime Either(bool first, CountedTime a, CountedTime b) => new(first ? a._both : b._both);

    /// <summary>The working minutes before it: those known, where the calendar is the one they were counted by.</summary>
    public int WorkedBy(WorkTime calendar, WorkTime counted) =>
        Worked >= 0 && ReferenceEquals(calendar, counted) ? Worked : calendar.Worked(Time);
}
