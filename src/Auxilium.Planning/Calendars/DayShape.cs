using System.Collections.Immutable;

namespace Auxilium.Planning.Calendars;

/// <summary>The working minutes of one day, compiled for counting.</summary>
internal sealed class DayShape
{
    private readonly int[] _starts;
    private readonly int[] _ends;
    private readonly int[] _before;

    public DayShape(IEnumerable<WorkInterval> work)
    {
        var sorted = work.Where(i => i.End > i.Start).OrderBy(i => i.Start).ToArray();
        Intervals = [.. sorted];
        _starts = [.. sorted.Select(i => i.Start)];
        _ends = [.. sorted.Select(i => i.End)];
        _before = new int[sorted.Length];
        for (var i = 0; i < sorted.Length; i++)
        {
            _before[i] = Total;
            Total += sorted[i].End - sorted[i].Start;
        }
    }

    public static DayShape Empty { get; } = new([]);

    /// <summary>Working minutes in the day.</summary>
    public int Total { get; }

    public ImmutableArray<WorkInterval> Intervals { get; }

    /// <summary>Working minutes before <paramref name="minute"/> of the day.</summary>
    public int WorkedBefore(int minute)
    {
        for (var i = _starts.Length - 1; i >= 0; i--)
            if (minute > _starts[i])
                return _before[i] + Math.Min(minute, _ends[i]) - _starts[i];
        return 0;
    }

    /// <summary>Minute of the day at which the <paramref name="k"/>-th working minute starts, 0 ≤ k &lt; <see cref="Total"/>.</summary>
    public int MinuteStart(int k)
    {
        var i = _starts.Length - 1;
        while (_before[i] > k)
            i--;
        return _starts[i] + k - _before[i];
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
        return new DayShape(common);
    }
}
