using System.Collections.Immutable;

namespace Auxilium.Planning.Calendars;

/// <summary>The working minutes of one day, compiled for counting.</summary>
internal sealed class DayShape
{
    private readonly int[] _before;

    public DayShape(ImmutableArray<WorkInterval> work)
    {
        Intervals = InOrder(work);
        _before = new int[Intervals.Length];
        for (var i = 0; i < Intervals.Length; i++)
        {
            _before[i] = Total;
            Total += Intervals[i].End - Intervals[i].Start;
        }
        Entry = DayTable.Entry.Of(Intervals.AsSpan());
    }

    /// <summary>Without those of no minute.</summary>
    private static ImmutableArray<WorkInterval> InOrder(ImmutableArray<WorkInterval> work)
    {
        for (var i = 0; i < work.Length; i++)
            if (work[i].End <= work[i].Start || (i > 0 && work[i].Start < work[i - 1].Start))
                return [.. work.Where(w => w.End > w.Start).OrderBy(w => w.Start)];
        return work;
    }

    public static DayShape Empty { get; } = new([]);

    /// <summary>Working minutes in the day.</summary>
    public int Total { get; }

    public ImmutableArray<WorkInterval> Intervals { get; }

    /// <summary>The day as it stands in a table.</summary>
    public DayTable.Entry Entry { get; }

    /// <summary>Working minutes before <paramref name="minute"/> of the day.</summary>
    public int WorkedBefore(int minute)
    {
        for (var i = Intervals.Length - 1; i >= 0; i--)
            if (minute > Intervals[i].Start)
                return _before[i] + Math.Min(minute, Intervals[i].End) - Intervals[i].Start;
        return 0;
    }

    /// <summary>Minute of the day at which the <paramref name="k"/>-th working minute starts, 0 ≤ k &lt; <see cref="Total"/>.</summary>
    public int MinuteStart(int k)
    {
        var i = Intervals.Length - 1;
        while (_before[i] > k)
            i--;
        return Intervals[i].Start + k - _before[i];
    }

    public DayShape Intersect(DayShape other)
    {
        if (ReferenceEquals(this, other))
            return this;
        var common =
            from a in Intervals
            from b in other.Intervals
            let start = Math.Max(a.Start, b.Start)
            let end = Math.Min(a.End, b.End)
            where end > start
            select new WorkInterval(start, end);
        return new DayShape([.. common]);
    }
}
