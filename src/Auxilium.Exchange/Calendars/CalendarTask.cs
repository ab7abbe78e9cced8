namespace Auxilium.Exchange.Calendars;

/// <summary>A task as calendar programs get it.</summary>
/// <param name="Id">An id that stays the same, and that no other task has.</param>
/// <param name="From">Its first day.</param>
/// <param name="To">Its last day.</param>
/// <param name="Sequence">Grows with every change of its plan, so that calendar programs know which telling is the newer.</param>
/// <param name="Hours">When it begins and ends, in UTC, if it takes some hours of one day; otherwise it takes whole days.</param>
public sealed record CalendarTask(
    string Id,
    string Name,
    string Project,
    DateOnly From,
    DateOnly To,
    (DateTime Begins, DateTime Ends)? Hours,
    bool IsDone,
    bool IsOwner,
    string Address,
    int Sequence = 0
)
{
    private const string Ending = "@auxilium";

    /// <summary>Part of it that is done, 0 to 1.</summary>
    public decimal Progress { get; init; }

    /// <summary>What came of the same repeating task has the same series.</summary>
    public CalendarSeries? Series { get; init; }

    /// <summary>What a row is called in calendars.</summary>
    public static string IdOf(string task, Guid project) => $"{task}.{project}{Ending}";

    /// <summary>The row that is called so in our calendars; <c>null</c> where it is called otherwise.</summary>
    public static string? TaskOf(string? id) =>
        id?.EndsWith(Ending, StringComparison.Ordinal) == true && id.IndexOf('.', StringComparison.Ordinal) is var dot and > 0
            ? id[..dot]
            : null;
}

/// <summary>How tasks are told to calendar programs.</summary>
/// <param name="Zone">The organisation's, which hours are told in, with its rules; in UTC when left out.</param>
/// <param name="AsToDos">Whether they are to-dos with how far they are; otherwise events.</param>
/// <param name="AlarmDays">So many days before they start there is an alarm; <c>null</c> for none.</param>
public sealed record CalendarWishes(TimeZoneInfo? Zone = null, bool AsToDos = false, int? AlarmDays = null)
{
    /// <summary>An alarm comes at most so many days before.</summary>
    public const int MostAlarmDays = 60;
}
