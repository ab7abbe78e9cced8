using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.People;

/// <summary>The organisation that this installation is for.</summary>
public sealed class Organisation(IDbContextFactory<AuxiliumDb> databases)
{
    private volatile OrganisationRow? _known;

    /// <summary>What it is called; <c>null</c> until somebody has made it.</summary>
    public async Task<OrganisationRow?> FindAsync(CancellationToken cancel = default)
    {
        if (_known is { } known)
            return known;
        await using var db = await databases.CreateDbContextAsync(cancel);
        return _known = await db.Organisation.AsNoTracking().SingleOrDefaultAsync(cancel);
    }

    /// <summary>Asks anew next time: it is called otherwise now, or its clocks are elsewhere.</summary>
    public void Forget() => _known = null;

    /// <summary>Changes what it is called and where its clocks are.</summary>
    /// <param name="timeZone">As the time zone database names it, such as <c>Europe/Berlin</c>.</param>
    public async Task ChangeAsync(string name, string timeZone, string by, TimeProvider clock, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var row = await db.Organisation.SingleAsync(cancel);
        var what = string.Join(
            " and ",
            new[]
            {
                row.Name == name ? null : $"calls the organisation “{name}”",
                row.TimeZone == timeZone ? null : $"sets its clocks to {timeZone}",
            }.Where(w => w is not null)
        );
        if (what.Length == 0)
            return;
        (row.Name, row.TimeZone) = (name, timeZone);
        Audit.Note(db, clock, by, null, null, $"{await Audit.NameAsync(db, by, cancel)} {what}.");
        await db.SaveChangesAsync(cancel);
        await PlanNews.TellAsync(db, PlanNews.Organisation, cancel);
        await transaction.CommitAsync(cancel);
        Forget();
    }

    /// <summary>Whether the mail of a day is still to be made; it is this process that makes it then.</summary>
    public async Task<bool> BeginDigestAsync(DateOnly day, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
                .Organisation.Where(o => o.DigestOn == null || o.DigestOn < day)
                .ExecuteUpdateAsync(o => o.SetProperty(x => x.DigestOn, day), cancel) > 0;
    }

    /// <summary>
    /// The code that opens the page on which the organisation is made, the same for every process; <c>null</c> once there is one.
    /// </summary>
    public async Task<string?> FirstStartAsync(CancellationToken cancel = default)
    {
        if (await FindAsync(cancel) is not null)
            return null;
        await using var db = await databases.CreateDbContextAsync(cancel);
        var code = string.Join('-', Secret.Code().Chunk(4).Select(c => new string(c)));
        await db.Database.ExecuteSqlAsync($"insert into first_start (id, code) values (1, {code}) on conflict (id) do nothing", cancel);
        return await db.FirstStart.Select(f => f.Code).SingleAsync(cancel);
    }

    /// <summary>Makes it, within the transaction in which its first person is made.</summary>
    /// <returns><c>false</c> when there is one already, or this is not the code that opens it.</returns>
    public static async Task<bool> MakeAsync(AuxiliumDb db, string name, string code, CancellationToken cancel = default)
    {
        var known = await db
            .FirstStart.FromSql($"select * from first_start where id = 1 for update")
            .AsNoTracking()
            .SingleOrDefaultAsync(cancel);
        if (known is null || !Secret.IsSame(known.Code, code))
            return false;
        await db.FirstStart.ExecuteDeleteAsync(cancel);
        return await db.Database.ExecuteSqlAsync(
                $"insert into organisation (id, name, is_demo) values (1, {name}, false) on conflict (id) do nothing",
                cancel
            ) == 1;
    }
}
