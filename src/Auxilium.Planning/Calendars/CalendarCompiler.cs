namespace Auxilium.Planning.Calendars;

/// <summary>Turns a calendar and its bases into spans of repeating weeks (rules T2, T3).</summary>
internal static class CalendarCompiler
{
    /// <param name="calendar">The calendar to compile.</param>
    /// <param name="bases">Its base, the base of that one, and so on.</param>
    public static WorkTime Compile(WorkCalendar calendar, IReadOnlyList<WorkCalendar> bases)
    {
        WorkCalendar[] chain = [calendar, .. bases];
        var week = new WeekShape([.. Enumerable.Range(0, 7).Select(day => ShapeOf(chain, day))]);
        var exceptions = chain.Reverse().SelectMany(c => c.Exceptions).ToArray();
        return new WorkTime(Overlay(week, exceptions));
    }

    private static DayShape ShapeOf(WorkCalendar[] chain, int weekday)
    {
        var definition = chain.Select(c => c.Week[weekday]).FirstOrDefault(d => d is not null);
        return definition is { IsEmpty: false } work ? new DayShape(work) : DayShape.Empty;
    }

    private static string KeyOf(CalendarOverride days) => string.Join(' ', days.Work.Select(w => $"{w.Start}-{w.End}"));

    private static List<(int FirstDay, WeekShape Week)> Overlay(WeekShape week, CalendarOverride[] exceptions)
    {
        // Days that work alike are one shape, however many they are.
        var known = new Dictionary<string, WeekShape>();
        var shapes = exceptions
            .Select(e =>
                e.Work.IsDefaultOrEmpty ? WeekShape.Closed
                : known.TryGetValue(KeyOf(e), out var same) ? same
                : known[KeyOf(e)] = WeekShape.Constant(new DayShape(e.Work))
            )
            .ToArray();
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
