using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Access;

/// <summary>Invitations to sign in: each opens once, for a week.</summary>
public sealed class Invitations(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    public static readonly TimeSpan Lasts = TimeSpan.FromDays(7);

    /// <summary>Invites a person; an earlier invitation of theirs no longer opens.</summary>
    /// <returns>The secret of its address.</returns>
    public async Task<string> MakeAsync(
        string person,
        string by,
        bool isOrganiser,
        bool mayMakeProjects,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await db.Invitations.Where(i => i.PersonId == person).ExecuteDeleteAsync(cancel);
        var (secret, now) = (Secret.New(), clock.GetUtcNow().UtcDateTime);
        db.Invitations.Add(
            new InvitationRow
            {
                Id = Guid.NewGuid(),
                Hash = Secret.Hash(secret),
                PersonId = person,
                InvitedBy = by,
                IsOrganiser = isOrganiser,
                MayMakeProjects = mayMakeProjects,
                MadeAt = now,
                EndsAt = now + Lasts,
            }
        );
        Audit.Note(
            db,
            clock,
            by,
            person,
            null,
            $"{await Audit.NameAsync(db, person, cancel)} was "
                + $"invited{(isOrganiser ? " as an organiser" : mayMakeProjects ? ", to make projects too" : "")}."
        );
        await db.SaveChangesAsync(cancel);
        return secret;
    }

    /// <summary>What a secret invites to; <c>null</c> when it does not open, whatever the reason.</summary>
    public async Task<(InvitationRow Invitation, PersonRow Person)?> FindAsync(string secret, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var (hash, now) = (Secret.Hash(secret), clock.GetUtcNow().UtcDateTime);
        if (
            await db.Invitations.AsNoTracking().SingleOrDefaultAsync(i => i.Hash == hash && i.UsedAt == null && i.EndsAt > now, cancel)
            is not { } invitation
        )
            return null;
        var person = await db.People.AsNoTracking().SingleOrDefaultAsync(p => p.Id == invitation.PersonId && p.LeftOn == null, cancel);
        return person is null ? null : (invitation, person);
    }

    /// <summary>Uses an invitation up.</summary>
    /// <returns>Whether it was still to be used: of two at once, one is.</returns>
    public async Task<bool> UseAsync(Guid invitation, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        return await db
                .Invitations.Where(i => i.Id == invitation && i.UsedAt == null)
                .ExecuteUpdateAsync(i => i.SetProperty(x => x.UsedAt, now), cancel) == 1;
    }
}
