using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

/// <summary>Which pages of which plans are open, in all processes.</summary>
public sealed class WhoIsThere(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    private static readonly TimeSpan Lost = TimeSpan.FromSeconds(60);

    public async Task SeeAsync(string connection, Guid project, string person, string? task)
    {
        await using var db = await databases.CreateDbContextAsync();
        var now = clock.GetUtcNow().UtcDateTime;
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into presence (id, project_id, person_id, task_id, seen_at) values ({connection}, {project}, {person}, {task},
            {now}) on conflict (id) do update set task_id = excluded.task_id, seen_at = excluded.seen_at
            """
        );
    }

    public async Task ForgetAsync(string connection)
    {
        await using var db = await databases.CreateDbContextAsync();
        await db.Presence.Where(p => p.Id == connection).ExecuteDeleteAsync();
    }

    public async Task StillHereAsync(IReadOnlyCollection<string> connections, CancellationToken cancel)
    {
        if (connections.Count == 0)
            return;
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        await db.Presence.Where(p => connections.Contains(p.Id)).ExecuteUpdateAsync(p => p.SetProperty(x => x.SeenAt, now), cancel);
    }

    /// <summary>Forgets pages that have not been heard of for a while.</summary>
    /// <returns>The projects they were in.</returns>
    public async Task<IReadOnlyList<Guid>> ForgetLostAsync(CancellationToken cancel)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var before = clock.GetUtcNow().UtcDateTime - Lost;
        var lost = await db.Presence.Where(p => p.SeenAt < before).Select(p => p.ProjectId).Distinct().ToListAsync(cancel);
        if (lost.Count > 0)
            await db.Presence.Where(p => p.SeenAt < before).ExecuteDeleteAsync(cancel);
        return lost;
    }

    public async Task<IReadOnlyList<(string Connection, string Person, string Name, string Initials, string? Task)>> AtAsync(
        Guid project,
        CancellationToken cancel
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await (
            from presence in db.Presence
            join person in db.People on presence.PersonId equals person.Id
            where presence.ProjectId == project
            orderby person.Name, presence.Id
            select new
            {
                presence.Id,
                presence.PersonId,
                person.Name,
                person.Initials,
                presence.TaskId,
            }
        ).ToListAsync(cancel);
        return [.. rows.Select(r => (r.Id, r.PersonId, r.Name, r.Initials, r.TaskId))];
    }
}
