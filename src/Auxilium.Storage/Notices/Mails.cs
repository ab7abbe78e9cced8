using Auxilium.Storage.Access;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Notices;

/// <summary>The mail queue. A mail is claimed before it is handed over, and if the process dies then, it is never sent again.</summary>
public sealed class Mails(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>After so many tries a mail has failed.</summary>
    public const int MostTries = 8;

    public Task QueueAsync(string to, string subject, string body, CancellationToken cancel = default) =>
        QueueAsync(to, subject, body, null, cancel);

    /// <param name="attachment">A PDF that goes with it, and what that is called.</param>
    public async Task QueueAsync(
        string to,
        string subject,
        string body,
        (string Name, byte[] Content)? attachment,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var mail = Row(to, subject, body, clock.GetUtcNow().UtcDateTime);
        (mail.AttachmentName, mail.Attachment) = (attachment?.Name, attachment?.Content);
        db.Mails.Add(mail);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>How many mails with a subject an address got in the last hour.</summary>
    public async Task<int> LatelyAsync(string to, string subject, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var since = clock.GetUtcNow().UtcDateTime.AddHours(-1);
        return await db.Mails.CountAsync(m => m.To == to && m.Subject == subject && m.MadeAt > since, cancel);
    }

    /// <summary>Takes the next mail that is due; <c>null</c> when none is.</summary>
    public async Task<MailRow?> ClaimAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        var claimed = await db
            .Mails.FromSql(
                $"""
                update mails set state = 'Sending', tries = tries + 1 where id = (
                    select id from mails where state = 'Waiting' and not_before <= {now} order by not_before limit 1
                    for update skip locked)
                returning *
                """
            )
            .AsNoTracking()
            .ToListAsync(cancel);
        return claimed.SingleOrDefault();
    }

    public async Task SentAsync(Guid mail, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        await db
            .Mails.Where(m => m.Id == mail)
            .ExecuteUpdateAsync(
                m =>
                    m.SetProperty(x => x.State, MailState.Sent)
                        .SetProperty(x => x.SentAt, now)
                        .SetProperty(x => x.Problem, (string?)null)
                        .SetProperty(x => x.Body, "")
                        .SetProperty(x => x.Attachment, (byte[]?)null),
                cancel
            );
    }

    /// <summary>Leaves a mail as it is that was sent and not answered: like one that was cut off, it is not sent again.</summary>
    public async Task MayHaveGoneAsync(Guid mail, string why, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var problem = why.Length > 500 ? why[..500] : why;
        await db.Mails.Where(m => m.Id == mail).ExecuteUpdateAsync(m => m.SetProperty(x => x.Problem, problem), cancel);
    }

    /// <summary>Puts a mail that was refused back, for longer each time, or gives it up.</summary>
    public async Task RefusedAsync(MailRow mail, string why, bool forGood, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var state = forGood || mail.Tries >= MostTries ? MailState.Failed : MailState.Waiting;
        var next = clock.GetUtcNow().UtcDateTime + TimeSpan.FromSeconds(30 * Math.Pow(2, mail.Tries - 1));
        var problem = why.Length > 500 ? why[..500] : why;
        await db
            .Mails.Where(m => m.Id == mail.Id)
            .ExecuteUpdateAsync(
                m => m.SetProperty(x => x.State, state).SetProperty(x => x.NotBefore, next).SetProperty(x => x.Problem, problem),
                cancel
            );
    }

    /// <summary>Mails that were not sent yet or failed, the newest first; and how many were sent.</summary>
    public async Task<(IReadOnlyList<MailRow> Open, int Sent)> StateAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var open = await db
            .Mails.AsNoTracking()
            .Where(m => m.State != MailState.Sent)
            .OrderByDescending(m => m.MadeAt)
            .Take(100)
            .ToListAsync(cancel);
        return (open, await db.Mails.CountAsync(m => m.State == MailState.Sent, cancel));
    }

    /// <summary>What the stand-in for a mail server has taken, the newest first.</summary>
    public async Task<IReadOnlyList<PostRow>> PostAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Post.AsNoTracking().OrderByDescending(p => p.Id).Take(100).ToListAsync(cancel);
    }

    public async Task KeepPostAsync(string to, string subject, string body, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        db.Post.Add(
            new PostRow
            {
                At = clock.GetUtcNow().UtcDateTime,
                To = to,
                Subject = subject,
                Body = body,
            }
        );
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Deletes what was sent or told long ago.</summary>
    public async Task ClearAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        var (month, year) = (now.AddDays(-30), now.AddDays(-365));
        await db.Mails.Where(m => m.State != MailState.Waiting && m.MadeAt < month).ExecuteDeleteAsync(cancel);
        await db.Post.Where(p => p.At < month).ExecuteDeleteAsync(cancel);
        await db.Notices.Where(n => n.At < year).ExecuteDeleteAsync(cancel);
        await db.Sessions.Where(s => s.EndsAt < now).ExecuteDeleteAsync(cancel);
        await db.Invitations.Where(i => i.EndsAt < month).ExecuteDeleteAsync(cancel);
    }

    /// <summary>Placeholder in a body for the address of this installation, which is known when the mail is sent.</summary>
    public const string Address = "{address}";

    internal static MailRow Row(string to, string subject, string body, DateTime now) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            To = to,
            Subject = subject,
            Body = body,
            MadeAt = now,
            NotBefore = now,
        };
}
