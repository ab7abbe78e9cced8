using Auxilium.Planning.Calendars;

namespace Auxilium.Planning.Starting;

/// <summary>
/// Where each day goes when a project begins, or ends, on another: as many days of work away from that day as before. A day without work
/// stays as far behind the day of work before it, but never passes the next.
/// </summary>
internal sealed class DayMap
{
    /// <summary>Longer than this, no calendar is closed: further on, days are counted without looking at work.</summary>
    private const int MostDaysClosed = 400;

    private readonly WorkTime _calendar;
    private readonly Dictionary<DateOnly, DateOnly> _known = [];
    private (DateOnly Was, DateOnly Now) _last;
    private (DateOnly Was, DateOnly Now) _first;

    /// <param name="calendar">Whose days of work are counted.</param>
    /// <param name="was">A day of the project that was.</param>
    /// <param name="now">The day that takes its place. Both go to the next day of work, if they are none.</param>
    public DayMap(WorkTime calendar, DateOnly was, DateOnly now)
    {
        _calendar = calendar;
        _first = _last = (Step(was.AddDays(-1), 1), Step(now.AddDays(-1), 1));
        _known[_last.Was] = _last.Now;
    }

    public DateOnly Of(DateOnly day)
    {
        while (_last.Was < day)
        {
            var next = (Was: Step(_last.Was, 1), Now: Step(_last.Now, 1));
            Between(_last, next);
            _last = next;
        }
        while (_first.Was > day)
        {
            var next = (Was: Step(_first.Was, -1), Now: Step(_first.Now, -1));
            Between(next, _first);
            _first = next;
        }
        return _known[day];
    }

    /// <summary>An instant, at the same time of its day.</summary>
    public PlanTime Of(PlanTime time) => At(time, time.Date);

    /// <summary>The end of something, which midnight is the end of a day for.</summary>
    public PlanTime OfFinish(PlanTime time) => At(time, time.LastDate);

    private PlanTime At(PlanTime time, DateOnly day) => new(PlanTime.On(Of(day)).Minutes + time.Minutes - PlanTime.On(day).Minutes);

    private void Between((DateOnly Was, DateOnly Now) from, (DateOnly Was, DateOnly Now) to)
    {
        for (var closed = from.Was.AddDays(1); closed < to.Was; closed = closed.AddDays(1))
        {
            var moved = from.Now.AddDays(closed.DayNumber - from.Was.DayNumber);
            _known[closed] = moved < to.Now ? moved : to.Now;
        }
        _known[to.Was] = to.Now;
        _known[from.Was] = from.Now;
    }

    /// <summary>The next day of work in a direction.</summary>
    private DateOnly Step(DateOnly day, int by)
    {
        for (var away = 1; away <= MostDaysClosed; away++)
            if (_calendar.WorkedOn(day.AddDays(by * away)) > 0)
                return day.AddDays(by * away);
        return day.AddDays(by);
    }
}
