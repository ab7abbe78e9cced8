using System.Collections.Immutable;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Tracking;

/// <summary>Work on a task by somebody, day by day.</summary>
/// <param name="Person">Who does it; of what nobody has taken, the team or role that it is for.</param>
/// <param name="IsOpen">Nobody has taken it.</param>
/// <param name="Days">The days on which there is any, counted from the first that was asked for.</param>
public sealed record LoadedTask(
    Guid Project,
    string Task,
    string Name,
    string Person,
    bool IsOpen,
    DateTime? Start,
    DateTime? Finish,
    IReadOnlyList<LoadedMinutes> Days
);

/// <param name="At">How many days after the first that was asked for.</param>
public readonly record struct LoadedMinutes(int At, decimal Minutes);

/// <summary>What people have to do in all projects that go on, and how much time they have.</summary>
public sealed record LoadFound(
    IReadOnlyList<PersonRow> People,
    Capacities Capacities,
    IReadOnlyList<LoadedTask> Work,
    IReadOnlyDictionary<Guid, (string Name, int Version)> Projects
)
{
    /// <summary>Minutes by person and day of what is done in other projects.</summary>
    /// <param name="project">All but this one.</param>
    /// <param name="from">The first day that was asked for.</param>
    public Dictionary<(string Person, DateOnly Day), decimal> Besides(Guid project, DateOnly from)
    {
        var minutes = new Dictionary<(string, DateOnly), decimal>();
        foreach (var work in Work.Where(work => !work.IsOpen && work.Project != project))
        foreach (var (at, much) in work.Days)
            minutes[(work.Person, from.AddDays(at))] = minutes.GetValueOrDefault((work.Person, from.AddDays(at))) + much;
        return minutes;
    }
}

/// <summary>What is asked of the load of many plans.</summary>
/// <param name="From">The first day.</param>
/// <param name="To">The last.</param>
public sealed record LoadQuestion(DateOnly From, DateOnly To)
{
    /// <summary>A question is about at most so many days.</summary>
    public const int MostDays = 800;

    /// <summary>Ids of those it is about; <c>null</c> for everybody.</summary>
    public IReadOnlyCollection<string>? People { get; init; }

    /// <summary>Whether projects that are only proposed count as well.</summary>
    public bool WithProposed { get; init; }

    /// <summary>Projects that count although they are only proposed.</summary>
    public IReadOnlyCollection<Guid> Asked { get; init; } = [];

    /// <summary>Projects whose hours are told, in which days before today are.</summary>
    public IReadOnlyCollection<Guid> HoursOf { get; init; } = [];
}

/// <summary>Who has how much to do in all projects together (rules A1–A6): asked of what is kept beside the plans.</summary>
public sealed class LoadAcross(IDbContextFactory<AuxiliumDb> databases, AcrossPlans across, Organisation organisation)
{
    public async Task<LoadFound> OfAsync(LoadQuestion question, DateOnly today, CancellationToken cancel = default)
    {
        await across.RefreshAsync(today, cancel);
        await using var db = await databases.CreateDbContextAsync(cancel);
        var (from, to) = (question.From, question.To);
        var whose = question.People?.ToArray();
        var asked = question.Asked.ToArray();
        var people = await db
            .People.AsNoTracking()
            .Where(p => p.LeftOn == null && (whose == null || whose.Contains(p.Id)))
            .OrderBy(p => p.Name)
            .ToListAsync(cancel);
        var capacities = await PersonTimes.OfAllAsync(db, await organisation.FindAsync(cancel), people, today, cancel);
        var end = to.AddDays(1).ToDateTime(default);
        var rows = await (
            from task in db.ProjectedTasks
            join plan in db.Plans on task.PlanId equals plan.Id
            join project in db.Projects on plan.ProjectId equals project.Id
            where plan.Kind == PlanKind.Live && project.ArchivedAt == null && task.Work != null
            where
                project.Status == ProjectStatus.Active
                || (project.Status == ProjectStatus.Proposed && (question.WithProposed || asked.Contains(project.Id)))
            where whose == null || task.People.Length == 0 || task.People.Any(person => whose.Contains(person))
            where task.Start < end
            orderby project.CreatedAt descending, project.Id, task.Rank
            select new
            {
                project.Id,
                Project = project.Name,
                plan.StatusDate,
                plan.Version,
                task.TaskId,
                task.Name,
                task.Start,
                task.Finish,
                task.Work,
            }
        )
            .AsNoTracking()
            .ToListAsync(cancel);
        var known = people.Select(p => p.Id).ToHashSet();
        var found = new List<LoadedTask>();
        foreach (var row in rows)
        {
            var first = row.StatusDate is { } status ? DateOnly.FromDateTime(status) : today;
            foreach (var line in row.Work!.Split('\n'))
            {
                var work = AssignedWork.Read(row.TaskId, line);
                if (!work.IsOpen && !known.Contains(work.Person))
                    continue;
                var laid = new SortedDictionary<int, decimal>();
                work.Lay(first, capacities.CalendarOf(work.IsOpen ? "" : work.Person), (day, much) =>
                {
                    if (day >= from && day <= to)
                        laid[day.DayNumber - from.DayNumber] = laid.GetValueOrDefault(day.DayNumber - from.DayNumber) + much;
                });
                if (laid.Count > 0)
                    found.Add(new LoadedTask(row.Id, row.TaskId, row.Name, work.Person, work.IsOpen, row.Start, row.Finish, DaysOf(laid)));
            }
        }
        if (from < today)
            found.AddRange(await HoursAsync(db, question, today, known, cancel));
        return new LoadFound(
            people,
            capacities,
            found,
            rows.DistinctBy(row => row.Id).ToDictionary(row => row.Id, row => (row.Project, row.Version))
        );
    }

    /// <summary>Who is overbooked this week and next.</summary>
    /// <param name="only">Who is told of.</param>
    /// <param name="today">Today.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IReadOnlyList<Overbooked>> OverbookedAsync(
        Func<PersonRow, bool> only,
        DateOnly today,
        CancellationToken cancel = default
    )
    {
        var to = Overbooked.EndOfNextWeek(today);
        return Overbooked.Of(await OfAsync(new LoadQuestion(today, to), today, cancel), today, to, only);
    }

    /// <summary>Before today, hours as they were worked.</summary>
    private static async Task<IEnumerable<LoadedTask>> HoursAsync(
        AuxiliumDb db,
        LoadQuestion question,
        DateOnly today,
        HashSet<string> known,
        CancellationToken cancel
    )
    {
        var (from, to) = (question.From, question.To);
        var projects = question.HoursOf.ToArray();
        var rows = await (
            from hours in db.Hours
            join project in db.Projects on hours.ProjectId equals project.Id
            join plan in db.Plans on project.Id equals plan.ProjectId
            where plan.Kind == PlanKind.Live && projects.Contains(project.Id) && hours.Day >= @from && hours.Day <= to
            where project.Status == ProjectStatus.Active || project.Status == ProjectStatus.Proposed
            select new
            {
                project.Id,
                plan.StatusDate,
                hours.TaskId,
                hours.TaskName,
                hours.PersonId,
                hours.Day,
                hours.Minutes,
            }
        )
            .AsNoTracking()
            .ToListAsync(cancel);
        return rows.Where(row =>
                known.Contains(row.PersonId) && row.Day < (row.StatusDate is { } status ? DateOnly.FromDateTime(status) : today)
            )
            .GroupBy(row => (row.Id, row.TaskId, row.PersonId))
            .Select(worked => new LoadedTask(
                worked.Key.Id,
                worked.Key.TaskId,
                worked.First().TaskName,
                worked.Key.PersonId,
                false,
                null,
                null,
                DaysOf(
                    new SortedDictionary<int, decimal>(
                        worked
                            .GroupBy(row => row.Day)
                            .ToDictionary(day => day.Key.DayNumber - from.DayNumber, day => (decimal)day.Sum(row => row.Minutes))
                    )
                )
            ));
    }

    private static IReadOnlyList<LoadedMinutes> DaysOf(SortedDictionary<int, decimal> laid) =>
        [.. laid.Select(day => new LoadedMinutes(day.Key, day.Value))];
}
