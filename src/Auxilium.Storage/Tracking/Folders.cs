using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Tracking;

/// <summary>A folder of projects.</summary>
/// <param name="Parent">Id of the folder that it lies in; <c>null</c> for none.</param>
public sealed record Folder(Guid Id, string Name, Guid? Parent);

/// <summary>A folder cannot be made, named or put so; the message says why, and what would be right.</summary>
public sealed class FolderRefusedException(string message) : Exception(message);

/// <summary>The folders of the organisation's projects: the same for everybody, and nested once.</summary>
public sealed class Folders(IDbContextFactory<AuxiliumDb> databases)
{
    /// <summary>There are at most this many.</summary>
    public const int Most = 200;

    /// <summary>A name is at most this many characters.</summary>
    public const int LongestName = 80;

    /// <summary>All of them, by name.</summary>
    public async Task<IReadOnlyList<Folder>> AllAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await db.Folders.AsNoTracking().ToListAsync(cancel);
        return [.. rows.Select(f => new Folder(f.Id, f.Name, f.ParentId)).OrderBy(f => f.Name, StringComparer.CurrentCultureIgnoreCase)];
    }

    /// <exception cref="FolderRefusedException">Its name cannot be, or it would lie too deep.</exception>
    public async Task<Folder> MakeAsync(string? name, Guid? parent, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var all = await LockedAsync(db, cancel);
        if (all.Count >= Most)
            throw new FolderRefusedException($"There are {Most} folders, and more cannot be: delete one that is not used.");
        var folder = new FolderRow
        {
            Id = Guid.NewGuid(),
            Name = CheckedName(name, all, parent, null),
            ParentId = CheckedParent(parent, all, null),
        };
        db.Folders.Add(folder);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return new Folder(folder.Id, folder.Name, folder.ParentId);
    }

    /// <summary>Gives a folder a name and a place.</summary>
    /// <exception cref="FolderRefusedException">It has gone, its name cannot be, or it would lie in itself or too deep.</exception>
    public async Task<Folder> ChangeAsync(Guid id, string? name, Guid? parent, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var all = await LockedAsync(db, cancel);
        var folder = all.FirstOrDefault(f => f.Id == id) ?? throw Gone();
        folder.ParentId = CheckedParent(parent, all, folder);
        folder.Name = CheckedName(name, all, parent, folder);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return new Folder(folder.Id, folder.Name, folder.ParentId);
    }

    /// <summary>Deletes a folder. What lies in it lies where the folder lay.</summary>
    /// <returns>Its name; <c>null</c> if it had gone.</returns>
    public async Task<string?> DeleteAsync(Guid id, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var all = await LockedAsync(db, cancel);
        if (all.FirstOrDefault(f => f.Id == id) is not { } folder)
            return null;
        await db
            .Projects.IgnoreQueryFilters()
            .Where(p => p.FolderId == id)
            .ExecuteUpdateAsync(p => p.SetProperty(x => x.FolderId, folder.ParentId), cancel);
        foreach (var inside in all.Where(f => f.ParentId == id))
            inside.ParentId = folder.ParentId;
        db.Folders.Remove(folder);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return folder.Name;
    }

    /// <summary>Puts a project into a folder, or into none.</summary>
    /// <returns>The name of the folder, empty for none.</returns>
    /// <exception cref="FolderRefusedException">The folder has gone.</exception>
    public async Task<string> PutAsync(Guid project, Guid? folder, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var name = folder is null ? "" : await db.Folders.Where(f => f.Id == folder).Select(f => f.Name).SingleOrDefaultAsync(cancel);
        if (name is null)
            throw Gone();
        await db.Projects.Where(p => p.Id == project).ExecuteUpdateAsync(p => p.SetProperty(x => x.FolderId, folder), cancel);
        return name;
    }

    private static FolderRefusedException Gone() => new("This folder has gone: somebody has deleted it.");

    /// <summary>All, while nobody else changes them.</summary>
    private static async Task<List<FolderRow>> LockedAsync(AuxiliumDb db, CancellationToken cancel)
    {
        await db.Database.ExecuteSqlAsync($"lock table folders in share row exclusive mode", cancel);
        return await db.Folders.ToListAsync(cancel);
    }

    private static string CheckedName(string? typed, List<FolderRow> all, Guid? parent, FolderRow? folder)
    {
        var name = (typed ?? "").Trim();
        if (name.Length == 0)
            throw new FolderRefusedException("A folder needs a name: type one, such as Events.");
        if (name.Length > LongestName || name.Any(char.IsControl))
            throw new FolderRefusedException($"A folder’s name is one line of at most {LongestName} characters: shorten it.");
        if (all.Any(f => f != folder && f.ParentId == parent && f.Name.Equals(name, StringComparison.CurrentCultureIgnoreCase)))
            throw new FolderRefusedException($"There is a folder called “{name}” here already: type another name.");
        return name;
    }

    private static Guid? CheckedParent(Guid? parent, List<FolderRow> all, FolderRow? folder)
    {
        if (parent is null)
            return null;
        if (parent == folder?.Id)
            throw new FolderRefusedException($"“{folder!.Name}” cannot lie in itself: choose another folder, or none.");
        var into = all.FirstOrDefault(f => f.Id == parent) ?? throw Gone();
        if (into.ParentId is not null)
            throw new FolderRefusedException($"Folders are nested once, and “{into.Name}” lies in one already: choose one that does not.");
        if (folder is not null && all.Any(f => f.ParentId == folder.Id))
            throw new FolderRefusedException($"Folders are nested once, and “{folder.Name}” holds others: move those out first.");
        return parent;
    }
}
