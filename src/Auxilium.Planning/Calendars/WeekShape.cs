namespace Auxilium.Planning.Calendars;

/// <summary>Seven days, Monday first, that repeat without end.</summary>
internal sealed class WeekShape
{
    private readonly DayShape[] _days;
    private readonly int[] _before = new int[8];

    public WeekShape(IReadOnlyList<DayShape> days)
    {
        _days = [.. days];
        for (var i = 0; i < 7; i++)
            _before[i + 1] = _before[i] + _days[i].Total;
        Total = _before[7];
    }

    public int Total { get; }

    /// <summary>Days on which nothing is done, one after another: what most exceptions are.</summary>
    public static WeekShape Closed { get; } =
        new([DayShape.Empty, DayShape.Empty, DayShape.Empty, DayShape.Empty, DayShape.Empty, DayShape.Empty, DayShape.Empty]);

    public static WeekShape Constant(DayShape day) => day.Total == 0 ? Closed : new([day, day, day, day, day, day, day]);

    public DayShape DayOf(int day) => _days[day % 7];

    /// <summary>Working minutes from day 0 to the start of <paramref name="day"/>.</summary>
    public int WorkedBefore(int day) => day / 7 * Total + _before[day % 7];

    /// <summary>Working minutes from the start of a day to the start of a later one.</summary>
    public int Between(int day, int later) => Total == 0 ? 0 : WorkedBefore(later) - WorkedBefore(day);

    /// <summary>Start of the <paramref name="k"/>-th working minute counted from day 0. <see cref="Total"/> must not be 0.</summary>
    public PlanTime MinuteStart(int k)
    {
        var (week, into) = Math.DivRem(k, Total);
        var day = 6;
        while (_before[day] > into)
            day--;
        return new PlanTime((week * 7 + day) * PlanTime.MinutesPerDay + _days[day].MinuteStart(into - _before[day]));
    }

    public WeekShape Intersect(WeekShape other) =>
        ReferenceEquals(this, other) ? this
        : ReferenceEquals(this, Closed) || ReferenceEquals(other, Closed) ? Closed
        : new([.. _days.Zip(other._days, (a, b) => a.Intersect(b))]);
}
