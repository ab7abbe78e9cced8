using Auxilium.Storage.Notices;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Exports;

/// <summary>Files of plans that take a while: asked for, made in the background, and kept for those who asked.</summary>
public sealed class ExportShelf(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>Days that a file is kept.</summary>
    public const int DaysKept = 7;

    /// <summary>The most that one person has at a time: the oldest goes for a new one.</summary>
    public const int Most = 10;

    /// <summary>A process that has said nothing for so long has died, and another goes on from the beginning.</summary>
    private static readonly TimeSpan Silence = TimeSpan.FromMinutes(1);

    private static readonly TimeSpan Kept = TimeSpan.FromDays(DaysKept);

    public async Task<Guid> AskAsync(string person, Guid project, string query, string name, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var old = await db
            .Exports.Where(e => e.PersonId == person)
            .OrderByDescending(e => e.MadeAt)
            .Select(e => e.Id)
            .Skip(Most - 1)
            .ToListAsync(cancel);
        await db.Exports.Where(e => old.Contains(e.Id)).ExecuteDeleteAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        var row = new ExportRow
        {
            Id = Guid.CreateVersion7(),
            PersonId = person,
            ProjectId = project,
            Query = query,
            Name = name,
            MadeAt = now,
            HeardAt = now,
        };
        db.Exports.Add(row);
        await db.SaveChangesAsync(cancel);
        return row.Id;
    }

    /// <summary>A file of somebody's, with what is in it or without; <c>null</c> where it is gone or another's.</summary>
    public async Task<ExportRow?> FindAsync(string person, Guid id, bool withContent = false, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = db.Exports.AsNoTracking().Where(e => e.Id == id && e.PersonId == person);
        return withContent
            ? await rows.SingleOrDefaultAsync(cancel)
            : await rows.Select(e => new ExportRow
                {
                    Id = e.Id,
                    PersonId = e.PersonId,
                    ProjectId = e.ProjectId,
                    Query = e.Query,
                    Name = e.Name,
                    State = e.State,
                    Drawn = e.Drawn,
                    Pages = e.Pages,
                    MadeAt = e.MadeAt,
                    Problem = e.Problem,
                })
                .SingleOrDefaultAsync(cancel);
    }

    /// <summary>Cancels it, or deletes what was made.</summary>
    public async Task<bool> DeleteAsync(string person, Guid id, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Exports.Where(e => e.Id == id && e.PersonId == person).ExecuteDeleteAsync(cancel) > 0;
    }

    /// <summary>The next to be made, which nobody else then makes; <c>null</c> where there is none.</summary>
    public async Task<ExportRow?> ClaimAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        var silent = now - Silence;
        var rows = await db
            .Exports.FromSql(
                $"""
                update exports set state = 'Running', heard_at = {now}, drawn = 0
                where id = (
                    select id from exports
                    where state = 'Waiting' or (state = 'Running' and heard_at < {silent})
                    order by made_at limit 1 for update skip locked
                )
                returning *
                """
            )
            .AsNoTracking()
            .ToListAsync(cancel);
        return rows.SingleOrDefault();
    }

    /// <summary>Says how far it is.</summary>
    /// <returns>Whether it is still wanted.</returns>
    public async Task<bool> HearAsync(Guid id, int drawn, int pages, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        return await db
                .Exports.Where(e => e.Id == id)
                .ExecuteUpdateAsync(
                    e => e.SetProperty(x => x.Drawn, drawn).SetProperty(x => x.Pages, pages).SetProperty(x => x.HeardAt, now),
                    cancel
                ) > 0;
    }

    /// <summary>Puts a file there, or why there is none, and tells whoever asked.</summary>
    public async Task EndAsync(Guid id, byte[]? content, string? problem, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await db.Exports.SingleOrDefaultAsync(e => e.Id == id, cancel) is not { } row)
            return;
        (row.Content, row.Problem) = (content, problem);
        (row.State, row.Drawn) = problem is null ? (ExportState.Done, row.Pages) : (ExportState.Failed, row.Drawn);
        await NoticeBook.TellAsync(
            db,
            [row.PersonId],
            NoticeKind.Export,
            row.ProjectId,
            id.ToString(),
            problem is null ? $"“{row.Name}” is ready to download." : $"“{row.Name}” could not be made. {problem}",
            $"export {id}",
            clock.GetUtcNow().UtcDateTime,
            cancel
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Deletes what has been kept long enough.</summary>
    public async Task ClearAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var since = clock.GetUtcNow().UtcDateTime - Kept;
        await db.Exports.Where(e => e.MadeAt < since).ExecuteDeleteAsync(cancel);
    }
}
