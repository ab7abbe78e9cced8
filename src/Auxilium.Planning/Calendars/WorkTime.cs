namespace Auxilium.Planning.Calendars;

/// <summary>
/// A calendar compiled for arithmetic (rule T6). Time is cut into spans in which one week repeats; each span knows the working
/// minutes before it. The years that are asked for are laid out day by day when they first are, so that every operation is a few
/// steps in a table.
/// </summary>
public sealed class WorkTime
{
    /// <summary>Stands for "never": no working minute is left.</summary>
    internal static readonly PlanTime Never = new(int.MaxValue);

    private const int DaysAhead = 60;
    private const int DaysBack = 14;

    private readonly int[] _firstDay;
    private readonly WeekShape[] _week;
    private readonly int[] _before;

    /// <summary>The days that were asked for, and some around them; replaced by a longer table when others are.</summary>
    private DayTable _table = DayTable.Empty;

    internal WorkTime(List<(int FirstDay, WeekShape Week)> spans)
    {
        _firstDay = new int[spans.Count];
        _week = new WeekShape[spans.Count];
        _before = new int[spans.Count];
        for (var i = 0; i < spans.Count; i++)
        {
            (_firstDay[i], _week[i]) = spans[i];
            if (i > 0)
                _before[i] = _before[i - 1] + _week[i - 1].Between(_firstDay[i - 1], _firstDay[i]);
        }
    }

    /// <summary>Every minute of every day.</summary>
    public static WorkTime AroundTheClock { get; } = CalendarCompiler.Compile(WorkCalendar.AroundTheClock, []);

    /// <summary>Working minutes before <paramref name="time"/>, counted from the first day of the calendar.</summary>
    public int Worked(PlanTime time)
    {
        var table = _table;
        var day = time.Minutes / PlanTime.MinutesPerDay;
        var into = day - table.FirstDay;
        var minute = time.Minutes - day * PlanTime.MinutesPerDay;
        return (uint)into < (uint)table.Count ? table.Worked(into, minute) : WorkedFarther(day, minute);
    }

    /// <summary>
    /// Start of the working minute number <paramref name="k"/> (from 0); <see cref="Never"/> when there are not so many.
    /// </summary>
    public PlanTime MinuteStart(int k)
    {
        var table = _table;
        var into = k - table.Before;
        return (uint)into < (uint)table.Total ? table.MinuteStart(into) : StartFarther(k);
    }

    /// <summary>Whether any minute is worked between two instants, years apart as they may be: nothing is laid out for it.</summary>
    internal bool HasWorkBetween(PlanTime from, PlanTime to) =>
        CountedBefore(from.Day, from.MinuteOfDay) < CountedBefore(to.Day, to.MinuteOfDay);

    private int WorkedFarther(int day, int minute)
    {
        Reach(day);
        return CountedBefore(day, minute);
    }

    private PlanTime StartFarther(int k)
    {
        var start = FoundStart(k);
        Reach(start.Day);
        return start;
    }

    /// <summary>Lays out more days, if a plan may have the one that was asked for.</summary>
    private void Reach(int day)
    {
        var (first, last) = (PlanTime.Earliest.Day, PlanTime.Latest.Day);
        var table = _table;
        if (day < first || day > last || (uint)(day - table.FirstDay) < (uint)table.Count)
            return;
        // Twice as many each time: a plan of many years is laid out in a few steps, one of a few months in one.
        var (back, ahead) = (Math.Max(DaysBack, table.Count), Math.Max(DaysAhead, table.Count));
        var from =
            table.Count == 0 ? day - DaysBack
            : day < table.FirstDay ? day - back
            : table.FirstDay;
        var to = Math.Max(day < table.FirstDay ? 0 : day + ahead, table.FirstDay + table.Count - 1);
        (from, to) = (Math.Max(first, from), Math.Min(last, to));
        _table = new DayTable(from, to - from + 1, CountedBefore(from, 0), _firstDay, _week);
    }

    private int CountedBefore(int day, int minute)
    {
        var span = SpanOfDay(day);
        return _before[span] + _week[span].Between(_firstDay[span], day) + _week[span].DayOf(day).WorkedBefore(minute);
    }

    private PlanTime FoundStart(int k)
    {
        if (k < 0)
            return new PlanTime(0);
        var span = LastAtMost(_before, k);
        var week = _week[span];
        return week.Total == 0 ? Never : week.MinuteStart(k - _before[span] + week.WorkedBefore(_firstDay[span]));
    }

    /// <summary>The earliest instant at or after <paramref name="time"/> that begins a working minute.</summary>
    public PlanTime Next(PlanTime time) => MinuteStart(Worked(time));

    /// <summary>The latest instant at or before <paramref name="time"/> that ends a working minute.</summary>
    public PlanTime Prev(PlanTime time) => MinuteEnd(Worked(time));

    /// <summary>
    /// For n &gt; 0 the end of the n-th working minute at or after <paramref name="time"/>; for n = 0 the time itself;
    /// for n &lt; 0 the start of the |n|-th working minute before it.
    /// </summary>
    public PlanTime Add(PlanTime time, int n) =>
        n switch
        {
            0 => time,
            > 0 => MinuteEnd(Worked(time) + n),
            _ => MinuteStart(Worked(time) + n),
        };

    /// <summary>Working minutes in [<paramref name="from"/>, <paramref name="to"/>); negative when they are the other way round.</summary>
    public int Between(PlanTime from, PlanTime to) => Worked(to) - Worked(from);

    /// <summary><see cref="Add(PlanTime, int)"/> of an instant that may have been counted by this calendar.</summary>
    internal CountedTime Add(CountedTime time, int n)
    {
        if (n == 0)
            return time;
        var count = time.WorkedBy(this, this) + n;
        return new CountedTime(n > 0 ? MinuteEnd(count) : MinuteStart(count), count);
    }

    /// <summary>
    /// The latest instant f with <c>Add(f, lag) ≤ limit</c>: a bound on a successor taken back to its predecessor (rule B1).
    /// </summary>
    internal CountedTime TakeBack(CountedTime limit, int lag)
    {
        if (lag == 0)
            return limit;
        var count = limit.WorkedBy(this, this);
        if (lag < 0 && MinuteStart(count) != limit.Time)
            count--;
        return new CountedTime(MinuteStart(count - lag), count - lag);
    }

    /// <summary>The working intervals of a day, in minutes from midnight.</summary>
    public IReadOnlyList<WorkInterval> On(DateOnly date) => _week[SpanOfDay(date.DayNumber)].DayOf(date.DayNumber).Intervals;

    /// <summary>Working minutes in a day.</summary>
    public int WorkedOn(DateOnly date) => _week[SpanOfDay(date.DayNumber)].DayOf(date.DayNumber).Total;

    internal WorkTime Intersect(WorkTime other)
    {
        var days = _firstDay.Concat(other._firstDay).Distinct().Order();
        var known = new Dictionary<(WeekShape, WeekShape), WeekShape>();
        var spans = new List<(int FirstDay, WeekShape Week)>();
        foreach (var day in days)
        {
            var both = (_week[SpanOfDay(day)], other._week[other.SpanOfDay(day)]);
            if (!known.TryGetValue(both, out var week))
                known[both] = week = both.Item1.Intersect(both.Item2);
            if (spans.Count == 0 || !ReferenceEquals(spans[^1].Week, week))
                spans.Add((day, week));
        }
        return new WorkTime(spans);
    }

    /// <summary>
    /// End of the working minute that is the <paramref name="count"/>-th (from 1); <see cref="Never"/> when there are not so many.
    /// </summary>
    internal PlanTime MinuteEnd(int count)
    {
        var start = MinuteStart(count - 1);
        return start == Never ? Never : new PlanTime(start.Minutes + 1);
    }

    private int SpanOfDay(int day) => LastAtMost(_firstDay, day);

    /// <param name="ascending">Its first entry is at most the value.</param>
    /// <param name="value">What is looked for.</param>
    private static int LastAtMost(int[] ascending, int value)
    {
        var (low, high) = (0, ascending.Length - 1);
        while (low < high)
        {
            var middle = (low + high + 1) / 2;
            if (ascending[middle] <= value)
                low = middle;
            else
                high = middle - 1;
        }
        return low;
    }
}
