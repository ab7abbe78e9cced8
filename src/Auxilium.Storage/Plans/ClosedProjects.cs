using Auxilium.Storage.Access;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

/// <summary>A project that was archived or deleted.</summary>
/// <param name="At">When, in UTC.</param>
/// <param name="IsDeleted">Whether it was deleted; otherwise it is archived.</param>
public sealed record ClosedProject(Guid Id, string Name, DateTime At, bool IsDeleted);

/// <summary>
/// Projects that are over: archived ones can be looked at, deleted ones are gone after a while. Both can be brought back.
/// </summary>
public sealed class ClosedProjects(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>Days that a deleted project can be brought back.</summary>
    public const int DaysKept = 30;

    /// <summary>Those that somebody may bring back, the last closed first.</summary>
    public async Task<IReadOnlyList<ClosedProject>> OfAsync(string person, bool isOrganiser, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var closed = await ClosedBy(db, person, isOrganiser)
            .Select(p => new
            {
                p.Id,
                p.Name,
                p.ArchivedAt,
                p.DeletedAt,
            })
            .ToListAsync(cancel);
        return
        [
            .. closed
                .Select(p => new ClosedProject(
                    p.Id,
                    p.Name,
                    DateTime.SpecifyKind((p.DeletedAt ?? p.ArchivedAt)!.Value, DateTimeKind.Utc),
                    p.DeletedAt is not null
                ))
                .OrderByDescending(c => c.At),
        ];
    }

    /// <summary>Archives a project, or deletes it.</summary>
    public async Task CloseAsync(Guid project, bool delete, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await db.Projects.SingleOrDefaultAsync(p => p.Id == project, cancel) is not { } row)
            return;
        var now = DateTime.SpecifyKind(clock.GetUtcNow().UtcDateTime, DateTimeKind.Unspecified);
        if (delete)
            row.DeletedAt = now;
        else
            row.ArchivedAt ??= now;
        Audit.Note(
            db,
            clock,
            by,
            null,
            project,
            $"{await Audit.NameAsync(db, by, cancel)} {(delete ? "deleted" : "archived")} the project “{row.Name}”."
        );
        await db.SaveChangesAsync(cancel);
        await PlanNews.TellAsync(db, $"{PlanNews.Closed} {project}", cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Brings a project back as it was.</summary>
    /// <returns>Its name; <c>null</c> where it is not closed, or this person may not.</returns>
    public async Task<string?> BringBackAsync(Guid project, string by, bool isOrganiser, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await ClosedBy(db, by, isOrganiser).SingleOrDefaultAsync(p => p.Id == project, cancel) is not { } row)
            return null;
        // One that was archived before it was deleted is archived again.
        if (row.DeletedAt is not null)
            row.DeletedAt = null;
        else
            row.ArchivedAt = null;
        Audit.Note(db, clock, by, null, project, $"{await Audit.NameAsync(db, by, cancel)} brought the project “{row.Name}” back.");
        await db.SaveChangesAsync(cancel);
        await PlanNews.TellAsync(db, $"{PlanNews.Closed} {project}", cancel);
        await transaction.CommitAsync(cancel);
        return row.Name;
    }

    /// <summary>Removes for good what was deleted so long ago that it cannot be brought back.</summary>
    public async Task ClearAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var since = DateTime.SpecifyKind(clock.GetUtcNow().UtcDateTime.AddDays(-DaysKept), DateTimeKind.Unspecified);
        // Everything of a project goes with its row.
        await db.Projects.IgnoreQueryFilters().Where(p => p.DeletedAt < since).ExecuteDeleteAsync(cancel);
    }

    private static IQueryable<ProjectRow> ClosedBy(AuxiliumDb db, string person, bool isOrganiser) =>
        from project in db.Projects.IgnoreQueryFilters()
        where project.DeletedAt != null || project.ArchivedAt != null
        where
            isOrganiser
            || project.Coordinator == person
            || db.ProjectRoles.Any(r => r.ProjectId == project.Id && r.PersonId == person && r.Role == ProjectRole.Coordinator)
        select project;
}
