using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage;

/// <param name="At">In UTC.</param>
public sealed record Comment(long Id, string PersonId, string Person, DateTime At, string Text);

/// <param name="At">In UTC.</param>
/// <param name="Size">In bytes.</param>
public sealed record KeptFile(Guid Id, string Name, string MediaType, int Size, string PersonId, string Person, DateTime At);

/// <summary>How much is said about a task, and how many files belong to it.</summary>
public sealed record TalkCount(string Task, int Comments, int Files);

/// <summary>What people write about tasks and the files they add: beside the plan, and no edits of it.</summary>
public sealed class TaskTalk(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>A comment is at most this many characters.</summary>
    public const int LongestComment = 4_000;

    /// <summary>A task has at most this many comments.</summary>
    public const int MostComments = 1_000;

    /// <summary>A task has at most this many files.</summary>
    public const int MostFiles = 50;

    /// <summary>The tasks of a project that have comments or files.</summary>
    public async Task<IReadOnlyList<TalkCount>> CountsAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var comments = await db.Comments.Where(c => c.ProjectId == project).GroupBy(c => c.TaskId).Select(g => new { g.Key, Count = g.Count() }).ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        var files = await db.Files.Where(f => f.ProjectId == project).GroupBy(f => f.TaskId).Select(g => new { g.Key, Count = g.Count() }).ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        return [.. comments.Keys.Union(files.Keys).Select(task => new TalkCount(task, comments.GetValueOrDefault(task), files.GetValueOrDefault(task)))];
    }

    /// <summary>What is said about a task, the oldest first, and its files by name.</summary>
    public async Task<(IReadOnlyList<Comment> Comments, IReadOnlyList<KeptFile> Files)> OfAsync(Guid project, string task, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var comments = await (
            from comment in db.Comments
            join person in db.People on comment.PersonId equals person.Id into people
            from person in people.DefaultIfEmpty()
            where comment.ProjectId == project && comment.TaskId == task
            orderby comment.Id
            select new Comment(comment.Id, comment.PersonId, person == null ? "Somebody" : person.Name, comment.At, comment.Text)).ToListAsync(cancel);
        var files = await (
            from file in db.Files
            join person in db.People on file.PersonId equals person.Id into people
            from person in people.DefaultIfEmpty()
            where file.ProjectId == project && file.TaskId == task
            orderby file.At, file.Id
            select new KeptFile(file.Id, file.Name, file.MediaType, file.Size, file.PersonId, person == null ? "Somebody" : person.Name, file.At)).ToListAsync(cancel);
        return (comments, [.. files.OrderBy(f => f.Name, StringComparer.OrdinalIgnoreCase)]);
    }

    /// <returns>Whether there was room for it.</returns>
    public async Task<bool> SayAsync(Guid project, string task, string person, string text, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (await db.Comments.CountAsync(c => c.ProjectId == project && c.TaskId == task, cancel) >= MostComments) return false;
        db.Comments.Add(new CommentRow { ProjectId = project, TaskId = task, PersonId = person, At = Now(), Text = text });
        await db.SaveChangesAsync(cancel);
        return true;
    }

    /// <summary>Takes back what a person wrote.</summary>
    /// <returns>Whether it was theirs.</returns>
    public async Task<bool> TakeBackAsync(Guid project, long comment, string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Comments.Where(c => c.ProjectId == project && c.Id == comment && c.PersonId == person).ExecuteDeleteAsync(cancel) == 1;
    }

    /// <returns>Whether there was room for it.</returns>
    public async Task<bool> AddFileAsync(Guid project, string task, string person, string name, string mediaType, ReadOnlyMemory<byte> content, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (await db.Files.CountAsync(f => f.ProjectId == project && f.TaskId == task, cancel) >= MostFiles) return false;
        db.Files.Add(new FileRow { Id = Guid.NewGuid(), ProjectId = project, TaskId = task, PersonId = person, At = Now(), Name = name, MediaType = mediaType, Size = content.Length, Content = content.ToArray() });
        await db.SaveChangesAsync(cancel);
        return true;
    }

    /// <summary>A file with its content, or <c>null</c>.</summary>
    public async Task<FileRow?> FileAsync(Guid project, Guid file, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Files.AsNoTracking().SingleOrDefaultAsync(f => f.ProjectId == project && f.Id == file, cancel);
    }

    /// <returns>Whether there was such a file.</returns>
    public async Task<bool> RemoveFileAsync(Guid project, Guid file, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Files.Where(f => f.ProjectId == project && f.Id == file).ExecuteDeleteAsync(cancel) == 1;
    }

    private DateTime Now() => clock.GetUtcNow().UtcDateTime;
}
