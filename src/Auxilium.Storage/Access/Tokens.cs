using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Access;

/// <summary>Tokens by which programs work as a person.</summary>
public sealed class Tokens(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>What every token begins with, so that one that leaked is recognised.</summary>
    public const string Prefix = "auxilium_";

    /// <summary>The most that a person may have.</summary>
    public const int Most = 50;

    private static readonly TimeSpan Noticed = TimeSpan.FromMinutes(5);

    /// <returns>The token, which is shown once; <c>null</c> when the person has as many as there can be.</returns>
    public async Task<string?> MakeAsync(
        string person,
        string name,
        TokenScope scope,
        DateTime? endsAt,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (await db.Tokens.CountAsync(t => t.PersonId == person, cancel) >= Most)
            return null;
        var token = Prefix + Secret.New();
        db.Tokens.Add(
            new TokenRow
            {
                Id = Guid.NewGuid(),
                Hash = Secret.Hash(token),
                PersonId = person,
                Name = name,
                Scope = scope,
                MadeAt = clock.GetUtcNow().UtcDateTime,
                EndsAt = endsAt,
            }
        );
        Audit.Note(
            db,
            clock,
            person,
            person,
            null,
            $"{await Audit.NameAsync(db, person, cancel)} made the token “{name}”, which "
                + scope switch
                {
                    TokenScope.Look => "reads.",
                    TokenScope.Report => "reads and reports.",
                    _ => "may do what they may.",
                }
        );
        await db.SaveChangesAsync(cancel);
        return token;
    }

    /// <summary>Whom a token stands for; <c>null</c> when it is no token, was revoked or has run out.</summary>
    public async Task<SignedIn?> FindAsync(string token, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var (hash, now) = (Secret.Hash(token), clock.GetUtcNow().UtcDateTime);
        var found = await (
            from row in db.Tokens
            join person in db.People on row.PersonId equals person.Id
            join account in db.Users on person.Id equals account.Id
            where row.Hash == hash && (row.EndsAt == null || row.EndsAt > now) && person.LeftOn == null
            select new
            {
                row.UsedAt,
                Who = new SignedIn(
                    null,
                    person.Id,
                    person.Name,
                    person.Initials,
                    account.IsOrganiser,
                    account.MayMakeProjects,
                    DateTime.MaxValue,
                    false,
                    row.Scope,
                    row.Id
                ),
            }
        ).SingleOrDefaultAsync(cancel);
        if (found is null)
            return null;
        if (found.UsedAt is not { } used || now - used > Noticed)
            await db.Tokens.Where(t => t.Hash == hash).ExecuteUpdateAsync(t => t.SetProperty(x => x.UsedAt, now), cancel);
        return found.Who;
    }

    public async Task<IReadOnlyList<TokenRow>> OfAsync(string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Tokens.AsNoTracking().Where(t => t.PersonId == person).OrderByDescending(t => t.MadeAt).ToListAsync(cancel);
    }

    public async Task RevokeAsync(string person, Guid token, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (
            await db.Tokens.Where(t => t.PersonId == person && t.Id == token).Select(t => t.Name).SingleOrDefaultAsync(cancel)
            is not { } name
        )
            return;
        await db.Tokens.Where(t => t.PersonId == person && t.Id == token).ExecuteDeleteAsync(cancel);
        Audit.Note(db, clock, person, person, null, $"{await Audit.NameAsync(db, person, cancel)} revoked the token “{name}”.");
        await db.SaveChangesAsync(cancel);
        await PlanNews.TellAsync(db, $"{PlanNews.Rights} {person}", cancel);
        await transaction.CommitAsync(cancel);
    }
}
