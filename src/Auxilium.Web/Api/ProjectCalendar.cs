using System.Text;
using Auxilium.Drawing.Sheets;
using Auxilium.Exchange.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Web.Api;

/// <summary>The tasks and milestones of a plan as a calendar.</summary>
internal static class ProjectCalendar
{
    /// <exception cref="ExportProblem">It is asked for in a way that cannot be.</exception>
    public static byte[] Write(Handout handout)
    {
        var wanted = handout.Table.Rows.Select(row => handout.Table.Plan.Tasks[row].Id).ToHashSet();
        var tasks = TasksOf(
            handout.Table.Schedule,
            handout.Today,
            new(handout.Plan.Project, handout.Plan.Name, handout.Plan.Version, handout.ToUtc, handout.AddressOf)
        );
        var knowsState = handout.Shown.HasFlag(Shown.States);
        return Encoding.UTF8.GetBytes(
            TaskCalendar.Write(
                handout.Plan.Name,
                tasks
                    .Where(task => wanted.Contains(task.Task.Id))
                    .Select(task => knowsState ? task.Told : task.Told with { IsDone = false, Progress = 0 }),
                handout.Now,
                new CalendarWishes(handout.Zone, handout.Query.AsToDos, handout.Query.AlarmDays)
            )
        );
    }

    /// <summary>Every task and milestone that has dates. Those of a repeating task know the series that they came of.</summary>
    public static IEnumerable<(PlanTask Task, CalendarTask Told)> TasksOf(Schedule schedule, DateOnly today, CalendarOf project)
    {
        var plan = schedule.Plan;
        foreach (var task in Projection.Of(schedule, today).Tasks.Where(task => task.IsLeaf && task.Start is not null))
        {
            var of = plan.Find(task.Id)!;
            var (start, finish) = (task.Start!.Value, task.Finish!.Value);
            yield return (
                of,
                new CalendarTask(
                    CalendarTask.IdOf(task.Id, project.Id),
                    task.Name,
                    project.Name,
                    start.Date,
                    finish.LastDateFrom(start),
                    task.IsOfHours ? (project.ToUtc(start.ToDateTime()), project.ToUtc(finish.ToDateTime())) : null,
                    task.IsFinished,
                    IsOwner: true,
                    project.AddressOf(task.Id),
                    project.Version
                )
                {
                    Progress = of.Progress,
                    Series =
                        of is { Occurrence: not null, Parent: { } phase } && plan.Find(phase) is { Repeats: { } rule } series
                            ? new CalendarSeries(CalendarTask.IdOf(series.Id, project.Id), series.Name, rule)
                            : null,
                }
            );
        }
    }
}

/// <summary>What a calendar has to know of a project.</summary>
/// <param name="ToUtc">Turns a time of the organisation into UTC.</param>
/// <param name="AddressOf">The address of a task.</param>
internal sealed record CalendarOf(Guid Id, string Name, int Version, Func<DateTime, DateTime> ToUtc, Func<string, string> AddressOf);
