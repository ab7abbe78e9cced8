namespace Auxilium.Planning.Calendars;

/// <summary>
/// Years of a calendar day by day, so that counting working minutes takes a few steps: to a day by its number, to a working minute
/// by a list that says in which day to begin.
/// </summary>
internal sealed class DayTable
{
    private const int BucketShift = 8;

    private readonly Day[] _days;
    private readonly ushort[] _bucket;

    /// <summary>Days of more than two stretches of work, by their place here.</summary>
    private readonly Dictionary<int, DayShape>? _manifold;

    /// <param name="firstDay">The first day in it.</param>
    /// <param name="count">How many days, at most those of 1990 to 2100.</param>
    /// <param name="before">Working minutes before the first day.</param>
    /// <param name="shapeOf">The work of each day.</param>
    public DayTable(int firstDay, int count, int before, Func<int, DayShape> shapeOf)
    {
        (FirstDay, Count, Before) = (firstDay, count, before);
        _days = new Day[count + 1];
        for (var i = 0; i < count; i++)
        {
            var shape = shapeOf(firstDay + i);
            _days[i] = Day.Of(before, shape);
            if (_days[i].IsManifold)
                (_manifold ??= []).Add(i, shape);
            before += shape.Total;
        }
        _days[count] = new Day(before, 0, 0, 0, 0);
        Total = before - Before;
        _bucket = new ushort[(Total >> BucketShift) + 1];
        var at = 0;
        for (var bucket = 0; bucket < _bucket.Length; bucket++)
        {
            while (at < count - 1 && _days[at + 1].Before <= Before + (bucket << BucketShift))
                at++;
            _bucket[bucket] = (ushort)at;
        }
    }

    public static DayTable Empty { get; } = new(0, 0, 0, _ => DayShape.Empty);

    public int FirstDay { get; }

    public int Count { get; }

    /// <summary>Working minutes before the first day.</summary>
    public int Before { get; }

    /// <summary>Working minutes in all the days.</summary>
    public int Total { get; }

    /// <summary>Working minutes before a minute of the day that is so many after the first.</summary>
    public int Worked(int into, int minute)
    {
        ref readonly var day = ref _days[into];
        if (day.IsManifold)
            return day.Before + _manifold![into].WorkedBefore(minute);
        return day.Before + Math.Max(Math.Min(minute, day.End) - day.Start, 0) + Math.Max(Math.Min(minute, day.End2) - day.Start2, 0);
    }

    /// <summary>Start of the working minute that is so many after those before the first day.</summary>
    public PlanTime MinuteStart(int into)
    {
        var at = (int)_bucket[into >> BucketShift];
        var k = into + Before;
        while (_days[at + 1].Before <= k)
            at++;
        ref readonly var day = ref _days[at];
        k -= day.Before;
        var morning = day.End - day.Start;
        var minute =
            day.IsManifold ? _manifold![at].MinuteStart(k)
            : k < morning ? day.Start + k
            : day.Start2 + k - morning;
        return new PlanTime((FirstDay + at) * PlanTime.MinutesPerDay + minute);
    }

    /// <param name="Before">Working minutes before the day.</param>
    private readonly record struct Day(int Before, ushort Start, ushort End, ushort Start2, ushort End2)
    {
        private const ushort Manifold = ushort.MaxValue;

        public bool IsManifold => Start == Manifold;

        public static Day Of(int before, DayShape shape) =>
            shape.Intervals switch
            {
                [] => new(before, 0, 0, 0, 0),
                [var only] => new(before, (ushort)only.Start, (ushort)only.End, (ushort)only.End, (ushort)only.End),
                [var first, var second] => new(before, (ushort)first.Start, (ushort)first.End, (ushort)second.Start, (ushort)second.End),
                _ => new(before, Manifold, Manifold, 0, 0),
            };
    }
}
