using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Access;

/// <summary>Links that show a project to anybody who has them, until they are withdrawn.</summary>
public sealed class ShareLinks(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>The most that a project may have.</summary>
    public const int Most = 50;

    /// <returns>The secret of the address, which is shown once; <c>null</c> when the project has as many as there can be.</returns>
    public async Task<string?> MakeAsync(
        Guid project,
        string by,
        string name,
        string? passwordHash,
        DateTime? endsAt,
        string[] columns,
        bool allowsExport = false,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (await db.ShareLinks.CountAsync(l => l.ProjectId == project, cancel) >= Most)
            return null;
        var secret = Secret.New();
        db.ShareLinks.Add(
            new ShareLinkRow
            {
                Id = Guid.NewGuid(),
                Hash = Secret.Hash(secret),
                ProjectId = project,
                MadeBy = by,
                Name = name,
                PasswordHash = passwordHash,
                MadeAt = clock.GetUtcNow().UtcDateTime,
                EndsAt = endsAt,
                Columns = columns,
                AllowsExport = allowsExport,
            }
        );
        Audit.Note(
            db,
            clock,
            by,
            null,
            project,
            $"{await Audit.NameAsync(db, by, cancel)} made a link for “{name}”{(passwordHash is null ? "" : ", with a password")}."
        );
        await db.SaveChangesAsync(cancel);
        return secret;
    }

    /// <summary>What a secret shows; <c>null</c> when it shows nothing, whatever the reason.</summary>
    public async Task<ShareLinkRow?> FindAsync(string secret, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var (hash, now) = (Secret.Hash(secret), clock.GetUtcNow().UtcDateTime);
        var link = await db
            .ShareLinks.AsNoTracking()
            .SingleOrDefaultAsync(l => l.Hash == hash && (l.EndsAt == null || l.EndsAt > now), cancel);
        if (link is not null)
            await db.ShareLinks.Where(l => l.Id == link.Id).ExecuteUpdateAsync(l => l.SetProperty(x => x.UsedAt, now), cancel);
        return link;
    }

    public async Task<IReadOnlyList<ShareLinkRow>> OfAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.ShareLinks.AsNoTracking().Where(l => l.ProjectId == project).OrderByDescending(l => l.MadeAt).ToListAsync(cancel);
    }

    public async Task WithdrawAsync(Guid project, Guid link, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (
            await db.ShareLinks.Where(l => l.ProjectId == project && l.Id == link).Select(l => l.Name).SingleOrDefaultAsync(cancel)
            is not { } name
        )
            return;
        Audit.Note(db, clock, by, null, project, $"{await Audit.NameAsync(db, by, cancel)} withdrew the link for “{name}”.");
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.SaveChangesAsync(cancel);
        await db.ShareLinks.Where(l => l.ProjectId == project && l.Id == link).ExecuteDeleteAsync(cancel);
        await transaction.CommitAsync(cancel);
    }
}
