using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

/// <summary>Remembers how each person looks at each project.</summary>
public sealed class Views(IDbContextFactory<AuxiliumDb> databases)
{
    /// <summary>What was kept last, as JSON, or <c>null</c>.</summary>
    public async Task<string?> OfAsync(Guid project, string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
            .Views.Where(v => v.ProjectId == project && v.PersonId == person)
            .Select(v => v.Content)
            .SingleOrDefaultAsync(cancel);
    }

    /// <returns>Whether there is such a project.</returns>
    public async Task<bool> KeepAsync(Guid project, string person, string content, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await db.Database.ExecuteSqlAsync(
            $"""
            insert into views (project_id, person_id, content)
            select p.id, {person}, {content}::jsonb from projects p where p.id = {project}
            on conflict (project_id, person_id) do update set content = excluded.content
            """,
            cancel
        );
        return rows == 1;
    }
}
