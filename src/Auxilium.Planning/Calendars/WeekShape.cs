namespace Auxilium.Planning.Calendars;

/// <summary>Seven days, Monday first, that repeat without end.</summary>
internal sealed class WeekShape
{
    private readonly DayShape[] _days;
    private readonly int[] _before = new int[8];

    /// <summary>2⁶⁴ / <see cref="Total"/> rounded up: the upper half of a product with it is the quotient, without dividing.</summary>
    private readonly ulong _reciprocal;

    /// <summary>By working minute of the week: the minute of the week in which it starts. Made when first asked for.</summary>
    private ushort[]? _starts;

    public WeekShape(IReadOnlyList<DayShape> days)
    {
        _days = [.. days];
        for (var i = 0; i < 7; i++) _before[i + 1] = _before[i] + _days[i].Total;
        Total = _before[7];
        _reciprocal = Total > 1 ? ulong.MaxValue / (ulong)Total + 1 : 0;
    }

    public int Total { get; }

    public static WeekShape Constant(DayShape day) => new([day, day, day, day, day, day, day]);

    public DayShape DayOf(int day) => _days[day % 7];

    /// <summary>Working minutes from day 0 to the start of <paramref name="day"/>.</summary>
    public int WorkedBefore(int day) => day / 7 * Total + _before[day % 7];

    /// <summary>Start of the <paramref name="k"/>-th working minute counted from day 0. <see cref="Total"/> must not be 0.</summary>
    public PlanTime MinuteStart(int k)
    {
        var week = _reciprocal == 0 ? k : (int)Math.BigMul(_reciprocal, (ulong)k, out _);
        return new PlanTime(week * 7 * PlanTime.MinutesPerDay + (_starts ??= Starts())[k - week * Total]);
    }

    private ushort[] Starts()
    {
        var starts = new ushort[Total];
        for (var day = 0; day < 7; day++)
            for (var minute = 0; minute < _days[day].Total; minute++)
                starts[_before[day] + minute] = (ushort)(day * PlanTime.MinutesPerDay + _days[day].MinuteStart(minute));
        return starts;
    }

    public WeekShape Intersect(WeekShape other) => new([.. _days.Zip(other._days, (a, b) => a.Intersect(b))]);
}
