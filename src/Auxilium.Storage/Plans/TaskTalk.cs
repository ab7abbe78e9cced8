using Auxilium.Planning.Plans;
using Auxilium.Storage.Access;
using Auxilium.Storage.Notices;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

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

    /// <summary>Ids of the tasks of a project that have comments or files.</summary>
    internal static async Task<IReadOnlySet<string>> TasksWithAsync(AuxiliumDb db, Guid project, CancellationToken cancel) =>
        (
            await db
                .Comments.Where(c => c.ProjectId == project)
                .Select(c => c.TaskId)
                .Union(db.Files.Where(f => f.ProjectId == project).Select(f => f.TaskId))
                .ToListAsync(cancel)
        ).ToHashSet();

    /// <summary>The tasks of a project that have comments or files.</summary>
    public async Task<IReadOnlyList<TalkCount>> CountsAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var comments = await db
            .Comments.Where(c => c.ProjectId == project)
            .GroupBy(c => c.TaskId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        var files = await db
            .Files.Where(f => f.ProjectId == project)
            .GroupBy(f => f.TaskId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        return
        [
            .. comments
                .Keys.Union(files.Keys)
                .Select(task => new TalkCount(task, comments.GetValueOrDefault(task), files.GetValueOrDefault(task))),
        ];
    }

    /// <summary>What is said about a task, the oldest first, and its files by name.</summary>
    public async Task<(IReadOnlyList<Comment> Comments, IReadOnlyList<KeptFile> Files)> OfAsync(
        Guid project,
        string task,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var comments = await (
            from comment in db.Comments
            join person in db.People on comment.PersonId equals person.Id into people
            from person in people.DefaultIfEmpty()
            where comment.ProjectId == project && comment.TaskId == task
            orderby comment.Id
            select new Comment(comment.Id, comment.PersonId, person == null ? "Somebody" : person.Name, comment.At, comment.Text)
        ).ToListAsync(cancel);
        var files = await (
            from file in db.Files
            join person in db.People on file.PersonId equals person.Id into people
            from person in people.DefaultIfEmpty()
            where file.ProjectId == project && file.TaskId == task
            orderby file.At, file.Id
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
        return (comments, [.. files.OrderBy(f => f.Name, StringComparer.OrdinalIgnoreCase)]);
    }

    /// <summary>Adds a comment, and tells those whom it mentions.</summary>
    /// <param name="project">Id of the project.</param>
    /// <param name="task">Id of the task.</param>
    /// <param name="name">Its name.</param>
    /// <param name="person">Who says it.</param>
    /// <param name="text">What they say; <c>@name</c> mentions somebody.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <returns>Whether there was room for it.</returns>
    public async Task<bool> SayAsync(
        Guid project,
        string task,
        string name,
        string person,
        string text,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await db.Comments.CountAsync(c => c.ProjectId == project && c.TaskId == task, cancel) >= MostComments)
            return false;
        var comment = new CommentRow
        {
            ProjectId = project,
            TaskId = task,
            PersonId = person,
            At = Now(),
            Text = text,
        };
        db.Comments.Add(comment);
        await db.SaveChangesAsync(cancel);
        if (text.Contains('@', StringComparison.Ordinal))
        {
            var people = (await ProjectRoles.InAsync(db, project, cancel))
                .Where(p => p.Role != ProjectRole.None)
                .Select(p => new Person(p.Person.Id, p.Person.Name, p.Person.Initials))
                .ToList();
            var by = await db.People.Where(p => p.Id == person).Select(p => p.Name).SingleAsync(cancel);
            var mentioned = Mentions.In(text, people).Where(p => p != person).ToList();
            await NoticeBook.TellAsync(
                db,
                mentioned,
                NoticeKind.Mentioned,
                project,
                task,
                $"{by} mentions you on {name}: “{text}”",
                $"comment {comment.Id}",
                Now(),
                cancel
            );
        }
        await TellAsync(db, project, task, cancel);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>Takes back what a person wrote.</summary>
    /// <returns>Whether it was theirs.</returns>
    public async Task<bool> TakeBackAsync(Guid project, long comment, string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var task = await db
            .Comments.Where(c => c.ProjectId == project && c.Id == comment && c.PersonId == person)
            .Select(c => c.TaskId)
            .SingleOrDefaultAsync(cancel);
        if (task is null || await db.Comments.Where(c => c.Id == comment).ExecuteDeleteAsync(cancel) == 0)
            return false;
        await TellAsync(db, project, task, cancel);
        return true;
    }

    /// <returns>Why there was no room for it; <c>null</c> when there was.</returns>
    public async Task<string?> AddFileAsync(
        Guid project,
        string task,
        string person,
        string name,
        string mediaType,
        ReadOnlyMemory<byte> content,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (await db.Files.CountAsync(f => f.ProjectId == project && f.TaskId == task, cancel) >= MostFiles)
            return $"A task has at most {MostFiles} files: remove one first.";
        if (await FileRoom.WhyNoneAsync(db, project, content.Length, cancel) is { } full)
            return full;
        db.Files.Add(
            new FileRow
            {
                Id = Guid.NewGuid(),
                ProjectId = project,
                TaskId = task,
                PersonId = person,
                At = Now(),
                Name = name,
                MediaType = mediaType,
                Size = content.Length,
                Content = content.ToArray(),
            }
        );
        await db.SaveChangesAsync(cancel);
        await TellAsync(db, project, task, cancel);
        return null;
    }

    /// <summary>A file with its content, or <c>null</c>.</summary>
    public async Task<FileRow?> FileAsync(Guid project, Guid file, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Files.AsNoTracking().SingleOrDefaultAsync(f => f.ProjectId == project && f.Id == file, cancel);
    }

    /// <param name="project">Id of the project.</param>
    /// <param name="file">Id of the file.</param>
    /// <param name="person">Whose it must be; <c>null</c> for anybody's.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <returns>Whether there was such a file.</returns>
    public async Task<bool> RemoveFileAsync(Guid project, Guid file, string? person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var task = await db
            .Files.Where(f => f.ProjectId == project && f.Id == file && (person == null || f.PersonId == person))
            .Select(f => f.TaskId)
            .SingleOrDefaultAsync(cancel);
        if (task is null || await db.Files.Where(f => f.Id == file).ExecuteDeleteAsync(cancel) == 0)
            return false;
        await TellAsync(db, project, task, cancel);
        return true;
    }

    private static Task TellAsync(AuxiliumDb db, Guid project, string task, CancellationToken cancel) =>
        PlanNews.TellAsync(db, $"{PlanNews.Talk} {project} {task}", cancel);

    private DateTime Now() => clock.GetUtcNow().UtcDateTime;
}
