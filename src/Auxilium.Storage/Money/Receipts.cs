using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Money;

/// <summary>
/// Receipts of payments that were added as files. A file belongs to the payments that name it, so that one invoice can be paid in parts
/// and taking back a payment takes nothing from the files.
/// </summary>
public sealed class Receipts(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>A project has at most this many.</summary>
    public const int Most = 2_000;

    /// <summary>For so long a removed one can be brought back.</summary>
    public const int DaysKept = 30;

    /// <summary>Those of a project, by name.</summary>
    public async Task<IReadOnlyList<KeptFile>> OfAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var files = await (
            from file in db.Receipts
            join person in db.People on file.PersonId equals person.Id into people
            from person in people.DefaultIfEmpty()
            where file.ProjectId == project && file.RemovedAt == null
            select new KeptFile(
                file.Id,
                file.Name,
                file.MediaType,
                file.Size,
                file.PersonId,
                person == null ? "Somebody" : person.Name,
                file.At
            )
        ).ToListAsync(cancel);
        return [.. files.OrderBy(f => f.Name, StringComparer.OrdinalIgnoreCase).ThenBy(f => f.Id)];
    }

    /// <summary>Adds one. What is there already is not added again, and another one of the same name gets a number behind it.</summary>
    /// <param name="project">Id of the project.</param>
    /// <param name="person">Id of who adds it.</param>
    /// <param name="name">What it is called, with its ending.</param>
    /// <param name="mediaType">What it is.</param>
    /// <param name="content">What is in it.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <returns>Its id and name, or why there was no room for it.</returns>
    public async Task<(Guid Id, string Name, string? Full)> AddAsync(
        Guid project,
        string person,
        string name,
        string mediaType,
        ReadOnlyMemory<byte> content,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var version = await NextVersionAsync(db, project, cancel);
        var bytes = content.ToArray();
        var known = db.Receipts.Where(r => r.ProjectId == project && r.RemovedAt == null);
        var same = await known.Where(r => r.Name == name && r.Content == bytes).Select(r => r.Id).FirstOrDefaultAsync(cancel);
        if (same != Guid.Empty)
            return (same, name, null);
        if (await known.CountAsync(cancel) >= Most)
            return (default, name, $"A project has at most {Most:N0} receipts as files: remove some that nobody needs.");
        if (await FileRoom.WhyNoneAsync(db, project, bytes.Length, cancel) is { } full)
            return (default, name, full);
        var free = Free(name, [.. await known.Select(r => r.Name).ToListAsync(cancel)]);
        var row = new ReceiptRow
        {
            Id = Guid.NewGuid(),
            ProjectId = project,
            PersonId = person,
            At = clock.GetUtcNow().UtcDateTime,
            Name = free,
            MediaType = mediaType,
            Size = bytes.Length,
            Content = bytes,
        };
        db.Receipts.Add(row);
        await db.SaveChangesAsync(cancel);
        await DoneAsync(db, project, version, cancel);
        await transaction.CommitAsync(cancel);
        return (row.Id, free, null);
    }

    /// <summary>One with its content, or <c>null</c>.</summary>
    public async Task<ReceiptRow?> FindAsync(Guid project, Guid receipt, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
            .Receipts.AsNoTracking()
            .SingleOrDefaultAsync(r => r.ProjectId == project && r.Id == receipt && r.RemovedAt == null, cancel);
    }

    /// <summary>Removes one, or brings it back.</summary>
    /// <returns>Its name; <c>null</c> where there was none.</returns>
    public async Task<string?> SetRemovedAsync(Guid project, Guid receipt, bool isRemoved, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var version = await NextVersionAsync(db, project, cancel);
        var found = db.Receipts.Where(r => r.ProjectId == project && r.Id == receipt && (r.RemovedAt == null) == isRemoved);
        if (await found.Select(r => r.Name).SingleOrDefaultAsync(cancel) is not { } name)
            return null;
        DateTime? at = isRemoved ? clock.GetUtcNow().UtcDateTime : null;
        await found.ExecuteUpdateAsync(row => row.SetProperty(r => r.RemovedAt, at), cancel);
        await DoneAsync(db, project, version, cancel);
        await transaction.CommitAsync(cancel);
        return name;
    }

    /// <summary>Deletes for good what was removed long ago.</summary>
    public async Task ClearAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var since = clock.GetUtcNow().UtcDateTime.AddDays(-DaysKept);
        await db.Receipts.Where(r => r.RemovedAt < since).ExecuteDeleteAsync(cancel);
    }

    /// <summary>One who changes the money of a project waits for the other.</summary>
    private static async Task<int> NextVersionAsync(AuxiliumDb db, Guid project, CancellationToken cancel) =>
        (
            await db
                .Database.SqlQuery<int>(
                    $"""
                    insert into project_money (project_id, version) values ({project}, 1)
                    on conflict (project_id) do update set version = project_money.version + 1 returning version
                    """
                )
                .ToListAsync(cancel)
        ).Single();

    private static Task DoneAsync(AuxiliumDb db, Guid project, int version, CancellationToken cancel) =>
        PlanNews.TellAsync(db, $"{PlanNews.Money} {project} {version}", cancel);

    private static string Free(string name, HashSet<string> taken)
    {
        var (first, ending) = (Path.GetFileNameWithoutExtension(name), Path.GetExtension(name));
        var free = name;
        for (var number = 2; taken.Contains(free); number++)
            free = $"{first} ({number}){ending}";
        return free;
    }
}
