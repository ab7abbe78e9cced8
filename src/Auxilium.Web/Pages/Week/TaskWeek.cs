using System.Globalization;
using System.Text;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Api;

namespace Auxilium.Web.Pages.Week;

/// <summary>A task as My week lists it.</summary>
/// <param name="Dates">From when to when, in words.</param>
/// <param name="State">Name of its state in style sheets.</param>
/// <param name="Percent">How far it is.</param>
/// <param name="Left">Work left in hours.</param>
/// <param name="Day">The day it is listed under; <c>null</c> for what is late or has no date.</param>
public sealed record WeekTask(
    Guid Project,
    string ProjectName,
    string Id,
    string Name,
    int Version,
    string Who,
    string Dates,
    string State,
    string StateWord,
    int Percent,
    decimal Left,
    DateOnly? Day,
    string Start,
    bool IsBegun,
    string? WaitsFor,
    bool IsOwner
);

/// <summary>One person's, or some people's, tasks of a week, by day.</summary>
public sealed record TaskWeek(
    DateOnly From,
    DateOnly To,
    IReadOnlyList<WeekTask> Late,
    IReadOnlyList<(DateOnly Day, IReadOnlyList<WeekTask> Tasks)> Days
)
{
    public int Count => Late.Count + Days.Sum(d => d.Tasks.Count);

    /// <param name="all">Tasks of those people, in all projects; of nobody, where there are none.</param>
    /// <param name="people">Names by id of whose tasks they are.</param>
    /// <param name="from">The first day.</param>
    /// <param name="days">How many days.</param>
    /// <param name="today">Today.</param>
    public static TaskWeek Of(
        IEnumerable<KnownTask> all,
        IReadOnlyDictionary<string, string> people,
        DateOnly from,
        int days,
        DateOnly today
    )
    {
        var to = from.AddDays(days - 1);
        var tasks = all.Select(task => TaskOf(task, people, from, to, today)).OfType<WeekTask>().ToList();
        return new TaskWeek(
            from,
            to,
            [.. tasks.Where(t => t.Day is null)],
            [
                .. Enumerable
                    .Range(0, days)
                    .Select(i => from.AddDays(i))
                    .Select(day => (day, (IReadOnlyList<WeekTask>)[.. tasks.Where(t => t.Day == day)])),
            ]
        );
    }

    /// <summary>As text, for mails.</summary>
    public string ToText(bool withNames)
    {
        var text = new StringBuilder();
        Part("Late", Late);
        foreach (var (day, tasks) in Days)
            Part(Dates.Day(day), tasks);
        return text.Length == 0 ? "Nothing to do.\n" : text.ToString();

        void Part(string title, IReadOnlyList<WeekTask> tasks)
        {
            if (tasks.Count == 0)
                return;
            text.Append(title).Append('\n');
            foreach (var task in tasks)
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"  [ ] {task.Name}{(withNames ? $" ({task.Who})" : "")} – {task.ProjectName}, {task.Dates}, "
                        + $"{task.StateWord.ToLowerInvariant()}\n"
                );
            text.Append('\n');
        }
    }

    /// <summary>A task as its week lists it; <c>null</c> where it is none of that week.</summary>
    private static WeekTask? TaskOf(
        KnownTask known,
        IReadOnlyDictionary<string, string> people,
        DateOnly from,
        DateOnly to,
        DateOnly today
    )
    {
        var task = known.Task;
        if (!task.IsLeaf || task is not { Start: { } begins, LastDay: { } finish })
            return null;
        var (start, state) = (begins.Date, task.StateOn(today));
        var isLate = state is TaskState.Overdue or TaskState.LateToStart && from <= today;
        if (!isLate && (start > to || finish < from))
            return null;
        if (state == TaskState.Done && finish < today)
            return null;
        // What goes on is listed today, and what began before this week on its first day.
        var first = start < from ? from : start;
        var day = state == TaskState.UnderWay && first < today && today <= to && finish >= today ? today : first;
        var workers = task.People.Split(' ');
        return new WeekTask(
            known.Project,
            known.ProjectName,
            task.Id,
            task.Name,
            known.Version,
            string.Join(", ", workers.Where(people.ContainsKey).Select(id => people[id])),
            start == finish ? Dates.Day(start) : $"{Dates.Day(start)} to {Dates.Day(finish)}",
            JsonNames.Camel(state),
            StateText.Of(state),
            (int)Math.Round(task.Progress * 100),
            Math.Round(task.Left / 60m, 2),
            isLate ? null : day,
            Dates.Day(task.IsStarted ? today : start),
            task.IsStarted && !task.IsFinished,
            state == TaskState.Waiting ? task.WaitsFor : null,
            people.ContainsKey(workers[0])
        );
    }
}
