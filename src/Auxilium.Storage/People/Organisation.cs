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
        if (_known is { } known) return known;
        await using var db = await databases.CreateDbContextAsync(cancel);
        return _known = await db.Organisation.AsNoTracking().SingleOrDefaultAsync(cancel);
    }

    /// <summary>Makes it with its first person, who may do everything.</summary>
    /// <returns><c>false</c> when there is one already.</returns>
    public async Task<bool> MakeAsync(string name, bool isDemo, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Database.ExecuteSqlAsync($"insert into organisation (id, name, is_demo) values (1, {name}, {isDemo}) on conflict (id) do nothing", cancel) == 1;
    }
}
