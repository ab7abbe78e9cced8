namespace Auxilium.Planning.Calendars;

/// <summary>Turns a calendar and its bases into spans of repeating weeks (rules T2, T3).</summary>
internal static class CalendarCompiler
{
    /// <param name="calendar">The calendar to compile.</param>
    /// <param name="bases">Its base, the base of that one, and so on.</param>
    public static WorkTime Compile(WorkCalendar calendar, IReadOnlyList<WorkCalendar> bases)
    {
        WorkCalendar[] chain = [calendar, .. bases];
        var week = new DayShape[7];
        for (var day = 0; day < week.Length; day++)
            week[day] = ShapeOf(chain, day);
        CalendarOverride[] exceptions = [.. calendar.Exceptions];
        foreach (var at in bases)
            exceptions = [.. at.Exceptions, .. exceptions];
        return new WorkTime(Overlay(new WeekShape(week), exceptions));
    }

    private static DayShape ShapeOf(WorkCalendar[] chain, int weekday)
    {
        foreach (var calendar in chain)
            if (calendar.Week[weekday] is { } work)
                return work.IsEmpty ? DayShape.Empty : new DayShape(work);
        return DayShape.Empty;
    }

    private static string KeyOf(CalendarOverride days) => string.Join(' ', days.Work.Select(w => $"{w.Start}-{w.End}"));

    private static List<(int FirstDay, WeekShape Week)> Overlay(WeekShape week, CalendarOverride[] exceptions)
    {
        // Days that work alike are one shape, however many they are.
        var known = new Dictionary<string, WeekShape>();
        var shapes = new WeekShape[exceptions.Length];
        for (var i = 0; i < shapes.Length; i++)
        {
            var work = exceptions[i].Work;
            shapes[i] =
                work.IsDefaultOrEmpty ? WeekShape.Closed
                : known.TryGetValue(KeyOf(exceptions[i]), out var same) ? same
                : known[KeyOf(exceptions[i])] = WeekShape.Constant(new DayShape(work));
        }
        return FollowEachOther(exceptions) ? Strung(week, exceptions, shapes) : Overlaid(week, exceptions, shapes);
    }

    /// <summary>Whether they are in order and no two share a day, as holidays mostly are.</summary>
    private static bool FollowEachOther(CalendarOverride[] exceptions)
    {
        for (var i = 1; i < exceptions.Length; i++)
            if (exceptions[i].From <= exceptions[i - 1].To)
                return false;
        return true;
    }

    private static List<(int FirstDay, WeekShape Week)> Strung(WeekShape week, CalendarOverride[] exceptions, WeekShape[] shapes)
    {
        var spans = new List<(int, WeekShape Week)>(2 * exceptions.Length + 1) { (0, week) };
        for (var i = 0; i < exceptions.Length; i++)
        {
            var (first, next) = (exceptions[i].From.DayNumber, exceptions[i].To.DayNumber + 1);
            if (spans[^1].Week != shapes[i])
                spans.Add((first, shapes[i]));
            if (shapes[i] != week && (i + 1 == exceptions.Length || exceptions[i + 1].From.DayNumber > next))
                spans.Add((next, week));
        }
        return spans;
    }

    /// <summary>Later exceptions win where several are about a day.</summary>
    private static List<(int FirstDay, WeekShape Week)> Overlaid(WeekShape week, CalendarOverride[] exceptions, WeekShape[] shapes)
    {
        var edges = exceptions
            .SelectMany(
                (e, i) => new[] { (Day: e.From.DayNumber, Index: i, Opens: true), (Day: e.To.DayNumber + 1, Index: i, Opens: false) }
            )
            .OrderBy(e => e.Day)
            .ToArray();
        var spans = new List<(int, WeekShape)> { (0, week) };
        var open = new SortedSet<int>();
        for (var i = 0; i < edges.Length; )
        {
            var day = edges[i].Day;
            for (; i < edges.Length && edges[i].Day == day; i++)
            {
                if (edges[i].Opens)
                    open.Add(edges[i].Index);
                else
                    open.Remove(edges[i].Index);
            }
            var winner = open.Count == 0 ? week : shapes[open.Max];
            if (spans[^1].Item2 != winner)
                spans.Add((day, winner));
        }
        return spans;
    }
}
