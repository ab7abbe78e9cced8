using System.Globalization;
using System.Text;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Plans;
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
    private static readonly Dictionary<TaskState, string> States = new()
    {
        [TaskState.Waiting] = "Waiting",
        [TaskState.Ready] = "Ready",
        [TaskState.UnderWay] = "Under way",
        [TaskState.LateToStart] = "Late to start",
        [TaskState.Overdue] = "Overdue",
        [TaskState.Done] = "Done",
    };

    public static string WordOf(TaskState state) => States[state];

    public int Count => Late.Count + Days.Sum(d => d.Tasks.Count);

    /// <param name="plans">The projects to look in.</param>
    /// <param name="people">Whose tasks; nobody's, where it is empty.</param>
    /// <param name="from">The first day.</param>
    /// <param name="days">How many days.</param>
    /// <param name="today">The day it is.</param>
    public static TaskWeek Of(IEnumerable<StoredPlan> plans, IReadOnlySet<string> people, DateOnly from, int days, DateOnly today)
    {
        var to = from.AddDays(days - 1);
        var tasks = plans.SelectMany(plan => TasksOf(plan, people, from, to, today)).ToList();
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

    private static IEnumerable<WeekTask> TasksOf(
        StoredPlan stored,
        IReadOnlySet<string> people,
        DateOnly from,
        DateOnly to,
        DateOnly today
    )
    {
        var schedule = stored.Schedule;
        var (plan, states) = (schedule.Plan, new TaskStates(schedule, today));
        if (people.Count > 0 && !plan.People.Any(p => people.Contains(p.Id)))
            yield break;
        for (var row = 0; row < plan.Tasks.Length; row++)
        {
            var task = plan.Tasks[row];
            if (
                schedule.IsOff(row)
                || !schedule.IsLeaf(row)
                || !(people.Count == 0 ? task.Assignments.IsEmpty : task.Assignments.Any(a => people.Contains(a.Person)))
            )
                continue;
            var (start, finish, state) = (schedule.StartOf(row).Date, schedule.LastDayOf(row), states.Of(row));
            var isLate = state is TaskState.Overdue or TaskState.LateToStart && from <= today;
            if (!isLate && (start > to || finish < from))
                continue;
            if (state == TaskState.Done && finish < today)
                continue;
            // What goes on is listed today, and what began before this week on its first day.
            var first = start < from ? from : start;
            var day = state == TaskState.UnderWay && first < today && today <= to && finish >= today ? today : first;
            var waits =
                state == TaskState.Waiting
                    ? string.Join(", ", states.WaitsFor(row).Distinct().Take(3).Select(r => plan.Tasks[r].Name))
                    : null;
            var left = task.Remaining is { } remaining
                ? plan.Project.Units.Minutes(remaining).Count
                : (int)Math.Round(plan.LengthOf(task).Count * (1 - task.Progress));
            var who = string.Join(
                ", ",
                task.Assignments.Where(a => people.Contains(a.Person)).Select(a => plan.FindPerson(a.Person)!.Name)
            );
            yield return new WeekTask(
                stored.Project,
                plan.Project.Name,
                task.Id,
                task.Name,
                stored.Version,
                who,
                start == finish ? Dates.Day(start) : $"{Dates.Day(start)} to {Dates.Day(finish)}",
                JsonNames.Camel(state),
                States[state],
                (int)Math.Round(task.Progress * 100),
                Math.Round(left / 60m, 2),
                isLate ? null : day,
                Dates.Day(task.IsStarted ? today : start),
                task.IsStarted && !task.IsFinished,
                waits,
                people.Contains(task.Owner ?? "")
            );
        }
    }
}
