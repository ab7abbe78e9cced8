using System.Text.Json;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
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
                    k is NoticeKind.Mentioned or NoticeKind.Proposal or NoticeKind.Decided or NoticeKind.Assigned or NoticeKind.Reminder
                        ? ByMail.AtOnce
                    : k is NoticeKind.Export ? ByMail.No
                    : ByMail.Daily
            );

    /// <summary>Days that can be chosen go up to this.</summary>
    public const int MostDays = 60;

    /// <summary>Kinds that they do not want to be told at all.</summary>
    public HashSet<NoticeKind> Never { get; init; } = [NoticeKind.StartsSoon, NoticeKind.LateToStart];

    /// <summary>Told only what moved by more than so many days.</summary>
    public int MovedDays { get; init; } = 2;

    /// <summary>Told so many days before a task is due.</summary>
    public int DueDays { get; init; } = 2;

    /// <summary>Told so many days before a task starts.</summary>
    public int StartDays { get; init; } = 2;

    /// <summary>Told so many days before a milestone.</summary>
    public int MilestoneDays { get; init; } = 7;

    /// <summary>Told when the finish is later than planned by more than so many days.</summary>
    public int DriftDays { get; init; } = ProjectsView.UsualDriftDays;

    /// <summary>Told also of what is late in projects they coordinate, and somebody else’s.</summary>
    public bool AllMine { get; init; }

    /// <summary>The day of the week on which they get a mail about the projects they coordinate; <c>null</c> for never.</summary>
    public DayOfWeek? WeeklyOn { get; init; }

    public static NoticeWishes Read(string? json) =>
        json is null ? new NoticeWishes() : JsonSerializer.Deserialize<NoticeWishes>(json) ?? new NoticeWishes();

    public string Write() => JsonSerializer.Serialize(this);

    public ByMail MailOf(NoticeKind kind) => Mail.GetValueOrDefault(kind, ByMail.No);
}

/// <summary>What people are told, in the app and by mail.</summary>
public sealed class NoticeBook(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>
    /// The most single mails that somebody gets in <see cref="Burst"/>; the rest waits for the daily mail.
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

    /// <summary>Writes the daily mail of everybody who has notices waiting for it.</summary>
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
                    unread.Count == 1 ? "One notification since yesterday" : $"{unread.Count} notifications since yesterday",
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
        await TellAsync(db, project, [.. people.Select(person => new News(person, kind, task, text, once))], now, cancel);
    }

    /// <summary>The same of many things at once, in a number of statements that does not grow with them.</summary>
    /// <param name="db">With a transaction.</param>
    /// <param name="project">Id of the project.</param>
    /// <param name="all">What each is to be told.</param>
    /// <param name="now">UTC.</param>
    /// <param name="cancel">Ends the wait.</param>
    internal static async Task TellAsync(AuxiliumDb db, Guid project, IReadOnlyList<News> all, DateTime now, CancellationToken cancel)
    {
        var people = all.Select(news => news.Person).Distinct().ToList();
        if (people.Count == 0)
            return;
        var accounts = await db.Users.AsNoTracking().Where(u => people.Contains(u.Id)).ToDictionaryAsync(u => u.Id, cancel);
        // People for whom the project does not exist are told nothing of it.
        var roles = await ProjectRoles.OfAsync(db, project, people, cancel);
        var wishes = accounts.Values.ToDictionary(u => u.Id, u => NoticeWishes.Read(u.NoticeWishes));
        var told = all.Where(news => roles.ContainsKey(news.Person) && !wishes[news.Person].Never.Contains(news.Kind)).ToList();
        if (told.Count == 0)
            return;
        var recently = now - Burst;
        List<string> addresses = [.. accounts.Values.Select(u => u.Email).OfType<string>()];
        var mailed = await db
            .Mails.Where(m => addresses.Contains(m.To) && m.MadeAt > recently)
            .GroupBy(m => m.To)
            .Select(g => new { To = g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.To, g => g.Count, cancel);
        var rows = told.Select(
                (news, number) =>
                {
                    var mail = accounts[news.Person].Email;
                    var how = wishes[news.Person].MailOf(news.Kind);
                    // After many mails at once, the rest come together in the daily mail.
                    if (how == ByMail.AtOnce && mail is not null && (mailed[mail] = mailed.GetValueOrDefault(mail) + 1) > MostInBurst)
                        how = ByMail.Daily;
                    return new
                    {
                        number,
                        person = news.Person,
                        kind = news.Kind.ToString(),
                        task = news.Task,
                        text = news.Text.Length > 1_000 ? news.Text[..999] + "…" : news.Text,
                        once = news.Once,
                        daily = how == ByMail.Daily,
                        mail = how == ByMail.AtOnce ? mail : null,
                    };
                }
            )
            .ToList();
        var json = JsonSerializer.Serialize(rows);
        var added = await db
            .Database.SqlQuery<string>(
                $"""
                insert into notices (person_id, at, kind, project_id, task_id, text, once, for_digest)
                select n.person, {now}, n.kind, {project}, n.task, n.text, n.once, n.daily
                from json_to_recordset({json}::json) as
                    n(number int, person text, kind text, task text, text text, once text, daily boolean)
                order by n.number
                on conflict (person_id, once) do nothing
                returning person_id || ' ' || once as "Value"
                """
            )
            .ToListAsync(cancel);
        if (added.Count == 0)
            return;
        var isNew = added.ToHashSet();
        var fresh = rows.Where(row => isNew.Remove($"{row.person} {row.once}")).ToList();
        var news = fresh.Select(row => $"{PlanNews.Notice} {row.person}").Distinct().ToList();
        var name = await db.Projects.Where(p => p.Id == project).Select(p => p.Name).SingleAsync(cancel);
        foreach (var row in fresh.Where(row => row.mail is not null))
            db.Mails.Add(
                Mails.Row(
                    row.mail!,
                    $"{name}: {(row.text.Length > 80 ? row.text[..79] + "…" : row.text)}",
                    row.kind == nameof(NoticeKind.Export)
                        ? $"{row.text}\n\n{Mails.Address}/notices\n"
                        : $"{row.text}\n\n{name}: {Mails.Address}/projects/{project}{(row.task is null ? "" : $"#{row.task}")}\n",
                    now
                )
            );
        if (fresh.Any(row => row.mail is not null))
            news.Add(PlanNews.Mail);
        await PlanNews.TellAllAsync(db, news, cancel);
    }

    /// <summary>Something that a person is to be told.</summary>
    /// <param name="Task">Id of the task, if it is about one.</param>
    /// <param name="Once">What makes it the same as one told before.</param>
    internal sealed record News(string Person, NoticeKind Kind, string? Task, string Text, string Once);
}
