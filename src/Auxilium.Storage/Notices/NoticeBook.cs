using System.Text.Json;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Notices;

/// <summary>How somebody is told a thing by mail. Kept by name.</summary>
public enum ByMail
{
    No,
    AtOnce,
    Daily,
}

/// <summary>What somebody wants to be told, and how.</summary>
public sealed record NoticeWishes
{
    /// <summary>How, of each kind; in the app they are always told.</summary>
    public Dictionary<NoticeKind, ByMail> Mail { get; init; } =
        Enum.GetValues<NoticeKind>()
            .ToDictionary(
                k => k,
                k =>
                    k is NoticeKind.Mentioned or NoticeKind.Proposal or NoticeKind.Decided or NoticeKind.Assigned
                        ? ByMail.AtOnce
                        : ByMail.Daily
            );

    /// <summary>Kinds that they do not want to be told at all.</summary>
    public HashSet<NoticeKind> Never { get; init; } = [];

    /// <summary>Told only what moved by more than so many days.</summary>
    public int MovedDays { get; init; } = 2;

    /// <summary>Told so many days before a task is due.</summary>
    public int DueDays { get; init; } = 2;

    public static NoticeWishes Read(string? json) =>
        json is null ? new NoticeWishes() : JsonSerializer.Deserialize<NoticeWishes>(json) ?? new NoticeWishes();

    public string Write() => JsonSerializer.Serialize(this);

    public ByMail MailOf(NoticeKind kind) => Mail.GetValueOrDefault(kind, ByMail.No);
}

/// <summary>What people are told, in the app and by mail.</summary>
public sealed class NoticeBook(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>
    /// Somebody gets at most so many single mails in <see cref="Burst"/>; what comes then waits for the mail of the day.
    /// </summary>
    public const int MostInBurst = 6;

    private static readonly TimeSpan Burst = TimeSpan.FromMinutes(10);

    /// <summary>A person's newest notices, with the names of their projects.</summary>
    public async Task<IReadOnlyList<(NoticeRow Notice, string Project)>> OfAsync(
        string person,
        int most = 100,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var seen = await SeenByAsync(db, person, cancel);
        var rows = await (
            from notice in db.Notices.AsNoTracking()
            join project in db.Projects on notice.ProjectId equals project.Id
            where notice.PersonId == person && seen.Contains(notice.ProjectId)
            orderby notice.Id descending
            select new { notice, project.Name }
        )
            .Take(most)
            .ToListAsync(cancel);
        return [.. rows.Select(r => (r.notice, r.Name))];
    }

    public async Task<int> UnreadAsync(string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var seen = await SeenByAsync(db, person, cancel);
        return await db.Notices.CountAsync(n => n.PersonId == person && n.ReadAt == null && seen.Contains(n.ProjectId), cancel);
    }

    /// <summary>Ids of the projects that exist for somebody now: what they were told of others is not shown any more.</summary>
    private static async Task<IReadOnlyCollection<Guid>> SeenByAsync(AuxiliumDb db, string person, CancellationToken cancel) =>
        (
            await ProjectRoles.AllOfAsync(
                db,
                person,
                await db.Users.Where(u => u.Id == person).Select(u => u.IsOrganiser).SingleOrDefaultAsync(cancel),
                cancel
            )
        ).Keys.ToList();

    public async Task ReadAsync(string person, long upTo, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        await db
            .Notices.Where(n => n.PersonId == person && n.Id <= upTo && n.ReadAt == null)
            .ExecuteUpdateAsync(n => n.SetProperty(x => x.ReadAt, now), cancel);
    }

    public async Task<NoticeWishes> WishesAsync(string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return NoticeWishes.Read(await db.Users.Where(u => u.Id == person).Select(u => u.NoticeWishes).SingleOrDefaultAsync(cancel));
    }

    public async Task WishAsync(string person, NoticeWishes wishes, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var json = wishes.Write();
        await db.Users.Where(u => u.Id == person).ExecuteUpdateAsync(u => u.SetProperty(x => x.NoticeWishes, json), cancel);
    }

    /// <summary>Puts together the mail of the day for everybody who has notices waiting for it.</summary>
    public async Task DigestAsync(Func<string, string> addressOf, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var waiting = await db
            .Notices.FromSql($"select * from notices where for_digest order by id for update skip locked")
            .ToListAsync(cancel);
        var projects = await db.Projects.ToDictionaryAsync(p => p.Id, p => p.Name, cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        foreach (var notices in waiting.GroupBy(n => n.PersonId))
        {
            foreach (var notice in notices)
                notice.ForDigest = false;
            var mail = await db.Users.Where(u => u.Id == notices.Key).Select(u => u.Email).SingleOrDefaultAsync(cancel);
            var seen = mail is null ? [] : await SeenByAsync(db, notices.Key, cancel);
            var unread = notices.Where(n => n.ReadAt == null && seen.Contains(n.ProjectId)).ToList();
            if (mail is null || unread.Count == 0)
                continue;
            var lines = unread
                .GroupBy(n => n.ProjectId)
                .Select(p => $"{projects[p.Key]}\n" + string.Concat(p.Select(n => $"  – {n.Text}\n")));
            db.Mails.Add(
                Mails.Row(
                    mail,
                    unread.Count == 1 ? "One notice since yesterday" : $"{unread.Count} notices since yesterday",
                    $"{string.Join('\n', lines)}\n{addressOf("/notices")}\n",
                    now
                )
            );
        }
        await PlanNews.TellAsync(db, PlanNews.Mail, cancel);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Tells people something, each once and as they wish. The caller saves and commits.</summary>
    /// <param name="db">With a transaction.</param>
    /// <param name="people">Whom.</param>
    /// <param name="kind">What about.</param>
    /// <param name="project">Id of the project.</param>
    /// <param name="task">Id of the task, if it is about one.</param>
    /// <param name="text">The sentence.</param>
    /// <param name="once">What makes it the same as one told before.</param>
    /// <param name="now">UTC.</param>
    /// <param name="cancel">Ends the wait.</param>
    internal static async Task TellAsync(
        AuxiliumDb db,
        IReadOnlyCollection<string> people,
        NoticeKind kind,
        Guid project,
        string? task,
        string text,
        string once,
        DateTime now,
        CancellationToken cancel
    )
    {
        var shortened = text.Length > 1_000 ? text[..999] + "…" : text;
        var recently = now - Burst;
        foreach (var account in await db.Users.AsNoTracking().Where(u => people.Contains(u.Id)).ToListAsync(cancel))
        {
            // To whom the project does not exist, nothing of it is told.
            if (await ProjectRoles.OfAsync(db, project, account.Id, account.IsOrganiser, cancel) == ProjectRole.None)
                continue;
            var wishes = NoticeWishes.Read(account.NoticeWishes);
            if (wishes.Never.Contains(kind))
                continue;
            var how = wishes.MailOf(kind);
            // Whoever gets many mails at once gets the rest of them together.
            if (
                how == ByMail.AtOnce
                && await db.Mails.CountAsync(m => m.To == account.Email && m.MadeAt > recently, cancel) >= MostInBurst
            )
                how = ByMail.Daily;
            var isNew =
                await db.Database.ExecuteSqlAsync(
                    $"""
                    insert into notices (person_id, at, kind, project_id, task_id, text, once, for_digest)
                    values ({account.Id}, {now}, {kind.ToString()}, {project}, {task}, {shortened}, {once}, {how
                        == ByMail.Daily}) on conflict (person_id, once) do nothing
                    """,
                    cancel
                ) == 1;
            if (!isNew)
                continue;
            await PlanNews.TellAsync(db, $"{PlanNews.Notice} {account.Id}", cancel);
            if (how != ByMail.AtOnce || account.Email is not { } mail)
                continue;
            var name = await db.Projects.Where(p => p.Id == project).Select(p => p.Name).SingleAsync(cancel);
            db.Mails.Add(
                Mails.Row(
                    mail,
                    $"{name}: {(shortened.Length > 80 ? shortened[..79] + "…" : shortened)}",
                    $"{shortened}\n\n{name}: {Mails.Address}/projects/{project}{(task is null ? "" : $"#{task}")}\n",
                    now
                )
            );
            await PlanNews.TellAsync(db, PlanNews.Mail, cancel);
        }
    }
}
