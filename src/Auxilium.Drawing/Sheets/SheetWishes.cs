using Auxilium.Exchange.Tables;

namespace Auxilium.Drawing.Sheets;

/// <summary>How a sheet should be.</summary>
/// <param name="Shown">What is drawn besides names and dates.</param>
/// <param name="From">The first day; that of the earliest row when left out.</param>
/// <param name="To">The last day.</param>
/// <param name="HasList">Whether the columns stand beside the timeline.</param>
/// <param name="WeekStart">The day that weeks begin with.</param>
public sealed record SheetWishes(
    Shown Shown = Shown.All,
    DateOnly? From = null,
    DateOnly? To = null,
    bool HasList = true,
    DayOfWeek WeekStart = DayOfWeek.Monday
)
{
    /// <summary>What a row costs, in words; <c>null</c> where that is not told.</summary>
    public Func<int, string?>? CostOf { get; init; }

    private const int MostDays = 20_000;

    /// <summary>The days to draw: those of the rows, with some around, where no others are asked for.</summary>
    internal (DateOnly First, DateOnly Last) DaysOf(PlanTable table, DateOnly today)
    {
        var schedule = table.Schedule;
        var (first, last) = (int.MaxValue, int.MinValue);
        foreach (var row in table.Rows.Where(row => !schedule.IsOff(row)))
        {
            first = Math.Min(first, schedule.StartOf(row).Day);
            last = Math.Max(last, schedule.LastDayOf(row).DayNumber);
        }
        if (first > last)
            (first, last) = (schedule.Start.Day, schedule.Finish.LastDate.DayNumber);
        if (Shown.HasFlag(Shown.Deadlines) && table.Plan.Project.FinishBy is { } by)
            last = Math.Max(last, by.LastDate.DayNumber);
        // Today is on it when it is not far.
        var around = Math.Max(3, (last - first) / 8);
        if (today.DayNumber >= first - around && today.DayNumber <= last + around)
            (first, last) = (Math.Min(first, today.DayNumber), Math.Max(last, today.DayNumber));
        var from = From ?? DateOnly.FromDayNumber(Math.Max(0, first - 2));
        var to = To ?? DateOnly.FromDayNumber(last + Math.Max(3, (last - first) / 25));
        if (to < from)
            to = from;
        return (from, to.DayNumber - from.DayNumber > MostDays ? from.AddDays(MostDays) : to);
    }
}
