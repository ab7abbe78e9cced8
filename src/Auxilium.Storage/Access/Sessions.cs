using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Access;

/// <summary>Who is signed in now: somebody who left or lost their account is signed out at the next request.</summary>
public sealed record SignedIn(
    Guid? Session,
    string PersonId,
    string Name,
    string Initials,
    bool IsOrganiser,
    bool MayMakeProjects,
    DateTime EndsAt,
    bool IsLasting,
    TokenScope Scope = TokenScope.Edit,
    Guid? Token = null
);

/// <summary>Browsers that are signed in.</summary>
public sealed class Sessions(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    private static readonly TimeSpan Noticed = TimeSpan.FromMinutes(5);

    /// <returns>The key for its cookie.</returns>
    public async Task<string> StartAsync(
        string person,
        string browser,
        bool isLasting,
        DateTime endsAt,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var (key, now) = (Secret.New(), clock.GetUtcNow().UtcDateTime);
        await db.Sessions.Where(s => s.EndsAt < now).ExecuteDeleteAsync(cancel);
        db.Sessions.Add(
            new SessionRow
            {
                Id = Guid.NewGuid(),
                KeyHash = Secret.Hash(key),
                PersonId = person,
                StartedAt = now,
                SeenAt = now,
                EndsAt = endsAt,
                Browser = browser.Length > 200 ? browser[..200] : browser,
                IsLasting = isLasting,
            }
        );
        await db.SaveChangesAsync(cancel);
        return key;
    }

    /// <summary>Whose session a key opens; <c>null</c> when it has ended.</summary>
    public async Task<SignedIn?> FindAsync(string key, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var (hash, now) = (Secret.Hash(key), clock.GetUtcNow().UtcDateTime);
        var found = await (
            from session in db.Sessions
            join person in db.People on session.PersonId equals person.Id
            join account in db.Users on person.Id equals account.Id
            where session.KeyHash == hash && session.EndsAt > now && person.LeftOn == null
            select new
            {
                session.SeenAt,
                Who = new SignedIn(
                    session.Id,
                    person.Id,
                    person.Name,
                    person.Initials,
                    account.IsOrganiser,
                    account.MayMakeProjects,
                    session.EndsAt,
                    session.IsLasting,
                    TokenScope.Edit
                ),
            }
        ).SingleOrDefaultAsync(cancel);
        if (found is null)
            return null;
        if (now - found.SeenAt > Noticed)
            await db.Sessions.Where(s => s.KeyHash == hash).ExecuteUpdateAsync(s => s.SetProperty(x => x.SeenAt, now), cancel);
        return found.Who;
    }

    /// <summary>Who somebody is now whose session or token was good before; <c>null</c> when it is not any more.</summary>
    public async Task<SignedIn?> StillAsync(Guid? session, Guid? token, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        var people = session is { } s
            ? db.Sessions.Where(x => x.Id == s && x.EndsAt > now).Select(x => x.PersonId)
            : db.Tokens.Where(x => x.Id == token && (x.EndsAt == null || x.EndsAt > now)).Select(x => x.PersonId);
        return await (
            from id in people
            join person in db.People on id equals person.Id
            join account in db.Users on person.Id equals account.Id
            where person.LeftOn == null
            select new SignedIn(
                session,
                person.Id,
                person.Name,
                person.Initials,
                account.IsOrganiser,
                account.MayMakeProjects,
                DateTime.MaxValue,
                false,
                TokenScope.Look,
                token
            )
        ).SingleOrDefaultAsync(cancel);
    }

    public async Task LengthenAsync(string key, DateTime endsAt, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var hash = Secret.Hash(key);
        await db.Sessions.Where(s => s.KeyHash == hash).ExecuteUpdateAsync(s => s.SetProperty(x => x.EndsAt, endsAt), cancel);
    }

    public async Task EndAsync(string key, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var hash = Secret.Hash(key);
        var person = await db.Sessions.Where(s => s.KeyHash == hash).Select(s => s.PersonId).SingleOrDefaultAsync(cancel);
        await db.Sessions.Where(s => s.KeyHash == hash).ExecuteDeleteAsync(cancel);
        if (person is not null)
            await PlanNews.TellAsync(db, $"{PlanNews.Rights} {person}", cancel);
    }

    /// <summary>Where somebody is signed in, the newest first.</summary>
    public async Task<IReadOnlyList<SessionRow>> OfAsync(string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        return await db
            .Sessions.AsNoTracking()
            .Where(s => s.PersonId == person && s.EndsAt > now)
            .OrderByDescending(s => s.SeenAt)
            .ToListAsync(cancel);
    }

    /// <summary>Ends one session of somebody, or all but one.</summary>
    public async Task SignOutAsync(string person, Guid? only = null, Guid? allBut = null, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await db
            .Sessions.Where(s => s.PersonId == person && (only == null || s.Id == only) && (allBut == null || s.Id != allBut))
            .ExecuteDeleteAsync(cancel);
        await PlanNews.TellAsync(db, $"{PlanNews.Rights} {person}", cancel);
    }

    /// <summary>Ends every session, token and calendar address of somebody: what gets into their account without a new sign-in.</summary>
    public async Task EndAllAsync(string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Sessions.Where(s => s.PersonId == person).ExecuteDeleteAsync(cancel);
        var tokens = await db.Tokens.Where(t => t.PersonId == person).ExecuteDeleteAsync(cancel);
        var feeds = await db.Feeds.Where(f => f.PersonId == person).ExecuteDeleteAsync(cancel);
        Audit.Note(
            db,
            clock,
            person,
            person,
            null,
            $"{await Audit.NameAsync(db, person, cancel)} was signed out "
                + $"everywhere{(tokens + feeds > 0 ? "; tokens and the calendar address ended" : "")}."
        );
        await db.SaveChangesAsync(cancel);
        await PlanNews.TellAsync(db, $"{PlanNews.Rights} {person}", cancel);
        await transaction.CommitAsync(cancel);
    }
}
