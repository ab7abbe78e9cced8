using Auxilium.Storage.Notices;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

/// <summary>Tells every process that serves this database what is new, by the database itself.</summary>
public sealed class PlanNews(IDbContextFactory<AuxiliumDb> databases)
{
    /// <summary>The channel it is told on. What is told begins with one of the words below and a blank.</summary>
    public const string Channel = "auxilium";

    /// <summary>A plan has a new version: <c>plan {plan} {version}</c>.</summary>
    public const string Plan = "plan";

    /// <summary>What is said about a task, or its files: <c>talk {project} {task}</c>.</summary>
    public const string Talk = "talk";

    /// <summary>The money of a project has a new version: <c>money {project} {version}</c>. No amount is told.</summary>
    public const string Money = "money";

    /// <summary>Somebody came to a plan, left it or went to another row: <c>who {project}</c>.</summary>
    public const string Who = "who";

    /// <summary>Names or addresses of people changed.</summary>
    public const string People = "people";

    /// <summary>Somebody has a new notice: <c>notice {person}</c>.</summary>
    public const string Notice = "notice";

    /// <summary>The proposals for a plan changed: <c>proposals {project}</c>.</summary>
    public const string Proposals = "proposals";

    /// <summary>What somebody may do, or where they are signed in, changed: <c>rights {person}</c>.</summary>
    public const string Rights = "rights";

    /// <summary>A project was archived, deleted or brought back: <c>closed {project}</c>.</summary>
    public const string Closed = "closed";

    /// <summary>The settings of the organisation changed.</summary>
    public const string Organisation = "organisation";

    /// <summary>Mails wait to be sent.</summary>
    public const string Mail = "mail";

    public Task PeopleAsync(CancellationToken cancel = default) => TellAsync(People, cancel);

    public async Task TellAsync(string news, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await TellAsync(db, news, cancel);
    }

    /// <summary>Several at once, within a transaction.</summary>
    internal static Task TellAllAsync(AuxiliumDb db, IReadOnlyCollection<string> news, CancellationToken cancel)
    {
        string[] all = [.. news];
        return db.Database.ExecuteSqlAsync($"select pg_notify({Channel}, news) from unnest({all}) as news", cancel);
    }

    /// <summary>Within a transaction: told when, and only if, that is committed.</summary>
    internal static Task TellAsync(AuxiliumDb db, string news, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"select pg_notify({Channel}, {news})", cancel);
}
