using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Money;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Tracking;

/// <summary>Hours that people say they worked (rule H1).</summary>
public sealed class Hours(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>Says how long somebody worked on a task on a day: in place of what was said before.</summary>
    /// <param name="project">Id of the project.</param>
    /// <param name="taskName">What the task is called.</param>
    /// <param name="entry">What is said; no minutes for none.</param>
    /// <param name="by">Id of who says it.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <returns>What they worked on other tasks that day, where that leaves no room for it; <c>null</c> where it was taken.</returns>
    public async Task<int?> SayAsync(Guid project, string taskName, WorkedHours entry, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await LockAsync(db, entry.Person, cancel);
        var others = await db
            .Hours.Where(h => h.PersonId == entry.Person && h.Day == entry.Day && !(h.ProjectId == project && h.TaskId == entry.Task))
            .SumAsync(h => h.Minutes, cancel);
        if (entry.Minutes > 0 && others + entry.Minutes > WorkedHours.MostMinutesADay)
            return others;
        await WriteAsync(db, project, taskName, entry, by, clock.GetUtcNow().UtcDateTime, cancel);
        await transaction.CommitAsync(cancel);
        return null;
    }

    /// <summary>How long each person worked on a task, by name.</summary>
    public async Task<IReadOnlyList<(string Name, int Minutes)>> OnAsync(Guid project, string task, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await (
            from hours in db.Hours
            join person in db.People on hours.PersonId equals person.Id
            where hours.ProjectId == project && hours.TaskId == task
            group hours.Minutes by person.Name into worked
            orderby worked.Key
            select new { worked.Key, Minutes = worked.Sum() }
        ).ToListAsync(cancel);
        return [.. rows.Select(r => (r.Key, r.Minutes))];
    }

    /// <summary>Minutes that people worked on a project, on tasks that are no longer in its plan as well.</summary>
    public async Task<int> OfProjectAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Hours.Where(h => h.ProjectId == project).SumAsync(h => h.Minutes, cancel);
    }

    /// <summary>Minutes that people worked on each task of a project.</summary>
    public async Task<IReadOnlyDictionary<string, int>> ByTaskAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
            .Hours.Where(h => h.ProjectId == project)
            .GroupBy(h => h.TaskId)
            .Select(g => new { g.Key, Minutes = g.Sum(h => h.Minutes) })
            .ToDictionaryAsync(g => g.Key, g => g.Minutes, cancel);
    }

    /// <summary>Every entry of a project, the oldest first.</summary>
    public async Task<ImmutableArray<WorkedHours>> AllOfAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await db
            .Hours.AsNoTracking()
            .Where(h => h.ProjectId == project)
            .OrderBy(h => h.Day)
            .ThenBy(h => h.TaskId)
            .ThenBy(h => h.PersonId)
            .ToListAsync(cancel);
        return [.. rows.Select(h => new WorkedHours(h.TaskId, h.PersonId, h.Day, h.Minutes))];
    }

    /// <summary>What people worked from one day to another.</summary>
    /// <param name="projects">In these projects.</param>
    /// <param name="people">Only these; everybody where it is empty.</param>
    /// <param name="from">The first day.</param>
    /// <param name="to">The last.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IReadOnlyList<KnownHours>> BetweenAsync(
        IReadOnlyCollection<Guid> projects,
        IReadOnlyCollection<string> people,
        DateOnly from,
        DateOnly to,
        CancellationToken cancel = default
    )
    {
        string[] whose = [.. people];
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await (
            from hours in db.Hours
            join project in db.Projects on hours.ProjectId equals project.Id
            where projects.Contains(project.Id) && (whose.Length == 0 || whose.Contains(hours.PersonId))
            where hours.Day >= @from && hours.Day <= to
            orderby project.CreatedAt descending, project.Id, hours.EnteredAt
            select new KnownHours(
                project.Id,
                project.Name,
                hours.TaskId,
                // What it is called now, or was when they were entered.
                (
                    from task in db.ProjectedTasks
                    join plan in db.Plans on task.PlanId equals plan.Id
                    where plan.ProjectId == project.Id && plan.Kind == PlanKind.Live && task.TaskId == hours.TaskId
                    select task.Name
                ).FirstOrDefault(),
                hours.TaskName,
                hours.PersonId,
                db.People.Where(p => p.Id == hours.PersonId).Select(p => p.Name).SingleOrDefault() ?? hours.PersonId,
                hours.Day,
                hours.Minutes
            )
        ).ToListAsync(cancel);
    }

    /// <summary>Whether somebody has hours on a task, which may be gone since.</summary>
    public async Task<string?> NameOfAsync(Guid project, string task, string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
            .Hours.Where(h => h.ProjectId == project && h.TaskId == task && h.PersonId == person)
            .Select(h => h.TaskName ?? h.TaskId)
            .FirstOrDefaultAsync(cancel);
    }

    /// <summary>Takes in the hours of a document.</summary>
    /// <exception cref="HoursProblemException">With these, somebody would have worked more than a day has.</exception>
    internal static async Task BringInAsync(
        AuxiliumDb db,
        StoredPlan plan,
        ImmutableArray<WorkedHours> hours,
        string by,
        DateTime at,
        CancellationToken cancel
    )
    {
        foreach (var person in hours.Select(h => h.Person).Distinct().Order(StringComparer.Ordinal))
            await LockAsync(db, person, cancel);
        db.Hours.AddRange(
            hours.Select(h => new HoursRow
            {
                ProjectId = plan.Project,
                TaskId = h.Task,
                PersonId = h.Person,
                Day = h.Day,
                Minutes = h.Minutes,
                TaskName = plan.Schedule.Plan.Find(h.Task)?.Name,
                EnteredBy = by,
                EnteredAt = at,
            })
        );
        await db.SaveChangesAsync(cancel);
        List<string> people = [.. hours.Select(h => h.Person).Distinct()];
        List<DateOnly> days = [.. hours.Select(h => h.Day).Distinct()];
        var full = await db
            .Hours.Where(h => people.Contains(h.PersonId) && days.Contains(h.Day))
            .GroupBy(h => new { h.PersonId, h.Day })
            .Where(g => g.Sum(h => h.Minutes) > WorkedHours.MostMinutesADay)
            .Select(g => g.Key)
            .FirstOrDefaultAsync(cancel);
        if (full is not null)
            throw new HoursProblemException(
                hours.Select((h, position) => (h, position)).First(x => x.h.Person == full.PersonId && x.h.Day == full.Day).position,
                $"With the hours in other projects {plan.Schedule.Plan.FindPerson(full.PersonId)!.Name} would have worked more than 24 on "
                    + $"{Dates.Day(PlanTime.On(full.Day))}: leave out the hours that are there already."
            );
    }

    /// <summary>Hours of one person are entered one after another, so that their sum never passes what a day has.</summary>
    internal static Task<int> LockAsync(AuxiliumDb db, string person, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(hashtextextended({"hours " + person}, 0))", cancel);

    internal static async Task<int> WriteAsync(
        AuxiliumDb db,
        Guid project,
        string taskName,
        WorkedHours entry,
        string by,
        DateTime at,
        CancellationToken cancel
    )
    {
        await ProjectMoney.ForgetAsync(db, project, cancel);
        return entry.Minutes == 0
            ? await db
                .Hours.Where(h => h.ProjectId == project && h.TaskId == entry.Task && h.PersonId == entry.Person && h.Day == entry.Day)
                .ExecuteDeleteAsync(cancel)
            : await db.Database.ExecuteSqlAsync(
                $"""
                insert into hours (project_id, task_id, person_id, day, minutes, task_name, entered_by, entered_at)
                values ({project}, {entry.Task}, {entry.Person}, {entry.Day}, {entry.Minutes}, {taskName}, {by}, {at})
                on conflict (project_id, task_id, person_id, day) do update set minutes = excluded.minutes,
                    task_name = excluded.task_name, entered_by = excluded.entered_by
                """,
                cancel
            );
    }
}

/// <summary>Hours of a document cannot be taken in.</summary>
/// <param name="position">Which of them.</param>
/// <param name="message">What is wrong and what would be right.</param>
public sealed class HoursProblemException(int position, string message) : Exception(message)
{
    public int Position { get; } = position;
}

/// <summary>An entry with the names that belong to it.</summary>
/// <param name="NameNow">What the task is called; <c>null</c> where it is no longer in the plan.</param>
/// <param name="NameThen">What it was called when the hours were entered, where that was kept.</param>
public sealed record KnownHours(
    Guid Project,
    string ProjectName,
    string Task,
    string? NameNow,
    string? NameThen,
    string Person,
    string PersonName,
    DateOnly Day,
    int Minutes
)
{
    public string TaskName => NameNow ?? NameThen ?? "A task that was removed";
}
