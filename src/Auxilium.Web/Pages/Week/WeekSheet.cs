using System.Globalization;
using Auxilium.Planning.Words;
using Auxilium.Storage.Tracking;

namespace Auxilium.Web.Pages.Week;

/// <summary>A row of a week sheet: a task with the hours that one person worked on it, day by day.</summary>
/// <param name="Minutes">Of each day in turn.</param>
/// <param name="IsOpen">Whether it stands there at once, and not only once it is asked for.</param>
/// <param name="WasLastWeek">Whether hours were entered on it the week before.</param>
public sealed record WeekSheetRow(
    Guid Project,
    string ProjectName,
    string Task,
    string Name,
    IReadOnlyList<int> Minutes,
    bool IsOpen,
    bool WasLastWeek
);

/// <summary>One person's tasks by the days of a week.</summary>
public sealed record WeekSheet(DateOnly From, IReadOnlyList<WeekSheetRow> Rows)
{
    public const int Days = 7;

    public DateOnly To => From.AddDays(Days - 1);

    /// <param name="from">The first day.</param>
    /// <param name="tasks">The person's tasks in all projects that may be shown.</param>
    /// <param name="hours">Their hours of this week and the one before.</param>
    public static WeekSheet Of(DateOnly from, IReadOnlyList<KnownTask> tasks, IReadOnlyList<KnownHours> hours)
    {
        var to = from.AddDays(Days - 1);
        var worked = hours.ToLookup(h => (h.Project, h.Task));
        var rows = tasks
            .Where(t => t.Task.IsLeaf)
            .Select(t =>
                RowOf(
                    from,
                    (t.Project, t.ProjectName, t.Task.Id, t.Task.Name),
                    worked[(t.Project, t.Task.Id)],
                    t.Task is { IsFinished: false, Start: { } start } && start.Date <= to
                )
            )
            .ToList();
        // What is no longer somebody's task, or gone, still has its hours.
        var known = tasks.Select(t => (t.Project, t.Task.Id)).ToHashSet();
        rows.AddRange(
            worked
                .Where(g => !known.Contains(g.Key))
                .Select(g => RowOf(from, (g.Key.Project, g.First().ProjectName, g.Key.Task, g.First().TaskName), g, false))
        );
        return new WeekSheet(from, [.. rows.Where(row => row.IsOpen), .. rows.Where(row => !row.IsOpen)]);
    }

    /// <summary>Hours as they stand in a cell: 2.5, and nothing for none.</summary>
    public static string Text(int minutes) =>
        minutes == 0 ? "" : Math.Round(minutes / 60m, 2).ToString("0.##", CultureInfo.InvariantCulture);

    public static string DayName(DateOnly day) => day.ToString("ddd d MMM", CultureInfo.InvariantCulture);

    private static WeekSheetRow RowOf(
        DateOnly from,
        (Guid Project, string ProjectName, string Task, string Name) of,
        IEnumerable<KnownHours> hours,
        bool isNow
    )
    {
        var minutes = new int[Days];
        var before = false;
        foreach (var entry in hours)
            if (entry.Day < from)
                before = true;
            else
                minutes[entry.Day.DayNumber - from.DayNumber] += entry.Minutes;
        return new WeekSheetRow(of.Project, of.ProjectName, of.Task, of.Name, minutes, isNow || minutes.Any(m => m > 0), before);
    }
}

/// <summary>Hours of many people or tasks, by weeks.</summary>
/// <param name="Heads">What the columns are: days of one week, or weeks by their first day.</param>
/// <param name="Rows">People, or tasks, with their minutes in each column.</param>
public sealed record HoursTable(IReadOnlyList<string> Heads, IReadOnlyList<(string Name, string Of, IReadOnlyList<int> Minutes)> Rows)
{
    /// <param name="hours">What was worked.</param>
    /// <param name="from">The first day.</param>
    /// <param name="weeks">How many weeks; of one, its days are shown.</param>
    /// <param name="byTask">Whether by task, and not by person.</param>
    public static HoursTable Of(IReadOnlyList<KnownHours> hours, DateOnly from, int weeks, bool byTask)
    {
        var days = weeks == 1 ? 1 : 7;
        var count = weeks == 1 ? WeekSheet.Days : weeks;
        return new HoursTable(
            [.. Enumerable.Range(0, count).Select(i => WeekSheet.DayName(from.AddDays(i * days)))],
            [
                .. hours
                    .GroupBy(h =>
                        byTask ? new Line($"{h.Project} {h.Task}", h.TaskName, h.ProjectName) : new Line(h.Person, h.PersonName, "")
                    )
                    .OrderBy(g => g.Key.Of)
                    .ThenBy(g => g.Key.Name)
                    .Select(g =>
                    {
                        var minutes = new int[count];
                        foreach (var entry in g)
                            minutes[(entry.Day.DayNumber - from.DayNumber) / days] += entry.Minutes;
                        return (g.Key.Name, g.Key.Of, (IReadOnlyList<int>)minutes);
                    }),
            ]
        );
    }

    private readonly record struct Line(string Key, string Name, string Of);

    /// <summary>Minutes as hours with their unit, for sums.</summary>
    public static string Sum(int minutes) =>
        minutes == 0 ? "" : ComparisonText.HoursInWords(minutes).Replace(" hours", " h").Replace(" hour", " h");
}
