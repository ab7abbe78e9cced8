using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Access;

/// <summary>Secret addresses at which calendar programs fetch the tasks of a project, until they are withdrawn.</summary>
public sealed class ProjectFeeds(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>The most that a project may have.</summary>
    public const int Most = 50;

    /// <param name="feed">Its hash is made here.</param>
    /// <returns>The secret of the address, which is shown once; <c>null</c> when the project has as many as there can be.</returns>
    public async Task<string?> MakeAsync(ProjectFeedRow feed, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (await db.ProjectFeeds.CountAsync(f => f.ProjectId == feed.ProjectId, cancel) >= Most)
            return null;
        var secret = Secret.New();
        feed.Hash = Secret.Hash(secret);
        feed.MadeAt = clock.GetUtcNow().UtcDateTime;
        db.ProjectFeeds.Add(feed);
        await NoteAsync(db, feed.MadeBy, feed.ProjectId, $"made a calendar address for “{feed.Name}”", cancel);
        await db.SaveChangesAsync(cancel);
        return secret;
    }

    /// <summary>What a secret shows; <c>null</c> when it shows nothing, whatever the reason.</summary>
    public async Task<ProjectFeedRow?> FindAsync(string secret, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var (hash, now) = (Secret.Hash(secret), clock.GetUtcNow().UtcDateTime);
        var feed = await db.ProjectFeeds.AsNoTracking().SingleOrDefaultAsync(f => f.Hash == hash, cancel);
        if (feed is null)
            return null;
        // It shows no more than whoever made it may see.
        var hasLeft = await db.People.AnyAsync(p => p.Id == feed.MadeBy && p.LeftOn != null, cancel);
        if (hasLeft || !(await ProjectRoles.OfAsync(db, feed.ProjectId, [feed.MadeBy], cancel)).ContainsKey(feed.MadeBy))
            return null;
        await db.ProjectFeeds.Where(f => f.Id == feed.Id).ExecuteUpdateAsync(f => f.SetProperty(x => x.UsedAt, now), cancel);
        return feed;
    }

    public async Task<IReadOnlyList<ProjectFeedRow>> OfAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
            .ProjectFeeds.AsNoTracking()
            .Where(f => f.ProjectId == project)
            .OrderByDescending(f => f.MadeAt)
            .ToListAsync(cancel);
    }

    public async Task WithdrawAsync(Guid project, Guid feed, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (await db.ProjectFeeds.SingleOrDefaultAsync(f => f.ProjectId == project && f.Id == feed, cancel) is not { } row)
            return;
        db.ProjectFeeds.Remove(row);
        await NoteAsync(db, by, project, $"withdrew the calendar address for “{row.Name}”", cancel);
        await db.SaveChangesAsync(cancel);
    }

    private async Task NoteAsync(AuxiliumDb db, string by, Guid project, string what, CancellationToken cancel) =>
        Audit.Note(db, clock, by, null, project, $"{await Audit.NameAsync(db, by, cancel)} {what}.");
}
