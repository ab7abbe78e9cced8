namespace Auxilium.Planning.Calendars;

/// <summary>
/// Years of a calendar day by day, so that counting working minutes takes a few steps: to a day by its number, to a working minute
/// by a list that says in which day to begin.
/// </summary>
internal sealed class DayTable
{
    private const int BucketShift = 8;

    /// <summary>Every day, for what is worked before an instant …</summary>
    private readonly Entry[] _days;

    /// <summary>… and the days with work alone, for where a working minute is: from one to the next is one step.</summary>
    private readonly WorkedDay[] _worked;
    private readonly ushort[] _bucket;

    /// <summary>Days of more than two stretches of work, by their place here.</summary>
    private readonly Dictionary<int, DayShape>? _manifold;

    /// <param name="firstDay">The first day in it.</param>
    /// <param name="count">How many days, at most those of 1990 to 2100.</param>
    /// <param name="before">Working minutes before the first day.</param>
    /// <param name="from">The days that weeks repeat from, ascending; the first is at most the first day …</param>
    /// <param name="weeks">… and those weeks.</param>
    public DayTable(int firstDay, int count, int before, int[] from, WeekShape[] weeks)
    {
        (FirstDay, Count, Before) = (firstDay, count, before);
        var days = new Entry[count];
        var worked = new WorkedDay[count + 2];
        var at = 0;
        for (var i = 0; i < weeks.Length; i++)
        {
            var last = Math.Min(i + 1 < from.Length ? from[i + 1] : int.MaxValue, firstDay + count);
            for (var day = Math.Max(from[i], firstDay); day < last; day++)
            {
                var shape = weeks[i].DayOf(day);
                var entry = shape.Entry;
                days[day - firstDay] = entry.After(before);
                if (shape.Total == 0)
                    continue;
                if (entry.IsManifold)
                    (_manifold ??= []).Add(day - firstDay, shape);
                worked[at++] = WorkedDay.Of(before, day, entry);
                before += shape.Total;
            }
        }
        worked[at] = worked[at + 1] = new WorkedDay(int.MaxValue, 0, 0, 0);
        (_days, _worked) = (days, worked);
        Total = before - Before;
        _bucket = Buckets();
    }

    /// <summary>By so many working minutes: the worked day that they begin in.</summary>
    private ushort[] Buckets()
    {
        var buckets = new ushort[(Total >> BucketShift) + 1];
        var at = 0;
        for (var bucket = 0; bucket < buckets.Length; bucket++)
        {
            while (_worked[at + 1].Before <= Before + (bucket << BucketShift))
                at++;
            buckets[bucket] = (ushort)at;
        }
        return buckets;
    }

    public static DayTable Empty { get; } = new(0, 0, 0, [], []);

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
        at += _worked[at + 1].Before <= k ? 1 : 0;
        while (_worked[at + 1].Before <= k)
            at++;
        ref readonly var day = ref _worked[at];
        k -= day.Before;
        if (day.IsManifold)
            return new PlanTime(day.Start + _manifold![day.Start / PlanTime.MinutesPerDay - FirstDay].MinuteStart(k));
        return new PlanTime(day.Start + k + (k < day.Morning ? 0 : day.Pause));
    }

    /// <param name="Before">Working minutes before the day.</param>
    internal readonly record struct Entry(int Before, ushort Start, ushort End, ushort Start2, ushort End2)
    {
        private const ushort Manifold = ushort.MaxValue;

        public bool IsManifold => Start == Manifold;

        /// <summary>The same day where so many minutes are worked before it.</summary>
        public Entry After(int before) => new(before, Start, End, Start2, End2);

        /// <param name="work">The stretches of work of a day, in order.</param>
        public static Entry Of(ReadOnlySpan<WorkInterval> work) =>
            work switch
            {
                [] => default,
                [var only] => new(0, (ushort)only.Start, (ushort)only.End, (ushort)only.End, (ushort)only.End),
                [var first, var second] => new(0, (ushort)first.Start, (ushort)first.End, (ushort)second.Start, (ushort)second.End),
                _ => new(0, Manifold, Manifold, 0, 0),
            };
    }

    /// <param name="Before">Working minutes before the day.</param>
    /// <param name="Start">Its first working minute, as an instant; of days of more than two stretches, midnight.</param>
    /// <param name="Morning">Minutes of the first stretch.</param>
    /// <param name="Pause">Minutes between the two stretches.</param>
    private readonly record struct WorkedDay(int Before, int Start, ushort Morning, ushort Pause)
    {
        public bool IsManifold => Pause == ushort.MaxValue;

        public static WorkedDay Of(int before, int day, Entry entry) =>
            entry.IsManifold
                ? new(before, day * PlanTime.MinutesPerDay, 0, ushort.MaxValue)
                : new(
                    before,
                    day * PlanTime.MinutesPerDay + entry.Start,
                    (ushort)(entry.End - entry.Start),
                    (ushort)(entry.Start2 - entry.End)
                );
    }
}
