using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Access;

/// <summary>Secret addresses at which calendar programs fetch somebody's tasks. A person has one at most.</summary>
public sealed class Feeds(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <returns>The secret of the address, which is shown once. One made before no longer opens.</returns>
    public async Task<string> MakeAsync(string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await db.Feeds.Where(f => f.PersonId == person).ExecuteDeleteAsync(cancel);
        var secret = Secret.New();
        db.Feeds.Add(
            new FeedRow
            {
                Id = Guid.NewGuid(),
                Hash = Secret.Hash(secret),
                PersonId = person,
                MadeAt = clock.GetUtcNow().UtcDateTime,
            }
        );
        Audit.Note(db, clock, person, person, null, $"{await Audit.NameAsync(db, person, cancel)} made a calendar address.");
        await db.SaveChangesAsync(cancel);
        return secret;
    }

    /// <summary>Whose tasks a secret shows; <c>null</c> when it shows nothing.</summary>
    public async Task<SignedIn?> FindAsync(string secret, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var (hash, now) = (Secret.Hash(secret), clock.GetUtcNow().UtcDateTime);
        var who = await (
            from feed in db.Feeds
            join person in db.People on feed.PersonId equals person.Id
            join account in db.Users on person.Id equals account.Id
            where feed.Hash == hash && person.LeftOn == null
            select new SignedIn(
                null,
                person.Id,
                person.Name,
                person.Initials,
                account.IsOrganiser,
                false,
                DateTime.MaxValue,
                false,
                TokenScope.Look
            )
        ).SingleOrDefaultAsync(cancel);
        if (who is not null)
            await db.Feeds.Where(f => f.Hash == hash).ExecuteUpdateAsync(f => f.SetProperty(x => x.UsedAt, now), cancel);
        return who;
    }

    public async Task<FeedRow?> OfAsync(string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Feeds.AsNoTracking().SingleOrDefaultAsync(f => f.PersonId == person, cancel);
    }

    public async Task WithdrawAsync(string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await db.Feeds.Where(f => f.PersonId == person).ExecuteDeleteAsync(cancel);
        Audit.Note(db, clock, person, person, null, $"{await Audit.NameAsync(db, person, cancel)} withdrew the calendar address.");
        await db.SaveChangesAsync(cancel);
    }
}
