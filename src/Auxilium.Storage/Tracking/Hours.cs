using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Tracking;

/// <summary>Hours that people say they worked.</summary>
public sealed class Hours(IDbContextFactory<AuxiliumDb> databases)
{
    public const int MostMinutesADay = 24 * 60;

    /// <summary>Says how long somebody worked on a task on a day: in place of what was said before.</summary>
    public async Task SayAsync(Guid project, string task, string person, DateOnly day, int minutes, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (minutes == 0)
            await db
                .Hours.Where(h => h.ProjectId == project && h.TaskId == task && h.PersonId == person && h.Day == day)
                .ExecuteDeleteAsync(cancel);
        else
            await db.Database.ExecuteSqlAsync(
                $"""
                insert into hours (project_id, task_id, person_id, day, minutes) values ({project}, {task}, {person}, {day},
                {minutes}) on conflict (project_id, task_id, person_id, day) do update set minutes = excluded.minutes
                """,
                cancel
            );
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

    /// <summary>How long somebody worked on a day, by project and task.</summary>
    public async Task<IReadOnlyDictionary<(Guid Project, string Task), int>> OfDayAsync(
        string person,
        DateOnly day,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
            .Hours.Where(h => h.PersonId == person && h.Day == day)
            .ToDictionaryAsync(h => (h.ProjectId, h.TaskId), h => h.Minutes, cancel);
    }
}
